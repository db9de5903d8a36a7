import type { Chart } from '../chart/schema.js';
import type { DrawsIn } from '../piece/lay-out.js';
import type { Piece } from '../chart/piece-document.js';
import { PieceFault } from '../piece/fault.js';
import { writePieceRows, type PieceWords, type WrittenPiece } from '../piece/words.js';
import { chartsPrinted, type NamedChart } from '../piece/standing.js';
import { writeAndProveDesign, type ProvedDesign } from '../words/proof/prove.js';
import type { WordSettings } from '../words/write.js';

/** All the words of a design: those of its charts and of the piece they are set out in. */
export interface WrittenDesign extends ProvedDesign {
  /** Null where nothing is set out, or it cannot be put together: then the problems say why. */
  piece: PieceWords | null;
}

const PIECE = 'The piece: ';

/**
 * The charts whose rows were written: the design's own as they stand in its piece, and their mirror images where it works these.
 * `written` tells whether a piece was.
 */
export const printedOf = (
  { charts, piece }: { charts: readonly Chart[]; piece: Piece | null },
  written: Pick<WrittenDesign, 'piece'>,
): NamedChart[] => chartsPrinted(charts, written.piece ? piece : null);

/** Writes charts and piece with one key, and proves what was written; sealed only where all of it is, and nothing is wrong with it. */
export function writeDesign(
  charts: readonly Chart[],
  piece: Piece | null,
  settings: WordSettings & Partial<DrawsIn>,
): WrittenDesign {
  let set: WrittenPiece | null = null;
  let fault: PieceFault | null = null;
  if (piece?.parts.length)
    try {
      set = writePieceRows(
        { charts, settings: settings.cloth && { cloth: settings.cloth } },
        piece,
        settings,
      );
    } catch (error) {
      if (!(error instanceof PieceFault)) throw error;
      fault = error;
    }
  const printed = set?.printed ?? chartsPrinted(charts, null);
  const written = writeAndProveDesign(
    printed.map(({ chart }) => chart),
    printed.map(({ name }) => name),
    settings,
    set ?? undefined,
  );
  if (fault)
    return {
      ...written,
      piece: null,
      checked: false,
      problems: [...written.problems, { id: 'piece', level: 'error', message: PIECE + fault.message }],
    };
  if (!set) return { ...written, piece: null };
  const { sections, sizes, markers } = set;
  const problems = written.problems.map(({ message }) =>
    message.startsWith(PIECE) ? message.slice(PIECE.length) : message,
  );
  return { ...written, piece: { sections, sizes, markers, checked: written.checked, problems } };
}

/**
 * A piece in words, in all its sizes, proved with the charts it works on the needle of each.
 *
 * @throws PieceFault where a size cannot be put together
 */
export function writePiece(
  { charts }: { charts: readonly Chart[] },
  piece: Piece,
  settings: WordSettings & Partial<DrawsIn>,
): PieceWords {
  const written = writeDesign(charts, piece, settings);
  if (!written.piece) {
    const [problem] = written.problems.filter(({ id }) => id === 'piece');
    throw new PieceFault(problem?.message.slice(PIECE.length) ?? 'The piece has no parts yet.');
  }
  return written.piece;
}

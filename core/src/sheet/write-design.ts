import { chartName } from '../chart/charts.js';
import type { Chart } from '../chart/schema.js';
import type { Piece } from '../chart/piece.js';
import { PieceFault } from '../sizes/piece-fault.js';
import { writePiece, type PieceWords } from '../sizes/piece-words.js';
import { writeAndProveDesign, type ProvedDesign } from '../words/proof/prove.js';
import type { WordSettings } from '../words/write.js';

/** All the words of a design: those of its charts and of the piece they are set out in. */
export interface WrittenDesign extends ProvedDesign {
  /** Null where nothing is set out, or it cannot be put together: then the problems say why. */
  piece: PieceWords | null;
}

/** Writes charts and piece, and proves what was written; sealed only where both are. */
export function writeDesign(
  charts: readonly Chart[],
  piece: Piece | null,
  settings: WordSettings,
): WrittenDesign {
  const names = charts.map((chart) => chartName({ charts }, chart));
  const written = writeAndProveDesign(charts, names, settings);
  if (!piece?.parts.length) return { ...written, piece: null };
  const told = (message: string) => ({
    id: 'piece',
    level: 'error' as const,
    message: `The piece: ${message}`,
  });
  try {
    const words = writePiece({ charts }, piece, settings);
    return {
      ...written,
      piece: words,
      checked: written.checked && words.checked,
      problems: [...written.problems, ...words.problems.map(told)],
    };
  } catch (error) {
    if (!(error instanceof PieceFault)) throw error;
    return {
      ...written,
      piece: null,
      checked: false,
      problems: [...written.problems, told(error.message)],
    };
  }
}

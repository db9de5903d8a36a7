import {
  assemble,
  checkPiece,
  fitPiece,
  lengthsOf,
  PieceFault,
  PieceSchema,
  type Assembled,
  type Finding,
  type LengthUnit,
  type LengthWay,
  type ClothSettings,
  type Piece,
  type PieceFitted,
} from '@cordelina/core';
import { expose } from 'comlink';
import { HeldCharts, type Sent } from './held-charts.js';

const held = new HeldCharts();

/** What the room shows of a piece in the size in hand; `made` is null where it cannot be put together. */
export interface Survey {
  made: Omit<Assembled, 'laid' | 'lead'> | null;
  findings: Finding[];
}

/** The ways to the width and to the length that a size wishes for; null where it wishes for none. */
export interface Fits {
  widths: PieceFitted | null;
  lengths: LengthWay[] | null;
}

/** Puts a piece together, fits it and checks it in all its sizes, off the page's own thread. */
const pieceWorker = {
  survey(
    sent: readonly Sent[],
    given: Piece | null,
    units: LengthUnit,
    sizeId: string,
    fitted: ClothSettings['fitted'],
  ): Survey {
    const design = { charts: held.take(sent), settings: { cloth: { fitted } } };
    const piece = given && PieceSchema.parse(given);
    if (!piece) return { made: null, findings: [] };
    const findings = checkPiece(design, piece, units);
    try {
      const size = piece.sizes.find((s) => s.id === sizeId) ?? piece.sizes[0]!;
      const { laid: _laid, lead: _lead, ...made } = assemble(design, piece, size);
      return { made, findings };
    } catch (error) {
      if (!(error instanceof PieceFault)) throw error;
      return { made: null, findings };
    }
  },
  fit(sent: readonly Sent[], given: Piece, sizeId: string, fitted: ClothSettings['fitted']): Fits {
    const design = { charts: held.take(sent), settings: { cloth: { fitted } } };
    const piece = PieceSchema.parse(given);
    const size = piece.sizes.find((s) => s.id === sizeId) ?? piece.sizes[0]!;
    return { widths: fitPiece(design, piece, size), lengths: lengthsOf(design, piece, size) };
  },
};

export type PieceWorker = typeof pieceWorker;
expose(pieceWorker);

import {
  assemble,
  checkPiece,
  PieceFault,
  PieceSchema,
  type Assembled,
  type Finding,
  type LengthUnit,
  type Piece,
} from '@cordelina/core';
import { expose } from 'comlink';
import { HeldCharts, type Sent } from './held-charts.js';

const held = new HeldCharts();

/** What the room shows of a piece in the size in hand; `made` is null where it cannot be put together. */
export interface Survey {
  made: Omit<Assembled, 'laid' | 'lead'> | null;
  findings: Finding[];
}

/** Puts a piece together and checks it in all its sizes, off the page's own thread. */
const pieceWorker = {
  survey(sent: readonly Sent[], given: Piece | null, units: LengthUnit, sizeId: string): Survey {
    const charts = held.take(sent);
    const piece = given && PieceSchema.parse(given);
    if (!piece) return { made: null, findings: [] };
    const findings = checkPiece({ charts }, piece, units);
    try {
      const size = piece.sizes.find((s) => s.id === sizeId) ?? piece.sizes[0]!;
      const { laid: _laid, lead: _lead, ...made } = assemble({ charts }, piece, size);
      return { made, findings };
    } catch (error) {
      if (!(error instanceof PieceFault)) throw error;
      return { made: null, findings };
    }
  },
};

export type PieceWorker = typeof pieceWorker;
expose(pieceWorker);

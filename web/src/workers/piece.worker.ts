import { assemble, checkPiece, PieceFault, type Assembled, type Design, type Finding } from '@cordelina/core';
import { expose } from 'comlink';

/** What the room shows of a piece in the size in hand; `made` is null where it cannot be put together. */
export interface Survey {
  made: Omit<Assembled, 'laid' | 'lead'> | null;
  findings: Finding[];
}

/** Puts a piece together and checks it in all its sizes, off the page's own thread. */
const pieceWorker = {
  survey({ charts, piece, settings }: Pick<Design, 'charts' | 'piece' | 'settings'>, sizeId: string): Survey {
    if (!piece) return { made: null, findings: [] };
    const findings = checkPiece({ charts }, piece, settings.units);
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

import { z } from 'zod';
import { stitchBook } from '../stitches/book.js';
import { modulo } from '../values.js';
import { beginsByHand, BothFaces, type Way } from './way.js';

/** Round and round: every round is a right-side one. */
export const ROUND = {
  id: 'round',
  name: 'in the round',
  worked: 'in the round',
  called: ['in the rounds', 'in rounds'],
  row: 'round',
  settings: z.object({ bothFaces: BothFaces }),
  hasEdges: false,
  takesBands: true,
  beds: 1,
  loops: 1,
  says: [],
  trains: [
    'The right side is always before you: every round is read from the right, and nothing is worked from behind.',
    'Slip the marker where the round begins; a crossing never lies over it.',
  ],
  rowsToSameSide: 1,
  sideOf: () => 'RS',
  beginsAt: beginsByHand,
  shifts: 'start',
  alike: [{ parity: 0 }, { parity: 1 }],
  // Knit and purled on every other round.
  isRidge: (n) => modulo(n, 2) === 1,
  book: stitchBook,
  checks: ['round-start'],
  without: [],
} as const satisfies Way;

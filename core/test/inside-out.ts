import { z } from 'zod';
import { stitchBook } from '../src/index.js';
import { addProvedWay } from '../src/words/proof/way.js';
import { addWay } from '../src/construction/index.js';
import { beginsByHand } from '../src/construction/way.js';

/**
 * A way of working that only the tests have: a tube knitted inside out, so that every round is a wrong-side one and goes from
 * left to right as the right side looks. All there is to say of it stands here, and once more for the proof, which keeps its
 * own account; so whatever asks what follows from a way, and not which it is, must get it right.
 */
export const INSIDE_OUT = addWay({
  id: 'inside-out',
  name: 'in the round, inside out',
  worked: 'in the round inside out',
  called: ['inside out'],
  row: 'round',
  settings: z.object({}),
  hasEdges: false,
  takesBands: false,
  beds: 1,
  loops: 1,
  says: [],
  trains: [],
  rowsToSameSide: 1,
  sideOf: () => 'WS',
  beginsAt: beginsByHand,
  shifts: 'start',
  alike: [{ parity: 0 }, { parity: 1 }],
  isRidge: (n) => Math.abs(n % 2) === 1,
  book: stitchBook,
  checks: ['round-start'],
  without: [],
});

addProvedWay(INSIDE_OUT, {
  calls: 'round',
  side: () => 'WS',
  hasNumbers: false,
  loops: 1,
  saysSide: false,
  before: (jog, isAllRepeat) => (isAllRepeat ? 0 : -jog),
  start: (jog) => jog,
  ridge: (n) => n % 2 === 1,
  alike: (a, b) => a % 2 === b % 2,
  rest: (rest, row) => 'parity' in rest && rest.parity === row % 2,
});

import { FLAT } from '../../construction/index.js';
import { closedRopesHeight, drawClosedRopes, type ClosedSchool } from '../../chart/closed-ropes.js';
import { startChart } from '../../chart/start.js';
import type { Lean } from '../../stitches/face.js';
import { LEAN, motif, type MotifChoice, type Woven } from './motif.js';

/** Ropes that rise out of the purl ground and end in it. */

const SCHOOL: MotifChoice = {
  label: 'They rise',
  options: [
    ['between', 'between stitches'],
    ['within', 'within a stitch'],
  ],
};

/** Rows of ground below, which ropes that rise between stitches are lifted from, and above. */
const GROUND_ROWS = 2;

function figure(school: string, lean: string, spread: number, rest: number): Woven {
  const shape = { school: school as ClosedSchool, lean: lean as Lean, spread, rest };
  const ground = spread + 1;
  const column = school === 'within' ? ground : ground - 1;
  const high = closedRopesHeight({ ...shape, row: GROUND_ROWS, column });
  const rows = 2 * GROUND_ROWS + high + (high % 2);
  const cloth = startChart({
    columns: 2 * ground + (school === 'within' ? 1 : 0),
    rows,
    construction: FLAT.id,
    ground: 'p',
  });
  const { chart } = drawClosedRopes(cloth, { ...shape, row: GROUND_ROWS, column });
  return { rows: chart.rows, figure: shape };
}

export const ring = motif({
  id: 'ring',
  name: 'Closed ring',
  about: 'A pair of ropes that parts, meets again, and ends in the ground.',
  numbers: {
    spread: { label: 'Stitches each rope travels', least: 1, most: 6, usual: 2 },
    rest: { label: 'Pairs of rows at the widest', least: 0, most: 5, usual: 1 },
  },
  choices: { school: SCHOOL, lean: LEAN },
  weave: ({ spread, rest, school, lean }) => figure(school, lean, spread, rest),
});

export const knot = motif({
  id: 'knot',
  name: 'Closed knot',
  about: 'A pair of ropes that only crosses, and ends in the ground.',
  numbers: {},
  choices: { school: SCHOOL, lean: LEAN },
  weave: ({ school, lean }) => figure(school, lean, 0, 0),
});

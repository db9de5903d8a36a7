import { FLAT, type WayId } from '../construction/index.js';
import type { Chart } from '../chart/schema.js';
import { startChart } from '../chart/start.js';
import { crossingSize, stitchesBefore, workedAfter, type Crossing } from '../stitches/crossing.js';
import { faceOf, type Worked } from '../stitches/face.js';

/** Ground beside the crossing, and rows below and above it. */
const BESIDE = 5;
const ROWS = 6;

const plain = (worked: Worked): string => (faceOf(worked) === 'knit' ? 'k' : 'p');

/** A crossing worked once in a little cloth, its ropes coming from below and going on above, on purl ground. */
export function crossingSwatch(crossing: Crossing, construction: WayId = FLAT.id): Chart {
  const ground = Array<string>(BESIDE).fill('p');
  const below = [...ground, ...stitchesBefore(crossing).map(({ worked }) => plain(worked)), ...ground];
  const above = [...ground, ...workedAfter(crossing).map(plain), ...ground];
  const rows = [
    ...Array.from({ length: ROWS }, () => below),
    [...ground, crossing, ...ground],
    ...Array.from({ length: ROWS }, () => above),
  ];
  const columns = crossingSize(crossing) + 2 * BESIDE;
  return { ...startChart({ columns, rows: rows.length, construction, ground: 'p' }), rows };
}

import { andThen, become, EditError, unchanged, type Edit } from '../chart/edit.js';
import { insertRows, withRow } from '../chart/edits.js';
import { endOf, hasJogs, repeatRows } from '../chart/frame.js';
import { LIMITS, type Chart, type Row } from '../chart/schema.js';
import type { Fix } from '../checks/finding.js';
import { wayOf } from '../construction/index.js';
import { isCrossing, type Stitch } from '../stitches/book.js';
import { crossing, workedAfter, type Crossing } from '../stitches/crossing.js';
import type { Lean } from '../stitches/face.js';
import { leaning, listOf, taken, type Method } from './list.js';

/** Whether a crossing is a rope that goes over several ground stitches, which needles pass one at a time. */
const isFarMove = (c: Crossing): boolean =>
  !c.centre.length && c.front.every((w) => w === 'k') && c.back.length > 1 && c.back.every((w) => w === 'p');

const ground = (n: number): Stitch[] => Array<Stitch>(Math.max(0, n)).fill('p');

/** A row whose ropes go one needle on at the `step`th time (from 0), and the plain row that follows it. */
function oneNeedleOn(row: Row, step: number): { moved: Row; plain: Row } {
  const moved: Stitch[] = [];
  const plain: Stitch[] = [];
  for (const stitch of row) {
    if (!isCrossing(stitch) || !isFarMove(stitch)) {
      const after = isCrossing(stitch) ? workedAfter(stitch) : [stitch === 'p' ? 'p' : 'k'];
      moved.push(...(step ? after : [stitch]));
      plain.push(...after);
      continue;
    }
    const { front, back, lean } = stitch;
    const rope = front.map((): Stitch => 'k');
    const far = back.length;
    const done = Math.min(step, far);
    const [before, left] = [ground(done), ground(far - done - 1)];
    const goes = crossing(lean, front, ['p']);
    if (step >= far) moved.push(...(lean === 'left' ? [...ground(far), ...rope] : [...rope, ...ground(far)]));
    else moved.push(...(lean === 'left' ? [...before, goes, ...left] : [...left, goes, ...before]));
    const passed = Math.min(step + 1, far);
    plain.push(
      ...(lean === 'left'
        ? [...ground(passed), ...rope, ...ground(far - passed)]
        : [...ground(far - passed), ...rope, ...ground(passed)]),
    );
  }
  return { moved, plain };
}

const stepsIn = (row: Row): number =>
  Math.max(1, ...row.map((s) => (isCrossing(s) && isFarMove(s) ? s.back.length : 1)));

/** A plain row over another. */
const plainOver = (row: Row): Row => oneNeedleOn(row, stepsIn(row) - 1).plain;

/**
 * A chart stretched so that all it crosses stands on a row that the counter is read at, and ropes go one needle at a time: plain rows
 * are put in. Set-up, repeat and closing rows each become a whole number of such stretches.
 *
 * @throws EditError where rows are shifted sideways, a pass ends part-way, or there is no room
 */
export function stretched(chart: Chart, every: number): Edit {
  if (hasJogs(chart) || endOf(chart))
    throw new EditError('Rows that begin elsewhere, and a pass that ends part-way, cannot be stretched.');
  const repeat = repeatRows(chart);
  const isLastOf = (r: number) => repeat !== null && (r === repeat.first - 1 || r === repeat.last);
  let n = 0;
  const made = chart.rows.map((row, r) => {
    const crosses = row.some(isCrossing);
    const below = chart.rows[r - 1];
    const pre = crosses && below ? (every - (n % every)) % every : 0;
    const rows: Row[] = [];
    const steps = stepsIn(row);
    for (let step = 0; step < steps; step++) {
      const { moved, plain } = oneNeedleOn(row, step);
      rows.push(steps > 1 ? moved : row, ...(step < steps - 1 ? Array<Row>(every - 1).fill(plain) : []));
    }
    n += pre + rows.length;
    const post = isLastOf(r) ? (every - (n % every)) % every : 0;
    n += post;
    const over = plainOver(row);
    return {
      before: below ? Array<Row>(pre).fill(plainOver(below)) : [],
      row: rows[0]!,
      after: [...rows.slice(1), ...Array<Row>(post).fill(over)],
    };
  });
  if (n > LIMITS.rows) throw new EditError(`A chart holds at most ${LIMITS.rows} rows; this would be ${n}.`);
  // From the top, so that places below stay.
  let edit = unchanged(chart);
  for (let r = made.length - 1; r >= 0; r--) {
    const { before, row, after } = made[r]!;
    if (row !== chart.rows[r]) edit = andThen(edit, (c) => withRow(c, r, row));
    if (after.length) edit = andThen(edit, (c) => insertRows(c, r + 1, after));
    if (before.length) edit = andThen(edit, (c) => insertRows(c, r, before));
  }
  return edit;
}

/** A chart whose cables, of all those that change stitches of one bed, lie one way. */
export const allOneWay = (chart: Chart, lean: Lean): Edit =>
  become(chart, {
    ...chart,
    rows: chart.rows.map((row) => {
      const turned = row.map((stitch) => leaning(stitch, lean));
      return turned.every((stitch, i) => stitch === row[i]) ? row : turned;
    }),
  });

const STRETCH = ['', '', 'second', 'third', 'fourth', 'fifth', 'sixth'];

/** What would let two beds knit a chart, or more of it: each was tried. */
export function machineMends(chart: Chart, by: Method): Fix[] {
  const { every = 2 } = by;
  const before = listOf(chart, by).problems.length;
  if (!before || !wayOf(chart).hasEdges) return [];
  try {
    const { chart: made, steps } = stretched(chart, every);
    if (!steps.length || listOf(made, by).problems.length >= before) return [];
    return [{ label: `Stretch to every ${STRETCH[every] || `${every}th`} row`, steps }];
  } catch (error) {
    if (!(error instanceof EditError)) throw error;
    return [];
  }
}

/** Whether cables of a chart lie both ways, so that it can be wished that they lie one way. */
export const liesBothWays = (chart: Chart): boolean => {
  const cables = chart.rows.flatMap((row) => row.filter((s) => isCrossing(s) && taken(s) === 'cable'));
  return new Set(cables.map((s) => (s as Crossing).lean)).size > 1;
};

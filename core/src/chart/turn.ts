import { bothCount, hasSetting, sideOf } from '../construction/index.js';
import { remembered } from '../remember.js';
import { behindStitch, ownBehind, sameStitch } from '../stitches/book.js';
import { chartSteps } from './differences.js';
import { EditError, takeRows, type Edit } from './edit.js';
import { mirroredFrame } from './repeat-lines.js';
import type { MeantPlaces } from './meant.js';
import { rowFacts } from './rows.js';
import { applyToChart, type RowsStep, type Step } from './steps.js';
import { bookOf, type Chart, type Row } from './schema.js';

/** A row as the other side of the cloth shows it. */
const turnedRow = remembered((row: Row): Row => [...row].reverse().map(behindStitch));

const OTHER = { RS: 'WS', WS: 'RS', k: 'p', p: 'k' } as const;

/** What was accepted, at its place as the other side shows it. */
function meantBehind({ meant, rows, width, ...chart }: Chart): MeantPlaces {
  const book = bookOf(chart);
  return Object.fromEntries(
    Object.entries(meant).map(([id, place]) => {
      const row = rows[place.row];
      if (place.column === undefined || !row) return [id, place];
      // A place is the first column of its stitch, from the right.
      const { starts, span } = rowFacts(row, book);
      const i = starts.indexOf(place.column);
      const next = i < 0 ? place.column + 1 : (starts[i + 1] ?? span);
      return [id, { ...place, column: Math.max(0, width - next) }];
    }),
  );
}

/**
 * A chart as its other side shows the cloth: its columns from the other end, knit and purl exchanged, crossings of the same lean
 * with what lay behind in front, since a twist has the same hand from both sides. Turned twice it is the same. Its rows are the
 * same rows, met from there.
 */
export const seenBehind = remembered((chart: Chart): Chart => {
  const { width, mirror, own } = chart;
  return {
    ...chart,
    rows: chart.rows.map(turnedRow),
    ...mirroredFrame(chart),
    mirror: mirror && { ...mirror, axis: 2 * width - mirror.axis },
    ground: OTHER[chart.ground],
    firstRow: hasSetting(chart.construction, 'firstRow') ? OTHER[chart.firstRow] : chart.firstRow,
    meant: meantBehind(chart),
    own: own.length ? own.map(ownBehind) : own,
  };
});

/** A step on the other side of a chart, as the chart itself has it; `was` and `now` are what that side shows before and after it. */
function stepBehind(step: Step, was: Chart, now: Chart): readonly Step[] {
  if (step.kind === 'rows') {
    const { done, at, high, outside } = step;
    // The rows that come are those that would go again.
    const [taken] = takeRows(seenBehind(done === 'in' ? now : was), at, step.rows.length).steps;
    return [{ ...(taken as RowsStep), done, high, outside }];
  }
  if (step.kind === 'columns') {
    if (step.short) throw new EditError('A row does not fill the chart: mend it on side 1 first.');
    const at = step.wide - step.at - (step.done === 'out' ? step.count : 0);
    return [{ ...step, at, cells: step.cells.map(turnedRow), outside: [step.outside[1], step.outside[0]] }];
  }
  const steps = chartSteps(seenBehind(was), seenBehind(now));
  if (!steps) throw new EditError('This is done on side 1: turn the cloth over first.');
  return steps;
}

/** An edit made on the other side of a chart, as the chart itself has it. @throws EditError */
export const onOtherSide =
  (change: (seen: Chart) => Edit) =>
  (chart: Chart): Edit => {
    let seen = seenBehind(chart);
    const made = change(seen);
    const steps = made.steps.flatMap((step) => {
      const was = seen;
      seen = applyToChart(was, [step]);
      return stepBehind(step, was, seen);
    });
    return { chart: steps.length ? seenBehind(made.chart) : chart, steps };
  };

/**
 * Whether both faces of a cloth look alike: everything on one stands on the other, but for garter, whose ridges lie a row apart there.
 */
export function sidesAlike(chart: Chart): boolean {
  if (!bothCount(chart)) return false;
  const other = seenBehind(chart);
  return chart.rows.every((row, r) => {
    const there = other.rows[r]!;
    const knitByHand = sideOf(chart, r) === 'RS' ? 'k' : 'p';
    return (
      row.length === there.length &&
      row.every(
        (stitch, i) =>
          sameStitch(stitch, there[i]!) || (stitch === knitByHand && there[i] === OTHER[knitByHand]),
      )
    );
  });
}

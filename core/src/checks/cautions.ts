import {
  multiplesOf,
  passesOf,
  repeatColumns,
  repeatRows,
  repeatsAcross,
  startOf,
  timesOf,
  withRepeats,
  type Met,
} from '../chart/frame.js';
import { rowCrossings, rowFacts, rowUse } from '../chart/rows.js';
import { constructionOf, sideOf } from '../construction/construction.js';
import { crossingSize, type Crossing } from '../stitches/crossing.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Side } from '../stitches/face.js';

import { fromStart, workRow, type RowWork } from '../needle/needle.js';
import type { Check, Finding, Knitted, RowCheck } from './finding.js';

const MOST_CROSSED = 8;
const MOST_HELD = 4;
const LONGEST_FLOAT = 5;

function eachCrossing(
  { chart, book }: Knitted,
  r: number,
  look: (c: Crossing, from: number, to: number) => Omit<Finding, 'row' | 'columns'> | null,
): Finding[] {
  const findings: Finding[] = [];
  for (const { crossing, column } of rowCrossings(chart.rows[r]!, book)) {
    const from = column + 1;
    const to = column + crossingSize(crossing);
    const found = look(crossing, from, to);
    if (found) findings.push({ ...found, row: r + 1, columns: [from, to] });
  }
  return findings;
}

/** The stitches on cable needles at once: the group met first, and a centre group behind it. */
function heldIn(c: Crossing, side: Side): number {
  const met = (c.lean === 'left') === (side === 'RS') ? c.front : c.back;
  return met.length + c.centre.length;
}

/** More than eight stitches in one crossing, or more than four held, make holes and strain (custom). */
export const wideCrossing: RowCheck = (knitted, r) => {
  const side = sideOf(knitted.chart, r);
  return eachCrossing(knitted, r, (c, from, to) => {
    const size = crossingSize(c);
    const held = heldIn(c, side);
    if (size <= MOST_CROSSED && held <= MOST_HELD) return null;
    const what = size > MOST_CROSSED ? `crosses ${size} stitches` : `holds ${held} stitches at once`;
    return {
      id: 'wide-crossing',
      level: 'caution',
      message: `Row ${r + 1}: the crossing in columns ${from}–${to} ${what}; that pulls holes and strains the hands.`,
    };
  });
};

/** Flat, crossings are usually kept to right-side rows, where they can be seen. */
export const crossingOnWrongSide: RowCheck = (knitted, r) =>
  sideOf(knitted.chart, r) === 'RS'
    ? []
    : eachCrossing(knitted, r, () => ({
        id: 'wrong-side-crossing',
        level: 'caution',
        message: `Row ${r + 1} is a wrong-side row: its crossing is worked unseen, from behind.`,
      }));

/** Flat, a crossing that includes the edge stitch has nothing to hold it (custom). Inside a repeat there is no edge. */
export const crossingAtEdge: RowCheck = (knitted, r) => {
  const { chart } = knitted;
  if (!constructionOf(chart).hasEdges) return [];
  const { start, end } = repeatColumns(chart, r);
  const isRepeated = repeatsAcross(chart);
  return eachCrossing(knitted, r, (_c, from, to) =>
    (from === 1 && !(isRepeated && start === 0)) ||
    (to === chart.width && !(isRepeated && end === chart.width))
      ? {
          id: 'crossing-at-edge',
          level: 'caution',
          message: `Row ${r + 1}: the crossing in columns ${from}–${to} includes the edge stitch, which has nothing beside it to hold it.`,
        }
      : null,
  );
};

/**
 * A float over more than five stitches catches fingers and pulls in (custom). It is followed over gaps and over the
 * lines of the repeat; floats at the back and in front are two.
 */
export const longFloat: RowCheck = ({ chart }, r) => {
  const use = rowUse(chart.rows[r]!);
  if (!use.has('slyb') && !use.has('slyf')) return [];
  const found = new Map<string, Finding>();
  let run: Met[] = [];
  const close = () => {
    if (run.length > LONGEST_FLOAT) {
      const columns: [number, number] = [
        Math.min(...run.map((m) => m.from)),
        Math.max(...run.map((m) => m.to)),
      ];
      const where = run[0]!.stitch === 'slyf' ? 'in front' : 'at the back';
      if (!found.has(columns.join()))
        found.set(columns.join(), {
          id: 'long-float',
          level: 'caution',
          row: r + 1,
          columns,
          message: `Row ${r + 1}: the float ${where} passes ${run.length} slipped stitches; over more than ${LONGEST_FLOAT} it catches and pulls in.`,
        });
    }
    run = [];
  };
  for (const met of withRepeats(chart, r, Math.min(timesOf(chart), LONGEST_FLOAT + 2))) {
    if (met.stitch === NO_STITCH) continue;
    const isSlip = met.stitch === 'slyb' || met.stitch === 'slyf';
    if (!isSlip || (run.length && run[0]!.stitch !== met.stitch)) close();
    if (isSlip) run.push(met);
  }
  close();
  return [...found.values()];
};

const MOST_SLIPPED = 4;

/** The loops that a row's work has slipped for one row more than is well. */
function slippedTooLong({ chart, book }: Knitted, r: number, { loops }: RowWork): Finding[] {
  const row = chart.rows[r]!;
  const use = rowUse(row);
  if (!use.has('slyb') && !use.has('slyf')) return [];
  if (!loops.some((loop) => loop.slipped === MOST_SLIPPED + 1)) return [];
  const met = fromStart(loops, startOf(chart, r));
  const { starts } = rowFacts(row, book);
  let loop = 0;
  return row.flatMap((stitch, i): Finding[] => {
    const column = starts[i]! + 1;
    const { makes } = book.facts(stitch);
    const isLong = makes > 0 && met[loop]?.slipped === MOST_SLIPPED + 1;
    loop += makes;
    if (!isLong) return [];
    return [
      {
        id: 'long-slip',
        level: 'caution',
        row: r + 1,
        columns: [column, column],
        message: `Row ${r + 1}: the stitch in column ${column} is slipped for the ${MOST_SLIPPED + 1}th row running; drawn out so far it pulls in the rows beside it.`,
      },
    ];
  });
}

/**
 * A loop slipped on more than four rows is drawn out long and pulls the rows beside it (custom). The needle says for
 * how many rows each loop has been slipped.
 */
export const longSlip: RowCheck = (knitted, r) => slippedTooLong(knitted, r, knitted.works[r]!);

/** The same on further passes of the repeat up, which begin on the loops the last one left. */
export const longSlipAgain: Check = (knitted) => {
  const { chart, book, works } = knitted;
  const repeat = repeatRows(chart);
  if (!repeat || !works[repeat.last]!.loops.some((loop) => loop.slipped)) return [];
  const found = new Map<string, Finding>();
  const known = new Set(works.flatMap((work, r) => slippedTooLong(knitted, r, work)).map(keyOf));
  let below = works[repeat.last]!.loops;
  for (let pass = 2; pass <= Math.min(passesOf(chart), MOST_SLIPPED + 2); pass++)
    for (let r = repeat.first; r <= repeat.last; r++) {
      const work = workRow(chart.rows[r]!, below, book, startOf(chart, r));
      for (const finding of slippedTooLong(knitted, r, work))
        if (!known.has(keyOf(finding))) found.set(keyOf(finding), finding);
      below = work.loops;
    }
  return [...found.values()];
};

const keyOf = ({ row, columns }: Finding): string => `${row} ${columns?.[0]}`;

/** The multiple is no longer row 1's once the repeat gains or loses loops: it is then given row by row. */
export const multipleChanges: Check = ({ chart, book }) => {
  if (!repeatsAcross(chart) || chart.rows.some((row) => rowFacts(row, book).span !== chart.width)) return [];
  const [first, here] = multiplesOf(chart);
  if (!first || !here) return [];
  return [
    {
      id: 'multiple-changes',
      level: 'note',
      row: here.row + 1,
      message: `The multiple changes inside the repeat: ${first.of} + ${first.plus} at the start, ${here.of} + ${here.plus} before row ${here.row + 1}.`,
    },
  ];
};

import { workedRows } from '../chart/frame.js';
import {
  multipleOf,
  rowCrossings,
  rowFacts,
  rowUse,
  sectionsOf,
  sideOf,
  timesOf,
  withRepeats,
  type Met,
} from '../chart/rows.js';
import { crossingSize, type Crossing } from '../stitches/crossing.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Side } from '../stitches/face.js';
import type { Check, Finding, Knitted } from './finding.js';

const MOST_CROSSED = 8;
const MOST_HELD = 4;
const LONGEST_FLOAT = 5;

function eachCrossing(
  { chart, book }: Knitted,
  look: (c: Crossing, row: number, from: number, to: number) => Omit<Finding, 'row' | 'columns'> | null,
): Finding[] {
  return chart.rows.flatMap((row, r) =>
    rowCrossings(row, book).flatMap(({ crossing, column }): Finding[] => {
      const from = column + 1;
      const to = column + crossingSize(crossing);
      const found = look(crossing, r, from, to);
      return found ? [{ ...found, row: r + 1, columns: [from, to] }] : [];
    }),
  );
}

/** The stitches on cable needles at once: the group met first, and a centre group behind it. */
function heldIn(c: Crossing, side: Side): number {
  const met = (c.lean === 'left') === (side === 'RS') ? c.front : c.back;
  return met.length + c.centre.length;
}

/** More than eight stitches in one crossing, or more than four held, make holes and strain (custom). */
export const wideCrossing: Check = (knitted) =>
  eachCrossing(knitted, (c, r, from, to) => {
    const size = crossingSize(c);
    const held = heldIn(c, sideOf(knitted.chart, r));
    if (size <= MOST_CROSSED && held <= MOST_HELD) return null;
    const what = size > MOST_CROSSED ? `crosses ${size} stitches` : `holds ${held} stitches at once`;
    return {
      id: 'wide-crossing',
      level: 'caution',
      message: `Row ${r + 1}: the crossing in columns ${from}–${to} ${what}; that pulls holes and strains the hands.`,
    };
  });

/** Flat, crossings are usually kept to right-side rows, where they can be seen. */
export const crossingOnWrongSide: Check = (knitted) =>
  eachCrossing(knitted, (_c, r) =>
    sideOf(knitted.chart, r) === 'WS'
      ? {
          id: 'wrong-side-crossing',
          level: 'caution',
          message: `Row ${r + 1} is a wrong-side row: its crossing is worked unseen, from behind.`,
        }
      : null,
  );

/** Flat, a crossing that includes the edge stitch has nothing to hold it (custom). */
export const crossingAtEdge: Check = (knitted) =>
  knitted.chart.construction === 'round'
    ? []
    : eachCrossing(knitted, (_c, r, from, to) =>
        (from === 1 && (knitted.chart.across?.before ?? 1) > 0) ||
        (to === knitted.chart.width && (knitted.chart.across?.after ?? 1) > 0)
          ? {
              id: 'crossing-at-edge',
              level: 'caution',
              message: `Row ${r + 1}: the crossing in columns ${from}–${to} includes the edge stitch, which has nothing beside it to hold it.`,
            }
          : null,
      );

/**
 * A float over more than five stitches catches fingers and pulls in (custom). It is followed over gaps and over the
 * lines of the repeat; floats at the back and in front are two.
 */
export const longFloat: Check = (knitted) =>
  knitted.chart.rows.flatMap((row, r) => {
    if (!rowUse(row).has('slyb') && !rowUse(row).has('slyf')) return [];
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
    for (const met of withRepeats(row, knitted.chart, Math.min(timesOf(knitted.chart), LONGEST_FLOAT + 2))) {
      if (met.stitch === NO_STITCH) continue;
      const isSlip = met.stitch === 'slyb' || met.stitch === 'slyf';
      if (!isSlip || (run.length && run[0]!.stitch !== met.stitch)) close();
      if (isSlip) run.push(met);
    }
    close();
    return [...found.values()];
  });

const MOST_SLIPPED = 4;

/**
 * A loop slipped on more than four rows is drawn out long and pulls the rows beside it (custom). Floats are
 * followed up the needle loop by loop, and on into the next pass of a repeat up.
 */
export const longSlip: Check = ({ chart, book, works }) => {
  if (!chart.rows.some((row) => rowUse(row).has('slyb') || rowUse(row).has('slyf'))) return [];
  let slipped: number[] = [];
  const found = new Map<string, Finding>();
  for (const { row: r, pass } of workedRows(chart)) {
    // A third pass shows nothing that the second did not: a slip through a whole pass is told by then.
    if (pass > 2) continue;
    const row = chart.rows[r]!;
    if (!rowUse(row).has('slyb') && !rowUse(row).has('slyf')) {
      slipped = [];
      continue;
    }
    const { starts } = rowFacts(row, book);
    const kinds = row.flatMap((s, i) =>
      Array.from({ length: book.facts(s).makes }, () => [s, starts[i]! + 1] as const),
    );
    slipped = works[r]!.from.map((below, i) => {
      const [stitch, column] = kinds[i]!;
      if (stitch !== 'slyb' && stitch !== 'slyf') return 0;
      const rows = (slipped[below] ?? 0) + 1;
      const key = `${r} ${column}`;
      if (rows === MOST_SLIPPED + 1 && !found.has(key))
        found.set(key, {
          id: 'long-slip',
          level: 'caution',
          row: r + 1,
          columns: [column, column],
          message: `Row ${r + 1}: the stitch in column ${column} is slipped for the ${rows}th row running; drawn out so far it pulls in the rows beside it.`,
        });
      return rows;
    });
  }
  return [...found.values()];
};

/** The multiple is no longer row 1's once the repeat gains or loses loops: it is then given row by row. */
export const multipleChanges: Check = ({ chart, book }) => {
  if (!chart.across || chart.rows.some((row) => rowFacts(row, book).span !== chart.width)) return [];
  const first = multipleOf(chart);
  const row = chart.rows.findIndex((r) => {
    if (!sectionsOf(r, chart)) return false;
    const here = multipleOf(chart, r);
    return here.of !== first.of || here.plus !== first.plus;
  });
  if (row < 0) return [];
  const here = multipleOf(chart, chart.rows[row]);
  return [
    {
      id: 'multiple-changes',
      level: 'note',
      row: row + 1,
      message: `The multiple changes inside the repeat: ${first.of} + ${first.plus} at the start, ${here.of} + ${here.plus} before row ${row + 1}.`,
    },
  ];
};

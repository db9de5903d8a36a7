import { passesOf, repeatRows, startOf } from '../chart/frame.js';
import { rowFacts, rowUse } from '../chart/rows.js';
import { fromStart, workRow, type RowWork } from '../needle/needle.js';
import { chartCheck, rowCheck, type Found, type Knitted } from './finding.js';

/** The loops that a row's work has slipped for one row more than is well. */
function slippedTooLong(
  { chart, book, rules: { mostSlipped } }: Knitted,
  r: number,
  { loops }: RowWork,
): Found[] {
  const row = chart.rows[r]!;
  const use = rowUse(row);
  if (!use.has('slyb') && !use.has('slyf')) return [];
  if (!loops.some((loop) => loop.slipped === mostSlipped + 1)) return [];
  const met = fromStart(loops, startOf(chart, r));
  const { starts } = rowFacts(row, book);
  let loop = 0;
  return row.flatMap((stitch, i): Found[] => {
    const column = starts[i]! + 1;
    const { makes } = book.facts(stitch);
    const isLong = makes > 0 && met[loop]?.slipped === mostSlipped + 1;
    loop += makes;
    if (!isLong) return [];
    return [
      {
        id: 'long-slip',
        level: 'caution',
        row: r + 1,
        columns: [column, column],
        message: `Row ${r + 1}: the stitch in column ${column} is slipped for the ${mostSlipped + 1}th row running; drawn out so far it pulls in the rows beside it.`,
      },
    ];
  });
}

/**
 * A loop slipped on more rows than the custom is (four) is drawn out long and pulls the rows beside it (custom). The
 * needle says for how many rows each loop has been slipped.
 */
export const longSlip = rowCheck(
  { tells: { 'long-slip': 'Slipped for long' }, level: 'caution', reads: ['rules'] },
  (knitted, r) => slippedTooLong(knitted, r, knitted.works[r]!),
);

/** The same on further passes of the repeat up, which begin on the loops the last one left. */
export const longSlipAgain = chartCheck(
  { tells: { 'long-slip': 'Slipped for long' }, level: 'caution', reads: ['rules'] },
  (knitted) => {
    const { chart, book, works, rules } = knitted;
    const repeat = repeatRows(chart);
    if (!repeat || !works[repeat.last]!.loops.some((loop) => loop.slipped)) return [];
    const found = new Map<string, Found>();
    const known = new Set(works.flatMap((work, r) => slippedTooLong(knitted, r, work)).map(keyOf));
    let below = works[repeat.last]!.loops;
    for (let pass = 2; pass <= Math.min(passesOf(chart), rules.mostSlipped + 2); pass++)
      for (let r = repeat.first; r <= repeat.last; r++) {
        const work = workRow(chart.rows[r]!, below, book, startOf(chart, r));
        for (const finding of slippedTooLong(knitted, r, work))
          if (!known.has(keyOf(finding))) found.set(keyOf(finding), finding);
        below = work.loops;
      }
    return [...found.values()];
  },
);

const keyOf = ({ row, columns }: Found): string => `${row} ${columns?.[0]}`;

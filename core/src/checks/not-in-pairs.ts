import { rowFacts } from '../chart/rows.js';
import { isCrossing, isOfPairs, kindOf } from '../stitches/book.js';
import { rowCheck } from './finding.js';

/** In double knitting what is worked is worked on pairs of loops: increases, decreases and slips are not told of pairs here. */
export const notInPairs = rowCheck(
  { tells: { 'not-in-pairs': 'Not worked in pairs' }, level: 'error' },
  ({ chart, book }, r) => {
    const row = chart.rows[r]!;
    const i = row.findIndex((stitch) => !isOfPairs(stitch));
    if (i < 0) return [];
    const { starts } = rowFacts(row, book);
    const stitch = row[i]!;
    const [from, to] = [starts[i]! + 1, starts[i]! + book.facts(stitch).span];
    const name = isCrossing(stitch) ? 'crossing through the back loop' : kindOf(stitch, book).name;
    return [
      {
        id: 'not-in-pairs',
        level: 'error',
        row: r + 1,
        columns: [from, to],
        message: `Row ${r + 1}: the ${name} in column ${from} cannot be worked in pairs. Double knitting takes pairs that show A or B, and crossings of whole pairs.`,
      },
    ];
  },
);

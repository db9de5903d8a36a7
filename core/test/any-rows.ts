import fc from 'fast-check';
import { ChartSchema, EditError, setUp, stitchBook, takesOf, type Chart, type Stitch } from '../src/index.js';
import { layoutRows } from '../src/chart/layout.js';
import { anyChart, anyCrossing, anyWay } from './arbitrary.js';
import { MEANT } from './knitted.js';

const KINDS = Object.keys(MEANT);
const stitch = fc.oneof(
  { weight: 5, arbitrary: fc.constantFrom<Stitch>('k', 'p') },
  { weight: 3, arbitrary: fc.constantFrom<Stitch>(...KINDS, 'slyb', 'slyf') },
  { weight: 1, arbitrary: anyCrossing(3) },
);

/** Charts whose rows win and lose loops as they like: stitches are taken as long as loops are left for them. */
export const changing: fc.Arbitrary<Chart> = fc
  .record({
    castOn: fc.integer({ min: 2, max: 12 }),
    picks: fc.array(fc.array(stitch, { minLength: 24, maxLength: 24 }), { minLength: 1, maxLength: 6 }),
    construction: anyWay(),
    firstRow: fc.constantFrom('RS', 'WS'),
  })
  .map(({ castOn, picks, construction, firstRow }) => {
    const book = stitchBook();
    let live = castOn;
    const rows = picks.map((pick) => {
      const row: Stitch[] = [];
      let left = live;
      for (const s of pick) {
        if (!left || row.length > 16) break;
        if (takesOf(s, book) > left) continue;
        row.push(s);
        left -= takesOf(s, book);
      }
      row.push(...Array<Stitch>(left).fill('k'));
      live = row.reduce((sum, s) => sum + book.facts(s).makes, 0);
      return row;
    });
    const laid = layoutRows(rows, book);
    return ChartSchema.parse({ construction, firstRow, width: laid.width, rows: laid.rows });
  });

/** Steady charts with a repeat across, and rows that are worked again. */
export const repeating: fc.Arbitrary<Chart> = fc
  .tuple(
    anyChart(),
    fc.integer({ min: 0, max: 3 }),
    fc.integer({ min: 0, max: 3 }),
    fc.integer({ min: 1, max: 3 }),
    fc.integer({ min: 0, max: 4 }),
  )
  .map(([chart, setup, closing, times, end]) => {
    try {
      return setUp(chart, { setup, closing, times, ...(end ? { end: setup + end } : {}) }).chart;
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      return chart;
    }
  });

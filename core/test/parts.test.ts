import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  columnsIn,
  LEAST_CELL,
  PAGE_MARGIN,
  PAGES,
  partName,
  partsOf,
  pictureOf,
  planOf,
  PRINT_INKS,
  simpleCrossing,
  spanOf,
  stitchBook,
  styleOf,
  SettingsSchema,
  type Chart,
  type Part,
  type Stitch,
} from '../src/index.js';

const style = styleOf(SettingsSchema.parse({}));
const MOST = columnsIn(PAGES.A4.width - 2 * PAGE_MARGIN);

/** Charts of any width with crossings of any size in them, some with a repeat. */
const charts = fc
  .record({
    rows: fc.array(
      fc.array(
        fc.oneof(fc.constant(null), fc.tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 6 }))),
        {
          minLength: 40,
          maxLength: 40,
        },
      ),
      { minLength: 1, maxLength: 8 },
    ),
    width: fc.integer({ min: 1, max: 320 }),
    frame: fc.option(fc.tuple(fc.integer({ min: 0, max: 30 }), fc.integer({ min: 0, max: 30 })), {
      nil: null,
    }),
  })
  .map(({ rows, width, frame }): Chart => {
    const filled = rows.map((cells) => {
      const row: Stitch[] = [];
      let left = width;
      for (let i = 0; left > 0; i++) {
        const cell = cells[i % cells.length]!;
        const span = cell ? cell[0] + cell[1] : 1;
        row.push(cell && span <= left ? simpleCrossing(i % 2 ? 'left' : 'right', cell[0], cell[1]) : 'k');
        left -= cell && span <= left ? span : 1;
      }
      return row;
    });
    const across =
      frame && frame[0] + frame[1] < width ? { before: frame[0], after: frame[1], times: 2, least: 1 } : null;
    return ChartSchema.parse({ width, rows: filled, across });
  });

/** Whether a part shows columns `first` to `last` of row `r` whole. */
const shows = ({ rows, columns }: Part, r: number, first: number, last: number) =>
  r >= rows.from && r <= rows.to && columns.from <= first && columns.to >= last;

describe('a chart in parts that fit a page', () => {
  it('shows every stitch whole in one of them, and no part is wider than the page', () => {
    const book = stitchBook([]);
    fc.assert(
      fc.property(charts, (chart) => {
        const parts = partsOf(chart, MOST);
        for (const { columns } of parts) expect(columns.to - columns.from + 1).to.be.at.most(MOST);
        chart.rows.forEach((row, r) => {
          let column = 0;
          for (const stitch of row) {
            const span = Math.max(1, spanOf(stitch, book));
            expect(
              parts.some((part) => shows(part, r, column, column + span - 1)),
              `row ${r + 1}, column ${column + 1}`,
            ).to.equal(true);
            column += span;
          }
        });
        // Each strip goes on where the one before ends, and says how much of that it shows again.
        const strips = parts.filter((p) => p.rows.from === parts[0]!.rows.from);
        strips.slice(1).forEach((strip, i) => {
          const before = strips[i]!;
          expect(before.columns.to - strip.columns.from + 1).to.equal(strip.again.right);
          expect(strip.again.right).to.be.at.least(2);
        });
      }),
      { numRuns: 60 },
    );
  });

  it('has cells of four millimetres at least, with the numbers beside them, on either page', () => {
    for (const page of ['A4', 'Letter'] as const)
      for (const width of [40, 60, 120, 300, 600]) {
        const chart = ChartSchema.parse({ width, rows: [Array<string>(width).fill('k')] });
        const room = PAGES[page].width - 2 * PAGE_MARGIN;
        for (const part of partsOf(chart, columnsIn(room))) {
          const { box } = pictureOf(chart, style, PRINT_INKS, part);
          expect(room / box.width, `${page}, ${width} columns`).to.be.at.least(LEAST_CELL);
        }
      }
  });

  it('is cut at a line of the repeat where there is one near', () => {
    const row = Array<string>(100).fill('k');
    const chart = ChartSchema.parse({
      width: 100,
      rows: [row],
      across: { before: 30, after: 33, times: 2, least: 1 },
    });
    const [first, second] = partsOf(chart, 40);
    expect(first!.columns).to.deep.equal({ from: 0, to: 29 });
    expect(second!.columns.from).to.equal(28);
    expect(second!.columns.to).to.equal(66);
  });

  it('is drawn with its own numbers, and what it does not show is cut off', () => {
    const chart = ChartSchema.parse({ width: 100, rows: [Array<string>(100).fill('p')] });
    const parts = partsOf(chart, 40);
    const { clip, figures } = pictureOf(chart, style, PRINT_INKS, parts[1]);
    const numbers = figures.flatMap((f) => (f.kind === 'text' ? [Number(f.text)] : []));
    expect(Math.max(...numbers)).to.be.at.most(parts[1]!.columns.to + 1);
    expect(Math.max(...numbers)).to.be.above(70);
    expect(clip!.width).to.be.closeTo(40, 0.5);
    expect(figures.filter((f) => f.kind === 'mark').length).to.equal(40);
  });

  it('has a plan in which every part stands once, by its number', () => {
    const chart = ChartSchema.parse({
      width: 120,
      rows: Array.from({ length: 120 }, () => Array<string>(120).fill('k')),
    });
    const parts = partsOf(chart, 42);
    const { figures } = planOf(chart, parts);
    const numbers = figures.flatMap((f) => (f.kind === 'text' ? [f.text] : []));
    expect(numbers).to.deep.equal(parts.map((_, i) => `${i + 1}`));
    expect(partName(parts[0]!, 0, parts.length)).to.equal(
      `Part 1 of ${parts.length}: columns 1 to 42, rows 81 to 120`,
    );
  });

  it('is the one part it was where it fits', () => {
    const chart = ChartSchema.parse({ width: 30, rows: [Array<string>(30).fill('k')] });
    const parts = partsOf(chart, MOST);
    expect(parts).to.have.length(1);
    expect(pictureOf(chart, style, PRINT_INKS, parts[0])).to.deep.equal(pictureOf(chart, style, PRINT_INKS));
  });
});

import { columnsDrawn, type Figure, type Part, type Picture, type RowSpan } from '../drawing/page.js';
import { linesOf } from '../drawing/lines.js';
import { TOKENS } from '../drawing/inks.js';
import { linesAcross, startOf } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart, type SheetSettings } from '../chart/schema.js';
import { spanOf } from '../stitches/book.js';

/**
 * A chart that is larger than a page in parts that each fit one: strips beside each other, cut at the lines of the repeat where
 * that can be and never through what one part does not show whole, and blocks above each other. Each strip shows the last columns
 * of the one before again, on shaded paper, so that the eye finds its way over.
 */

/** Pages in millimetres: A4 by ISO 216, US Letter by ANSI/ASME Y14.1; their margin is the sheet's own. */
export const PAGES: Readonly<Record<SheetSettings['page'], { width: number; height: number }>> = {
  A4: { width: 210, height: 297 },
  Letter: { width: 215.9, height: 279.4 },
};
export const PAGE_MARGIN = 14;

/** A cell on paper is at least so large, in millimetres: smaller, and rows are read wrong at arm's length. Custom. */
export const LEAST_CELL = 4;

/** Columns beside the cells of a chart, where its rows are numbered. */
const NUMBERS = 3;
/** Charts of so many rows are printed in one piece; a taller one in blocks of equal height, which leave room for a heading. */
const MOST_ROWS = 50;
/** A strip shows at least so many columns of the one before again. */
const LEAST_AGAIN = 2;
/** A strip may be so much narrower than it could be, for a better place to cut. */
const NARROWEST = 0.6;

/** The most columns a strip may have where it has so many millimetres. */
export const columnsIn = (millimetres: number): number => Math.floor(millimetres / LEAST_CELL) - NUMBERS;

/** Rows in blocks of equal height, the uppermost first. */
export function blocksOf({ from, to }: RowSpan, most = MOST_ROWS): RowSpan[] {
  const height = to - from + 1;
  const size = Math.ceil(height / Math.ceil(height / most));
  const blocks = Math.ceil(height / size);
  return Array.from({ length: blocks }, (_, i) => ({
    from: from + i * size,
    to: Math.min(to, from + (i + 1) * size - 1),
  })).reverse();
}

/** What a cut before each column would part: the first column, from the right, of any stitch that lies on both sides of it. */
function partedBy(chart: Chart, { from, to }: RowSpan): Map<number, number> {
  const parted = new Map<number, number>();
  const book = bookOf(chart);
  chart.rows.forEach((row, r) => {
    const { starts } = rowFacts(row, book);
    row.forEach((stitch, i) => {
      const span = spanOf(stitch, book);
      if (span < 2) return;
      const first = starts[i]! + startOf(chart, r);
      for (let cut = Math.max(first + 1, from); cut < first + span && cut <= to; cut++)
        parted.set(cut, Math.min(parted.get(cut) ?? cut, first));
    });
  });
  return parted;
}

/** The strips of columns that are more than `most`, from the right; one where they are not. */
export function stripsOf(chart: Chart, most: number, all = columnsDrawn(chart)): Omit<Part, 'rows'>[] {
  const total = all.to - all.from + 1;
  if (total <= most) return [{ columns: all, again: { right: 0, left: 0 } }];
  const parted = partedBy(chart, all);
  const lines = new Set(linesAcross(chart));
  const strips: Omit<Part, 'rows'>[] = [];
  let from = all.from;
  let isAgain = 0;
  for (;;) {
    const furthest = from + most;
    if (furthest > all.to) {
      strips.push({ columns: { from, to: all.to }, again: { right: isAgain, left: 0 } });
      return strips;
    }
    // The furthest line of the repeat, else the furthest place that parts no stitch, else the furthest of all.
    const nearest = Math.max(from + isAgain + 1, from + Math.ceil(most * NARROWEST));
    const places = Array.from({ length: furthest - nearest + 1 }, (_, i) => furthest - i);
    const cut =
      places.find((p) => lines.has(p) && !parted.has(p)) ?? places.find((p) => !parted.has(p)) ?? furthest;
    strips.push({ columns: { from, to: cut - 1 }, again: { right: isAgain, left: 0 } });
    // What the cut parts begins anew in the next strip, which has to be further on all the same.
    const begins = Math.min(cut - LEAST_AGAIN, parted.get(cut) ?? cut);
    const next = Math.max(begins, from + 1, cut - Math.floor(most / 2));
    isAgain = cut - next;
    from = next;
  }
}

/** Rows and columns of a chart. */
export type Within = Pick<Part, 'rows' | 'columns'>;

/** The parts a chart, or what is chosen of it, is printed in on so many columns' width: block by block from the top, each from the right. */
export function partsOf(chart: Chart, most: number, within?: Within): Part[] {
  const strips = stripsOf(chart, most, within?.columns);
  return blocksOf(within?.rows ?? { from: 0, to: chart.rows.length - 1 }).flatMap((rows) =>
    strips.map((strip) => ({ rows, ...strip })),
  );
}

/** What a part is called: its number among all, and what of the chart it shows. */
export function partName({ rows, columns }: Part, i: number, all: number): string {
  const [first, last] = [columns.from + 1, columns.to + 1];
  return `Part ${i + 1} of ${all}: columns ${first} to ${last}, rows ${rows.from + 1} to ${rows.to + 1}`;
}

/** The size of the plan's longer side, in cells of its own, and of the numbers in it. */
const PLAN = { width: 26, height: 18, number: 1.1 };

/** The plan of a chart's parts: where on the chart each lies, numbered as they are printed. */
export function planOf(chart: Chart, parts: readonly Part[]): Picture {
  const all = columnsDrawn(chart);
  const lined = linesOf(chart);
  const total = { width: all.to - all.from + 1, height: lined.count };
  const scale = Math.min(PLAN.width / total.width, PLAN.height / total.height);
  const figures = parts.flatMap(({ rows, columns, again }, i): Figure[] => {
    const [left, right] = [(all.to - columns.to) * scale, (all.to + 1 - columns.from) * scale];
    const { first, last } = lined.span(rows.from, rows.to);
    const [top, bottom] = [(total.height - 1 - last) * scale, (total.height - first) * scale];
    const shade = right - again.right * scale;
    return [
      ...(again.right
        ? [
            {
              kind: 'path' as const,
              d: `M ${shade} ${top} H ${right} V ${bottom} H ${shade} Z`,
              fill: TOKENS.wash,
            },
          ]
        : []),
      {
        kind: 'path',
        d: `M ${left} ${top} H ${right} V ${bottom} H ${left} Z`,
        stroke: TOKENS.peat,
        width: 0.08,
      },
      {
        kind: 'text',
        text: `${i + 1}`,
        x: (left + right - again.right * scale) / 2,
        y: (top + bottom) / 2 + PLAN.number * 0.35,
        size: PLAN.number,
        anchor: 'middle',
        ink: TOKENS.peat,
      },
    ];
  });
  const edge = 0.1;
  return {
    box: {
      x: -edge,
      y: -edge,
      width: total.width * scale + 2 * edge,
      height: total.height * scale + 2 * edge,
    },
    figures,
  };
}

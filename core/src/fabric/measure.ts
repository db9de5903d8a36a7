import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { stitchId, type StitchBook } from '../stitches/book.js';
import { knitFabric, type Fabric } from './fabric.js';
import { settled, type KnittedCloth } from './settle.js';
import { ORDINARY, type Proportions } from './proportions.js';

/** How wide and high cloth lies against plain cloth of as many stitches and rows: 1 is as wide, 0.7 draws in by 30 %. */
export interface Extent {
  wide: number;
  high: number;
}

/** What lies nearer to an edge than this share of the cloth is not measured: edges flare. */
const EDGE = 0.15;

/** From one number up to, not including, another. */
export interface Stretch {
  from: number;
  to: number;
}

/**
 * Measures cloth in its middle, as a swatch is measured: over whole repeats of its chart, across and up, where it has some, so that
 * it makes no difference where in a repeat its edges fall, or how many there are. Of a cloth of hardly more than one repeat, whose
 * edges are all there is beside it, a wider one is knitted and measured. Null where there is too little of it.
 */
export function extentOf(cloth: KnittedCloth, proportions: Proportions = ORDINARY): Extent | null {
  const across = cloth.fabric.isTube ? null : repeatAcross(cloth.fabric.chart);
  const wider = across && widened(cloth, across);
  return wider
    ? measured(settled(wider, proportions), across, proportions)
    : measured(cloth, across, proportions);
}

function measured(cloth: KnittedCloth, repeat: number | null, { height }: Proportions): Extent | null {
  const { fabric, lie } = cloth;
  const { needles, isTube, size, chart } = fabric;
  const rows = middleOf(needles.length - 1, repeatUp(chart));
  if (!rows) return null;
  const columns = repeat && wholeRepeats(chart.width, repeat);
  let width = 0;
  let gaps = 0;
  for (let r = rows.from; r < rows.to; r++) {
    const needle = needles[r + 1]!;
    const over = columns ? overColumns(cloth, needle, columns) : null;
    const across = isTube
      ? { wide: needle.length ? lie[3 * size]! : 0, loops: needle.length }
      : (over ?? overMiddle(cloth, needle));
    width += across.wide;
    gaps += across.loops;
  }
  const mean = (needle: Int32Array) => needle.reduce((sum, i) => sum + lie[3 * i + 1]!, 0) / needle.length;
  const [below, above] = [mean(needles[rows.from]!), mean(needles[rows.to]!)];
  const high = (above - below) / (rows.to - rows.from) / height;
  return gaps && Number.isFinite(high) ? { wide: width / gaps, high } : null;
}

/** So many repeats lie side by side at least where their middle is measured; a cloth of more loops is measured as it lies. */
const ENOUGH = 3;
const MOST_WIDENED = 20_000;

/** The fabric of a chart that is hardly wider than one repeat, with more of them; null where it is wide enough, or has none. */
function widened({ fabric }: KnittedCloth, repeat: number): Fabric | null {
  const { chart, bands, second, ties, size } = fabric;
  const { width, rows } = chart;
  const more = ENOUGH - Math.floor(width / repeat);
  if (repeat === width || more <= 0 || bands.length || second || size * ENOUGH > MOST_WIDENED) return null;
  const book = bookOf(chart);
  const wide = rows.map((row) => {
    const once = row.slice(0, rowFacts(row, book).starts.indexOf(repeat));
    return [...Array.from({ length: more }, () => once).flat(), ...row];
  });
  const grown = { ...chart, across: null, mirror: null, width: width + more * repeat, rows: wide };
  return knitFabric(grown, ties.length ? 'whole' : 'charted');
}

/** How wide cloth lies on the mean over some of its columns, by its stitches there; null where it has none. */
export function wideOver(cloth: KnittedCloth, columns: Stretch): number | null {
  const { needles, chart } = cloth.fabric;
  const rows = middleOf(needles.length - 1, repeatUp(chart));
  let [width, gaps] = [0, 0];
  for (let r = rows?.from ?? 0; r < (rows?.to ?? 0); r++) {
    const across = overColumns(cloth, needles[r + 1]!, columns);
    width += across?.wide ?? 0;
    gaps += across?.loops ?? 0;
  }
  return gaps ? width / gaps : null;
}

interface Across {
  wide: number;
  loops: number;
}

/** How wide a row lies over some of its columns, from half way to the loop before them to half way to the one after. */
function overColumns(
  { fabric: { column }, lie }: KnittedCloth,
  needle: Int32Array,
  { from, to }: Stretch,
): Across | null {
  const first = needle.findIndex((i) => column[i]! >= from);
  const end = needle.findIndex((i) => column[i]! >= to);
  if (first < 1 || end <= first) return null;
  const before = (k: number) => (lie[3 * needle[k - 1]!]! + lie[3 * needle[k]!]!) / 2;
  return { wide: before(first) - before(end), loops: end - first };
}

/** How wide a row lies between the loops at both ends of its middle. */
function overMiddle({ lie }: KnittedCloth, needle: Int32Array): Across {
  const edge = Math.floor(needle.length * EDGE);
  const last = needle.length - 1 - edge;
  return last > edge
    ? { wide: lie[3 * needle[edge]!]! - lie[3 * needle[last]!]!, loops: last - edge }
    : { wide: 0, loops: 0 };
}

/** The middle of so many: whole repeats where there are any, else all but the edges; null where nothing is left. */
function middleOf(many: number, repeat: number): Stretch | null {
  const edge = Math.ceil(many * EDGE);
  const inside = { from: edge, to: many - edge };
  return wholeRepeats(many, repeat) ?? (inside.to > inside.from ? inside : null);
}

/** As many whole repeats from the middle as leave half a one beside them, or one; null where not one leaves anything beside it. */
function wholeRepeats(many: number, repeat: number): Stretch | null {
  const inside = Math.min(many - 2, Math.max(repeat, many - Math.max(repeat, 2 * Math.ceil(many * EDGE))));
  const length = Math.floor(inside / repeat) * repeat;
  if (length <= 0) return null;
  const from = Math.floor((many - length) / 2);
  return { from, to: from + length };
}

/** The shortest repeat of a chart's rows across, in columns; its width where it has none, or its rows are not as wide as it. */
export function repeatAcross(chart: Chart): number {
  const book = bookOf(chart);
  const { width } = chart;
  /** How many rows repeat so often. */
  const such = new Int32Array(width + 1);
  for (const row of chart.rows) {
    const cells = cellsOf(row, book);
    if (cells.length !== width) return width;
    for (const repeat of repeatsOf(cells)) such[repeat]!++;
  }
  for (let repeat = 1; repeat < width; repeat++) if (such[repeat] === chart.rows.length) return repeat;
  return width;
}

/** The same upwards, in rows. */
function repeatUp(chart: Chart): number {
  const book = bookOf(chart);
  return repeatsOf(chart.rows.map((row) => cellsOf(row, book).join(' ')))[0]!;
}

/** What stands in each column of a row: a stitch, or which part of one. */
const cellsOf = (row: Chart['rows'][number], book: StitchBook): string[] =>
  rowFacts(row, book).runs.flatMap(({ stitch, facts, times }) => {
    const name = stitchId(stitch);
    const cells = Array.from({ length: facts.span }, (_, k) => `${name}·${k}`);
    return times === 1 ? cells : Array.from({ length: times }, () => cells).flat();
  });

/**
 * After how many places a line is as it began, all such numbers from the least up to the whole line: by the borders of its beginnings
 * (Knuth, Morris and Pratt, Fast pattern matching in strings, 1977).
 */
function repeatsOf(line: readonly string[]): number[] {
  const border = new Int32Array(line.length + 1);
  border[0] = -1;
  for (let i = 0, b = -1; i < line.length; border[++i] = ++b)
    while (b >= 0 && line[b] !== line[i]) b = border[b]!;
  const repeats: number[] = [];
  for (let b = border[line.length]!; b >= 0; b = border[b]!) repeats.push(line.length - b);
  return repeats;
}

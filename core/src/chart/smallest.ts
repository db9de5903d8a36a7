import { lcm, sameValue } from '../values.js';
import { wayOf } from '../construction/index.js';
import { remembered } from '../remember.js';
import { sameStitch, spanOf, stitchId, type StitchBook } from '../stitches/book.js';
import { EditError, andThen, unchanged, type Edit } from './edit.js';
import { deleteColumns, deleteRows, setAcross, setUp } from './edits.js';
import {
  acrossOf,
  endOf,
  furthestJog,
  hasJogs,
  jogOf,
  repeatColumns,
  repeatRows,
  repeatsAcross,
  upOf,
} from './frame.js';
import { cutAt, rowFacts } from './rows.js';
import { bookOf, type Chart, type Row } from './schema.js';
import { sameStitches } from './steps.js';

/** The smallest true repeats of a chart: compared with those declared, which are often longer, or none. */

/** The cells of a row as texts that are equal where the cloth is: a stitch, and which of its columns. */
const cellsOf = remembered((row: Row, book: StitchBook): readonly string[] =>
  row.flatMap((s) => Array.from({ length: spanOf(s, book) }, (_, i) => `${stitchId(s)}@${i}`)),
);

/**
 * The columns of the smallest piece that a stretch of a row is made of, over and over: itself where there is none. By
 * the failure function of Knuth, Morris and Pratt, over its stitches.
 */
const pieceOf = remembered((row: Row, start: number, end: number, book: StitchBook): number => {
  const [from, to] = [cutAt(row, start, book), cutAt(row, end, book)];
  if (from < 0 || to < 0) return end - start;
  const length = to - from;
  const fall = new Int32Array(length);
  for (let i = 1, k = 0; i < length; i++) {
    const stitch = row[from + i]!;
    while (k > 0 && !sameStitch(stitch, row[from + k]!)) k = fall[k - 1]!;
    if (sameStitch(stitch, row[from + k]!)) k++;
    fall[i] = k;
  }
  const stitches = length - (fall[length - 1] ?? 0);
  if (length % stitches !== 0) return end - start;
  const { starts, span } = rowFacts(row, book);
  return (starts[from + stitches] ?? span) - starts[from]!;
});

/**
 * The columns of the smallest repeat across that the declared one is made of: the declared one where there is none
 * smaller. Each row is looked at from where it begins its own repeat. Null where nothing repeats across.
 */
export function trueAcross(chart: Chart): { columns: number; declared: number } | null {
  if (!repeatsAcross(chart)) return null;
  const book = bookOf(chart);
  const { start, end } = repeatColumns(chart);
  const declared = end - start;
  // Pieces that each go into the declared repeat: so does the smallest that all of them go into.
  let columns = 1;
  for (let r = 0; r < chart.rows.length && columns < declared; r++) {
    const own = repeatColumns(chart, r);
    const piece = pieceOf(chart.rows[r]!, own.start, own.end, book);
    columns = lcm(columns, piece);
  }
  // No row may begin its repeat further off than the repeat is wide.
  const furthest = furthestJog(chart);
  let wider = columns;
  while (wider < declared && (wider <= furthest || declared % wider !== 0)) wider += columns;
  return { columns: Math.min(wider, declared), declared };
}

/** Whether two rows are the same cloth, begin their repeats alike, and lie on like bands or none. */
const sameRow = (chart: Chart, a: number, b: number): boolean =>
  jogOf(chart, a) === jogOf(chart, b) &&
  sameValue(chart.bands[a], chart.bands[b]) &&
  sameStitches(chart.rows[a]!, chart.rows[b]!);

/** The rows of the smallest repeat up that the declared one is made of. Null where nothing repeats up. */
export function trueUp(chart: Chart): { rows: number; declared: number } | null {
  const repeat = repeatRows(chart);
  if (!repeat) return null;
  const { first, last } = repeat;
  const declared = last - first + 1;
  const { rowsToSameSide } = wayOf(chart);
  for (let n = rowsToSameSide; 2 * n <= declared; n += rowsToSameSide) {
    let r = first + n;
    while (declared % n === 0 && r <= last && sameRow(chart, r, r - n)) r++;
    if (r > last) return { rows: n, declared };
  }
  return { rows: declared, declared };
}

/** A repeat that a chart shows, though it declares none or another: what stands before, how long it is, how often it comes. */
export interface Shown {
  before: number;
  length: number;
  times: number;
  after: number;
}

const NOTHING: Shown = { before: 0, length: 0, times: 0, after: 0 };

/**
 * The smallest repeat that shows itself in a list: with the fewest places outside it, and of these the one whose
 * repeat is shortest. At least two whole repeats must stand there. `canCut` says where a line may run: before the
 * first repeat, after it, and after the last.
 */
export function shownRepeat(
  length: number,
  same: (a: number, b: number) => boolean,
  canCut: (at: number) => boolean,
  step = 1,
): Shown | null {
  let best: Shown = NOTHING;
  for (let n = step; 2 * n <= length; n += step) {
    // Runs of places that are each as the one a repeat further on.
    for (let from = 0; from + 2 * n <= length;) {
      if (!same(from, from + n)) {
        from++;
        continue;
      }
      let to = from;
      while (to + n < length && same(to, to + n)) to++;
      for (let at = from; at < to; at++) {
        let times = Math.floor((to - at) / n) + 1;
        while (times > 1 && !canCut(at + times * n)) times--;
        if (times < 2 || !canCut(at) || !canCut(at + n)) continue;
        if (times * n > best.times * best.length)
          best = { before: at, length: n, times, after: length - at - times * n };
      }
      from = to + 1;
    }
    if (best.times * best.length === length) break;
  }
  return best.length ? best : null;
}

/** The repeat across that the columns show, the declared one left aside; null where none does, or rows are shifted. */
export function shownAcross(chart: Chart): Shown | null {
  const book = bookOf(chart);
  const { width } = chart;
  const cells = chart.rows.map((row) => cellsOf(row, book));
  if (hasJogs(chart) || cells.some((row) => row.length !== width)) return null;
  // Columns compare as a whole, so each is one number.
  const ids = new Map<string, number>();
  const columns = Array.from({ length: width }, (_, c) => {
    const key = cells.map((row) => row[c]).join('|');
    if (!ids.has(key)) ids.set(key, ids.size);
    return ids.get(key)!;
  });
  const canCut = (at: number) => at === width || cells.every((row) => row[at]!.endsWith('@0'));
  return shownRepeat(width, (a, b) => columns[a] === columns[b], canCut);
}

/** The repeat up that the rows show; null where none does. In flat work it keeps rows on their sides. */
export const shownUp = (chart: Chart): Shown | null =>
  shownRepeat(
    chart.rows.length,
    (a, b) => sameRow(chart, a, b),
    () => true,
    wayOf(chart).rowsToSameSide,
  );

/** Whether a repeat that shows itself says another length than the declared one, and neither is made of the other. */
const isAnother = (shown: Shown | null, declared: number): shown is Shown =>
  shown !== null &&
  shown.length > 1 &&
  shown.times * shown.length > declared &&
  declared % shown.length !== 0 &&
  shown.length % declared !== 0;

/** A repeat that would be better declared. */
export interface Better extends Shown {
  /** Whether the declared repeat is made of it, so that the piece stays as it is; else it only shows itself as drawn. */
  isPart: boolean;
}

const asDrawn = (shown: Shown | null): Better | null => shown && { ...shown, isPart: false };

/** What the columns would be better said to repeat by; null where the declared repeat is the true one. */
export function betterAcross(chart: Chart): Better | null {
  const found = trueAcross(chart);
  const shown = () => shownAcross(chart);
  if (!found) return asDrawn(shown());
  const { columns, declared } = found;
  const { before, after, times } = acrossOf(chart);
  if (columns < declared)
    return { before, length: columns, times: (times * declared) / columns, after, isPart: true };
  const other = shown();
  return isAnother(other, declared) ? asDrawn(other) : null;
}

/** The same for rows. */
export function betterUp(chart: Chart): Better | null {
  const found = trueUp(chart);
  const shown = () => shownUp(chart);
  if (!found) return asDrawn(shown());
  const { rows, declared } = found;
  const { setup, closing, times } = upOf(chart);
  if (rows < declared)
    return { before: setup, length: rows, times: (times * declared) / rows, after: closing, isPart: true };
  const other = shown();
  return isAnother(other, declared) ? asDrawn(other) : null;
}

/**
 * Takes the smallest true repeat across: the columns that only repeat it are taken out. A piece whose declared repeat
 * is made of it stays the same; otherwise it is repeated as often as it is drawn. Where rows are shifted the columns
 * stay, after the repeat.
 *
 * @throws EditError where the declared repeat is the true one, or nothing repeats
 */
export function takeAcross(chart: Chart): Edit {
  const better = betterAcross(chart);
  if (!better) throw new EditError('No smaller repeat across shows itself here.');
  const { before, length, times, after, isPart } = better;
  const surplus = chart.width - before - after - length;
  const least = isPart ? acrossOf(chart).least * (surplus / length + 1) : 1;
  if (hasJogs(chart)) {
    const drawn = surplus / length;
    return setAcross(chart, {
      before,
      after: after + surplus,
      times: times - drawn,
      least: Math.max(1, least - drawn),
    });
  }
  return andThen(
    andThen(setAcross(chart, null), (c) =>
      surplus ? deleteColumns(c, before + length, surplus) : unchanged(c),
    ),
    (c) => setAcross(c, { before, after, times, least }),
  );
}

/** The same for rows. @throws EditError */
export function takeUp(chart: Chart): Edit {
  const better = betterUp(chart);
  if (!better) throw new EditError('No smaller repeat up shows itself here.');
  const { before, length, times, after, isPart } = better;
  const surplus = chart.rows.length - before - after - length;
  // Rows of a last pass that fill whole smaller repeats are passes of these.
  const part = isPart ? endOf(chart) : 0;
  const up = { setup: before, closing: after, times: times + Math.floor(part / length) };
  const rest = part % length;
  return andThen(
    andThen(setUp(chart, null), (c) => (surplus ? deleteRows(c, before + length, surplus) : unchanged(c))),
    (c) => setUp(c, rest ? { ...up, end: before + rest } : up),
  );
}

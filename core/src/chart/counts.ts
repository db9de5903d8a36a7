import { isCrossing, kindOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { columnsBelow, linesAcross, startOf } from './frame.js';
import { become, cellsIn, EditError, takeColumns, andThen, unchanged, type Edit } from './edit.js';
import { fillBlock, openColumns, placeStitches, splitRow, type Block } from './edits.js';
import { indexAt, rowFacts, spanOfAll } from './rows.js';
import { bookOf, type Chart, type Row } from './schema.js';

/**
 * Edits that win or lose loops. A row's cells are the loops it leaves, so where a row wins loops the columns
 * above open, and where it loses some they close; gaps are put in and taken out here and nowhere else.
 */

const plainOf = (face: 'knit' | 'purl' | undefined): Stitch => (face === 'purl' ? 'p' : 'k');

/** A stitch of one column that takes one loop and makes one. */
function isPlain(stitch: Stitch, book: StitchBook): boolean {
  const { takes, makes, span } = book.facts(stitch);
  return takes === 1 && makes === 1 && span === 1;
}

const isSteady = (stitch: Stitch, book: StitchBook): boolean => {
  const { takes, makes } = book.facts(stitch);
  return takes === makes;
};

/** What a decrease becomes when one of its loops is no longer there. */
const ONE_LOOP_LESS: Record<string, string> = {
  k2tog: 'k',
  ssk: 'k',
  p2tog: 'p',
  ssp: 'p',
  k3tog: 'k2tog',
  sssk: 'ssk',
  p3tog: 'p2tog',
  sssp: 'ssp',
  cdd: 'k2tog',
  cddp: 'p2tog',
};

function refuseCut(chart: Chart, column: number, skip: number): void {
  const book = bookOf(chart);
  chart.rows.forEach((row, r) => {
    if (r === skip || column <= 0) return;
    const i = indexAt(row, column, book);
    if (i >= 0 && rowFacts(row, book).starts[i] !== column)
      throw new EditError(
        `Row ${r + 1} works one stitch across this place, between columns ${column} and ${column + 1}. Move it first.`,
      );
  });
}

/** One cell of a row replaced by another of one column. */
function withCell(row: Row, column: number, stitch: Stitch, book: StitchBook): Row {
  const i = indexAt(row, column, book);
  return row.map((s, k) => (k === i ? stitch : s));
}

/** Columns from `column` that are gaps in this row and all above it: free to be opened again. */
function dormant(chart: Chart, r: number, column: number, most: number): number {
  const book = bookOf(chart);
  let n = 0;
  while (n < most && column + n < chart.width) {
    const at = column + n;
    if (!chart.rows.slice(r).every((row) => row[indexAt(row, at, book)] === NO_STITCH)) break;
    n++;
  }
  return n;
}

function refuseUnlessPlain(chart: Chart, r: number, columns: readonly number[], what: string): void {
  const book = bookOf(chart);
  for (const c of columns) {
    const row = chart.rows[r]!;
    const i = indexAt(row, c, book);
    if (i < 0 || !isPlain(row[i]!, book))
      throw new EditError(
        `A ${what} is worked into plain stitches; column ${c + 1} of row ${r + 1} holds none.`,
      );
  }
}

/** Sets a stitch that makes more than it takes: the columns of the new loops open above it. */
function increase(chart: Chart, r: number, column: number, stitch: Stitch): Edit {
  const book = bookOf(chart);
  const { takes, makes, span, faces } = book.facts(stitch);
  const into = Array.from({ length: takes }, (_, i) => column + i);
  refuseUnlessPlain(chart, r, into, kindOf(stitch as string, book).name);
  const first = column + takes;
  const reused = dormant(chart, r, first, span - takes);
  const fresh = span - takes - reused;
  if (fresh) refuseCut(chart, first + reused, -1);
  const above = Array.from({ length: span - takes }, (_, i): Stitch => {
    const loop = takes + i;
    return loop < makes ? plainOf(faces === 'below' ? 'knit' : faces[loop]) : NO_STITCH;
  });
  const opened = fresh
    ? openColumns(
        chart,
        first + reused,
        fresh,
        (row) => (row > r ? above.slice(reused) : Array<Stitch>(fresh).fill(NO_STITCH)),
        'inside',
      )
    : unchanged(chart);
  const rows = opened.chart.rows.map((row, q) => {
    if (q < r) return row;
    if (q > r)
      return above.slice(0, reused).reduce<Row>((cells, s, i) => withCell(cells, first + i, s, book), row);
    const [right, rest] = splitRow(row, column, book);
    return [...right, stitch, ...splitRow(rest, span, book)[1]];
  });
  return andThen(opened, (c) => become(c, { ...c, rows }));
}

/** The columns of the next `count` plain stitches from a column leftwards, gaps passed over. */
function plainColumns(chart: Chart, r: number, column: number, count: number, what: string): number[] {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const columns: number[] = [];
  for (let c = column; columns.length < count; c++) {
    const i = indexAt(row, c, book);
    if (i < 0)
      throw new EditError(
        `A ${what} takes ${count} stitches; row ${r + 1} has ${columns.length} from column ${column + 1}.`,
      );
    if (row[i] === NO_STITCH) continue;
    if (!isPlain(row[i]!, book))
      throw new EditError(
        `A ${what} is worked over plain stitches; column ${c + 1} of row ${r + 1} holds none.`,
      );
    columns.push(c);
  }
  return columns;
}

/** Sets a stitch that makes fewer than it takes: the columns of the lost loops close above it. */
function decrease(chart: Chart, r: number, column: number, stitch: Stitch): Edit {
  const book = bookOf(chart);
  const { takes, makes, span, continues } = book.facts(stitch);
  const taken = plainColumns(chart, r, column, takes, kindOf(stitch as string, book).name);
  const kept = makes === 1 && span === 1 ? [taken[Math.max(0, continues[0]!)]!] : taken.slice(0, span);
  if (kept.some((c, i) => c !== kept[0]! + i))
    throw new EditError('The stitch needs adjoining columns; a gap lies between them.');
  let row: Row = chart.rows[r]!;
  for (const c of taken) row = withCell(row, c, NO_STITCH, book);
  const [right, rest] = splitRow(row, kept[0] ?? column, book);
  const placed = kept.length ? [...right, stitch, ...splitRow(rest, span, book)[1]] : [...row];
  const lost = taken.filter((c) => !kept.slice(0, makes).includes(c));
  return become(chart, { ...chart, rows: closeAbove(chart, r, lost).with(r, placed) });
}

/** The chart's rows, the loops that row `r` leaves in these columns taken out of all rows above it. */
function closeAbove(chart: Chart, r: number, columns: readonly number[]): readonly Row[] {
  const book = bookOf(chart);
  let open = [...columns];
  return chart.rows.map((row, q): Row => {
    if (q <= r || !open.length) return row;
    const live = columnsBelow(chart, q);
    const shifted = startOf(chart, q) - startOf(chart, q - 1);
    const takers = row.flatMap((s, i) => Array<number>(book.facts(s).takes).fill(i));
    const { starts } = rowFacts(row, book);
    const cells: Stitch[] = [...row];
    const next: number[] = [];
    for (const column of open) {
      const here = column - shifted;
      const i = takers[live.findIndex((c) => c === here || Math.abs(c - here) === (shifted && chart.width))];
      if (i === undefined) continue;
      const taker = cells[i]!;
      if (isPlain(taker, book)) {
        cells[i] = NO_STITCH;
        next.push(starts[i]!);
        continue;
      }
      const less = isCrossing(taker) ? undefined : ONE_LOOP_LESS[taker];
      if (!less)
        throw new EditError(
          `Row ${q + 1} ${isCrossing(taker) ? 'crosses' : `works a ${kindOf(taker, book).name} into`} a stitch that would be gone. Take that away first.`,
        );
      cells[i] = less;
    }
    open = next;
    return cells;
  });
}

/** Takes out those of the columns that are gaps in every row; the repeat lines move along. */
function dropEmptyColumns(chart: Chart, columns: readonly number[]): Edit {
  const book = bookOf(chart);
  const empty = columns.filter((c) => chart.rows.every((row) => row[indexAt(row, c, book)] === NO_STITCH));
  // From the left, so that those still to go keep their places.
  return [...empty].reverse().reduce(
    (edit, at) =>
      andThen(edit, (c) =>
        takeColumns(
          c,
          at,
          1,
          c.rows.map((row) => cellsIn(row, at, 1, c)),
        ),
      ),
    unchanged(chart),
  );
}

/**
 * Takes away the increase or decrease at a cell: its columns close or open again, and plain stitches stand
 * where it stood. Any other cell is left as it is.
 *
 * @throws EditError when a row above works what would be gone
 */
export function unworkStitch(chart: Chart, r: number, column: number): Edit {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const i = indexAt(row, column, book);
  const stitch = i < 0 ? NO_STITCH : row[i]!;
  if (isSteady(stitch, book) || isCrossing(stitch)) return unchanged(chart);
  const { takes, makes, span, faces } = book.facts(stitch);
  const start = rowFacts(row, book).starts[i]!;
  const face = faces === 'below' ? 'knit' : faces[0];
  if (makes > takes) {
    const cells = Array.from({ length: span }, (_, k): Stitch => (k < takes ? plainOf(face) : NO_STITCH));
    const lost = Array.from({ length: makes - takes }, (_, k) => start + takes + k);
    const rows = closeAbove(chart, r, lost).with(r, [...row.slice(0, i), ...cells, ...row.slice(i + 1)]);
    const emptied = Array.from({ length: span - takes }, (_, k) => start + takes + k);
    return andThen(become(chart, { ...chart, rows }), (c) => dropEmptyColumns(c, emptied));
  }
  // Where none of its loops comes from its own columns any more, as after a loop below was lost, they still stay.
  const again = columnsTaken(chart, r, i)
    .filter((c) => c < start || c >= start + makes)
    .slice(makes - takes);
  const rows = chart.rows.map((cells, q): Row => {
    if (q < r) return cells;
    const opened = again.reduce<Row>((c, at) => {
      if (c[indexAt(c, at, book)] !== NO_STITCH)
        throw new EditError(
          `Row ${q + 1} works a stitch of its own in column ${at + 1}, where one would open again.`,
        );
      return withCell(c, at, plainOf(face), book);
    }, cells);
    if (q > r) return opened;
    const k = indexAt(opened, start, book);
    const instead = Array.from({ length: span }, (_, n): Stitch => (n < makes ? plainOf(face) : NO_STITCH));
    return [...opened.slice(0, k), ...instead, ...opened.slice(k + 1)];
  });
  return become(chart, { ...chart, rows });
}

/** The columns of the loops a stitch takes. In row 1 they are its own and the gaps beside it. */
function columnsTaken(chart: Chart, r: number, i: number): number[] {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const { takes } = book.facts(row[i]!);
  if (r > 0) {
    const first = row.slice(0, i).reduce((sum, s) => sum + book.facts(s).takes, 0);
    return columnsBelow(chart, r).slice(first, first + takes);
  }
  const { starts } = rowFacts(row, book);
  const columns = [starts[i]!];
  for (let k = i + 1; columns.length < takes && row[k] === NO_STITCH; k++) columns.push(starts[k]!);
  for (let k = i - 1; columns.length < takes && row[k] === NO_STITCH; k--) columns.push(starts[k]!);
  return columns;
}

/**
 * Works one stitch at a cell, whatever it takes and makes, and keeps the columns above in order. Increases
 * and decreases that it covers are taken away first.
 *
 * @throws EditError when there is no room, or a row above works what would be gone
 */
export function workStitch(chart: Chart, r: number, column: number, stitch: Stitch): Edit {
  const book = bookOf(chart);
  if (!chart.rows[r]) throw new EditError(`The chart has no row ${r + 1}.`);
  const { takes, makes, span } = book.facts(stitch);
  if (column + Math.max(1, Math.min(takes, span)) > Math.max(chart.width, rowFacts(chart.rows[r], book).span))
    return placeStitches(chart, r, column, [stitch]);
  const at = ownStart(chart, r, column);
  let cleared = unchanged(chart);
  for (let c = at; c < at + Math.max(1, takes) && c < cleared.chart.width; c++)
    cleared = andThen(cleared, (made) => unworkStitch(made, r, c));
  const worked = andThen(cleared, (clear) => {
    if (takes < makes) return increase(clear, r, at, stitch);
    if (takes > makes) return decrease(clear, r, at, stitch);
    // An increase that took no loop leaves a gap where its column stays: there is nothing to work a stitch into.
    const leftGap = clear !== chart && clear.rows[r]![indexAt(clear.rows[r]!, at, book)] === NO_STITCH;
    return leftGap && span === 1 ? unchanged(clear) : placeStitches(clear, r, at, [stitch]);
  });
  return takes === makes ? worked : takeFreed(worked, at - 1, at + Math.max(takes, span));
}

/**
 * Where a column that an increase opened lies right beside one that a decrease freed, the two become one: no row
 * works a stitch in both, so plain lace keeps its width. Looked for from column `from` to `to`.
 */
function takeFreed(edit: Edit, from: number, to: number): Edit {
  for (let c = Math.max(0, from); c <= Math.min(to, edit.chart.width - 2); c++) {
    const { chart } = edit;
    const slid = slideGaps(chart, c);
    if (!slid) continue;
    return takeFreed(
      andThen(
        andThen(edit, (made) => become(made, { ...made, rows: slid })),
        (made) => dropEmptyColumns(made, [c + 1]),
      ),
      from,
      to - 1,
    );
  }
  return edit;
}

/**
 * The rows with the gaps of two columns all moved to the left one of them; null where a row works a stitch in both,
 * or a repeat line runs between them.
 */
function slideGaps(chart: Chart, column: number): Row[] | null {
  if (linesAcross(chart).includes(column + 1)) return null;
  const book = bookOf(chart);
  const isEmpty = (c: number) => chart.rows.every((row) => row[indexAt(row, c, book)] === NO_STITCH);
  // A column that a decrease of row 1 freed belongs to the cast-on.
  if (isEmpty(column) || isEmpty(column + 1)) return null;
  const rows: Row[] = [];
  for (const row of chart.rows) {
    const [i, k] = [indexAt(row, column, book), indexAt(row, column + 1, book)];
    if (i < 0 || k < 0 || i === k) return null;
    if (row[k] === NO_STITCH) rows.push(row);
    else if (row[i] === NO_STITCH && book.facts(row[k]!).span === 1)
      rows.push(row.with(i, row[k]!).with(k, NO_STITCH));
    else return null;
  }
  return rows;
}

/** Where an increase that covers the cell begins: it is replaced as a whole. Any other cell is its own. */
function ownStart(chart: Chart, r: number, column: number): number {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const i = indexAt(row, column, book);
  return i < 0 || isCrossing(row[i]!) ? column : rowFacts(row, book).starts[i]!;
}

/** Works stitches from a column leftwards, one after the other. */
export function workRun(chart: Chart, r: number, column: number, stitches: readonly Stitch[]): Edit {
  const book = bookOf(chart);
  const row = chart.rows[r] ?? [];
  const covered = stitches.every((s) => isSteady(s, book)) && row.every((s) => isSteady(s, book));
  if (covered) return placeStitches(chart, r, column, stitches);
  let at = column;
  return stitches.reduce((edit, s) => {
    const worked = andThen(edit, (c) => workStitch(c, r, at, s));
    at += spanOfAll([s], book);
    return worked;
  }, unchanged(chart));
}

/**
 * Fills a block with one stitch. Increases and decreases in it are taken away first, with the columns they
 * opened or closed.
 */
export function fillCounted(chart: Chart, { rows, columns }: Block, stitch: Stitch): Edit {
  let edited = unchanged(chart);
  let { to } = columns;
  for (let r = rows.to; r >= rows.from; r--)
    for (let c = to; c >= columns.from; c--) {
      const { width } = edited.chart;
      edited = andThen(edited, (made) => unworkStitch(made, r, c));
      to -= Math.max(0, width - edited.chart.width);
    }
  const left = { rows, columns: { from: columns.from, to: Math.max(to, columns.from) } };
  return andThen(edited, (made) => fillBlock(made, left, stitch));
}

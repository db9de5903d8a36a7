import {
  hasMirror,
  isCrossing,
  kindOf,
  mirrorStitch,
  spanOf,
  stitchId,
  type Stitch,
  type StitchBook,
} from '../stitches/book.js';
import { hasSetting, wayOf, rowTitle } from '../construction/index.js';
import { workedAfter } from '../stitches/crossing.js';
import { NO_STITCH } from '../stitches/kinds.js';
import {
  become,
  cellsIn,
  EditError,
  putColumns,
  putRows,
  sound,
  takeColumns,
  takeRows,
  andThen,
  unchanged,
  type Edit,
} from './edit.js';
import { startOf, withJog } from './frame.js';
import {
  jogFault,
  mirroredFrame,
  outsideForNew,
  takesWholeRepeat,
  withoutEmptyEnd,
  type Across,
  type Up,
} from './repeat-lines.js';
import { movedMeant, type MeantPlaces } from './meant.js';
import { cutAt, indexAt, rowFacts, rowUse, spanOfAll } from './rows.js';
import { bookOf, LIMITS, type Chart, type Mirror, type Row } from './schema.js';

/** A block of cells: `from`–`to` columns and rows, both ends included, counted from 0, right and bottom. */
export interface Block {
  columns: { from: number; to: number };
  rows: { from: number; to: number };
}

export function withRow(chart: Chart, index: number, row: Row): Edit {
  if (!chart.rows[index]) throw new EditError(`The chart has no row ${index + 1}.`);
  return become(chart, { ...chart, rows: chart.rows.with(index, row) });
}

/**
 * The stitches right of a column and those from it leftwards. A crossing that lies across the cut falls
 * apart into plain stitches of the faces it showed.
 *
 * @throws EditError when an increase or a stitch of her own lies across the cut: halves of those mean nothing
 */
export function splitRow(row: Row, column: number, book: StitchBook): [Stitch[], Stitch[]] {
  const i = indexAt(row, column, book);
  if (i < 0) return [[...row], []];
  const stitch = row[i]!;
  const offset = column - rowFacts(row, book).starts[i]!;
  if (offset === 0) return [row.slice(0, i), row.slice(i)];
  if (!isCrossing(stitch))
    throw new EditError(`That would cut through a ${kindOf(stitch, book).name}. Take it away whole first.`);
  const plain = workedAfter(stitch);
  return [
    [...row.slice(0, i), ...plain.slice(0, offset)],
    [...plain.slice(offset), ...row.slice(i + 1)],
  ];
}

/** How many gaps stand from a column leftwards among the next `columns` columns that are none. */
function gapsAmong(row: Row, column: number, columns: number, book: StitchBook): number {
  let gaps = 0;
  for (let c = column, left = columns; left > 0; c++) {
    const i = indexAt(row, c, book);
    if (i < 0) break;
    if (row[i] === NO_STITCH) gaps++;
    else left--;
  }
  return gaps;
}

/**
 * Puts stitches into a row from a column leftwards, in place of the cells they cover. What this cuts into becomes
 * plain. Gaps stand between loops and carry none: where a crossing would reach over some, they slide to its left.
 *
 * @throws EditError when there is no room
 */
export function placeStitches(chart: Chart, r: number, column: number, stitches: readonly Stitch[]): Edit {
  const book = bookOf(chart);
  const row = chart.rows[r];
  if (!row) throw new EditError(`The chart has no row ${r + 1}.`);
  const placed: Stitch[] = [];
  let reach = 0;
  for (const s of stitches) {
    const span = spanOf(s, book);
    const gaps = isCrossing(s) ? gapsAmong(row, column + reach, span, book) : 0;
    placed.push(s, ...Array<Stitch>(gaps).fill(NO_STITCH));
    reach += span + gaps;
  }
  const room = Math.max(chart.width, rowFacts(row, book).span) - column;
  if (reach > room)
    throw new EditError(
      `${reach} columns are needed from column ${column + 1}; row ${r + 1} has ${Math.max(0, room)} left.`,
    );
  const [right, rest] = splitRow(row, column, book);
  const [, left] = splitRow(rest, reach, book);
  const edit = withRow(chart, r, [...right, ...placed, ...left]);
  return { ...edit, laid: [{ row: r, from: column, to: column + reach }] };
}

/** The cells of a block as rows of stitches; crossings cut by its edge fall into plain stitches. */
export function copyBlock(chart: Chart, { columns, rows }: Block): Row[] {
  const book = bookOf(chart);
  return chart.rows.slice(rows.from, rows.to + 1).map((row) => {
    const [, rest] = splitRow(row, columns.from, book);
    return splitRow(rest, columns.to - columns.from + 1, book)[0];
  });
}

/** Lays copied rows with their lower right corner at a cell; what reaches beyond the chart is left off. */
export function pasteRows(chart: Chart, r: number, column: number, rows: readonly Row[]): Edit {
  const book = bookOf(chart);
  return rows.slice(0, chart.rows.length - r).reduce((edited, row, i) => {
    const room = chart.width - column;
    const fitting = spanOfAll(row, book) > room ? splitRow(row, room, book)[0] : row;
    return andThen(edited, (c) => placeStitches(c, r + i, column, fitting));
  }, unchanged(chart));
}

/** Stitches of the designer's own that copied rows use. */
export function ownIn(rows: readonly Row[], own: Chart['own']): Chart['own'] {
  const used = new Set(rows.flatMap((row) => [...rowUse(row).keys()]).filter((s) => typeof s === 'string'));
  const ids = new Set(own.flatMap((o) => (used.has(o.id) ? [o.id, o.mirror ?? o.id] : [])));
  return own.filter((o) => ids.has(o.id));
}

/**
 * Copied rows laid into another chart, which gets to know the stitches of the designer's own they use. One it knows
 * already by that id stays as it knows it.
 */
export function pasteFrom(
  chart: Chart,
  r: number,
  column: number,
  rows: readonly Row[],
  own: Chart['own'],
): Edit {
  const brought = own.filter((o) => !chart.own.some((known) => known.id === o.id));
  const known = become(chart, {
    ...chart,
    own: [...chart.own, ...brought].sort((a, b) => (a.id < b.id ? -1 : 1)),
  });
  return andThen(brought.length ? known : unchanged(chart), (c) => pasteRows(c, r, column, rows));
}

/** Fills a block with one stitch, as often as it fits. */
export function fillBlock(chart: Chart, block: Block, stitch: Stitch): Edit {
  const book = bookOf(chart);
  const width = block.columns.to - block.columns.from + 1;
  const fits = Math.floor(width / spanOf(stitch, book));
  if (!fits) throw new EditError(`The stitch needs ${spanOf(stitch, book)} columns; ${width} are selected.`);
  const run = Array<Stitch>(fits).fill(stitch);
  let edited = unchanged(chart);
  for (let r = block.rows.from; r <= block.rows.to; r++)
    edited = andThen(edited, (c) => placeStitches(c, r, block.columns.from, run));
  return edited;
}

function mirrorRow(row: Row, book: StitchBook): Stitch[] {
  return [...row].reverse().map((s) => mirrorStitch(s, book));
}

/** Turns a block left to right: order, crossings and leaning stitches. */
export function mirrorBlock(chart: Chart, block: Block): Edit {
  const book = bookOf(chart);
  const copied = copyBlock(chart, block);
  const without = copied.flat().find((s) => !hasMirror(s, book));
  if (without !== undefined)
    throw new EditError(
      `"${kindOf(without as string, book).name}" is not the same from both sides: say in its description which stitch is its mirror image.`,
    );
  const mirrored = copied.map((row) => mirrorRow(row, book));
  return pasteRows(chart, block.rows.from, block.columns.from, mirrored);
}

/** The chart as a mirror shows it: the cloth of a left-handed knitter who follows right-handed words. */
export function mirrorChart(chart: Chart): Chart {
  const book = bookOf(chart);
  return { ...chart, ...mirroredFrame(chart), rows: chart.rows.map((row) => mirrorRow(row, book)) };
}

export function groundRow(chart: Pick<Chart, 'width' | 'ground'>): Row {
  return Array<Stitch>(chart.width).fill(chart.ground);
}

/**
 * What stands at places of the chart besides stitches, after rows or columns came (or, with a negative count, went): its
 * line of symmetry, none where it now stands outside, and what was accepted.
 */
function placesMoved(
  edit: Edit,
  { mirror, meant }: Chart,
  of: 'rows' | 'columns',
  at: number,
  count: number,
): Edit {
  return andThen(edit, (c) =>
    withPlaces(c, movedMirror(mirror, of, at, count), movedMeant(meant, of, at, count)),
  );
}

function withPlaces(chart: Chart, mirror: Mirror | null, meant: MeantPlaces): Edit {
  const isInside =
    mirror &&
    mirror.axis > 0 &&
    mirror.axis < 2 * chart.width &&
    (mirror.turn === undefined || (mirror.turn > 0 && mirror.turn < 2 * chart.rows.length));
  return become(chart, { ...chart, mirror: isInside ? mirror : null, meant });
}

/** The line of symmetry after rows or columns came (or, with a negative count, went) at a place. */
function movedMirror(
  mirror: Mirror | null,
  of: 'rows' | 'columns',
  at: number,
  count: number,
): Mirror | null {
  const moved = (half: number) => (half > 2 * at ? Math.max(2 * at, half + 2 * count) : half);
  if (!mirror) return null;
  if (of === 'columns') return { ...mirror, axis: moved(mirror.axis) };
  return mirror.turn === undefined ? mirror : { ...mirror, turn: moved(mirror.turn) };
}

/**
 * Inserts rows so that the first new one becomes row `at` + 1. Rows between set-up and closing lengthen
 * the repeat up; rows at its edge lie outside it.
 */
export function insertRows(chart: Chart, at: number, rows: readonly Row[]): Edit {
  if (chart.rows.length + rows.length > LIMITS.rows)
    throw new EditError(`A chart holds at most ${LIMITS.rows} rows.`);
  const put = putRows(chart, at, rows, outsideForNew(chart, 'rows', rows.length));
  return placesMoved(put, chart, 'rows', at, rows.length);
}

export function deleteRows(chart: Chart, at: number, count: number): Edit {
  if (count >= chart.rows.length) throw new EditError('A chart keeps at least one row.');
  const lifted = takesWholeRepeat(chart, 'rows', at, count);
  const up = lifted ? null : withoutEmptyEnd(chart, at, count);
  const taken = andThen(become(chart, { ...chart, up }), (c) => takeRows(c, at, count));
  // A band below the first of them stays, before the row that comes to stand there.
  const band = chart.bands[at];
  const kept = andThen(taken, (c) =>
    band && c.rows[at] && !c.bands[at]
      ? become(c, { ...c, bands: { ...c.bands, [at]: band } })
      : unchanged(c),
  );
  return placesMoved(kept, chart, 'rows', at, -count);
}

/** Inserts columns of ground so that the first new one becomes column `at` + 1, in every row. */
export function insertColumns(chart: Chart, at: number, count: number): Edit {
  if (chart.width + count > LIMITS.columns)
    throw new EditError(`A chart holds at most ${LIMITS.columns} columns.`);
  return openColumns(chart, at, count, () => Array<Stitch>(count).fill(chart.ground));
}

/** The chart with whatever lies across a column fallen into plain stitches. @throws EditError as `splitRow` */
function cutColumn(chart: Chart, column: number): Edit {
  const book = bookOf(chart);
  const rows = chart.rows.map((row) =>
    column > rowFacts(row, book).span || cutAt(row, column, book) >= 0
      ? row
      : splitRow(row, column, book).flat(),
  );
  return become(chart, { ...chart, rows });
}

/**
 * Widens every row at a column by what `cells` gives for it; the repeat lines move along. New columns at the
 * right line of the repeat lie outside it, or `inside`.
 */
export function openColumns(
  chart: Chart,
  at: number,
  count: number,
  cells: (row: number) => readonly Stitch[],
  atLine: 'outside' | 'inside' = 'outside',
): Edit {
  if (chart.width + count > LIMITS.columns)
    throw new EditError(`A chart holds at most ${LIMITS.columns} columns.`);
  const outside = atLine === 'outside' && at > 0 ? count : 0;
  const put = andThen(cutColumn(chart, at), (c) =>
    putColumns(
      c,
      at,
      count,
      c.rows.map((_, r) => cells(r)),
      [outside, 0],
    ),
  );
  return placesMoved(put, chart, 'columns', at, count);
}

export function deleteColumns(chart: Chart, at: number, count: number): Edit {
  if (count >= chart.width) throw new EditError('A chart keeps at least one column.');
  const lifted = takesWholeRepeat(chart, 'columns', at, count);
  const cut = [at, at + count].reduce(
    (edit, column) => andThen(edit, (c) => cutColumn(c, column)),
    unchanged(chart),
  );
  const taken = andThen(
    andThen(cut, (c) => (lifted ? setAcross(c, null) : unchanged(c))),
    (c) =>
      takeColumns(
        c,
        at,
        count,
        c.rows.map((row) => cellsIn(row, at, count, c)),
      ),
  );
  return sound(placesMoved(taken, chart, 'columns', at, -count));
}

/**
 * Sets or lifts the repeat across; with it the rows that begin it elsewhere begin where the others do.
 *
 * @throws EditError when it leaves no column to repeat, or asks for too few or too many repeats
 */
export function setAcross(chart: Chart, across: Across | null): Edit {
  const jogs = across || wayOf(chart).shifts === 'start' ? chart.jogs : {};
  return become(chart, { ...chart, across, jogs });
}

/**
 * Sets how a chart is worked. What a shift of rows means differs, so none is kept where that changes; nor that both faces count,
 * nor a band, where a way has no such thing.
 */
export function setConstruction(
  chart: Chart,
  {
    construction,
    firstRow,
    ground,
    bothFaces = chart.bothFaces,
  }: Pick<Chart, 'construction' | 'firstRow' | 'ground'> & Partial<Pick<Chart, 'bothFaces'>>,
): Edit {
  const jogs = construction === chart.construction ? chart.jogs : {};
  const bands = wayOf({ construction }).takesBands ? chart.bands : {};
  return become(chart, {
    ...chart,
    construction,
    firstRow,
    bothFaces: bothFaces && hasSetting(construction, 'bothFaces'),
    ground,
    jogs,
    bands,
  });
}

/**
 * Begins the repeat of a row so many stitches later than the others', or earlier. In the round the round itself
 * begins there: its cells stay where they are, and those it now begins after become its last.
 *
 * @throws EditError when there is no room, or a stitch lies over the place where the round would begin
 */
export function setJog(chart: Chart, r: number, jog: number): Edit {
  const fault = jog ? jogFault(chart, r, jog) : null;
  if (fault) throw new EditError(fault);
  const now = withJog(chart, r, jog);
  const by = startOf(now, r) - startOf(chart, r);
  if (!by) return become(chart, now);
  const row = chart.rows[r]!;
  const book = bookOf(chart);
  const { span } = rowFacts(row, book);
  const cut = cutAt(row, by > 0 ? by : span + by, book);
  if (cut < 0)
    throw new EditError(
      `A stitch lies over the place where ${rowTitle(chart, r + 1).toLowerCase()} would begin.`,
    );
  return become(chart, { ...now, rows: chart.rows.with(r, [...row.slice(cut), ...row.slice(0, cut)]) });
}

export function setUp(chart: Chart, up: Up | null): Edit {
  return become(chart, { ...chart, up });
}

/** Every stitch of one kind replaced by another of the same takes, makes and span. */
export function replaceEverywhere(chart: Chart, from: Stitch, to: Stitch): Edit {
  const book = bookOf(chart);
  if (spanOf(from, book) !== spanOf(to, book))
    throw new EditError(
      `One covers ${spanOf(from, book)} columns and the other ${spanOf(to, book)}: only stitches of one size can change places.`,
    );
  const id = stitchId(from);
  const rows = chart.rows.map((row) =>
    row.some((s) => stitchId(s) === id) ? row.map((s) => (stitchId(s) === id ? to : s)) : row,
  );
  return become(chart, { ...chart, rows });
}

/** How often each stitch is used in the chart, most used first. */
export function stitchUse(chart: Chart): { stitch: Stitch; count: number }[] {
  const use = new Map<string, { stitch: Stitch; count: number }>();
  const add = (count: number, stitch: Stitch) => {
    const entry = use.get(stitchId(stitch));
    if (entry) entry.count += count;
    else use.set(stitchId(stitch), { stitch, count });
  };
  for (const row of chart.rows) rowUse(row).forEach(add);
  return [...use.values()].sort((a, b) => b.count - a.count);
}

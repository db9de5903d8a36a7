import { isCrossing, type Stitch, type StitchBook } from '../stitches/book.js';
import { crossing, simpleCrossing, stitchesBefore, workedAfter } from '../stitches/crossing.js';
import type { Lean } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { become, EditError, andThen, unchanged, type Edit } from './edit.js';
import { deleteColumns, insertRows, openColumns } from './edits.js';
import { sideOf } from '../construction/index.js';
import { indexAt, rowFacts } from './rows.js';
import { bookOf, type Chart, type Row } from './schema.js';

/**
 * Closed ropes: a pair of two-stitch ropes that rises out of the purl ground and ends in it.
 *
 * `between` stitches: lifted increases, two loops in one right-side row and two between them in the next;
 * closed by ssk, k2tog and, in the row after, two purl-faced decreases into the ground. `within` a stitch: one
 * purl stitch is worked into five and five are worked into one; a purl stitch stays in the middle.
 */
export type ClosedSchool = 'between' | 'within';

export interface ClosedRopes {
  /** The row it begins on and the stitch it grows left of (between) or out of (within), from 0. */
  row: number;
  column: number;
  school: ClosedSchool;
  /** Lean of the crossings where the ropes meet. */
  lean: Lean;
  /** Ground stitches each rope travels outward; 0 for a knot that only crosses. */
  spread: number;
  /** Pairs of plain rows between going out and coming back. */
  rest: number;
}

const WIDEST = 8;
const GAPS = 4;
const run = (n: number, s: Stitch = 'p') => Array<Stitch>(n).fill(s);
const gaps = (n: number) => run(n, NO_STITCH);
const out = { right: simpleCrossing('right', 2, 1, 'p'), left: simpleCrossing('left', 2, 1, 'p') };

/** The rows of a figure over its ground: `ground` purls, the figure's columns, `ground` purls. */
function figureRows({ school, lean, spread, rest }: ClosedRopes, ground: number): Stitch[][] {
  const within = school === 'within';
  const centre = within ? 1 : 0;
  const framed = (cells: Stitch[], side = ground) => [...run(side), ...cells, ...run(side)];
  const plain = (d: number) => framed(['k', 'k', ...run(2 * d + centre), 'k', 'k'], ground - d);
  const meet = framed([crossing(lean, ['k', 'k'], ['k', 'k'], within ? ['p'] : [])]);
  const part = (d: number) => framed([out.right, ...run(2 * d + centre), out.left], ground - d - 1);
  const join = (d: number) => framed([out.left, ...run(2 * d - 2 + centre), out.right], ground - d);

  const begin = within
    ? [framed(['kyokyok'])]
    : [framed(['lli', ...gaps(2), 'rli']), framed(['k', ...gaps(2), 'k']), framed(['k', 'lli', 'rli', 'k'])];
  const rows = [...begin, plain(0), meet, plain(0)];
  for (let d = 0; d < spread; d++) rows.push(part(d), plain(d + 1));
  for (let i = 0; i < rest; i++) rows.push(plain(spread), plain(spread));
  for (let d = spread; d > 0; d--) rows.push(join(d), plain(d - 1));
  if (spread || rest) rows.push(meet, plain(0));
  if (within) rows.push(framed([...gaps(2), 'p5tog', ...gaps(2)]));
  else rows.push(framed(['ssk', ...gaps(2), 'k2tog']), framed(['ssp', ...gaps(GAPS), 'p2tog'], ground - 1));
  return rows;
}

/** How many rows a figure takes. */
export function closedRopesHeight(figure: ClosedRopes): number {
  return figureRows(figure, figure.spread + 1).length;
}

/** Cells of a row from a column on, replaced by others. @throws EditError when a stitch lies across an end */
function replaceCells(
  row: Row,
  r: number,
  from: number,
  to: number,
  cells: readonly Stitch[],
  book: StitchBook,
): Stitch[] {
  return [...row.slice(0, cutAt(row, r, from, book)), ...cells, ...row.slice(cutAt(row, r, to, book))];
}

function cutAt(row: Row, r: number, column: number, book: StitchBook): number {
  const { starts, span } = rowFacts(row, book);
  if (column >= span) return row.length;
  const i = indexAt(row, column, book);
  if (starts[i] !== column)
    throw new EditError(
      `Row ${r + 1} works one stitch across this place, between columns ${column} and ${column + 1}. Move it first.`,
    );
  return i;
}

const cellAt = (row: Row, column: number, book: StitchBook): Stitch | undefined =>
  row[indexAt(row, column, book)];

/** The chart with `rows` in place of its own, which are wider or narrower by `by` columns at a column. */
function resized(chart: Chart, rows: readonly Row[], column: number, by: number): Edit {
  const widened =
    by > 0
      ? openColumns(chart, column + 1, by, () => gaps(by))
      : andThen(levelled(chart, column), (c) => deleteColumns(c, column, -by));
  return andThen(widened, (c) => become(c, { ...c, rows }));
}

/** Plain stitches in place of the one a row works at a column, so that a column of it can go. */
function levelled(chart: Chart, column: number): Edit {
  const book = bookOf(chart);
  const rows = chart.rows.map((row): Row => {
    const i = indexAt(row, column, book);
    return i < 0 ? row : [...row.slice(0, i), ...run(book.facts(row[i]!).span), ...row.slice(i + 1)];
  });
  return become(chart, { ...chart, rows });
}

/**
 * Draws a figure of closed ropes on a purl ground; four columns open for it.
 *
 * @throws EditError when it does not begin on a right-side row, has no room, or its ground is not clear
 */
export function drawClosedRopes(chart: Chart, figure: ClosedRopes): Edit {
  const { row: first, column, school, spread, rest } = figure;
  if (spread < 0 || spread > WIDEST || rest < 0 || rest > 20)
    throw new EditError('Ropes part by up to eight stitches and rest for up to twenty pairs of rows.');
  if (sideOf(chart, first) !== 'RS')
    throw new EditError(`Closed ropes begin on a right-side row; row ${first + 1} is a wrong-side row.`);
  if (school === 'between' && first === 0)
    throw new EditError(
      'Ropes that rise between stitches are lifted from the row below; row 1 has none. Begin higher up.',
    );
  const book = bookOf(chart);
  const ground = spread + 1;
  const within = school === 'within';
  const from = within ? column - ground : column + 1 - ground;
  const to = from + 2 * ground + (within ? 1 : 0);
  const rows = figureRows(figure, ground);
  if (from < 0 || to > chart.width)
    throw new EditError(
      `The figure needs ${ground} purl stitches on each side of its middle; there are not so many here.`,
    );
  if (first + rows.length > chart.rows.length)
    throw new EditError(
      `The figure is ${rows.length} rows high; from row ${first + 1} there are ${chart.rows.length - first}.`,
    );
  const drawn = chart.rows.map((cells, r): Row => {
    const own = rows[r - first];
    if (own) {
      for (let c = from; c < to; c++)
        if (cellAt(cells, c, book) !== 'p')
          throw new EditError(
            `Closed ropes need a clear purl ground; row ${r + 1} has something else in column ${c + 1}.`,
          );
      return replaceCells(cells, r, from, to, own, book);
    }
    if (!within) return replaceCells(cells, r, column + 1, column + 1, gaps(GAPS), book);
    const middle = cellAt(cells, column, book)!;
    cutAt(cells, r, column, book);
    return replaceCells(cells, r, column, column + 1, [...gaps(2), middle, ...gaps(2)], book);
  });
  return resized(chart, drawn, column, GAPS);
}

/** A figure found in a chart: its first and last right-side rows and its rightmost column. */
interface Found {
  school: ClosedSchool;
  opens: number;
  closes: number;
  column: number;
}

const is = (row: Row | undefined, column: number, cells: readonly Stitch[], book: StitchBook) =>
  !!row && cells.every((s, i) => cellAt(row, column + i, book) === s);

function closesAt(chart: Chart, school: ClosedSchool, from: number, column: number): number {
  const book = bookOf(chart);
  const ends: Stitch[][] =
    school === 'between'
      ? [['ssk', ...gaps(2), 'k2tog']]
      : ['p5tog', 'k5tog'].map((s) => [...gaps(2), s, ...gaps(2)]);
  return chart.rows.findIndex((row, r) => r > from && ends.some((cells) => is(row, column, cells, book)));
}

function findFigures(chart: Chart): Found[] {
  const book = bookOf(chart);
  return chart.rows.flatMap((row, r) =>
    row.flatMap((stitch, i): Found[] => {
      const column = rowFacts(row, book).starts[i]!;
      const between =
        stitch === 'lli' &&
        is(row, column, ['lli', ...gaps(2), 'rli'], book) &&
        is(chart.rows[r + 2], column, ['k', 'lli', 'rli', 'k'], book);
      if (!between && stitch !== 'kyokyok') return [];
      const school = between ? 'between' : 'within';
      const closes = closesAt(chart, school, r, column);
      return closes < 0 ? [] : [{ school, opens: r, closes, column }];
    }),
  );
}

/** The figure at a cell: the nearest of those whose rows include it. */
function figureAt(chart: Chart, row: number, column: number): Found {
  const here = findFigures(chart).filter((f) => row >= f.opens && row <= f.closes + 1);
  const distance = (f: Found) => Math.abs(column - f.column - 2);
  const [nearest] = here.sort((a, b) => distance(a) - distance(b));
  if (!nearest || distance(nearest) > 2 * WIDEST + 4)
    throw new EditError(
      'No closed ropes were found here. Put the cursor inside a figure that opens and closes.',
    );
  return nearest;
}

/** Puts a purl stitch into the middle of a figure's row, at a line between two columns. */
function widenRow(row: Row, r: number, line: number, book: StitchBook): Row {
  const i = indexAt(row, line, book);
  const stitch = row[i];
  const start = i < 0 ? line : rowFacts(row, book).starts[i]!;
  if (stitch === undefined || start === line) return replaceCells(row, r, line, line, ['p'], book);
  const halves = isCrossing(stitch) && !stitch.centre.length && stitch.front.length === stitch.back.length;
  if (!halves || start + stitch.front.length !== line)
    throw new EditError(
      `Row ${r + 1} works a stitch across the middle of the figure that cannot take a purl stitch in its centre.`,
    );
  return row.map((s, k) => (k === i ? crossing(stitch.lean, stitch.front, stitch.back, ['p']) : s));
}

/** Takes the purl stitch out of the middle of a figure's row. */
function narrowRow(row: Row, r: number, column: number, book: StitchBook): Row {
  const i = indexAt(row, column, book);
  const stitch = row[i]!;
  if (stitch === 'p' || stitch === 'k' || stitch === NO_STITCH)
    return [...row.slice(0, i), ...row.slice(i + 1)];
  const centred =
    isCrossing(stitch) && stitch.centre.length === 1 && stitch.front.length === stitch.back.length;
  if (!centred || rowFacts(row, book).starts[i]! + stitch.front.length !== column)
    throw new EditError(`Row ${r + 1} has no plain stitch in the middle of the figure to take out.`);
  return row.map((s, k) => (k === i ? crossing(stitch.lean, stitch.front, stitch.back) : s));
}

function toWithin(chart: Chart, { opens, closes, column }: Found): Edit {
  const book = bookOf(chart);
  const ground: Stitch[] = [...gaps(2), 'p', ...gaps(2)];
  const rows = chart.rows.map((row, r): Row => {
    const five = (cells: readonly Stitch[]) => replaceCells(row, r, column, column + GAPS, cells, book);
    if (r === opens || r === opens + 1) return five(ground);
    if (r === opens + 2) return five(['kyokyok']);
    if (r === closes) return five([...gaps(2), 'p5tog', ...gaps(2)]);
    if (r === closes + 1)
      return replaceCells(row, r, column - 1, column + GAPS + 1, ['p', ...ground, 'p'], book);
    return widenRow(row, r, column + 2, book);
  });
  return resized(chart, rows, column, 1);
}

function toBetween(chart: Chart, { opens, closes, column }: Found): Edit {
  const book = bookOf(chart);
  const rows = chart.rows.map((row, r): Row => {
    const four = (cells: readonly Stitch[]) => replaceCells(row, r, column, column + GAPS + 1, cells, book);
    if (r === opens - 2) return four(['lli', ...gaps(2), 'rli']);
    if (r === opens - 1) return four(['k', ...gaps(2), 'k']);
    if (r === opens) return four(['k', 'lli', 'rli', 'k']);
    if (r === closes) return four(['ssk', ...gaps(2), 'k2tog']);
    if (r === closes + 1) {
      if (cellAt(row, column - 1, book) !== 'p' || cellAt(row, column + GAPS + 1, book) !== 'p')
        throw new EditError(
          `The ropes end in the ground of row ${r + 1}, which needs a purl stitch on each side of them.`,
        );
      return replaceCells(row, r, column - 1, column + GAPS + 2, ['ssp', ...gaps(GAPS), 'p2tog'], book);
    }
    return narrowRow(row, r, column + 2, book);
  });
  return resized(chart, rows, column, -1);
}

/** Stitches that may go on in a row that only rests. */
const RESTING = ['k', 'p', 'ktbl', 'ptbl'];

/** A row that only rests, added under row 1 or above the last: it shows the faces of the loops that it meets. */
function restingRow(row: Row, r: number, where: 'below' | 'above', book: StitchBook): Row {
  return row.flatMap((s): Stitch[] => {
    if (isCrossing(s)) {
      return where === 'below' ? stitchesBefore(s).map(({ worked }) => worked) : workedAfter(s);
    }
    const { takes, makes, span, faces } = book.facts(s);
    if (takes === 1 && makes === 1 && span === 1)
      return [RESTING.includes(s) ? s : faces !== 'below' && faces[0] === 'purl' ? 'p' : 'k'];
    if (takes > makes)
      throw new EditError(`A row is needed beside row ${r + 1}, which loses stitches. Insert it first.`);
    if (takes === makes) return [s];
    // What an increase is worked into stands below its middle.
    const right = (span - takes) >> 1;
    return [...gaps(right), ...run(takes, 'p'), ...gaps(span - takes - right)];
  });
}

/**
 * Turns the figure at a cell into one of the other school over the same rows, where there are enough of them;
 * rows are added below and above where there are not. `said` tells what changed besides the figure.
 *
 * @throws EditError when there is no figure, or one of its rows does not allow it
 */
export function convertClosedRopes(chart: Chart, row: number, column: number): Edit & { said: string } {
  const figure = figureAt(chart, row, column);
  if (figure.school === 'between')
    return {
      ...toWithin(chart, figure),
      said: 'The ropes now grow out of one purl stitch: the chart is one stitch wider, and the figure begins two rows later and ends a row sooner.',
    };
  const book = bookOf(chart);
  let roomy = unchanged(chart);
  // It begins two rows sooner, and lifts its first loops from a row below that.
  const below = figure.opens >= 3 ? 0 : figure.opens === 0 ? 4 : 2;
  if (below) {
    const resting = restingRow(chart.rows[0]!, 0, 'below', book);
    roomy = andThen(roomy, (c) => insertRows(c, 0, Array<Row>(below).fill(resting)));
  }
  const moved = { ...figure, opens: figure.opens + below, closes: figure.closes + below };
  const top = roomy.chart.rows.length;
  const above = moved.closes + 1 >= top ? 1 : 0;
  if (above) {
    const last = roomy.chart.rows[top - 1]!;
    const grounded = replaceCells(
      last,
      top - 1,
      moved.column,
      moved.column + GAPS + 1,
      [...gaps(2), 'p', ...gaps(2)],
      book,
    );
    roomy = andThen(roomy, (c) => insertRows(c, top, [restingRow(grounded, top - 1, 'above', book)]));
  }
  const added = below + above;
  return {
    ...andThen(roomy, (c) => toBetween(c, moved)),
    said: `The ropes now rise between stitches: the chart is one stitch narrower, and the figure begins two rows sooner and ends a row later${added ? `; ${added} ${added === 1 ? 'row was' : 'rows were'} added for it` : ''}.`,
  };
}

import { expandRow, repeatsAcross, startOf } from '../chart/frame.js';
import type { Border, Piece, Size } from '../chart/piece.js';
import { rowCrossings, rowFacts } from '../chart/rows.js';
import { bookOf, invariants, LIMITS, type Chart, type Design, type Row } from '../chart/schema.js';
import { checkChart } from '../checks/index.js';
import { constructionOf } from '../construction/construction.js';
import { lengthFor, countOver } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';
import { sameFaces, type Needle } from '../needle/loop.js';
import { freshNeedle, workRow } from '../needle/needle.js';
import { crossingSize } from '../stitches/crossing.js';
import type { OwnStitch, Stitch, StitchBook } from '../stitches/book.js';
import type { Face, Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { sameValue } from '../values.js';
import { borderCells, borderRows, changesAmong, fewerIn, withGaps, type MeetingLoop } from './border.js';
import { CLOTH_KINDS, groundCells, selvageCells, type ClothRow } from './cloths.js';
import {
  centredUp,
  isBeyondMiddle,
  isChartPart,
  layOut,
  upOfPart,
  type Laid,
  type LaidPart,
} from './lay-out.js';
import {
  lengthWays,
  meetAgain,
  panelRowAt,
  sideAfter,
  type LengthWay,
  type MeetAgain,
  type PanelUp,
} from './up.js';

/**
 * A piece put together as one chart: border, increase row, the rows of all parts side by side, decrease row, border.
 * So what works, checks, writes and proves a chart does the same for a piece, in each of its sizes.
 */

export interface Assembled {
  chart: Chart;
  laid: Laid;
  /** Rows of the chart below the parts' own, the increase row among them, and those above. */
  below: number;
  above: number;
  /** Rows of the parts. */
  body: number;
  /** Whether there is an increase row, and a decrease row. */
  increases: number;
  decreases: number;
  castOn: number;
  meet: MeetAgain;
  /** The part whose rows are made to come out. */
  lead: LaidPart | null;
  /** How the wished length is met; null where none is wished for, or rows have no gauge. */
  way: LengthWay | null;
  length: Length | null;
}

/** Why a piece cannot be put together. */
export class PieceFault extends Error {
  constructor(
    message: string,
    readonly part?: string,
  ) {
    super(message);
  }
}

/** The cells, in a row's own columns, of the loops that it wants to find: as they present on the right side. */
export function facesWanted(row: Row, book: StitchBook): Stitch[] {
  const cells: Stitch[] = [];
  // Loops for which a stitch has no column of its own wait for the next that is free.
  let waiting: Stitch[] = [];
  for (const stitch of row) {
    const { takes, span, faces, continues } = book.facts(stitch);
    const wanted = Array.from({ length: takes }, (_, i): Stitch => {
      if (faces === 'below') return 'k';
      const made = continues.indexOf(i);
      return (faces[made < 0 ? 0 : made] ?? 'knit') === 'knit' ? 'k' : 'p';
    });
    waiting = [...waiting, ...wanted];
    for (let c = 0; c < span; c++) cells.push(waiting.shift() ?? NO_STITCH);
  }
  if (waiting.length) throw new PieceFault('Its first row takes more stitches than it has columns.');
  return cells;
}

/** One row of a part's chart, its repeat worked so often. */
function chartRow({ chart, times, part, name }: LaidPart, r: number): Row {
  const row = expandRow(chart!, r, times);
  if (!row) throw new PieceFault(`Row ${r + 1} of ${name} cannot be cut at its repeat.`, part.id);
  return row;
}

/** What is asked of a row of the piece above its border. */
interface BodyRow extends ClothRow {
  /** From 1. */
  number: number;
  last: number;
}

/** The cells of one part in a row of the piece, from the right. */
function partCells(laid: Laid, i: number, ups: readonly (PanelUp | null)[], row: BodyRow): Row {
  const of = laid.parts[i]!;
  const { part, chart } = of;
  const isLeft = isBeyondMiddle(laid.parts, i);
  if (part.kind === 'selvage') return selvageCells(part, row, isLeft);
  if (part.kind === 'ground') return groundCells(part.cloth, of.stitches, row, isLeft);
  if (!isChartPart(part) || !chart) return [];
  const up = ups[i]!;
  const r = panelRowAt(up, row.number, row.last);
  return r === null ? facesWanted(chartRow(of, up.begins - 1), bookOf(chart)) : chartRow(of, r - 1);
}

/** Whether a chart may stand in a piece as it is. @throws PieceFault */
function mustStand({ part, chart, name }: LaidPart, charts: readonly Chart[]): void {
  if (!isChartPart(part)) return;
  if (!chart) throw new PieceFault('A part works a chart that the design has no more.', part.id);
  if (part.kind === 'filling' && !repeatsAcross(chart))
    throw new PieceFault(
      `${name} has no repeat across, so it cannot fill a width: set its repeat on the Bench, or take it as a panel.`,
      part.id,
    );
  if (chart.rows.some((_, r) => startOf(chart, r) !== 0))
    throw new PieceFault(`${name} moves the marker of the round: it can only be a piece by itself.`, part.id);
  const original = charts.find((c) => c.id === part.chart)!;
  const faults = checkChart(original).filter((f) => f.level === 'error');
  if (faults.length)
    throw new PieceFault(
      `${name} cannot be knitted as it stands (${faults.length === 1 ? 'an error' : `${faults.length} errors`}): mend it on the Bench first.`,
      part.id,
    );
}

/** Whether each row of a part works what the one below it leaves. @throws PieceFault */
function mustGoOn({ parts }: Laid, cells: readonly (readonly Row[])[], book: StitchBook): void {
  parts.forEach(({ chart, part, name }, k) => {
    if (!chart) return;
    for (let r = 1; r < cells.length; r++) {
      const [left, wants] = [rowFacts(cells[r - 1]![k]!, book).makes, rowFacts(cells[r]![k]!, book).takes];
      if (left !== wants)
        throw new PieceFault(
          `${name} cannot go on at row ${r + 1} of the piece: it wants ${wants} stitches and ${left} are there. Its rows are worked over and over, so the last must leave as many as the first takes.`,
          part.id,
        );
    }
  });
}

/** The stitches of their own that the charts of a piece have. @throws PieceFault where two go by one id */
function ownOf(laid: Laid): readonly OwnStitch[] {
  const own = new Map<string, OwnStitch>();
  for (const { chart, part } of laid.parts)
    for (const o of chart?.own ?? []) {
      if (own.has(o.id) && !sameValue(own.get(o.id), o))
        throw new PieceFault(
          `Two charts have a stitch of their own, "${o.name}", that is not the same: give one another name.`,
          part.id,
        );
      own.set(o.id, o);
    }
  return [...own.values()];
}

/** The loops where a row of the piece is met, from the right: their columns, faces, and which rope they lie in. */
function meetingLoops(
  cells: readonly Stitch[],
  faceOf: (loop: number) => Face,
  ropeColumns: ReadonlySet<number>,
): { loops: MeetingLoop[]; columns: number[] } {
  const loops: MeetingLoop[] = [];
  const columns: number[] = [];
  let rope = -1;
  let inRope = false;
  cells.forEach((cell, column) => {
    if (cell === NO_STITCH) return;
    const face = faceOf(loops.length);
    const isRope = face === 'knit' && ropeColumns.has(column);
    if (isRope && !inRope) rope++;
    inRope = isRope;
    loops.push({ face, rope: isRope ? rope : -1 });
    columns.push(column);
  });
  return { loops, columns };
}

/** The columns that crossings move anywhere in some rows. */
function movedColumns(rows: readonly Row[], book: StitchBook): Set<number> {
  const moved = new Set<number>();
  for (const row of new Set(rows))
    for (const { column, crossing } of rowCrossings(row, book))
      for (let i = 0; i < crossingSize(crossing); i++) moved.add(column + i);
  return moved;
}

/** The rows after which a cloth beside the charts begins anew. */
const periodOf = ({ part }: LaidPart): number =>
  part.kind === 'ground'
    ? CLOTH_KINDS[part.cloth].every
    : part.kind === 'selvage' && part.style !== 'stocking'
      ? 2
      : 1;

/** Rows of the parts that are put together where no length is wished for: to where all have been begun anew. */
const MOST_BODY = LIMITS.rows - 420;

/** Rows of the borders, with those that lead to and from them where counts are to change. */
export const bordersHigh = ({ bottom, top }: Piece['border']): number =>
  [bottom, top].reduce(
    (sum, border) => sum + (border ? borderRows(border) + (border.changes === 'none' ? 0 : 1) : 0),
    0,
  );

/** The part whose rows are made to come out: the one chosen, or the first panel. */
export const leadOf = ({ parts }: Laid, { length: { lead } }: Piece): LaidPart | null =>
  parts.find((p) => p.part.id === lead && p.chart) ?? parts.find((p) => p.chart) ?? null;

/** The rows of the parts for a wished length. */
function bodyRows(
  laid: Laid,
  piece: Piece,
  size: Size,
  ups: readonly (PanelUp | null)[],
  meet: MeetAgain,
): { rows: number; way: LengthWay | null; begins: number | null } {
  const rowGauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  const lead = leadOf(laid, piece);
  const panels = ups.filter((u) => u !== null);
  const high = Math.max(
    1,
    ...panels.map(({ rows, start }) => start - 1 + rows.setup + rows.repeat + rows.closing),
  );
  const pass = Math.min(MOST_BODY, meet.every === null ? high : Math.max(high, meet.from - 1 + meet.every));
  if (size.length === null || !rowGauge) return { rows: pass, way: null, begins: null };
  const wish = Math.round(countOver(rowGauge, size.length)) - bordersHigh(piece.border);
  if (!lead) return { rows: Math.min(MOST_BODY, Math.max(1, wish)), way: null, begins: null };
  const up = ups[laid.parts.indexOf(lead)]!;
  const isFlat = constructionOf(piece).hasEdges;
  const wanted = size.length - lengthFor(rowGauge, bordersHigh(piece.border) + up.start - 1);
  const ways = lengthWays(up.rows, rowGauge, Math.max(1000, wanted), isFlat);
  const way = ways.find(({ kind }) => kind === piece.length.way) ?? ways[0]!;
  return {
    rows: Math.min(MOST_BODY, way.rows + up.start - 1),
    way,
    begins: way.kind === 'centred' ? way.begins : null,
  };
}

/**
 * A piece in one size as one chart.
 *
 * @throws PieceFault with one sentence where it cannot be put together
 */
export function assemble(design: Pick<Design, 'charts'>, piece: Piece, size: Size): Assembled {
  const laid = layOut(design, piece, size);
  for (const of of laid.parts) mustStand(of, design.charts);
  if (laid.stitches < 1)
    throw new PieceFault('The piece has no stitches yet: put a panel or a ground in it.');
  const isRound = !constructionOf(piece).hasEdges;
  const edge = laid.parts.find(({ part }) => part.kind === 'selvage');
  if (isRound && edge)
    throw new PieceFault('A piece in the round has no edges: take the edge stitches out.', edge.part.id);
  const ups = laid.parts.map(({ part, chart }) =>
    chart && isChartPart(part) ? upOfPart(part, chart) : null,
  );
  const meet = meetAgain(ups.filter((u) => u !== null));
  const { rows: body, way, begins } = bodyRows(laid, piece, size, ups, meet);
  const lead = leadOf(laid, piece);
  const going = ups.map((up, i) =>
    up && begins !== null && laid.parts[i] === lead ? centredUp(up, begins) : up,
  );
  const own = ownOf(laid);
  const book = bookOf({ own });
  const sideIn = (number: number): Side => (isRound ? 'RS' : sideAfter(piece.firstRow, number - 1));
  const cells = Array.from({ length: body }, (_, i) => {
    const row: BodyRow = { number: i + 1, n: i, last: body, side: sideIn(i + 1), isRound };
    return laid.parts.map((_part, k) => partCells(laid, k, going, row));
  });
  mustGoOn(laid, cells, book);
  const rowsOfBody = cells.map((row) => row.flat());
  const width = rowFacts(rowsOfBody[0]!, book).span;
  const odd = rowsOfBody.findIndex((row) => rowFacts(row, book).span !== width);
  if (odd >= 0)
    throw new PieceFault(
      `Row ${odd + 1} of the piece is not as wide as the first: a chart has a row that does not fill it.`,
    );
  if (width > LIMITS.columns)
    throw new PieceFault(
      `The piece is ${width} stitches wide; up to ${LIMITS.columns} are worked and proved as one.`,
    );

  const moved = movedColumns(rowsOfBody, book);
  const bottom = below(piece, laid, facesWanted(rowsOfBody[0]!, book), moved, isRound);
  const top = piece.border.top
    ? above(piece.border.top, piece, laid, rowsOfBody, book, moved, sideIn, isRound)
    : { rows: [], count: 0 };

  const rows = [...bottom.rows, ...rowsOfBody, ...top.rows];
  const chart: Chart = {
    id: 'piece',
    name: '',
    construction: piece.construction,
    firstRow: isRound ? 'RS' : sideAfter(piece.firstRow, -bottom.rows.length),
    ground: 'p',
    across: null,
    jogs: {},
    mirror: null,
    part: 'piece',
    meant: {},
    own,
    width,
    ...repeated(rows, bottom.rows.length, body, meet, laid, going, isRound, book),
  };
  const [fault] = invariants(chart);
  if (fault) throw new PieceFault(fault.message);
  const rowGauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  return {
    chart,
    laid,
    below: bottom.rows.length,
    above: top.rows.length,
    body,
    increases: bottom.count,
    decreases: top.count,
    castOn: rowFacts(chart.rows[0]!, book).takes,
    meet,
    lead,
    way,
    length: rowGauge ? Math.round(lengthFor(rowGauge, rows.length)) : null,
  };
}

/** Rows of a chart with those that are worked over and over only once, where that is so. */
function repeated(
  rows: readonly Row[],
  setup: number,
  body: number,
  { from, every }: MeetAgain,
  { parts }: Laid,
  ups: readonly (PanelUp | null)[],
  isRound: boolean,
  book: StitchBook,
): Pick<Chart, 'rows' | 'up'> {
  if (every === null) return { rows, up: null };
  const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);
  const pass = parts.map(periodOf).reduce((m, p) => (m / gcd(m, p)) * p, every);
  const closing = Math.max(0, ...ups.map((u) => u?.rows.closing ?? 0));
  if (!isRound && pass % 2) return { rows, up: null };
  const needles = needlesBefore(rows, book);
  // What a row slips keeps the face it had below the first pass: then the repeat begins with the second.
  for (const skipped of [0, pass]) {
    const first = setup + from - 1 + skipped;
    const times = Math.floor((setup + body - closing - first) / pass);
    if (times < 2 || times > LIMITS.repeats) break;
    if (!sameFaces(needles[first]!, needles[first + pass]!)) continue;
    const kept = [...rows.slice(0, first + pass), ...rows.slice(first + times * pass)];
    return { rows: kept, up: { setup: first, closing: kept.length - first - pass, times } };
  }
  return { rows, up: null };
}

/** The needle before each row, and after the last. */
function needlesBefore(rows: readonly Row[], book: StitchBook): Needle[] {
  const needles = [freshNeedle(rowFacts(rows[0]!, book).takes)];
  for (const row of rows) needles.push(workRow(row, needles.at(-1)!, book, 0).loops);
  return needles;
}

/** The plain stitches a border as wide as the piece has; null where that is not known. */
function plainIn({ width }: Laid, { gauge }: Piece): number | null {
  const plain = gauge.plain?.stitches;
  return width !== null && plain ? Math.round(countOver(plain, width)) : null;
}

/** The rows below the parts: the border, and the row that makes its stitches those of the parts. */
function below(
  piece: Piece,
  laid: Laid,
  base: readonly Stitch[],
  moved: ReadonlySet<number>,
  isRound: boolean,
): { rows: Row[]; count: number } {
  const border = piece.border.bottom;
  if (!border) return { rows: [], count: 0 };
  const cells = base.filter((c) => c !== NO_STITCH);
  const { loops, columns } = meetingLoops(base, (i) => (cells[i] === 'k' ? 'knit' : 'purl'), moved);
  const count = fewerIn(border, loops, plainIn(laid, piece), isRound);
  const made = changesAmong(loops, count, 1, border.kind === 'runs-on' ? 'ropes' : border.changes, isRound);
  if ('problem' in made) throw new PieceFault(made.problem);
  const isMade = new Set(made.map((i) => columns[i]!));
  const isThere = base.map((cell, column) => cell !== NO_STITCH && !isMade.has(column));
  const faces = loops.filter((_, i) => !made.includes(i)).map((l) => l.face);
  const high = borderRows(border);
  const firstSide = sideAfter(piece.firstRow, -(high + (count ? 1 : 0)));
  const rows = Array.from({ length: high }, (_, r): Row => {
    const row = { n: r, side: isRound ? ('RS' as const) : sideAfter(firstSide, r), isRound };
    return withGaps(borderCells(border, r, faces, row), isThere);
  });
  if (count) rows.push(base.map((cell, c) => (isMade.has(c) ? (cell === 'k' ? 'm1l' : 'm1lp') : cell)));
  return { rows, count };
}

/** The rows above the parts: the row that takes their stitches to the border's, and the border. */
function above(
  border: Border,
  piece: Piece,
  laid: Laid,
  rows: readonly Row[],
  book: StitchBook,
  moved: ReadonlySet<number>,
  sideIn: (number: number) => Side,
  isRound: boolean,
): { rows: Row[]; count: number } {
  const needle = needlesBefore(rows, book).at(-1)!;
  const last = rows.at(-1)!;
  // The columns of the loops that the last row leaves.
  const base = last.flatMap((stitch): Stitch[] => {
    const { makes, span } = book.facts(stitch);
    return [...Array<Stitch>(makes).fill('k'), ...Array<Stitch>(Math.max(0, span - makes)).fill(NO_STITCH)];
  });
  const { loops, columns } = meetingLoops(base, (i) => needle[i]!.face, moved);
  const count = fewerIn(border, loops, plainIn(laid, piece), isRound);
  const pairs = changesAmong(loops, count, 2, border.kind === 'runs-on' ? 'ropes' : border.changes, isRound);
  if ('problem' in pairs) throw new PieceFault(pairs.problem);
  const gone = new Set(pairs.map((i) => columns[i + 1]!));
  const together = new Set(pairs.map((i) => columns[i]!));
  const faceAt = new Map(columns.map((column, i) => [column, loops[i]!.face]));
  const isThere = base.map((cell, column) => cell !== NO_STITCH && !gone.has(column));
  const faces = columns.filter((c) => !gone.has(c)).map((c) => faceAt.get(c)!);
  const start = rows.length + 1;
  const made: Row[] = [];
  if (count)
    made.push(
      base.map((cell, c): Stitch => {
        if (cell === NO_STITCH || gone.has(c)) return NO_STITCH;
        const face = faceAt.get(c)!;
        if (together.has(c)) return face === 'knit' ? 'k2tog' : 'p2tog';
        return face === 'knit' ? 'k' : 'p';
      }),
    );
  for (let r = 0; r < borderRows(border); r++) {
    const row = { n: r, side: sideIn(start + made.length), isRound };
    made.push(withGaps(borderCells(border, r, faces, row), isThere));
  }
  return { rows: made, count };
}

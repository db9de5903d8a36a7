import { lcm } from '../values.js';
import type { Piece, Size } from '../chart/piece-document.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf, invariants, LIMITS, type Chart, type Row } from '../chart/schema.js';
import { saysBothCount, wayOf, type Way } from '../construction/index.js';
import { lengthFor } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';
import { sameFaces, type Needle } from '../needle/loop.js';
import { isOfPairs, type StitchBook } from '../stitches/book.js';
import { facesWanted, partCells, type BodyRow } from './part-cells.js';
import { CLOTH_KINDS } from '../sizes/cloths.js';
import { bordersHigh } from './going.js';
import { layOut, movedColumns, type Laid, type LaidFrom, type LaidPart } from './lay-out.js';
import { above, below, needlesBefore, NO_ROWS } from './meeting.js';
import { PieceFault } from './fault.js';
import { mustGoOn, mustStand, ownOf } from './may-stand.js';
import { type LengthWay, type MeetAgain } from './up.js';

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
  /** Borders whose changes were to lie in the ropes and, for want of room there, are evenly spaced. */
  spread: readonly ('bottom' | 'top')[];
  castOn: number;
  meet: MeetAgain;
  /** The part whose rows are made to come out. */
  lead: LaidPart | null;
  /** How the wished length is met; null where none is wished for, or rows have no gauge. */
  way: LengthWay | null;
  length: Length | null;
}

/**
 * A piece in one size as one chart.
 *
 * @throws PieceFault with one sentence where it cannot be put together
 */
export function assemble(design: LaidFrom, piece: Piece, size: Size): Assembled {
  let made = putTogether(design, piece, size);
  // Whether a row leads to or from a border is known only once its stitches are: then the length is met anew.
  for (let tries = 0, high = bordersHigh(piece.border); tries < MOST_TRIES; tries++) {
    const now = made.below + made.above;
    if (now === high) break;
    made = putTogether(design, piece, size, (high = now));
  }
  return made;
}

/** Whether both faces of all charts of a piece count, and so of the piece. */
function bothCountIn({ parts }: Laid): boolean {
  const charts = parts.flatMap(({ chart }) => chart ?? []);
  return charts.length > 0 && charts.every(saysBothCount);
}

/** The heights of borders are settled after one go, or turn in a circle. */
const MOST_TRIES = 3;

function putTogether(design: LaidFrom, piece: Piece, size: Size, high?: number): Assembled {
  const laid = layOut(design, piece, size, high);
  for (const of of laid.parts) mustStand(of, design.charts, piece);
  if (laid.stitches < 1)
    throw new PieceFault('The piece has no stitches yet: put a panel or a ground in it.');
  const way = wayOf(piece);
  const edge = laid.parts.find(({ part }) => part.kind === 'selvage');
  if (!way.hasEdges && edge)
    throw new PieceFault(
      `A piece worked ${way.worked} has no edges: take the edge stitches out.`,
      edge.part.id,
    );
  const { rows: body, way: lengthWay, meet, lead } = laid;
  const own = ownOf(laid);
  const book = way.book(own);
  const cells = Array.from({ length: body }, (_, i) => {
    const row: BodyRow = { number: i + 1, n: i, last: body, side: way.sideAt(i), way };
    return laid.parts.map((_part, k) => partCells(laid, k, row));
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
  const bottom = below(piece, laid, facesWanted(rowsOfBody[0]!, book), moved);
  const top = piece.border.top ? above(piece.border.top, piece, laid, rowsOfBody, book, moved) : NO_ROWS;

  const rows = [...bottom.rows, ...rowsOfBody, ...top.rows];
  const chart: Chart = {
    id: 'piece',
    name: '',
    construction: piece.construction,
    firstRow: way.sideAt(-bottom.rows.length),
    bothFaces: bothCountIn(laid),
    ground: 'p',
    across: null,
    jogs: {},
    mirror: null,
    part: 'piece',
    meant: {},
    own,
    width,
    ...banded(
      piece,
      bottom.rows.length,
      top.rows.length,
      repeated(rows, bottom.rows.length, body, laid, way, book, Boolean(piece.border.bottom?.band)),
    ),
  };
  const [fault] = invariants(chart);
  if (fault) throw new PieceFault(fault.message);
  if (way.loops === 2 && rows.some((row) => !row.every(isOfPairs)))
    throw new PieceFault(
      'Worked in pairs a piece has no increases, hems or slipped edges: choose a border and edges that are worked stitch for stitch.',
    );
  const rowGauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  return {
    chart,
    laid,
    below: bottom.rows.length,
    above: top.rows.length,
    body,
    increases: bottom.count,
    decreases: top.count,
    spread: [...(bottom.isSpread ? ['bottom' as const] : []), ...(top.isSpread ? ['top' as const] : [])],
    castOn: rowFacts(chart.rows[0]!, book).takes,
    meet,
    lead,
    way: lengthWay,
    length: rowGauge ? Math.round(lengthFor(rowGauge, rows.length)) : null,
  };
}

/** The rows after which a cloth beside the charts begins anew. */
const periodOf = ({ part }: LaidPart): number =>
  part.kind === 'ground'
    ? CLOTH_KINDS[part.cloth].every
    : part.kind === 'selvage' && part.style !== 'stocking'
      ? 2
      : 1;

/** The same with the bands of the borders, where they meet the rows of the parts. */
const banded = (
  { border }: Piece,
  below: number,
  above: number,
  chart: Pick<Chart, 'rows' | 'up'>,
): Pick<Chart, 'rows' | 'up' | 'bands'> => ({
  ...chart,
  bands: {
    ...(border.bottom?.band && { [below]: border.bottom.band }),
    ...(border.top?.band && { [chart.rows.length - above]: border.top.band }),
  },
});

/** Rows of a chart with those that are worked over and over only once, where that is so. */
function repeated(
  rows: readonly Row[],
  setup: number,
  body: number,
  { parts, meet: { from, every } }: Laid,
  { rowsToSameSide }: Way,
  book: StitchBook,
  /** Whether a band stands below the rows of the parts: it is worked once, so the repeat begins above it. */
  isBanded: boolean,
): Pick<Chart, 'rows' | 'up'> {
  if (every === null) return { rows, up: null };
  const pass = parts.map(periodOf).reduce(lcm, every);
  const closing = Math.max(0, ...parts.map(({ going }) => going?.rows.closing ?? 0));
  if (pass % rowsToSameSide) return { rows, up: null };
  const needles = needlesBefore(rows, book);
  // What a row slips keeps the face it had below the first pass: then the repeat begins with the second.
  for (const skipped of [0, pass]) {
    const first = setup + from - 1 + skipped;
    const times = Math.floor((setup + body - closing - first) / pass);
    if (times < 2 || times > LIMITS.repeats) break;
    if (first === setup && isBanded) continue;
    if (!sameFaces(needles[first]!, needles[first + pass]!)) continue;
    const kept = [...rows.slice(0, first + pass), ...rows.slice(first + times * pass)];
    return { rows: kept, up: { setup: first, closing: kept.length - first - pass, times } };
  }
  return { rows, up: null };
}

/** A size, and the piece put together in it. */
export interface SizeMade {
  size: Size;
  made: Assembled;
}

/** The needle that the rows below the parts leave. */
export const needleAbove = ({ chart, below: high }: Pick<Assembled, 'chart' | 'below'>): Needle =>
  needlesBefore(chart.rows.slice(0, high + 1), bookOf(chart))[high]!;

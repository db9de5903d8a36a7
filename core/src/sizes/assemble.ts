import { lcm } from '../values.js';
import type { Piece, Size } from '../chart/piece.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf, invariants, LIMITS, type Chart, type Design, type Row } from '../chart/schema.js';
import { constructionOf } from '../construction/construction.js';
import { lengthFor } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';
import { sameFaces } from '../needle/loop.js';
import type { StitchBook } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { bodyRows, facesWanted, leadOf, partCells, type BodyRow } from './body-rows.js';
import { CLOTH_KINDS } from './cloths.js';
import {
  centredUp,
  isChartPart,
  layOut,
  movedColumns,
  upOfPart,
  type Laid,
  type LaidPart,
} from './lay-out.js';
import { above, below, needlesBefore } from './meeting.js';
import { PieceFault } from './piece-fault.js';
import { mustGoOn, mustStand, ownOf } from './stands.js';
import { meetAgain, sideAfter, type LengthWay, type MeetAgain, type PanelUp } from './up.js';

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

/** The rows after which a cloth beside the charts begins anew. */
const periodOf = ({ part }: LaidPart): number =>
  part.kind === 'ground'
    ? CLOTH_KINDS[part.cloth].every
    : part.kind === 'selvage' && part.style !== 'stocking'
      ? 2
      : 1;

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
  const pass = parts.map(periodOf).reduce(lcm, every);
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

import { countsOf, multipleOf, repeatColumns, repeatsAcross, timesOf } from '../chart/frame.js';
import type { Piece, PiecePart, Size } from '../chart/piece-document.js';
import { rowCrossings } from '../chart/rows.js';
import { bookOf, type Chart, type Design, type Row } from '../chart/schema.js';
import type { Gauge } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';
import { remembered } from '../remember.js';
import type { StitchBook } from '../stitches/book.js';
import { crossingSize } from '../stitches/crossing.js';
import { goUp, type Going } from './going.js';
import { chartOfPart, isChartPart, nameOfChart, type ChartPart } from './standing.js';
import type { LengthWay, MeetAgain, PanelUp } from './up.js';

/** A piece laid out in one size: what stands where on its needle, and how wide it lies. */

/** Where a part's gauge is from: its own swatch, one of the whole piece, plain cloth, or plain cloth and custom. */
export type GaugeFrom = 'own' | 'whole' | 'plain' | 'estimate';

export interface LaidPart {
  part: PiecePart;
  /** The chart it works, mirrored where it is to be; null where it has none, or it is gone. */
  chart: Chart | null;
  /** What it is called. */
  name: string;
  /** How its chart goes up; null where it has none. */
  going: PanelUp | null;
  /** How often its chart is worked across. */
  times: number;
  /** Stitches of it on the needle of the row it begins with, and of those before it from the right. */
  stitches: number;
  before: number;
  gauge: Gauge | null;
  gaugeFrom: GaugeFrom | null;
  width: Length | null;
}

export interface Laid {
  parts: readonly LaidPart[];
  stitches: number;
  /** Null as long as a part that has stitches has no gauge. */
  width: Length | null;
  /** Whether a width rests on custom instead of a swatch. */
  isEstimate: boolean;
  /** What the piece wants for a width in this size; null where none is wished for. */
  wanted: Length | null;
  /** "A multiple of `of` plus `plus`" by its fillings, in lowest form; `of` is 0 without any. */
  multiple: { of: number; plus: number };
  meet: MeetAgain;
  /** The part whose rows are made to come out. */
  lead: LaidPart | null;
  /** Rows of the parts, without borders, and how a wished length is met by them. */
  rows: number;
  way: LengthWay | null;
}

/** A part's number in a size: the stitches of a ground, the repeats of a filling. */
export function countIn(part: Extract<PiecePart, { kind: 'ground' | 'filling' }>, { counts }: Size): number {
  const own = counts[part.id];
  if (part.kind === 'ground') return own ?? part.stitches;
  return Math.max(1, own ?? part.repeats);
}

/** How often a part's chart is worked across in a size. */
const timesIn = (part: ChartPart, chart: Chart, size: Size): number =>
  part.kind === 'filling' ? countIn(part, size) : timesOf(chart);

/**
 * Stitches of a rope lie closer than plain ones by about a fifth: "one more stitch for four" (custom). Only where there is no
 * swatch of the cabled cloth itself, and always told as what it is.
 */
export const ROPE_DRAW_IN = 0.2;

/** The columns that crossings move anywhere in some rows. */
export function movedColumns(rows: readonly Row[], book: StitchBook): Set<number> {
  const moved = new Set<number>();
  for (const row of new Set(rows))
    for (const { column, crossing } of rowCrossings(row, book))
      for (let i = 0; i < crossingSize(crossing); i++) moved.add(column + i);
  return moved;
}

/** The share of a chart's columns that any crossing moves. */
export const ropeShare = remembered((chart: Chart) =>
  Math.min(1, movedColumns(chart.rows, bookOf(chart)).size / chart.width),
);

function gaugeOfPart(
  part: PiecePart,
  chart: Chart | null,
  { gauge: { plain, whole } }: Piece,
): { gauge: Gauge; gaugeFrom: GaugeFrom } | null {
  if (whole) return { gauge: whole.stitches, gaugeFrom: 'whole' };
  if ('gauge' in part && part.gauge) return { gauge: part.gauge.stitches, gaugeFrom: 'own' };
  if (!plain) return null;
  const { count, over } = plain.stitches;
  const drawn = chart ? ropeShare(chart) * ROPE_DRAW_IN : 0;
  return drawn
    ? { gauge: { count, over: over * (1 - drawn) }, gaugeFrom: 'estimate' }
    : { gauge: plain.stitches, gaugeFrom: 'plain' };
}

/** Grounds are told apart by their place from the right; those that share a number are one. */
function groundName(parts: Piece['parts'], part: PiecePart): string {
  const grounds = parts.flatMap((p) => (p.kind === 'ground' ? [p.pair ?? p.id] : []));
  const distinct = [...new Set(grounds)];
  if (distinct.length < 2 || part.kind !== 'ground') return 'ground';
  return `ground ${distinct.indexOf(part.pair ?? part.id) + 1}`;
}

const nameOfPart = ({ charts }: Pick<Design, 'charts'>, piece: Piece, part: PiecePart): string => {
  if (part.kind === 'selvage') return 'edge';
  if (part.kind === 'ground') return groundName(piece.parts, part);
  if (part.kind === 'marker') return 'marker';
  return nameOfChart(charts, piece, part);
};

/** What a size is to measure across; null where no width is wished for. */
export const wantedWidth = ({ around }: Piece, { measure, ease }: Size): Length | null =>
  measure === null ? null : Math.max(1000, Math.round((measure + ease) / around));

/**
 * The parts of a piece in one size, from the right as the RS looks. `high` is how many rows its borders have, where that
 * is known better than from the borders by themselves.
 */
export function layOut(design: Pick<Design, 'charts'>, piece: Piece, size: Size, high?: number): Laid {
  let stitches = 0;
  const of = { of: 0, plus: 0 };
  const charts = piece.parts.map((part) =>
    isChartPart(part) ? chartOfPart(design.charts, piece, part) : null,
  );
  const { ups, meet, lead, rows, way }: Going = goUp(piece, size, charts, high);
  const parts = piece.parts.map((part, i): LaidPart => {
    const chart = charts[i]!;
    const going = ups[i]!;
    const times = chart && isChartPart(part) ? timesIn(part, chart, size) : 1;
    const begins = (going?.begins ?? 1) - 1;
    const own = chart
      ? countsOf(chart, begins, times).takes
      : part.kind === 'selvage'
        ? part.stitches
        : part.kind === 'ground'
          ? countIn(part, size)
          : 0;
    if (part.kind === 'filling' && chart) {
      const multiple = multipleOf(chart, begins);
      of.of += multiple.of;
      of.plus += own - multiple.of * times;
    } else of.plus += own;
    const read = gaugeOfPart(part, chart, piece);
    const laid = {
      part,
      chart,
      name: nameOfPart(design, piece, part),
      going,
      times,
      stitches: own,
      before: stitches,
      gauge: read?.gauge ?? null,
      gaugeFrom: read?.gaugeFrom ?? null,
      width: own === 0 ? 0 : read && (own * read.gauge.over) / read.gauge.count,
    };
    stitches += own;
    return laid;
  });
  const widths = parts.map((p) => p.width);
  const width =
    widths.every((w) => w !== null) && stitches > 0 ? widths.reduce((sum, w) => sum + w, 0) : null;
  return {
    parts,
    stitches,
    width: width === null ? null : Math.round(width),
    isEstimate: parts.some((p) => p.gaugeFrom === 'estimate'),
    wanted: wantedWidth(piece, size),
    multiple: { of: of.of, plus: of.of ? of.plus % of.of : of.plus },
    meet,
    lead: parts[lead] ?? null,
    rows,
    way,
  };
}

/** Which of two parts that mirror each other a part is: the one on the same side as its number from the right, or the other. */
export const isBeyondMiddle = (parts: readonly unknown[], i: number): boolean => i > (parts.length - 1) / 2;

/** The columns a part has in the chart of its piece. */
export function columnsOfPart({ chart, times, stitches }: LaidPart): number {
  if (!chart) return stitches;
  const { start, end } = repeatColumns(chart);
  return chart.width + (repeatsAcross(chart) ? end - start : 0) * (times - 1);
}

/** After how many stitches, from the right, a marker stands: those put in, and those at both sides of every panel. */
export function markersOf({ parts, stitches }: Laid, { markers }: Piece): number[] {
  const at = parts.flatMap(({ part, chart, before, stitches: own }) => {
    if (part.kind === 'marker') return [before];
    return markers && chart ? [before, before + own] : [];
  });
  return [...new Set(at)].filter((n) => n > 0 && n < stitches);
}

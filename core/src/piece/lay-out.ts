import { countsOf, multipleOf, repeatColumns, repeatsAcross, timesOf } from '../chart/frame.js';
import type { ClothSettings } from '../chart/cloth-settings.js';
import type { GroundCloth, Piece, PiecePart, Size } from '../chart/piece-document.js';
import { rowCrossings } from '../chart/rows.js';
import type { Chart, Design, Row } from '../chart/schema.js';
import { startChart } from '../chart/start.js';
import { FLAT, wayOf } from '../construction/index.js';
import { restingWidth, RIGHT_TO } from '../fabric/resting.js';
import { heightOf, proportionsOf } from '../fabric/proportions.js';
import type { Gauge } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';
import { ofEvery } from '../remember.js';
import { CLOTH_KINDS, groundCells } from '../sizes/cloths.js';
import type { StitchBook } from '../stitches/book.js';
import { crossingSize } from '../stitches/crossing.js';
import { goUp, type Going } from './going.js';
import { chartOfPart, isChartPart, nameOfChart, type ChartPart } from './standing.js';
import type { LengthWay, MeetAgain, PanelUp } from './up.js';

/** A piece laid out in one size: what stands where on its needle, and how wide it lies. */

/** Where a part's gauge is from: its own swatch, one of the whole piece, plain cloth, or plain cloth and how its own cloth is worked out to lie. */
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
  /** In the finished piece: what goes into a seam has none. */
  width: Length | null;
}

export interface Laid {
  parts: readonly LaidPart[];
  stitches: number;
  /** Null as long as a part that has stitches has no gauge. */
  width: Length | null;
  /** How much wider or narrower it may come out, where some of it was worked out instead of measured; else 0. */
  give: Length;
  /** Whether a width was worked out from the cloth instead of measured on a swatch. */
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

/** What of a design its piece is laid out from: its charts, and how its cloth draws in (as ordinary yarn does where that is not said). */
export type LaidFrom = Pick<Design, 'charts'> & { readonly settings?: DrawsIn | undefined };
/** Settings, as far as they tell how cloth draws in. */
export interface DrawsIn {
  readonly cloth: Pick<ClothSettings, 'fitted'>;
}

/** The columns that crossings move anywhere in some rows. */
export function movedColumns(rows: readonly Row[], book: StitchBook): Set<number> {
  const moved = new Set<number>();
  for (const row of new Set(rows))
    for (const { column, crossing } of rowCrossings(row, book))
      for (let i = 0; i < crossingSize(crossing); i++) moved.add(column + i);
  return moved;
}

/** A ground as a chart, of which the cloth can be worked out. */
const groundChart = ofEvery((cloth: GroundCloth): Chart => {
  const { of, every } = CLOTH_KINDS[cloth];
  const [columns, rows] = [of, 2 * every].map((n) => n * Math.ceil(24 / n)) as [number, number];
  const blank = startChart({ columns, rows, construction: FLAT.id, ground: 'k' });
  const way = wayOf(blank);
  return {
    ...blank,
    rows: blank.rows.map((_, n) => groundCells(cloth, columns, { n, side: way.sideAt(n), way }, false)),
  };
});

/** Cloth that is worked out to lie as wide as plain cloth to within so much is taken to be as wide. */
const AS_PLAIN = 0.01;

function gaugeOfPart(
  part: PiecePart,
  chart: Chart | null,
  { gauge: { plain, whole } }: Piece,
  fitted: ClothSettings['fitted'],
): { gauge: Gauge; gaugeFrom: GaugeFrom } | null {
  if (whole) return { gauge: whole.stitches, gaugeFrom: 'whole' };
  if ('gauge' in part && part.gauge) return { gauge: part.gauge.stitches, gaugeFrom: 'own' };
  if (!plain) return null;
  const { count, over } = plain.stitches;
  const cloth = chart ?? (part.kind === 'ground' ? groundChart(part.cloth) : null);
  const wide = (cloth && restingWidth(cloth, proportionsOf(fitted, heightOf(plain)))) ?? 1;
  return Math.abs(wide - 1) > AS_PLAIN
    ? { gauge: { count, over: over * wide }, gaugeFrom: 'estimate' }
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
export function layOut(design: LaidFrom, piece: Piece, size: Size, high?: number): Laid {
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
    const read = gaugeOfPart(part, chart, piece, design.settings?.cloth.fitted ?? null);
    const isSeamed = part.kind === 'selvage' && part.seamed;
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
      width: own === 0 || isSeamed ? 0 : read && (own * read.gauge.over) / read.gauge.count,
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
    give: Math.round(
      RIGHT_TO * parts.reduce((sum, p) => sum + (p.gaugeFrom === 'estimate' ? (p.width ?? 0) : 0), 0),
    ),
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

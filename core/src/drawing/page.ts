import { beyondOf } from '../chart/frame.js';
import type { Chart } from '../chart/schema.js';
import { sideOf } from '../construction/index.js';
import { PALETTE, TOKENS, type Inks } from './inks.js';
import type { Tints } from './yarns.js';
import {
  bandMark,
  inksOn,
  stripsOf,
  yarnRuns,
  reaches,
  sceneOf,
  type Strip,
  type DrawingStyle,
  type Mark,
  type Scene,
} from './scene.js';

/** A chart as it is printed, figure by figure: what an SVG and a page of a PDF are painted from. Units are cells. */

export type Figure =
  /** A filled or drawn path. */
  | { kind: 'path'; d: string; fill?: string; stroke?: string; width?: number }
  /** Words at a place of their base line. */
  | {
      kind: 'text';
      text: string;
      x: number;
      y: number;
      size: number;
      anchor: Anchor;
      ink: string;
      row?: number;
    }
  /** A mark at its upper left corner; equal marks have equal keys. `row` is the chart's, from 0, where it is one of a row. */
  | { kind: 'mark'; mark: Mark; x: number; y: number; row?: number };

type Anchor = 'start' | 'middle' | 'end';

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface Picture {
  /** The part of the plane it covers. */
  box: Box;
  /** Where its marks and paths end, if they go on beyond; numbers beside stand outside of it. */
  clip?: Box;
  figures: Figure[];
}

/** Rows, or columns from the right, to draw: from 0, both ends included. */
export interface RowSpan {
  from: number;
  to: number;
}

/** A part of a chart that is drawn by itself. */
export interface Part {
  rows: RowSpan;
  /** As they are drawn: rows of a shifted repeat reach past the chart's own. */
  columns: RowSpan;
  /** How many columns at either end the neighbouring parts show as well: those lie on shaded paper. */
  again: { right: number; left: number };
}

/** The columns a chart is drawn over: its own, and those that shifted rows reach into. */
export function columnsDrawn(chart: Chart): RowSpan {
  const { left, right } = beyondOf(chart);
  return { from: 0 - right, to: chart.width + left - 1 };
}

const whole = (chart: Chart): Part => ({
  rows: { from: 0, to: chart.rows.length - 1 },
  columns: columnsDrawn(chart),
  again: { right: 0, left: 0 },
});

const MARGIN = { side: 1.5, foot: 1, head: 0.1 };
const RULE = 0.035;
const LINE = 0.09;
/** Up to so many columns each has its number; past that every fifth. */
const MOST_NUMBERED = 30;

/** The inks of a mark: a coloured crossing shows its own colour in front, and a letter, so that colour never stands alone. */
export function inksOfMark({ colour }: Mark, inks: Inks): { inks: Inks; letter: string | null } {
  const chosen = colour === null ? undefined : PALETTE[colour];
  if (!chosen) return { inks, letter: null };
  return { inks: { ...inks, left: chosen.colour, right: chosen.colour }, letter: chosen.mark };
}

/**
 * A chart's printed picture: squared paper, marks, lines of the repeats, row numbers on the side where the row
 * begins, column numbers from the right. `part` is what is drawn of a chart that is printed in several.
 */
export function pictureOf(
  chart: Chart,
  style: DrawingStyle,
  paperInks: Inks,
  { rows, columns, again }: Part = whole(chart),
): Picture {
  const scene = sceneOf(chart, style);
  const inks = inksOn(scene, paperInks, style);
  const { width } = chart;
  const { paper: lined } = scene;
  const { first, last } = lined.span(rows.from, rows.to);
  const height = last - first + 1;
  const [left, right] = [width - 1 - columns.to, width - columns.from];
  const place: Place = { xOf: (c) => width - c, topOf: (r) => last - lined.of(r) };
  const shaded = [
    [right - again.right, right],
    [left, left + again.left],
  ] as const;
  const figures: Figure[] = stripsOf(scene, { rows, columns }, width).flatMap((strip) =>
    paper(strip, scene, chart, style, inks, place, shaded),
  );
  for (const { line, band } of lined.bands)
    if (line >= first && line <= last)
      figures.push({ kind: 'mark', mark: bandMark(width, band), x: 0, y: last - line });
  for (let r = rows.from; r <= rows.to; r++)
    figures.push(...rowFigures(scene, chart, r, { left, right, columns }, place));
  const [firstNumber, lastNumber] = [Math.max(0, columns.from) + 1, Math.min(width - 1, columns.to) + 1];
  for (let c = firstNumber; c <= lastNumber; c++)
    if (lastNumber - firstNumber < MOST_NUMBERED || c === firstNumber || c % 5 === 0)
      figures.push({
        kind: 'text',
        text: `${c}`,
        x: place.xOf(c) + 0.5,
        y: height + 0.75,
        size: 0.5,
        anchor: 'middle',
        ink: TOKENS.slate,
      });
  const lines = [
    ...sideLines(scene, rows, place),
    ...scene.lines.rows
      .filter((r) => r >= rows.from && r <= rows.to + 1)
      .map((r) => `M ${left} ${place.topOf(r - 1)} L ${right} ${place.topOf(r - 1)}`),
  ];
  if (lines.length) figures.push({ kind: 'path', d: lines.join(' '), stroke: TOKENS.peat, width: LINE });
  const drawn = columnsDrawn(chart);
  const isCut = columns.from > drawn.from || columns.to < drawn.to;
  return {
    ...(isCut && {
      clip: { x: left - LINE, y: -LINE, width: right - left + 2 * LINE, height: height + 2 * LINE },
    }),
    box: {
      x: left - MARGIN.side,
      y: -MARGIN.head,
      width: right - left + 2 * MARGIN.side,
      height: height + MARGIN.foot + MARGIN.head,
    },
    figures,
  };
}

interface Place {
  xOf: (column: number) => number;
  /** The upper edge of a row, which lines of the repeat above it run along. */
  topOf: (row: number) => number;
}

/** The marks of a row, those that reach beyond their columns over the others, and its number. */
function rowFigures(
  scene: Scene,
  chart: Chart,
  r: number,
  { left, right, columns }: { left: number; right: number; columns: RowSpan },
  { xOf, topOf }: Place,
): Figure[] {
  const isRs = sideOf(chart, r) === 'RS';
  const shift = scene.startOf(r);
  const isSeen = ({ column, span, reach }: Mark) =>
    column + shift - reach.right <= columns.to && column + shift + span - 1 + reach.left >= columns.from;
  const marks = [...scene.row(r)].filter(isSeen).sort((a, b) => Number(reaches(a)) - Number(reaches(b)));
  return [
    ...marks.map((mark): Figure => ({
      kind: 'mark',
      mark,
      x: xOf(mark.column + mark.span + shift),
      y: topOf(r),
      row: r,
    })),
    {
      kind: 'text',
      text: `${r + 1}`,
      x: isRs ? right + 0.25 : left - 0.25,
      y: topOf(r) + 0.72,
      size: 0.58,
      anchor: isRs ? 'start' : 'end',
      ink: TOKENS.peat,
      row: r,
    },
  ];
}

/** The squared paper under rows that are drawn over the same columns. */
function paper(
  { rows, columns }: Strip,
  scene: Scene,
  chart: Chart,
  { tints }: DrawingStyle,
  inks: Inks,
  { xOf, topOf }: Place,
  shaded: readonly (readonly [from: number, to: number])[],
): Figure[] {
  const [left, right] = [xOf(columns.to + 1), xOf(columns.from)];
  const [top, bottom] = [topOf(rows.to), topOf(rows.from) + 1];
  const rules: Record<'light' | 'heavy', string[]> = { light: [], heavy: [] };
  const weight = (at: number, last: number) => (at % 5 && at !== last ? 'light' : 'heavy');
  for (let c = columns.from; c <= columns.to + 1; c++)
    rules[weight(c, chart.width)].push(`M ${xOf(c)} ${top} L ${xOf(c)} ${bottom}`);
  for (let r = rows.from; r <= rows.to + 1; r++)
    rules[weight(r, chart.rows.length)].push(`M ${left} ${bottom - (r - rows.from)} H ${right}`);
  return [
    { kind: 'path', d: `M ${left} ${top} H ${right} V ${bottom} H ${left} Z`, fill: inks.casing },
    ...shaded
      .filter(([from, to]) => to > from)
      .map(([from, to]): Figure => ({
        kind: 'path',
        d: `M ${from} ${top} H ${to} V ${bottom} H ${from} Z`,
        fill: TOKENS.wash,
      })),
    ...(tints ? yarnPaper(rows, scene, tints, { xOf, topOf }) : []),
    { kind: 'path', d: rules.light.join(' '), stroke: TOKENS.rule, width: RULE },
    { kind: 'path', d: rules.heavy.join(' '), stroke: TOKENS.ruleHeavy, width: RULE },
  ];
}

/** The paper of pairs, in the colour of the yarn that shows. */
function yarnPaper({ from, to }: RowSpan, scene: Scene, { a, b }: Tints, { xOf, topOf }: Place): Figure[] {
  const boxes = { a: [] as string[], b: [] as string[] };
  for (let r = from; r <= to; r++)
    for (const run of yarnRuns(scene.second(r) ?? new Uint8Array())) {
      const [left, right] = [xOf(run.to + 1 + scene.startOf(r)), xOf(run.from + scene.startOf(r))];
      boxes[run.isSecond ? 'b' : 'a'].push(`M ${left} ${topOf(r)} H ${right} V ${topOf(r) + 1} H ${left} Z`);
    }
  const filled = (list: string[], fill: string): Figure[] =>
    list.length ? [{ kind: 'path', d: list.join(' '), fill }] : [];
  return [...filled(boxes.a, a), ...filled(boxes.b, b)];
}

/** The lines of the repeat across through rows, stepping sideways where one begins its repeat elsewhere. */
function sideLines({ lines }: Scene, { from, to }: RowSpan, { xOf, topOf }: Place): string[] {
  return lines.columns(from).map((_, i) => {
    const steps: string[] = [];
    for (let r = from; r <= to; r++) {
      const x = xOf(lines.columns(r)[i]!);
      steps.push(`${r > from ? 'L' : 'M'} ${x} ${r > from ? topOf(r - 1) : topOf(r) + 1} L ${x} ${topOf(r)}`);
    }
    return steps.join(' ');
  });
}

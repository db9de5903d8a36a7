import type { Band } from '../chart/bands.js';
import { beyondOf, columnsBelow, linesAcross, linesUp, startOf } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart, type Row, type Settings } from '../chart/schema.js';
import { wayOf } from '../construction/index.js';
import { Lately, remembered } from '../remember.js';
import { ropesAtTop, ropesOf } from '../ropes/ropes.js';
import { cordCells } from '../ropes/strands.js';
import { isCrossing, spanOf, stitchId, takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { crossingSize, workedAfter, type Crossing } from '../stitches/crossing.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { drawCord } from './cords.js';
import { linesOf, type Lines } from './lines.js';
import { drawLyingBand } from './lying-band.js';
import { ROPE_COLOURS, type PlainSchool, type Shape } from './shape.js';
import type { Inks } from './inks.js';
import { drawnCrossing, drawStitch } from './symbols.js';
import { tintsOf, type Tints } from './yarns.js';

/**
 * The picture of a chart as data: marks on squared paper, row by row, and the lines of its repeats. A canvas, an
 * SVG and a printed page paint the same marks; what else is laid over a chart comes as layers of its own.
 */

/** How a chart is to be drawn. */
export interface DrawingStyle {
  plain: PlainSchool;
  /** Whether ropes are drawn as cords between their crossings. */
  cords: boolean;
  /** Palette places of crossings the designer coloured, by crossing id. */
  colours: Readonly<Record<string, number>>;
  /** Whether each rope is drawn in a colour of its own. */
  ropes?: boolean;
  /** The paper of cells that are pairs of loops, by the yarn that shows. */
  tints?: Tints;
}

/** How charts of a design are drawn. */
export const styleOf = ({
  plain,
  colours,
  cloth,
}: Pick<Settings, 'plain' | 'colours' | 'cloth'>): DrawingStyle => ({
  plain,
  cords: true,
  colours,
  tints: tintsOf(cloth),
});

/** One drawing in its cells. */
export interface Mark {
  /** Equal for marks that look the same: a painter keeps what it made of one. */
  key: string;
  /** Units are cells, from the upper left corner of the columns it covers. */
  shapes: readonly Shape[];
  /** Its rightmost column, from 0, and how many it covers. */
  column: number;
  span: number;
  /** Columns its shapes reach beyond those, where cords slant. */
  reach: { left: number; right: number };
  /** Whether it stands as one, so that no rule of the paper shows inside it. */
  isWhole: boolean;
  /** A gap is only part of the squared paper. */
  isGap: boolean;
  /** The palette place of its colour. */
  colour: number | null;
}

const NO_REACH = { left: 0, right: 0 };

const mark = (
  key: string,
  shapes: readonly Shape[],
  column: number,
  span: number,
  reach: Mark['reach'],
  colour: number | null = null,
): Mark => ({ key, shapes, column, span, reach, isWhole: span > 1, isGap: false, colour });

/** A crossing stands over the loops it takes, which may lie in other columns than its own. */
function crossingMark(
  stitch: Crossing,
  column: number,
  loops: readonly number[],
  plain: PlainSchool,
  colours: DrawingStyle['colours'],
  ropes: Int16Array | null,
): Mark {
  const span = crossingSize(stitch);
  const feet = loops.length === span ? loops.map((c) => c - column) : [];
  const isStraight = feet.every((foot, k) => foot === k);
  const text = isStraight ? '' : feet.join(' ');
  const id = stitchId(stitch);
  const told = ropes ? ropesAtTop(ropes, column, stitch).map(inkNumber).join(' ') : '';
  const colour = ropes ? null : (colours[id] ?? null);
  const reach = isStraight
    ? NO_REACH
    : { right: Math.max(0, -Math.min(...feet)), left: Math.max(0, Math.max(...feet) - span + 1) };
  return mark(
    `${id} ${colour ?? ''}@${text}${told && `#${told}`}`,
    drawnCrossing(stitch, plain, text, told),
    column,
    span,
    reach,
    colour,
  );
}

const marksOf = remembered(
  (
    row: Row,
    below: readonly number[] | null,
    cords: Uint8Array | null,
    ropes: Int16Array | null,
    plain: PlainSchool,
    colours: DrawingStyle['colours'],
    book: StitchBook,
  ): readonly Mark[] => {
    const { starts, meets } = rowFacts(row, book);
    const marks: Mark[] = [];
    let drawn: Stitch | null = null;
    let shapes: readonly Shape[] = [];
    for (let i = 0; i < row.length; i++) {
      const stitch = row[i]!;
      const column = starts[i]!;
      const first = meets[i]!;
      if (isCrossing(stitch))
        marks.push(
          crossingMark(
            stitch,
            column,
            below?.slice(first, first + takesOf(stitch, book)) ?? [],
            plain,
            colours,
            ropes,
          ),
        );
      else if (stitch === 'k' && (cords?.[column] || (ropes && ropes[column]! >= 0))) {
        const foot = below && first < below.length ? below[first]! - column : 0;
        const reach = foot ? { left: Math.max(0, foot), right: Math.max(0, -foot) } : NO_REACH;
        const rope = ropes ? inkNumber(ropes[column]!) : -1;
        marks.push(mark(`cord@${foot}#${rope}`, cord(foot, rope), column, 1, reach));
      } else {
        // Rows are mostly runs of one stitch.
        if (stitch !== drawn) shapes = drawStitch((drawn = stitch), plain, book);
        if (!shapes.length) continue;
        const made = mark(stitch, shapes, column, spanOf(stitch, book), NO_REACH);
        marks.push(stitch === NO_STITCH ? { ...made, isGap: true } : made);
      }
    }
    return marks;
  },
);

const cordsDrawn = new Lately<readonly Shape[]>();

const cord = (foot: number, rope: number): readonly Shape[] =>
  cordsDrawn.of(`${foot} ${rope}`, () => drawCord(foot, rope));

/** The columns of a row in pairs that show yarn B. */
const secondIn = remembered((row: Row, book: StitchBook): Uint8Array => {
  const columns = new Uint8Array(rowFacts(row, book).span);
  let at = 0;
  for (const stitch of row) {
    const shown = isCrossing(stitch) ? workedAfter(stitch) : [stitch];
    shown.forEach((worked, i) => (columns[at + i] = worked === 'p' ? 1 : 0));
    at += spanOf(stitch, book);
  }
  return columns;
});

/** Runs of columns alike, from the right: their first and last, and whether they show yarn B. */
export function yarnRuns(second: Uint8Array): { from: number; to: number; isSecond: boolean }[] {
  const runs: { from: number; to: number; isSecond: boolean }[] = [];
  second.forEach((is, column) => {
    const last = runs.at(-1);
    if (last?.isSecond === (is === 1)) last.to = column;
    else runs.push({ from: column, to: column, isSecond: is === 1 });
  });
  return runs;
}

/** The inks of a chart: of one in pairs straight cords are of yarn A, and what passes of B. */
export const inksOn = (scene: Scene, inks: Inks, { tints }: DrawingStyle): Inks =>
  tints && scene.second(0) ? { ...inks, rope: tints.a, under: tints.a, strand: tints.b } : inks;

/** A band over the whole width of a chart, as one mark. */
export const bandMark = (width: number, band: Band): Mark =>
  mark(`band ${width} ${band.every} ${band.rounds}`, drawLyingBand(width, band), 0, width, NO_REACH);

/** Which of the colours a rope has: marks of ropes that look alike are one. */
const inkNumber = (rope: number): number => (rope < 0 ? -1 : rope % ROPE_COLOURS);

/** Whether a mark's shapes reach beyond its columns. */
export const reaches = ({ reach }: Mark): boolean => reach.left + reach.right > 0;

/** A chart's picture: the marks of a row (from 0), and where the lines of its repeats run. */
export interface Scene {
  /** From the right; what reaches beyond its columns is to be painted over the others. */
  row: (r: number) => readonly Mark[];
  /** How many columns rows are drawn beyond the chart's own, at either side. */
  beyond: { right: number; left: number };
  /** How many columns further to the left a row is drawn than the chart's others: a round that begins later. */
  startOf: (r: number) => number;
  /** Of a chart in pairs the columns of a row from the right that show yarn B; null where cells are single stitches. */
  second: (r: number) => Uint8Array | null;
  /** The lines of the paper that rows and the bands between them stand on. */
  paper: Lines;
  /** The columns of the chart that lines run before in a row, and the rows that lines run below. */
  lines: { columns: (r: number) => readonly number[]; rows: readonly number[] };
}

export function sceneOf(chart: Chart, { plain, cords, colours, ropes }: DrawingStyle): Scene {
  const book = bookOf(chart);
  const cells = cords ? cordCells(chart) : null;
  const roped = ropes ? ropesOf(chart).cells : null;
  return {
    row: (r) => {
      const below = r > 0 ? columnsBelow(chart, r) : null;
      return marksOf(chart.rows[r]!, below, cells?.[r] ?? null, roped?.[r] ?? null, plain, colours, book);
    },
    second: (r) => (wayOf(chart).loops === 2 ? secondIn(chart.rows[r]!, book) : null),
    beyond: beyondOf(chart),
    startOf: (r) => startOf(chart, r),
    paper: linesOf(chart),
    lines: { columns: (r) => linesAcross(chart, r).map((c) => c + startOf(chart, r)), rows: linesUp(chart) },
  };
}

/**
 * The part of a chart to paint: rows and columns counted from 0, both ends included. Where rounds begin elsewhere,
 * columns go beyond the chart's own, and below 0.
 */
export interface CellWindow {
  rows: { from: number; to: number };
  columns: { from: number; to: number };
}

/** Rows one above the other that are drawn over the same columns, with no band between them. */
export interface Strip {
  rows: CellWindow['rows'];
  columns: CellWindow['columns'];
}

/** The rows of a window in such strips, from the lowest. */
export function stripsOf(scene: Scene, { rows, columns }: CellWindow, width: number): Strip[] {
  const strips: (Strip & { start: number })[] = [];
  for (let r = rows.from; r <= rows.to; r++) {
    const start = scene.startOf(r);
    const last = strips.at(-1);
    const isApart = scene.paper.of(r) !== scene.paper.of(r - 1) + 1;
    if (last?.start === start && !isApart) last.rows.to = r;
    else
      strips.push({
        start,
        rows: { from: r, to: r },
        columns: { from: Math.max(columns.from, start), to: Math.min(columns.to, start + width - 1) },
      });
  }
  return strips;
}

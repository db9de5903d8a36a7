import {
  bookOf,
  EditError,
  LIMITS,
  rowFacts,
  sameStitch,
  spanOf,
  StitchSchema,
  tracedRow,
  type Block,
  type Chart,
  type Guess,
  type GuessedRow,
  type Shown,
} from '@cordelina/core';
import { z } from 'zod';

/** What is known of a picture that is traced: where its grid lies, what was shown in it, and how far the hands have come. */

const PointSchema = z.object({ x: z.number(), y: z.number() });

/** So many places of one stitch are remembered: the last that were shown. */
const MOST_ALIKE = 100;

export const TracingSchema = z.object({
  design: z.string().max(64),
  chart: z.string().max(64),
  /** The picture, and what its file was called. */
  picture: z.instanceof(Blob),
  name: z.string().max(200),
  corners: z.tuple([PointSchema, PointSchema, PointSchema, PointSchema]),
  grid: z.object({
    columns: z.int().min(1).max(LIMITS.columns),
    rows: z.int().min(1).max(LIMITS.rows),
  }),
  /** The cell of the chart that its lower right cell lies on. */
  at: z.object({ row: z.int().min(0), column: z.int().min(0) }),
  opacity: z.number().min(0).max(1),
  isSeen: z.boolean(),
  /** Places are those of the picture. */
  shown: z.array(z.object({ row: z.int().min(0), column: z.int().min(0), stitch: StitchSchema })).max(4000),
  /** Rows of the picture that are done, as they were before and as they were taken, in JSON; and how many of their cells are open. */
  taken: z.array(z.object({ row: z.int().min(0), was: z.string(), now: z.string(), open: z.int().min(0) })),
  /** When it was last touched. */
  touched: z.number(),
});
export type Tracing = z.infer<typeof TracingSchema>;

type Taken = Tracing['taken'][number];

/** The row of the picture at a row of the chart; null where it has none. */
export const pictured = ({ at, grid }: Pick<Tracing, 'at' | 'grid'>, row: number): number | null => {
  const own = row - at.row;
  return own >= 0 && own < grid.rows ? own : null;
};

/** What was taken of a row of the picture, unless that has been undone. */
export function takenOf(
  { taken, at }: Pick<Tracing, 'taken' | 'at'>,
  chart: Chart,
  row: number,
): Taken | null {
  const found = taken.find((one) => one.row === row);
  if (!found) return null;
  const now = JSON.stringify(chart.rows[row + at.row] ?? null);
  return now === found.was && found.was !== found.now ? null : found;
}

/** A row counts as done from now on. */
export const withTaken = (tracing: Tracing, one: Taken): Tracing => ({
  ...tracing,
  taken: [...tracing.taken.filter(({ row }) => row !== one.row), one],
});

/**
 * The stitches of a block of the chart are what the picture shows there: of each the last few places are remembered.
 *
 * @returns the tracing, and how many places were shown
 */
export function withShown(
  tracing: Tracing,
  chart: Chart,
  { columns, rows }: Block,
): { tracing: Tracing; many: number } {
  const { at, grid } = tracing;
  const book = bookOf(chart);
  const found: Shown[] = [];
  for (let r = rows.from; r <= rows.to; r++) {
    const own = pictured(tracing, r);
    const row = chart.rows[r];
    if (own === null || !row) continue;
    const { starts } = rowFacts(row, book);
    row.forEach((stitch, i) => {
      const [from, to] = [starts[i]!, starts[i]! + spanOf(stitch, book) - 1];
      if (from < columns.from || to > columns.to || from < at.column || to >= at.column + grid.columns)
        return;
      found.push({ row: own, column: from - at.column, stitch });
    });
  }
  const isNamedAnew = (one: Shown) => found.some((f) => f.row === one.row && f.column === one.column);
  const all = [...tracing.shown.filter((one) => !isNamedAnew(one)), ...found];
  const shown = all.filter(
    (one, i) => all.slice(i + 1).filter((later) => sameStitch(later.stitch, one.stitch)).length < MOST_ALIKE,
  );
  return { tracing: { ...tracing, shown }, many: found.length };
}

/** Guesses of a row of the picture, in the places of the chart; of a row that is done only what is still open. */
export function guessedRow(
  tracing: Tracing,
  chart: Chart,
  guesses: readonly Guess[],
  row: number,
): GuessedRow {
  const taken = takenOf(tracing, chart, row);
  const left = taken ? (taken.open ? guesses.filter(({ stitch }) => stitch === null) : []) : guesses;
  return {
    row: row + tracing.at.row,
    guesses: left.map((guess) => ({ ...guess, column: guess.column + tracing.at.column })),
  };
}

/** The chart as it would be were everything right that is guessed; what has no room is left out. */
export function guessedChart(chart: Chart, rows: readonly GuessedRow[]): Chart {
  return rows.reduce((now, { row, guesses }) => {
    if (!now.rows[row]) return now;
    try {
      return tracedRow(now, row, guesses).chart;
    } catch (error) {
      if (error instanceof EditError) return now;
      throw error;
    }
  }, chart);
}

/** How many guesses of a row are none, and how many are not sure. */
export const doubts = (guesses: readonly Guess[]): { open: number; unsure: number } => ({
  open: guesses.filter(({ stitch }) => stitch === null).length,
  unsure: guesses.filter(({ stitch, isSure }) => stitch !== null && !isSure).length,
});

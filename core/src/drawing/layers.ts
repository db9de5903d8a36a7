import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart, type Mirror } from '../chart/schema.js';
import { ropeName, ropesOf } from '../ropes/ropes.js';

/**
 * What is laid over a chart's picture, as data: each layer is a list of marks that a canvas, an SVG and a printed
 * page paint alike. Rows and columns are the chart's, from 0, bottom and right.
 */

/** What a mark of a layer says; the page decides its colour. */
export type Tone = 'error' | 'caution' | 'changed' | 'symmetry' | 'guess';

export type LayerMark =
  /** Cells of a row, both columns included: lined out, lined out with dashes, or under a thin veil. */
  | { shape: 'cells'; row: number; from: number; to: number; look: 'line' | 'dashes' | 'veil'; tone: Tone }
  /** A dashed line through the whole chart, `at` half columns from the right; with a point `turn` half rows up. */
  | { shape: 'axis'; at: number; turn: number | null; tone: Tone }
  /** A ring around cells of a row. */
  | { shape: 'ring'; row: number; from: number; to: number; tone: Tone }
  /** A rope's letter in a cell of the drawing, its repeats drawn out. */
  | { shape: 'letter'; row: number; column: number; text: string }
  /** A question mark in the upper corner of a cell, which leaves what stands in it to be seen. */
  | { shape: 'asked'; row: number; column: number; tone: Tone };

export interface Layer {
  id: 'findings' | 'followed' | 'symmetry' | 'ropes' | 'notes' | 'tracing';
  marks: readonly LayerMark[];
}

/** A rope's letter comes again after so many rows. */
const LETTER_EVERY = 8;

/**
 * The letters of ropes where they go straight, so that colour never stands alone, and rings around crossings that lie the
 * wrong way. `drawn` is the chart as it is shown.
 */
export function ropesLayer(drawn: Chart, wrong: readonly Found[]): Layer {
  const book = bookOf(drawn);
  const marks: LayerMark[] = [];
  /** The row from which each rope's letter is due. */
  const due: number[] = [];
  ropesOf(drawn).cells.forEach((cells, row) => {
    const stitches = drawn.rows[row]!;
    const { starts } = rowFacts(stitches, book);
    stitches.forEach((stitch, i) => {
      const column = starts[i]!;
      const rope = cells[column] ?? -1;
      if (stitch !== 'k' || rope < 0 || row < (due[rope] ?? 0)) return;
      marks.push({ shape: 'letter', row, column, text: ropeName(rope) });
      due[rope] = row + LETTER_EVERY;
    });
  });
  const rings = wrong.flatMap(({ row, columns }): LayerMark[] =>
    row && columns
      ? [{ shape: 'ring', row: row - 1, from: columns[0] - 1, to: columns[1] - 1, tone: 'error' }]
      : [],
  );
  return { id: 'ropes', marks: [...marks, ...rings] };
}

/** Of a finding, what a layer needs. Rows and columns count from 1, as findings tell them. */
interface Found {
  level: 'error' | 'caution' | 'note';
  row?: number;
  columns?: readonly [from: number, to: number];
  meant?: string;
}

/** The cells that findings speak of; notes speak of the chart as a whole. An error is lined, a caution dashed. */
export const findingsLayer = (findings: readonly Found[]): Layer => ({
  id: 'findings',
  marks: findings.flatMap(({ level, row, columns, meant }): LayerMark[] =>
    row && columns && level !== 'note' && meant === undefined
      ? [
          {
            shape: 'cells',
            row: row - 1,
            from: columns[0] - 1,
            to: columns[1] - 1,
            look: level === 'error' ? 'line' : 'dashes',
            tone: level,
          },
        ]
      : [],
  ),
});

/** The cells in which knitters noticed something: ringed. */
export const notesLayer = (cells: readonly { row: number; column: number }[]): Layer => ({
  id: 'notes',
  marks: cells.map(({ row, column }) => ({ shape: 'ring', row, from: column, to: column, tone: 'caution' })),
});

/** Cells that have just followed an edit below them. */
export const followedLayer = (cells: readonly { row: number; from: number; to: number }[]): Layer => ({
  id: 'followed',
  marks: cells.map((run) => ({ shape: 'cells', ...run, look: 'veil', tone: 'changed' })),
});

/** The line a chart is drawn by. */
export const symmetryLayer = (mirror: Mirror | null): Layer => ({
  id: 'symmetry',
  marks: mirror ? [{ shape: 'axis', at: mirror.axis, turn: mirror.turn ?? null, tone: 'symmetry' }] : [],
});

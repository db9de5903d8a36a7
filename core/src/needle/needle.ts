import { takesOf, type Stitch, type StitchBook } from '../stitches/book.js';
import type { Face } from '../stitches/face.js';
import { repeatRows } from '../chart/frame.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';

/** What became of the needle in one row. Lists run from the right, as the RS looks. */
export interface RowWork {
  takes: number;
  makes: number;
  /** Faces of the loops after the row. */
  faces: readonly Face[];
  /** For each loop after the row, the place of the loop it continues, or -1 when it is new. */
  from: readonly number[];
  /** Loops the row wants beyond those on the needle (positive) or leaves unworked (negative). */
  lacks: number;
}

/**
 * Works one row of stitches over the live loops `below`. Loops the needle lacks count as knit, so that one
 * faulty row does not hide what the rows above it do.
 */
export function workStitches(stitches: readonly Stitch[], below: readonly Face[], book: StitchBook): RowWork {
  const faces: Face[] = [];
  const from: number[] = [];
  let taken = 0;
  for (const stitch of stitches) {
    const { takes, faces: made, continues } = book.facts(stitch);
    if (made === 'below') faces.push(below[taken] ?? 'knit');
    else for (let i = 0; i < made.length; i++) faces.push(made[i]!);
    for (let i = 0; i < continues.length; i++) from.push(continues[i]! < 0 ? -1 : taken + continues[i]!);
    taken += takes;
  }
  return { takes: taken, makes: faces.length, faces, from, lacks: taken - below.length };
}

/** The cast-on: as many knit loops as the first row takes. */
export function castOnNeedle(first: readonly Stitch[], book: StitchBook): Face[] {
  return Array<Face>(first.reduce((sum, s) => sum + takesOf(s, book), 0)).fill('knit');
}

export const sameFaces = (a: readonly Face[], b: readonly Face[]) =>
  a === b || (a.length === b.length && a.every((f, i) => f === b[i]));

const worked = new WeakMap<Row, { below: readonly Face[]; book: StitchBook; work: RowWork }>();

/**
 * Works the chart as drawn (each repeat once), row by row from the bottom. A row is worked again only when it
 * or the needle that enters it is new, so an edit costs one row and those above until the needle is as before.
 */
export function workChart(chart: Chart): RowWork[] {
  const book = bookOf(chart);
  let needle: readonly Face[] = castOnNeedle(chart.rows[0]!, book);
  return chart.rows.map((row) => {
    const known = worked.get(row);
    let work: RowWork;
    if (known && known.book === book && sameFaces(known.below, needle)) work = known.work;
    else {
      work = workStitches(row, needle, book);
      if (known && sameFaces(known.work.faces, work.faces)) work = { ...work, faces: known.work.faces };
      worked.set(row, { below: needle, book, work });
    }
    needle = work.faces;
    return work;
  });
}

/**
 * The rows of the repeat up worked over a needle, as on a further pass; `before` is what an earlier pass made of
 * them. Faces differ only where a row takes those it finds, as slips do, so it ends where the two are alike.
 */
export function workAgain(chart: Chart, before: readonly RowWork[], needle: readonly Face[]): RowWork[] {
  const repeat = repeatRows(chart);
  if (!repeat) return [];
  const book = bookOf(chart);
  const again: RowWork[] = [];
  let below = needle;
  for (let r = repeat.first; r <= repeat.last; r++) {
    const work = workStitches(chart.rows[r]!, below, book);
    const was = before[r - repeat.first]!;
    if (sameFaces(work.faces, was.faces)) return [...again, ...before.slice(r - repeat.first)];
    again.push(work);
    below = work.faces;
  }
  return again;
}

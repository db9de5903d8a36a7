import { repeatRows, startOf } from '../chart/frame.js';
import { rowFacts, runsOf, takesOfAll, type Run } from '../chart/rows.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { modulo } from '../values.js';
import { keptWhereSame, ofEach, ofEvery, remembered, sameInputs, upwards } from '../remember.js';
import { wayOf } from '../construction/index.js';
import type { Stitch, StitchBook, StitchFacts } from '../stitches/book.js';
import { loopOf, needleOf, slippedOn, sameFaces, type Loop, type Needle } from './loop.js';

/** What became of the needle in one row. Lists run from the right, as the RS looks. */
export interface RowWork {
  takes: number;
  makes: number;
  /** The needle after the row. */
  loops: Needle;
  /** For each loop after the row, the place of the loop whose strand it continues, or -1 when it is new. */
  from: readonly number[];
  /** Loops the row wants beyond those on the needle (positive) or leaves unworked (negative). */
  lacks: number;
}

/** The loops a stitch makes, from the right; none where it keeps those it finds. */
const madeBy = ofEach(({ faces, twisted }: StitchFacts): readonly Loop[] =>
  faces === 'below' ? [] : faces.map((face, i) => loopOf(face, twisted.includes(i))),
);

/** What lies along a needle as a round meets it that begins `start` loops later; given back by the opposite. */
export function fromStart<T>(along: readonly T[], start: number): readonly T[] {
  const by = along.length ? modulo(start, along.length) : 0;
  return by ? [...along.slice(by), ...along.slice(0, by)] : along;
}

/** The needle as a round meets it whose marker has been moved on by `start` loops; the opposite moves it back. */
export const needleFrom = (needle: Needle, start: number): Needle =>
  start ? needleOf(fromStart(needle, start)) : needle;

/**
 * Works one row of stitches over the loops `below`. Loops the needle lacks count as knit, so that one
 * faulty row does not hide what the rows above it do. A round that begins `start` loops later is met from there, and
 * the needle is told as it lies when the marker has come back.
 */
export const workStitches = (
  stitches: readonly Stitch[],
  below: Needle,
  book: StitchBook,
  start = 0,
): RowWork => workRuns(runsOf(stitches, book), below, start);

function workRuns(runs: readonly Run[], below: Needle, start: number): RowWork {
  if (start) {
    const work = workRuns(runs, needleFrom(below, start), 0);
    const n = below.length || 1;
    const from = work.from.map((f) => (f < 0 ? f : modulo(f + start, n)));
    return { ...work, loops: needleFrom(work.loops, -start), from: fromStart(from, -start) };
  }
  const loops: Loop[] = [];
  // Most rows move no loop: what each continues is written down from the first that is moved on.
  let from: number[] | null = null;
  let taken = 0;
  for (let k = 0; k < runs.length; k++) {
    const { facts, times } = runs[k]!;
    const { takes, faces, continues } = facts;
    const made = madeBy(facts);
    if (!from && !facts.isStraight) from = placesTo(loops.length).slice();
    for (let s = 0; s < times; s++) {
      if (from)
        for (let i = 0; i < continues.length; i++) from.push(continues[i]! < 0 ? -1 : taken + continues[i]!);
      if (faces === 'below') {
        loops.push(slippedOn(below[taken] ?? loopOf('knit')));
      } else for (let i = 0; i < made.length; i++) loops.push(made[i]!);
      taken += takes;
    }
  }
  return {
    takes: taken,
    makes: loops.length,
    loops: needleOf(loops),
    from: from ?? placesTo(loops.length),
    lacks: taken - below.length,
  };
}

/** 0, 1, 2 … up to a number of loops: shared by all rows that move none. */
const placesTo = ofEvery((n: number): readonly number[] => Array.from({ length: n }, (_, i) => i));

/** A needle of so many loops that were only cast on. */
export const freshNeedle = (loops: number): Needle => needleOf(Array<Loop>(loops).fill(loopOf('knit')));

/** The cast-on: as many loops as the first row takes. */
export function castOnNeedle(first: readonly Stitch[], book: StitchBook): Needle {
  return freshNeedle(takesOfAll(first, book));
}

/**
 * The cast-on as its first row shows it: before that no loop has a face, and what the row shows is what is meant. For looking
 * at cloth, never for working it.
 */
export const castOnAsShown = remembered((first: Row, book: StitchBook): Needle =>
  needleOf(
    first.flatMap((stitch): Loop[] => {
      const { takes, faces, continues } = book.facts(stitch);
      return Array.from({ length: takes }, (_, i) => {
        const made = continues.indexOf(i);
        return loopOf(faces === 'below' ? 'knit' : (faces[made < 0 ? 0 : made] ?? 'knit'));
      });
    }),
  ),
);

/** A row of a chart worked over a needle. */
export const workRow = remembered((row: Row, below: Needle, book: StitchBook, start: number) =>
  workRuns(rowFacts(row, book).runs, below, start),
);

const workRows = upwards<Row, RowWork>();

/** A row over another needle often comes out as before: then it is the same work, and nothing above it is gone into. */
const keptWork = keptWhereSame<Row, RowWork>(
  (a, b) =>
    a.loops === b.loops &&
    a.takes === b.takes &&
    a.lacks === b.lacks &&
    (a.from === b.from || sameInputs(a.from, b.from)),
);

/**
 * Works the chart as drawn (each repeat once), row by row from the bottom. A row is worked again only when it
 * or the needle that enters it is new, so an edit costs one row and those above until the needle is as before.
 */
export function workChart(chart: Chart): readonly RowWork[] {
  const book = bookOf(chart);
  return workRows(chart.rows, [book, wayOf(chart)], ({ element: row, carried, r }) =>
    keptWork(row, workRow(row, carried ? carried.loops : castOnNeedle(row, book), book, startOf(chart, r))),
  );
}

/**
 * The rows of the repeat up worked over a needle, as on a further pass; `before` is what an earlier pass made of
 * them. Faces differ only where a row takes those it finds, as slips do, so it ends where the two are alike.
 */
export function workAgain(chart: Chart, before: readonly RowWork[], needle: Needle): RowWork[] {
  const repeat = repeatRows(chart);
  if (!repeat) return [];
  const book = bookOf(chart);
  const again: RowWork[] = [];
  let below = needle;
  for (let r = repeat.first; r <= repeat.last; r++) {
    const work = workRow(chart.rows[r]!, below, book, startOf(chart, r));
    if (sameFaces(work.loops, before[r - repeat.first]!.loops))
      return [...again, ...before.slice(r - repeat.first)];
    again.push(work);
    below = work.loops;
  }
  return again;
}

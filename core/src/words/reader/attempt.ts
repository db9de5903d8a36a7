import { counted } from '../../values.js';
import { sideOf, takesTurns, wayOf } from '../../construction/index.js';
import { freshNeedle, needleFrom, workStitches } from '../../needle/needle.js';
import type { Needle } from '../../needle/loop.js';
import type { Side } from '../../stitches/face.js';
import type { Item, RowLine } from '../pattern.js';
import type { ReadOptions } from './assemble.js';
import { leftwards, turned } from './hands.js';
import { WordProblem, type Lexicon } from './lexicon.js';
import { MOST_PROBLEMS, type PatternLines, type Problem } from './pattern-lines.js';
import type { PlacedRow } from './order.js';
import { RowProblem } from './at-work.js';
import { fromTheRight, takesByItself, workWords, type WorkedRow } from './work.js';

/** Rows of a text worked on a needle. */
export interface Attempt {
  /** Stitches of each row from the right; null where a row does not work. */
  rows: (WorkedRow | null)[];
  /** Loops before each row, and after the last. */
  needles: number[];
  /** How many stitches after the first round's each round begins. */
  starts: number[];
  problems: Problem[];
}

/** What rows are read with. */
export interface Reader {
  rows: readonly PlacedRow[];
  options: ReadOptions;
  lexicon: Lexicon;
  placeOf: PatternLines['placeOf'];
}

const sts = (n: number): string => counted(n, 'stitch');

/** A needle with the knitter's own markers, each by the loops right of it as the right side looks. */
interface Held {
  needle: Needle;
  markers: readonly number[];
}

/** Works a row over a needle; the needle after it, and how far it moved the marker of the round. @throws RowProblem, WordProblem */
function workRow(
  row: PlacedRow,
  { needle, markers }: Held,
  { lexicon }: Reader,
): Held & { worked: WorkedRow; onwards: number } {
  const inOrder = (places: readonly number[], among: number) =>
    turned([0, 1], row.side, lexicon.hand)[0] === 0 ? places : places.map((at) => among - at).reverse();
  const worked = workWords(row.body!, needle, row.side, lexicon, inOrder(markers, needle.length));
  const onwards = leftwards(worked.moved, row.side, lexicon.hand);
  const stitches = fromTheRight(worked, row.side, lexicon.hand);
  const after = workStitches(stitches, needleFrom(needle, onwards), lexicon.book).loops;
  return {
    worked,
    needle: after,
    markers: worked.markers ? inOrder(worked.markers, after.length) : markers,
    onwards,
  };
}

const takesOf = ({ body, side }: PlacedRow, lexicon: Lexicon): number | null => {
  try {
    return body && takesByItself(body, side, lexicon);
  } catch (error) {
    if (error instanceof WordProblem) return null;
    throw error;
  }
};

/** Whether all rows from `from` on work, begun on a needle of so many stitches. */
function allWork(reader: Reader, from: number, stitches: number): boolean {
  let held: Held = { needle: freshNeedle(stitches), markers: [] };
  for (const row of reader.rows.slice(from)) {
    if (!row.body || row.body.type === 'unread') continue;
    try {
      held = workRow(row, held, reader);
      const count = row.line?.count ?? null;
      if (count !== null && count !== held.needle.length) return false;
    } catch (error) {
      if (!(error instanceof RowProblem || error instanceof WordProblem)) throw error;
      return false;
    }
  }
  return true;
}

/** So many rows are looked at again to see which of two is wrong. */
const MOST_WEIGHED = 400;

/**
 * A row does not fit the needle: it is wrong, or one before it has lost or gained. Both are weighed, and what mends
 * more is told. Null where the row itself is as likely to be wrong.
 */
function blame(reader: Reader, r: number, needles: readonly number[]): Omit<Problem, 'id' | 'level'> | null {
  const row = reader.rows[r]!;
  const wants = takesOf(row, reader.lexicon);
  const holds = needles[r]!;
  if (wants === null || wants === holds || reader.rows.length > MOST_WEIGHED) return null;
  // Two rows at least must agree against the needle.
  if (r + 1 >= reader.rows.length || !allWork(reader, r, wants) || allWork(reader, r + 1, holds)) return null;
  const by = Math.abs(wants - holds);
  const change = wants > holds ? 'more' : 'fewer';
  const last = reader.rows.at(-1)!.label;
  const range =
    r + 1 === reader.rows.length ? row.label : `${row.label.toLowerCase()} to ${last.toLowerCase()}`;
  let changed = r - 1;
  while (changed >= 0 && needles[changed] === needles[changed + 1]) changed--;
  const at = changed >= 0 ? changed : r - 1;
  const suspect = reader.rows[at];
  if (!suspect)
    return {
      row: r + 1,
      message: `${row.label} wants ${sts(wants)}, and ${holds} are cast on: with ${by} ${change}, ${range} come out.`,
      at: row.line ? reader.placeOf(row.line) : undefined,
    };
  const how =
    changed < 0 ? `left ${sts(wants)}` : wants > holds ? `had ${sts(by)} more` : `had ${sts(by)} fewer`;
  return {
    row: at + 1,
    message: `${suspect.label} leaves ${sts(needles[at + 1]!)}, and ${row.label.toLowerCase()} wants ${wants}: if ${suspect.label.toLowerCase()} ${how} at its end, ${range} come out.`,
    at: suspect.line ? reader.placeOf(suspect.line) : undefined,
  };
}

const asRows = ({ body }: RowLine): string => (body.type === 'as' ? body.rows.join(', ') : '');

/** Whether items speak of what the stitches present. */
const presents = (items: readonly Item[]): boolean =>
  items.some((i) => i.type === 'present' || ((i.type === 'star' || i.type === 'group') && presents(i.items)));

const byText = (by: number): string =>
  by === 0 ? 'as many' : `${sts(Math.abs(by))} ${by > 0 ? 'more' : 'fewer'}`;

/** Rows that are not written one after the other are one fault. */
function withGapsJoined(problems: readonly Problem[], placed: readonly PlacedRow[]): Problem[] {
  const out: Problem[] = [];
  let from: number | null = null;
  for (const [i, problem] of problems.entries()) {
    const row = problem.id === 'row-missing' ? placed[problem.row! - 1]! : undefined;
    const goesOn = row?.line === null && from !== null && problems[i - 1]!.row === problem.row! - 1;
    if (goesOn)
      out[out.length - 1] = { ...out.at(-1)!, message: `Rows ${from}–${row.number} are not written.` };
    else out.push(problem);
    if (!goesOn) from = row?.line === null ? row.number : null;
  }
  return out;
}

/** Works every row of the text on a needle of `castOn` loops. One fault makes one problem. */
export function attempt(reader: Reader, castOn: number): Attempt {
  const { rows: placed, options, lexicon, placeOf } = reader;
  const way = wayOf(options);
  let held: Held = { needle: freshNeedle(castOn), markers: [] };
  const needles = [castOn];
  let start = 0;
  const starts: number[] = [];
  const problems: Problem[] = [];
  /** Whether a row below did not work, so that the needle may not be what the next was written for. */
  let isUnsure = false;
  let miscounted = 0;
  const rows = placed.map((row, r): WorkedRow | null => {
    if (problems.length >= MOST_PROBLEMS) return null;
    const { label, line, body } = row;
    const at = (item?: object) => (line ? placeOf(line, item) : undefined);
    const problem = (id: string, message: string, item?: object) =>
      problems.push({ id, level: 'error', row: r + 1, message, at: at(item) });
    if (body?.type === 'unread') {
      // What is wrong with it was told where it stands.
      needles.push(held.needle.length);
      isUnsure = true;
      return null;
    }
    if (!line || !body) {
      problem(
        'row-missing',
        line ? `${label} is as row ${asRows(line)}, which is not written out.` : `${label} is not written.`,
      );
      needles.push(held.needle.length);
      return null;
    }
    if (r === 0 && (body.type === 'presented' || (body.type === 'items' && presents(body.items))))
      problem(
        'nothing-presents',
        `${label} works the stitches as they present, and nothing is knitted below it: say what it works.`,
      );
    const side: Side = sideOf(options, r);
    if (takesTurns(way) && line.side && line.side !== side)
      problem(
        'wrong-side',
        `${label} is written as ${line.side}, but ${row.number === null ? 'where it stands' : 'by its number'} it is worked on the ${side}.`,
      );
    try {
      let done: ReturnType<typeof workRow>;
      try {
        done = workRow(row, held, reader);
      } catch (error) {
        const wants = isUnsure && error instanceof RowProblem ? takesOf(row, lexicon) : null;
        if (wants === null) throw error;
        done = workRow(row, { needle: freshNeedle(wants), markers: [] }, reader);
      }
      const before = held.needle.length;
      held = done;
      const { needle } = held;
      isUnsure = false;
      start += done.onwards;
      if (start && way.shifts !== 'start')
        problem('marker-in-flat-work', `${label} moves the marker of the round, but is worked flat.`);
      starts[r] = start;
      // Of rows that are as others in turn the last is counted.
      const isCounted = line.body.type !== 'as' || row.number === null || row.number === line.numbers.at(-1);
      const off = line.count === null || !isCounted ? 0 : line.count - needle.length;
      if (off && off !== miscounted)
        problem('count-differs', `${label} says ${line.count} stitches; the needle holds ${needle.length}.`);
      if (line.count !== null) miscounted = off;
      if (line.changed !== undefined && line.changed !== needle.length - before)
        problem(
          'count-differs',
          `${label} says that there are ${byText(line.changed)} then; its words make ${byText(needle.length - before)}.`,
        );
      needles.push(needle.length);
      return done.worked;
    } catch (error) {
      if (error instanceof RowProblem) {
        const other = isUnsure ? null : blame(reader, r, needles);
        if (other) problems.push({ ...other, id: error.id, level: 'error' });
        else problem(error.id, `${label} ${error.message}`, error.item);
        isUnsure = true;
      } else if (error instanceof WordProblem) problem(error.id, `${label}: ${error.message}`, error.item);
      else throw error;
      needles.push(held.needle.length);
      return null;
    }
  });
  return { rows, needles, starts, problems: withGapsJoined(problems, placed) };
}

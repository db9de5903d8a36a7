import { expandRow, startOf } from '../chart/frame.js';
import { modulo } from '../values.js';
import { isCrossing, makesOf, takesOf, type Stitch } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { itemsText } from '../words/render.js';
import { phrase } from '../words/write.js';
import { needleBefore } from './hands.js';
import { titleOf, type Job } from './job.js';

/**
 * Stitches let down and worked up again without those beside them. Which may be let down by themselves is read off the cloth:
 * whoever shares a stitch with one that goes must go too. Loops are counted from 0 from the right, as the right side looks.
 */

/** A stitch of a row with the loops it takes, and those it makes. */
interface Worked {
  stitch: Stitch;
  takes: number[];
  makes: number[];
}

/** Loops side by side, from the first to the last. */
export interface Stretch {
  from: number;
  to: number;
}

/** A row of what is let down: worked again from the right side, by its words. */
export interface DroppedRow {
  /** Its row of the job, from 0. */
  row: number;
  title: string;
  /** What is worked again, as the right side is seen. */
  words: string;
  stitches: readonly Stitch[];
  /** The loops of the needle below that it is worked over, and those it leaves. */
  over: readonly number[];
  makes: readonly number[];
  /** Crossings that come undone in it. */
  crossings: number;
}

export interface Dropped {
  /** The loops let down, on the needle that is in hand. */
  loops: Stretch;
  /** From the row worked last down to the lowest. */
  rows: DroppedRow[];
  /** Loops held still at each side meanwhile. */
  held: { right: number; left: number };
  /** Loops worked again in all. */
  cost: number;
}

/** Why stitches cannot be let down alone, and the narrowest stretch around them that can. */
export interface TooNarrow {
  reason: string;
  wider: Stretch | null;
}

/** So deep stitches are let down, at most: further down the rows are better taken back whole (custom). */
export const MOST_DROPPED_ROWS = 200;

/** The stitches of a row of a job, each with its loops on the needles below and above it. */
function workedIn(job: Job, n: number): Worked[] {
  const { chart, times, diction } = job;
  const { row } = job.rows[n]!;
  const stitches = (expandRow(chart, row, times) ?? chart.rows[row]!).filter((s) => s !== NO_STITCH);
  const [below, above] = [needleBefore(job, n).length || 1, needleBefore(job, n + 1).length || 1];
  const start = startOf(chart, row);
  let [taken, made] = [0, 0];
  return stitches.map((stitch) => {
    const takes = Array.from({ length: takesOf(stitch, diction.book) }, () => modulo(taken++ + start, below));
    const makes = Array.from({ length: makesOf(stitch, diction.book) }, () => modulo(made++ + start, above));
    return { stitch, takes, makes };
  });
}

/** What goes of the rows between two needles: loops of each needle, from the lowest up. */
interface Gone {
  rows: Worked[][];
  needles: Set<number>[];
}

/** All that goes when some loops go: a stitch goes with any loop of it, and all its loops with it. `needles[i]` is the needle before row `first + i`. */
function closed(job: Job, first: number, last: number, needles: Set<number>[]): Gone {
  const rows = Array.from({ length: last - first + 1 }, (_, i) => workedIn(job, first + i));
  for (let grew = true; grew;) {
    grew = false;
    const add = (to: Set<number>, loops: readonly number[]) => {
      for (const loop of loops) if (!to.has(loop)) grew = Boolean(to.add(loop));
    };
    for (let i = rows.length - 1; i >= 0; i--)
      for (const { takes, makes } of rows[i]!)
        if (
          makes.some((loop) => needles[i + 1]!.has(loop)) ||
          (takes.some((loop) => needles[i]!.has(loop)) && makes.length)
        ) {
          add(needles[i + 1]!, makes);
          add(needles[i]!, takes);
        }
    // What goes lies side by side on the needle in hand.
    const top = needles.at(-1)!;
    const { from, to } = hull(top);
    for (let loop = from; loop <= to; loop++) if (!top.has(loop)) grew = Boolean(top.add(loop));
  }
  return { rows, needles };
}

const hull = (loops: ReadonlySet<number>): Stretch => ({ from: Math.min(...loops), to: Math.max(...loops) });

/**
 * Stitches let down from the needle after `worked` rows of a job, so many rows deep; or why they cannot be let down alone.
 *
 * @param loops of the needle, from the right
 */
export function dropOf(job: Job, worked: number, loops: Stretch, deep: number): Dropped | TooNarrow {
  const needle = needleBefore(job, worked);
  const refuse = (reason: string, wider: Stretch | null = null): TooNarrow => ({ reason, wider });
  if (!(loops.from >= 0 && loops.from <= loops.to && loops.to < needle.length))
    return refuse(`The needle holds ${needle.length} stitches: choose among them.`);
  if (deep < 1 || deep > worked) return refuse(`There are ${worked} rows below: choose among them.`);
  if (deep > MOST_DROPPED_ROWS)
    return refuse(`Deeper than ${MOST_DROPPED_ROWS} rows the whole rows are better taken back.`);
  const first = worked - deep;
  const band = job.rows.slice(first, worked).find((row) => row.band !== null);
  if (band)
    return refuse('A band lies on the way: its stitches hold each other, and only whole rounds come off.');
  const needles = Array.from({ length: deep + 1 }, () => new Set<number>());
  for (let loop = loops.from; loop <= loops.to; loop++) needles[deep]!.add(loop);
  const gone = closed(job, first, worked - 1, needles);
  const wider = hull(gone.needles[deep]!);
  if (wider.from < loops.from || wider.to > loops.to) {
    if (wider.to - wider.from + 1 === needle.length)
      return refuse('Every stitch of the row hangs together with these: take the rows back whole.');
    return refuse(
      `Other ropes cross into these stitches on the way down: stitches ${wider.from + 1} to ${wider.to + 1} from the right hang together.`,
      wider,
    );
  }
  return dropped(job, first, gone, { right: wider.from, left: needle.length - 1 - wider.to });
}

function dropped(job: Job, first: number, { rows, needles }: Gone, held: Dropped['held']): Dropped {
  const list = rows.map((row, i): DroppedRow => {
    const own = row.filter(
      ({ takes, makes }) =>
        makes.some((l) => needles[i + 1]!.has(l)) || takes.some((l) => needles[i]!.has(l)),
    );
    const stitches = own.map(({ stitch }) => stitch);
    return {
      row: first + i,
      title: titleOf(job, first + i).text,
      words: itemsText(phrase(stitches, 'RS', job.diction), job.manner),
      stitches,
      over: own.flatMap(({ takes }) => takes),
      makes: own.flatMap(({ makes }) => makes),
      crossings: stitches.filter(isCrossing).length,
    };
  });
  return {
    loops: hull(needles.at(-1)!),
    rows: list.reverse(),
    held,
    cost: list.reduce((sum, { makes }) => sum + makes.length, 0),
  };
}

/** What to do about a crossing that was turned the wrong way some rows below. */
export interface WrongCrossing {
  /** Let down these stitches only; null where they hang together with all others, or too deep. */
  drop: Dropped | null;
  /** All rows down to it taken back: so many rows, and loops worked again. */
  rip: { rows: number; loops: number };
  /** Embroidered over: the loops that are seen of it, in its row and the one that holds it. */
  duplicate: { loops: number } | null;
}

/**
 * What may be done about a stitch of a row below, and what each costs in loops.
 *
 * @param worked the rows worked by now
 * @param row the row it is in, from 0
 * @param loop any loop it made, from the right
 */
export function wrongBelow(job: Job, worked: number, row: number, loop: number): WrongCrossing {
  const deep = worked - row;
  const wrong = workedIn(job, row).find(({ makes }) => makes.includes(loop));
  const needles = Array.from({ length: deep + 1 }, () => new Set<number>());
  wrong?.makes.forEach((made) => needles[1]!.add(made));
  let drop: Dropped | null = null;
  if (wrong && deep <= MOST_DROPPED_ROWS) {
    // Upwards first: what stands on it now.
    for (let i = 1; i < deep; i++)
      for (const { takes, makes } of workedIn(job, row + i))
        if (takes.some((l) => needles[i]!.has(l))) makes.forEach((l) => needles[i + 1]!.add(l));
    const top = needles[deep]!;
    if (top.size) {
      const made = dropOf(job, worked, hull(top), deep);
      if ('rows' in made) drop = made;
      else if (made.wider) {
        const wider = dropOf(job, worked, made.wider, deep);
        if ('rows' in wider) drop = wider;
      }
    }
  }
  const loops = Array.from({ length: deep }, (_, i) => needleBefore(job, row + i + 1).length);
  const isSeen = wrong !== undefined && isCrossing(wrong.stitch);
  return {
    drop,
    rip: { rows: deep, loops: loops.reduce((sum, n) => sum + n, 0) },
    duplicate: isSeen ? { loops: 2 * wrong.makes.length } : null,
  };
}

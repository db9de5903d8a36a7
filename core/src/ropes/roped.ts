import { passesOf, timesOf, wholeFrameOf } from '../chart/frame.js';
import type { Chart } from '../chart/schema.js';
import { unfold } from '../chart/unfold.js';
import { memory, rowByRow } from '../remember.js';
import { alternate, type Interlace, type Interlaces, type Link } from './alternate.js';
import { comeFrom, isMeeting, sameMeetings, traceRopes, type Meeting, type RowRopes } from './trace.js';

/**
 * So many repeats side by side, and passes one above the other, show all that ropes meet over the lines between
 * them: what comes in from the one before, and goes on into the one after.
 */
const ENOUGH = 3;

/** A chart with enough of its repeats drawn out, and its ropes followed through them. */
export interface Roped {
  /** The chart as it is drawn out: rows and columns of what is traced are its. */
  drawn: Chart;
  /** Whether that is the chart itself, with nothing drawn out. */
  isWhole: boolean;
  rows: readonly RowRopes[];
  /** The crossings of each row: the very same list as long as they, and what comes to them, are as they were. */
  crossed: readonly (readonly Meeting[])[];
  /** The row of the chart (from 0) a drawn row stands for, and the column of a drawn column of that row. */
  rowOf: (drawn: number) => number;
  columnOf: (row: number, drawn: number) => number;
}

/** The ropes of a chart. */
export function ropedOf(chart: Chart): Roped {
  const [times, passes] = [Math.min(timesOf(chart), ENOUGH), Math.min(passesOf(chart), ENOUGH)];
  if (times === 1 && passes === 1)
    return { drawn: chart, ...traced(chart), isWhole: true, rowOf: (r) => r, columnOf: (_, c) => c };
  const { chart: drawn, rowOf, columnOf } = unfold(chart, times, passes);
  return { drawn, ...traced(drawn), isWhole: false, rowOf, columnOf };
}

const crossedAlong = rowByRow<RowRopes, readonly Meeting[]>(sameMeetings);

function traced(drawn: Chart): Pick<Roped, 'rows' | 'crossed'> {
  const rows = traceRopes(drawn);
  return { rows, crossed: crossedAlong(rows, [drawn.own], ({ element }) => element.meetings) };
}

/** Where a crossing stands in the chart: its row and its first column, from 0. */
export interface Place {
  row: number;
  column: number;
}

export function placeIn({ rowOf, columnOf }: Roped, at: Place): Place {
  const row = rowOf(at.row);
  return { row, column: columnOf(row, at.column) };
}

/** More columns than a chart has: a place as one number. */
const WIDE = 1024;
export const placeNumber = ({ row, column }: Place): number => row * WIDE + column;

/** Crossings of two ropes, and which of them hang together by their ropes. */
export interface Interlaced extends Interlaces {
  /** The meetings where they are drawn, from the bottom and from the right. */
  meetings: readonly Meeting[];
  /** The crossing of each meeting: copies in repeats are one, and are turned over as one. */
  crossingOf: readonly number[];
  /** The place in the chart of a crossing. */
  placeOf: (crossing: number) => Place;
  /**
   * Of those that mostly do not alternate, what they are as waves: with the fewest crossings to turn over so that each
   * rope stays on top, or below, all the way.
   */
  waves: ReadonlyMap<number, Interlace>;
}

/** No crossing is accepted as it lies. */
export const NONE_MEANT: ReadonlySet<number> = new Set();

const remembered = memory<Interlaced>();

/** The interlaces of a chart, over the lines of its repeats too. `meant` are places of crossings that are as they should be. */
export function interlacesOf(roped: Roped, meant: ReadonlySet<number> = NONE_MEANT): Interlaced {
  return remembered(roped.crossed, [...wholeFrameOf(roped.drawn), meant], () => interlaced(roped, meant));
}

function interlaced(roped: Roped, meant: ReadonlySet<number>): Interlaced {
  const meetings: Meeting[] = [];
  const crossingOf: number[] = [];
  /** The first meeting of each crossing. */
  const firsts: Meeting[] = [];
  const known = new Map<number, number>();
  const isDrawnOut = !roped.isWhole;
  /** For each row, the crossings of its meetings by their place in it. */
  const inRow: number[][] = [];
  const links: Link[] = [];
  for (let r = 0; r < roped.crossed.length; r++) {
    const here: number[] = [];
    inRow.push(here);
    for (const meeting of roped.crossed[r]!) {
      if (!isMeeting(meeting)) continue;
      const number = isDrawnOut ? placeNumber(placeIn(roped, meeting)) : -1;
      let crossing = isDrawnOut ? known.get(number) : undefined;
      if (crossing === undefined) {
        crossing = firsts.length;
        firsts.push(meeting);
        if (isDrawnOut) known.set(number, crossing);
      }
      here[meeting.index] = crossing;
      meetings.push(meeting);
      crossingOf.push(crossing);
      for (const { from, alternates } of comeFrom(meeting))
        links.push({ a: inRow[from.row]![from.index]!, b: crossing, alternates });
    }
  }
  const placeOf = (crossing: number): Place => placeIn(roped, firsts[crossing]!);
  const isMeant = meant.size ? (crossing: number) => meant.has(placeNumber(placeOf(crossing))) : undefined;
  const found = alternate(firsts.length, links, isMeant);
  return { meetings, crossingOf, placeOf, ...found, waves: wavesOf(found, links, firsts.length, isMeant) };
}

function wavesOf(
  { interlaces, interlaceOf }: Interlaces,
  links: readonly Link[],
  crossings: number,
  isMeant: ((crossing: number) => boolean) | undefined,
): ReadonlyMap<number, Interlace> {
  const waves = new Map<number, Interlace>();
  const isAstray = interlaces.map(({ links: all, broken }) => broken > 0 && 2 * broken >= all);
  if (!isAstray.includes(true)) return waves;
  const stays = links.flatMap(({ a, b, alternates }) =>
    isAstray[interlaceOf[a]!] ? [{ a, b, alternates: !alternates }] : [],
  );
  const found = alternate(crossings, stays, isMeant);
  for (const { a } of stays) waves.set(interlaceOf[a]!, found.interlaces[found.interlaceOf[a]!]!);
  return waves;
}

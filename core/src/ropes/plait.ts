import { multipleOf, repeatColumns, repeatRows, startOf } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { USUAL_RULES } from '../chart/rules.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { shownUp } from '../chart/smallest.js';
import { wayOf, rowTitle } from '../construction/index.js';
import { lcm, modulo } from '../values.js';
import { fromStart, workChart } from '../needle/needle.js';
import { crossingSize } from '../stitches/crossing.js';
import { faceOf, type Worked } from '../stitches/face.js';
import { crossedLoops } from './ropes.js';
import { interlacesOf, NONE_MEANT, placeIn, ropedOf, type Place, type Roped } from './roped.js';
import { rhythmOfMeetings, type Rhythm } from './rhythm.js';
import { loopsOf } from './stand.js';
import { strandsOf } from './strands.js';
import type { Meeting } from './trace.js';

/** When every strand of a plait is where it began. */
export interface Home {
  /** Repeats up until then, and the rows these are. */
  passes: number;
  rows: number;
  /** Repeats across by which the strands have then moved on to the left (negative: right); 0 at home itself. */
  drift: number;
}

/** Ropes that hang together by their crossings. Columns from 0, from the right. */
export interface Plait {
  columns: [from: number, to: number];
  ropes: number;
  crossings: number;
  /** Null where nothing repeats up, or strands begin or end in the repeat (`ends`), so that none comes home. */
  home: Home | null;
  ends: boolean;
  /** Whether each rope goes over and under, the crossings to turn over so that it does, and whether none can. */
  alternates: boolean;
  /** Whether the same rope stays on top all the way, as in a wave. */
  isWave: boolean;
  turns: readonly Place[];
  cannot: boolean;
  rhythm: Rhythm;
  /** The rows (of the chart, from 0) that cross in it. */
  rows: readonly number[];
}

/**
 * Where the loops of the needle stand after rows `first` to `last`: for each place after them, the place before; -1 for
 * loops made in between. Null where there are others then than before.
 */
export function permutationOf(chart: Chart, first: number, last: number): number[] | null {
  const works = workChart(chart);
  const loops = first > 0 ? works[first - 1]!.makes : works[0]!.takes;
  let from = Array.from({ length: loops }, (_, i) => i);
  for (let r = first; r <= last; r++) {
    const work = works[r]!;
    if (work.lacks !== 0) return null;
    from = work.from.map((f) => from[f] ?? -1);
  }
  return from.length === loops ? from : null;
}

/**
 * The rows of one pass as they are drawn out: the second, to which ropes come as they do to all later ones. Where none
 * is declared, the repeat that shows itself; null where none does.
 */
function passOf(chart: Chart, { drawn }: Roped): { first: number; last: number } | null {
  const repeat = repeatRows(chart);
  if (!repeat) {
    const shown = shownUp(chart);
    return shown && { first: shown.before + shown.length, last: shown.before + 2 * shown.length - 1 };
  }
  const high = repeat.last - repeat.first + 1;
  const by = drawn.rows.length >= chart.rows.length + high ? high : 0;
  return { first: repeat.first + by, last: repeat.last + by };
}

interface Moves {
  move: Move;
  /** The loop that a loop of another repeat is as. */
  home: (loop: number) => number;
  isRepeated: (loop: number) => boolean;
}

/** Where a loop comes to in one pass, and how many repeats further on that is. */
type Move = (place: number) => { to: number; drift: number } | null;

/**
 * The moves of the loops on a needle in one pass. Those of a repeat across that stands between two others are counted in
 * it, by the middle one; null where they leave all that is drawn.
 */
function movesOf(roped: Roped, chart: Chart): Moves | null {
  const pass = passOf(chart, roped);
  if (!pass) return null;
  const { first, last } = pass;
  const { drawn } = roped;
  const after = permutationOf(drawn, first, last);
  if (!after) return null;
  const to: (number | undefined)[] = Array<undefined>(after.length).fill(undefined);
  after.forEach((from, place) => from >= 0 && (to[from] = place));
  const n = to.length;
  const row = roped.rowOf(first);
  const { of, plus } = multipleOf(chart, row);
  const copies = of ? Math.round((n - plus) / of) : 1;
  const alone: Move = (place) => {
    const target = to[place];
    return target === undefined ? null : { to: target, drift: 0 };
  };
  if (copies < 2) return { move: alone, home: (loop) => loop, isRepeated: () => false };
  const before = beforeRepeat(chart, row);
  const middle = copies >= 3 ? 1 : 0;
  const end = before + copies * of;
  /** The loop of the middle repeat that a loop of any repeat stands for; others stand for themselves. */
  const isRepeated = (loop: number) => loop >= before && loop < end;
  const home = (loop: number) => (isRepeated(loop) ? before + middle * of + modulo(loop - before, of) : loop);
  const isTube = !wayOf(drawn).hasEdges && plus === 0;
  const move: Move = (place) => {
    let target = to[place];
    if (target === undefined) return null;
    // Round a tube the nearer way is the way it went.
    if (isTube && Math.abs(target - place) > n / 2) target += target < place ? n : -n;
    const isIn = isRepeated(place);
    if (!isIn || isTube || isRepeated(target)) {
      const drift = isIn ? Math.floor((target - before) / of) - Math.floor((place - before) / of) : 0;
      return { to: home(modulo(target, n)), drift };
    }
    return null;
  };
  return { move, home, isRepeated };
}

/** The loops on the needle right of the repeat, before a row. */
function beforeRepeat(chart: Chart, r: number): number {
  const book = bookOf(chart);
  const { starts } = rowFacts(chart.rows[r]!, book);
  const { start: line } = repeatColumns(chart, r);
  return chart.rows[r]!.reduce((sum, s, i) => sum + (starts[i]! < line ? book.facts(s).takes : 0), 0);
}

/** When the loops at some places are home: after so many passes, moved on by so many repeats. */
function homeOf(move: Move, places: Iterable<number>, rows: number): Home | null {
  let [passes, drift] = [1, 0];
  const seen = new Set<number>();
  const cycles: { length: number; drift: number }[] = [];
  for (const seed of places) {
    if (seen.has(seed)) continue;
    let [at, length, moved] = [seed, 0, 0];
    do {
      seen.add(at);
      const next = move(at);
      if (!next) return null;
      at = next.to;
      moved += next.drift;
      length++;
    } while (at !== seed && !seen.has(at));
    if (at !== seed) return null;
    cycles.push({ length, drift: moved });
    passes = lcm(passes, length);
  }
  // Strands that move on both ways never come home together: how far those go that go furthest is told.
  for (const cycle of cycles) {
    const moved = (passes / cycle.length) * cycle.drift;
    if (Math.abs(moved) > Math.abs(drift)) drift = moved;
  }
  return { passes, rows: passes * rows, drift };
}

/**
 * For each row of a pass, where each loop that it meets stood on the needle before the pass, from the right by the row's
 * own order; -1 for loops made in it.
 */
function originsIn({ drawn, rows }: Roped, first: number, last: number): Map<number, readonly number[]> {
  const works = workChart(drawn);
  const origins = new Map<number, readonly number[]>();
  const loops = rows[first - 1]?.after.length ?? works[0]!.takes;
  let along: readonly number[] = Array.from({ length: loops }, (_, i) => i);
  for (let r = first; r <= last; r++) {
    origins.set(r, fromStart(along, startOf(drawn, r)));
    const before = along;
    along = works[r]!.from.map((f) => before[f] ?? -1);
  }
  return origins;
}

/** The stitches of its groups that carry ropes, by their place among the loops of a crossing. */
const ropeLoops = ({ crossing, ropes }: Meeting): number[] =>
  loopsOf(crossing).flatMap(({ group, shows }, i) => (shows === 'knit' && ropes[group] ? [i] : []));

/** The plaits of a chart: ropes that hang together, from the right. */
export function plaitsOf(chart: Chart, meant: ReadonlySet<number> = NONE_MEANT): Plait[] {
  const roped = ropedOf(chart);
  const { interlaces, interlaceOf, crossingOf, meetings, placeOf } = interlacesOf(roped, meant);
  const moves = movesOf(roped, chart);
  const { first, last } = passOf(chart, roped) ?? { first: 0, last: -1 };
  const origins = originsIn(roped, first, last);
  const together: Meeting[][] = interlaces.map(() => []);
  meetings.forEach((meeting, i) => together[interlaceOf[crossingOf[i]!]!]!.push(meeting));
  return interlaces
    .map((one, which): Plait => {
      const own = together[which]!;
      const loops = own.flatMap((m) => {
        const met = origins.get(m.row);
        return met ? ropeLoops(m).flatMap((i) => (met[m.first + i]! >= 0 ? [met[m.first + i]!] : [])) : [];
      });
      // Where the repeat is worked on all sides, ropes go on as they do in it; at its edges they turn about.
      const repeated = loops.filter((loop) => moves?.isRepeated(loop));
      const strands = new Set((repeated.length ? repeated : loops).map((loop) => moves?.home(loop) ?? loop));
      const home = moves && strands.size ? homeOf(moves.move, strands, last - first + 1) : null;
      const rows = new Set<number>();
      const columns: [number, number] = [Infinity, -1];
      for (const m of own) {
        const { row, column } = placeIn(roped, m);
        rows.add(row);
        columns[0] = Math.min(columns[0], column);
        columns[1] = Math.max(columns[1], column + crossingSize(m.crossing) - 1);
      }
      return {
        columns,
        ropes: ropesAmong(own, strands.size || strandsIn(chart, roped, own)),
        crossings: one.crossings,
        home,
        ends: moves !== null && strands.size > 0 && home === null,
        alternates: one.broken === 0,
        isWave: one.links > 0 && one.broken === one.links,
        turns: one.turns.map(placeOf),
        cannot: one.conflict !== null,
        rhythm: rhythmOfMeetings(own),
        rows: [...rows].sort((a, b) => a - b),
      };
    })
    .sort((a, b) => a.columns[0] - b.columns[0]);
}

/** How many strands the crossings of a chart itself carry as ropes'; of a repeat, those of one. */
function strandsIn(chart: Chart, { drawn }: Roped, meetings: readonly Meeting[]): number {
  const strands = strandsOf(drawn);
  const found = new Set<number>();
  for (const meeting of meetings) {
    if (meeting.row >= chart.rows.length || meeting.column >= chart.width) continue;
    const after = fromStart(strands[meeting.row]!, startOf(drawn, meeting.row));
    for (const { strand } of crossedLoops(drawn, meeting, after)) found.add(strand);
  }
  return found.size;
}

/** How many ropes some strands are: by the narrowest group that crosses them. */
function ropesAmong(meetings: readonly Meeting[], strands: number): number {
  const knit = (group: readonly Worked[]) => group.filter((w) => faceOf(w) === 'knit').length;
  let least = Infinity;
  for (const { crossing } of meetings) least = Math.min(least, knit(crossing.front), knit(crossing.back));
  return Math.max(2, Math.round(strands / least));
}

const few = [
  'no',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];
const inWords = (n: number) => few[n] ?? String(n);
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** One crossing in so many, at most, is taken for a slip. */
const FEW = USUAL_RULES.shareAstray;

/** A plait in words: "Three ropes in columns 3–8; home after 3 repeats, 24 rows; over and under throughout." */
export function plaitText(
  chart: Chart,
  { columns, ropes, crossings, home, ends, alternates, isWave, turns, cannot }: Plait,
): string {
  const row = rowTitle(chart, 0).split(' ')[0]!.toLowerCase();
  const isAllOver = home !== null && home.drift !== 0;
  const parts = [
    `${capital(inWords(ropes))} ropes ${isAllOver ? 'to the repeat' : `in columns ${columns[0] + 1}–${columns[1] + 1}`}`,
  ];
  if (ends) parts.push('strands begin or end in them');
  if (home) {
    const after = `${home.passes === 1 ? 'each repeat' : `${home.passes} repeats`}, ${home.rows} ${row}s`;
    const by = Math.abs(home.drift);
    parts.push(
      home.drift
        ? `they move on by ${by === 1 ? 'one repeat' : `${by} repeats`} across in ${after}`
        : `home after ${after}`,
    );
  }
  if (alternates) parts.push('over and under throughout');
  else if (isWave) parts.push('the same one stays on top throughout');
  else if (cannot) parts.push('they cannot all go over and under');
  else if (turns.length) {
    const some = turns.length === 1 ? 'one crossing' : `${turns.length} crossings`;
    // Where many of them would have to be turned, it is another figure, and no mistake.
    const isFigure = turns.length * FEW > crossings;
    parts.push(
      isFigure
        ? `not over and under in turn, which turning ${some} over would make them`
        : `turning ${some} over makes them go over and under`,
    );
  } else parts.push('over and under but for what is meant');
  return `${parts.join('; ')}.`;
}

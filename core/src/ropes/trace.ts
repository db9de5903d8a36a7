import { wayOf } from '../construction/index.js';
import { startOf } from '../chart/frame.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { castOnAsShown, fromStart } from '../needle/needle.js';
import { sameFaces, type Needle } from '../needle/loop.js';
import { ofEvery, remembered, upwards } from '../remember.js';
import type { StitchBook } from '../stitches/book.js';
import { crossingSize, type Crossing, type Group } from '../stitches/crossing.js';
import type { Face } from '../stitches/face.js';
import { modulo } from '../values.js';
import { movesOf, type Moves } from './moves.js';
import {
  loopsOf,
  plainStand,
  samePassage,
  sameStand,
  type CrossingLoop,
  type Passage,
  type Stand,
} from './stand.js';
import { splitBy } from './whole.js';

/** A crossing as the ropes see it. */
export interface Meeting {
  readonly row: number;
  readonly column: number;
  readonly crossing: Crossing;
  /** Its place among the crossings of its row. */
  readonly index: number;
  /** The place of its first loop as the row meets them, from the right. */
  readonly first: number;
  /** The place of its first loop after the row, from the right as the row is worked. */
  readonly loop: number;
  /** All loops as the row meets them, from the right. */
  readonly met: readonly Stand[];
  readonly needle: Needle;
  /** Which of its groups carry ropes; two ropes meet where its front and its back do. */
  readonly ropes: Readonly<Record<Group, boolean>>;
  /** Whether its row is worked over purl ground. */
  readonly onPurl: boolean;
  /** At either side, a rope's stitch that a single purl parts from it. */
  readonly right: Stand | null;
  readonly left: Stand | null;
  /** Whether ground that it passes over shows another face after it. */
  readonly changesGround: boolean;
  /** Whether it purls stitches of a rope. */
  readonly wipesOut: boolean;
  /** Whether it takes only some of the stitches that belong together as a rope. */
  readonly splits: boolean;
  /** Whether it crosses stitches of a rope that were purled since they last crossed. */
  readonly wasPurled: boolean;
}

/** What a loop of a crossing brings with it; by its place from the right. */
export const standIn = ({ met, first }: Meeting, i: number): Stand => met[first + i] ?? plainStand(-1);
export const faceIn = ({ needle, first }: Meeting, i: number): Face => needle[first + i]?.face ?? 'knit';

/** What the ropes do in one row. */
export interface RowRopes {
  /** One stand for each loop after the row, from the right. */
  readonly after: readonly Stand[];
  /** Whether stitches of ropes are knit again in it that were purled. */
  readonly knitsAgain: boolean;
  readonly meetings: readonly Meeting[];
}

export const isMeeting = ({ ropes }: Pick<Meeting, 'ropes'>): boolean => ropes.front && ropes.back;

/** A purl ground shows itself on the needle: at least every so many loops is purl. */
const LOOPS_TO_A_PURL = 5;
/** Rows a stitch is knit on purl ground before it counts as a rope's though it has not crossed yet (custom). */
const ROWS_TO_A_ROPE = 3;
/** A rope that is purled for more rows than this has ended; what is knit there again is another (custom). */
const MOST_PURLED = 4;

/** Whether the loops of a needle stand on purl ground. */
const isOnPurl = remembered((needle: Needle): boolean => {
  let purls = 0;
  for (const { face } of needle) if (face === 'purl') purls++;
  return purls * LOOPS_TO_A_PURL >= needle.length;
});

/** What was long ago is forgotten, so that a change below does not go on being told above. */
const settled = (stand: Stand, r: number): Stand =>
  stand.since >= 0 && r - stand.since >= ROWS_TO_A_ROPE ? plainStand(-1) : stand;

/** The stand of a loop after a row that did not carry it as a rope's. */
function stayed(stand: Stand, was: Face, now: Face, r: number): Stand {
  if (was === now) return settled(stand, r);
  if (!stand.rope) return plainStand(now === 'knit' ? r : -1);
  if (now === 'purl') return stand.purled === null ? { ...stand, purled: r } : stand;
  return r - stand.purled! > MOST_PURLED ? plainStand(r) : { ...stand, back: stand.back ?? r };
}

/**
 * Whether a loop is of a rope though it lies behind: it has crossed as one before; or it stands as a knit stitch
 * on purl ground, where it can be nothing else. Moss and other textures change their faces too soon to be taken for one.
 */
export const isOfRope = (stand: Stand, face: Face, r: number, onPurl: boolean): boolean =>
  face === 'knit' && (stand.rope || (onPurl && (stand.since < 0 || r - stand.since >= ROWS_TO_A_ROPE)));

/** The meeting that a loop of a crossing comes from as a rope's stitch; null where it is none, or keeps its place. */
function cameBy(meeting: Meeting, { group, shows }: CrossingLoop, i: number): Passage | null {
  return group === 'centre' || shows === 'purl' ? null : standIn(meeting, i).met;
}

/** Where a rope came from that meets another: that meeting, and whether it goes over at the one and under at the other. */
export interface Came {
  readonly from: Passage;
  readonly alternates: boolean;
}

/** The meetings that the ropes of a meeting come from, each once. */
export function comeFrom(meeting: Meeting): readonly Came[] {
  const came: Came[] = [];
  if (!isMeeting(meeting)) return came;
  const loops = loopsOf(meeting.crossing);
  for (let i = 0; i < loops.length; i++) {
    const from = cameBy(meeting, loops[i]!, i);
    if (!from) continue;
    const alternates = (from.group === 'front') !== (loops[i]!.group === 'front');
    let isKnown = false;
    for (const c of came)
      isKnown ||= c.from.row === from.row && c.from.index === from.index && c.alternates === alternates;
    if (!isKnown) came.push({ from, alternates });
  }
  return came;
}

/** Whether any rope of a meeting comes to it from another. */
export function comesFromOne(meeting: Meeting): boolean {
  const loops = loopsOf(meeting.crossing);
  for (let i = 0; i < loops.length; i++) if (cameBy(meeting, loops[i]!, i)) return true;
  return false;
}

/** A rope's stitch beside a place, parted from it by a single purl. */
function overOnePurl(met: readonly Stand[], faces: Needle, next: number, way: 1 | -1): Stand | null {
  const over = met[next + way];
  return over?.rope && faces[next]?.face === 'purl' && faces[next + way]?.face === 'knit' ? over : null;
}

/** Which groups carry ropes, in every way there is: there are many crossings. */
const ROPES = Array.from({ length: 8 }, (_, i) =>
  Object.freeze({ front: (i & 1) > 0, centre: (i & 2) > 0, back: (i & 4) > 0 }),
);

/** Where a crossing stands among its row's cells and loops. */
type At = Pick<Meeting, 'row' | 'column' | 'first' | 'index' | 'loop'>;

function meetingOf(
  crossing: Crossing,
  at: At,
  met: readonly Stand[],
  needle: Needle,
  onPurl: boolean,
): Meeting {
  const { row, column, first, index, loop } = at;
  const loops = loopsOf(crossing);
  const carries = { front: false, centre: false, back: false };
  // A rope over a wider or narrower piece of ground is no meeting, unless that has shown itself a rope.
  const isEven = crossing.front.length === crossing.back.length;
  let [changesGround, wipesOut, wasPurled] = [false, false, false];
  for (let i = 0; i < loops.length; i++) {
    const stand = met[first + i] ?? plainStand(-1);
    const face = needle[first + i]?.face ?? 'knit';
    const { group, shows } = loops[i]!;
    if (shows === 'knit') {
      wasPurled ||= stand.purled !== null;
      carries[group] ||=
        group === 'front' || isOfRope(stand, face, row, onPurl && (isEven || group === 'centre'));
    }
    if (face === shows) continue;
    if (isOfRope(stand, face, row, onPurl)) wipesOut = true;
    else if (group !== 'front') changesGround = true;
  }
  return {
    row,
    column,
    first,
    index,
    loop,
    crossing,
    met,
    needle,
    ropes: ROPES[(carries.front ? 1 : 0) + (carries.centre ? 2 : 0) + (carries.back ? 4 : 0)]!,
    onPurl,
    right: overOnePurl(met, needle, first - 1, -1),
    left: overOnePurl(met, needle, first + loops.length, 1),
    changesGround,
    wipesOut,
    splits: splitBy(crossing, first, met) !== null,
    wasPurled,
  };
}

/** How far beside a crossing its row's faces tell something of it: a purl, and the stitch behind that. */
const BESIDE = 2;

/** Whether a crossing met the very same stands, over the same faces, when its row was last gone into. */
function isAsItWas(
  was: Meeting,
  crossing: Crossing,
  at: At,
  met: readonly Stand[],
  needle: Needle,
  onPurl: boolean,
): boolean {
  if (
    was.met !== met ||
    was.crossing !== crossing ||
    was.onPurl !== onPurl ||
    was.row !== at.row ||
    was.column !== at.column ||
    was.first !== at.first ||
    was.loop !== at.loop
  )
    return false;
  const end = at.first + crossingSize(crossing) + BESIDE;
  for (let i = at.first - BESIDE; i < end; i++) if (was.needle[i]?.face !== needle[i]?.face) return false;
  return true;
}

/** Puts down the stands of the loops that a crossing carries as a rope's: after it, in their order. */
function putStands(after: Stand[], meeting: Meeting, from: readonly number[]): void {
  const { crossing, row, column, index, ropes, loop } = meeting;
  const loops = loopsOf(crossing);
  const isTwo = isMeeting(meeting);
  const carried: Record<Group, Stand | null> = { front: null, centre: null, back: null };
  for (let i = 0; i < from.length; i++) {
    const { group, shows } = loops[from[i]!]!;
    if (shows === 'purl' || !ropes[group]) continue;
    const known = carried[group];
    const last: Passage = known?.last ?? { row, column, crossing, group, index };
    const came = standIn(meeting, from[i]!);
    const met = isTwo && group !== 'centre' ? last : came.met;
    const whole = meeting.splits ? (came.whole ?? came.last) : null;
    // The stitches of a group come away alike, mostly.
    after[loop + i] =
      known && samePassage(known.met, met) && samePassage(known.whole, whole)
        ? known
        : (carried[group] = { since: -1, rope: true, last, whole, met, purled: null, back: null });
  }
}

/** Of a stretch of knit loops the share that a row must cross for all of them to be ropes (custom); single twists tell nothing. */
const ALL_ROPES = 2 / 3;
const LEAST_OF_ROPES = 2;

/**
 * Whether a crossing stands among ropes though hardly any purl does: its row crosses most of the knit stitches around it, as
 * only a braid does.
 */
function isAmongRopes(
  crossings: Moves['crossings'],
  firsts: readonly number[],
  which: number,
  needle: Needle,
): boolean {
  const { crossing } = crossings[which]!;
  if (crossing.front.length < LEAST_OF_ROPES || crossing.front.length !== crossing.back.length) return false;
  let [from, to] = [firsts[which]!, firsts[which]! + crossingSize(crossing)];
  while (from > 0 && needle[from - 1]?.face === 'knit') from--;
  while (to < needle.length && needle[to]?.face === 'knit') to++;
  let crossed = 0;
  crossings.forEach((other, i) => {
    if (firsts[i]! >= from && firsts[i]! < to) crossed += crossingSize(other.crossing);
  });
  return crossed >= ALL_ROPES * (to - from);
}

const NONE: readonly Meeting[] = [];

function traceRow(
  r: number,
  moves: Moves,
  needle: Needle,
  below: readonly Stand[],
  start: number,
  book: StitchBook,
  was: RowRopes | undefined,
): RowRopes {
  const { crossings, loops, lacks } = moves;
  // Where the counts do not come out no loop can be told from its neighbour: all begin anew.
  if (r > 0 && lacks !== 0)
    return {
      after: loops.map(({ face }) => plainStand(face === 'knit' ? r : -1)),
      meetings: NONE,
      knitsAgain: false,
    };
  if (!crossings.length && isStill(moves, needle, below.length))
    return { after: below, meetings: NONE, knitsAgain: false };
  const met = fromStart(below, start);
  const faces = fromStart(needle, start);
  const made = fromStart(loops, start);
  const from = start
    ? fromStart(moves.from, start).map((f) => (f < 0 ? f : modulo(f - start, below.length)))
    : moves.from;
  const after: Stand[] = [];
  for (let i = 0; i < from.length; i++) {
    const f = from[i]!;
    const stand = f < 0 ? undefined : met[f];
    // Equal loops are one object, and most go on as they were.
    if (stand === undefined) after.push(plainStand(-1));
    else
      after.push(made[i] === faces[f] ? settled(stand, r) : stayed(stand, faces[f]!.face, made[i]!.face, r));
  }
  for (const end of moves.ends) after[end] = plainStand(-1);
  const isPurlGround = crossings.length > 0 && isOnPurl(needle);
  const meetings: Meeting[] = [];
  // The loops of a crossing stay together: the first of them is met before the others.
  const firsts = crossings.map(({ crossing, loop }) => from[loop]! - book.facts(crossing).continues[0]!);
  for (const [which, { crossing, column, loop }] of crossings.entries()) {
    const { continues } = book.facts(crossing);
    const first = firsts[which]!;
    const onPurl = isPurlGround || isAmongRopes(crossings, firsts, which, faces);
    const at = { row: r, column, first, index: meetings.length, loop };
    const known = start ? undefined : was?.meetings[at.index];
    if (known && isAsItWas(known, crossing, at, met, faces, onPurl)) {
      meetings.push(known);
      for (let i = loop; i < loop + continues.length; i++) after[i] = was!.after[i]!;
      continue;
    }
    const meeting = meetingOf(crossing, at, met, faces, onPurl);
    meetings.push(meeting);
    putStands(after, meeting, continues);
  }
  const knitsAgain = after.some((stand) => stand.back === r);
  return { after: fromStart(after, -start), meetings, knitsAgain };
}

/** Whether loops are worked where they stood: rows that move none share one list. */
const isStraight = remembered((from: readonly number[]): boolean => from.every((f, i) => f === i));

/** Whether every loop of a row is worked where it stood, and shows what it showed. */
const isStill = ({ from, loops }: Moves, needle: Needle, n: number): boolean =>
  from.length === n && isStraight(from) && sameFaces(loops, needle);

const sameBeside = (a: Stand | null, b: Stand | null): boolean =>
  a === b || (a !== null && b !== null && sameStand(a, b));

function sameMeeting(a: Meeting, b: Meeting): boolean {
  if (
    a.crossing !== b.crossing ||
    a.row !== b.row ||
    a.column !== b.column ||
    a.first !== b.first ||
    a.loop !== b.loop ||
    a.onPurl !== b.onPurl ||
    a.changesGround !== b.changesGround ||
    a.wipesOut !== b.wipesOut ||
    a.splits !== b.splits ||
    a.ropes !== b.ropes ||
    !sameBeside(a.right, b.right) ||
    !sameBeside(a.left, b.left)
  )
    return false;
  const size = crossingSize(a.crossing);
  for (let i = 0; i < size; i++) {
    const [one, other] = [standIn(a, i), standIn(b, i)];
    if (faceIn(a, i) !== faceIn(b, i) || (one !== other && !sameStand(one, other))) return false;
  }
  return true;
}

/** Whether the crossings of a row are as they were, and their loops come to them as they did. */
export const sameMeetings = (a: readonly Meeting[], b: readonly Meeting[]): boolean =>
  a === b || (a.length === b.length && a.every((m, i) => m === b[i] || sameMeeting(m, b[i]!)));

function sameStands(a: readonly Stand[], b: readonly Stand[]): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i] && !sameStand(a[i]!, b[i]!)) return false;
  return true;
}

const sameRopes = (a: RowRopes, b: RowRopes): boolean =>
  a.knitsAgain === b.knitsAgain && sameStands(a.after, b.after) && sameMeetings(a.meetings, b.meetings);

const ropesUp = upwards<Moves, RowRopes>(sameRopes);

const castOnStands = ofEvery((loops: number): readonly Stand[] => Array<Stand>(loops).fill(plainStand(-1)));

/**
 * Follows the ropes through a chart as it is drawn, row by row from the bottom. A row is gone into again only when it,
 * or what enters it, is another; where nothing comes out otherwise the very same list is given.
 */
export function traceRopes(chart: Chart): readonly RowRopes[] {
  const book = bookOf(chart);
  const moves = movesOf(chart);
  return ropesUp(moves, [book, wayOf(chart)], ({ element, carried, was, r }) => {
    const needle = r > 0 ? moves[r - 1]!.loops : castOnAsShown(chart.rows[0]!, book);
    const below = carried ? carried.after : castOnStands(element.takes);
    return traceRow(r, element, needle, below, startOf(chart, r), book, was);
  });
}

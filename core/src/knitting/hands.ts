import type { Hand } from '../construction/index.js';
import { expandRow, startOf } from '../chart/frame.js';
import { freshNeedle, needleFrom, workStitches } from '../needle/needle.js';
import type { Loop, Needle } from '../needle/loop.js';
import type { HandFrame, ShownLoop } from '../needle/frames.js';
import { ofEach } from '../remember.js';
import { isCrossing, makesOf, takesOf, type Stitch } from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import { faceOf, type Face, type Side, type Worked } from '../stitches/face.js';
import { counted } from '../values.js';
import { sideText, type Manner } from '../words/manner.js';
import { cableMoves, reorderOf, twistBy } from '../words/moves.js';
import type { Move } from '../words/pattern.js';
import { looseText, movesText } from '../words/render.js';
import { rowInHands, type Group } from './groups.js';
import type { Job } from './job.js';
import { back, type At } from './place.js';

/** What the hands do and undo, loop by loop. Loops of a row are counted from 0 in the order in which the hands meet them. */

/** The needle loops are on: that which waits, that which is worked on to, or a cable needle. */
export type Wherefrom = 'waiting' | 1 | 2;

/** A loop that is made, and those it is drawn through. */
export interface Drawn {
  through: readonly number[];
  made: number;
  from: Wherefrom;
}

const places = (from: number, n: number): number[] => Array.from({ length: n }, (_, i) => from + i);

/** The loops of a stitch, one after the other; it begins after `taken` loops taken, and `made` made. */
function drawnBy(stitch: Stitch, taken: number, made: number, side: Side, { diction }: Job): Drawn[] {
  if (!isCrossing(stitch)) {
    const through = places(taken, takesOf(stitch, diction.book));
    return places(made, makesOf(stitch, diction.book)).map((at) => ({ through, made: at, from: 'waiting' }));
  }
  const held = new Map<1 | 2, number[]>();
  let [next, at] = [taken, made];
  return cableMoves(stitch, side, diction.hand).flatMap((move): Drawn[] => {
    if ('slip' in move) {
      held.set(move.needle, places(next, move.slip));
      next += move.slip;
      return [];
    }
    const { from } = move;
    return move.work.map((): Drawn => ({
      through: [from === 'left' ? next++ : held.get(from)!.shift()!],
      made: at++,
      from: from === 'left' ? 'waiting' : from,
    }));
  });
}

/** The loops of a group in the order in which the hands make them. */
export function drawnIn(job: Job, side: Side, { stitches, taken, made }: Group): Drawn[] {
  let [t, m] = [taken, made];
  return stitches.flatMap((stitch) => {
    const drawn = drawnBy(stitch, t, m, side, job);
    t += takesOf(stitch, job.diction.book);
    m += makesOf(stitch, job.diction.book);
    return drawn;
  });
}

/** One thing that is done to take work back. */
export type TakenBack =
  /** Loops are let off, each back on to what it was drawn through, which goes on to a needle: those made last first. */
  | { kind: 'off'; loops: readonly Drawn[]; to: Wherefrom; text: string }
  /** Loops of a cable needle go back to wait, which untwists the crossing. */
  | { kind: 'return'; needle: 1 | 2; through: readonly number[]; text: string };

const CABLE = { 1: 'the cable needle', 2: 'the second cable needle' } as const;
const HELD = { front: 'nearer to you', back: 'behind the others' } as const;

/** How a crossing is taken back: the group worked last first, each on to the needle it came from; then it is untwisted. */
function crossingBack(c: Crossing, drawn: readonly Drawn[], side: Side, job: Job): TakenBack[] {
  const moves = cableMoves(c, side, job.diction.hand);
  const holds = new Map(moves.flatMap((move) => ('slip' in move ? [[move.needle, move.hold] as const] : [])));
  const last = [...drawn].reverse();
  const steps: TakenBack[] = [];
  const waits = waitingNeedle(job.diction.hand);
  for (let i = 0; i < last.length;) {
    const { from } = last[i]!;
    let end = i;
    while (last[end]?.from === from) end++;
    const loops = last.slice(i, end);
    const n = counted(loops.length, 'stitch');
    const text =
      from === 'waiting'
        ? `take back ${n} on to the ${waits} needle`
        : `take back ${n} on to ${CABLE[from]}, held in ${holds.get(from)!}, ${HELD[holds.get(from)!]}`;
    steps.push({ kind: 'off', loops, to: from, text });
    i = end;
  }
  // What was slipped last lies next to those that wait, and goes back first.
  for (const move of [...moves].reverse())
    if ('slip' in move) {
      const through = drawn.filter(({ from }) => from === move.needle).map((one) => one.through[0]!);
      const isLast = move.needle === 1;
      const text = `slip the ${through.length} on ${CABLE[move.needle]} back on to the ${waits} needle${isLast ? ': it is untwisted' : ''}`;
      steps.push({ kind: 'return', needle: move.needle, through: [...through].reverse(), text });
    }
  return steps;
}

/** The needle on which stitches wait to be worked. */
export const waitingNeedle = (hand: Hand): 'left' | 'right' => (hand === 'right' ? 'left' : 'right');

/** How a group is taken back, its stitches in the reverse of the order in which they were worked. */
export function takenBack(job: Job, side: Side, group: Group): TakenBack[] {
  const waits = waitingNeedle(job.diction.hand);
  if (!group.stitches.length)
    return group.isMark
      ? [{ kind: 'off', loops: [], to: 'waiting', text: `${group.text}: put it back as it was` }]
      : [];
  let [t, m] = [group.taken, group.made];
  const of = group.stitches.map((stitch) => {
    const drawn = drawnBy(stitch, t, m, side, job);
    t += takesOf(stitch, job.diction.book);
    m += makesOf(stitch, job.diction.book);
    return { stitch, drawn };
  });
  const steps: TakenBack[] = [];
  for (const { stitch, drawn } of of.reverse()) {
    if (isCrossing(stitch)) {
      steps.push(...crossingBack(stitch, drawn, side, job));
      continue;
    }
    const last = steps.at(-1);
    const loops = [...drawn].reverse();
    if (last?.kind === 'off') last.loops = [...last.loops, ...loops];
    else steps.push({ kind: 'off', loops, to: 'waiting', text: '' });
  }
  return steps.map((step) =>
    step.text
      ? step
      : {
          ...step,
          text: `take back ${group.text}, on to the ${waits} needle: the stitch worked last comes off first`,
        },
  );
}

/** One group taken back, and where the knitter is then. */
export interface GroupBack {
  at: At;
  group: Group;
  side: Side;
  steps: readonly TakenBack[];
  /** The work is turned before it. */
  turns: boolean;
}

/** So many groups are listed at once, at most. */
export const MOST_BACK = 2000;

/** All that is taken back from a place to an earlier one, group by group, the last worked first. */
export function backTo(job: Job, from: At, to: At): GroupBack[] {
  const list: GroupBack[] = [];
  let at = from;
  let side: Side | null = from.group > 0 && from.row < job.rows.length ? job.rows[from.row]!.side : null;
  while ((at.row > to.row || (at.row === to.row && at.group > to.group)) && list.length < MOST_BACK) {
    at = back(job, at);
    const { groups, side: own } = rowInHands(job, at.row);
    const group = groups[at.group];
    if (!group) continue;
    list.push({
      at,
      group,
      side: own,
      steps: takenBack(job, own, group),
      turns: side !== null && side !== own,
    });
    side = own;
  }
  return list;
}

/** The needles before each row of a job, as far as they were asked for. */
const needlesOf = ofEach((job: Job): Needle[] => [freshNeedle(job.castOn)]);

/** The loops that wait before a row of a job (from 0), or after its last, from the right as the right side looks. */
export function needleBefore(job: Job, n: number): Needle {
  const known = needlesOf(job);
  const rows = job.rows;
  for (let k = known.length; k <= n; k++) {
    const { row, band } = rows[k - 1]!;
    const below = known[k - 1]!;
    const stitches = expandRow(job.chart, row, job.times) ?? job.chart.rows[row]!;
    known.push(
      band === null ? workStitches(stitches, below, job.diction.book, startOf(job.chart, row)).loops : below,
    );
  }
  return known[n]!;
}

/** A loop on a needle as the knitter sees it. */
export interface Seen {
  face: Face;
  loop: Loop;
}

/** What both needles hold at a place, each from its tip on, and the side she looks at. */
export interface OnNeedles {
  side: Side;
  /** Loops made in this row, the one made last first. */
  worked: Seen[];
  /** Loops that wait, the one to be worked next first. */
  waiting: Seen[];
}

const OTHER: Readonly<Record<Face, Face>> = { knit: 'purl', purl: 'knit' };

/** What the needles hold at a place: faces as they are turned to her. */
export function onNeedles(job: Job, at: At): OnNeedles {
  const n = Math.min(at.row, job.rows.length - 1);
  const { side, beginsRight, groups } = rowInHands(job, n);
  const isOver = at.row >= job.rows.length;
  const group = isOver ? undefined : groups[at.group];
  const [taken, made] = isOver ? [Infinity, Infinity] : group ? [group.taken, group.made] : [0, 0];
  const start = startOf(job.chart, job.rows[n]!.row);
  const seen = (loop: Loop): Seen => ({ loop, face: side === 'RS' ? loop.face : OTHER[loop.face] });
  const inOrder = (needle: Needle): Loop[] => {
    const met = needleFrom(needle, start);
    return beginsRight ? [...met] : [...met].reverse();
  };
  return {
    side,
    worked: inOrder(needleBefore(job, n + 1))
      .slice(0, made)
      .reverse()
      .map(seen),
    waiting: inOrder(needleBefore(job, n)).slice(taken).map(seen),
  };
}

/** How a crossing is worked: with cable needles, without, and how they lie to the knitter. */
export interface CrossingTold {
  withNeedle: string;
  /** Null where no other way is known for so many stitches. */
  without: string | null;
  nearer: string;
  frames: HandFrame[];
}

/** A side as a sentence says it: "the right side", or "side 1" where both count. */
export function sideSaid(side: Side, manner: Manner): string {
  const text = sideText(side, { ...manner, form: 'full' });
  return manner.sides === 'by number' ? text : `the ${text}`;
}

/** How these hands work a crossing on a side. */
export function crossingTold(job: Job, c: Crossing, side: Side): CrossingTold {
  const { settings, manner, diction } = job;
  const { hand } = diction;
  const moves = cableMoves(c, side, hand);
  const twist = twistBy(settings.twist, c, side, hand);
  const loose = twist ?? reorderOf(c, side, hand);
  return {
    withNeedle: movesText(moves, manner),
    without: loose && looseText(loose, manner),
    nearer: nearerText(moves),
    frames: crossingFrames(c, moves, sideSaid(side, manner)),
  };
}

/** Which needle lies nearer to her. */
function nearerText(moves: readonly Move[]): string {
  const slips = moves.flatMap((move) => ('slip' in move ? [move] : []));
  const [first, second] = slips;
  const lies = (hold: 'front' | 'back') =>
    hold === 'front' ? 'nearer to you than the working needles' : 'behind the working needles';
  if (!second) return `The cable needle lies ${lies(first!.hold)}.`;
  if (first!.hold === second.hold)
    return `Both cable needles lie ${lies(first!.hold)}, the second ${second.depth === 'behind' ? 'behind' : 'before'} the other.`;
  return `The cable needle lies ${lies(first!.hold)}, the second ${lies(second.hold)}.`;
}

/** A crossing in the hands, moment by moment: the loops that wait, those worked, and those that a cable needle holds. */
function crossingFrames(c: Crossing, moves: readonly Move[], side: string): HandFrame[] {
  const slips = moves.flatMap((move) => ('slip' in move ? [move.slip] : []));
  const total = c.front.length + c.centre.length + c.back.length;
  const loops = places(0, total).map((i) => String(i));
  const waiting = [...loops];
  const held = new Map<1 | 2, { ids: string[]; hold: 'front' | 'back' }>();
  const done: { id: string; face: Face }[] = [];
  const shown = (id: string, face: Face = 'knit', isNew = false): ShownLoop => ({
    id,
    label: String(Number(id) + 1),
    face,
    yarn: 'A',
    isNew,
  });
  const frame = (said: string, fresh = 0): HandFrame => ({
    said,
    left: waiting.map((id) => shown(id)),
    right: [...done].reverse().map(({ id, face }, i) => shown(id, face, i < fresh)),
    held: [...held.values()]
      .filter(({ ids }) => ids.length)
      .map(({ ids, hold }) => ({ loops: ids.map((id) => shown(id)), hold })),
  });
  const says = (worked: readonly Worked[]) => {
    const faces = new Set(worked.map(faceOf));
    return faces.size > 1 ? 'Work' : faces.has('knit') ? 'Knit' : 'Purl';
  };
  const frames = [frame(`${counted(total, 'stitch')} wait, ${side} towards you.`)];
  for (const move of moves)
    if ('slip' in move) {
      held.set(move.needle, { ids: waiting.splice(0, move.slip), hold: move.hold });
      const which = slips.length > 1 && move.needle === 2 ? 'a second cable needle' : 'a cable needle';
      frames.push(frame(`Slip ${move.slip} to ${which}, held in ${move.hold}: ${HELD[move.hold]}.`));
    } else {
      const from = move.from === 'left' ? waiting : held.get(move.from)!.ids;
      for (const worked of move.work) done.push({ id: from.shift()!, face: faceOf(worked) });
      const where = move.from === 'left' ? 'those that wait' : CABLE[move.from];
      frames.push(frame(`${says(move.work)} ${move.work.length} from ${where}.`, move.work.length));
    }
  return frames;
}

import { startOf } from '../chart/frame.js';
import { loopColumns } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { rowTitle, wayOf } from '../construction/index.js';
import { memory, rowByRow } from '../remember.js';
import { fromStart } from '../needle/needle.js';
import { crossingSize, workedAfter, type Crossing, type Group } from '../stitches/crossing.js';
import { strandsOf } from './strands.js';
import { loopsOf } from './stand.js';
import { faceIn, traceRopes, type Meeting } from './trace.js';

/** What a rope does at one crossing. */
export interface RopeEvent {
  row: number;
  column: number;
  crossing: Crossing;
  group: Group;
  /** The ropes it meets there; none where it passes over ground. */
  with: readonly number[];
}

/** Strands that always move together, from where they begin to where they end. Rows and columns from 0. */
export interface Rope {
  strands: readonly number[];
  begins: { row: number; column: number };
  /** The last row its stitches are on the needle. */
  ends: number;
  events: readonly RopeEvent[];
  /** The ropes that go with it for a while as one, and by themselves elsewhere. */
  joins: readonly number[];
}

/** The ropes of a chart as it is drawn. */
export interface Ropes {
  /** From the bottom up, and of those that begin together from the right. */
  ropes: readonly Rope[];
  /** For each row and column, the rope whose stitch stands there after the row; -1 for none. */
  cells: readonly Int16Array[];
  /** For each row, the rope of each loop after it, from the right; -1 for none. */
  loops: readonly (readonly number[])[];
}

interface Carried {
  signature: string;
  isSplit: boolean;
  events: { meeting: Meeting; group: Group }[];
}

const remembered = memory<Ropes>();

/** The ropes of a chart, traced from the bottom: strands with the same crossings, in the same groups, are one rope. */
export const ropesOf = (chart: Chart): Ropes =>
  remembered(chart.rows, [wayOf(chart), chart.own, chart.width], () => gather(chart));

function gather(chart: Chart): Ropes {
  const strands = strandsOf(chart);
  const rows = traceRopes(chart);
  const crossed = rows.flatMap(({ meetings }, r) => {
    const after = fromStart(strands[r]!, startOf(chart, r));
    return meetings.map((meeting) => ({ meeting, loops: crossedLoops(chart, meeting, after) }));
  });
  // A strand that lies in front anywhere is a rope's all its way, also where it first lies behind another.
  const roped = new Set(crossed.flatMap(({ loops }) => loops.flatMap((l) => (l.isRope ? [l.strand] : []))));
  // So does one that always lies behind, as in a wave, where nothing else tells it from knit ground.
  const behind = new Set<number>();
  for (const { meeting, loops } of crossed) {
    if (meeting.crossing.front.length !== meeting.crossing.back.length) continue;
    for (const { strand } of loops) {
      if (behind.has(strand)) roped.add(strand);
      behind.add(strand);
    }
  }
  const carried = new Map<number, Carried>();
  const meetingStrands = new Map<Meeting, CrossedLoop[]>();
  for (const { meeting, loops } of crossed) {
    const own = loops.filter(({ strand }) => roped.has(strand));
    meetingStrands.set(meeting, own);
    for (const { strand, group } of own) {
      const known = carried.get(strand) ?? { signature: '', isSplit: false, events: [] };
      // A crossing that splits ropes does not tell which stitches belong together; nor do those after it.
      known.isSplit ||= meeting.splits;
      if (!known.isSplit) known.signature += `${meeting.row}.${meeting.column}${group[0]} `;
      known.events.push({ meeting, group });
      carried.set(strand, known);
    }
  }
  const grouped = new Map<string, number[]>();
  for (const [strand, { signature }] of carried)
    grouped.set(signature, [...(grouped.get(signature) ?? []), strand]);
  return laidOut(chart, strands, [...grouped.values()], carried, meetingStrands);
}

interface CrossedLoop {
  strand: number;
  group: Group;
  isRope: boolean;
}

/** The knit loops of a crossing from the right after it; `after` are the strands of its row, by the row's own order. */
export function crossedLoops(chart: Chart, meeting: Meeting, after: readonly number[]): CrossedLoop[] {
  const book = bookOf(chart);
  const { crossing, ropes, loop } = meeting;
  const loops = loopsOf(crossing);
  return book.facts(crossing).continues.flatMap((from, i) => {
    const { group, shows } = loops[from]!;
    const isKnit = shows === 'knit' && (group === 'front' || faceIn(meeting, from) === 'knit');
    return isKnit ? [{ strand: after[loop + i]!, group, isRope: ropes[group] }] : [];
  });
}

function laidOut(
  chart: Chart,
  strands: readonly (readonly number[])[],
  groups: readonly number[][],
  carried: ReadonlyMap<number, Carried>,
  meetingStrands: ReadonlyMap<Meeting, CrossedLoop[]>,
): Ropes {
  const book = bookOf(chart);
  const groupOf = new Map(groups.flatMap((group, i) => group.map((strand) => [strand, i] as const)));
  const seen: { begins: Rope['begins']; ends: number }[] = [];
  const columns = chart.rows.map((row) => loopColumns(row, book));
  strands.forEach((after, r) =>
    fromStart(after, startOf(chart, r)).forEach((strand, i) => {
      const group = groupOf.get(strand);
      if (group === undefined) return;
      const known = (seen[group] ??= { begins: { row: r, column: columns[r]![i]! }, ends: r });
      known.ends = r;
    }),
  );
  const order = groups
    .map((_, i) => i)
    .sort((a, b) => {
      const [one, other] = [seen[a]!.begins, seen[b]!.begins];
      return one.row - other.row || one.column - other.column;
    });
  const indexOf = new Map(order.map((group, index) => [group, index]));
  const ropeOf = (strand: number): number => {
    const group = groupOf.get(strand);
    return group === undefined ? -1 : indexOf.get(group)!;
  };
  const ropes = order.map((group): Rope => {
    const own = groups[group]!;
    const joins = new Set<number>();
    const events = carried.get(own[0]!)!.events.map(({ meeting, group: side }): RopeEvent => {
      const met = new Set<number>();
      for (const other of meetingStrands.get(meeting)!) {
        const rope = ropeOf(other.strand);
        if (rope === indexOf.get(group)) continue;
        if (other.group === side) joins.add(rope);
        else met.add(rope);
      }
      const { row, column, crossing } = meeting;
      return { row, column, crossing, group: side, with: [...met] };
    });
    return { strands: own, ...seen[group]!, events, joins: [...joins] };
  });
  const loops = strands.map((after) => after.map(ropeOf));
  const cells = loops.map((after, r) => {
    const line = new Int16Array(chart.width).fill(-1);
    fromStart(after, startOf(chart, r)).forEach((rope, i) => (line[columns[r]![i]!] = rope));
    return line;
  });
  return { ropes, cells: keptCells(cells, [chart.width], ({ element }) => element), loops };
}

/** Rows whose ropes stand as before are the same ones, so that their picture need not be made again. */
const keptCells = rowByRow<Int16Array, Int16Array>(
  (a, b) => a.length === b.length && a.every((rope, i) => rope === b[i]),
);

/** A, B, … Z, then A1, B1: the name a rope goes by. */
export function ropeName(index: number): string {
  const round = Math.floor(index / 26);
  return `${String.fromCharCode(65 + (index % 26))}${round || ''}`;
}

/** What a rope does at a crossing, in words. */
export function eventText(chart: Chart, { row, group, with: met }: RopeEvent): string {
  const where = rowTitle(chart, row + 1).toLowerCase();
  const others = met.map((m) => `rope ${ropeName(m)}`).join(' and ');
  if (!others) return `passes over ground in ${where}`;
  return `goes ${group === 'front' ? 'over' : 'under'} ${others} in ${where}`;
}

/** Columns, from the right, of a rope's stitches after a row. */
export const ropeColumns = ({ cells }: Ropes, rope: number, row: number): number[] =>
  [...(cells[row] ?? [])].flatMap((is, column) => (is === rope ? [column] : []));

/** The columns a rope's crossing covers. */
export const eventColumns = ({ column, crossing }: RopeEvent): [from: number, to: number] => [
  column,
  column + crossingSize(crossing) - 1,
];

/** The ropes at the tops of a crossing's cords, from the right; -1 where none is. */
export const ropesAtTop = (cells: Int16Array, column: number, crossing: Crossing): number[] =>
  workedAfter(crossing).map((_, i) => cells[column + i] ?? -1);

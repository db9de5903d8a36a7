import { placeStitches } from '../chart/edits.js';
import { turnedCrossing } from '../chart/symmetry.js';
import type { Chart } from '../chart/schema.js';
import { crossingAt } from '../needle/mend-crossing.js';
import { rowByRow } from '../remember.js';
import { interlacesOf, placeIn, placeNumber, type Roped } from '../ropes/roped.js';
import { isMeeting, type Meeting } from '../ropes/trace.js';
import { crossingSize, mirrorCrossing, type Crossing } from '../stitches/crossing.js';
import { ropesCheck, type Found } from './finding.js';

/** A crossing at its place in the chart. */
type Placed = Pick<Meeting, 'row' | 'column' | 'crossing' | 'ropes'>;

/** The crossings of each row, from the right. */
type Crossed = readonly (readonly Placed[])[];

/** A panel counts as symmetrical only when so many pairs of its crossings lean apart (custom). */
const PAIRS_TO_SYMMETRY = 3;

/** Two crossings of a row in each other's mirror columns. */
interface Pair {
  right: Placed;
  left: Placed;
}

/**
 * What is mirrored about an axis (in half columns from the right), and the columns it is looked for in: crossings of two
 * ropes, or of ropes that travel over ground. In a lattice these mirror each other, and those, going over and under,
 * do not.
 */
interface Axis {
  at: number;
  from: number;
  to: number;
  meets: boolean;
}

const endOf = ({ column, crossing }: Placed) => column + crossingSize(crossing);

/** The columns (up to, not including, `to`) that crossings cover without a break: where panels stand. */
function panelsOf(rows: Crossed, width: number): Omit<Axis, 'meets'>[] {
  const covered = new Uint8Array(width + 1);
  for (const meetings of rows)
    for (const meeting of meetings) {
      const end = Math.min(endOf(meeting), width);
      covered.fill(1, meeting.column, end);
    }
  const panels: Omit<Axis, 'meets'>[] = [];
  for (let c = 0; c < width; c++) {
    if (!covered[c]) continue;
    const last = panels.at(-1);
    // Ropes that cross right beside each other are one panel, as a horseshoe is.
    if (last?.to === c) last.to = c + 1;
    else panels.push({ at: 0, from: c, to: c + 1 });
  }
  return panels.map(({ from, to }) => ({ at: from + to, from, to }));
}

const sameGroups = (a: Crossing, b: Crossing) =>
  a.front.length === b.front.length && a.centre.length === b.centre.length && a.back.length === b.back.length;

interface Pairs {
  apart: number;
  alike: readonly Pair[];
}

const NO_PAIRS: Pairs = { apart: 0, alike: [] };

/** The pairs of a row about an axis, by whether they lean apart. */
function pairsAbout({ at, from, to, meets }: Axis, meetings: readonly Placed[]): Pairs {
  let apart = 0;
  const alike: Pair[] = [];
  // The mirror column of a crossing further left lies further right.
  let far = meetings.length - 1;
  for (let near = 0; near < far; near++) {
    const right = meetings[near]!;
    if (right.column < from) continue;
    while (far > near && endOf(meetings[far]!) > at - right.column) far--;
    const left = meetings[far]!;
    if (far <= near) break;
    if (endOf(left) !== at - right.column || left.column !== at - endOf(right) || endOf(left) > to) continue;
    if (isMeeting(right) !== meets || isMeeting(left) !== meets) continue;
    if (!sameGroups(right.crossing, left.crossing)) continue;
    if (right.crossing.lean !== left.crossing.lean) apart++;
    else alike.push({ right, left });
  }
  return apart || alike.length ? { apart, alike } : NO_PAIRS;
}

const pairsByRow = rowByRow<readonly Placed[], readonly Pairs[]>();

/** Of each place of a crossing in a row, how many more of its size lean left there than right. */
function leansOf(rows: Crossed): (placed: Placed) => number {
  const sums = new Map<string, number>();
  const keyOf = ({ column, crossing: { front, centre, back } }: Placed) =>
    `${column} ${front.length} ${centre.length} ${back.length}`;
  const sign = ({ crossing }: Placed) => (crossing.lean === 'left' ? 1 : -1);
  for (const row of rows)
    for (const one of row) sums.set(keyOf(one), (sums.get(keyOf(one)) ?? 0) + sign(one));
  return (one) => sign(one) * sums.get(keyOf(one))!;
}

/** The crossings of the chart itself, of which further passes and repeats are drawn. */
function crossedOnce({ isWhole, crossed, rowOf, columnOf }: Roped): Crossed {
  if (isWhole) return crossed;
  const rows: Placed[][] = [];
  crossed.forEach((meetings, r) => {
    const row = rowOf(r);
    if (rows[row]) return;
    const once = new Map<number, Placed>();
    for (const meeting of meetings) {
      const column = columnOf(row, meeting.column);
      if (!once.has(column)) once.set(column, { ...meeting, row, column });
    }
    rows[row] = [...once.values()].sort((x, y) => x.column - y.column);
  });
  return rows;
}

/**
 * In a symmetrical panel the crossing at a column and the one at its mirror column lean opposite ways. A panel is taken
 * for symmetrical where nearly all of its pairs do, or where the designer has set a mirror line in it.
 */
export const mirrorBroken = ropesCheck(
  { tells: { 'mirror-broken': 'Mirror broken' }, level: 'caution', reads: ['mirror', 'rules'] },
  function* ({ chart, roped, rules }) {
    const rows = crossedOnce(roped);
    const whole = { from: 0, to: chart.width };
    const line = chart.mirror && chart.mirror.turn === undefined ? chart.mirror.axis : null;
    const axes = [
      ...(line === null ? [] : [{ at: line, ...whole }]),
      ...(line === chart.width ? [] : [{ at: chart.width, ...whole }]),
      ...panelsOf(rows, chart.width),
    ].flatMap((axis) => [true, false].map((meets): Axis => ({ ...axis, meets })));
    const pairs = pairsByRow(
      rows,
      [axes.map(({ from, to, at }) => `${from} ${to} ${at}`).join()],
      ({ element }) => (element.length > 1 ? axes.map((axis) => pairsAbout(axis, element)) : []),
    );
    let agreeing: ((placed: Placed) => number) | null = null;
    /** Of each crossing that leans the wrong way, the one it should mirror. */
    const astray = new Map<Placed, Placed>();
    axes.forEach((axis, i) => {
      let apart = 0;
      const alike: Pair[] = [];
      for (const row of pairs) {
        const about = row[i];
        if (!about || about === NO_PAIRS) continue;
        apart += about.apart;
        alike.push(...about.alike);
      }
      const isSet = axis.at === line && axis.from === 0 && axis.to === chart.width;
      if (
        isSet
          ? apart < alike.length
          : apart < PAIRS_TO_SYMMETRY || alike.length * rules.shareAstray > apart + alike.length
      )
        return;
      if (!alike.length) return;
      agreeing ??= leansOf(rows);
      // The odd one leans otherwise than most do in its columns.
      for (const { right, left } of alike)
        if (agreeing(right) <= agreeing(left)) astray.set(right, left);
        else astray.set(left, right);
    });
    const turned = halfTurns(chart, rows);
    const isExplained = astray.size ? goOverAndUnder(roped) : () => false;
    for (const [one, other] of astray)
      if (!turned.has(one) && !isExplained(one)) yield leansAlike(one, other);
    for (const [one, other] of turned) yield leansApart(one, other);
  },
);

/** Of a place, whether its crossing stands in an interlace whose ropes all go over and under: then it leans as they want it. */
function goOverAndUnder(roped: Roped): (placed: Placed) => boolean {
  const { interlaces, interlaceOf, crossingOf, meetings } = interlacesOf(roped);
  const sound = new Set<number>();
  meetings.forEach((meeting, i) => {
    const { links, broken } = interlaces[interlaceOf[crossingOf[i]!]!]!;
    if (links > 1 && !broken) sound.add(placeNumber(placeIn(roped, meeting)));
  });
  return ({ row, column }) => sound.has(placeNumber({ row, column }));
}

/** A crossing that leans the wrong way; the one it should answer is laid in its place, mirrored or turned. */
function leansWrong(
  one: Placed,
  other: Placed,
  label: string,
  laid: (crossing: Crossing) => Crossing,
  said: (columns: string) => string,
): Found {
  const columns: [number, number] = [one.column + 1, endOf(one)];
  return {
    id: 'mirror-broken',
    level: 'caution',
    row: one.row + 1,
    columns,
    message: `Row ${one.row + 1}: ${said(`columns ${columns.join('–')}`)}`,
    mend: {
      label,
      edit: (c) => placeStitches(c, one.row, one.column, [laid(crossingAt(c, other.row, other.column))]),
    },
  };
}

/** A crossing that leans as the one at its mirror column does. */
const leansAlike = (one: Placed, other: Placed): Found =>
  leansWrong(
    one,
    other,
    `Mirror it: lean ${one.crossing.lean === 'left' ? 'right' : 'left'}`,
    mirrorCrossing,
    (columns) =>
      `the crossings in ${columns} and ${other.column + 1}–${endOf(other)} both lean ${one.crossing.lean}, where the two sides of the panel mirror each other.`,
  );

/** A crossing that leans otherwise than the one a half turn sets it on. */
const leansApart = (one: Placed, other: Placed): Found =>
  leansWrong(
    one,
    other,
    `Turn it: lean ${other.crossing.lean}`,
    turnedCrossing,
    (columns) =>
      `the crossing in ${columns} leans ${one.crossing.lean}, and the one of row ${other.row + 1} that the half turn sets it on leans ${other.crossing.lean}.`,
  );

const NONE_TURNED: ReadonlyMap<Placed, Placed> = new Map();

/** Where a half turn is set, the crossings that lean otherwise than the ones they are set on: a turn keeps the lean. */
function halfTurns({ mirror, rows: { length: high } }: Chart, rows: Crossed): ReadonlyMap<Placed, Placed> {
  if (mirror?.turn === undefined) return NONE_TURNED;
  const { axis, turn } = mirror;
  const pairs = rows.flatMap((row) =>
    row.flatMap((one): Pair[] => {
      const above = turn - 1 - one.row;
      const other = above < high ? rows[above]?.find((m) => m.column === axis - endOf(one)) : undefined;
      const isFirst = other && (other.row > one.row || (other.row === one.row && other.column > one.column));
      return isFirst && sameGroups(one.crossing, other.crossing) ? [{ right: one, left: other }] : [];
    }),
  );
  const apart = pairs.filter(({ right, left }) => right.crossing.lean !== left.crossing.lean);
  if (!apart.length || 2 * apart.length > pairs.length) return NONE_TURNED;
  const agreeing = leansOf(rows);
  return new Map(
    apart.map(({ right, left }) => (agreeing(right) < agreeing(left) ? [right, left] : [left, right])),
  );
}

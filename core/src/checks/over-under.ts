import { meantKey } from '../chart/meant.js';
import { crossingAt, turnOver } from '../needle/mend-crossing.js';
import type { Interlace, Link } from '../ropes/alternate.js';
import { interlacesOf, NONE_MEANT, placeIn, placeNumber, type Place } from '../ropes/roped.js';
import { isMeeting } from '../ropes/trace.js';
import { crossingId, crossingSize } from '../stitches/crossing.js';
import { ropesCheck, type Found, type Knitted } from './finding.js';

const ID = 'over-under-broken';

/** The crossings that the designer has accepted as they lie, by the numbers of their places. */
export function meantCrossings({
  chart,
  meant,
  roped,
}: Pick<Knitted, 'chart' | 'meant' | 'roped'>): ReadonlySet<number> {
  const places = Object.values(chart.meant).filter(({ check }) => check === ID);
  if (!places.length && !Object.keys(meant).some((key) => key.startsWith(`${ID} `))) return NONE_MEANT;
  const found = new Set<number>();
  for (const meetings of roped.crossed)
    for (const meeting of meetings) {
      const place = placeIn(roped, meeting);
      const isPlace = places.some(
        (p) => p.row === place.row && (p.column === undefined || p.column === place.column),
      );
      if (isMeeting(meeting) && (isPlace || meant[meantKey(ID, crossingId(meeting.crossing))] !== undefined))
        found.add(placeNumber(place));
    }
  return found;
}

/** Where a crossing of the chart stands, as a finding tells it. */
function told(
  { chart }: Pick<Knitted, 'chart'>,
  { row, column }: Place,
): Required<Pick<Found, 'row' | 'columns'>> {
  return { row: row + 1, columns: [column + 1, column + crossingSize(crossingAt(chart, row, column))] };
}

/**
 * In an interlace each rope goes over and under the ropes it meets; in a wave, or a honeycomb, the same one stays on top.
 * Where few crossings keep it from that, these lie the wrong way: the classic slip, seen ten rows too late. Where many
 * do, it is meant otherwise.
 */
export const overUnder = ropesCheck(
  {
    tells: { 'over-under-broken': 'Over-under broken', 'over-under-cannot': 'Cannot go over and under' },
    level: 'caution',
    reads: ['meant', 'rules'],
  },
  function* (knitted) {
    const { roped, rules } = knitted;
    const { interlaces, waves, placeOf, interlaceOf, crossingOf, meetings } = interlacesOf(
      roped,
      meantCrossings(knitted),
    );
    // Where a rope is split, what goes over what is told by no one.
    const split = new Set<number>();
    meetings.forEach((m, i) => m.splits && split.add(interlaceOf[crossingOf[i]!]!));
    const ropes = new Set(
      meetings.flatMap(({ crossing }, i) =>
        crossingSize(crossing) > SINGLES ? [interlaceOf[crossingOf[i]!]!] : [],
      ),
    );
    for (const [which, one] of interlaces.entries()) {
      if (!one.broken) continue;
      const wave = waves.get(which);
      const most = MOST_BROKEN[ropes.has(which) ? 'ropes' : 'singles'];
      const isInTurn = !one.conflict && one.broken <= most * one.links && isSlip(one, rules.shareAstray);
      // Only what is clearly a wave is one: going over and under is the rule.
      const isWave = wave && !wave.conflict && isSlip(wave, rules.shareAstray + 1);
      if (isWave && (!isInTurn || slips(wave) < slips(one)))
        yield* wrongWay(knitted, placeOf, wave, 'elsewhere the same rope stays on top');
      else if (isInTurn)
        yield* wrongWay(knitted, placeOf, one, 'elsewhere its ropes go over and under in turn');
      else if (one.conflict && !split.has(which) && one.broken * rules.shareAstray <= one.links)
        yield cannot(knitted, placeOf, one.conflict);
    }
  },
);

/** Where no turning makes all ropes of an interlace go over and under. */
function cannot(knitted: Knitted, placeOf: (crossing: number) => Place, { a, b }: Link): Found {
  const { row, columns } = told(knitted, placeOf(b));
  return {
    id: 'over-under-cannot',
    level: 'note',
    row,
    columns,
    message: `The ropes around row ${row} cannot all go over and under: whichever crossings are turned, the rope that comes from row ${placeOf(a).row + 1} to columns ${columns[0]}–${columns[1]} lies alike at both.`,
  };
}

/** Whether so few crossings would have to be turned, and enough others say so, that they are slips. */
const isSlip = (one: Interlace, share: number): boolean =>
  slips(one) > 0 && slips(one) * share <= one.crossings && one.firm >= slips(one);

/**
 * Where more of the ways from crossing to crossing lie alike at both ends, nothing says that they should not (custom); single
 * stitches that drift over the cloth do so mostly.
 */
const MOST_BROKEN = { ropes: 3 / 4, singles: 1 / 2 } as const;
/** Stitches of a twist of two. */
const SINGLES = 2;

const slips = ({ turns, meant }: Interlace): number => turns.length + meant.length;

function* wrongWay(
  knitted: Knitted,
  placeOf: (crossing: number) => Place,
  { turns, meant }: Interlace,
  elsewhere: string,
): Iterable<Found> {
  for (const crossing of [...turns, ...meant]) {
    const place = placeOf(crossing);
    const { row, columns } = told(knitted, place);
    yield {
      id: ID,
      level: 'caution',
      row,
      columns,
      message: `Row ${row}: the crossing in columns ${columns[0]}–${columns[1]} lies the wrong way over: ${elsewhere}.`,
      mend: { label: 'Turn the crossing over', edit: (c) => turnOver(c, [place]) },
    };
  }
}

import { EditError } from '../chart/edit.js';
import { isPlain, moveAlong } from '../needle/mend-crossing.js';
import { loopsOf, type Passage } from '../ropes/stand.js';
import { splitBy } from '../ropes/whole.js';
import { standIn, type Meeting } from '../ropes/trace.js';
import { crossingSize } from '../stitches/crossing.js';
import { ropesCheck, type Found, type Knitted } from './finding.js';
import { counted } from '../values.js';

/** Columns a crossing is looked for a better place at, nearest first. */
const NEARBY = [-1, 1, -2, 2, -3, 3];

/** The crossings that hang together by the stitches they carry on from each other, by the first of each. */
function togetherBy(crossed: readonly (readonly Meeting[])[]): (meeting: Meeting) => Meeting {
  const above = new Map<Meeting, Meeting>();
  const first = (meeting: Meeting): Meeting => {
    let top = meeting;
    for (let next = above.get(top); next; next = above.get(top)) top = next;
    if (top !== meeting) above.set(meeting, top);
    return top;
  };
  const of = ({ row, index }: Passage): Meeting | undefined => crossed[row]?.[index];
  for (const meeting of crossed.flat())
    for (let i = 0; i < crossingSize(meeting.crossing); i++) {
      const { last } = standIn(meeting, i);
      const from = last && of(last);
      if (from && first(from) !== first(meeting)) above.set(first(meeting), first(from));
    }
  return first;
}

/**
 * Stitches that have crossed together are one rope; a crossing that takes only some of them splits it. Where many of those that
 * hang together do, as in braids that wander over the cloth, it is their manner.
 */
export const ropeSplit = ropesCheck(
  { tells: { 'rope-split': 'Rope split' }, level: 'caution', reads: ['rules'] },
  function* (knitted) {
    const { roped, rules } = knitted;
    if (!roped.crossed.some((meetings) => meetings.some(({ splits }) => splits))) return;
    const first = togetherBy(roped.crossed);
    const counts = new Map<Meeting, { all: number; split: number }>();
    for (const meeting of roped.crossed.flat()) {
      const count = counts.get(first(meeting)) ?? { all: 0, split: 0 };
      count.all++;
      if (meeting.splits) count.split++;
      counts.set(first(meeting), count);
    }
    for (const meeting of roped.crossed.flat()) {
      if (!meeting.splits) continue;
      const { all, split } = counts.get(first(meeting))!;
      if (split === 1 || split * rules.shareAstray <= all) yield* told(knitted, meeting);
    }
  },
);

function told({ roped }: Knitted, meeting: Meeting): Found[] {
  const { met: stands, crossing, first, column } = meeting;
  const split = splitBy(crossing, first, stands);
  if (!split) return [];
  const row = roped.rowOf(meeting.row);
  const at = roped.columnOf(row, column);
  const size = crossingSize(crossing);
  const fronts = loopsOf(crossing).map(({ group }) => group === 'front');
  const places = NEARBY.filter(
    (b) =>
      !splitBy(crossing, first + b, stands) && fronts.every((is, i) => !is || stands[first + b + i]?.rope),
  );
  return [
    {
      id: 'rope-split',
      level: 'caution',
      row: row + 1,
      columns: [at + 1, at + size],
      message: `Row ${row + 1}: the crossing in columns ${at + 1}–${at + size} takes ${split.taken} of the ${counted(split.of, 'stitch')} that crossed together in row ${roped.rowOf(split.row) + 1}; it splits their rope.`,
      mend: places.map((by) => ({
        label: `Move the crossing ${counted(Math.abs(by), 'column')} to the ${by > 0 ? 'left' : 'right'}`,
        edit: (c) => {
          if (!isPlain(c, row, by > 0 ? at + size : at + by, Math.abs(by)))
            throw new EditError('Something stands in the way.');
          return moveAlong(c, row, at, by);
        },
      })),
    },
  ];
}

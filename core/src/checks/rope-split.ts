import { isPlain, moveAlong } from '../needle/mend-crossing.js';
import { loopsOf, samePassage, type Meeting, type Stand } from '../ropes/trace.js';
import { crossingSize, LARGEST_GROUP, type Crossing } from '../stitches/crossing.js';
import { counted, type RopeCheck } from './finding.js';

/** Whether the stitches at either side of a place did not last cross together. */
function isParted(met: readonly Stand[], place: number): boolean {
  const last = met[place]?.last;
  return !last || !samePassage(last, met[place - 1]?.last ?? null);
}

/** Whether at no edge of a group a rope goes on beyond it: its stitches stand together. */
function takesWhole({ met, first, crossing: { lean, front, centre, back } }: Pick<Meeting, 'met' | 'first' | 'crossing'>): boolean {
  const near = first + (lean === 'left' ? front.length : back.length);
  const far = near + centre.length;
  const end = first + front.length + centre.length + back.length;
  return isParted(met, first) && isParted(met, near) && isParted(met, far) && isParted(met, end);
}

/**
 * The first group of a crossing that takes only some of the stitches that last crossed together: how many of how many,
 * and in which row they did. Null where every rope is taken whole.
 */
function splitBy(stands: readonly Stand[], first: number, c: Crossing): { taken: number; of: number; row: number } | null {
  if (takesWhole({ met: stands, first, crossing: c })) return null;
  const groups = loopsOf(c).map(({ group }) => group);
  const [from, to] = [Math.max(0, first - LARGEST_GROUP), first + groups.length + LARGEST_GROUP];
  for (let i = 0; i < groups.length; i++) {
    const last = stands[first + i]?.last;
    if (!last) continue;
    let [taken, of] = [0, 0];
    for (let k = from; k < to; k++) {
      if (!stands[k] || !samePassage(stands[k]!.last, last)) continue;
      of++;
      if (groups[k - first] === groups[i]) taken++;
    }
    if (taken < of) return { taken, of, row: last.row };
  }
  return null;
}

/** Columns a crossing is looked for a better place at, nearest first. */
const NEARBY = [-1, 1, -2, 2, -3, 3];

/** Stitches that have crossed together are one rope; a crossing that takes only some of them splits it. */
export const ropeSplit: RopeCheck = (knitted, r) => {
  const { roped, chart } = knitted;
  const { meetings } = roped.rows[r]!;
  if (meetings.every(takesWhole)) return [];
  return meetings.flatMap(({ met: stands, crossing, first, column }) => {
    const split = splitBy(stands, first, crossing);
    if (!split) return [];
    const row = roped.rowOf(r);
    const at = roped.columnOf(row, column);
    const size = crossingSize(crossing);
    const fronts = loopsOf(crossing).map(({ group }) => group === 'front');
    const by = NEARBY.find(
      (b) =>
        !splitBy(stands, first + b, crossing) &&
        fronts.every((is, i) => !is || stands[first + b + i]?.rope) &&
        isPlain(chart, row, b > 0 ? at + size : at + b, Math.abs(b)),
    );
    return [
      {
        id: 'rope-split',
        level: 'caution',
        row: row + 1,
        columns: [at + 1, at + size],
        message: `Row ${row + 1}: the crossing in columns ${at + 1}–${at + size} takes ${split.taken} of the ${counted(split.of, 'stitch')} that crossed together in row ${roped.rowOf(split.row) + 1}; it splits their rope.`,
        ...(by !== undefined && {
          mend: {
            label: `Move the crossing ${counted(Math.abs(by), 'column')} to the ${by > 0 ? 'left' : 'right'}`,
            edit: (c) => moveAlong(c, row, at, by),
          },
        }),
      },
    ];
  });
};

import { crossingSize, LARGEST_GROUP, type Crossing } from '../stitches/crossing.js';
import { loopsOf, samePassage, type Passage, type Stand } from './stand.js';

/** Whether crossings take ropes whole: the stitches that have crossed together, together again. */

/** Whether the stitches at either side of a place did not last cross together. */
function isParted(met: readonly Stand[], place: number): boolean {
  const last = met[place]?.last;
  return !last || !samePassage(last, met[place - 1]?.last ?? null);
}

/** Whether at no edge of a group a rope goes on beyond it: what stands together is told at once. */
function isWholeAtEdges(
  { lean, front, centre, back }: Crossing,
  first: number,
  met: readonly Stand[],
): boolean {
  const near = first + (lean === 'left' ? front.length : back.length);
  const far = near + centre.length;
  const end = first + front.length + centre.length + back.length;
  return isParted(met, first) && isParted(met, near) && isParted(met, far) && isParted(met, end);
}

/** Of stitches that belong together: how many one group of a crossing takes, of how many, and in which row they crossed. */
interface Split {
  taken: number;
  of: number;
  row: number;
}

/**
 * The first group of a crossing that takes only some of the stitches of a rope; null where it takes every rope whole.
 * Where a crossing has split a rope already, one that takes together again what belonged together before makes it good.
 * `first` is the place of its first loop among those the row meets.
 */
export function splitBy(crossing: Crossing, first: number, met: readonly Stand[]): Split | null {
  if (isWholeAtEdges(crossing, first, met)) return null;
  const groups = loopsOf(crossing).map(({ group }) => group);
  const [from, to] = [
    Math.max(0, first - LARGEST_GROUP),
    Math.min(met.length, first + crossingSize(crossing) + LARGEST_GROUP),
  ];
  const taking = (i: number, by: (stand: Stand) => Passage | null): Split | null => {
    const own = met[first + i] && by(met[first + i]!);
    if (!own) return null;
    let [taken, of] = [0, 0];
    for (let k = from; k < to; k++) {
      if (!samePassage(by(met[k]!), own)) continue;
      of++;
      if (groups[k - first] === groups[i]) taken++;
    }
    return { taken, of, row: own.row };
  };
  for (let i = 0; i < groups.length; i++) {
    const last = taking(i, (stand) => stand.last);
    if (!last || last.taken === last.of) continue;
    const whole = taking(i, (stand) => stand.whole);
    if (!whole || whole.taken < whole.of) return last;
  }
  return null;
}

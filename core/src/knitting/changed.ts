import { expandRow } from '../chart/frame.js';
import { sameStitches } from '../chart/steps.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { titleOf, type Job } from './job.js';

/** What became of a pattern while it was being knitted. */

/** Rows side by side that are otherwise now, by their places in the job as it was begun, from 0; as many as there are now in `now`. */
export interface ChangedRows {
  from: number;
  /** One past the last. */
  to: number;
  now: { from: number; to: number };
  title: string;
  /** Worked already, still ahead, or both. */
  where: 'worked' | 'ahead' | 'both';
}

export interface Changed {
  rows: ChangedRows[];
  castOn: { was: number; now: number } | null;
  /** The lowest changed row has been worked: what is on the needles is not the new pattern's. */
  touchesWorked: boolean;
}

const stitchesOf = ({ chart, times, rows }: Job, n: number) => {
  const { row } = rows[n]!;
  return (expandRow(chart, row, times) ?? chart.rows[row]!).filter((s) => s !== NO_STITCH);
};

/** What differs between a job as it was begun and as the design has it now; `worked` rows are done. */
export function changedSince(was: Job, now: Job, worked: number): Changed {
  const same = (a: number, b: number) => {
    const [one, other] = [was.rows[a]!, now.rows[b]!];
    return (
      one.side === other.side &&
      one.band === other.band &&
      sameStitches(stitchesOf(was, a), stitchesOf(now, b))
    );
  };
  const [m, n] = [was.rows.length, now.rows.length];
  let head = 0;
  while (head < m && head < n && same(head, head)) head++;
  let tail = 0;
  while (tail < Math.min(m, n) - head && same(m - 1 - tail, n - 1 - tail)) tail++;
  const rows: ChangedRows[] = [];
  const put = (from: number, to: number, own: ChangedRows['now']) => {
    const [first, last] = [from, Math.max(from, to - 1)];
    const titled = (k: number) =>
      k < m ? titleOf(was, k).text : `after ${titleOf(was, m - 1).text.toLowerCase()}`;
    rows.push({
      from,
      to,
      now: own,
      title: last > first ? `${titled(first)} to ${titled(last).toLowerCase()}` : titled(first),
      where: to <= worked && from < worked ? 'worked' : from >= worked ? 'ahead' : 'both',
    });
  };
  if (head < m - tail || head < n - tail) {
    if (m === n) {
      // As many rows as before: each is held against its own.
      for (let from = head; from < m - tail; from++) {
        if (same(from, from)) continue;
        let to = from + 1;
        while (to < m - tail && !same(to, to)) to++;
        put(from, to, { from, to });
        from = to;
      }
    } else put(head, m - tail, { from: head, to: n - tail });
  }
  return {
    rows,
    castOn: was.castOn === now.castOn ? null : { was: was.castOn, now: now.castOn },
    touchesWorked: worked > 0 && (was.castOn !== now.castOn || rows.some(({ where }) => where !== 'ahead')),
  };
}

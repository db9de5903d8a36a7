import {
  ChartSchema,
  flipCrossing,
  MOTIFS,
  motifChart,
  simpleCrossing,
  type Chart,
  type Crossing,
  type Stitch,
} from '../src/index.js';
import { mirrorChart } from '../src/chart/edits.js';
import { type Lean } from '../src/stitches/face.js';
import { k, p } from './panels.js';

/**
 * Sound cloth of the kinds that every stitch dictionary holds, built by rule (common practice, no source): braids, slipped
 * ropes, diagonals, baskets, horseshoes, waves, honeycombs and what the motifs make. Nothing is wrong with any of them.
 */

export interface Sound {
  name: string;
  chart: Chart;
}

const X = (lean: Lean, width: number): Crossing => simpleCrossing(lean, width, width);
const other = (lean: Lean): Lean => (lean === 'left' ? 'right' : 'left');
const spanOf = (row: readonly Stitch[]) =>
  row.reduce<number>(
    (n, s) => n + (typeof s === 'string' ? 1 : s.front.length + s.centre.length + s.back.length),
    0,
  );
const sound = (name: string, rows: Stitch[][], over: object = {}): Sound => ({
  name,
  chart: ChartSchema.parse({ width: spanOf(rows[0]!), rows, part: 'panel', ...over }),
});

/** A plait of `ropes` ropes: at one crossing row the first ones cross, at the next those between, the other way over. */
export function braid(ropes: number, width: number, every: number, first: number, lean: Lean): Sound {
  let odd = false;
  const rows = Array.from({ length: 16 }, (_, r): Stitch[] => {
    if (r < first || (r - first) % every !== 0) return [...p(2), ...k(ropes * width), ...p(2)];
    const row: Stitch[] = [];
    for (let rope = 0; rope < ropes;)
      if (rope >= Number(odd) && rope + 1 < ropes) {
        row.push(X(odd ? other(lean) : lean, width));
        rope += 2;
      } else {
        row.push(...k(width));
        rope++;
      }
    odd = !odd;
    return [...p(2), ...row, ...p(2)];
  });
  return sound(`braid of ${ropes} by ${width}, every ${every} from ${first}, ${lean}`, rows);
}

/** Two ropes of `width` side by side between purls, each crossed so often, as `of` says for each time. */
const pairs = (
  name: string,
  width: number,
  every: number,
  times: number,
  of: (i: number) => [Lean, Lean],
): Sound =>
  sound(
    `${name} of ${width}, every ${every}`,
    Array.from({ length: times * every }, (_, r) => {
      const [a, b] = of(Math.floor(r / every));
      return [...p(2), ...(r % every === 0 ? [X(a, width), X(b, width)] : k(4 * width)), ...p(2)];
    }),
  );

/** Stitches of the rope that are carried over some rows before it is crossed. */
const slipped = (width: number, slips: number): Sound =>
  sound(
    `slipped rope of ${width}, over ${slips} rows`,
    Array.from({ length: 24 }, (_, r): Stitch[] => {
      const at = r % 6;
      if (at === 4) return [...p(2), X('left', width), ...p(2)];
      const isSlipped = at >= 4 - slips && at < 4;
      return [...p(2), ...(isSlipped ? Array<Stitch>(width).fill('slyb') : k(width)), ...k(width), ...p(2)];
    }),
  );

/** Crossings that move on by part of a rope on knit. */
const diagonal = (front: number, back: number, step: number, lean: Lean): Sound =>
  sound(
    `diagonal of ${front} over ${back} by ${step}, ${lean}`,
    Array.from({ length: 20 }, (_, r): Stitch[] => {
      if (r % 2 === 1) return k(24);
      const off = ((r / 2) * step) % 12;
      const at = Math.min(lean === 'left' ? off : 12 - off, 24 - front - back);
      return [...k(at), simpleCrossing(lean, front, back), ...k(24 - at - front - back)];
    }),
  );

/** Twists on knit that move on by one at every crossing row. */
const drifting = (lean: Lean, period: number): Sound =>
  sound(
    `drifting twists every ${period}, ${lean}`,
    Array.from({ length: 2 * period }, (_, r): Stitch[] => {
      const width = period * 4;
      if (r % 2 === 1) return k(width);
      const off = (lean === 'left' ? r / 2 : period - 1 - r / 2) % period;
      const row: Stitch[] = [];
      for (let c = 0; c < width;)
        if (c % period === off && c + 1 < width) {
          row.push(simpleCrossing(lean, 1, 1, 'k'));
          c += 2;
        } else {
          row.push('k');
          c++;
        }
      return row;
    }),
    { up: { setup: 0, closing: 0, times: 3 } },
  );

const BOTH = ['left', 'right'] as const;

export const braids: readonly Sound[] = [3, 4, 5, 6].flatMap((ropes) =>
  [1, 2, 3].flatMap((width) =>
    [2, 4].flatMap((every) =>
      [0, 2].flatMap((first) => BOTH.map((lean) => braid(ropes, width, every, first, lean))),
    ),
  ),
);

export const soundCloth: readonly Sound[] = [
  ...braids,
  ...[2, 3].flatMap((width) => [1, 2, 3].map((slips) => slipped(width, slips))),
  ...(
    [
      [2, 2, 2],
      [2, 2, 1],
      [3, 3, 2],
      [2, 1, 1],
      [3, 3, 3],
      [3, 1, 2],
    ] as const
  ).flatMap(([front, back, step]) => BOTH.map((lean) => diagonal(front, back, step, lean))),
  ...[3, 4, 5, 6].flatMap((period) => BOTH.map((lean) => drifting(lean, period))),
  ...[1, 2, 3].flatMap((width) =>
    [2, 4, 6].flatMap((every) => [
      pairs('horseshoe', width, every, 5, () => ['right', 'left']),
      pairs('open horseshoe', width, every, 5, () => ['left', 'right']),
      pairs('rings', width, every, 8, (i) =>
        [0, 3].includes(i % 4) ? ['left', 'right'] : ['right', 'left'],
      ),
      pairs('waves', width, every, 8, (i) => (i % 2 ? ['left', 'left'] : ['right', 'right'])),
      pairs('honeycomb', width, every, 8, (i) => (i % 2 ? ['left', 'right'] : ['right', 'left'])),
    ]),
  ),
  ...MOTIFS.flatMap((rule) =>
    [1, 2].map((times) => ({ name: `${rule.name} × ${times}`, chart: motifChart(rule, {} as never, times) })),
  ),
];

/** The same, seen in a mirror: what is sound is sound there. */
export const inMirror = ({ name, chart }: Sound): Sound => ({
  name: `${name}, in a mirror`,
  chart: mirrorChart(chart),
});

/** A chart with its `n`th crossing turned over, and where that is; null where it has no more. */
export function turnedOver(chart: Chart, n: number): { chart: Chart; row: number } | null {
  let left = n;
  for (const [r, row] of chart.rows.entries())
    for (const [i, stitch] of row.entries())
      if (typeof stitch !== 'string' && left-- === 0)
        return {
          chart: { ...chart, rows: chart.rows.with(r, row.with(i, flipCrossing(stitch))) },
          row: r + 1,
        };
  return null;
}

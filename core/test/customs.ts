import { extentOf, simpleCrossing, type Chart, type Stitch } from '../src/index.js';
import { cloth, GARTER, knitted, PLAIN, ropes } from './cloths.js';

/**
 * How cloth is known to lie against plain cloth of as many stitches and rows, unstretched: common practice, no source. The constants of
 * the springs were fitted to this table as a whole; the tests hold it, and the benchmark prints what was measured of each.
 */
export interface Custom {
  measured: () => number;
  /** Between what it lies. */
  from: number;
  to: number;
}

type Of = 'wide' | 'high';
const lies = (chart: Chart, of: Of = 'wide'): number => extentOf(knitted(chart))![of];

/** Ribs wide enough for their middle to lie as ribs do. */
const ribs = (n: number): Chart => cloth(24, 24, (c) => (c % (2 * n) < n ? 'k' : 'p'));
const MOSS = cloth(24, 24, (c, r) => ((c + r) % 2 ? 'p' : 'k'));

/** Two ropes on a plain ground. */
function onKnit(half: number, every: number): Chart {
  const ground = Array<Stitch>(4).fill('k');
  const rows = Array.from({ length: Math.max(24, 3 * every) }, (_, r) => {
    const isCrossed = r % every === every >> 1;
    const rope = isCrossed ? [simpleCrossing('left', half, half)] : Array<Stitch>(2 * half).fill('k');
    return [...ground, ...rope, ...ground, ...rope, ...ground];
  });
  return { ...PLAIN, width: 4 * half + 12, rows };
}

/** The least by which each cloth is wider than the one before it. */
function leastGrowth(charts: readonly Chart[]): number {
  const widths = charts.map((chart) => lies(chart));
  return Math.min(...widths.slice(1).map((w, i) => w - widths[i]!));
}

/** Ropes of one width, crossed ever less often; 0 is never. */
const looser = (half: number, all: readonly number[]) => (): number =>
  leastGrowth(all.map((every) => ropes(half, every, 2, 36)));
/** Ropes crossed as often, ever narrower. */
const narrower = (halves: readonly number[], lay: (half: number) => Chart) => (): number =>
  leastGrowth(halves.map(lay));
const alike = (half: number, every: number) => (): number => {
  const widths = [1, 2, 3, 5, 8, 12, 20].map((many) => lies(ropes(half, every, many, 36)));
  return Math.max(...widths) - Math.min(...widths);
};

/** How much of its way a crossed rope goes in the row of the crossing itself, of all it goes in the five rows about it. */
function ownShare(half: number): number {
  const { fabric, lie } = knitted(ropes(half, 8, 2, 24));
  const { wales, stem, crown } = fabric;
  let [own, all] = [0, 0];
  for (const { moved, parent, child } of wales) {
    const [below, above] = [wales[stem[parent]!], wales[crown[child]!]];
    const [from, to] = [below && wales[stem[below.parent]!], above && wales[crown[above.child]!]];
    if (!moved || !from || !to) continue;
    own += Math.abs(lie[3 * child]! - lie[3 * parent]!);
    all += Math.abs(lie[3 * to.child]! - lie[3 * from.parent]!);
  }
  return own / all;
}

const of = (chart: Chart, from: number, to: number, which: Of = 'wide'): Custom => ({
  measured: () => lies(chart, which),
  from,
  to,
});

/** Differences are never so exact that a fifth of a point is one. */
const SAME = -0.002;

export const CUSTOMS: Readonly<Record<string, Custom>> = {
  'plain cloth is as wide as its stitches': of(PLAIN, 0.99, 1.01),
  '1 × 1 rib is about seven tenths': of(ribs(1), 0.65, 0.75),
  '2 × 2 rib draws in as much': of(ribs(2), 0.6, 0.75),
  '1 × 1 rib is wider than 2 × 2, by': { measured: () => lies(ribs(1)) - lies(ribs(2)), from: 0, to: 0.15 },
  'garter is as wide': of(GARTER, 0.96, 1.04),
  // A plain row is 0.74 of a stitch: two thirds of that is half a stitch.
  'a garter row is about half a stitch high': of(GARTER, 0.62, 0.74, 'high'),
  'moss is hardly narrower': of(MOSS, 0.97, 1.08),
  '2/2 every 4 rows draws in by 15 to 25 %': of(ropes(2, 4, 2), 0.75, 0.85),
  '3/3 every 6 rows likewise': of(ropes(3, 6, 2), 0.72, 0.85),
  '2/2 crossed less often is wider, by at least': { measured: looser(2, [2, 4, 6, 8, 0]), from: SAME, to: 1 },
  '3/3 crossed less often is wider': { measured: looser(3, [2, 4, 6, 8, 12, 0]), from: SAME, to: 1 },
  '4/4 crossed less often is wider': { measured: looser(4, [2, 4, 6, 8, 12, 0]), from: SAME, to: 1 },
  'narrower ropes every 4 rows are wider, by at least': {
    measured: narrower([4, 3, 2], (half) => ropes(half, 4, 2, 24)),
    from: SAME,
    to: 1,
  },
  'narrower ropes every 6 rows': {
    measured: narrower([4, 3, 2], (half) => ropes(half, 6, 2, 30)),
    from: SAME,
    to: 1,
  },
  'narrower ropes every 8 rows': {
    measured: narrower([4, 3, 2], (half) => ropes(half, 8, 2, 36)),
    from: SAME,
    to: 1,
  },
  'narrower ropes on plain ground every 8 rows': {
    measured: narrower([4, 3, 2, 1], (half) => onKnit(half, 8)),
    from: SAME,
    to: 1,
  },
  '1 to 20 ropes of 2/2 every 4 rows are alike, but for': { measured: alike(2, 4), from: 0, to: 0.01 },
  '1 to 20 ropes of 3/3 every 6 rows': { measured: alike(3, 6), from: 0, to: 0.01 },
  'of its way a rope of 3/3 goes in the row of its crossing': {
    measured: () => ownShare(3),
    from: 0,
    to: 0.58,
  },
  'a rope of 4/4 likewise': { measured: () => ownShare(4), from: 0, to: 0.58 },
  ...Object.fromEntries(
    [1, 2, 3, 4].flatMap((half) =>
      [1, 2].flatMap((every) => [
        [
          `${half}/${half} in every ${every} rows is narrow, and no thread`,
          of(ropes(half, every, 2, 24), 0.4, 0.75),
        ],
        [
          `${half}/${half} in every ${every} rows is about as high`,
          of(ropes(half, every, 2, 24), 0.8, 1.3, 'high'),
        ],
      ]),
    ),
  ),
};

import { PIECE_LIMITS, type Piece, type Size } from '../chart/piece-document.js';
import { repeatCounts } from '../chart/frame.js';
import { lengthFor } from '../measures/gauge.js';
import type { Length } from '../measures/length.js';
import { bordersHigh, upOfPart, waysUp } from './going.js';
import { fitWidth, type FitPart } from '../sizes/fit.js';
import { layOut, wantedWidth, type LaidFrom, type LaidPart } from './lay-out.js';
import { isChartPart } from './standing.js';
import type { LengthWay } from './up.js';
import { MOST_ON_NEEDLE } from '../sizes/evenly.js';

/** Fitting a piece to the width of a size: grounds and fillings as the bounds of their parts allow. */

/** One way: the numbers of the parts that may change, by part, and what the piece then is. */
export interface PieceFit {
  counts: Readonly<Record<string, number>>;
  castOn: number;
  width: Length;
  off: Length;
  uneven: number;
  moved: number;
  /** What of it is another than now: "ground 9 → 11"; those that share a number once. */
  changes: { part: string; name: string; pair: string | null; was: number; now: number }[];
}

export interface PieceFitted {
  wanted: Length;
  ways: readonly PieceFit[];
  /** Why there is no way. */
  problem: string | null;
  isWhole: boolean;
}

/** What of a part the fit may choose. */
function fitPart(of: LaidPart, wanted: Length): FitPart {
  const { part, chart, stitches, gauge, times } = of;
  const pair = 'pair' in part && part.pair !== null ? { pair: part.pair } : {};
  if (part.kind === 'ground') {
    // Unless it is bounded it may take all the width there is, but does not close to less than two purls (custom).
    const room = Math.ceil((wanted * gauge!.count) / gauge!.over);
    return {
      kind: 'gap',
      stitches: part.stitches,
      least: part.least ?? Math.min(2, part.stitches, part.most ?? 2),
      most: part.most ?? Math.min(PIECE_LIMITS.stitches, Math.max(part.least ?? 0, part.stitches, room)),
      ...pair,
      gauge: gauge!,
    };
  }
  if (part.kind !== 'filling' || !chart) return { kind: 'fixed', stitches, gauge: gauge! };
  const each = repeatCounts(chart, (of.going?.begins ?? 1) - 1)?.takes ?? 0;
  if (!each) return { kind: 'fixed', stitches, gauge: gauge! };
  const room = Math.floor(((wanted * gauge!.count) / gauge!.over / each) * 2) + 1;
  return {
    kind: 'filling',
    of: each,
    plus: stitches - each * times,
    least: part.least,
    most: part.most ?? Math.min(MOST_ON_NEEDLE, Math.max(part.least, room)),
    ...pair,
    gauge: gauge!,
  };
}

/** Of ways that are equally wide so many are told. */
const PER_WIDTH = 2;

/** The ways of a piece that come nearest to a size's width; null where no width is wished for. */
export function fitPiece(design: LaidFrom, piece: Piece, size: Size, most = 4): PieceFitted | null {
  const wanted = wantedWidth(piece, size);
  if (wanted === null) return null;
  const parts = layOut(design, piece, size).parts.filter(({ part }) => part.kind !== 'marker');
  const none = (problem: string): PieceFitted => ({ wanted, ways: [], problem, isWhole: true });
  if (parts.some((p) => !p.gauge))
    return none('Without a gauge there is no width: take one from a swatch, or type it in.');
  if (parts.some(({ part, chart }) => isChartPart(part) && !chart))
    return none('A part works a chart that the design has no more.');
  const asked = parts.map((of) => ({ of, fit: fitPart(of, wanted) }));
  const able = asked.filter(({ fit }) => fit.kind !== 'fixed');
  if (!able.length)
    return none('Nothing in it may change: put a ground or a filling in, and it can be fitted.');
  const fitted = fitWidth(
    asked.map(({ fit }) => fit),
    wanted,
    most * PER_WIDTH * 4,
  );
  if (!fitted.solutions.length)
    return none('The bounds of parts that are paired do not meet: give them a number they can share.');
  // Of those that are equally wide the best are told, so that there is a choice of widths too.
  const solutions = fitted.solutions
    .filter((s, i, all) => all.slice(0, i).filter((o) => o.width === s.width).length < PER_WIDTH)
    .slice(0, most);
  const ways = solutions.map((solution): PieceFit => {
    const { castOn, width, off, uneven, moved } = solution;
    const left = { gap: [...solution.gaps], filling: [...solution.repeats] };
    const counts: Record<string, number> = {};
    const changes: PieceFit['changes'] = [];
    for (const { of, fit } of able) {
      const { part, name } = of;
      const now = left[fit.kind as keyof typeof left].shift()!;
      const was = fit.kind === 'gap' ? of.stitches : of.times;
      const pair = 'pair' in part ? part.pair : null;
      counts[part.id] = now;
      if (now !== was && !(pair !== null && changes.some((c) => c.pair === pair)))
        changes.push({ part: part.id, name, pair, was, now });
    }
    return { counts, castOn, width, off, uneven, moved, changes };
  });
  return { wanted, ways, problem: null, isWhole: fitted.isWhole };
}

/** A size with the numbers of a fit: those that are the piece's own are not kept twice. */
export function withFit(piece: Piece, size: Size, { counts }: PieceFit): Size {
  const own = Object.entries(counts).filter(([id, n]) => {
    const part = piece.parts.find((p) => p.id === id);
    if (part?.kind === 'ground') return part.stitches !== n;
    return part?.kind === 'filling' && part.repeats !== n;
  });
  return { ...size, counts: Object.fromEntries(own) };
}

/** Every size fitted to its measures, where that goes: as the first of the ways that come nearest. */
export const fitSizes = (design: LaidFrom, piece: Piece): Piece => ({
  ...piece,
  sizes: piece.sizes.map((s) => {
    const best = fitPiece(design, piece, s, 1)?.ways[0];
    return best ? withFit(piece, s, best) : s;
  }),
});

/** The ground or filling set to a number in a size, those paired with it too. */
export function withCount(piece: Piece, size: Size, id: string, n: number): Size {
  const of = piece.parts.find((p) => p.id === id);
  const pair = of && 'pair' in of ? of.pair : null;
  const alike = piece.parts.filter(
    (p) => p.id === id || (pair !== null && 'pair' in p && p.pair === pair && p.kind === of?.kind),
  );
  return { ...size, counts: { ...size.counts, ...Object.fromEntries(alike.map((p) => [p.id, n])) } };
}

/** The ways to a size's length by the rows of the part that leads; null where none is wished for, or rows have no gauge. */
export function lengthsOf(design: LaidFrom, piece: Piece, size: Size): LengthWay[] | null {
  const gauge = (piece.gauge.whole ?? piece.gauge.plain)?.rows;
  const { lead } = layOut(design, piece, size);
  if (size.length === null || !gauge || !lead?.chart || !isChartPart(lead.part)) return null;
  const up = upOfPart(lead.part, lead.chart);
  const rest = lengthFor(gauge, bordersHigh(piece.border) + up.start - 1);
  return waysUp(piece, size.length, up)!.map((way) => ({
    ...way,
    length: Math.round(way.length + rest),
    off: Math.round(way.length + rest - size.length!),
  }));
}

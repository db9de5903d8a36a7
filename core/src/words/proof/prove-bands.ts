import type { Band } from '../../chart/bands.js';
import { Braid, BraidFault } from '../../needle/braid.js';
import type { BandLine, BandTold } from '../pattern.js';
import type { Problems } from './problems.js';

/** What bands are proved against: which there are, under their rows, and what rows take at a number of repeats. */
export interface BandsWanted {
  bands: () => ReadonlyMap<number, Band>;
  takes: (row: number, times: number) => number;
  times: number | null;
  tried: readonly number[];
}

/**
 * The bands of a text against the chart: each is told once, before its row, over as many stitches as the row below leaves, and its
 * rounds are worked on the needle of a band. What must come of that is this proof's own account: every stitch lies bound once a
 * round, and from the second round on strands cross at its beginning and every so many loops, the travelling one counted.
 */
export function proveBands(lines: readonly BandLine[], piece: BandsWanted, problems: Problems): void {
  const wanted = new Map(piece.bands());
  const told = new Map<number, BandTold>();
  let last = 0;
  for (const { before, body } of lines) {
    const tell = (message: string) =>
      problems.tell('band-differs', `The band before row ${before} ${message}`, before);
    if (before <= last) tell('is not told in its place.');
    last = before;
    const band = wanted.get(before);
    if (!band) {
      tell('is not in the chart.');
      continue;
    }
    wanted.delete(before);
    const own = 'as' in body ? told.get(body.as) : body;
    if (!own) {
      tell('is as one that is not told before it.');
      continue;
    }
    told.set(before, own);
    const { every, rounds } = band;
    const stitches = piece.takes(before, piece.times ?? 1);
    if (own.over !== stitches) tell(`is told over ${own.over} stitches; the needle holds ${stitches}.`);
    if (own.multiple !== (rounds > 1 ? every : null)) tell('does not say rightly what it divides.');
    if (own.rounds.length !== rounds) tell(`has ${own.rounds.length} rounds; the chart says ${rounds}.`);
    for (const { count } of own.rounds)
      if (count !== own.over + 1) tell(`says ${count} stitches; the needle holds ${own.over + 1}.`);
    for (const times of piece.tried) {
      const n = piece.takes(before, times);
      // Words that cross every so many stitches hold for rounds that this divides, and say so.
      if (rounds > 1 && (n + 1) % every !== 0) continue;
      const fault = workedOtherwise(own, n, every);
      if (fault) tell(`${fault} (worked over ${n} stitches)`);
    }
  }
  for (const before of wanted.keys())
    problems.tell('band-differs', `The band before row ${before} is not in the words.`, before);
}

/** What a band as it is told does otherwise than it should; null where it does as it should. */
function workedOtherwise({ rounds }: BandTold, stitches: number, every: number): string | null {
  const braid = new Braid(stitches);
  try {
    for (const { items } of rounds) braid.workRound(items);
  } catch (error) {
    if (!(error instanceof BraidFault)) throw error;
    return `does not come out: ${error.message}`;
  }
  if (braid.loops !== stitches + 1) return 'is begun without its travelling stitch.';
  if (braid.marked) return 'leaves markers behind.';
  if (braid.bound.some((n) => n !== rounds.length)) return 'does not bind every stitch once a round.';
  const places = Array.from({ length: (stitches + 1) / every }, (_, i) => (i ? i * every - 1 : 0));
  const crossings = rounds.flatMap((_, i) => (i ? places.map((at) => `${i + 1} ${at}`) : []));
  if (crossings.join() !== braid.crossings.map(({ round, at }) => `${round} ${at}`).join())
    return `does not cross its strands every ${every} stitches.`;
  return null;
}

import { isCrossed, type Band } from '../chart/bands.js';

/**
 * The needle of a band: stitches of one round are bound, one after the other, under a travelling loop that lies along it.
 *
 * - *cast-on*: one loop is knitted on before the first stitch; it is the travelling loop.
 * - *step*: the second loop is knit through its back loop from behind and left on, the first is knit, both are let go, and the
 *   loop worked last, the travelling one, is slipped back. One stitch more lies behind it.
 * - *draw*: the travelling loop is drawn once under the lying stitch of the band's round below, and put back.
 * - *place*, *slip*, *remove*: a marker between two stitches, which the travelling loop passes.
 *
 * Over N stitches there are N + 1 loops. The travelling loop stands last at the end of a round and goes on as the first of the
 * next; after the last it is worked together with the first stitch of the round above (common practice, no source).
 */
export type BraidMove = 'cast-on' | 'step' | 'draw' | 'place' | 'slip' | 'remove';

/** What is told of a round of a band: a move so many times, or to the end of the round; or several until it ends. */
export type BandItem = { move: BraidMove; times: number | 'end' } | { star: readonly BandItem[] };

/** What cannot be done on the needle as it then is; the message is for the knitter. */
export class BraidFault extends Error {}

/** Where a strand passed under another: the round of the band, and the stitches worked in it before. */
export interface BraidCrossing {
  round: number;
  at: number;
}

/** The needle of a band over so many stitches, worked move by move. */
export class Braid {
  /** How often each stitch, from the beginning of the round, lies bound under the travelling loop. */
  readonly bound: number[];
  readonly crossings: BraidCrossing[] = [];
  /** The round of the band that is worked, from 1. */
  round = 1;
  /** The stitches worked in this round. */
  at = 0;
  private travels = false;
  private readonly markers = new Set<number>();
  /** The stitches before a marker that was passed here. */
  private passed: number | null = null;

  constructor(readonly stitches: number) {
    this.bound = Array<number>(stitches).fill(0);
  }

  /** The loops on both needles. */
  get loops(): number {
    return this.stitches + (this.travels ? 1 : 0);
  }

  get isAtEnd(): boolean {
    return this.at === this.stitches;
  }

  /** How many markers of its own lie between the stitches. */
  get marked(): number {
    return this.markers.size;
  }

  /** The loops in the order in which they lie, those worked in this round first; the travelling one waits on the left needle. */
  order(): { worked: number[]; waiting: (number | 'travelling')[] } {
    const all = Array.from({ length: this.stitches }, (_, i) => i);
    return {
      worked: all.slice(0, this.at),
      waiting: [...(this.travels ? (['travelling'] as const) : []), ...all.slice(this.at)],
    };
  }

  /** @throws BraidFault */
  do(move: BraidMove): void {
    const isMarked = this.markers.has(this.at) && this.passed !== this.at;
    switch (move) {
      case 'cast-on':
        if (this.travels || this.round > 1 || this.at)
          throw new BraidFault('the loop is cast on once, first.');
        this.travels = true;
        return;
      case 'step':
        if (!this.travels) throw new BraidFault('no travelling stitch is cast on.');
        if (this.isAtEnd) throw new BraidFault('the round has no stitch left to step over.');
        if (isMarked) throw new BraidFault('a marker stands in the way of the step.');
        this.bound[this.at]!++;
        this.at++;
        return;
      case 'draw':
        if (this.round === 1) throw new BraidFault('no round of the band lies below to draw it under.');
        if (isMarked) throw new BraidFault('a marker stands before the place where it is drawn under.');
        if (this.crossings.at(-1)?.round === this.round && this.crossings.at(-1)!.at === this.at)
          throw new BraidFault('it is drawn under there already.');
        this.crossings.push({ round: this.round, at: this.at });
        return;
      case 'place':
        if (!this.at || this.isAtEnd) throw new BraidFault('the round is marked there already.');
        if (this.markers.has(this.at)) throw new BraidFault('a marker stands there already.');
        this.markers.add(this.at);
        this.passed = this.at;
        return;
      case 'slip':
      case 'remove':
        if (!isMarked) throw new BraidFault('no marker stands there.');
        if (move === 'remove') this.markers.delete(this.at);
        this.passed = this.at;
    }
  }

  /** Works what is told of one round, and begins the next. @throws BraidFault also where it does not come out */
  workRound(items: readonly BandItem[]): void {
    this.work(items);
    if (!this.isAtEnd)
      throw new BraidFault(`${this.stitches - this.at} of ${this.stitches} stitches are left over.`);
    this.round++;
    this.at = 0;
    this.passed = null;
  }

  private work(items: readonly BandItem[]): void {
    for (const item of items) {
      if ('star' in item) {
        while (!this.isAtEnd) {
          const before = this.at;
          this.work(item.star);
          if (this.at === before) throw new BraidFault('what is repeated works no stitch.');
        }
      } else if (item.times === 'end') while (!this.isAtEnd) this.do(item.move);
      else for (let i = 0; i < item.times; i++) this.do(item.move);
    }
  }
}

const moves = (move: BraidMove, times: number | 'end' = 1): BandItem => ({ move, times });

/**
 * The rounds of a band as they are told, whatever the number of stitches: stretches of `every` loops, the first of which has
 * the travelling one among them; where they meet the strands cross, from the second round on.
 */
export function bandRounds(band: Band): BandItem[][] {
  const { every, rounds } = band;
  if (!isCrossed(band)) return [[moves('cast-on'), moves('step', 'end')]];
  const round = (begins: BraidMove, marker: BraidMove, draws: boolean): BandItem[] => [
    moves(begins),
    moves('step', every - 1),
    { star: [moves(marker), ...(draws ? [moves('draw')] : []), moves('step', every)] },
  ];
  return Array.from({ length: rounds }, (_, i) =>
    i === 0 ? round('cast-on', 'place', false) : round('draw', i === rounds - 1 ? 'remove' : 'slip', true),
  );
}

/** A band worked over so many stitches. @throws BraidFault where it does not divide them */
export function workBand(stitches: number, band: Band): Braid {
  const braid = new Braid(stitches);
  for (const items of bandRounds(band)) braid.workRound(items);
  return braid;
}

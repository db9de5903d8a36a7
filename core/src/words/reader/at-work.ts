import { counted } from '../../values.js';
import { makesOf, takesOf, type Stitch } from '../../stitches/book.js';
import type { Side } from '../../stitches/face.js';
import type { Needle } from '../../needle/loop.js';
import { TooMuchWork, type Lexicon } from './lexicon.js';

/** A row whose words do not come out on the needle. */
export class RowProblem extends Error {
  /** The item of the row at which it shows. */
  item?: object;

  constructor(
    readonly id: string,
    message: string,
  ) {
    super(message);
  }
}

/** A needle long enough for one pass of anything a row may say; none may grow longer. */
export const LONG_NEEDLE = 10_000;
/** Items worked in one row, at most: also those that take and make nothing. */
const MOST_ITEMS = 60_000;

export const sts = (n: number) => counted(n, 'stitch');

/** A needle being worked: `live` loops wait on it in working order. */
export class Hands {
  readonly done: Stitch[] = [];
  taken = 0;
  /** How many waited when the item under way was begun. */
  begun = 0;
  private made = 0;
  private items = 0;
  /** The knitter's own markers that are still to come, each by the loops before it; and those behind, by the loops made. */
  private readonly ahead: number[];
  private readonly behind: number[] = [];
  private hasMarkers: boolean;

  constructor(
    readonly live: Needle,
    readonly side: Side,
    readonly lexicon: Lexicon,
    markers: readonly number[] = [],
  ) {
    this.ahead = [...markers];
    this.hasMarkers = markers.length > 0;
  }

  private passMarkers(before: number): void {
    while (this.ahead.length && this.ahead[0]! < before) {
      this.ahead.shift();
      this.behind.push(this.made);
    }
  }

  /** Places, slips or removes a marker. That of the round, and those that are told elsewhere, are not kept account of. */
  mark(does: 'place' | 'slip' | 'remove'): void {
    this.passMarkers(this.taken);
    const isEnd = this.taken === 0 || this.left === 0;
    if (does === 'place') {
      if (isEnd) return;
      this.hasMarkers = true;
      this.behind.push(this.made);
      return;
    }
    const isHere = this.ahead[0] === this.taken;
    if (!isHere && this.hasMarkers && !isEnd)
      throw new RowProblem(
        'marker-not-here',
        `speaks of a marker behind ${sts(this.taken)}, where there is none${this.ahead.length ? `: the next is ${this.ahead[0]! - this.taken} further on` : ''}.`,
      );
    if (isHere) this.ahead.shift();
    if (isHere && does === 'slip') this.behind.push(this.made);
  }

  /** How many loops lie before the next marker; in the round, where none is known, all that are left. @throws RowProblem */
  get toMarker(): number {
    this.passMarkers(this.taken);
    const [next] = this.ahead;
    if (next !== undefined) return next - this.taken;
    if (this.lexicon.hasEdges === false) return this.left;
    throw new RowProblem('no-marker', 'goes to a marker, and none is placed before it: say "to last … sts".');
  }

  /** Where the markers lie once the row is worked, in its working order. */
  get markersAfter(): readonly number[] {
    this.passMarkers(Infinity);
    return this.behind;
  }

  get left(): number {
    return this.live.length - this.taken;
  }

  /** Counts what the row says, whether or not it moves a loop. */
  step(): void {
    this.begun = this.left;
    const { budget } = this.lexicon;
    if (budget && --budget.left < 0) throw new TooMuchWork();
    if (++this.items > MOST_ITEMS) throw new RowProblem('row-too-long', 'repeats more than any row can.');
  }

  work(stitch: Stitch, word: string): void {
    const { budget } = this.lexicon;
    if (budget && --budget.left < 0) throw new TooMuchWork();
    const takes = takesOf(stitch, this.lexicon.book);
    if (takes > this.left)
      throw new RowProblem(
        'row-overruns',
        `works more than the ${sts(this.live.length)} on the needle: at "${word}" ${this.begun ? `only ${this.begun} ${this.begun === 1 ? 'is' : 'are'}` : 'none are'} left.`,
      );
    this.passMarkers(this.taken + 1);
    // Stitches that take nothing could go on for ever, and a needle that doubles in every row soon would.
    this.made += makesOf(stitch, this.lexicon.book);
    if (this.made > LONG_NEEDLE || this.done.length > 4 * this.live.length + 1000)
      throw new RowProblem('row-too-long', 'makes more stitches than any needle holds.');
    this.taken += takes;
    this.done.push(stitch);
  }
}

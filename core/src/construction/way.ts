import { z } from 'zod';
import type { OwnStitch, StitchBook } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';

export const HANDS = ['right', 'left-same-fabric', 'left-same-words'] as const;
/** Whose hands work it: a left-handed knitter makes the same fabric, or follows the same words to its mirror image. */
export type Hand = (typeof HANDS)[number];

/**
 * Whether both faces of a cloth are looked at and neither is wrong: then its sides have numbers, and side 1 is the one that charts
 * show as the right side.
 */
export const BothFaces = z.boolean().default(false);

/** What one who teaches it says of cloth both of whose faces count (common practice, no source). */
export const BOTH_FACES_TRAINS: readonly string[] = [
  'Ropes are ribbed: every stitch is worked as it presents, in the order in which it comes to lie, so that the rib goes on through a crossing.',
  'Knit the ground on every row. Its two rows are a ridge, and flatter than the ropes: where crossings are close the edge ripples a little.',
  'A rope leans the same way on both sides; one that slants to the right on side 1 slants to the left on side 2.',
];

/** An end of a row, as the right side looks. */
export type End = 'right' | 'left';

/** Rows that are told of together: those of one side, or every other one by its number (1 odd, 0 even). */
export type Alike = { side: Side } | { parity: 0 | 1 };

/**
 * A way of working: all that cloth, words and counts owe to how its rows go. Each is one file of this folder, and `index`
 * the only list of them; nobody else asks which way something is worked, only what follows from it.
 */
export interface Way {
  /** As documents hold it. */
  readonly id: string;
  /** In a list to choose from: "flat, back and forth". */
  readonly name: string;
  /** As it is said of a piece: "flat", "in the round". Texts are read by it too. */
  readonly worked: string;
  /** What else texts call it, in small letters. */
  readonly called: readonly string[];
  /** What one row is called. */
  readonly row: 'row' | 'round';

  /** Settings that only some ways have, as fields of the chart. */
  readonly settings: z.ZodObject;

  /** Whether a row begins and ends at an edge; else its last stitch lies beside its first, and its cloth is a tube. */
  readonly hasEdges: boolean;
  /** Whether bands of stitches that lie sideways may stand between its rounds. */
  readonly takesBands: boolean;
  /** On how many beds of needles its loops wait. */
  readonly beds: 1 | 2;

  /**
   * Loops that one cell of a chart stands for: where it is two, a pair in two yarns, of which the cell's face says which one shows.
   * What is counted in cells is counted in pairs then.
   */
  readonly loops: 1 | 2;
  /** What is said of it besides its name, in sentences that stand above the rows. */
  readonly says: readonly string[];

  /** How the hands do it, as one who teaches it says. */
  readonly trains: readonly string[];

  /** After so many rows a row is worked on the same side again: a repeat up must be a multiple of it. */
  readonly rowsToSameSide: 1 | 2;
  /** The side that the hands see in the row at `index` (from 0, bottom; below it negative), when row 1 is worked on `first`. */
  sideOf(index: number, first: Side): Side;
  /** The end at which these hands begin a row of a side. */
  beginsAt(side: Side, hand: Hand): End;
  /**
   * What a row begins elsewhere that is shifted: its repeat, whose lines step sideways in it; or itself, where the marker of
   * the round is moved.
   */
  readonly shifts: 'repeat' | 'start';
  /** The rows that words may tell of together, those first that go more often without saying. */
  readonly alike: readonly Alike[];
  /** Whether a row of a cloth that is alike on both faces lies as a ridge: by its number in the cloth (from 0) and its side. */
  isRidge(n: number, side: Side): boolean;

  /** What each stitch takes and makes, and shows on either side: the book of a chart with stitches of its own. */
  book(own: readonly OwnStitch[]): StitchBook;
  /** Ids of checks that hold of it and not of every way; and of those that hold of others and not of it. */
  readonly checks: readonly string[];
  readonly without: readonly string[];
}

/** The side seen is met from the right, by a right-handed knitter; the other from its left. Other hands begin at the other end. */
export const beginsByHand: Way['beginsAt'] = (side, hand) =>
  (side === 'RS') === (hand !== 'left-same-fabric') ? 'right' : 'left';

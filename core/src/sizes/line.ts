import { freshNeedle, workStitches } from '../needle/needle.js';
import { stitchBook, type Stitch } from '../stitches/book.js';
import type { Item } from '../words/pattern.js';
import { itemsText } from '../words/render.js';
import { parsePiece } from '../words/reader/language.js';
import { workWords } from '../words/reader/work.js';
import type { Lexicon } from '../words/reader/lexicon.js';

/** One written line that is no row of a chart: an increase row above a border, say. It is proved as all words are. */

/** A line does not say what it should: a fault of this program, never of what was asked. */
export class LineFault extends Error {}

const BOOK = stitchBook();
const LEXICON: Lexicon = { school: undefined, hand: 'right', book: BOOK, defined: new Map() };

/**
 * The text of a right-side line, once it has been read back and worked over its needle of `before` stitches: it must
 * make the very `stitches` (in working order) that it was written for, and leave `after`.
 *
 * @throws LineFault where it does not
 */
export function provedLine(
  items: readonly Item[],
  stitches: readonly Stitch[],
  before: number,
  after: number,
): string {
  const text = itemsText(items);
  const { body } = parsePiece('Row', `Row 1: ${text}`, { strict: true });
  if (body.type !== 'items') throw new LineFault(`"${text}" is not read as the words of a row.`);
  const needle = freshNeedle(before);
  const read = workWords(body, needle, 'RS', LEXICON).stitches;
  const isSame = read.length === stitches.length && read.every((s, i) => s === stitches[i]);
  const work = workStitches([...read].reverse(), needle, BOOK);
  if (!isSame || work.lacks !== 0 || work.makes !== after)
    throw new LineFault(`"${text}" does not lead from ${before} stitches to ${after} as it should.`);
  return text;
}

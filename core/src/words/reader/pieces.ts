import { harmless } from './aside.js';
import { isHeadOnly, outlineOf, type Segment } from './language.js';

/**
 * A text in its pieces: each begins a row, a line of the key, a statement or none of these, and goes on over as many
 * lines as belong to it.
 */

/** The widest row, every crossing of it spelled out, is well under this. */
export const LONGEST_LINE = 20_000;

/** Whether a row, or a line of a key, ends where its text does: in a full stop, or with a count. */
const isEnded = (text: string): boolean =>
  /(?:\.|[([]\s*\d+\s*(?:sts?|stitch(?:es)?)\b[^)\]\n]*[)\]])\s*$/i.test(text);
/** What belongs to a row although its words are ended: its count, or how far it is repeated. */
const belongsBehind = (text: string): boolean =>
  /^(?:[([=–-]\s*\d+\s*(?:sts?|stitch(?:es)?|[)\]])|there (?:are|should be) (?:now )?\d+ st|rep(?:eat)?\.?\s+(?:from\s+)?\*|\d+ (?:sts|stitches)\b)/i.test(
    text,
  );

/** What stands alone on a line, and may be a name whose steps stand on the next. */
const NAME_LINE = /^[ ]*(?:[•*–-][ ]+)?[A-Za-z0-9][A-Za-z0-9/ ]{0,24}(?:\([^()\n]{1,40}\))?[ ]*[:.–-]?$/;
const STEPS = /^[ ]*(?:slip|sl|place|put|s[ ]?\d)\b[^\n]*\b(?:cn|needle|n\.)\b/i;
/** Whether a line that begins as a sentence does is of a kind that has nothing to do with the row above it. */
const isApart = (text: string): boolean =>
  /^[A-Z]/.test(text) && harmless({ text, isLine: true, isBehindRows: true, hasEdges: true }) !== null;

/** What a row does not end with. */
const WANTS_MORE = /(?:[,;*([]|\b(?:knit|purl|k|p|sl|slip|last|to|next|and|then|rep|from|are))$/i;
/** How the steps of a key go on in the next line. */
const STEPS_GO_ON =
  /^[ ]*(?:[a-z(&+]|\d+\b(?![ ]*(?:sts|stitches))|[KP][ ]?\d|(?:Knit|Purl|Slip|Sl|Then|Hold|Place)\b)/;
/** How a line begins that no sentence begins with. */
const GOES_ON_IN = /^[ ]*[a-z(&+]/;
/** What is followed by a figure, and ends no sentence. */
const WANTS_FIGURE = /(?:\b(?:the|of|for|until|measures|to|and|with|about|over|on|a|by|or)|,)$/i;

/** Two lines that stand one below the other: what is read as far as it goes, and the one that may go on with it. */
interface Lines {
  open: Segment;
  before: string;
  begins: Segment['begins'];
  here: string;
}

/** Whether a line goes on with the row above it. */
function rowGoesOn({ open, before, begins, here }: Lines): boolean {
  // A head on a line of its own: what it says stands on the next, whatever that begins like.
  if (isHeadOnly(before)) return begins !== 'row';
  const belongs = belongsBehind(here);
  const mayBelong =
    begins === 'other' ||
    begins === 'maybeKey' ||
    (begins === 'statement' && belongs) ||
    (begins === 'maybeRow' && WANTS_MORE.test(before));
  const isOpen =
    !isEnded(before.slice(-60)) || (SHORT.test(before.slice(-9, -1)) && /^[a-z(&*]/.test(here)) || belongs;
  return open.begins !== 'key' && mayBelong && isOpen && (/[,;]$/.test(before) || !isApart(here));
}

/** Whether a line goes on with the line of a key above it. */
const keyGoesOn = ({ before, begins, here }: Lines): boolean =>
  begins === 'other' &&
  (!isEnded(before.slice(-60)) || (SHORT.test(before.slice(-9, -1)) && /^[a-z(&*]/.test(here))) &&
  (/[:=–]$/.test(before) || STEPS_GO_ON.test(here));

/** Whether a line goes on with the sentence above it: that does not end, and this begins as no sentence does. */
function sentenceGoesOn({ before, begins, here }: Lines): boolean {
  if (/[.!?:;)]$/.test(before)) return false;
  if (begins === 'maybeRow' && !/[a-z,]$/i.test(before)) return false;
  if (begins !== 'other' && begins !== 'maybeRow') return false;
  return GOES_ON_IN.test(here) || (/^\d/.test(here) && WANTS_FIGURE.test(before));
}

/** Whether a line goes on with what stands above it. */
function goesOn(lines: Lines): boolean {
  switch (lines.open.begins) {
    case 'row':
    case 'maybeRow':
      return rowGoesOn(lines);
    case 'key':
      return keyGoesOn(lines);
    case 'statement':
    case 'other':
      return sentenceGoesOn(lines);
    default:
      return false;
  }
}

/** Pieces of a text with the lines that go on in the next joined to one. */
export function piecesOf(text: string): Segment[] {
  const pieces: Segment[] = [];
  for (const line of outlineOf(text))
    line.forEach((segment, i) => {
      const open = i === 0 ? pieces.at(-1) : undefined;
      // A blank line ends everything.
      if (open && !/\n[ ]*\n/.test(text.slice(open.to, segment.from))) {
        const before = text.slice(open.from, open.to);
        const here = text.slice(segment.from, segment.to);
        const isKey = open.begins === 'other' && NAME_LINE.test(before) && STEPS.test(here);
        if (isKey) open.begins = 'key';
        const fits = segment.to - open.from <= LONGEST_LINE;
        if (isKey || (fits && goesOn({ open, before, begins: segment.begins, here }))) {
          open.to = segment.to;
          return;
        }
      }
      pieces.push({ ...segment });
    });
  return pieces;
}

/** "C4B [C4F]: … hold at back [front] …" as the two lines it stands for; null where it is no such line. */
export function pairOf(text: string): [string, string] | null {
  const head =
    /^([ ]*(?:[•*–-][ ]+)?)([A-Za-z0-9][A-Za-z0-9/ ]*?)[ ]*([[(])[ ]*([A-Za-z0-9][A-Za-z0-9/ ]*?)[ ]*[\])]([ ]*(?:[:=–-]|is\b|means\b).*)$/s.exec(
      text,
    );
  if (!head) return null;
  const [, before, first, open, second, rest] = head as unknown as [
    string,
    string,
    string,
    string,
    string,
    string,
  ];
  const other =
    open === '['
      ? /([A-Za-z0-9]+)[ ]*\[[ ]*([A-Za-z0-9]+)[ ]*\]/g
      : /([A-Za-z0-9]+)[ ]*\([ ]*([A-Za-z0-9]+)[ ]*\)/g;
  if (!other.test(rest)) return null;
  return [before + first + rest.replace(other, '$1'), before + second + rest.replace(other, '$2')];
}

/** A stop that ends no sentence: it belongs to the word before it, or a figure follows. */
export const SHORT =
  /(?:^|[^A-Za-z])(?:approx|no|ca|st|sts|rep|rpt|foll|alt|cont|beg|patt|rem|dec|inc|yd|yds|oz|cm|in|ins|mm|tog|sl|rnd|rnds|incl|e\.g|i\.e|cn|est)$/i;

/** Where the sentences of a text end: where the first does, then where two, three, and so on, up to its whole. */
export function sentenceEnds(text: string): number[] {
  const ends: number[] = [];
  for (const { index } of text.matchAll(/[.!?;](?=[)"']?\s)/g)) {
    const isShort = SHORT.test(text.slice(Math.max(0, index - 8), index));
    const next = /\S/.exec(text.slice(index + 1).replace(/^[)"']/, ''))?.[0] ?? 'A';
    if (!isShort || /[A-Z]/.test(next)) ends.push(index + 1 + (/[)"']/.test(text[index + 1] ?? '') ? 1 : 0));
    if (ends.length >= MOST_SENTENCES) break;
  }
  return ends.at(-1) === text.length ? ends : [...ends, text.length];
}
/** So many sentences of a paragraph are looked at together. */
const MOST_SENTENCES = 3;

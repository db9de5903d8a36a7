/**
 * How patterns are set in type, and how this reader knows it: marks that are written in more ways than one, stops behind
 * single letters, words broken at the end of a line, tables. Every character keeps its place, so that what is wrong can
 * be pointed at in the text as it was given.
 */

/** Marks that are written in more ways than one. */
const MARKS: readonly (readonly [RegExp, string])[] = [
  [/\r\n/g, ' \n'],
  [/\r/g, '\n'],
  [/[\u00a0\u1680\u2000-\u200d\u202f\u205f\u3000\ufeff\u00ad]/g, ' '],
  [/[\u2028\u2029\v\f\u0085]/g, '\n'],
  [/[\u2018\u2019\u201a\u2032`\u00b4]/g, "'"],
  [/[\u201c\u201d\u201e\u2033]/g, '"'],
  [/[\u2010\u2011]/g, '-'],
  [/[\u2012\u2014\u2015\u2212]/g, '–'],
  [/[\u2217\u2731\uff0a\u204e]/g, '*'],
  [/[\u25cf\u25aa\u25e6\u00b7\u2023\u25a0\u2043]/g, '•'],
  [/\u2044/g, '/'],
  [/(?<=[\s\dA-Za-z.)])--(?=[\s\d(])/g, '– '],
];

/** A replacement as long as what it stands for: shorter ones are filled up behind. */
const filled = (found: string, text: string): string => text.padEnd(found.length).slice(0, found.length);

/** A table's row: its first mark is dropped, those between its cells are read as the colon of a head. */
const cellsOf = (line: string): string =>
  /^[\s|:+=–-]+$/.test(line)
    ? ' '.repeat(line.length)
    : line
        .replace(/^(\s*)\|/, '$1 ')
        .replace(/\|(\s*)$/, '.$1')
        .replace(/:(\s*)\|/g, ':$1 ')
        .replace(/\|(?=\s*\|)/g, ' ')
        .replace(/\|/g, ':');

/** A line whose first cell ends at a tab. */
const tabbed = (line: string): string =>
  line.replace(/^(\s*[^\s:][^\t:]*)\t(?=\s*\S)/, '$1:').replaceAll('\t', ' ');

/** Compounds keep their hyphen where a line breaks behind it. */
const COMPOUND = /^(?:hand|handed|side|sided|numbered|over|up|stitch|row|on|tail|pointed)\b/i;

/** What stands for what in old leaflets, and in texts that came out of a scanner or a mark-up language. */
const MANNERS: readonly (readonly [RegExp, (found: string, ...groups: string[]) => string])[] = [
  // Mark-up: \* for *, ** and __ around a head, # before one.
  [/\\(?=[*_#\-[\]().])/g, () => ' '],
  [
    /^([ ]*(?:[-•][ ]+)?)(\*\*|__)((?:(?:[a-z-]+[ ]+){0,2}(?:rows?|rounds?|rnds?)|\d+(?:st|nd|rd|th)|r\d|key|abbreviations)\b[^*_\n]*)\2/gim,
    (_, before, mark, head) => `${before}${' '.repeat(mark!.length)}${head}${' '.repeat(mark!.length)}`,
  ],
  [/^[ ]*#{1,6}(?=[ ])/gm, (found) => ' '.repeat(found.length)],
  [/(?<=\b(?:rows?|rounds?|rnds?)[ ]?)#(?=\d)/gi, () => ' '],
  // A key that begins in the line of its heading.
  [
    /^([ ]*(?:(?:special[ ]+)?abbreviations|key|glossary|special[ ]+stitches)[ ]*:)[ ](?=[ ]*\S)/gim,
    (_, head) => `${head!}\n`,
  ],
  // A word that is broken at the end of a line; the line ends behind it.
  [
    /(?<=[A-Za-z]{2})-[ ]*\n[ ]*([a-z]+)/g,
    (found, rest) => filled(found, COMPOUND.test(rest!) ? `-${rest!}` : rest!),
  ],
  // Stops behind the letters of old leaflets: K. 2, sl. 1, k. 2 tog., p.s.s.o.
  [
    /\b(?:p\.[ ]?s\.[ ]?s\.[ ]?o\b\.?|w\.[ ]?fwd\b\.?|y\.[ ]?fwd\b\.?)/gi,
    (found) => filled(found, /^p/i.test(found) ? 'psso' : 'yfwd'),
  ],
  [/\by\.[ ]?([fbo])\.(?=[ ,;:)\]]|$)/gim, (found, end) => filled(found, `y${end!}`)],
  [/\b((?:c|cr|t|tw)\.?[ ]*\d+[ ]*[fblr])\.(?=[ ]*[,;])/gi, (_, name) => `${name!} `],
  [/\b(cr|tw)\.(?=[ ]*\d)/gi, (_, letters) => `${letters!} `],
  [/\b([kpct])\.(?=\s*\d)/gi, (_, letter) => `${letter!} `],
  [/\b([kp])\.(?=[ ]+(?:to|all|across|tog)\b)/gi, (_, letter) => `${letter!} `],
  [/\bm\.(?=[ ]*1\b)/gi, () => 'M '],
  [
    /\b(sl|rep|patt|foll|beg|rem|cont|alt)\.(?=[ ]*[a-z0-9(,;])|\b(tog|sts?)\.(?=[ ]*(?:[,;]|tbl\b))/g,
    (_, word, other) => `${word ?? other!} `,
  ],
  // Hyphens between stitches.
  [/(?<=\b(?:[kp]\d{1,3}|[ct]\d{1,2}[fblr]))-(?=(?:[kp]\d|[ct]\d{1,2}[fblr])\w*)/gi, () => ','],
];

/** A text with its marks as this reader knows them; `isOwn` is one of our own sheets, which has no other manners. */
export function withPlainMarks(text: string, isOwn = false): string {
  const plain = MARKS.reduce((t, [marks, one]) => t.replace(marks, one), text);
  if (isOwn) return plain.replaceAll('\t', ' ');
  const lines = plain.includes('\t') || plain.includes('|') ? tabled(plain) : plain;
  return MANNERS.reduce((t, [found, put]) => t.replace(found, put as (s: string) => string), lines);
}

const tabled = (text: string): string =>
  text
    .split('\n')
    .map((line) => (/^\s*\|.*\|\s*$/.test(line) ? cellsOf(line) : tabbed(line)))
    .join('\n');

/** What a scanner took for a figure: l and I for 1, O for 0, in a run that has no other meaning. */
const SCANNED = /(?<![A-Za-z0-9])([kpKP][ ]?)([0-9lIO]*[lIO][0-9lIO]*)(?=[\s,;.)\]}]|$)/g;

/** The text with what a scanner mistook put right, and the places where it was. */
export function withFigures(text: string): {
  text: string;
  taken: { from: number; to: number; as: string }[];
} {
  const taken: { from: number; to: number; as: string }[] = [];
  const put = text.replace(SCANNED, (found: string, stitch: string, figures: string, at: number) => {
    const read = stitch + figures.replace(/[lI]/g, '1').replace(/O/g, '0');
    if (/^0/.test(read.slice(stitch.length)) || /[^0-9]/.test(read.slice(stitch.length))) return found;
    taken.push({ from: at, to: at + found.length, as: read });
    return read;
  });
  return { text: put, taken };
}

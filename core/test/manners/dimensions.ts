import { makes, sum, takes, type Cell } from './cloth.js';
import { NUMBERS, OFTEN, ORDINALS, ordinal } from './words.js';

/** What a printed pattern is chosen from. A manner is added by adding to one of these. */

/** How rows are headed: by their number, their side, and whether it is the first. */
export const HEADS: readonly [string, (n: number, side: string, isFirst: boolean) => string][] = [
  ['Row n (side):', (n, side, isFirst) => `Row ${n}${isFirst ? ` (${side})` : ''}:`],
  ['Row n (side): all', (n, side) => `Row ${n} (${side}):`],
  ['Row n [side]', (n, side, isFirst) => `Row ${n}${isFirst ? ` [${side}]` : ''}:`],
  ['nth row:', (n, side, isFirst) => `${ordinal(n)} row${isFirst ? ` (${side})` : ''}:`],
  [
    'nth row.',
    (n, side, isFirst) =>
      `${ordinal(n)} row${isFirst ? ` (${side === 'RS' ? 'right side' : 'wrong side'})` : ''}.`,
  ],
  ['First row:', (n) => `${n < ORDINALS.length ? ORDINALS[n]! : ordinal(n)} row:`],
  ['ROW n:', (n, side, isFirst) => `ROW ${n}${isFirst ? ` (${side})` : ''}:`],
  ['Row n –', (n, side, isFirst) => `Row ${n}${isFirst ? ` (${side})` : ''} –`],
  ['Row n.', (n) => `Row ${n}.`],
  ['Rn:', (n) => `R${n}:`],
  ['n:', (n) => `${n}:`],
  ['n.', (n) => `${n}.`],
  ['n)', (n) => `${n})`],
  ['**Row n:**', (n, side, isFirst) => `**Row ${n}${isFirst ? ` (${side})` : ''}:**`],
  ['- Row n:', (n) => `- Row ${n}:`],
  ['Row n: (side)', (n, side) => `Row ${n}: (${side})`],
  ['Row n newline', (n, side) => `Row ${n} (${side})\n`],
  ['Row n, side:', (n, side) => `Row ${n}, ${side}:`],
  ['| Row n |', (n, side, isFirst) => `| Row ${n}${isFirst ? ` (${side})` : ''} |`],
  ['Row n tab', (n) => `Row ${n}\t`],
  ['Row #n', (n) => `Row #${n}:`],
  ['Row n (pattern row)', (n, side, isFirst) => `Row ${n}${isFirst ? ` (${side}, set-up row)` : ''}:`],
  ['Row word', (n) => (n <= 10 ? `Row ${NUMBERS[n]!}:` : `Row ${n}:`)],
];
export const ROUND_HEADS: typeof HEADS = [
  ['Rnd n:', (n) => `Rnd ${n}:`],
  ['Round n:', (n) => `Round ${n}:`],
  ['nth round:', (n) => `${ordinal(n)} round:`],
  ['RND n –', (n) => `RND ${n} –`],
  ['nth rnd.', (n) => `${ordinal(n)} rnd.`],
  ['Rnd n (rs)', (n) => `Rnd ${n} –`],
];

/** How it is said what is cast on, and how it is joined. */
export const CAST_ONS: readonly ((n: number) => string)[] = [
  (n) => `Cast on ${n} sts.`,
  (n) => `CO ${n} sts`,
  (n) => `Cast on ${n} stitches loosely.`,
  (n) => `CO${n}`,
  (n) => `Cast-on: ${n} sts`,
  (n) => `Using 4 mm needles, cast on ${n} sts.`,
  (n) => `With size 7 needles and grey yarn, CO ${n} sts.`,
  (n) => `Begin by casting on ${n} sts.`,
  (n) => `${n} sts are cast on.`,
  (n) => `Cast on ${n} sts using the long-tail method.`,
  (n) => `With MC, cast on ${n} sts and work as follows:`,
  (n) => `Cast on ${n} sts for the back.`,
];
export const FLAT_ONLY = ['Do not join.', 'Work back and forth in rows.', 'Worked flat.', 'Work flat.'];
export const JOINS = [
  'Join to work in the round, being careful not to twist.',
  'Place marker and join in the round.',
  'Pm and join to work in the round, taking care not to twist the stitches.',
  'Worked in the round.',
  'Join for working in the round, place marker for beginning of round.',
];
/** What stands around the rows, and says nothing of them. */
export const BEFORE = [
  'Moorland cable',
  'A small swatch of ropes',
  'ROPE PANEL',
  'Materials: 2 balls of aran wool, 4.5 mm needles, cable needle, stitch markers.',
  'Yarn: 100 g worsted (200 m)',
  'Needles: 1 pair 5 mm (US 8) needles',
  'Gauge: 20 sts and 28 rows = 10 cm in stocking stitch.',
  'Tension: 22 stitches and 30 rows to 4 inches over pattern on 4 mm needles',
  'Finished size: 20 cm wide and 150 cm long.',
  'This scarf is warm and easy to make.',
  'I made it for my grandmother, and you will love it.',
  'Happy knitting!',
  'Page 3 of 8',
  '© 1998 The Valley Workshop. All rights reserved.',
  'Check your gauge before you begin.',
  'If you work in the round, omit the edge stitches.',
  'Back',
  'Instructions',
  'Pattern',
];
export const AFTER = [
  'Cast off in pattern.',
  'Bind off all sts loosely.',
  'Weave in ends. Block to measurements.',
  'Fasten off.',
  'Wash by hand in lukewarm water and dry flat.',
  'Sew the side seams.',
  'Enjoy your new scarf!',
  'www.example.org/patterns',
  'Cast off.',
];

export const GLOSSARY =
  'Abbreviations\nk: knit\np: purl\nst(s): stitch(es)\nRS: right side\nWS: wrong side\nrep: repeat\ncn: cable needle\nbeg = beginning\ntbl: through the back loop';

/** How a run of knit or purl stitches is written; those with stops belong to old leaflets. */
export const RUNS: Readonly<Record<string, (stitch: 'k' | 'p', n: number) => string>> = {
  k2: (s, n) => `${s}${n}`,
  'k 2': (s, n) => `${s} ${n}`,
  'knit 2': (s, n) => `${verb(s)} ${n}`,
  'knit two': (s, n) => `${verb(s)} ${NUMBERS[n] ?? n}`,
  'k2 sts': (s, n) => `${s}${n} ${sts(n)}`,
  '2k': (s, n) => `${n}${s}`,
};
export const LEAFLET_RUNS: typeof RUNS = {
  'K. 2': (s, n) => `${s.toUpperCase()}. ${n}`,
  'K.2': (s, n) => `${s.toUpperCase()}.${n}`,
};
const verb = (s: 'k' | 'p') => (s === 'k' ? 'knit' : 'purl');
const sts = (n: number) => `st${n === 1 ? '' : 's'}`;

/** Other stitches, each in the words that it has; `#` stands for how many. */
export const STITCH_WORDS: Readonly<Record<string, readonly string[]>> = {
  yo: ['yo', 'yo', 'yfwd', 'yarn over', 'yrn', 'yon', 'YO', 'wool forward'],
  m1l: ['M1L', 'm1l', 'make 1 left'],
  m1r: ['M1R', 'm1r', 'make 1 right'],
  kfb: ['kfb', 'inc in next st', 'Kfb', 'knit into front and back of next st'],
  k2tog: ['k2tog', 'K2tog', 'k 2 tog', 'knit 2 together', 'K2 tog'],
  ssk: ['ssk', 'SSK', 'skp', 'sl 1, k1, psso', 'slip slip knit', 'k2tog tbl'],
  mb: ['MB', 'mb', 'make bobble'],
  kt: ['k# tbl', 'k#tbl', 'K#-tbl', 'knit # through the back loop'],
  pt: ['p# tbl', 'p#tbl', 'P#-tbl', 'purl # through the back loop'],
};

/** That a row is worked as the stitches present. */
export const PRESENTED = [
  'work the stitches as they present',
  'knit the knits and purl the purls',
  'K the knit sts and p the purl sts as they appear',
  'work sts as they appear',
  'Purl the purls and knit the knits',
  'K over k and p over p',
  'work as set',
  'Knit all knit sts and purl all purl sts',
];

/** How the stitches after a row are counted, behind its words. */
export const COUNTS: Readonly<Record<string, (row: readonly Cell[]) => string>> = {
  none: () => '',
  all: (row) => ` (${sum(row, makes)} sts)`,
  dash: (row) => `– ${sum(row, makes)} sts.`,
  square: (row) => ` [${sum(row, makes)} sts]`,
  total: (row) => ` ${sum(row, makes)} sts total.`,
  there: (row) => ` There are ${sum(row, makes)} sts on the needle.`,
  increased: (row) => changed(row, 'increased', 'decreased'),
  "inc'd": (row) => changed(row, "inc'd", "dec'd"),
  head: () => '',
};
function changed(row: readonly Cell[], more: string, fewer: string): string {
  const by = sum(row, makes) - sum(row, takes);
  return by === 0 ? '' : ` (${Math.abs(by)} ${sts(Math.abs(by))} ${by > 0 ? more : fewer})`;
}

/** How `n` rows (or rounds) are said to be worked again, and how often that makes them in all; 1 where it is left open. */
export interface Plan {
  text: string;
  times: number;
  /** Whether it counts from the first row there is, so that none without a number may stand before. */
  isOfAll?: true;
}
export function plansOf(what: string, n: number, times: number): Record<string, Plan> {
  const more = OFTEN[times - 1]!;
  return {
    'rep more': { text: `Rep ${what}s 1–${n} ${more} more.`, times },
    'more times': { text: `Repeat ${what}s 1-${n} ${times} more times.`, times: times + 1 },
    'two more': {
      text: `Repeat ${what}s 1 through ${n} ${NUMBERS[times]!} more times, ending with ${what === 'rnd' ? 'a rnd' : 'row'} ${n}.`,
      times: times + 1,
    },
    ordinal: { text: `Rep 1st–${ordinal(n)} ${what}s ${more} more.`, times },
    total: { text: `Work ${what}s 1–${n} a total of ${times} times.`, times },
    'for a total': { text: `Rep ${what}s 1–${n} for a total of ${times} times.`, times },
    twice: { text: `Work ${what}s 1–${n} ${OFTEN[times]!}.`, times },
    desired: { text: `Continue to repeat ${what}s 1–${n} until desired length.`, times: 1, isOfAll: true },
    'as often': { text: `Repeat ${what}s 1–${n} as many times as desired.`, times: 1 },
    length: {
      text: `Rep ${what}s 1 to ${n} until piece measures 20 cm from cast-on edge.`,
      times: 1,
      isOfAll: true,
    },
    throughout: { text: `Rep ${what}s 1–${n} throughout.`, times: 1, isOfAll: true },
    'repeat these': {
      text: `Repeat these ${n} ${what}s ${more} more.`,
      times,
      isOfAll: true,
    },
    'the n': {
      text: `Rep the ${n} ${what}s ${NUMBERS[times]!} times more.`,
      times: times + 1,
      isOfAll: true,
    },
    'last n': { text: `Rep last ${n} ${what}s ${more} more.`, times, isOfAll: true },
    'in all': { text: `Rep these ${n} ${what}s ${times} times in all.`, times, isOfAll: true },
    'until rows': {
      text: `Rep these ${n} ${what}s until ${n * times} ${what}s have been worked.`,
      times,
      isOfAll: true,
    },
    form: { text: `These ${n} ${what}s form the pattern.`, times: 1, isOfAll: true },
    'form and rep': {
      text: `Last ${n} ${what}s form the patt. Rep them ${more} more.`,
      times,
      isOfAll: true,
    },
    'from first': { text: `Rep from 1st ${what}.`, times: 1, isOfAll: true },
  };
}

/** What becomes of a text between the page and the reader. */
export const ENDS: Readonly<Record<string, (text: string) => string>> = {
  plain: (text) => text,
  'of another system': (text) => text.replaceAll('\n', '\r\n'),
  trailing: (text) => `${text.replaceAll('\n', '  \n')}\n`,
  'no break': (text) => text.replace(/(\d) sts/g, '$1\u00a0sts'),
  wrapped: (text) => wrap(text, 46),
  // l for 1, and O for 0.
  scanned: (text) => text.replace(/\b([kpKP])1\b(?=[,;. ])/g, '$1l').replace(/\b([kp])10\b/g, '$11O'),
  hyphens: (text) => text.replaceAll('rep from', 're-\npeat from'),
};

/** Lines broken behind a comma where they grow too long. */
function wrap(text: string, most: number): string {
  return text
    .split('\n')
    .map((line) => {
      if (!/^(?:row|rnd|round|\d+(?:st|nd|rd|th) r)/i.test(line)) return line;
      let out = '';
      let length = 0;
      for (const word of line.split(' ')) {
        if (length + word.length > most) {
          out += `\n${word}`;
          length = word.length;
        } else {
          out += (out ? ' ' : '') + word;
          length += word.length + 1;
        }
      }
      return out;
    })
    .join('\n');
}

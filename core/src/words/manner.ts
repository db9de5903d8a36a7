import { counted } from '../values.js';
import { isInPairs, type WayId } from '../construction/index.js';
import type { Style } from '../chart/schema.js';
import type { Side } from '../stitches/face.js';

/**
 * How a pattern's tree is set as text: in abbreviations or in words spelled out, in American or in British terms. The
 * tree itself holds the abbreviations of the table of stitches whatever the manner, and the grammar reads every
 * manner back into them.
 */
export interface Manner extends Pick<Style, 'form' | 'terms'> {
  /** How the sides are called: right and wrong, or 1 and 2 where both count. */
  sides: 'by name' | 'by number';
  /** Whether a stitch is one loop, or a pair of them in two yarns. */
  stitches: 'single' | 'pairs';
}

const FORMS = ['short', 'full'] as const;
const TERMS = ['US', 'UK'] as const;
const SIDES = ['by name', 'by number'] as const;
const STITCHES = ['single', 'pairs'] as const;
const MANNERS: readonly Manner[] = STITCHES.flatMap((stitches) =>
  SIDES.flatMap((sides) => FORMS.flatMap((form) => TERMS.map((terms) => ({ form, terms, sides, stitches })))),
);

/** The manner of a style for a cloth with one face or two: the same object each time, so that what is set in it can be remembered. */
export function mannerOf(
  { form, terms }: Pick<Style, 'form' | 'terms'>,
  of: { bothFaces?: boolean; construction?: WayId | null } = {},
): Manner {
  const inPairs = isInPairs(of);
  const [sides, stitches] = [inPairs || of.bothFaces ? 'by number' : 'by name', inPairs ? 'pairs' : 'single'];
  return MANNERS.find(
    (m) => m.form === form && m.terms === terms && m.sides === sides && m.stitches === stitches,
  )!;
}

/** Abbreviations, as the tree holds them. */
export const ABBREVIATED: Manner = MANNERS[0]!;

/** The words of the rows spelled out; `#` stands for a count. Others are names, and stay as they are. */
const IN_FULL: Readonly<Record<string, string>> = {
  'k#': 'knit #',
  'p#': 'purl #',
  'k# tbl': 'knit # through the back loop',
  'p# tbl': 'purl # through the back loop',
  'sl #': 'slip #',
  'sl # wyib': 'slip # with yarn in back',
  'sl # wyif': 'slip # with yarn in front',
  MB: 'make bobble',
  yo: 'yarn over',
  M1L: 'make 1 left',
  M1R: 'make 1 right',
  M1LP: 'make 1 left purlwise',
  M1RP: 'make 1 right purlwise',
  LLI: 'left lifted increase',
  RLI: 'right lifted increase',
  LLIP: 'left lifted increase purlwise',
  RLIP: 'right lifted increase purlwise',
  kfb: 'knit front and back',
  pfb: 'purl front and back',
  k2tog: 'knit 2 together',
  p2tog: 'purl 2 together',
  k3tog: 'knit 3 together',
  p3tog: 'purl 3 together',
  s3k2p: 'central quadruple decrease',
  s3p2p: 'central quadruple decrease purlwise',
  ssk: 'slip slip knit',
  ssp: 'slip slip purl',
  sssk: 'slip slip slip knit',
  sssp: 'slip slip slip purl',
  cdd: 'central double decrease',
  cddp: 'central double decrease purlwise',
};

/**
 * Where British terms differ (from memory): a yarn over is a yarn round needle. What differs besides stands outside
 * the rows, as the tension of a swatch.
 */
const BRITISH: Readonly<Record<Manner['form'], Readonly<Record<string, string>>>> = {
  short: { yo: 'yrn' },
  full: { yo: 'yarn round needle' },
};

const wordsOf = ({ form, terms }: Pick<Manner, 'form' | 'terms'>): Readonly<Record<string, string>> => ({
  ...(form === 'full' ? IN_FULL : {}),
  ...(terms === 'UK' ? BRITISH[form] : {}),
});
const WORDS = new Map(MANNERS.map((manner) => [manner, wordsOf(manner)]));

/** A word of a row as it is printed in a manner: "k3" is "knit 3" in full. */
export function wordText(word: string, manner: Manner): string {
  const run = manner.stitches === 'pairs' && /^([kp])(\d+)$/.exec(word);
  if (run) return pairsText(run[1] as 'k' | 'p', Number(run[2]), manner);
  const words = WORDS.get(manner)!;
  const said = words[word];
  if (said !== undefined) return said;
  const n = /\d+/.exec(word)?.[0];
  const counted = n && words[word.replace(n, '#')];
  return counted ? counted.replace('#', n) : word;
}

/** One pair as the hands work it: the yarn that shows towards them is knit, and the other purled. */
export const pairText = (how: 'k' | 'p', { form }: Pick<Manner, 'form'>): string => {
  const [front, back] = how === 'k' ? ['A', 'B'] : ['B', 'A'];
  return form === 'full' ? `knit 1 ${front}, purl 1 ${back}` : `k1 ${front}, p1 ${back}`;
};

export const timesText = (n: number): string => (n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`);

/** So many pairs alike. */
function pairsText(how: 'k' | 'p', n: number, manner: Pick<Manner, 'form'>): string {
  const pair = pairText(how, manner);
  return n === 1 ? pair : `[${pair}] ${timesText(n)}`;
}

/** A word of the table without the place of its number. */
export const withoutNumber = (word: string): string => word.replace(/ ?#/, '');

/** A word of the key, which is told without the number of its run. */
export function keyWordText(word: string, manner: Manner): string {
  const base = KEY_WORDS.get(manner)!.get(word);
  return base ?? word;
}

const KEY_WORDS = new Map(
  MANNERS.map((manner) => [
    manner,
    new Map(
      Object.entries(WORDS.get(manner)!).map(([word, said]) => [withoutNumber(word), withoutNumber(said)]),
    ),
  ]),
);

/** The abbreviations of words of the key, by how any manner prints them, in lower case. */
const ABBREVIATIONS = new Map(
  MANNERS.flatMap((manner) =>
    [...KEY_WORDS.get(manner)!].map(([word, said]) => [said.toLowerCase(), word] as const),
  ),
);

/** A word of the key as the tree holds it, however it is printed. */
export const keyWordOf = (text: string): string => ABBREVIATIONS.get(text.toLowerCase()) ?? text;

/** Whether a word, spelled out, says all that its steps would: then the key need not tell it. */
export const saysItself = (word: string, steps: string, manner: Manner): boolean =>
  manner.form === 'full' && keyWordText(word, manner) === steps;

export const stitchesText = (n: number, { form, stitches }: Manner): string =>
  counted(n, stitches === 'pairs' ? 'pair' : form === 'full' ? 'stitch' : 'st');

export const sideText = (side: Side, { form, sides }: Manner): string =>
  sides === 'by number'
    ? `side ${side === 'RS' ? 1 : 2}`
    : form === 'short'
      ? side
      : side === 'RS'
        ? 'right side'
        : 'wrong side';

/** The side of a row in short, as a chart's own sides are called: "RS", or "side 1" where both count. */
export const sideSign = (side: Side, of: { bothFaces?: boolean; construction?: WayId }): string =>
  sideText(side, mannerOf({ form: 'short', terms: 'US' }, of));

/** The side before a noun: "all wrong-side rows". */
export const sidedText = (side: Side, manner: Manner): string => sideText(side, manner).replace(' ', '-');

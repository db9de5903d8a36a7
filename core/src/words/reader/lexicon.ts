import type { School } from '../../chart/schema.js';
import type { Hand } from '../../construction/index.js';
import { crossingsNamed, type Told } from '../../names/schools.js';
import { kindOf, sameStitch, stitchId, type Stitch, type StitchBook } from '../../stitches/book.js';
import { crossing, crossingProblem, sameCrossing, type Crossing } from '../../stitches/crossing.js';
import { otherSide, type Side, type Worked } from '../../stitches/face.js';
import { Lately, ofEach, remembered } from '../../remember.js';
import { NO_STITCH, STITCH_KINDS } from '../../stitches/kinds.js';
import type { Item, Move } from '../pattern.js';
import { madeBy } from './hands.js';
import { hintFor, quoted } from './language.js';

/** What the reader knows about the words it meets. */
export interface Lexicon {
  school: School | undefined;
  hand: Hand;
  /** What one stitch may count for in the numbers of a school's names: more than one where a text of pairs does not say; 1 where nothing is given. */
  each?: readonly number[];
  book: StitchBook;
  /** Crossings the key defines or the designer named, by name in lower case; as written where case counts. */
  defined: ReadonlyMap<string, Crossing>;
  /** What else the key gives a name to, in words of rows; and names it speaks of in a way that was not understood. */
  told?: ReadonlyMap<string, readonly Item[]>;
  blocked?: ReadonlySet<string>;
  /** Whether rows end at an edge; where they do not, the marker of the round ends what goes "to the marker". */
  hasEdges?: boolean;
  /** What was answered of names that may mean more than one thing, by name in lower case: the id of the stitch. */
  answers?: Readonly<Record<string, string>>;
  /** Short words that the key tells as another of the trade's, both without their numbers. */
  instead?: ReadonlyMap<string, string>;
  /** How much may still be worked in reading a text from outside; without it a text of our own is worked whole. */
  budget?: { left: number };
}

/** A text asks for more work than any pattern needs. */
export class TooMuchWork extends Error {}

/** A word that means nothing here, or more than one thing. */
export class WordProblem extends Error {
  /** The item of the row it stands in. */
  item?: object;

  constructor(
    readonly id: 'unknown-name' | 'ambiguous-name' | 'steps-differ' | 'bad-steps',
    /** What is wrong. */
    readonly said: string,
    /** What to do about it in a whole pattern; where only a row is written, other advice holds. */
    advice = '',
    /** What an ambiguous name may mean. */
    readonly meanings: readonly Stitch[] = [],
  ) {
    super(advice ? `${said} ${advice}` : said);
  }
}

function kindIndex(book: StitchBook, side: Side): Map<string, string> {
  const index = new Map<string, string>();
  const kinds = [...STITCH_KINDS.values(), ...book.own.map((o) => book.kind(o.id)!)];
  for (const kind of kinds) {
    if (kind.id === NO_STITCH) continue;
    const word = (side === 'RS' ? kind.rs : kind.ws).toLowerCase();
    if (!index.has(word)) index.set(word, kind.id);
  }
  return index;
}

const idsBySide = ofEach((book: StitchBook): Record<Side, Map<string, string>> => ({
  RS: kindIndex(book, 'RS'),
  WS: kindIndex(book, 'WS'),
}));

/** A word without its number, as a key tells it for any: "sl 1" and "sl 3" are one. */
export const literal = (word: string): string => word.toLowerCase().replace(/\d+/, '#');

/** A literal with a number, that of another word or 1. */
const numbered = (word: string, as: string): string => word.replace(/\d+/, /\d+/.exec(as)?.[0] ?? '1');

/** Long forms designers write beside the short ones. */
const SYNONYMS: [RegExp, string][] = [
  [/^knit\b ?/, 'k'],
  [/^purl\b ?/, 'p'],
  [/^slip\b/, 'sl'],
  [/^sl ?(\d+)(?: ?(?:st|sts|stitch|stitches))?( wyi[bf])?$/, 'sl $1$2'],
  [/^m1$/, 'm1l'],
  [/^m1p$/, 'm1lp'],
  [/^yf$|^yfwd$|^yrn$|^yarn over$/, 'yo'],
  [/^s2kp2?$|^cdd$/, 'cdd'],
  // Each leans as the other does, with the same stitch on top; which way its loops lie is not charted.
  [/^skpo?$|^k2tog tbl$/, 'ssk'],
  [/^sk2po?$|^k3tog tbl$/, 'sssk'],
  [/^p2tog tbl$/, 'ssp'],
  [/^p3tog tbl$/, 'sssp'],
  [/^([kp]) ?(\d+) (?:st|sts|stitch|stitches)$/, '$1$2'],
  [/^([kp]) ?(\d+) ?tbl$/, '$1$2 tbl'],
  [/^([kp])tbl$/, '$1 tbl'],
];

/** What a counted or single word says: a kind of stitch, how many, the word without its number, and as it is printed. */
interface Plain {
  id: string;
  n: number;
  base: string;
  printed: string;
}

/** Words are the same few over and over: what they say is kept for each book. */
const plainWords = remembered((_book: StitchBook) => new Lately<Plain | null>());

/** The kind of stitch that a word of a row on a side names; null when it is none. */
export function plainWord(word: string, side: Side, book: StitchBook): Plain | null {
  return plainWords(book).of(`${side}${word}`, () => plainWordOf(word, side, book));
}

function plainWordOf(word: string, side: Side, book: StitchBook): Plain | null {
  const ids = idsBySide(book)[side];
  const text = SYNONYMS.reduce((t, [from, to]) => t.replace(from, to), word.toLowerCase());
  const plain = (id: string, n: number): Plain => {
    const kind = kindOf(id, book);
    const printed = side === 'RS' ? kind.rs : kind.ws;
    return {
      id,
      n,
      base: printed.replace(/ ?#/, '').toLowerCase(),
      printed: printed.replace('#', String(n)),
    };
  };
  // Worked front and back from either side, the knit stitch lies at the right of the purl one, and the other way about.
  const both = /^([kp])fb$/.exec(text);
  if (both) return plain(both[1] === 'k' ? 'kfb' : 'kfbr', 1);
  const whole = ids.get(text);
  // A slip is purlwise, its float on the wrong side, unless it says otherwise.
  const slip = /^sl (\d+)$/.exec(text);
  if (slip) return plain('slyb', Number(slip[1]));
  if (whole) return plain(whole, 1);
  const withCount = /^(\D*?)(\d+)(\D*)$/.exec(text);
  const id = withCount && ids.get(`${withCount[1]}#${withCount[3]}`);
  if (id) return plain(id, Number(withCount[2]));
  const bare = ids.get(text.replace(/^(k|p)\b/, '$1#').replace(/^sl\b/, 'sl #'));
  return bare ? plain(bare, 1) : null;
}

/** What the right side shows of a group that the knitter of `side` works. */
const shown = (group: readonly Worked[], side: Side): Worked[] =>
  side === 'RS' ? [...group] : [...group].reverse().map(otherSide);

/**
 * The crossing, as the RS shows it, that written moves make. What is worked first comes to lie where the row
 * began; a group held in front passes in front of the others as the knitter sees them.
 *
 * @throws WordProblem where they make none, or leave open which of two needles lies deeper
 */
export function crossingOfMoves(moves: readonly Move[], side: Side, hand: Hand): Crossing {
  const bad = (message: string) => new WordProblem('bad-steps', message);
  const slips = moves.filter((m) => 'slip' in m);
  const works = moves.filter((m) => 'work' in m);
  const held = slips.find((m) => m.needle === 1);
  const centreHeld = slips.find((m) => m.needle === 2);
  const onNeedle = (from: 'left' | 1 | 2) => works.filter((m) => m.from === from).flatMap((m) => m.work);
  const [met, centre, last] = [onNeedle(1), onNeedle(2), onNeedle('left')];
  if (!held) throw bad('The steps of a crossing slip stitches to a cable needle first.');
  if (slips.length > (centreHeld ? 2 : 1))
    throw bad('The steps slip stitches to one cable needle more than once.');
  if (met.length !== held.slip)
    throw bad(`The steps slip ${held.slip} to the cable needle but work ${met.length} from it.`);
  if (centre.length !== (centreHeld?.slip ?? 0))
    throw bad(
      `The steps slip ${centreHeld?.slip ?? 0} to the second cable needle but work ${centre.length} from it.`,
    );
  const order = works.map((m) => m.from).join();
  if (order !== (centreHeld ? 'left,2,1' : 'left,1'))
    throw bad('The stitches left on the needle are worked first, then those of the cable needle.');
  const problem = crossingProblem(met.length, centre.length, last.length);
  if (problem) throw bad(problem);
  const onRs = side === 'RS';
  if (centreHeld) refuseUnlessDeepest(centreHeld, held.hold, onRs, bad);
  const metInFront = (held.hold === 'front') === onRs;
  const [front, back] = metInFront ? [met, last] : [last, met];
  // The group met first travels on in working order: leftwards on the right side in right hands.
  const onwards = onRs === (hand === 'left-same-fabric') ? 'right' : 'left';
  const lean = metInFront ? onwards : onwards === 'left' ? 'right' : 'left';
  const fromRight = (group: readonly Worked[]) =>
    hand === 'left-same-fabric' ? shown(group, side).reverse() : shown(group, side);
  return crossing(lean, fromRight(front), fromRight(back), fromRight(centre));
}

/** A centre group lies behind both ropes, as the right side looks; steps that put it elsewhere are not read as that. */
function refuseUnlessDeepest(
  { hold, depth }: Extract<Move, { slip: number }>,
  held: 'front' | 'back',
  onRs: boolean,
  bad: (message: string) => WordProblem,
): void {
  const behind = onRs ? 'back' : 'front';
  if (hold !== behind)
    throw bad(
      `The second cable needle is held in ${hold}: its stitches would lie over a rope. A centre group is held in ${behind} here, behind both ropes.`,
    );
  if (held !== behind) return;
  const deepest = onRs ? 'behind' : 'before';
  if (depth === null)
    throw bad(
      `Both cable needles are held in ${hold}: say which lies deeper ("hold in ${hold} ${onRs ? 'behind' : 'in front of'} the other").`,
    );
  if (depth !== deepest)
    throw bad('The second cable needle lies between the ropes; a centre group lies behind both here.');
}

/** What words were found to mean by a lexicon, by side and word. */
const foundBy = ofEach((_lexicon: Lexicon) => new Map<string, readonly Stitch[]>());

/**
 * The stitches, as the RS shows them, that one word names; looked up once for each word and side.
 *
 * @throws WordProblem when it names none, or may name more than one
 */
export function stitchesNamed(word: string, side: Side, lexicon: Lexicon): readonly Stitch[] {
  const known = foundBy(lexicon);
  const key = `${side}:${word}`;
  let found = known.get(key);
  if (!found) known.set(key, (found = lookUp(word, side, lexicon)));
  return found;
}

const twist = (lean: 'left' | 'right'): Crossing => crossing(lean, ['k'], ['k']);

/** Names told in words that a school writes in letters: "cross 3 left". */
const lettered = (word: string): string =>
  word.replace(/^(cross|twist) (\d+) ([fblr])\w*$/i, (_, what: string, n: string, end: string) => {
    return `${/^c/i.test(what) ? 'Cr' : 'Tw'}${n}${end.toUpperCase()}`;
  });

/** A twist of a rope over others, by its numbers: the ground may be knit or purled, and the stitches twisted. */
function twistsNamed(word: string, school: School | undefined, told: Told): Stitch[] | null {
  const slashed = /^(\d+\/\d+) ([LR])(P?)T$/i.exec(word);
  if (!slashed) return null;
  const [, numbers, lean, purl] = slashed as unknown as [string, string, string, string];
  const named = (p: string) => crossingsNamed(`${numbers} ${lean}${p}C`, school, told);
  if (numbers !== '1/1') return purl ? named('P') : [...named(''), ...named('P')];
  const way = /l/i.test(lean) ? 'left' : 'right';
  return purl ? [...named('P'), crossing(way, ['ktbl'], ['p'])] : named('');
}

/** What a name may mean; the one meaning where it is certain. A reader of whole patterns asks more than the bench does. */
function meaningsOf(word: string, side: Side, lexicon: Lexicon): readonly Stitch[] {
  const [each = 1, ...others] = lexicon.each ?? [];
  const meant = meaningsCounted(word, side, lexicon, each);
  const more = others.flatMap((other) => meaningsCounted(word, side, lexicon, other));
  return [...meant, ...more.filter((m, i) => ![...meant, ...more.slice(0, i)].some((o) => sameStitch(o, m)))];
}

function meaningsCounted(word: string, side: Side, lexicon: Lexicon, each: number): readonly Stitch[] {
  const { hand, school, budget } = lexicon;
  const name = word.toLowerCase();
  if (name === 'lt' || name === 'rt') return [twist(name === 'lt' ? 'left' : 'right')];
  // k1b is through the back loop to some, and into the stitch below to others.
  const below = /^([kp])1?b$/.exec(name);
  if (below) return [below[1] === 'k' ? 'ktbl' : 'ptbl', 'below'];
  const told = { side, hand, each };
  const twists = twistsNamed(word, school, told);
  if (twists) return twists;
  const crossings = crossingsNamed(lettered(word), school, told, budget !== undefined);
  if (!/^\d+\//.test(word) || budget === undefined) return crossings;
  // Numbers say front / back to some, and worked first / worked second to others.
  const slashed = word.replace(/ (left|right) (purl )?cable/i, (_, lean: string, purl?: string) => {
    return ` ${lean[0]!.toUpperCase()}${purl ? 'P' : ''}C`;
  });
  if (school) return crossingsNamed(slashed, school, told);
  const ways = [undefined, 'worked-order' as const].flatMap((s) => crossingsNamed(slashed, s, told));
  return ways.filter((c, i) => !ways.slice(0, i).some((w) => sameCrossing(w, c)));
}

/** What a name that seems sure of its crossing may mean as well: the same with its back purled, or knit. */
export function waysOf(c: Crossing): Crossing[] {
  const other: Worked = c.back.every((w) => w === 'p') ? 'k' : 'p';
  return [
    c,
    crossing(
      c.lean,
      c.front,
      c.back.map(() => other),
      c.centre,
    ),
  ];
}

function lookUp(word: string, side: Side, lexicon: Lexicon): Stitch[] {
  const name = word.toLowerCase();
  const defined = lexicon.defined.get(word) ?? lexicon.defined.get(name);
  if (defined) return [defined];
  const alike = [...lexicon.defined.keys()].filter((known) => known.toLowerCase() === name);
  if (alike.length)
    throw new WordProblem(
      'unknown-name',
      `${quoted(word, 40)} is told in the key as ${alike.map((a) => `"${a}"`).join(' and as ')}, which are not the same: write it as the key does.`,
    );
  const { book, hand } = lexicon;
  if (lexicon.blocked?.has(name))
    throw new WordProblem(
      'unknown-name',
      `${quoted(word, 40)} is told in the key in a way that was not understood.`,
    );
  const instead = lexicon.instead?.get(literal(word));
  const plain = plainWord(instead ? numbered(instead, word) : word, side, book);
  if (plain) {
    const made = madeBy(plain.id, hand, (id) => book.own.find((o) => o.id === id)?.mirror);
    return Array<Stitch>(Math.min(plain.n, 5000)).fill(made);
  }
  const meanings = meaningsOf(word, side, lexicon);
  const answer = lexicon.answers?.[name];
  // A name that is sure may have been answered otherwise, where another name has its meaning too.
  const [sure] = meanings;
  const ways =
    meanings.length === 1 && typeof sure === 'object' && answer !== undefined ? waysOf(sure) : meanings;
  const answered = ways.filter((m) => stitchId(m) === answer);
  const meant = meanings.length > 1 || answered.length ? answered : meanings;
  const [only] = meant;
  if (meant.length === 1 && only !== undefined) {
    if (only === 'below')
      throw new WordProblem(
        'unknown-name',
        `${quoted(word, 40)}, knit into the stitch below, has no place in a chart of loops.`,
        'Make it a stitch of your own and define it in the key.',
      );
    return [only];
  }
  if (meanings.length > 1) throw ambiguous(word, meanings);
  const hint = word.includes(' ') ? hintFor(word) : '';
  if (hint) throw new WordProblem('unknown-name', `${quoted(word, 40)} was not understood.`, hint);
  throw new WordProblem(
    'unknown-name',
    `${quoted(word, 40)} is not a stitch or crossing known here.`,
    'Define it in the key.',
  );
}

/** What is open about a name, and how it is settled. */
function ambiguous(word: string, meanings: readonly Stitch[]): WordProblem {
  const crossings = meanings.filter((m) => typeof m === 'object');
  const tell = (said: string, advice: string) =>
    new WordProblem('ambiguous-name', `${quoted(word, 40)}${said}`, advice, meanings);
  if (crossings.length < meanings.length)
    return tell(': is it worked through the back loop, or into the stitch below?', 'Define it in the key.');
  const leans = new Set(crossings.map((c) => c.lean));
  if (leans.size > 1) return tell(' does not say which way it leans.', 'Define it in the key.');
  const faces = new Set(crossings.map((c) => c.front.join().replaceAll('ktbl', 'b')));
  if (faces.has('b'))
    return tell(
      ' means one thing in one school and another in the next: its stitches may be twisted, and the back knit or purled.',
      'Say which school, or define it in the key.',
    );
  if (/^\d+\//.test(word))
    return tell(
      ': do its numbers say front / back, or worked first / worked second?',
      'Say which school, or define it in the key.',
    );
  const ways = [
    ...new Set(
      crossings.map((c) =>
        [c.front, c.centre, c.back]
          .map((g) => g.length)
          .filter(Boolean)
          .join('/'),
      ),
    ),
  ];
  if (ways.length > 1)
    return tell(
      ` does not say how its stitches are divided: it may be ${ways.join(', ')}.`,
      'Define it in the key.',
    );
  return tell(
    ' means one thing in one school and another in the next: the back may be knit or purled.',
    'Say which school, or define it in the key.',
  );
}

import type { Hand, School } from '../../chart/schema.js';
import { crossingsNamed } from '../../names/schools.js';
import { kindOf, type Stitch, type StitchBook } from '../../stitches/book.js';
import {
  crossing,
  crossingId,
  crossingProblem,
  mirrorCrossing,
  type Crossing,
} from '../../stitches/crossing.js';
import { otherSide, type Side, type Worked } from '../../stitches/face.js';
import { NO_STITCH, STITCH_KINDS } from '../../stitches/kinds.js';
import type { WrittenMove } from './language.js';

/** What the reader knows about the words it meets. */
export interface Lexicon {
  school: School | undefined;
  hand: Hand;
  book: StitchBook;
  /** Crossings the key defines or the designer named, by name in lower case. */
  defined: ReadonlyMap<string, Crossing>;
  /** How much may still be worked in reading a text from outside; without it a text of our own is worked whole. */
  budget?: { left: number };
}

/** A text asks for more work than any pattern needs. */
export class TooMuchWork extends Error {}

/** A word that means nothing here, or more than one thing. */
export class WordProblem extends Error {
  constructor(
    readonly id: 'unknown-name' | 'ambiguous-name' | 'steps-differ' | 'bad-steps',
    message: string,
  ) {
    super(message);
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

const indexes = new WeakMap<StitchBook, Record<Side, Map<string, string>>>();

function idsBySide(book: StitchBook): Record<Side, Map<string, string>> {
  let index = indexes.get(book);
  if (!index) indexes.set(book, (index = { RS: kindIndex(book, 'RS'), WS: kindIndex(book, 'WS') }));
  return index;
}

/** Long forms designers write beside the short ones. */
const SYNONYMS: [RegExp, string][] = [
  [/^knit\b ?/, 'k'],
  [/^purl\b ?/, 'p'],
  [/^slip\b/, 'sl'],
  [/^sl ?(\d+)(?: ?(?:st|sts|stitch|stitches))?( wyi[bf])?$/, 'sl $1$2'],
  [/^m1$/, 'm1l'],
  [/^yf$|^yfwd$|^yarn over$/, 'yo'],
  [/^s2kp2?$|^cdd$/, 'cdd'],
  [/^([kp]) ?(\d+) (?:st|sts|stitch|stitches)$/, '$1$2'],
  [/^([kp]) ?(\d+) ?tbl$/, '$1$2 tbl'],
  [/^([kp])tbl$/, '$1 tbl'],
];

/** The stitch, as the RS shows it, that a counted or single word names, and how many; null when it is none. */
function plainStitch(word: string, side: Side, lexicon: Lexicon): { id: string; n: number } | null {
  const ids = idsBySide(lexicon.book)[side];
  const text = SYNONYMS.reduce((t, [from, to]) => t.replace(from, to), word.toLowerCase());
  const whole = ids.get(text);
  // A slip is purlwise, its float on the wrong side, unless it says otherwise.
  const slip = /^sl (\d+)$/.exec(text);
  if (slip) return { id: 'slyb', n: Number(slip[1]) };
  if (whole) return { id: whole, n: 1 };
  const withCount = /^(\D*?)(\d+)(\D*)$/.exec(text);
  const id = withCount && ids.get(`${withCount[1]}#${withCount[3]}`);
  if (id) return { id, n: Number(withCount[2]) };
  const bare = ids.get(text.replace(/^(k|p)\b/, '$1#').replace(/^sl\b/, 'sl #'));
  return bare ? { id: bare, n: 1 } : null;
}

/** The crossing, as the RS shows it, that written moves make. */
export function crossingOfMoves(moves: readonly WrittenMove[], side: Side, hand: Hand): Crossing {
  const bad = (message: string) => new WordProblem('bad-steps', message);
  const slips = moves.filter((m) => 'slip' in m);
  const works = moves.filter((m) => 'work' in m);
  const held = slips.find((m) => m.needle === 1);
  const centreHeld = slips.find((m) => m.needle === 2);
  const onNeedle = (from: 'left' | 1 | 2) => works.filter((m) => m.from === from).flatMap((m) => m.work);
  const [met, centre, last] = [onNeedle(1), onNeedle(2), onNeedle('left')];
  if (!held) throw bad('The steps of a crossing slip stitches to a cable needle first.');
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
  const seen = (group: Worked[]) => (onRs ? group : [...group].reverse().map(otherSide));
  const metInFront = (held.hold === 'front') === onRs;
  const lean = metInFront === onRs ? 'left' : 'right';
  const made = metInFront
    ? crossing(lean, seen(met), seen(last), seen(centre))
    : crossing(lean, seen(last), seen(met), seen(centre));
  return hand === 'left-same-fabric' ? mirrorCrossing(made) : made;
}

const meanings = new WeakMap<Lexicon, Map<string, readonly Stitch[]>>();

/**
 * The stitches, as the RS shows them, that one word names; looked up once for each word and side.
 *
 * @throws WordProblem when it names none, or may name more than one
 */
export function stitchesNamed(word: string, side: Side, lexicon: Lexicon): readonly Stitch[] {
  let known = meanings.get(lexicon);
  if (!known) meanings.set(lexicon, (known = new Map()));
  const key = `${side}:${word}`;
  let found = known.get(key);
  if (!found) known.set(key, (found = lookUp(word, side, lexicon)));
  return found;
}

function lookUp(word: string, side: Side, lexicon: Lexicon): Stitch[] {
  const defined = lexicon.defined.get(word.toLowerCase());
  if (defined) return [defined];
  const plain = plainStitch(word, side, lexicon);
  if (plain) {
    const id = lexicon.hand === 'left-same-fabric' ? kindOf(plain.id, lexicon.book).mirror : plain.id;
    return Array<Stitch>(Math.min(plain.n, 5000)).fill(id);
  }
  const crossings = crossingsNamed(word, lexicon.school);
  if (crossings.length === 1) {
    const [only] = crossings as [Crossing];
    if (isOrderDependent(word, only) && !lexicon.school)
      throw new WordProblem(
        'ambiguous-name',
        `"${word}": do its numbers say front / back, or worked first / worked second? Say which school, or define it in the key.`,
      );
    return [only];
  }
  if (crossings.length > 1) {
    const ways = [...new Set(crossings.map((c) => `${c.front.length}/${c.back.length}`))].join(', ');
    if (!ways.includes(','))
      throw new WordProblem(
        'ambiguous-name',
        `"${word}" means one thing in one school and another in the next: the back may be knit or purled. Say which school, or define it in the key.`,
      );
    throw new WordProblem(
      'ambiguous-name',
      `"${word}" does not say how its stitches are divided: it may be ${ways}. Define it in the key.`,
    );
  }
  throw new WordProblem(
    'unknown-name',
    `"${word}" is not a stitch or crossing known here. Define it in the key.`,
  );
}

/** Unequal left crossings mean different things in the front/back and the worked-order school. */
function isOrderDependent(word: string, c: Crossing): boolean {
  return /^\d+\//.test(word) && c.lean === 'left' && c.front.length !== c.back.length;
}

export const sameCrossing = (a: Crossing, b: Crossing) => crossingId(a) === crossingId(b);

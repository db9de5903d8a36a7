import type { Hand } from '../../construction/index.js';
import { withoutNumber } from '../manner.js';
import { kindOf, stitchBook } from '../../stitches/book.js';
import { crossingId, sameCrossing, type Crossing } from '../../stitches/crossing.js';
import type { Side } from '../../stitches/face.js';
import { STITCH_KINDS } from '../../stitches/kinds.js';
import type { Item, KeyLine } from '../pattern.js';
import { stepsIn } from './hands.js';
import { quoted, tryPiece } from './language.js';
import { crossingOfMoves, literal, plainWord, WordProblem } from './lexicon.js';
import type { KeyCandidate } from './key-lines.js';
import type { Problem } from './pattern-lines.js';
import { crossingOfLoose } from './loose.js';
import { bare, MEANS_MORE, SAYS_NO_MORE, wordTold } from './told.js';

/** The crossing that a line of the key tells on a side; null where it tells none. @throws WordProblem */
function crossingTold({ steps }: KeyLine, side: Side, hand: Hand): Crossing | null {
  if (steps.type === 'words') return null;
  return steps.type === 'moves'
    ? crossingOfMoves(steps.moves, side, hand)
    : crossingOfLoose(steps, side, hand);
}

/** The crossings a pattern's key defines, by name in lower case, and what is wrong with the key. */
export function definedCrossings(
  key: readonly KeyLine[],
  hand: Hand,
): { defined: Map<string, Crossing>; problems: Problem[] } {
  const defined = new Map<string, Crossing>();
  const problems: Problem[] = [];
  for (const line of key) {
    const name = line.word.toLowerCase();
    try {
      const made = crossingTold(line, line.side ?? 'RS', hand);
      if (!made) continue;
      const known = defined.get(name);
      if (known && !sameCrossing(known, made))
        problems.push({
          id: 'same-name',
          level: 'error',
          message: `The key gives "${line.word}" two different meanings. Two crossings of one pattern never share a name.`,
        });
      else defined.set(name, made);
    } catch (error) {
      if (!(error instanceof WordProblem)) throw error;
      problems.push({ id: error.id, level: 'error', message: `Key, "${line.word}": ${error.message}` });
    }
  }
  return { defined, problems };
}

/** What the key of a text from outside says of the words its rows use. */
export interface KeyRead {
  /** By name in lower case; as it is written where another differs from it in case alone. */
  defined: Map<string, Crossing>;
  /** Names told in words of rows: "rib: k1, p1". */
  told: Map<string, readonly Item[]>;
  /** Short words that the key tells as another of the trade's, both without their numbers: M1 as a yarn over. */
  instead: Map<string, string>;
  /** Names the key tells in a way that was not understood. */
  blocked: Set<string>;
  problems: Problem[];
  /** Lines of it that nothing was made of, and why; no reason where they may be no lines of a key at all. */
  left: { line: KeyCandidate; why: string }[];
}

/** What a text without a key says by one. */
export const emptyKey = (): KeyRead => ({
  defined: new Map(),
  told: new Map(),
  instead: new Map(),
  blocked: new Set(),
  problems: [],
  left: [],
});

/** Why nothing was made of a line of the key that tells a word of everyone's. */
export const UNUSED = 'the rows do not use it';
export const SAID = 'it says what the trade does';
const BOBBLE = 'it tells how the bobble is worked, which is charted as one stitch';

/** The words that the trade's own steps, or a kind's name, stand for. */
const TOLD = new Map<string, Set<string>>();
for (const kind of STITCH_KINDS.values())
  for (const [text, word] of [
    [kind.rsSteps, kind.rs],
    [kind.wsSteps, kind.ws],
    [kind.name, kind.rs],
    [kind.rs, kind.rs],
    [kind.ws, kind.ws],
  ] as const) {
    const steps = bare(text.replace(' #', '').replace('#', ''));
    if (steps) TOLD.set(steps, (TOLD.get(steps) ?? new Set()).add(baseOf(word)));
  }

function baseOf(word: string): string {
  return withoutNumber(word).toLowerCase();
}

/** Whether the steps of a key are the word's own, those of another word, or none that are known here. */
function whoseSteps(word: string, text: string, hand: Hand): 'own' | 'other' | 'unknown' {
  const steps = bare(text);
  const kinds = (['RS', 'WS'] as const).flatMap((side) => {
    const plain = plainWord(word, side, stitchBook());
    return plain ? [{ ...plain, side }] : [];
  });
  const isOwn = kinds.some(
    ({ id, side }) => bare(stepsIn(hand, kindOf(id, stitchBook()), side, stitchBook())) === steps,
  );
  const words = TOLD.get(steps);
  if (isOwn || words?.has(word.toLowerCase()) || kinds.some(({ base }) => words?.has(base))) return 'own';
  if (SAYS_NO_MORE.test(steps)) return 'own';
  const told = wordTold(text);
  if (told === null) return words ? 'other' : 'unknown';
  // What is told without a side is told as the right side works it.
  const [first] = kinds;
  return first && plainWord(told, first.side, stitchBook())?.id === first.id ? 'own' : 'other';
}

/** A bobble is worked up in one stitch, and comes back to one: how, the key says. */
const MADE_IN_ONE = /\b(?:in|into|same|next)\b.*\b(?:st|stitch|loop|it)\b/i;

/**
 * Reads the key of a text from outside against the words its rows use, by side. What it says wins over every school;
 * what it says otherwise than the trade, or in a way that is not understood, is told, and its name is blocked.
 */
export function readKey(
  key: readonly KeyCandidate[],
  used: ReadonlyMap<string, ReadonlySet<Side>>,
  hand: Hand,
  answers: Readonly<Record<string, string>>,
): KeyRead {
  const found = emptyKey();
  const { defined, blocked, problems, left } = found;
  /** Each name as the key writes it. */
  const spelled = new Map<string, string>();
  const tell = (id: string, message: string, { at }: KeyCandidate) =>
    problems.push({ id, level: 'error', message, at });
  for (const candidate of key) {
    const { line, isSure } = candidate;
    const name = line.word.toLowerCase();
    const sides = used.get(name) ?? used.get(literal(name));
    const plain = plainWord(line.word, 'RS', stitchBook()) ?? plainWord(line.word, 'WS', stitchBook());
    if (line.steps.type !== 'words') {
      try {
        const seen = crossingTold(line, line.side ?? 'RS', hand);
        if (!seen) throw new WordProblem('bad-steps', 'its numbers do not fit together.');
        // Told without a side, and worked on wrong-side rows: one of two cloths, which only the designer knows.
        const behind = !line.side && sides?.has('WS') ? crossingTold(line, 'WS', hand) : null;
        const asked = `${name} (ws)`;
        const isOpen = behind !== null && !sameCrossing(seen, behind);
        const made = isOpen ? [seen, behind].find((c) => crossingId(c) === answers[asked]) : seen;
        const known = defined.get(name);
        if (!made) {
          blocked.add(name);
          problems.push({
            id: 'side-open',
            level: 'error',
            message: `The key tells "${line.word}" without a side, and wrong-side rows use it: are these its steps as they are worked there, or as on the right side?`,
            at: candidate.at,
            ask: { word: asked, meanings: [seen, behind!] },
          });
        } else if (known && !sameCrossing(known, made) && spelled.get(name) !== line.word) {
          // Two names that differ in their case alone: case counts from now on.
          defined.delete(name);
          defined.set(spelled.get(name)!, known).set(line.word, made);
        } else if (known && !sameCrossing(known, made))
          tell(
            'same-name',
            `The key gives "${line.word}" two different meanings. Two crossings of one pattern never share a name.`,
            candidate,
          );
        else {
          defined.set(name, made);
          spelled.set(name, line.word);
        }
        if (line.rest && !/^without a cable needle/i.test(line.rest))
          left.push({
            line: candidate,
            why: `of this line of the key, ${quoted(line.rest, 60)} says nothing of the steps`,
          });
        if (!sides && isSure) left.push({ line: candidate, why: UNUSED });
      } catch (error) {
        if (!(error instanceof WordProblem)) throw error;
        blocked.add(name);
        tell(error.id, `Key, "${line.word}": ${error.message}`, candidate);
      }
      continue;
    }
    const { text } = line.steps;
    if (plain) {
      const whose = whoseSteps(line.word, text, hand);
      const told = wordTold(text);
      if (!sides) {
        if (isSure || whose === 'own') left.push({ line: candidate, why: UNUSED });
        else left.push({ line: candidate, why: '' });
      } else if (whose === 'own') left.push({ line: candidate, why: SAID });
      else if (plain.id === 'mb' && MADE_IN_ONE.test(text)) left.push({ line: candidate, why: BOBBLE });
      else if (whose === 'other' && told && MEANS_MORE.test(name)) {
        found.instead.set(literal(name), told);
        left.push({ line: candidate, why: `it is read so: "${line.word}" is worked as "${told}" here` });
      } else if (whose === 'other')
        tell(
          'key-differs',
          `The key tells "${line.word}" as ${quoted(text, 40)}; in the trade it is "${kindOf(plain.id, stitchBook()).name}".`,
          candidate,
        );
      else
        tell(
          'key-not-read',
          `The key tells "${line.word}" as ${quoted(text, 60)}, which was not understood. Tell it in the trade's words, or say that it is worked as everyone does.`,
          candidate,
        );
      continue;
    }
    if (!sides) {
      if (candidate.at.to)
        left.push({
          line: candidate,
          why: isSure ? UNUSED : '',
        });
      continue;
    }
    const items = tryPiece('Meaning', text);
    const told = wordTold(text);
    if (items && isKnown(items)) found.told.set(name, items);
    else if (told) found.told.set(name, [{ type: 'word', word: told, spelled: null }]);
    else {
      blocked.add(name);
      tell(
        'key-not-read',
        `The key's line for "${line.word}" was not understood: ${quoted(text, 60)}. Tell it as a crossing is worked: sl 2 to cable needle, hold in front, k2, k2 from cable needle.`,
        candidate,
      );
    }
  }
  return found;
}

/** Whether all words of a meaning are the trade's own. */
const isKnown = (items: readonly Item[]): boolean =>
  items.every((item) =>
    item.type === 'group'
      ? isKnown(item.items)
      : item.type === 'spelled' ||
        (item.type === 'word' &&
          (item.spelled !== null ||
            plainWord(item.word, 'RS', stitchBook()) !== null ||
            plainWord(item.word, 'WS', stitchBook()) !== null)),
  );

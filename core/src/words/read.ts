import { LIMITS, type Chart, type Style } from '../chart/schema.js';
import { saysBothCount, wayOf, type Way } from '../construction/index.js';
import { stitchBook, stitchId, type Stitch } from '../stitches/book.js';
import type { TwistMethod } from '../stitches/twist.js';
import type { Head } from './pattern.js';
import { nameProblems, usedWords } from './reader/asked.js';
import type { ReadOptions } from './reader/assemble.js';
import type { Reader } from './reader/attempt.js';
import { bandsRead } from './reader/bands-read.js';
import { castOnTooLarge, chartedFrom, MOST_WORKED, workedBest } from './reader/charted.js';
import { compared, gains, repeatCompared } from './reader/compare.js';
import { emptyKey, readKey, UNUSED, type KeyRead } from './reader/define.js';
import { defineSpelled, namesTold, twistIn } from './reader/key-told.js';
import type { Span } from './reader/language.js';
import { TooMuchWork, type Lexicon } from './reader/lexicon.js';
import { MOST_PROBLEMS, type Aside, type Problem } from './reader/pattern-lines.js';
import { linesPlaced, type Placed } from './reader/placed.js';
import { planned, withPlan } from './reader/plan.js';
import { readProse } from './reader/prose.js';
import { keyOutside, sectionsOf, type Section } from './reader/sections.js';
import type { Sizes } from './reader/sizes.js';

export type { ReadOptions };
export { plainly, SAID_SO } from './reader/prose.js';

/** A longer text is read as one pattern. */
const LONGEST_SECTIONED = 400_000;

/** A name that may mean more than one thing: what is asked, and what it may mean. */
export interface Question {
  /** In lower case; an answer is given under it. */
  word: string;
  row?: number;
  message: string;
  /** What it may mean, each under the id that answers with it. */
  meanings: { id: string; stitch: Stitch }[];
}

/** What a text says: its chart, what is wrong with it, what must be asked, and what was left aside. */
export interface Reading {
  chart: Chart | null;
  problems: Problem[];
  questions: Question[];
  asides: Aside[];
  /** Names the text gives to crossings, by crossing id: its designer's own. */
  names: Record<string, string>;
  /** How its key works two-stitch twists; null where it does not say, or in no one manner. */
  twist: TwistMethod | null;
  /** What it says that the numbers in names of crossings count, where stitches are pairs; null where it does not. */
  pairNames: Style['pairNames'] | null;
  /** The sizes the text is for, and which of them was read, the first being 0; null where it is for one. */
  sizes: (Sizes & { read: number }) | null;
}

/**
 * Reads a written pattern into a chart. Nothing is read otherwise than it says: what does not add up is told at the
 * very words, what may mean two things is asked, and what says nothing of the rows is left aside, and told too. A row
 * that cannot be worked stands in the chart as plain ground.
 */
export function readPattern(text: string, options: ReadOptions): Reading {
  try {
    return readWithin(text, options, { left: MOST_WORKED });
  } catch (error) {
    if (!(error instanceof TooMuchWork)) throw error;
    const message =
      'This text repeats more than a pattern can: its rows win stitches without end, or its brackets work nothing many times over.';
    return noReading([{ id: 'too-much-work', level: 'error', message }]);
  }
}

/** One pattern of a text: where it stands, what is written above it, and what it says. */
export interface SectionRead extends Section {
  reading: Reading;
}

/**
 * Reads every pattern of a text that may hold several, which share their keys. Places are those of the whole text.
 */
export function readPatterns(text: string, options: ReadOptions): SectionRead[] {
  const sections =
    text.length > LONGEST_SECTIONED ? [{ from: 0, to: text.length, title: null }] : sectionsOf(text);
  return sections.map((section) => {
    const { from, to } = section;
    const keyText = sections.length > 1 ? keyOutside(text, section) : undefined;
    const reading = readPattern(text.slice(from, to), { ...options, keyText });
    const moved = <T extends { at?: Span }>(told: T): T =>
      told.at ? { ...told, at: { from: told.at.from + from, to: told.at.to + from } } : told;
    return {
      ...section,
      reading: {
        ...reading,
        problems: reading.problems.map(moved),
        asides: reading.asides.map((a) => ({ ...a, from: a.from + from, to: a.to + from })),
      },
    };
  });
}

const noReading = (problems: Problem[], asides: Aside[] = []): Reading => ({
  chart: null,
  problems,
  questions: questionsOf(problems),
  asides,
  names: {},
  twist: null,
  pairNames: null,
  sizes: null,
});

/** What is asked, once for each name. */
function questionsOf(problems: readonly Problem[]): Question[] {
  const found = new Map<string, Question>();
  for (const { ask, row, message } of problems)
    if (ask && !found.has(ask.word))
      found.set(ask.word, {
        word: ask.word,
        row,
        message,
        meanings: ask.meanings.map((stitch) => ({ id: stitchId(stitch), stitch })),
      });
  return [...found.values()];
}

/** Why rows cannot be read at all; null where they can. */
function withoutRows({ lines, placed }: Placed, problems: readonly Problem[]): Problem[] | null {
  const height = placed.order.rows.length;
  if (height > LIMITS.rows) {
    const message = `A chart holds at most ${LIMITS.rows} rows; the text speaks of row ${height}.`;
    return [{ id: 'too-many-rows', level: 'error', message }];
  }
  if (lines.pattern.rows.length && height) return null;
  if (problems.some((p) => p.level === 'error')) return [...problems];
  const message = 'No written row was found. A row begins "Row 1:" or "Round 1:".';
  return [...problems, { id: 'no-rows', level: 'error', message }];
}

/** A text's words: what its key and its prose say, what the rows are worked with, and what is left aside. */
interface Understood {
  key: KeyRead;
  reader: Reader;
  problems: Problem[];
  asides: Aside[];
}

/** What one stitch may count for in the numbers of names: where stitches are pairs, designers count both. */
const mayCount = (names: Head['names'], { loops }: Way): readonly number[] =>
  loops === 1 || names === 'pairs' ? [1] : names === 'loops' ? [loops] : [1, loops];

function understood({ lines, placed }: Placed, budget: { left: number }): Understood {
  const { order, options } = placed;
  const { hand } = lines.pattern.head;
  const used = usedWords(order);
  const answers = options.answers ?? {};
  const key = readKey(lines.key, used, hand, answers);
  defineSpelled(order, lines, key);
  const prose = readProse(lines, used, key, options);
  const unread = key.left
    .filter(({ why }) => why !== '' && why !== UNUSED)
    .map(({ line: { at }, why }) => ({
      ...at,
      text: lines.text.slice(at.from, Math.min(at.to, at.from + 120)),
      why,
    }));
  const lexicon: Lexicon = {
    school: options.school,
    hand,
    each: mayCount(lines.pattern.head.names, wayOf(options)),
    book: stitchBook(),
    defined: key.defined,
    told: key.told,
    instead: key.instead,
    hasEdges: wayOf(options).hasEdges,
    blocked: key.blocked,
    answers,
    budget,
  };
  return {
    key,
    reader: { rows: order.rows, options, lexicon, placeOf: lines.placeOf },
    problems: [...key.problems, ...prose.problems],
    asides: [...prose.asides, ...unread].sort((a, b) => a.from - b.from),
  };
}

/**
 * Reads one pattern: its lines are placed, its words understood, its rows worked, charted, and what the text says of itself is
 * compared with the chart. Each step ends the reading where the next would have nothing to go on.
 */
function readWithin(text: string, given: ReadOptions, budget: { left: number }): Reading {
  const placed = linesPlaced(text, given);
  const { lines, sizes, set } = placed;
  const { order, options } = placed.placed;
  const problems = [...lines.problems, ...set.problems, ...placed.placed.problems];
  const nothing = (told: readonly Problem[], asides: Aside[]): Reading => ({
    ...noReading(told.slice(0, MOST_PROBLEMS), asides),
    sizes,
  });
  const missing = withoutRows(placed, problems);
  if (missing) {
    const { asides } = readProse(lines, new Map(), emptyKey(), options);
    return nothing(missing, order.rows.length > LIMITS.rows ? [] : asides);
  }

  const { key, reader, asides, problems: unclear } = understood(placed, budget);
  problems.push(...unclear);
  const tooLarge = castOnTooLarge(lines);
  if (tooLarge) return nothing([...problems, tooLarge], asides);
  const asked = nameProblems(reader);
  if (asked.length || key.blocked.size) return nothing([...problems, ...asked], asides);

  const tried = workedBest(lines, reader);
  if (!('castOn' in tried)) return nothing([...problems, tried], asides);
  const charted = chartedFrom(tried, reader);
  problems.push(...tried.attempt.problems, ...charted.problems);
  const names = namesTold(lines, key);
  const twist = twistIn(lines, reader.lexicon.hand);
  if (!charted.chart) return { ...nothing(problems, asides), names, twist };

  const plan = planned(lines.pattern, lines.again, order);
  const done = withPlan(charted.chart, plan, order);
  problems.push(
    ...compared(lines, tried.castOn, charted.chart, tried.attempt, reader),
    ...repeatCompared(lines, plan, order.rows.length),
    ...plan.problems,
    ...gains(plan, tried.attempt, order.rows),
    ...done.problems,
  );
  const bands = bandsRead(lines, order, tried.attempt.needles, done.chart);
  problems.push(...bands.problems);
  const told = problems.slice(0, MOST_PROBLEMS);
  const bothFaces = saysBothCount({ ...done.chart, bothFaces: lines.pattern.head.bothFaces });
  return {
    chart: { ...done.chart, bothFaces, bands: bands.bands },
    problems: told,
    questions: [],
    asides,
    names,
    twist,
    pairNames: lines.pattern.head.names,
    sizes,
  };
}

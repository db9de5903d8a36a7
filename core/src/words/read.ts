import { otherLean, type Lean } from '../stitches/face.js';
import { methodOf, type TwistMethod, type TwistWay } from '../stitches/twist.js';
import { crossingOfLoose } from './reader/loose.js';
import { repeatColumns, repeatsAcross } from '../chart/frame.js';
import { jogsFrom } from '../chart/repeat-lines.js';
import { wayOf } from '../construction/index.js';
import { LIMITS, type Chart } from '../chart/schema.js';
import { stitchBook, stitchId, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { modulo } from '../values.js';
import type { Item, RowLine } from './pattern.js';
import { assemble, type ReadOptions } from './reader/assemble.js';
import { attempt, type Attempt, type Reader } from './reader/attempt.js';
import { castOns } from './reader/cast-on.js';
import { compared, repeatCompared, gains, repeatFails } from './reader/compare.js';
import { emptyKey, readKey, UNUSED, type KeyRead } from './reader/define.js';
import type { Span } from './reader/language.js';
import {
  crossingOfMoves,
  literal,
  plainWord,
  stitchesNamed,
  TooMuchWork,
  waysOf,
  WordProblem,
  type Lexicon,
} from './reader/lexicon.js';
import {
  MOST_PROBLEMS,
  readLines,
  type Aside,
  type PatternLines,
  type Problem,
} from './reader/pattern-lines.js';
import { withGapsFilled, type Order, type PlacedRow } from './reader/order.js';
import { planned, withPlan } from './reader/plan.js';
import { keyOutside, sectionsOf, type Section } from './reader/sections.js';
import { placeRows, setting } from './reader/setting.js';
import { readProse } from './reader/prose.js';
import { readable } from './reader/readable.js';
import type { Sizes } from './reader/sizes.js';

export type { ReadOptions };
export { plainly, SAID_SO } from './reader/prose.js';

/** Stitches worked in reading one text, at most: a pattern that never comes out must not take for ever. */
const MOST_WORKED = 6_000_000;
const LONGEST_CAST_ON = LIMITS.columns * 4;

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

/** A longer text is read as one pattern. */
const LONGEST_SECTIONED = 400_000;

const noReading = (problems: Problem[], asides: Aside[] = []): Reading => ({
  chart: null,
  problems,
  questions: questionsOf(problems),
  asides,
  names: {},
  twist: null,
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

/** The words of the rows in lower case, without the numbers of their runs, with the sides they are used on. */
function usedWords({ rows }: Order): Map<string, Set<Side>> {
  const used = new Map<string, Set<Side>>();
  const look = (items: readonly Item[], side: Side): void => {
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, side);
      if (item.type !== 'word' && item.type !== 'rest') continue;
      const base = plainWord(item.word, side, stitchBook())?.base;
      const names = base === undefined ? [item.word.toLowerCase()] : [base, literal(item.word)];
      for (const name of names) used.set(name, (used.get(name) ?? new Set<Side>()).add(side));
    }
  };
  for (const { body, side } of rows) if (body?.type === 'items') look(body.items, side);
  return used;
}

/**
 * Names that mean nothing, or more than one thing: each is asked about once, where it is first met. So is a name that
 * would be another one's crossing: designers give one crossing one name.
 */
function nameProblems({ rows, lexicon, placeOf }: Reader): Problem[] {
  const found = new Map<string, Problem>();
  const nameOf = new Map<string, string>();
  const look = (items: readonly Item[], placed: PlacedRow, row: number): void => {
    const { label, side, line } = placed;
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, placed, row);
      if (item.type !== 'word' || item.spelled) continue;
      const name = item.word.toLowerCase();
      if (found.has(name) || lexicon.told?.has(name) || lexicon.blocked?.has(name)) continue;
      try {
        const [only] = stitchesNamed(item.word, side, lexicon);
        if (typeof only !== 'object' || lexicon.defined.has(name) || lexicon.answers?.[name]) continue;
        const known = nameOf.get(stitchId(only));
        nameOf.set(stitchId(only), known ?? item.word);
        if (known === undefined || known.toLowerCase() === name) continue;
        const meanings = waysOf(only);
        found.set(name, {
          id: 'two-names',
          level: 'error',
          row,
          message: `${label}: "${item.word}" and "${known}" would be one crossing. Do both names mean it, or is another meant here? Define it in the key.`,
          at: line ? placeOf(line, item) : undefined,
          ask: { word: name, meanings },
        });
      } catch (error) {
        if (!(error instanceof WordProblem)) throw error;
        found.set(name, {
          id: error.id,
          level: 'error',
          row,
          message: `${label}: ${error.message}`,
          at: line ? placeOf(line, item) : undefined,
          ...(error.meanings.length ? { ask: { word: name, meanings: error.meanings } } : {}),
        });
      }
    }
  };
  rows.forEach((placed, r) => {
    if (placed.body?.type === 'items') look(placed.body.items, placed, r + 1);
  });
  return [...found.values()];
}

/** The chart with its rounds beginning where the text moves their marker to. */
function withStarts(chart: Chart, starts: readonly number[]): Chart {
  if (starts.every((s) => s === 0)) return chart;
  const { start, end } = repeatColumns(chart);
  // A round of nothing but repeats is the same when it begins a repeat later, and any when it begins a round later.
  const among = repeatsAcross(chart) ? end - start : chart.width;
  const nearest = (s: number) => {
    const on = modulo(s, among);
    return 2 * on > among ? on - among : on;
  };
  return { ...chart, jogs: jogsFrom(chart.rows.map((_, r) => nearest(starts[r] ?? 0))) };
}

/** The lines of a text, and the rows of the piece in their places. */
export function linesPlaced(given: string, options: ReadOptions) {
  const { text, sizes, problems } = readable(given, options);
  const written = readLines(text, { keyText: options.keyText });
  const places = new Map<RowLine, RowLine>();
  const filled = withGapsFilled(written.pattern.rows, written.again, (line, as) => places.set(line, as));
  const lines: PatternLines = {
    ...written,
    problems: [...problems, ...written.problems],
    pattern: { ...written.pattern, rows: [...filled.lines] },
    again: filled.again,
    placeOf: (line, item) => written.placeOf(places.get(line) ?? line, item),
  };
  const set = setting(lines, options);
  return { lines, sizes, set, placed: placeRows(lines, set.options) };
}

function readWithin(text: string, given: ReadOptions, budget: { left: number }): Reading {
  const { lines, sizes, set, placed } = linesPlaced(text, given);
  const nothing = (told: Problem[], left: Aside[] = []): Reading => ({ ...noReading(told, left), sizes });
  const { order, options } = placed;
  const height = order.rows.length;
  const problems = [...lines.problems, ...set.problems, ...placed.problems];
  if (!lines.pattern.rows.length || !height) {
    if (!problems.some((p) => p.level === 'error'))
      problems.push({
        id: 'no-rows',
        level: 'error',
        message: 'No written row was found. A row begins "Row 1:" or "Round 1:".',
      });
    return nothing(problems.slice(0, MOST_PROBLEMS), readProse(lines, new Map(), emptyKey(), options).asides);
  }
  if (height > LIMITS.rows)
    return nothing([
      {
        id: 'too-many-rows',
        level: 'error',
        message: `A chart holds at most ${LIMITS.rows} rows; the text speaks of row ${height}.`,
      },
    ]);
  const used = usedWords(order);
  const answers = options.answers ?? {};
  const key = readKey(lines.key, used, lines.pattern.head.hand, answers);
  defineSpelled(order, lines, key);
  const prose = readProse(lines, used, key, options);
  const asides = [
    ...prose.asides,
    ...key.left
      .filter(({ why }) => why !== '' && why !== UNUSED)
      .map(({ line: { at }, why }) => ({
        ...at,
        text: lines.text.slice(at.from, Math.min(at.to, at.from + 120)),
        why,
      })),
  ].sort((a, b) => a.from - b.from);
  problems.push(...key.problems, ...prose.problems);
  const lexicon: Lexicon = {
    school: options.school,
    hand: lines.pattern.head.hand,
    book: stitchBook(),
    defined: key.defined,
    told: key.told,
    instead: key.instead,
    hasEdges: wayOf(options).hasEdges,
    blocked: key.blocked,
    answers,
    budget,
  };
  const reader: Reader = { rows: order.rows, options, lexicon, placeOf: lines.placeOf };
  const { castOn: stated } = lines.pattern;
  if (stated && stated.stitches > LONGEST_CAST_ON) {
    const message = `${stated.stitches} stitches are cast on; a text is worked with at most ${LONGEST_CAST_ON}. Give fewer repeats.`;
    return nothing([...problems, { id: 'cast-on-too-large', level: 'error', message }], asides);
  }
  const asked = nameProblems(reader);
  if (asked.length || key.blocked.size)
    return nothing([...problems, ...asked].slice(0, MOST_PROBLEMS), asides);
  const tries = castOns(lines, reader);
  const least = Math.min(...tries);
  if (tries.length && least > LONGEST_CAST_ON) {
    const message = `The first row works more than ${LONGEST_CAST_ON} stitches; a chart holds at most ${LIMITS.columns} columns.`;
    return nothing([...problems, { id: 'too-wide', level: 'error', row: 1, message }], asides);
  }
  let best: { castOn: number; attempt: Attempt } | null = null;
  let worked = 0;
  for (const castOn of tries) {
    worked += castOn * height;
    if (best && worked > MOST_WORKED / 4) break;
    const tried = attempt(reader, castOn);
    if (!best || tried.problems.length < best.attempt.problems.length) best = { castOn, attempt: tried };
    if (!tried.problems.length) break;
  }
  // What a first row says that was not understood may say it.
  if (!best && reader.rows[0]?.body && reader.rows[0].body.type !== 'unread')
    return nothing(
      [
        ...problems,
        {
          id: 'no-cast-on',
          level: 'error',
          row: 1,
          message: 'Nothing says how many stitches there are: give the cast-on, or a count after a row.',
        },
      ],
      asides,
    );
  best ??= { castOn: 1, attempt: attempt(reader, 1) };
  const { castOn } = best;
  problems.push(...best.attempt.problems);
  const at = (n: number) => attempt(reader, n).rows;
  let charted = assemble(best.attempt.rows, castOn, at, options, lexicon);
  if (charted && repeatsAcross(charted) && !best.attempt.problems.length) {
    const why = repeatFails(charted, castOn, reader);
    if (why) {
      problems.push({ id: 'repeat-not-taken', level: 'note', message: `No repeat across is taken: ${why}` });
      charted = assemble(best.attempt.rows, castOn, null, options, lexicon);
    }
  } else if (charted && !best.attempt.problems.length && best.attempt.rows.some((row) => row?.star))
    problems.push({
      id: 'repeat-not-taken',
      level: 'note',
      message:
        'No repeat across is taken: the repeats of the rows do not stand above each other over all rows. The rows are charted whole.',
    });
  const chart = charted && withStarts(charted, best.attempt.starts);
  const told = () => problems.slice(0, MOST_PROBLEMS);
  if (chart && chart.width > LIMITS.columns) {
    problems.push({
      id: 'too-wide',
      level: 'error',
      message: `The rows are ${chart.width} stitches wide; a chart holds at most ${LIMITS.columns} columns.`,
    });
    return nothing(told(), asides);
  }
  const names = Object.fromEntries([...key.defined].map(([, c]) => [stitchId(c), nameIn(lines, c, key)]));
  const twist = twistIn(lines, reader.lexicon.hand);
  if (!chart) return { ...nothing(told(), asides), names, twist };
  problems.push(...compared(lines, castOn, chart, best.attempt, reader));
  const plan = planned(lines.pattern, lines.again, order);
  problems.push(...repeatCompared(lines, plan, height));
  problems.push(...plan.problems, ...gains(plan, best.attempt, order.rows));
  const done = withPlan(chart, plan, order);
  problems.push(...done.problems);
  return { chart: done.chart, problems: told(), questions: [], asides, names, twist, sizes };
}

/** A crossing that is spelled out in brackets behind its name is told for all rows that use the name. */
function defineSpelled({ rows }: Order, lines: PatternLines, key: KeyRead): void {
  const look = (items: readonly Item[], side: Side): void => {
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, side);
      if (item.type !== 'word' || !item.spelled) continue;
      const name = item.word.toLowerCase();
      if (key.defined.has(name) || key.blocked.has(name)) continue;
      try {
        key.defined.set(name, crossingOfMoves(item.spelled, side, lines.pattern.head.hand));
      } catch (error) {
        // It is told where the row is worked.
        if (!(error instanceof WordProblem)) throw error;
      }
    }
  };
  for (const { body, side } of rows) if (body?.type === 'items') look(body.items, side);
}

/** The method by which a key works its two-stitch twists, as far as it tells them; null where none has these ways. */
function twistIn({ key }: PatternLines, hand: Lexicon['hand']): TwistMethod | null {
  const ways: Partial<Record<Lean, TwistWay>> = {};
  for (const { line } of key) {
    const { steps, side } = line;
    if (steps.type !== 'twist' || side === 'WS') continue;
    const made = crossingOfLoose(steps, 'RS', hand);
    const seen = made && (hand === 'left-same-fabric' ? otherLean(made.lean) : made.lean);
    if (seen) ways[seen] ??= steps;
  }
  return methodOf(ways);
}

/** The name of a crossing as the key writes it. */
function nameIn(lines: PatternLines, crossing: Stitch, { defined }: KeyRead): string {
  const id = stitchId(crossing);
  const name = [...defined].find(([, c]) => stitchId(c) === id)?.[0];
  return (
    lines.key.find(({ line }) => line.word === name || line.word.toLowerCase() === name)?.line.word ??
    name ??
    ''
  );
}

import { otherLean, type Lean } from '../stitches/face.js';
import { methodOf, type TwistMethod, type TwistWay } from '../stitches/twist.js';
import { crossingOfLoose } from './reader/loose.js';
import { repeatColumns, repeatsAcross } from '../chart/frame.js';
import { jogsFrom } from '../chart/lines.js';
import { LIMITS, type Chart } from '../chart/schema.js';
import { stitchBook, stitchId, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { modulo } from '../values.js';
import type { Item } from './pattern.js';
import { assemble, type ReadOptions } from './reader/assemble.js';
import { attempt, type Attempt, type Reader } from './reader/attempt.js';
import { castOns } from './reader/cast-on.js';
import { compared, repeatCompared, gains, repeatFails } from './reader/compare.js';
import { NOT_COMPARED, readKey, SAID, type KeyRead } from './reader/define.js';
import { quoted, type Span } from './reader/language.js';
import { plainWord, stitchesNamed, TooMuchWork, WordProblem, type Lexicon } from './reader/lexicon.js';
import { MOST_PROBLEMS, readLines, type Aside, type PatternLines, type Problem } from './reader/lines.js';
import { withGapsFilled, type Order, type PlacedRow } from './reader/order.js';
import { planned, withPlan } from './reader/plan.js';
import { keyOutside, sectionsOf, type Section } from './reader/sections.js';
import { placeRows, setting } from './reader/setting.js';

export type { ReadOptions };

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
    return nothing([{ id: 'too-much-work', level: 'error', message }]);
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

const nothing = (problems: Problem[], asides: Aside[] = []): Reading => ({
  chart: null,
  problems,
  questions: questionsOf(problems),
  asides,
  names: {},
  twist: null,
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
      const name = plainWord(item.word, side, stitchBook())?.base ?? item.word.toLowerCase();
      used.set(name, (used.get(name) ?? new Set<Side>()).add(side));
    }
  };
  for (const { body, side } of rows) if (body?.type === 'items') look(body.items, side);
  return used;
}

/** Names that mean nothing, or more than one thing: each is asked about once, where it is first met. */
function nameProblems({ rows, lexicon, placeOf }: Reader): Problem[] {
  const found = new Map<string, Problem>();
  const look = (items: readonly Item[], placed: PlacedRow, row: number): void => {
    const { label, side, line } = placed;
    for (const item of items) {
      if (item.type === 'star' || item.type === 'group') look(item.items, placed, row);
      if (item.type !== 'word' || item.spelled) continue;
      const name = item.word.toLowerCase();
      if (found.has(name) || lexicon.told?.has(name) || lexicon.blocked?.has(name)) continue;
      try {
        stitchesNamed(item.word, side, lexicon);
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

/** Prose that names a word of the rows is no prose: it may tell how the word is worked. */
function readProse(
  lines: PatternLines,
  used: ReadonlyMap<string, unknown>,
  key: KeyRead,
): { problems: Problem[]; asides: Aside[] } {
  const names = [...used.keys()].filter(
    (name) => isOwnName(name) && !key.defined.has(name) && !key.told.has(name),
  );
  const problems: Problem[] = [];
  const asides: Aside[] = [];
  // A line that looks like one of the key, and tells no word of the rows, may tell of one nevertheless.
  const left = key.left.filter(({ why }) => why !== SAID && why !== NOT_COMPARED).map(({ line }) => line.at);
  for (const at of [...lines.prose, ...left]) {
    const isKey = left.includes(at);
    const text = lines.text.slice(at.from, at.to);
    const named = names.find((name) => speaksOf(text.toLowerCase(), name)) ?? rowWordIn(text, isKey);
    if (named !== undefined && problems.length < MOST_PROBLEMS)
      problems.push({
        id: 'line-not-read',
        level: 'error',
        message: `${quoted(text, 60)} speaks of "${named}", ${names.includes(named) ? 'which the rows use' : 'as rows do'}, and was not understood. Tell it as a row or a line of the key, or take it out.`,
        at,
      });
    else if (!isKey && asides.length < MOST_PROBLEMS)
      asides.push({ ...at, text: text.slice(0, 120), why: 'it says nothing of the rows' });
  }
  return { problems, asides: [...lines.asides, ...asides] };
}

/** What a line of prose says as only rows do: a counted run, or so many rows of one stitch. Steps of a key have runs too. */
const rowWordIn = (text: string, isKey: boolean): string | undefined =>
  (isKey ? null : /(?<![A-Za-z0-9/-])[kp]\d+(?![A-Za-z0-9/-])/i.exec(text))?.[0] ??
  /\b(?:knit|purl)\s+(?:\d+|two|three|four|five|six)\s+(?:rows|rounds|rnds)\b/i.exec(text)?.[0];

/** Whether a word is a name that only a key or a school explains, and no word of everyday prose. */
const isOwnName = (name: string): boolean =>
  plainWord(name, 'RS', stitchBook()) === null &&
  plainWord(name, 'WS', stitchBook()) === null &&
  name.length > 1;

/** Whether a text has a name as words of its own. */
function speaksOf(text: string, name: string): boolean {
  for (let at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1))
    if (!/[a-z0-9]/.test(text[at - 1] ?? ' ') && !/[a-z0-9]/.test(text[at + name.length] ?? ' ')) return true;
  return false;
}

/** The lines of a text, and the rows of the piece in their places. */
export function linesPlaced(text: string, given: ReadOptions) {
  const written = readLines(text, { keyText: given.keyText });
  const filled = withGapsFilled(written.pattern.rows, written.again);
  const lines: PatternLines = {
    ...written,
    pattern: { ...written.pattern, rows: [...filled.lines] },
    again: filled.again,
  };
  const set = setting(lines, given);
  return { lines, set, placed: placeRows(lines, set.options) };
}

function readWithin(text: string, given: ReadOptions, budget: { left: number }): Reading {
  const { lines, set, placed } = linesPlaced(text, given);
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
    return nothing(problems.slice(0, MOST_PROBLEMS), readProse(lines, new Map(), emptyKey).asides);
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
  const prose = readProse(lines, used, key);
  const asides = [
    ...prose.asides,
    ...key.left.map(({ line: { at }, why }) => ({
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
  if (!best && reader.rows[0]?.body)
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
  return { chart: done.chart, problems: told(), questions: [], asides, names, twist };
}

const emptyKey: KeyRead = { defined: new Map(), told: new Map(), blocked: new Set(), problems: [], left: [] };

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
  return lines.key.find(({ line }) => line.word.toLowerCase() === name)?.line.word ?? name ?? '';
}

import { expandRow, repeatColumns, repeatsAcross, timesOf } from '../chart/frame.js';
import { jogsFrom } from '../chart/lines.js';
import { LIMITS, type Chart } from '../chart/schema.js';
import { sideOf } from '../construction/construction.js';
import { freshNeedle } from '../needle/needle.js';
import { sameStitch, stitchBook, stitchId, takesOf, type Stitch } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Side } from '../stitches/face.js';
import { modulo } from '../values.js';
import type { Item } from './pattern.js';
import { assemble, type ReadOptions } from './reader/assemble.js';
import { attempt, type Attempt, type Reader } from './reader/attempt.js';
import { NOT_COMPARED, readKey, SAID, type KeyRead } from './reader/define.js';
import { turned } from './reader/hands.js';
import { plainWord, stitchesNamed, TooMuchWork, WordProblem, type Lexicon } from './reader/lexicon.js';
import {
  MOST_PROBLEMS,
  quoted,
  readLines,
  type Aside,
  type PatternLines,
  type Problem,
} from './reader/lines.js';
import { numberRows, orderOf, spokenOf, withGapsFilled, type Order, type PlacedRow } from './reader/order.js';
import { planned, withPlan, type Planned } from './reader/plan.js';
import type { Span } from './reader/language.js';
import { keyOutside, sectionsOf, type Section } from './reader/sections.js';
import { RowProblem, takesByItself, workWords } from './reader/work.js';

export type { ReadOptions };

const MOST_REPEATS_TRIED = 60;
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

/** The side of the first row, and how it is worked, as the text says them; and where it contradicts itself. */
function setting(lines: PatternLines, options: ReadOptions): { options: ReadOptions; problems: Problem[] } {
  const problems: Problem[] = [];
  const { head, rows } = lines.pattern;
  const tell = (message: string, at?: Problem['at']) =>
    problems.push({ id: 'construction-differs', level: 'error', message, at });
  const sided = rows.find((line) => line.side !== null || (line.rest && 'side' in line.rest));
  const round = rows.find((line) => line.kind === 'round');
  const { construction: said } = head;
  if (said === 'flat' && round)
    tell('The text says that it is worked flat, and calls its rows rounds.', lines.placeOf(round));
  const isRound = said
    ? said === 'round'
    : round !== undefined
      ? true
      : options.construction === 'round' && !sided;
  const wrongSide = rows.find(
    (line) => line.side === 'WS' || (line.rest && 'side' in line.rest && line.rest.side === 'WS'),
  );
  if (isRound && wrongSide)
    tell(
      'The text is worked in the round, where there are no wrong-side rows, and speaks of one.',
      lines.placeOf(wrongSide),
    );
  const construction = isRound ? 'round' : 'flat';
  if (construction !== options.construction)
    problems.push({
      id: 'construction-taken',
      level: 'note',
      message: `It is read as its words say: ${isRound ? 'worked in the round' : 'worked flat'}.`,
    });
  return { options: { ...options, construction }, problems };
}

/** The rows of a text in order, with the first row on the side that the text says. */
function placeRows(
  lines: PatternLines,
  options: ReadOptions,
): { order: Order; options: ReadOptions; problems: Problem[] } {
  const numbered = numberRows(lines.pattern.rows, lines.placeOf);
  const spoken = spokenOf(lines.pattern.plan, lines.again);
  const orderFrom = (firstRow: Side) =>
    orderOf(lines.pattern.rows, numbered, { ...spoken, to: Math.min(spoken.to, LIMITS.rows + 1) }, (place) =>
      sideOf({ ...options, firstRow }, place - 1),
    );
  const { problems } = numbered;
  if (options.construction === 'round') return { order: orderFrom('RS'), options, problems };
  const first = orderFrom(options.firstRow);
  const at = first.rows.findIndex(
    ({ line, number }) => line?.side && (number === null || line.numbers.includes(number)),
  );
  const says = first.rows[at]?.line?.side;
  // A line for all rows of one side says it of the first of them.
  const shared = lines.pattern.rows.find((l) => l.rest && 'side' in l.rest && l.numbers.length);
  const sharedAt = shared && !says ? first.placeOf(shared.numbers[0]!) : null;
  const side = says ?? (sharedAt && shared?.rest && 'side' in shared.rest ? shared.rest.side : null);
  const place = says ? at + 1 : sharedAt;
  if (!side || !place) return { order: first, options, problems };
  const firstRow: Side = (place % 2 === 1) === (side === 'RS') ? 'RS' : 'WS';
  if (firstRow === options.firstRow) return { order: first, options, problems };
  return {
    order: orderFrom(firstRow),
    options: { ...options, firstRow },
    problems: [
      ...problems,
      {
        id: 'first-side-taken',
        level: 'note',
        message: `Row 1 is read as a ${firstRow} row, as the text says.`,
      },
    ],
  };
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

/** Loops the first row takes: its head, one pass of its star, and its tail; null when it does not say. */
function firstRowTakes({ rows, lexicon }: Reader): { fixed: number; repeat: number } | null {
  const [first] = rows;
  if (!first?.body || first.body.type !== 'items') return null;
  const takes = (row: readonly Stitch[]) => row.reduce((sum, s) => sum + takesOf(s, lexicon.book), 0);
  try {
    const fixed = takesByItself(first.body, first.side, lexicon);
    if (fixed !== null) return { fixed, repeat: 0 };
  } catch (error) {
    if (error instanceof WordProblem) return null;
    throw error;
  }
  for (let castOn = 1; castOn <= LIMITS.columns; castOn++) {
    try {
      const { stitches, star } = workWords(first.body, freshNeedle(castOn), first.side, lexicon);
      if (!star) return { fixed: takes(stitches), repeat: 0 };
      return { fixed: takes(star.head) + takes(star.tail), repeat: takes(star.body) };
    } catch (error) {
      if (error instanceof WordProblem) return null;
      if (!(error instanceof RowProblem)) throw error;
    }
  }
  return null;
}

/** Whether a row goes as far as there are stitches, whatever their number. */
const isOpen = ({ body }: PlacedRow): boolean =>
  body !== null &&
  (body.type !== 'items' ||
    body.items.some((i) => i.type === 'rest' || (i.type === 'present' && i.n === null)));

/** The cast-ons worth trying, smallest first: the stated one alone, or those that the text and its rows allow. */
function castOns(lines: PatternLines, reader: Reader): number[] {
  const { castOn, multiple } = lines.pattern;
  if (castOn) return [castOn.stitches];
  if (lines.panel) return [lines.panel.stitches];
  const ups = (fixed: number, by: number) =>
    Array.from({ length: MOST_REPEATS_TRIED }, (_, i) => fixed + (i + 1) * by);
  const fits = (n: number) => !multiple || multiple.of < 1 || modulo(n - multiple.plus, multiple.of) === 0;
  const tried = (row: PlacedRow): number[] => {
    const told = isOpen(row) ? null : firstRowTakes({ ...reader, rows: [row] });
    return told ? (told.repeat ? ups(told.fixed, told.repeat) : [told.fixed]) : [];
  };
  const [first] = reader.rows as [PlacedRow];
  if (first.body && !isOpen(first)) {
    const tries = tried(first);
    const fitting = tries.filter(fits);
    if (tries.length) return fitting.length ? fitting : tries;
  }
  // A first row that fits any needle: a count says which, or the multiple, or a row that is counted out.
  const counts = reader.rows.flatMap(({ line }) => (typeof line?.count === 'number' ? [line.count] : []));
  if (counts.length) return counts.slice(0, 1);
  if (multiple && multiple.of > 0) return ups(multiple.plus, multiple.of);
  return [
    ...new Set(
      reader.rows
        .slice(1)
        .map(tried)
        .filter((t) => t.length)
        .slice(0, 4)
        .flat(),
    ),
  ];
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
    const named = names.find((name) => speaksOf(text.toLowerCase(), name));
    if (named !== undefined && problems.length < MOST_PROBLEMS)
      problems.push({
        id: 'line-not-read',
        level: 'error',
        message: `${quoted(text, 60)} speaks of "${named}", which the rows use, and was not understood. Tell it as a line of the key, or take it out.`,
        at,
      });
    else if (!isKey && asides.length < MOST_PROBLEMS)
      asides.push({ ...at, text: text.slice(0, 120), why: 'it says nothing of the rows' });
  }
  return { problems, asides: [...lines.asides, ...asides] };
}

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

/** What the text states of the whole, compared with what its rows come to. */
function compared(
  lines: PatternLines,
  castOn: number,
  chart: Chart,
  tried: Attempt,
  reader: Reader,
): Problem[] {
  const problems: Problem[] = [];
  const tell = (id: string, message: string, at?: Problem['at']) =>
    problems.push({ id, level: 'error', message, at });
  const { multiple, castOn: stated } = lines.pattern;
  const { panel } = lines;
  if (panel && castOn !== panel.stitches)
    tell(
      'panel-differs',
      `The text speaks of ${panel.stitches} stitches, and its rows begin on ${castOn}.`,
      panel.at,
    );
  if (multiple) {
    const { of, plus } = multiple;
    if (of < 1) tell('multiple-differs', 'A multiple of no stitches cannot be.');
    else if (modulo(castOn - plus, of) !== 0)
      tell(
        'multiple-differs',
        `A multiple of ${of} plus ${plus} is stated; the rows begin on ${castOn} stitches.`,
      );
    else if (!tried.problems.length) {
      const more = attempt(reader, castOn + of);
      const failed = more.problems.find((p) => p.id !== 'count-differs');
      if (failed)
        tell(
          'multiple-differs',
          `A multiple of ${of} plus ${plus} is stated, but the rows do not come out on ${castOn + of} stitches: ${failed.message}`,
        );
    }
    if (multiple.least !== null && castOn < multiple.least)
      tell(
        'multiple-differs',
        `At least ${multiple.least} stitches are stated; the rows begin on ${castOn}.`,
      );
  }
  // Where the repeat is taken to begin is the designer's to say; more repeats than there are stitches cannot be.
  if (typeof stated?.repeats === 'number' && repeatsAcross(chart)) {
    const most = Math.floor(castOn / takenByRepeat(chart));
    if (stated.repeats > most)
      tell('repeats-differ', `The cast-on is said to be ${stated.repeats} repeats; it holds ${most}.`);
  }
  return problems;
}

/** Why a chart's repeat does not hold for the words: worked on one repeat and on two more, they make something else. */
function repeatFails(chart: Chart, castOn: number, reader: Reader): string | null {
  const period = takenByRepeat(chart);
  if (!period) return 'it takes no stitches.';
  for (const more of [1, 2]) {
    const tried = attempt(reader, castOn + more * period);
    const [failed] = tried.problems.filter((p) => p.id !== 'count-differs');
    if (failed)
      return `on ${castOn + more * period} stitches ${failed.message.charAt(0).toLowerCase()}${failed.message.slice(1)}`;
    for (const [r, row] of tried.rows.entries()) {
      const wanted = expandRow(chart, r, timesOf(chart) + more)?.filter((s) => s !== NO_STITCH);
      const read = row && turned(row.stitches, reader.rows[r]!.side, reader.lexicon.hand);
      if (
        !wanted ||
        !read ||
        wanted.length !== read.length ||
        wanted.some((s, i) => !sameStitch(s, read[i]!))
      )
        return `${reader.rows[r]!.label.toLowerCase()} makes something else on ${castOn + more * period} stitches.`;
    }
  }
  return null;
}

/** Loops the repeat takes in row 1. */
function takenByRepeat(chart: Chart): number {
  const [one, two] = [1, 2].map((times) =>
    (expandRow(chart, 0, times) ?? []).reduce((sum, s) => sum + takesOf(s, stitchBook()), 0),
  ) as [number, number];
  return two - one;
}

/** A repeat up must leave as many stitches as it begins with. */
function gains({ plan, open }: Planned, { needles, problems }: Attempt, rows: Order['rows']): Problem[] {
  const stretch = open ?? plan?.find(({ times }) => times > 1);
  if (!stretch || problems.length) return [];
  const [before, after] = [needles[stretch.from - 1], needles[stretch.to]];
  if (before === undefined || after === undefined || before === after) return [];
  return [
    {
      id: 'repeat-gains',
      level: 'error',
      row: stretch.to,
      message: `The rows from ${rows[stretch.from - 1]!.label.toLowerCase()} to ${rows[stretch.to - 1]!.label.toLowerCase()} are repeated, but begin with ${before} stitches and end with ${after}.`,
    },
  ];
}

function readWithin(text: string, given: ReadOptions, budget: { left: number }): Reading {
  const written = readLines(text, { keyText: given.keyText });
  const filled = withGapsFilled(written.pattern.rows, written.again);
  const lines: PatternLines = {
    ...written,
    pattern: { ...written.pattern, rows: [...filled.lines] },
    again: filled.again,
  };
  const set = setting(lines, given);
  const placed = placeRows(lines, set.options);
  const { order, options } = placed;
  const height = order.rows.length;
  const problems = [...lines.problems, ...set.problems, ...placed.problems];
  if (!lines.pattern.rows.length) {
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
  }
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
  if (!chart) return { ...nothing(told(), asides), names };
  problems.push(...compared(lines, castOn, chart, best.attempt, reader));
  const plan = planned(lines.pattern, lines.again, order);
  problems.push(...plan.problems, ...gains(plan, best.attempt, order.rows));
  const done = withPlan(chart, plan);
  problems.push(...done.problems);
  return { chart: done.chart, problems: told(), questions: [], asides, names };
}

const emptyKey: KeyRead = { defined: new Map(), told: new Map(), blocked: new Set(), problems: [], left: [] };

/** The name of a crossing as the key writes it. */
function nameIn(lines: PatternLines, crossing: Stitch, { defined }: KeyRead): string {
  const id = stitchId(crossing);
  const name = [...defined].find(([, c]) => stitchId(c) === id)?.[0];
  return lines.key.find(({ line }) => line.word.toLowerCase() === name)?.line.word ?? name ?? '';
}

import {
  hasJogs,
  castOnOf,
  countsOf,
  expandRow,
  lowestMultiple,
  linesAcross,
  markerMoved,
  multiplesOf,
  endOf,
  planOf,
  repeatRows,
  repeatsAcross,
  repeatsIn,
  sectionsOf,
  timesOf,
} from '../chart/frame.js';
import { rowUse, takesOfAll } from '../chart/rows.js';
import { bookOf, type Chart, type Settings } from '../chart/schema.js';
import type { TwistMethod } from '../stitches/twist.js';
import { unfold } from '../chart/unfold.js';
import {
  saysBothCount,
  isAmong,
  sideOf,
  takesTurns,
  wayOf,
  type Alike,
  type WayId,
} from '../construction/index.js';
import { nameOf, schoolName } from '../names/schools.js';
import type { Needle } from '../needle/loop.js';
import { presents } from '../needle/carry.js';
import { castOnNeedle, workAgain, workChart } from '../needle/needle.js';
import { memory } from '../remember.js';
import { sameStitches } from '../chart/steps.js';
import { isCrossing, stitchId, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { fold } from './fold.js';
import { ribsWhole, type WordRun } from './ribs.js';
import { keyOf, type KeyEntry, type KeyPart, type Used } from './key.js';
import { bandLines, bandWords } from './bands.js';
import { cableMoves, twistBy } from './moves.js';
import type { Body, Item, Multiple, Pattern, Planned, RowLine } from './pattern.js';
import { itemsText, patternText, rowText, rowWordsText } from './render.js';
import { ABBREVIATED, mannerOf, type Manner } from './manner.js';
import { dictionOf, itemOf, beginsRight, runOf, wordOf, workingOrder, type Diction } from './vocabulary.js';

export type WordSettings = Pick<
  Settings,
  'school' | 'names' | 'hand' | 'style' | 'twist' | 'twistNames' | 'cableless' | 'bobble'
>;

/** One written row: its words, its full line and the loops it leaves at the designer's number of repeats. */
export interface WrittenRow {
  row: number;
  side: Side;
  words: string;
  text: string;
  count: number;
}

/** The written pattern of one chart: the tree, its text, and what a page shows of it. */
export interface Written {
  pattern: Pattern;
  text: string;
  rows: WrittenRow[];
  castOn: number;
  /** In lowest form; `of` is 0 where nothing repeats. */
  multiple: { of: number; plus: number };
  /** The fewest stitches, where the multiple alone would allow fewer. */
  least: number | null;
  key: KeyEntry[];
}

/** Stitches as items in working order: runs of one counted word joined, adjoining equal groups in brackets. */
export function phrase(stitches: readonly Stitch[], side: Side, diction: Diction): Item[] {
  const order = workingOrder(stitches, side, diction);
  // What is short depends on what is printed: a stitch, or a pair of them.
  const measure = mannerOf(ABBREVIATED, { construction: diction.way.id as WayId });
  const items: Item[] = [];
  const runs: WordRun[] = [];
  const itemsOfRuns = (some: readonly WordRun[]) => some.map(({ word, n }) => runOf(word, n, diction));
  const endRuns = () => {
    const length = (some: readonly WordRun[]) => itemsText(fold(itemsOfRuns(some), measure), measure).length;
    items.push(...itemsOfRuns(runs.length > MOST_PARTED ? runs : ribsWhole(runs, length)));
    runs.length = 0;
  };
  for (let i = 0; i < order.length;) {
    const stitch = order[i]!;
    const word = wordOf(stitch, side, diction);
    let n = 1;
    if (word?.includes('#')) {
      while (order[i + n] === stitch) n++;
      runs.push({ word, n });
    } else {
      endRuns();
      items.push(itemOf(stitch, side, diction));
    }
    i += n;
  }
  endRuns();
  return fold(items, measure);
}

/** Past so many runs side by side a line is no rib that anyone reads as a whole. */
const MOST_PARTED = 400;

/**
 * The items of one row. The repeat stands between an asterisk and "rep from * to last r sts", where r is
 * what the tail takes; which end is the tail depends on the way the row is met. A row cut in the middle of a
 * crossing cannot be written as a repeat and is written as drawn.
 */
function itemsOf(chart: Chart, r: number, diction: Diction): Item[] {
  const side = sideOf(chart, r);
  const rightFirst = beginsRight(side, diction);
  const moved = markerMoved(chart, r);
  const marker: Item[] = moved ? [{ type: 'marker', by: rightFirst ? moved : -moved }] : [];
  const verb = verbOf(chart.rows[r]!, side, diction);
  if (verb) return [...marker, verb];
  const cut = repeatsAcross(chart) ? sectionsOf(chart, r) : null;
  if (!cut || !cut.repeat.length) return [...marker, ...phrase(chart.rows[r]!, side, diction)];
  const [head, rest] = rightFirst ? [cut.before, cut.after] : [cut.after, cut.before];
  const tail = withoutRepeat(cut.repeat, rest, rightFirst, diction);
  const body = phrase(cut.repeat, side, diction);
  const last = takesOfAll(tail, diction.book);
  return [
    ...marker,
    ...phrase(withoutRepeat(cut.repeat, head, !rightFirst, diction), side, diction),
    ...(body.length ? [{ type: 'star' as const, items: body, until: { last } }] : []),
    ...phrase(tail, side, diction),
  ];
}

const VERBS: Readonly<Record<'k' | 'p', Item>> = {
  k: { type: 'rest', word: 'k', last: 0 },
  p: { type: 'rest', word: 'p', last: 0 },
};

/** A row of nothing but knit, or purl, as the hands work it: one word says it, whatever the number of stitches. */
function verbOf(row: readonly Stitch[], side: Side, diction: Diction): Item | null {
  const worked = row.filter((s) => s !== NO_STITCH);
  const [first] = worked;
  if (worked.length < 2 || (first !== 'k' && first !== 'p') || worked.some((s) => s !== first)) return null;
  return VERBS[wordOf(first, side, diction) === 'k#' ? 'k' : 'p'];
}

/**
 * What stands beside the repeat, without what right beside it is only the repeat again: that joins it. `isAfter` where it stands to the left of it.
 */
function withoutRepeat(
  repeat: readonly Stitch[],
  rest: readonly Stitch[],
  isAfter: boolean,
  { book }: Diction,
): readonly Stitch[] {
  const n = repeat.length;
  // A star that took no loop, or left as many as it found, would not end where it is told to.
  if (takesOfAll(repeat, book) === 0) return rest;
  let tail = rest;
  for (;;) {
    const next = isAfter ? tail.slice(0, n) : tail.slice(-n);
    if (next.length < n || !sameStitches(next, repeat)) return tail;
    tail = isAfter ? tail.slice(n) : tail.slice(0, -n);
  }
}

const rememberItems = memory<Item[]>();

/** The words of a row of the chart as items. */
export function wordsOf(chart: Chart, r: number, diction: Diction): Item[] {
  return rememberItems(
    chart.rows[r]!,
    [sideOf(chart, r), diction, markerMoved(chart, r), ...linesAcross(chart, r)],
    () => itemsOf(chart, r, diction),
  );
}

/** The words of a row of the chart as text. */
export const wordsOfRow = (chart: Chart, r: number, diction: Diction, manner: Manner): string =>
  itemsText(wordsOf(chart, r, diction), manner);

/**
 * The rows that may be worked as they present, each time they are worked, and with one repeat more: where rows begin
 * theirs at different places, what lies over what shows only then.
 */
function presentedRows(chart: Chart): boolean[] {
  const once = presentedAsDrawn(chart);
  if (!hasJogs(chart) || !once.includes(true)) return once;
  const twice = presentedAsDrawn(unfold(chart, 2, 1).chart);
  return once.map((is, r) => is && twice[r]!);
}

function presentedAsDrawn(chart: Chart): boolean[] {
  const works = workChart(chart);
  const repeat = repeatRows(chart);
  const again = repeat
    ? workAgain(chart, works.slice(repeat.first, repeat.last + 1), works[repeat.last]!.loops)
    : [];
  // Where all rows are of one side there is none that only follows the other.
  if (!takesTurns(wayOf(chart))) return chart.rows.map(() => false);
  return chart.rows.map((_, r) => {
    if (sideOf(chart, r) === 'RS' || r === 0 || !presents(chart, r, works[r - 1]!.loops)) return false;
    // Where the last pass ends part-way, the rows behind it follow the row it ends with.
    if (repeat && r === repeat.last + 1 && endOf(chart))
      return presents(chart, r, again[endOf(chart) - 1]!.loops);
    if (!repeat || r < repeat.first || r > repeat.last) return true;
    const below = r === repeat.first ? works[repeat.last]! : again[r - 1 - repeat.first]!;
    return presents(chart, r, below.loops);
  });
}

const isUneven = (c: Stitch): boolean =>
  isCrossing(c) && (c.front.length !== c.back.length || c.centre.length > 0);

/**
 * Crossings that are spelled out behind their name where they are first met: the uneven, and those she named. One
 * that is worked without a cable needle is told in the key alone.
 */
function toSpell(s: Stitch, side: Side, diction: Diction, twist: TwistMethod): boolean {
  if (!isCrossing(s) || twistBy(twist, s, side, diction.hand)) return false;
  const name = nameOf(s, diction.naming, side);
  if (name === null) return false;
  const { school, ...told } = diction.naming;
  return isUneven(s) || name !== schoolName(s, school, { ...told, side });
}

/** The items with the steps of these crossings behind the first of each; those found leave `fresh`. */
function spell(items: readonly Item[], side: Side, fresh: Map<string, Stitch>, diction: Diction): Item[] {
  return items.map((item): Item => {
    if (item.type === 'group' || item.type === 'star')
      return { ...item, items: spell(item.items, side, fresh, diction) };
    const stitch = item.type === 'word' ? fresh.get(item.word) : undefined;
    if (item.type !== 'word' || stitch === undefined || !isCrossing(stitch)) return item;
    fresh.delete(item.word);
    return { ...item, spelled: cableMoves(stitch, side, diction.hand) };
  });
}

/** A row joined to an equal one says "as row 2" where its own words are longer than that. */
const LONG_WORDS = 24;

interface Line {
  side: Side;
  body: Body;
  /** Its words where it stands by itself. */
  own: Body;
  count: number;
}

/** What each row says: its words, that it is worked as it presents, or that it is as an earlier row. */
function linesOf(
  chart: Chart,
  diction: Diction,
  isPresented: readonly boolean[],
  { twist, style }: Pick<WordSettings, 'twist' | 'style'>,
): Line[] {
  const times = timesOf(chart);
  const firstOf = new Map<string, number>();
  const spelled = new Set<string>();
  return chart.rows.map((row, r): Line => {
    const side = sideOf(chart, r);
    const { makes: count } = countsOf(chart, r, times);
    if (isPresented[r]) return { side, body: PRESENTED, own: PRESENTED, count };
    const plain = wordsOf(chart, r, diction);
    const text = itemsText(plain);
    const same = firstOf.get(`${side}:${text}`);
    if (same === undefined) firstOf.set(`${side}:${text}`, r + 1);
    else if (style.equal === 'joined')
      return { side, body: { type: 'as', rows: [same] }, own: { type: 'items', items: plain }, count };
    const fresh = new Map<string, Stitch>();
    for (const s of style.spelled === 'first' ? rowUse(row).keys() : [])
      if (isCrossing(s) && !spelled.has(stitchId(s)) && toSpell(s, side, diction, twist)) {
        spelled.add(stitchId(s));
        fresh.set(wordOf(s, side, diction)!, s);
      }
    const items = fresh.size ? spell(plain, side, fresh, diction) : plain;
    const body: Body = { type: 'items', items };
    return { side, body, own: body, count };
  });
}

const PRESENTED: Body = { type: 'presented' };

/** The row, from 1, whose words a row works: its own, or those it is as; 0 where it works what presents. */
const sourceOf = ({ body }: Line, r: number): number =>
  body.type === 'as' ? body.rows[0]! : body.type === 'presented' ? 0 : r + 1;

/** Rows of one kind are told with the first of them where so few are otherwise, and so many not. */
const MOST_OTHERWISE = 3;
const LEAST_SHARED = 4;

/** Rows that share one line, and those of their kind that are told by themselves. */
interface Shared {
  rows: readonly number[];
  rest: Alike;
  but: readonly number[];
}

/** The rows that share a line told with the first of them: all of a side, or in the round all even or all odd ones, but for a few. */
function sharedRows(chart: Chart, lines: readonly Line[], style: WordSettings['style']): Shared[] {
  const way = wayOf(chart);
  const kinds = way.alike.map((alike) => lines.flatMap((_, r) => (isAmong(alike, way, r) ? [r] : [])));
  return kinds.flatMap((kind, i): Shared[] => {
    const [first, second] = kind;
    if (first === undefined || second === undefined) return [];
    const line = lines[first]!;
    // What is only as a row of the other kind is told with that row's likes.
    if (line.body.type === 'as') return [];
    if (line.body.type === 'items' && style.equal === 'apart') return [];
    // Rows of both kinds that say the same stand on one line, with their numbers.
    const isOfKind = (row: number) => kind.includes(row - 1);
    if (lines.some(({ body }, r) => !isOfKind(r + 1) && body.type === 'as' && isOfKind(body.rows[0]!)))
      return [];
    const source = sourceOf(line, first);
    const alike = kind.filter((r) => sourceOf(lines[r]!, r) === source && lines[r]!.count === line.count);
    const but = kind.filter((r) => !alike.includes(r));
    if (but.length && (but.length > MOST_OTHERWISE || alike.length < LEAST_SHARED)) return [];
    // Right-side rows are looked for by their numbers where there are few of them.
    if (i === 1 && alike.length < LEAST_SHARED) return [];
    return [{ rows: alike, but, rest: way.alike[i]! }];
  });
}

/**
 * Rows as lines. Where all of a side, or every other round, are alike (but for a few) they share one; other rows that are
 * as an earlier one and leave as many stitches are told together, with the first of them, unless its words are as short.
 */
function rowLines(chart: Chart, lines: readonly Line[], style: WordSettings['style']): RowLine[] {
  const way = wayOf(chart);
  const { row: kind } = way;
  const shared = new Map(sharedRows(chart, lines, style).flatMap((s) => s.rows.map((r) => [r, s] as const)));
  const told = new Map<unknown, RowLine>();
  const alike = (line: Line) => (line.body.type === 'as' ? `${line.body.rows[0]} ${line.count}` : null);
  const many = new Map<string | null, number>();
  lines.forEach((line, r) => {
    if (!shared.has(r)) many.set(alike(line), (many.get(alike(line)) ?? 0) + 1);
  });
  let last = castOnOf(chart);
  return lines.flatMap((line, r): RowLine[] => {
    const { side, count } = line;
    const isNews = style.counts === 'every' || count !== last;
    last = count;
    const own = shared.get(r);
    // One by itself, with words as short as these, says them.
    const isShort =
      !own &&
      line.body.type === 'as' &&
      many.get(alike(line)) === 1 &&
      rowWordsText({ body: line.own, kind }, ABBREVIATED).length <= LONG_WORDS;
    const body = isShort ? line.own : line.body;
    const key = own ?? (isShort ? null : alike(line));
    const before = key === null ? undefined : told.get(key);
    if (before) {
      if (!own) before.numbers.push(r + 1);
      if (isNews) before.count = count;
      return [];
    }
    const but = own?.but.length ? { but: own.but.map((n) => n + 1) } : {};
    const made: RowLine = {
      kind,
      numbers: [r + 1],
      rest: own ? { ...own.rest, ...but } : null,
      side: !takesTurns(way) || own ? null : side,
      body,
      count: isNews || own ? count : null,
    };
    if (key !== null) told.set(key, made);
    return [made];
  });
}

/** The stitches of the rows whose words are written, by side. */
function usedIn(chart: Chart, lines: readonly Line[]): Used {
  const used = { RS: new Map<string, Stitch>(), WS: new Map<string, Stitch>() };
  lines.forEach(({ side, body }, r) => {
    if (body.type === 'items') for (const s of rowUse(chart.rows[r]!).keys()) used[side].set(stitchId(s), s);
  });
  return used;
}

/** The multiple in lowest form, and those that it changes to. */
function multipleLine(chart: Chart): Multiple | null {
  const lowest = lowestMultiple(chart);
  if (!lowest.of) return null;
  const [, ...changes] = multiplesOf(chart);
  return {
    ...lowest,
    changes: changes.map(({ row, of, plus }) => ({ of, plus: of ? plus % of : plus, after: row })),
  };
}

/** The rows of a chart as they are written, without their key. */
export interface WrittenRows extends Omit<Written, 'text' | 'key'> {
  chart: Chart;
  part: KeyPart;
}

/** How a chart stands in a piece whose rows are told by it. */
export interface Stands {
  isPanel: true;
  /** Rows (from 0) that meet other stitches there than in the chart: they cannot be told as what presents. */
  mustWrite: ReadonlySet<number>;
}

/** How rows follow each other, as it is told: a panel's go on with its piece; and where they are to a length, as often as it takes. */
function plannedOf(
  chart: Chart,
  { length }: Pick<WordSettings['style'], 'length'>,
  stands?: Stands,
): Planned[] {
  const repeat = repeatRows(chart);
  const plan = planOf(chart);
  const height = chart.rows.length;
  if (stands) return repeat ? openPlan(chart) : [{ from: 1, to: height, times: null }];
  if (length !== 'open' || !repeat) return plan;
  const ends = endOf(chart) ? repeat.first + endOf(chart) : repeat.last + 1;
  return openPlan(chart).map((p) => (p.times === null ? { ...p, ends } : p));
}

/** The plan of a chart with its repeat as often as is wished. */
const openPlan = (chart: Chart): Planned[] => {
  const { first, last } = repeatRows(chart)!;
  return planOf(chart).flatMap((p): Planned[] => {
    if (p.from - 1 < first || p.from - 1 > last) return [p];
    return p.to - 1 === last ? [{ from: first + 1, to: last + 1, times: null }] : [];
  });
};

/** Writes the rows of a chart: in working order with counts, and how they follow. The key is yet to come. */
export function writeRows(chart: Chart, settings: WordSettings, stands?: Stands): WrittenRows {
  const diction = dictionOf(chart, settings);
  const construction = wayOf(chart);
  const isPresented =
    settings.style.wsRows === 'presented'
      ? presentedRows(chart).map((is, r) => is && !stands?.mustWrite.has(r))
      : chart.rows.map(() => false);
  const lines = linesOf(chart, diction, isPresented, settings);
  const castOn = castOnOf(chart);
  const { least, ...multiple } = lowestMultiple(chart);
  const pattern: Pattern = {
    head: {
      construction: construction.id,
      bothFaces: saysBothCount(chart),
      names: construction.loops === 2 ? settings.style.pairNames : null,
      hand: settings.hand,
    },
    multiple: multipleLine(chart),
    castOn: {
      stitches: castOn,
      repeats: repeatsIn(castOn, multiple),
      ...(stands?.isPanel && { isPanel: true }),
    },
    rows: rowLines(chart, lines, settings.style),
    bands: bandLines(chart),
    plan: plannedOf(chart, settings.style, stands),
    key: [],
  };
  const { row: kind } = construction;
  const manner = mannerOf(settings.style, pattern.head);
  const byRow = new Map(
    pattern.rows.flatMap((line) => (line.numbers.length === 1 ? [[line.numbers[0]!, line] as const] : [])),
  );
  const rows = lines.map(({ side, own, body, count }, r): WrittenRow => {
    const line = byRow.get(r + 1) ?? {
      kind,
      numbers: [r + 1],
      rest: null,
      side: takesTurns(construction) ? side : null,
      body,
      count: settings.style.counts === 'every' ? count : null,
    };
    return {
      row: r + 1,
      side,
      words: rowWordsText({ body: own, kind }, manner),
      text: rowText(line, manner),
      count,
    };
  });
  const part = { chart, used: usedIn(chart, lines), diction, marks: bandWords(pattern.bands) };
  return { chart, part, pattern, rows, castOn, multiple, least };
}

/** Writes a chart: its rows and its key. Not yet proved. */
export function writeChart(chart: Chart, settings: WordSettings): Written {
  const { part, pattern: rowsOnly, rows, castOn, multiple, least } = writeRows(chart, settings);
  const { lines: key, entries } = keyOf([part], settings);
  const pattern = { ...rowsOnly, key };
  return {
    pattern,
    text: patternText(pattern, mannerOf(settings.style, pattern.head)),
    rows,
    castOn,
    multiple,
    least,
    key: entries,
  };
}

/** The needle before row 1 at a number of repeats. */
export function startingNeedle(chart: Chart, times: number): Needle {
  return castOnNeedle(expandRow(chart, 0, times) ?? chart.rows[0]!, bookOf(chart));
}

import {
  castOnOf,
  countsOf,
  multipleOf,
  rowUse,
  sectionsOf,
  sideOf,
  takesOfAll,
  timesOf,
  expandRow,
} from '../chart/rows.js';
import { repeatRows } from '../chart/frame.js';
import { bookOf, type Chart, type Row, type Settings } from '../chart/schema.js';
import type { Face, Side } from '../stitches/face.js';
import { isCrossing, stitchId, type Stitch } from '../stitches/book.js';
import { castOnNeedle, workAgain, workChart } from '../needle/needle.js';
import { nameOf, schoolName } from '../names/schools.js';
import { phrase } from './fold.js';
import { keyLines, keyOf, type KeyEntry } from './key.js';
import {
  crossingSteps,
  dictionOf,
  readsLeftwards,
  wordOf,
  workingOrder,
  type Diction,
} from './vocabulary.js';

export type WordSettings = Pick<
  Settings,
  'school' | 'names' | 'hand' | 'style' | 'twist' | 'cableless' | 'bobble'
>;

/** One written row: its words, its full line and the loops it leaves at the designer's number of repeats. */
export interface WrittenRow {
  row: number;
  side: Side;
  words: string;
  text: string;
  count: number;
}

/** The written pattern of one chart. */
export interface Written {
  text: string;
  rows: WrittenRow[];
  castOn: number;
  multiple: { of: number; plus: number };
  key: KeyEntry[];
}

function words(stitches: readonly Stitch[], side: Side, diction: Diction): string {
  return phrase(workingOrder(stitches, side, diction.hand).map((s) => wordOf(s, side, diction)));
}

/**
 * The words of one row. The repeat stands between an asterisk and "rep from * to last r sts", where r is
 * what the tail takes; which end is the tail depends on the way the row is met. A row cut in the middle of a
 * crossing cannot be written as a repeat and is written as drawn.
 */
function rowWords(row: Row, side: Side, chart: Chart, diction: Diction): string {
  const cut = chart.across ? sectionsOf(row, chart) : null;
  if (!cut || !cut.repeat.length) return words(row, side, diction);
  const rightFirst = readsLeftwards(side, diction.hand);
  const [head, tail] = rightFirst ? [cut.before, cut.after] : [cut.after, cut.before];
  const first = words(head, side, diction);
  const body = words(cut.repeat, side, diction);
  const last = words(tail, side, diction);
  if (!body) return [first, last].filter(Boolean).join(', ');
  const rest = takesOfAll(tail, diction.book);
  const until = rest === 0 ? 'to end' : rest === 1 ? 'to last st' : `to last ${rest} sts`;
  return `${first ? `${first}, ` : ''}*${body}; rep from * ${until}${last ? `, ${last}` : ''}`;
}

interface Remembered {
  chartKey: string;
  diction: Diction;
  text: string;
}
const remembered = new WeakMap<Row, Map<Side, Remembered>>();

/** The words of a row of the chart, remembered by the row's identity. */
export function wordsOfRow(chart: Chart, index: number, diction: Diction): string {
  const row = chart.rows[index]!;
  const side = sideOf(chart, index);
  const chartKey = chart.across ? `${chart.across.before}:${chart.across.after}:${chart.width}` : '';
  let bySide = remembered.get(row);
  if (!bySide) remembered.set(row, (bySide = new Map()));
  const known = bySide.get(side);
  if (known?.chartKey === chartKey && known.diction === diction) return known.text;
  const text = rowWords(row, side, chart, diction);
  bySide.set(side, { chartKey, diction, text });
  return text;
}

const PRESENTED = 'work the stitches as they present';

/** Whether a row only repeats the faces below: knit the knits and purl the purls. */
function presents(row: Row, below: readonly Face[]): boolean {
  let i = 0;
  for (const s of row) {
    if (s === 'none') continue;
    if (s !== (below[i++] === 'knit' ? 'k' : 'p')) return false;
  }
  return i === below.length;
}

const plural = (n: number) => `${n} ${n === 1 ? 'st' : 'sts'}`;

/** How the rows of a piece follow each other, as one sentence. */
function workingPlan(chart: Chart): string {
  const height = chart.rows.length;
  const Rows = chart.construction === 'round' ? 'rounds' : 'rows';
  const Row = Rows.slice(0, -1);
  const span = (from: number, to: number) => (from === to ? `${Row} ${from}` : `${Rows} ${from}–${to}`);
  if (!chart.up) return `Work ${span(1, height)}.`;
  const { setup, closing, times } = chart.up;
  const parts: string[] = [];
  if (setup) parts.push(`${span(1, setup)} once`);
  parts.push(`${span(setup + 1, height - closing)} ${times === 1 ? 'once' : `a total of ${times} times`}`);
  if (closing) parts.push(`${span(height - closing + 1, height)} once`);
  return `Work ${parts.join(', then ')}.`;
}

const isUneven = (c: Stitch): boolean =>
  isCrossing(c) && (c.front.length !== c.back.length || c.centre.length > 0);

/** Spells a crossing out behind its name where it is first met, if it is uneven or the designer named it. */
function spellFirstUses(rows: { words: string; side: Side; row: Row }[], diction: Diction): void {
  const seen = new Set<string>();
  for (const line of rows) {
    const fresh = [...rowUse(line.row).keys()].filter((s) => isCrossing(s) && !seen.has(stitchId(s)));
    if (!fresh.length) continue;
    for (const s of workingOrder(line.row, line.side, diction.hand)) {
      if (!isCrossing(s) || seen.has(stitchId(s))) continue;
      seen.add(stitchId(s));
      const name = nameOf(s, diction.naming);
      const own = name !== null && name !== schoolName(s, diction.naming.school);
      if (name === null || !(isUneven(s) || own)) continue;
      const found = new RegExp(`(?<![\\w/-])${name.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\w/-])`);
      line.words = line.words.replace(found, (m) => `${m} (${crossingSteps(s, line.side, diction.hand)})`);
    }
  }
}

/** Writes a chart: rows in working order with counts, how they follow, and the key. Not yet proved. */
export function writeChart(chart: Chart, settings: WordSettings): Written {
  const diction = dictionOf(chart, settings);
  const times = timesOf(chart);
  const round = chart.construction === 'round';
  const works = workChart(chart);
  const { style } = settings;
  const repeat = repeatRows(chart);
  const again = repeat
    ? workAgain(chart, works.slice(repeat.first, repeat.last + 1), works[repeat.last]!.faces)
    : [];
  const presented = chart.rows.map((row, r) => {
    if (style.wsRows !== 'presented' || round || sideOf(chart, r) === 'RS' || r === 0) return false;
    if (!presents(row, works[r - 1]!.faces)) return false;
    // What the words say must hold each time the rows are worked.
    if (!repeat || r < repeat.first || r > repeat.last) return true;
    const below = r === repeat.first ? works[repeat.last]! : again[r - 1 - repeat.first]!;
    return presents(row, below.faces);
  });
  const lines = chart.rows.map((row, r) => ({
    row,
    side: sideOf(chart, r),
    words: presented[r] ? PRESENTED : wordsOfRow(chart, r, diction),
  }));
  const firstOf = new Map<string, number>();
  spellFirstUses(lines, diction);
  let last = castOnOf(chart, times);
  const rows = lines.map(({ side, words: said }, r): WrittenRow => {
    const { makes: count } = countsOf(chart.rows[r]!, chart, times);
    const head = round ? `Round ${r + 1}` : `Row ${r + 1} (${side})`;
    const key = `${side}:${lines[r]!.words}`;
    const same = presented[r] ? undefined : firstOf.get(key);
    const isLong = said.length > 24;
    if (same === undefined) firstOf.set(key, r);
    const line = same !== undefined && isLong ? `as ${round ? 'round' : 'row'} ${same + 1}` : said;
    const tally = style.counts === 'every' || count !== last ? ` (${plural(count)})` : '';
    last = count;
    return { row: r + 1, side, words: said, text: `${head}: ${line}.${tally}`, count };
  });
  const key = keyOf(chart, settings, diction);
  const castOn = castOnOf(chart, times);
  const multiple = multipleOf(chart);
  const text = [
    headLine(chart, castOn, multiple, times),
    '',
    ...condensed(rows, presented),
    '',
    workingPlan(chart),
    '',
    'Key',
    ...keyLines(key),
    '',
  ].join('\n');
  return { text, rows, castOn, multiple, key };
}

function headLine(
  chart: Chart,
  castOn: number,
  { of, plus }: { of: number; plus: number },
  times: number,
): string {
  const worked = chart.construction === 'round' ? 'Worked in the round.' : 'Worked flat.';
  if (!of) return `${worked}\nCast on ${plural(castOn)}.`;
  const multiple = `Multiple of ${multipleInWords(chart, of, plus)}${multipleChanges(chart)}.`;
  return `${worked} ${multiple}\nCast on ${plural(castOn)} (${times === 1 ? '1 repeat' : `${times} repeats`}).`;
}

/** What a multiple has besides whole repeats: 8 besides repeats of 6 are 2. */
function plusInWords(of: number, plus: number): string {
  const rest = of ? plus % of : plus;
  return rest ? ` plus ${rest}` : '';
}

/** A multiple in lowest form, with the least count where the form alone would allow fewer: "6 sts plus 2, at least 14". */
function multipleInWords(chart: Chart, of: number, plus: number): string {
  const least = chart.across!.least * of + plus;
  const form = `${plural(of)}${plusInWords(of, plus)}`;
  // The form alone allows one repeat and what is left over.
  return least > of + (plus % of) ? `${form}, at least ${least}` : form;
}

/** The multiple where rows win or lose loops: "; of 10 plus 2 after row 5". */
function multipleChanges(chart: Chart): string {
  let last = multipleOf(chart);
  const row = chart.construction === 'round' ? 'round' : 'row';
  const changes = chart.rows.flatMap((cells, r): string[] => {
    const here = sectionsOf(cells, chart) ? multipleOf(chart, cells) : last;
    if (here.of === last.of && here.plus === last.plus) return [];
    last = here;
    return [`; of ${here.of}${plusInWords(here.of, here.plus)} after ${row} ${r}`];
  });
  return changes.join('');
}

/** When every WS row is worked as it presents, they share one line, told with the first of them. */
function condensed(rows: readonly WrittenRow[], presented: readonly boolean[]): string[] {
  const ws = rows.filter((r) => r.side === 'WS');
  const shared = ws.length > 1 && ws.every((r) => presented[r.row - 1] && r.count === ws[0]!.count);
  if (!shared) return rows.map((r) => r.text);
  return rows.flatMap((r) => {
    if (r.side === 'RS') return [r.text];
    return r === ws[0] ? [`Row ${r.row} and all WS rows: ${PRESENTED}. (${plural(r.count)})`] : [];
  });
}

/** The needle before row 1 at a number of repeats. */
export function startingNeedle(chart: Chart, times: number): Face[] {
  return castOnNeedle(expandRow(chart.rows[0]!, chart, times) ?? chart.rows[0]!, bookOf(chart));
}

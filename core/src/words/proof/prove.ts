import { workedTwice } from '../../chart/frame.js';
import { bookOf, type Chart } from '../../chart/schema.js';
import { errorsIn } from '../../checks/index.js';
import { checkNames } from '../../names/check-names.js';
import { designText, headingOf, patternText } from '../render.js';
import { definedCrossings } from '../reader/define.js';
import type { Lexicon } from '../reader/lexicon.js';
import { MOST_PROBLEMS, readLines, type PatternLines, type Problem } from '../reader/pattern-lines.js';
import { numberRows, type NumberedRows } from '../reader/order.js';
import {
  writeChart,
  writeRows,
  type Stands,
  type WordSettings,
  type Written,
  type WrittenRows,
} from '../write.js';
import { keyOf, type KeyEntry, type KeyPart } from '../key.js';
import { mannerOf } from '../manner.js';
import type { KeyLine, Pattern } from '../pattern.js';
import { proveBands } from './prove-bands.js';
import { proveHead } from './prove-head.js';
import { proveKey, type ProvedRows } from './prove-key.js';
import { Charted } from './charted.js';
import { Problems } from './problems.js';
import { proveLines, proveRows } from './prove-rows.js';

/** What the words were held against. */
export interface Proof {
  /**
   * True only when every field of the text says what the chart does, every row, read back and worked through the
   * whole plan at each number of repeats, gave the chart's stitches, and the text says nothing else.
   */
  checked: boolean;
  /** The numbers of repeats the rows were worked at. */
  against: number[];
  problems: Problem[];
}

/** One chart's part of a text, read back and held against the chart; what of the key it needs is left to the caller. */
function proveRowsOf(
  { pattern, problems: notRead }: PatternLines,
  chart: Chart,
  defined: Lexicon['defined'],
  { school, hand, style }: WordSettings,
  isPanel: boolean,
  problems: Problems,
): ReadRows {
  // By what the text itself says that numbers count.
  const each = [pattern.head.names === 'loops' ? 2 : 1];
  const lexicon: Lexicon = { school, hand, each, book: bookOf(chart), defined };
  const rows = numberRows(pattern.rows);
  const piece = new Charted(chart);
  problems.list.push(...notRead, ...rows.problems);
  proveHead(pattern, piece, hand, style, isPanel, problems);
  proveLines(pattern.rows, rows, piece, problems);
  proveRows(pattern.rows, rows, piece, lexicon, style, problems);
  proveBands(pattern.bands, piece, problems);
  return { rows: pattern.rows, bands: pattern.bands, piece, lexicon, numbered: rows, plan: pattern.plan };
}

/** The rows of a chart as they were read back. */
export interface ReadRows extends ProvedRows {
  piece: Charted;
  numbered: NumberedRows;
  plan: Pattern['plan'];
}

const ownWordsOf = (charts: readonly Chart[]): Set<string> =>
  new Set(charts.flatMap(({ own }) => own.flatMap((o) => [o.rs.toLowerCase(), o.ws.toLowerCase()])));

/**
 * Reads a written pattern back by the reader, which shares nothing with the writer but the trade's words,
 * works it on a needle and compares every printed field with the chart.
 */
export function proveText(text: string, chart: Chart, settings: WordSettings): Proof {
  const { checked, problems } = proveDesignText(text, [chart], [''], settings);
  return { checked, against: new Charted(chart).tried, problems };
}

/** The rows of a chart as a text by themselves, proved; the key that they need is told elsewhere. */
export function proveRowsText(
  text: string,
  chart: Chart,
  defined: Lexicon['defined'],
  settings: WordSettings,
  isPanel = false,
): { rows: ReadRows; problems: Problem[] } {
  const problems = new Problems();
  const read = readLines(text, { ownWords: ownWordsOf([chart]), isOwn: true });
  const rows = proveRowsOf(read, chart, defined, settings, isPanel, problems);
  proveNothingElse(text, patternText(read.pattern, mannerOf(settings.style)), problems);
  return { rows, problems: problems.list };
}

/** The text of a design taken apart where its charts begin; null where their headings are not there in order. */
function sectionsOfText(text: string, names: readonly string[]): string[] | null {
  const found: string[] = [];
  let rest = text;
  for (const [i, name] of names.entries()) {
    const head = `${headingOf(name)}\n\n`;
    const at = i === 0 ? (rest.startsWith(head) ? 0 : -1) : rest.indexOf(`\n${head}`);
    if (at < 0) return null;
    // What stands between two headings belongs to the first of them.
    if (i > 0) found.push(rest.slice(0, at));
    rest = rest.slice(at + head.length + (i > 0 ? 1 : 0));
  }
  return [...found, rest];
}

/** What else a design prints that its one key must tell: rows of the piece, read with the names that the key defines. */
export interface Besides {
  /** Of each chart, whether it is a panel of the piece. */
  isPanel: readonly boolean[];
  prove: (
    charts: readonly ReadRows[],
    defined: Lexicon['defined'],
  ) => { rows: ProvedRows[]; problems: Problem[] };
}

/** The same for the text of a whole design: each chart under its name where there are several, and one key for all of them. */
export function proveDesignText(
  text: string,
  charts: readonly Chart[],
  names: readonly string[],
  settings: WordSettings,
  besides?: Besides,
): Omit<Proof, 'against'> {
  const problems = new Problems();
  const isOne = charts.length === 1;
  const sections = isOne ? [text] : sectionsOfText(text, names);
  if (!sections) {
    problems.tell('charts-differ', 'The words do not give the charts under their names, in their order.');
    return { checked: false, problems: problems.list };
  }
  const read = sections.map((section) => readLines(section, { ownWords: ownWordsOf(charts), isOwn: true }));
  // The key stands once, after the last chart.
  const { key } = read.at(-1)!.pattern;
  const { defined, problems: keyProblems } = definedCrossings(key, settings.hand);
  problems.list.push(...keyProblems);
  const parts = read.map((section, i) => {
    const own = new Problems();
    const part = proveRowsOf(section, charts[i]!, defined, settings, besides?.isPanel[i] ?? false, own);
    problems.list.push(...own.list.map((p) => (isOne ? p : { ...p, message: `${names[i]!}: ${p.message}` })));
    return part;
  });
  const others = besides?.prove(parts, defined);
  problems.list.push(...(others?.problems ?? []));
  proveKey(key, [...parts, ...(others?.rows ?? [])], settings, problems);
  const patterns = read.map(({ pattern }) => pattern);
  const manner = mannerOf(settings.style);
  const said = isOne ? patternText(patterns[0]!, manner) : designText(names, patterns, key, manner);
  proveNothingElse(text, said, problems);
  return { checked: problems.list.length === 0, problems: problems.list.slice(0, MOST_PROBLEMS) };
}

/** What the text holds besides what was read of it would otherwise be sealed unread. */
function proveNothingElse(text: string, read: string, problems: Problems): void {
  if (text === read) return;
  const [lines, understood] = [text.split('\n'), read.split('\n')];
  const at = lines.findIndex((line, i) => line !== understood[i]);
  problems.tell(
    'more-than-read',
    `Line ${(at < 0 ? lines.length : at) + 1} of the words says more, or otherwise, than a pattern does: "${(lines[at] ?? understood[lines.length] ?? '').slice(0, 60)}".`,
  );
}

/** What a chart, or a design of these charts, has wrong with it that no words could be proved for. */
function faultsOf(chart: Chart, settings: WordSettings, before: readonly Chart[] = []): Problem[] {
  // Rows that are repeated to a length are worked more often than the chart may say.
  const worked = settings.style.length === 'open' ? workedTwice(chart) : chart;
  return [...errorsIn(worked), ...checkNames(chart, settings, before)]
    .filter((f) => f.level === 'error')
    .map(({ id, level, row, message }) => ({ id, level, row, message }));
}

/** Writes a chart and proves what was written. A chart with errors is written, but never proved. */
export function writeAndProve(chart: Chart, settings: WordSettings): Written & Proof {
  const written = writeChart(chart, settings);
  const problems = faultsOf(chart, settings);
  if (problems.length) return { ...written, checked: false, against: [], problems };
  return { ...written, ...proveText(written.text, chart, settings) };
}

/** The written words of a design, and what they were held against. */
export interface ProvedDesign {
  /** Each chart as it is printed, under its name where there are several. */
  charts: (Omit<WrittenRows, 'part' | 'chart'> & { id: string; name: string; against: number[] })[];
  key: KeyEntry[];
  /** The key as lines of the text. */
  lines: KeyLine[];
  text: string;
  checked: boolean;
  problems: Problem[];
}

/** What of a piece is written beside its charts. */
export interface WrittenBesides {
  /** How each chart stands in the piece; undefined where it does not. */
  stands: readonly (Stands | undefined)[];
  /** What its rows bring to the key. */
  parts: readonly KeyPart[];
  prove: Besides['prove'];
}

/** Writes the charts of a design in their order, with one key for all and for its piece, and proves what was written. */
export function writeAndProveDesign(
  charts: readonly Chart[],
  names: readonly string[],
  settings: WordSettings,
  besides?: WrittenBesides,
): ProvedDesign {
  const written = charts.map((chart, i) => writeRows(chart, settings, besides?.stands[i]));
  const { lines, entries } = keyOf([...written.map(({ part }) => part), ...(besides?.parts ?? [])], settings);
  const patterns = written.map(({ pattern }) => pattern);
  const isOne = charts.length === 1;
  const manner = mannerOf(settings.style);
  const text = isOne
    ? patternText({ ...patterns[0]!, key: lines }, manner)
    : designText(names, patterns, lines, manner);
  const faults = charts.flatMap((chart, i) =>
    faultsOf(chart, settings, charts.slice(0, i)).map((f) =>
      isOne ? f : { ...f, message: `${names[i]!}: ${f.message}` },
    ),
  );
  const proof = faults.length
    ? { checked: false, problems: faults }
    : proveDesignText(
        text,
        charts,
        names,
        settings,
        besides && { isPanel: besides.stands.map((s) => s !== undefined), prove: besides.prove },
      );
  return {
    charts: written.map(({ chart, part: _, ...rows }, i) => ({
      ...rows,
      id: chart.id,
      name: names[i]!,
      against: faults.length ? [] : new Charted(chart).tried,
    })),
    key: entries,
    lines,
    text,
    checked: proof.checked,
    problems: proof.problems,
  };
}

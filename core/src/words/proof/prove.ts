import { bookOf, type Chart } from '../../chart/schema.js';
import { checkChart } from '../../checks/index.js';
import { checkNames } from '../../names/check-names.js';
import { patternText } from '../render.js';
import { definedCrossings } from '../reader/define.js';
import type { Lexicon } from '../reader/lexicon.js';
import { numberRows, readLines, type Problem } from '../reader/lines.js';
import { writeChart, type WordSettings, type Written } from '../write.js';
import { proveHead } from './head.js';
import { proveKey } from './key.js';
import { Piece } from './piece.js';
import { Problems } from './problems.js';
import { proveLines, proveRows } from './rows.js';

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

/**
 * Reads a written pattern back by the reader, which shares nothing with the writer but the trade's words,
 * works it on a needle and compares every printed field with the chart.
 */
export function proveText(text: string, chart: Chart, settings: WordSettings): Proof {
  const { school, hand, style, cableless, bobble } = settings;
  const ownWords = chart.own.flatMap((o) => [o.rs.toLowerCase(), o.ws.toLowerCase()]);
  const { pattern, problems: notRead } = readLines(text, new Set(ownWords));
  const { defined, problems: keyProblems } = definedCrossings(pattern.key, hand);
  const lexicon: Lexicon = { school, hand, book: bookOf(chart), defined };
  const rows = numberRows(pattern.rows);
  const piece = new Piece(chart);
  const problems = new Problems();
  problems.list.push(...notRead, ...rows.problems, ...keyProblems);
  proveHead(pattern, piece, hand, problems);
  proveLines(pattern.rows, rows, piece, problems);
  proveRows(pattern.rows, rows, piece, lexicon, style, problems);
  proveKey(pattern, piece, lexicon, { cableless, bobble }, problems);
  proveNothingElse(text, patternText(pattern), problems);
  return { checked: problems.list.length === 0, against: piece.tried, problems: problems.list };
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

/** Writes a chart and proves what was written. A chart with errors is written, but never proved. */
export function writeAndProve(chart: Chart, settings: WordSettings): Written & Proof {
  const written = writeChart(chart, settings);
  const faults = [...checkChart(chart), ...checkNames(chart, settings)].filter((f) => f.level === 'error');
  if (faults.length) {
    const problems = faults.map(({ id, level, row, message }) => ({ id, level, row, message }));
    return { ...written, checked: false, against: [], problems };
  }
  return { ...written, ...proveText(written.text, chart, settings) };
}

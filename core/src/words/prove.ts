import { checkChart } from '../checks/index.js';
import { checkNames } from '../names/check-names.js';
import { expandRow, sideOf, timesOf } from '../chart/rows.js';
import { workedRows } from '../chart/frame.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { sameFaces, workStitches } from '../needle/needle.js';
import { sameStitch } from '../stitches/book.js';
import type { Face } from '../stitches/face.js';
import { definedCrossings } from './reader/define.js';
import { WordProblem, type Lexicon } from './reader/lexicon.js';
import {
  bodyFor,
  MOST_PROBLEMS,
  nodeFor,
  readLines,
  type PatternLines,
  type Problem,
} from './reader/lines.js';
import { RowProblem, workWords } from './reader/work.js';
import { workingOrder } from './vocabulary.js';
import { startingNeedle, writeChart, type WordSettings, type Written } from './write.js';

/** What the words were held against. */
export interface Proof {
  /** True only when every row, read back and worked at each number of repeats, gave the chart's stitches. */
  checked: boolean;
  /** The numbers of repeats the rows were worked at. */
  against: number[];
  problems: Problem[];
}

/** The numbers of repeats a proof works: the smallest, the designer's, and one more. */
export function repeatsProved(chart: Chart): number[] {
  if (!chart.across) return [1];
  const { least, times } = chart.across;
  return [...new Set([least, times, times + 1])].sort((a, b) => a - b);
}

function proveAt(times: number, chart: Chart, lines: PatternLines, lexicon: Lexicon): Problem[] {
  const book = bookOf(chart);
  const at = chart.across ? ` (worked with ${times} ${times === 1 ? 'repeat' : 'repeats'})` : '';
  const problems: Problem[] = [];
  const problem = (row: number, id: string, message: string) =>
    problems.push({ id, level: 'error', row, message: `Row ${row}${message}${at}` });
  /** Reads one row on a needle and gives the needle after it. */
  const proveRow = (r: number, needle: readonly Face[]): readonly Face[] => {
    const side = sideOf(chart, r);
    const expanded = expandRow(chart.rows[r]!, chart, times);
    if (!expanded) {
      problem(r + 1, 'cannot-repeat', ' cannot be cut at its repeat lines.');
      return needle;
    }
    const { faces } = workStitches(expanded, needle, book);
    const body = bodyFor(lines, r + 1, side);
    if (!body) {
      problem(r + 1, 'row-missing', ' is not in the words.');
      return faces;
    }
    try {
      const read = workWords(body, needle, side, lexicon).stitches;
      const wanted = workingOrder(expanded, side, lexicon.hand);
      const differs = wanted.findIndex((s, i) => read[i] === undefined || !sameStitch(s, read[i]!));
      if (differs >= 0)
        problem(r + 1, 'words-differ', ` reads otherwise than the chart from its stitch ${differs + 1} on.`);
      else if (read.length > wanted.length)
        problem(r + 1, 'words-differ', ' has words for more stitches than the chart.');
    } catch (error) {
      if (!(error instanceof RowProblem || error instanceof WordProblem)) throw error;
      problem(r + 1, error.id, error instanceof RowProblem ? ` ${error.message}` : `: ${error.message}`);
    }
    const told = nodeFor(lines, r + 1, side)?.count;
    if (times === timesOf(chart) && typeof told === 'number' && told !== faces.length)
      problem(r + 1, 'count-differs', ` says ${told} stitches; the needle holds ${faces.length}.`);
    return faces;
  };

  // The whole plan is worked, pass by pass; a row that meets a needle it has met before reads as it did then.
  const met = chart.rows.map((): { below: readonly Face[]; above: readonly Face[] }[] => []);
  let needle: readonly Face[] = startingNeedle(chart, times);
  for (const { row } of workedRows(chart)) {
    const below = needle;
    let known = met[row]!.find((m) => sameFaces(m.below, below));
    if (!known) {
      known = { below, above: proveRow(row, below) };
      met[row]!.push(known);
    }
    needle = known.above;
    if (problems.length > MOST_PROBLEMS) break;
  }
  return problems;
}

/**
 * Reads a written pattern back by the reader, which shares nothing with the writer but the trade's words,
 * works it on a needle and compares it stitch by stitch with the chart.
 */
export function proveText(
  text: string,
  chart: Chart,
  settings: Pick<WordSettings, 'school' | 'hand'>,
): Proof {
  const ownWords = chart.own.flatMap((o) => [o.rs.toLowerCase(), o.ws.toLowerCase()]);
  const lines = readLines(text, new Set(ownWords));
  const { defined, problems } = definedCrossings(lines, settings.hand);
  const lexicon: Lexicon = { school: settings.school, hand: settings.hand, book: bookOf(chart), defined };
  const against = repeatsProved(chart);
  const all = [...lines.problems, ...problems];
  for (const times of against) {
    all.push(...proveAt(times, chart, lines, lexicon));
    if (all.length > 40) break;
  }
  return { checked: all.length === 0, against, problems: all };
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

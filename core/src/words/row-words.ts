import { EditError } from '../chart/edit.js';
import { sideOf } from '../construction/construction.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { markerMoved, startOf } from '../chart/frame.js';
import { crossingsUsed } from '../names/check-names.js';
import { nameOf } from '../names/schools.js';
import { castOnNeedle, needleFrom, workChart } from '../needle/needle.js';
import { spanOf, type Stitch } from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { parsePiece, withPlainMarks, WordsError } from './reader/language.js';
import { namesIn } from './reader/names.js';
import { WordProblem, type Lexicon } from './reader/lexicon.js';
import { RowProblem, workWords } from './reader/work.js';
import { turned } from './reader/hands.js';
import { readsLeftwards } from './vocabulary.js';
import type { WordSettings } from './write.js';

/** Words that cannot become a row of this chart, as one sentence for the designer. */
export class RowWordsError extends EditError {}

/** Lays stitches over the columns of a row, keeping the gaps where they were. */
function overGaps(stitches: readonly Stitch[], was: Row, chart: Chart): Stitch[] {
  const book = bookOf(chart);
  const gaps = new Set<number>();
  let column = 0;
  for (const s of was) {
    if (s === NO_STITCH) gaps.add(column);
    column += spanOf(s, book);
  }
  const out: Stitch[] = [];
  let at = 0;
  const skipGaps = () => {
    while (gaps.has(at)) {
      out.push(NO_STITCH);
      at++;
    }
  };
  for (const s of stitches) {
    skipGaps();
    out.push(s);
    at += spanOf(s, book);
  }
  skipGaps();
  if (at !== chart.width)
    throw new RowWordsError(`These words fill ${at} columns; the chart has ${chart.width}.`);
  return out;
}

/**
 * The row that written words make, worked over the needle of the row below with each repeat once, as the
 * chart is drawn. The words may leave out the row's number and count.
 *
 * @throws RowWordsError when they are not understood or do not come out
 */
export function rowFromWords(
  chart: Chart,
  index: number,
  text: string,
  settings: Pick<WordSettings, 'school' | 'names' | 'hand'>,
): Row {
  const book = bookOf(chart);
  const side = sideOf(chart, index);
  const named = crossingsUsed(chart).flatMap((c): [string, Crossing][] => {
    const name = nameOf(c, settings, side);
    return name === null ? [] : [[name.toLowerCase(), c]];
  });
  const lexicon: Lexicon = { school: settings.school, hand: settings.hand, book, defined: new Map(named) };
  const works = workChart(chart);
  const before = index > 0 ? works[index - 1]!.loops : castOnNeedle(chart.rows[0]!, book);
  const needle = needleFrom(before, startOf(chart, index) - markerMoved(chart, index));
  const line = /^\s*(row|round|rnd)s?\b/i.test(text) ? text : `Row ${index + 1}: ${text}`;
  try {
    const own = chart.own.flatMap((o) => [o.rs, o.ws]);
    const names = namesIn([...own, ...named.map(([name]) => name)]);
    const { body } = parsePiece('Row', withPlainMarks(line), { names, strict: true });
    if (body.type === 'as') {
      const [as] = body.rows as [number];
      const target = chart.rows[as - 1];
      if (!target) throw new RowWordsError(`The chart has no row ${as}.`);
      return target;
    }
    const { stitches, moved } = workWords(body, needle, side, lexicon);
    const wanted = markerMoved(chart, index);
    if (moved !== (readsLeftwards(side, settings.hand) ? wanted : -wanted))
      throw new RowWordsError('Where a round begins is set on the chart, and its words follow.');
    return overGaps(turned(stitches, side, settings.hand), chart.rows[index]!, chart);
  } catch (error) {
    if (error instanceof RowProblem) throw new RowWordsError(`Row ${index + 1} ${error.message}`);
    if (error instanceof WordProblem)
      throw new RowWordsError(
        `${error.said} Name a crossing by its groups, such as 2/1 RPC, or spell it out: sl 2 to cable needle, hold in front, p1, k2 from cable needle.`,
      );
    if (error instanceof WordsError) throw new RowWordsError(error.message);
    throw error;
  }
}

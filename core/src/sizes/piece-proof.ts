import type { Piece, Size } from '../chart/piece.js';
import { mirrorChart } from '../chart/edits.js';
import { expandRow, timesOf } from '../chart/frame.js';
import { bookOf, type Chart, type Design, type Hand } from '../chart/schema.js';
import { sameStitches } from '../chart/steps.js';
import { constructionOf } from '../construction/construction.js';
import { freshNeedle } from '../needle/needle.js';
import { stitchBook, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { parsePiece } from '../words/reader/language.js';
import { takesByItself, workWords } from '../words/reader/work.js';
import { readsLeftwards } from '../words/vocabulary.js';
import type { Assembled } from './assemble.js';
import { bodyRowOf } from './piece-rows.js';

/**
 * Rows told panel by panel, read back: the words between the panels by the reader of all patterns, a panel by the chart and row
 * it names. What they work is held against the piece's needle, row by row, and against the rows of the piece.
 */

/** What is wrong with the words of a piece. */
export class PieceMisread extends Error {}

const plain = stitchBook();
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** A chart under the name that the words call it by. */
interface Named {
  chart: Chart;
  times: readonly number[];
}

/** What the names of panels mean in a size. */
function namedCharts(design: Pick<Design, 'charts'>, piece: Piece, size: Size, names: readonly string[]) {
  const named = new Map<string, Named>();
  for (const part of piece.parts) {
    if (part.kind !== 'panel' && part.kind !== 'filling') continue;
    const i = design.charts.findIndex((c) => c.id === part.chart);
    if (i < 0) continue;
    const chart = design.charts[i]!;
    const name = part.isMirrored ? `${names[i]!} mirrored` : names[i]!;
    const times = part.kind === 'panel' ? timesOf(chart) : Math.max(1, size.counts[part.id] ?? part.repeats);
    const known = named.get(name)?.times ?? [];
    named.set(name, { chart: part.isMirrored ? mirrorChart(chart) : chart, times: [...known, times] });
  }
  return named;
}

/** The stitches, from the right, that a row's words work. */
function stitchesOf(
  text: string,
  side: Side,
  hand: Hand,
  named: ReadonlyMap<string, Named>,
): { stitches: Stitch[]; marks: number } {
  const names = [...named.keys()].sort((a, b) => b.length - a.length).map(escaped);
  const token = new RegExp(
    `(?:^|, )(?:(pm|sm)|work row (\\d+) of (${names.join('|') || '(?!)'}) over the next (\\d+) st(?:s|itch|itches)?(?: \\((\\d+) after it\\))?)(?=, |$)`,
    'g',
  );
  const leftwards = readsLeftwards(side, hand);
  const inOrder: Stitch[] = [];
  let marks = 0;
  const words = (said: string) => {
    if (!said) return;
    const { body } = parsePiece('Row', `Row 1: ${said}`, { strict: true });
    if (body.type !== 'items') throw new PieceMisread(`"${said}" does not say what is worked.`);
    const lexicon = { school: undefined, hand, book: plain, defined: new Map() };
    const loops = takesByItself(body, side, lexicon);
    if (loops === null) throw new PieceMisread(`"${said}" does not say over how many stitches it is worked.`);
    inOrder.push(...workWords(body, freshNeedle(loops), side, lexicon).stitches);
  };
  let at = 0;
  for (const found of text.matchAll(token)) {
    words(text.slice(at, found.index).replace(/^, /, ''));
    at = found.index + found[0].length;
    const [, mark, row, name, over, after] = found;
    if (mark) {
      marks++;
      continue;
    }
    const { chart, times } = named.get(name!)!;
    const book = bookOf(chart);
    // A filling of a name may stand in several widths: the count tells which is meant.
    const rows = times.map((n) => expandRow(chart, Number(row) - 1, n));
    const works = rows.find((r) => r && r.reduce((sum, s) => sum + book.facts(s).takes, 0) === Number(over));
    if (!works) throw new PieceMisread(`${name} has no row ${row} over ${over} stitches.`);
    const makes = works.reduce((sum, s) => sum + book.facts(s).makes, 0);
    if (makes !== Number(after ?? over))
      throw new PieceMisread(`Row ${row} of ${name} leaves ${makes} stitches.`);
    const cells = works.filter((s) => s !== NO_STITCH);
    inOrder.push(...(leftwards ? cells : [...cells].reverse()));
  }
  words(text.slice(at).replace(/^, /, ''));
  return { stitches: leftwards ? inOrder : inOrder.reverse(), marks };
}

/**
 * Holds rows told panel by panel against an assembled piece.
 *
 * @param rows of the piece, from 1 above its border, in the words of this one size
 * @throws PieceMisread where they say anything else
 */
export function provePanelRows(
  design: Pick<Design, 'charts'>,
  piece: Piece,
  size: Size,
  names: readonly string[],
  made: Assembled,
  rows: readonly { number: number; side: Side; words: string; count: number }[],
  hand: Hand,
): void {
  const named = namedCharts(design, piece, size, names);
  const book = bookOf(made.chart);
  let marks: number | null = null;
  for (const { number, side, words, count } of rows) {
    const r = bodyRowOf(made, number - 1);
    const cells = made.chart.rows[r]!.filter((s) => s !== NO_STITCH);
    const expected = constructionOf(piece).sideOf(number - 1, piece.firstRow);
    if (side !== expected) throw new PieceMisread(`Row ${number} is told as a ${side} row.`);
    const read = stitchesOf(words, side, hand, named);
    if (!sameStitches(read.stitches, cells))
      throw new PieceMisread(`Row ${number} of ${size.name} does not work the stitches of its panels.`);
    const makes = read.stitches.reduce((sum, s) => sum + book.facts(s).makes, 0);
    if (makes !== count)
      throw new PieceMisread(`Row ${number} of ${size.name} leaves ${makes} stitches, not ${count}.`);
    if (marks !== null && read.marks !== marks)
      throw new PieceMisread(`Row ${number} of ${size.name} does not slip the markers that were placed.`);
    marks = read.marks;
  }
}

import { bookOf, type Settings } from '../../chart/schema.js';
import type { Needle } from '../../needle/loop.js';
import { freshNeedle, needleFrom, workStitches } from '../../needle/needle.js';
import { sameStitch } from '../../stitches/book.js';
import type { RowLine } from '../pattern.js';
import { leftwards, turned } from '../reader/hands.js';
import { WordProblem, type Lexicon } from '../reader/lexicon.js';
import { bodyFor, lineFor, type NumberedRows } from '../reader/order.js';
import { RowProblem } from '../reader/at-work.js';
import { workWords } from '../reader/work.js';
import type { Charted } from './charted.js';
import type { Problems } from './problems.js';

/** The rows a line holds for: its own numbers, and those its "and all" stands for. */
export function rowsOf(line: RowLine, rows: NumberedRows, piece: Charted): number[] {
  if (!line.rest) return line.numbers;
  return Array.from({ length: piece.height }, (_, i) => i + 1).filter(
    (row) => lineFor(rows, row, piece.side(row)) === line,
  );
}

/** A line for all rows of a kind names the others of that kind which are written by themselves, and no more. */
function proveBut(line: RowLine, { rows }: NumberedRows, piece: Charted, problems: Problems): void {
  const [row = 0] = line.numbers;
  const isOfKind = (n: number) => piece.way.alike(n, row, piece.chart.firstRow);
  const others = [...rows.keys()].filter((n) => isOfKind(n) && rows.get(n) !== line).sort((a, b) => a - b);
  if (others.join() !== (line.rest?.but ?? []).join())
    problems.tell('row-order', `Row ${row} does not say rightly which rows like it are otherwise.`, row);
}

/**
 * Every row of the chart is written once, in order, under its own number and side, and nothing is written besides;
 * "as row n" leads to a row of the same side that is written out.
 */
export function proveLines(
  lines: readonly RowLine[],
  rows: NumberedRows,
  piece: Charted,
  problems: Problems,
): void {
  const { way } = piece;
  const written = new Set<number>();
  let last = 0;
  for (const line of lines) {
    const [row] = line.numbers;
    if (row === undefined || line.body.type === 'cloth') {
      problems.tell('row-order', 'A row is written without its number, or not stitch by stitch.', row);
      continue;
    }
    const side = piece.side(row);
    // A line stands where the first of its rows does; the others are on it in their order.
    const isInOrder = row > last && line.numbers.every((n, i) => i === 0 || n > line.numbers[i - 1]!);
    if (!isInOrder) problems.tell('row-order', `Row ${row} is not written in its place.`, row);
    last = row;
    for (const n of line.numbers) {
      if (written.has(n)) problems.tell('row-order', `Row ${n} is written twice.`, n);
      written.add(n);
      if (n > piece.height)
        problems.tell('row-extra', `Row ${n} is written; the chart has ${piece.height}.`, n);
      if (piece.side(n) !== side)
        problems.tell('wrong-side', `Row ${n} shares a line with rows of the other side.`, n);
    }
    if (line.kind !== way.calls)
      problems.tell('construction-differs', `Row ${row} is called a ${line.kind}.`, row);
    if (line.rest && !way.rest(line.rest, row, piece.chart.firstRow))
      problems.tell('wrong-side', `Row ${row} speaks for rows that are not like it.`, row);
    if (line.rest) proveBut(line, rows, piece, problems);
    const says = line.side ?? (line.rest && 'side' in line.rest ? line.rest.side : null);
    if (says !== (way.saysSide ? side : null))
      problems.tell('wrong-side', `Row ${row} does not say rightly which side it is worked on.`, row);
    if (line.body.type === 'as') {
      const [as, ...more] = line.body.rows as [number, ...number[]];
      const target = rows.rows.get(as);
      if (more.length || !target || target.body.type === 'as' || as >= row || piece.side(as) !== side)
        problems.tell('row-missing', `Row ${row} is as row ${as}, which is not written out before it.`, row);
    }
  }
}

/** Every count that must be told is, and each is what the needle holds; counts from row 1 on. */
function proveCounts(
  lines: readonly RowLine[],
  rows: NumberedRows,
  counts: readonly number[],
  castOn: number,
  piece: Charted,
  style: Settings['style'],
  problems: Problems,
): void {
  for (const line of lines)
    for (const row of rowsOf(line, rows, piece)) {
      const holds = counts[row - 1];
      if (holds === undefined) continue;
      const changes = holds !== (counts[row - 2] ?? castOn);
      if (line.count === null) {
        if (changes || style.counts === 'every')
          problems.tell(
            'count-missing',
            `Row ${row} does not say how many stitches it leaves: ${holds}.`,
            row,
          );
      } else if (line.count !== holds)
        problems.tell(
          'count-differs',
          `Row ${row} says ${line.count} stitches; the needle holds ${holds}.`,
          row,
        );
    }
}

/** The whole plan worked from the words at one number of repeats, and compared stitch by stitch. */
function proveAt(
  times: number,
  rows: NumberedRows,
  piece: Charted,
  lexicon: Lexicon,
  problems: Problems,
): number[] {
  const book = bookOf(piece.chart);
  const at = piece.times === null ? '' : ` (worked with ${times} ${times === 1 ? 'repeat' : 'repeats'})`;
  const tell = (row: number, id: string, message: string) =>
    problems.tell(id, `Row ${row}${message}${at}`, row);
  const counts: number[] = [];
  /** Reads one row on a needle, which its marker parts so many loops after the first one; gives the needle after it. */
  const proveRow = (row: number, needle: Needle, marker: number): Needle => {
    const side = piece.side(row);
    const stitches = piece.row(row, times);
    if (!stitches) {
      tell(row, 'cannot-repeat', ' cannot be cut at its repeat lines.');
      return needle;
    }
    const { loops } = workStitches(stitches, needle, book, piece.start(row));
    counts[row - 1] ??= loops.length;
    const body = bodyFor(rows, row, side);
    if (!body) {
      tell(row, 'row-missing', ' is not in the words.');
      return loops;
    }
    try {
      const { stitches: read, moved } = workWords(body, needleFrom(needle, marker), side, lexicon);
      const onwards = leftwards(moved, side, lexicon.hand);
      if (marker + onwards !== piece.start(row))
        tell(row, 'round-start-differs', ' does not begin where the chart has it begin.');
      const wanted = turned(stitches, side, lexicon.hand);
      const differs = wanted.findIndex((s, i) => read[i] === undefined || !sameStitch(s, read[i]));
      if (differs >= 0)
        tell(row, 'words-differ', ` reads otherwise than the chart from its stitch ${differs + 1} on.`);
      else if (read.length > wanted.length)
        tell(row, 'words-differ', ' has words for more stitches than the chart.');
    } catch (error) {
      if (!(error instanceof RowProblem || error instanceof WordProblem)) throw error;
      tell(row, error.id, error instanceof RowProblem ? ` ${error.message}` : `: ${error.message}`);
    }
    return loops;
  };
  // A row that meets a needle it has met before, its marker in the same place, reads as it did then.
  const met = Array.from({ length: piece.height + 1 }, () => new Map<number, Map<Needle, Needle>>());
  let needle = freshNeedle(piece.takes(1, times));
  let marker = 0;
  for (const [from, to, passes] of piece.stretches)
    for (let pass = 1; pass <= passes; pass++)
      for (let row = from; row <= to && !problems.full; row++) {
        const before = met[row]!.get(marker) ?? new Map<Needle, Needle>();
        const known = before.get(needle) ?? proveRow(row, needle, marker);
        met[row]!.set(marker, before.set(needle, known));
        needle = known;
        marker = piece.start(row);
      }
  return counts;
}

/** The rows of a pattern against the chart, worked through the whole plan at each number of repeats. */
export function proveRows(
  lines: readonly RowLine[],
  rows: NumberedRows,
  piece: Charted,
  lexicon: Lexicon,
  style: Settings['style'],
  problems: Problems,
): void {
  for (const times of piece.tried) {
    const counts = proveAt(times, rows, piece, lexicon, problems);
    if (times === (piece.times ?? 1))
      proveCounts(lines, rows, counts, piece.takes(1, times), piece, style, problems);
    if (problems.full) break;
  }
}

import type { Side } from '../../stitches/face.js';
import type { Body, Pattern, RowLine } from '../pattern.js';
import {
  meantBy,
  parseCastOn,
  parseCrossing,
  parseHand,
  parseHead,
  parseKeyLine,
  parsePlan,
  parseRow,
  WordsError,
  type Meant,
} from './language.js';
import { LIMITS } from '../../chart/schema.js';

/** Something in the text that does not add up. Rows count from 1. */
export interface Problem {
  id: string;
  level: 'error' | 'caution' | 'note';
  row?: number;
  message: string;
}

/** A pattern's text taken apart: the tree it says, and what is wrong with it. */
export interface PatternLines {
  pattern: Pattern;
  problems: Problem[];
}

/** So many problems are told; a text with more is not a pattern yet. */
export const MOST_PROBLEMS = 60;
/** The widest row, every crossing of it spelled out, is well under this. */
const LONGEST_LINE = 20_000;

interface Line {
  meant: Meant;
  text: string;
}

/** The lines of a text, a row that was broken over several joined: what follows until a new beginning or a blank. */
function linesOf(text: string): Line[] {
  const out: Line[] = [];
  for (const line of text.split(/\r?\n/)) {
    const meant = line.length > LONGEST_LINE ? 'prose' : meantBy(line);
    const open = out.at(-1);
    if (open?.meant === 'row' && meant === 'prose') open.text += ` ${line.trim()}`;
    else out.push({ meant, text: line });
  }
  return out;
}

const emptyPattern = (): Pattern => ({
  head: { construction: null, hand: 'right' },
  multiple: null,
  castOn: null,
  rows: [],
  plan: null,
  key: [],
});

/** Takes one line into the pattern. @throws WordsError where it is not what it begins like */
function takeLine(
  { meant, text }: Line,
  pattern: Pattern,
  inKey: boolean,
  notCrossings: ReadonlySet<string>,
) {
  if (text.length > LONGEST_LINE)
    throw new WordsError(`this line has ${text.length} characters; at most ${LONGEST_LINE} are read.`, 0);
  switch (meant) {
    case 'row':
      pattern.rows.push(parseRow(text));
      break;
    case 'head': {
      const { construction, multiple } = parseHead(text);
      pattern.head.construction ??= construction;
      pattern.multiple ??= multiple;
      break;
    }
    case 'hand':
      pattern.head.hand = parseHand(text);
      break;
    case 'castOn':
      pattern.castOn ??= parseCastOn(text);
      break;
    case 'plan':
      pattern.plan ??= parsePlan(text);
      break;
    case 'crossing':
      pattern.key.push(notCrossings.has(wordDefined(text)) ? parseKeyLine(text) : parseCrossing(text));
      break;
    case 'prose':
      if (inKey) pattern.key.push(parseKeyLine(text));
      break;
  }
}

/**
 * Reads a text into a pattern's tree, line by line. Lines of prose are passed over; a row line that is not
 * understood is a problem. Key lines of `notCrossings` (words in lower case) are told in words, whatever their
 * steps look like.
 */
export function readLines(text: string, notCrossings: ReadonlySet<string> = new Set()): PatternLines {
  const pattern = emptyPattern();
  const problems: Problem[] = [];
  let inKey = false;
  for (const line of linesOf(text)) {
    // Past the rows a chart can hold nothing more is read: that there are too many is told by their number.
    if (problems.length >= MOST_PROBLEMS || pattern.rows.length > LIMITS.rows) break;
    if (line.meant === 'keyHead') inKey = true;
    else if (line.meant === 'row') inKey = false;
    try {
      takeLine(line, pattern, inKey, notCrossings);
    } catch (error) {
      if (!(error instanceof WordsError)) throw error;
      if (line.meant === 'prose' && line.text.length <= LONGEST_LINE) continue;
      const row = line.meant === 'row' ? /\d+/.exec(line.text) : null;
      problems.push({
        id: 'not-understood',
        level: 'error',
        row: row ? Number(row[0]) : undefined,
        message: `${row ? `Row ${row[0]}` : `"${line.text.trim().slice(0, 24)}"`}: ${error.message}`,
      });
    }
  }
  return { pattern, problems };
}

/** The word a key line is about, in lower case, without the side it names. */
function wordDefined(line: string): string {
  return line
    .slice(0, line.indexOf(':'))
    .replace(/\((?:RS|WS)\)/i, '')
    .trim()
    .toLowerCase();
}

/** The rows of a pattern by their numbers, and the lines that stand for several. */
export interface NumberedRows {
  rows: Map<number, RowLine>;
  /** Lines that also hold for rows not written elsewhere. */
  rest: { holds: (row: number, side: Side) => boolean; line: RowLine }[];
  problems: Problem[];
}

export function numberRows(lines: readonly RowLine[]): NumberedRows {
  const found: NumberedRows = { rows: new Map(), rest: [], problems: [] };
  for (const line of lines) {
    for (const n of line.numbers) {
      if (!found.rows.has(n)) found.rows.set(n, line);
      else if (found.problems.length < MOST_PROBLEMS)
        found.problems.push({
          id: 'row-twice',
          level: 'error',
          row: n,
          message: `Row ${n} is written twice; the first is used.`,
        });
    }
    const { rest } = line;
    if (!rest) continue;
    if ('side' in rest) found.rest.push({ holds: (_row, side) => side === rest.side, line });
    else {
      const parity = rest.parity ?? line.numbers[0]! % 2;
      found.rest.push({ holds: (row) => row % 2 === parity, line });
    }
  }
  return found;
}

/** The line that holds for a row: its own, or one that holds for all rows like it. */
export function lineFor({ rows, rest }: NumberedRows, row: number, side: Side): RowLine | undefined {
  return rows.get(row) ?? rest.find((r) => r.holds(row, side))?.line;
}

/** The body a row works, following "as row n" to where it is written; null when that leads nowhere. */
export function bodyFor(rows: NumberedRows, row: number, side: Side): Exclude<Body, { type: 'as' }> | null {
  const seen = new Set<number>();
  let line = lineFor(rows, row, side);
  while (line?.body.type === 'as') {
    const target = line.body.row;
    if (seen.has(target)) return null;
    seen.add(target);
    line = lineFor(rows, target, side);
  }
  return line ? (line.body as Exclude<Body, { type: 'as' }>) : null;
}

/** How many rows the pattern has: those written, those planned, and a last one that a shared line stands for. */
export function heightOf(
  { rows, rest }: NumberedRows,
  plan: Pattern['plan'],
  sideOfRow: (row: number) => Side,
): number {
  const written = Math.max(0, ...rows.keys());
  const planned = Math.max(written, ...(plan ?? []).map((p) => p.to));
  const next = written + 1;
  const shared = written % 2 === 1 && rest.some((r) => r.holds(next, sideOfRow(next)));
  return shared ? Math.max(planned, next) : planned;
}

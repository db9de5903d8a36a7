import type { Side } from '../../stitches/face.js';
import type { Body, Pattern, RowLine } from '../pattern.js';
import { parseLine, parsePattern, WordsError, type Line } from './language.js';

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

const emptyPattern = (): Pattern => ({
  head: { construction: null, hand: 'right' },
  multiple: null,
  castOn: null,
  rows: [],
  plan: null,
  key: [],
});

/** Takes what a line says into the pattern; of what can be said only once, the first holds. */
function take(line: Line, pattern: Pattern, inKey: boolean): void {
  if (!('value' in line)) return;
  switch (line.meant) {
    case 'row':
      pattern.rows.push(line.value);
      break;
    case 'head':
      pattern.head.construction ??= line.value.construction;
      pattern.multiple ??= line.value.multiple;
      break;
    case 'hand':
      pattern.head.hand = line.value;
      break;
    case 'castOn':
      pattern.castOn ??= line.value;
      break;
    case 'plan':
      pattern.plan ??= line.value;
      break;
    case 'crossing':
      pattern.key.push(line.value);
      break;
    case 'told':
      if (inKey) pattern.key.push(line.value);
      break;
  }
}

/** What is wrong with a line that does not say what it begins like. */
function faultOf({ meant, text }: Extract<Line, { text: string }>): Problem | null {
  if (meant === 'blank' || meant === 'keyHead' || meant === 'prose') return null;
  const row = meant === 'row' ? /\d+/.exec(text) : null;
  const about = row ? `Row ${row[0].slice(0, 8)}` : `"${text.trim().slice(0, 24)}"`;
  let why = 'this was not understood.';
  try {
    parseLine(meant, text);
  } catch (error) {
    if (!(error instanceof WordsError)) throw error;
    why = error.message;
  }
  return {
    id: 'not-understood',
    level: 'error',
    row: row ? Number(row[0]) : undefined,
    message: `${about}: ${why}`,
  };
}

/** A text without the lines that are longer than any row, and a problem for each of them. */
function withoutLongLines(text: string): { text: string; problems: Problem[] } {
  const problems: Problem[] = [];
  const lines = text.split('\n').map((line) => {
    if (line.length <= LONGEST_LINE) return line;
    const message = `"${line.trim().slice(0, 24)}": this line has ${line.length} characters; at most ${LONGEST_LINE} are read.`;
    if (problems.length < MOST_PROBLEMS) problems.push({ id: 'not-understood', level: 'error', message });
    return '';
  });
  return { text: lines.join('\n'), problems };
}

/**
 * Reads a text into a pattern's tree. Lines of prose are passed over; a line that begins like a row, and is none, is
 * a problem. Key lines of `notCrossings` (words in lower case) are told in words, whatever their steps look like.
 */
export function readLines(text: string, notCrossings: ReadonlySet<string> = new Set()): PatternLines {
  const pattern = emptyPattern();
  const { text: readable, problems } = withoutLongLines(text);
  let lines: Line[] = [];
  try {
    lines = parsePattern(readable, notCrossings);
  } catch (error) {
    if (!(error instanceof WordsError)) throw error;
    problems.push({ id: 'not-understood', level: 'error', message: error.message });
  }
  let inKey = false;
  for (const line of lines) {
    if (line.meant === 'keyHead') inKey = true;
    else if (line.meant === 'row') inKey = false;
    if ('value' in line) take(line, pattern, inKey);
    else if (problems.length < MOST_PROBLEMS) {
      const fault = faultOf(line);
      if (fault) problems.push(fault);
    }
  }
  return { pattern, problems };
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
  return line ? line.body : null;
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

import { LIMITS } from '../../chart/schema.js';
import type { Side } from '../../stitches/face.js';
import {
  parseCastOn,
  parseDefinition,
  parsePlan,
  parseRow,
  WordsError,
  type BodyNode,
  type DefinitionNode,
  type RowNode,
} from './language.js';

/** Something in the text that does not add up. Rows count from 1. */
export interface Problem {
  id: string;
  level: 'error' | 'caution' | 'note';
  row?: number;
  message: string;
}

/** A pattern's text taken apart: its rows by number, its key, and what it says of its size. */
export interface PatternLines {
  rows: Map<number, RowNode>;
  /** Lines that also hold for rows not written elsewhere. */
  rest: { holds: (row: number, side: Side) => boolean; node: RowNode }[];
  definitions: DefinitionNode[];
  castOn: number | null;
  plan: { from: number; to: number; times: number }[] | null;
  problems: Problem[];
}

/** So many problems are told; a text with more is not a pattern yet. */
export const MOST_PROBLEMS = 60;
/** The widest row, every crossing of it spelled out, is well under this. */
const LONGEST_LINE = 20_000;

const ROW_LINE = /^\s*(?:(?:rows?|rounds?|rnds?)\s+\d+|\d+(?:st|nd|rd|th)\s+(?:row|round|rnd)\b)/i;
const CAST_ON_LINE = /\b(?:cast\s+on|co)\s+\d/i;
const PLAN_LINE = /^\s*work\s+(?:rows?|rounds?|rnds?)\s+\d/i;
const KEY_HEAD = /^\s*(?:key|abbreviations|stitch key)\s*:?\s*$/i;
/** A key line that defines a crossing: its steps slip stitches to a cable needle. */
const DEFINITION_LINE = /^[^:]+:\s*sl(?:ip)?\s+(?:next\s+)?\d+\s*(?:sts?|stitch|stitches)?\s*to\s/i;

/** Joins a row that was broken over several lines: what follows until a new beginning or a blank line. */
function joinLines(text: string): string[] {
  const out: string[] = [];
  let open = false;
  for (const line of text.split(/\r?\n/)) {
    const starts = [ROW_LINE, CAST_ON_LINE, PLAN_LINE, KEY_HEAD, DEFINITION_LINE].some((r) => r.test(line));
    if (open && line.trim() && !starts) out[out.length - 1] += ` ${line.trim()}`;
    else out.push(line);
    open = starts ? ROW_LINE.test(line) : open && line.trim() !== '';
  }
  return out;
}

/**
 * Takes the text apart line by line. Lines of prose are passed over; a row line that is not understood is a
 * problem. Key lines of `notCrossings` (words in lower case) are prose too, whatever their steps look like.
 */
export function readLines(text: string, notCrossings: ReadonlySet<string> = new Set()): PatternLines {
  const found: PatternLines = {
    rows: new Map(),
    rest: [],
    definitions: [],
    castOn: null,
    plan: null,
    problems: [],
  };
  for (const line of joinLines(text)) {
    // Past the rows a chart can hold nothing more is read: that there are too many is told by their number.
    if (found.problems.length >= MOST_PROBLEMS || found.rows.size > LIMITS.rows) break;
    try {
      if (line.length > LONGEST_LINE)
        throw new WordsError(`this line has ${line.length} characters; at most ${LONGEST_LINE} are read.`, 0);
      if (ROW_LINE.test(line)) takeRow(parseRow(line), found);
      else if (CAST_ON_LINE.test(line)) found.castOn ??= parseCastOn(line.slice(line.search(CAST_ON_LINE)));
      else if (PLAN_LINE.test(line)) found.plan ??= parsePlan(line);
      else if (DEFINITION_LINE.test(line) && !notCrossings.has(wordDefined(line)))
        found.definitions.push(parseDefinition(line));
    } catch (error) {
      if (!(error instanceof WordsError)) throw error;
      const row = /\d+/.exec(line);
      const isRow = ROW_LINE.test(line);
      found.problems.push({
        id: 'not-understood',
        level: 'error',
        row: isRow && row ? Number(row[0]) : undefined,
        message: `${isRow && row ? `Row ${row[0]}` : `"${line.trim().slice(0, 24)}"`}: ${error.message}`,
      });
    }
  }
  return found;
}

/** The word a key line is about, in lower case, without the side it names. */
function wordDefined(line: string): string {
  return line
    .slice(0, line.indexOf(':'))
    .replace(/\((?:RS|WS)\)/i, '')
    .trim()
    .toLowerCase();
}

function takeRow(node: RowNode, found: PatternLines): void {
  for (const n of node.numbers) {
    if (found.rows.has(n)) {
      if (found.problems.length >= MOST_PROBLEMS) return;
      found.problems.push({
        id: 'row-twice',
        level: 'error',
        row: n,
        message: `Row ${n} is written twice; the first is used.`,
      });
      continue;
    }
    found.rows.set(n, node);
  }
  const { rest } = node;
  if (!rest) return;
  if ('side' in rest) found.rest.push({ holds: (_row, side) => side === rest.side, node });
  else {
    const parity = rest.parity ?? node.numbers[0]! % 2;
    found.rest.push({ holds: (row) => row % 2 === parity, node });
  }
}

/** The node that holds for a row: its own line, or one that holds for all rows like it. */
export function nodeFor(lines: PatternLines, row: number, side: Side): RowNode | undefined {
  return lines.rows.get(row) ?? lines.rest.find((r) => r.holds(row, side))?.node;
}

/** The body a row works, following "as row n" to where it is written; null when that leads nowhere. */
export function bodyFor(
  lines: PatternLines,
  row: number,
  side: Side,
): Exclude<BodyNode, { type: 'as' }> | null {
  const seen = new Set<number>();
  let node = nodeFor(lines, row, side);
  while (node?.body.type === 'as') {
    const target = node.body.row;
    if (seen.has(target)) return null;
    seen.add(target);
    node = nodeFor(lines, target, side);
  }
  return node ? (node.body as Exclude<BodyNode, { type: 'as' }>) : null;
}

/** How many rows the pattern has: those written, those planned, and a last one that a shared line stands for. */
export function heightOf({ rows, rest, plan }: PatternLines, sideOfRow: (row: number) => Side): number {
  const written = Math.max(0, ...rows.keys());
  const planned = Math.max(written, ...(plan ?? []).map((p) => p.to));
  const next = written + 1;
  const shared = written % 2 === 1 && rest.some((r) => r.holds(next, sideOfRow(next)));
  return shared ? Math.max(planned, next) : planned;
}

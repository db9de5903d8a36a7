import type { Side } from '../../stitches/face.js';
import type { Body, Item, Pattern, RowLine } from '../pattern.js';
import type { Again } from './language.js';
import { MOST_PROBLEMS, type PatternLines, type Problem } from './pattern-lines.js';

/** The rows of a pattern by their numbers, and the lines that stand for several. */
export interface NumberedRows {
  rows: Map<number, RowLine>;
  /** Lines that also hold for rows not written elsewhere. */
  rest: { holds: (row: number, side: Side) => boolean; line: RowLine }[];
  problems: Problem[];
}

export function numberRows(lines: readonly RowLine[], placeOf?: PatternLines['placeOf']): NumberedRows {
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
          at: placeOf?.(line),
        });
    }
    const { rest } = line;
    if (!rest) continue;
    const isBut = (row: number) => rest.but?.includes(row) ?? false;
    if ('side' in rest) found.rest.push({ holds: (row, side) => side === rest.side && !isBut(row), line });
    else {
      const parity = rest.parity ?? (line.numbers[0] ?? 0) % 2;
      found.rest.push({ holds: (row) => row % 2 === parity && !isBut(row), line });
    }
  }
  return found;
}

/**
 * Rows without a number that stand between two with numbers, as many as there are numbers between these, have those
 * numbers: "Row 3: …; work 1 row; Row 5: …".
 */
function withNumbersBetween(lines: readonly RowLine[]): RowLine[] {
  const out = [...lines];
  for (let i = 0; i < out.length; i++) {
    if (out[i]!.named === undefined) continue;
    let end = i;
    while (end < out.length && out[end]!.named !== undefined) end++;
    const last = Math.max(0, ...out.slice(0, i).flatMap((line) => line.numbers));
    const next = out[end]?.numbers.length ? Math.min(...out[end]!.numbers) : 0;
    if (last > 0 && next - last - 1 === end - i)
      for (let n = i; n < end; n++) {
        const { named: _, ...line } = out[n]!;
        out[n] = { ...line, numbers: [last + 1 + n - i] };
      }
    i = end;
  }
  return out;
}

/**
 * Lines of rows where numbers go on behind rows that are worked again: "rep these 2 rows once more", and then row 5.
 * The rows between are those again, under numbers of their own, and nothing is left of the saying.
 */
export function withGapsFilled(
  given: readonly RowLine[],
  again: PatternLines['again'],
  placeAs: (line: RowLine, as: RowLine) => void = () => undefined,
): { lines: readonly RowLine[]; again: PatternLines['again'] } {
  const lines = withNumbersBetween(given);
  lines.forEach((line, i) => line !== given[i] && placeAs(line, given[i]!));
  const out: RowLine[] = [];
  const left: PatternLines['again'] = [];
  let at = 0;
  for (const said of again) {
    out.push(...lines.slice(at, said.after));
    at = said.after;
    const next = lines[at]?.numbers[0];
    const last = Math.max(0, ...lines.slice(0, at).flatMap((line) => line.numbers));
    const gap = next === undefined ? 0 : next - last - 1;
    const [from, to] = stretchOf(said.said, last);
    const rows = to - from + 1;
    const { times, rows: inAll } = said.said;
    const more =
      said.said.more ?? (times !== null ? times - 1 : inAll !== undefined ? inAll / rows - 1 : null);
    const fits = from >= 1 && rows >= 1 && gap > 0 && gap <= MOST_FILLED && gap % rows === 0;
    if (!fits || (more !== null && gap !== more * rows)) left.push({ ...said, after: out.length });
    else
      out.push({
        kind: null,
        numbers: Array.from({ length: gap }, (_, i) => last + 1 + i),
        rest: null,
        side: null,
        body: { type: 'as', rows: Array.from({ length: rows }, (_, i) => from + i) },
        count: null,
      });
  }
  out.push(...lines.slice(at));
  return { lines: out, again: left };
}

/** No gap between two rows of a text is longer. */
const MOST_FILLED = 1200;

/** The numbers of the rows that are worked again, once rows up to `last` are written. */
const stretchOf = (said: Again, last: number): [from: number, to: number] =>
  'from' in said ? [said.from, said.to ?? last] : [said.last === null ? 1 : last - said.last + 1, last];

/** The line that holds for a row: its own, or one that holds for all rows like it. */
export function lineFor({ rows, rest }: NumberedRows, row: number, side: Side): RowLine | undefined {
  return rows.get(row) ?? rest.find((r) => r.holds(row, side))?.line;
}

/** What a row says where it is not as another. */
export type OwnBody = Exclude<Body, { type: 'as' | 'turns' }>;

/** Words of a row with some put for others; null where one that is to be replaced is not among them. */
function swapped(body: OwnBody, swaps: readonly { from: string; to: string }[]): OwnBody | null {
  if (body.type !== 'items') return null;
  const found = new Set<string>();
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  const put = (items: readonly Item[]): Item[] =>
    items.map((item) => {
      if (item.type === 'star' || item.type === 'group') return { ...item, items: put(item.items) };
      const swap =
        item.type === 'word' && !item.spelled ? swaps.find((s) => same(s.from, item.word)) : undefined;
      if (!swap) return item;
      found.add(swap.from);
      return { type: 'word', word: swap.to, spelled: null };
    });
  const items = put(body.items);
  return swaps.every((s) => found.has(s.from)) ? { type: 'items', items } : null;
}

/** The body a row works, following "as row n" to where it is written; null when that leads nowhere. */
export function bodyFor(rows: NumberedRows, row: number, side: Side): OwnBody | null {
  const seen = new Set<number>();
  const swaps: { from: string; to: string }[][] = [];
  let line = lineFor(rows, row, side);
  let at = row;
  while (line?.body.type === 'as') {
    const { rows: targets, swaps: put } = line.body;
    const place = Math.max(0, line.numbers.indexOf(at));
    const target = targets[place % targets.length]!;
    if (seen.has(target)) return null;
    seen.add(target);
    if (put) swaps.unshift(put);
    at = target;
    line = lineFor(rows, target, side);
  }
  if (!line) return null;
  const body = ownBody(line.body, Math.max(0, line.numbers.indexOf(at)));
  // What is put for others stands in one of the rows they speak of: a row without it stays as it is.
  return swaps.reduce<OwnBody>((b, put) => swapped(b, put) ?? b, body);
}

/** Words that are to be put for others in rows that do not have them. */
export function swapProblems(
  lines: readonly RowLine[],
  { rows }: NumberedRows,
  placeOf: PatternLines['placeOf'],
): Problem[] {
  const has = (items: readonly Item[], word: string): boolean =>
    items.some((item) =>
      item.type === 'star' || item.type === 'group'
        ? has(item.items, word)
        : item.type === 'word' && item.word.toLowerCase() === word.toLowerCase(),
    );
  return lines.flatMap((line): Problem[] => {
    const { body } = line;
    if (body.type !== 'as' || !body.swaps) return [];
    const bodies = body.rows.map((n) => rows.get(n)?.body);
    const missing = body.swaps.find(
      ({ from }) => !bodies.some((b) => b?.type === 'items' && has(b.items, from)),
    );
    return missing
      ? [
          {
            id: 'swap-not-there',
            level: 'error',
            row: line.numbers[0],
            message: `Another stitch is to be worked for "${missing.from}", which ${body.rows.length > 1 ? 'none of those rows has' : `row ${body.rows[0]!} does not have`}.`,
            at: placeOf(line),
          },
        ]
      : [];
  });
}

/** What a row works that may change in turn from row to row. */
export const ownBody = (body: Exclude<Body, { type: 'as' }>, i: number): OwnBody =>
  body.type === 'turns'
    ? { type: 'items', items: [{ type: 'rest', word: body.words[i % body.words.length]!, last: 0 }] }
    : body;

/** Ribs and moss that go on from the row below as they are begun there. */
function withClothsGoingOn(rows: readonly PlacedRow[]): PlacedRow[] {
  const out: PlacedRow[] = [];
  for (const row of rows) {
    const [body, below] = [row.body, out.at(-1)?.body];
    const goesOn =
      (body?.type === 'moss' && below?.type === 'moss') ||
      (body?.type === 'rib' &&
        below?.type === 'rib' &&
        JSON.stringify(body.items) === JSON.stringify(below.items));
    out.push(goesOn ? { ...row, body: { ...body, goesOn: true } } : row);
  }
  return out;
}

/** One row of the piece in its place: what it is called, its line, and what it works. */
export interface PlacedRow {
  /** "Row 5", "The set-up row". */
  label: string;
  /** The number it is written under; null where it has none. */
  number: number | null;
  side: Side;
  line: RowLine | null;
  body: OwnBody | null;
}

/** The rows of a piece from the bottom, and where written numbers stand among them. */
export interface Order {
  rows: PlacedRow[];
  /** The place of a written number, from 1; null where there is none. */
  placeOf: (number: number) => number | null;
  /** How many rows stand in the piece once so many lines of the text are read. */
  rowsAfter: (lines: number) => number;
}

/** How many numbered rows the pattern has: those written, those planned, and a last one that a shared line stands for. */
function highest(
  { rows, rest }: NumberedRows,
  { to, isWhole }: Spoken,
  sideOfNumber: (row: number) => Side,
): number {
  const written = Math.max(0, ...rows.keys());
  const next = written + 1;
  const holds = (n: number) => rest.some((r) => r.holds(n, sideOfNumber(n)));
  let last = !isWhole && written % 2 === 1 && holds(next) ? next : written;
  // Lines for all rows of a kind, and no number at all: as many rows as there are kinds.
  if (written === 0 && !isWhole) while (last < rest.length && holds(last + 1)) last++;
  // Rows that are spoken of, and that a line for all like them gives.
  while (last < to && holds(last + 1)) last++;
  return last;
}

/** The last row a text speaks of in saying how they follow, and whether it says so of the whole piece. */
export interface Spoken {
  to: number;
  isWhole: boolean;
}

export const spokenOf = (plan: Pattern['plan'], again: readonly { said: Again }[]): Spoken => ({
  to: Math.max(
    0,
    ...(plan ?? []).map((p) => p.to),
    ...again.map(({ said }) => ('from' in said ? (said.to ?? said.from) : 0)),
  ),
  isWhole: plan !== null,
});

/**
 * The rows in the order they are worked: numbered ones by their numbers, each row without a number after the one that
 * stands before it in the text. `sideAt` says the side of a place, from 1.
 */
export function orderOf(
  lines: readonly RowLine[],
  numbered: NumberedRows,
  spoken: Spoken,
  sideAt: (place: number) => Side,
  { takesTurns, placeOf }: { takesTurns: boolean; placeOf?: PatternLines['placeOf'] },
): Order & { problems: Problem[] } {
  const named = new Map<number, RowLine[]>();
  let before = 0;
  for (const line of lines) {
    if (line.named !== undefined) named.set(before, [...(named.get(before) ?? []), line]);
    before = Math.max(before, ...line.numbers);
  }
  const shift = (number: number) => {
    let by = 0;
    for (const [after, rows] of named) if (after < number) by += rows.length;
    return by;
  };
  const placeOfNumber = (number: number) => number + shift(number);
  // Rows without a number behind the last that has one, where a line for all like it gives another: which comes first?
  const problems: Problem[] = [];
  const written = Math.max(0, ...numbered.rows.keys());
  const behind = written > 0 ? named.get(written) : undefined;
  named.delete(behind ? written : -1);
  let height = highest(numbered, spoken, (n) => sideAt(placeOfNumber(n)));
  if (behind) {
    const [{ side }] = behind as [RowLine];
    const isOpen = height > written && (!takesTurns || side === null);
    if (height > written && side === sideAt(placeOfNumber(written + 1))) height = written;
    named.set(isOpen ? written : height, behind);
    if (isOpen)
      problems.push({
        id: 'row-open',
        level: 'error',
        message: `Is this row ${written + 1}, or does it follow row ${height}, which the line for all rows like it gives? Write its number, or its side.`,
        at: placeOf?.(behind[0]!),
      });
  }
  const rows: PlacedRow[] = [];
  const places = new Map<number, number>();
  for (let n = 0; n <= height; n++) {
    if (n > 0) {
      const side = sideAt(rows.length + 1);
      places.set(n, rows.length + 1);
      rows.push({
        label: `Row ${n}`,
        number: n,
        side,
        line: lineFor(numbered, n, side) ?? null,
        body: bodyFor(numbered, n, side),
      });
    }
    for (const line of named.get(n) ?? []) {
      const side = sideAt(rows.length + 1);
      const { body } = line;
      const label = `The ${line.named} row`;
      const own = body.type === 'as' ? bodyFor(numbered, body.rows[0]!, side) : ownBody(body, 0);
      rows.push({
        label,
        number: null,
        side,
        line,
        body: body.type === 'as' && body.swaps && own ? (swapped(own, body.swaps) ?? own) : own,
      });
    }
  }
  return {
    rows: withClothsGoingOn(rows),
    problems,
    placeOf: (number) => places.get(number) ?? null,
    rowsAfter: (count) => {
      let last = 0;
      for (const line of lines.slice(0, count)) {
        if (line.named !== undefined) last = Math.max(last, rows.findIndex((r) => r.line === line) + 1);
        for (const n of line.numbers) last = Math.max(last, places.get(n) ?? 0);
      }
      // A line that stands for all like it may be the last of them.
      const next = rows[last];
      return next?.line?.rest && !next.line.numbers.includes(next.number ?? -1) ? last + 1 : last;
    },
  };
}

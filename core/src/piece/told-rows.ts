import { repeatRows } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf } from '../chart/schema.js';
import type { Piece } from '../chart/piece.js';
import { rowWord, sideOf, wayOf } from '../construction/index.js';
import { stitchesText, type Manner } from '../words/manner.js';
import { itemsText } from '../words/render.js';
import { dictionOf, beginsRight, type Diction } from '../words/vocabulary.js';
import { phrase, type WordSettings } from '../words/write.js';
import type { Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { lcm } from '../values.js';
import type { Assembled } from './assemble.js';
import { CLOTH_KINDS } from '../sizes/cloths.js';
import { columnsOfPart, type LaidPart } from './lay-out.js';
import { panelRowAt, type PanelRows } from './up.js';

/**
 * The rows of a piece told panel by panel: what lies between the panels in stitches, each panel by its chart's row; and once
 * that is set, "continue as set" as long as each goes on by its rule.
 */

/** One stretch of a row, from the right: stitches, a panel by its chart's row, or a marker. */
export type RowPart =
  | { kind: 'stitches'; stitches: Stitch[] }
  | { kind: 'panel'; name: string; row: number; rows: PanelRows; takes: number; makes: number }
  | { kind: 'mark' };

/** The parts of a piece with the columns they lie in, from the right. */
export function partColumns({
  laid,
  chart,
  below,
}: Assembled): { part: LaidPart; from: number; to: number }[] {
  // All rows are cut at the same columns; the first of the parts' rows tells them.
  const book = bookOf(chart);
  let at = 0;
  const row = chart.rows[below]!;
  const { span } = rowFacts(row, book);
  const widths = laid.parts.map(columnsOfPart);
  const found = laid.parts.map((part, i) => ({ part, from: at, to: (at += widths[i]!) }));
  if (at !== span) throw new Error(`Parts of ${at} columns do not make a row of ${span}.`);
  return found;
}

/** The piece's row (from 0 among the parts' rows) as it stands in its chart, or would with all repeats carried out. */
export function bodyRowOf({ chart, below, body, above }: Assembled, n: number): number {
  const repeat = repeatRows(chart);
  const at = below + n;
  if (!repeat || at <= repeat.last) return at;
  const high = repeat.last - repeat.first + 1;
  const closing = chart.rows.length - repeat.last - 1 - above;
  const fromTop = body - n;
  if (fromTop <= closing) return chart.rows.length - above - fromTop;
  return repeat.first + ((at - repeat.first) % high);
}

/** What a row of the piece is made of; `number` counts from 1 above the border. */
export function rowParts(piece: Piece, made: Assembled, number: number): RowPart[] {
  const { chart } = made;
  const row = chart.rows[bodyRowOf(made, number - 1)]!;
  const book = bookOf(chart);
  const { starts } = rowFacts(row, book);
  const parts: RowPart[] = [];
  const place = () => {
    const last = parts.at(-1);
    if (last && last.kind !== 'mark') parts.push({ kind: 'mark' });
  };
  for (const { part: of, from, to } of partColumns(made)) {
    if (of.part.kind === 'marker') {
      place();
      continue;
    }
    const stitches = row.filter((s, i) => s !== NO_STITCH && starts[i]! >= from && starts[i]! < to);
    if (piece.markers && of.chart) place();
    const panelRow = of.going && panelRowAt(of.going, number, made.body);
    const count = (what: 'takes' | 'makes') => stitches.reduce((sum, s) => sum + book.facts(s)[what], 0);
    const last = parts.at(-1);
    // Before it begins a panel's stitches are worked as they will be wanted.
    if (panelRow)
      parts.push({
        kind: 'panel',
        name: of.name,
        row: panelRow,
        rows: of.going!.rows,
        takes: count('takes'),
        makes: count('makes'),
      });
    else if (last?.kind === 'stitches') last.stitches.push(...stitches);
    else if (stitches.length) parts.push({ kind: 'stitches', stitches });
    if (piece.markers && of.chart) place();
  }
  while (parts.at(-1)?.kind === 'mark') parts.pop();
  return parts;
}

/** How rows of a piece are put in words. */
export interface Telling {
  diction: Diction;
  settings: WordSettings;
  manner: Manner;
}

export const tellingOf = ({ chart }: Assembled, settings: WordSettings, manner: Manner): Telling => ({
  diction: dictionOf(chart, settings),
  settings,
  manner,
});

/**
 * A row in words, in working order. Over how many stitches a panel is worked is told where `isSet` is not yet so: between
 * its markers the knitter need not count.
 */
export function rowPartsText(
  parts: readonly RowPart[],
  side: Side,
  mark: 'pm' | 'sm',
  isSet: boolean,
  { diction, manner }: Telling,
): string {
  const inOrder = beginsRight(side, diction) ? parts : [...parts].reverse();
  return inOrder
    .map((part) => {
      if (part.kind === 'mark') return mark;
      if (part.kind === 'stitches') return itemsText(phrase(part.stitches, side, diction), manner);
      const { name, row, takes, makes } = part;
      const over = isSet ? '' : ` over the next ${stitchesText(takes, manner)}`;
      return `work row ${row} of ${name}${over}${makes === takes ? '' : ` (${makes} after it)`}`;
    })
    .join(', ');
}

/** The row a panel works after one of its rows: the next, or from the last of its repeat the first of it. */
export const nextRow = ({ setup, repeat }: PanelRows, row: number): number =>
  row === setup + repeat ? setup + 1 : row + 1;

const sameStitch = (a: readonly Stitch[], b: readonly Stitch[]) =>
  a.length === b.length && a.every((s, i) => s === b[i]);

/** Whether a row goes on from those below as set: each panel by its next row, all else as `every` rows below. */
export function isAsSet(rows: readonly (readonly RowPart[])[], n: number, every: number): boolean {
  const [row, last, like] = [rows[n]!, rows[n - 1], rows[n - every]];
  if (!last || !like || row.length !== last.length || row.length !== like.length) return false;
  return row.every((part, i) => {
    const [before, other] = [last[i]!, like[i]!];
    if (part.kind === 'panel')
      return (
        before.kind === 'panel' && before.name === part.name && part.row === nextRow(part.rows, before.row)
      );
    if (part.kind === 'stitches')
      return other.kind === 'stitches' && sameStitch(part.stitches, other.stitches);
    return before.kind === 'mark' && other.kind === 'mark';
  });
}

/** After how many rows what lies beside the panels begins anew, at a row of the same side. */
export function everyOf({ laid }: Assembled, piece: Piece): number {
  const periods = laid.parts.map(({ part }) =>
    part.kind === 'ground'
      ? CLOTH_KINDS[part.cloth].every
      : part.kind === 'selvage' && part.style !== 'stocking'
        ? 2
        : 1,
  );
  return periods.reduce(lcm, wayOf(piece).rowsToSameSide);
}

/** "Continue as set", with the rule where it is told first. */
export function asSetText(every: number, hasPanels: boolean, isFirst: boolean, word: string): string {
  if (!isFirst) return 'continue as set';
  const else_ = every === 1 ? `as the ${word} below` : `as ${every} ${word}s below`;
  return hasPanels
    ? `continue as set, each panel by its next row (from the first of its repeat when its last is worked), all else ${else_}`
    : `continue as set, ${else_}`;
}

/** A line of the rows: one row told by itself, or a run of rows that go on as set. */
export type BodyLine = { from: number; to: number; text: string; count: number | null };

/** The rows of the parts in lines; rows count from 1 above the border. */
export function bodyLinesOf(piece: Piece, made: Assembled, telling: Telling): BodyLine[] {
  const book = bookOf(made.chart);
  const every = everyOf(made, piece);
  const word = rowWord(piece).toLowerCase();
  const rows: RowPart[][] = [];
  const lines: (BodyLine & { isSet: boolean })[] = [];
  const hasPanels = made.laid.parts.some(({ chart }) => chart);
  let isTold = false;
  for (let n = 0; n < made.body; n++) {
    const r = bodyRowOf(made, n);
    rows.push(rowParts(piece, made, n + 1));
    const count = made.chart.rows[r]!.reduce((sum, s) => sum + book.facts(s).makes, 0);
    const last = lines.at(-1);
    if (isAsSet(rows, n, every)) {
      if (last?.isSet) {
        last.to = n + 1;
        if (last.count !== count) last.count = null;
        continue;
      }
      const text = asSetText(every, hasPanels, !isTold, word);
      isTold = true;
      lines.push({ from: n + 1, to: n + 1, text, count, isSet: true });
      continue;
    }
    const marks = rows[n]!.filter(({ kind }) => kind === 'mark').length;
    const isKnown = n > 0 && marks > 0 && rows[n - 1]!.length === rows[n]!.length && piece.markers;
    const text = rowPartsText(rows[n]!, sideOf(made.chart, r), n === 0 ? 'pm' : 'sm', isKnown, telling);
    lines.push({ from: n + 1, to: n + 1, text, count, isSet: false });
  }
  return lines.map(({ isSet: _, ...line }) => line);
}

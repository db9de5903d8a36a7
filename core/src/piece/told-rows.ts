import { repeatRows } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf } from '../chart/schema.js';
import type { Piece } from '../chart/piece-document.js';
import { sideOf, takesTurns, wayOf } from '../construction/index.js';
import type { Item, RowLine } from '../words/pattern.js';
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
  | {
      kind: 'panel';
      name: string;
      row: number;
      rows: PanelRows;
      stitches: Stitch[];
      takes: number;
      makes: number;
    }
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
        stitches,
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
interface Telling {
  diction: Diction;
}

export const tellingOf = ({ chart }: Assembled, settings: WordSettings): Telling => ({
  diction: dictionOf(chart, settings),
});

/**
 * A row as what stands in it, in working order. Over how many stitches a panel is worked is told where `isSet` is not yet so:
 * between its markers the knitter need not count.
 */
function itemsOfRow(
  parts: readonly RowPart[],
  side: Side,
  mark: 'place' | 'slip',
  isSet: boolean,
  { diction }: Telling,
): Item[] {
  const inOrder = beginsRight(side, diction) ? parts : [...parts].reverse();
  return inOrder.flatMap((part): Item[] => {
    if (part.kind === 'mark') return [{ type: 'aside', text: mark === 'place' ? 'pm' : 'sm', mark }];
    if (part.kind === 'stitches') return phrase(part.stitches, side, diction);
    const { name, row, takes, makes } = part;
    return [{ type: 'panel', name, row, over: isSet ? null : takes, after: makes === takes ? null : makes }];
  });
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

/** The rows of the parts as lines: one row told by itself, or a run of rows that go on as set. Rows count from 1 above the border. */
export function bodyLinesOf(piece: Piece, made: Assembled, telling: Telling): RowLine[] {
  const book = bookOf(made.chart);
  const way = wayOf(piece);
  const every = everyOf(made, piece);
  const rows: RowPart[][] = [];
  const lines: RowLine[] = [];
  const hasPanels = made.laid.parts.some(({ chart }) => chart);
  let isTold = false;
  for (let n = 0; n < made.body; n++) {
    const r = bodyRowOf(made, n);
    rows.push(rowParts(piece, made, n + 1));
    const count = made.chart.rows[r]!.reduce((sum, s) => sum + book.facts(s).makes, 0);
    const last = lines.at(-1);
    const isSet = isAsSet(rows, n, every);
    if (isSet && last?.body.type === 'asSet') {
      last.numbers.push(n + 1);
      last.side = null;
      if (last.count !== count) last.count = null;
      continue;
    }
    const side = sideOf(made.chart, r);
    const marks = rows[n]!.filter(({ kind }) => kind === 'mark').length;
    const isKnown = n > 0 && marks > 0 && rows[n - 1]!.length === rows[n]!.length && piece.markers;
    const items = () => itemsOfRow(rows[n]!, side, n === 0 ? 'place' : 'slip', isKnown, telling);
    const body: RowLine['body'] = isSet
      ? { type: 'asSet', rule: isTold ? null : { every, hasPanels } }
      : { type: 'items', items: items() };
    isTold ||= isSet;
    lines.push({
      kind: way.row,
      numbers: [n + 1],
      rest: null,
      side: takesTurns(way) ? side : null,
      body,
      count,
    });
  }
  return lines;
}

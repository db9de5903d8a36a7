import { repeatRows } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf } from '../chart/schema.js';
import type { Piece } from '../chart/piece.js';
import { constructionOf, sideOf } from '../construction/construction.js';
import { stitchesText, type Manner } from '../words/manner.js';
import { itemsText } from '../words/render.js';
import { dictionOf, readsLeftwards, type Diction } from '../words/vocabulary.js';
import { phrase, type WordSettings } from '../words/write.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Assembled } from './assemble.js';
import { centredUp, columnsOfPart, upOfPart, type LaidPart } from './lay-out.js';
import { panelRowAt } from './up.js';

/** The rows of a piece told panel by panel: what lies between the panels in stitches, each panel by its chart's row. */

/** Marks in such a row. */
export const PLACE = 'pm';
export const SLIP = 'sm';

/** "work row 5 of Chart A over the next 24 sts"; with the count after it where that is another. */
export function panelText(name: string, row: number, takes: number, makes: number, manner: Manner): string {
  const after = makes === takes ? '' : ` (${makes} after it)`;
  return `work row ${row} of ${name} over the next ${stitchesText(takes, manner)}${after}`;
}

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

/** One row of the piece in words, panel by panel; `number` counts from 1 above the border. */
export function panelRowText(
  piece: Piece,
  made: Assembled,
  number: number,
  settings: WordSettings,
  manner: Manner,
): string {
  const { chart } = made;
  const r = bodyRowOf(made, number - 1);
  const side = sideOf(chart, r);
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const { starts } = rowFacts(row, book);
  const diction: Diction = dictionOf(chart, settings);
  const within = (from: number, to: number) =>
    row.filter((s, i) => s !== NO_STITCH && starts[i]! >= from && starts[i]! < to);
  const mark = number === 1 ? PLACE : SLIP;
  /** Pieces of the row from the right: words of what is no panel, panels, markers. */
  type Segment = { stitches: ReturnType<typeof within>; isPanel: boolean } | { text: string } | 'mark';
  const segments: Segment[] = [];
  const place = () => {
    if (segments.length && segments.at(-1) !== 'mark') segments.push('mark');
  };
  partColumns(made).forEach(({ part: of, from, to }) => {
    const { part, chart: own } = of;
    if (part.kind === 'marker') return place();
    const stitches = within(from, to);
    if (!own) {
      const last = segments.at(-1);
      if (last && last !== 'mark' && 'stitches' in last && !last.isPanel) last.stitches.push(...stitches);
      else if (stitches.length) segments.push({ stitches, isPanel: false });
      return;
    }
    if (piece.markers) place();
    const panelRow = panelRowAt(goingOf(made, of), number, made.body);
    const count = (what: 'takes' | 'makes') => stitches.reduce((sum, s) => sum + book.facts(s)[what], 0);
    // Before it begins its stitches are worked as they will be wanted.
    if (panelRow === null) segments.push({ stitches, isPanel: true });
    else segments.push({ text: panelText(of.name, panelRow, count('takes'), count('makes'), manner) });
    if (piece.markers) place();
  });
  while (segments.at(-1) === 'mark') segments.pop();
  const inOrder = readsLeftwards(side, settings.hand) ? segments : segments.reverse();
  return inOrder
    .map((segment) =>
      segment === 'mark'
        ? mark
        : 'text' in segment
          ? segment.text
          : itemsText(phrase(segment.stitches, side, diction), manner),
    )
    .join(', ');
}

/** How a panel of an assembled piece goes up: a centred one begins later. */
export function goingOf(made: Assembled, of: LaidPart): ReturnType<typeof upOfPart> {
  const up = upOfPart(of.part as Parameters<typeof upOfPart>[0], of.chart!);
  return of === made.lead && made.way?.kind === 'centred' ? centredUp(up, made.way.begins) : up;
}

/** What the row of a piece is called. */
export const rowWord = (piece: Pick<Piece, 'construction'>): string =>
  constructionOf(piece).row === 'round' ? 'Round' : 'Row';

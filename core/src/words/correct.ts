import { sameStitches } from '../chart/steps.js';
import type { Row } from '../chart/schema.js';
import { ABBREVIATED } from './manner.js';
import type { RowLine } from './pattern.js';
import { readPattern } from './read.js';
import { linesPlaced } from './reader/placed.js';
import type { ReadOptions } from './reader/assemble.js';
import type { Span } from './reader/language.js';
import type { PlacedRow } from './reader/order.js';
import { keyOutside, sectionsOf, type Section } from './reader/sections.js';
import { rowHeadText, rowText } from './render.js';
import { dictionOf } from './vocabulary.js';
import { wordsOfRow } from './write.js';

/** A stretch of a text put otherwise. */
type Change = Span & { text: string };

/**
 * What changes in a text so that one row has other words: its own line is written anew; where a line stands for several
 * rows, it goes on standing for the others. Null where the row has no number to be told by.
 */
function changesFor(
  { line, number, side }: PlacedRow,
  at: Span | undefined,
  words: string,
  others: readonly PlacedRow[],
): Change[] | null {
  if (!line || number === null || !at) return null;
  const own = { ...line, numbers: [number], rest: null, side: line.side && side };
  const written = `${rowHeadText(own, ABBREVIATED)}: ${words}.`;
  const left = line.numbers.filter((n) => n !== number);
  if (!line.numbers.includes(number)) return [{ from: at.to, to: at.to, text: `\n${written}` }];
  if (!line.rest && !left.length) return [{ ...at, text: written }];
  // It is told by another of the rows it stands for from now on.
  const next = left.length
    ? left
    : others.flatMap((o) => (o.line === line && o.number !== number ? [o.number!] : [])).slice(0, 1);
  if (!next.length) return [{ ...at, text: written }];
  const rest: RowLine = { ...line, numbers: next };
  return [{ ...at, text: `${written}\n${rowText(rest, ABBREVIATED)}` }];
}

/**
 * The text of one pattern with a row of its chart (from 0) put otherwise, so that words and chart go on agreeing: it is
 * read again, and must make that chart and nothing worse. Null where the row cannot be told in this text.
 */
export function withRowCorrected(text: string, given: ReadOptions, r: number, row: Row): string | null {
  const before = readPattern(text, given);
  if (!before.chart?.rows[r]) return null;
  const wanted = { ...before.chart, rows: before.chart.rows.with(r, row) };
  const { lines, placed } = linesPlaced(text, given);
  const at = placed.order.rows[r];
  if (!at) return null;
  const diction = dictionOf(wanted, {
    // Without a school there is no name that is sure to be read as what it is.
    school: given.school ?? 'spelled',
    names: before.names,
    hand: lines.pattern.head.hand,
    style: { pairNames: lines.pattern.head.names ?? 'pairs' },
  });
  const words = wordsOfRow(wanted, r, diction, ABBREVIATED);
  const changes = changesFor(at, at.line ? lines.placeOf(at.line) : undefined, words, placed.order.rows);
  if (!changes) return null;
  const made = changes.reduce(
    (t, change) => t.slice(0, change.from) + change.text + t.slice(change.to),
    text,
  );
  const after = readPattern(made, given);
  const follows = (i: number) => {
    const { line, body } = placed.order.rows[i]!;
    return i !== r && (body?.type === 'presented' || line?.body.type === 'as');
  };
  const errors = (list: typeof before.problems) => list.filter((p) => p.level === 'error').length;
  const isRight =
    after.chart?.rows.length === wanted.rows.length &&
    // A row that is worked as it presents, or as another, follows that one: so the text says.
    after.chart.rows.every((read, i) => follows(i) || sameStitches(read, wanted.rows[i]!)) &&
    errors(after.problems) <= errors(before.problems);
  return isRight ? made : null;
}

/** The same for one pattern of a text that may hold several; the answer is the whole text. */
export function withPatternCorrected(
  text: string,
  given: ReadOptions,
  { from, to }: Pick<Section, 'from' | 'to'>,
  r: number,
  row: Row,
): string | null {
  const sections = sectionsOf(text);
  const section = sections.find((s) => s.from === from && s.to === to);
  const keyText = section && sections.length > 1 ? keyOutside(text, section) : undefined;
  const made = withRowCorrected(text.slice(from, to), { ...given, keyText }, r, row);
  return made === null ? null : text.slice(0, from) + made + text.slice(to);
}

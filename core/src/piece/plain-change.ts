import type { Piece } from '../chart/piece-document.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf } from '../chart/schema.js';
import { rowWord, wayOf } from '../construction/index.js';
import { wordText, type Manner } from '../words/manner.js';
import type { Assembled, SizeMade } from './assemble.js';
import { linesInSizes } from './in-sizes.js';
import { endsOf } from '../sizes/evenly.js';
import { spread } from '../sizes/spread.js';

/** Stitches on the needle before so many of a piece's last rows. */
export const leftBefore = ({ chart }: Pick<Assembled, 'chart'>, rows: number): number =>
  rowFacts(chart.rows.at(-1 - rows)!, bookOf(chart)).makes;

/** The same rows spread evenly, which plain cloth would do with: beside those placed where ropes want them. */
export function evenlyText(
  all: readonly SizeMade[],
  end: 'bottom' | 'top',
  piece: Piece,
  manner: Manner,
): string[] {
  const border = piece.border[end];
  const isPlaced = border?.changes === 'ropes' || border?.kind === 'runs-on';
  if (!isPlaced || all.some(({ made }) => made.spread.includes(end))) return [];
  const texts = all.map(({ made }) => {
    const of = end === 'bottom' ? made.castOn : leftBefore(made, made.above);
    const to = end === 'bottom' ? of + made.increases : of - made.decreases;
    if (of === to) return null;
    const row = spread({ from: of, to, ends: endsOf(wayOf(piece)) });
    return 'problem' in row
      ? null
      : row.words.replace(/\b(?:k\d+|M1|k2tog|kfb)\b/g, (word) =>
          word === 'M1' && manner.form === 'full' ? 'make 1' : wordText(word, manner),
        );
  });
  const has = all.flatMap(({ size }, i) => {
    const text = texts[i];
    return text ? [{ text, name: size.name }] : [];
  });
  if (!has.length) return [];
  const names = has.map(({ name }) => name);
  const lines = linesInSizes(
    has.map(({ text }) => text),
    names,
  );
  const isOne = lines.length === 1 && has.length === all.length;
  const line = isOne
    ? `: ${lines[0]!.text}`
    : `, ${lines.map(({ text, sizes }) => `${(sizes ?? names).join(', ')}: ${text}`).join('; ')}`;
  return [`In plain cloth, evenly spaced, this ${rowWord(piece).toLowerCase()} would be${line}.`];
}

import type { Piece } from '../chart/piece-document.js';
import { lengthText, type LengthUnit } from '../measures/length.js';
import { borderRows } from '../piece/border.js';
import { sizesText } from '../piece/in-sizes.js';
import type { Laid } from '../piece/lay-out.js';
import type { PieceWords } from '../piece/words.js';
import { TOKENS } from './inks.js';
import type { Figure, Picture } from './page.js';

/** The schematic of a piece: its outline to scale, borders and panels marked, measures of every size beside it. Units are ems of its text. */

const HIGH = 15;
const WIDEST = 26;
const TEXT = 0.95;

const line = (d: string, width = 0.07, stroke: string = TOKENS.peat): Figure => ({
  kind: 'path',
  d,
  stroke,
  width,
});
const words = (text: string, x: number, y: number, anchor: 'start' | 'middle' | 'end'): Figure => ({
  kind: 'text',
  text,
  x,
  y,
  size: TEXT,
  anchor,
  ink: TOKENS.peat,
});

/** Null as long as width or length of a size is not known. */
export function schematicOf(
  piece: Piece,
  { sizes }: Pick<PieceWords, 'sizes'>,
  laid: Laid,
  unit: LengthUnit,
): Picture | null {
  const [first] = sizes;
  if (!first || sizes.some((s) => s.width === null || s.length === null)) return null;
  const [wide, high] = [first.width!, first.length!];
  const scale = Math.min(HIGH / high, WIDEST / wide);
  const [w, h] = [wide * scale, high * scale];
  const figures: Figure[] = [{ kind: 'path', d: `M0 0H${w}V${h}H0Z`, stroke: TOKENS.peat, width: 0.12 }];
  const rowHigh = h / first.rows;
  const { bottom, top } = piece.border;
  const low = bottom ? h - borderRows(bottom, 'bottom') * rowHigh : h;
  const upper = top ? borderRows(top, 'top') * rowHigh : 0;
  if (bottom) figures.push(line(`M0 ${low}H${w}`));
  if (top) figures.push(line(`M0 ${upper}H${w}`));
  // From the right, as the RS looks.
  let right = w;
  const letters = new Map<string, string>();
  for (const part of laid.parts) {
    const partWide = (part.width ?? 0) * scale;
    if (!partWide) continue;
    if (part.chart) {
      figures.push(line(`M${right} ${upper}V${low}M${right - partWide} ${upper}V${low}`, 0.05, TOKENS.slate));
      // A panel is named by a letter: there is seldom room for more.
      const letter = letters.get(part.name) ?? String.fromCharCode(97 + letters.size);
      letters.set(part.name, letter);
      figures.push(words(letter, right - partWide / 2, (upper + low) / 2, 'middle'));
    }
    right -= partWide;
  }
  const told = (of: 'width' | 'length') =>
    `${sizesText(sizes.map((s) => lengthText(s[of]!, unit).replace(` ${unit}`, '')))} ${unit}`;
  const arrow = 0.35;
  figures.push(
    line(
      `M0 ${h + 1}H${w}M${arrow} ${h + 1 - arrow / 2}L0 ${h + 1}L${arrow} ${h + 1 + arrow / 2}M${w - arrow} ${h + 1 - arrow / 2}L${w} ${h + 1}L${w - arrow} ${h + 1 + arrow / 2}`,
    ),
    words(told('width'), w / 2, h + 2.3, 'middle'),
    line(
      `M${w + 1} 0V${h}M${w + 1 - arrow / 2} ${arrow}L${w + 1} 0L${w + 1 + arrow / 2} ${arrow}M${w + 1 - arrow / 2} ${h - arrow}L${w + 1} ${h}L${w + 1 + arrow / 2} ${h - arrow}`,
    ),
    words(told('length'), w + 1.6, h / 2, 'start'),
  );
  const legend = [...letters].map(([name, letter]) => `${letter} ${name}`);
  legend.forEach((said, i) => figures.push(words(said, w + 1.6, h - (legend.length - 1 - i) * 1.3, 'start')));
  const beside = Math.max(...[told('length'), ...legend].map((t) => t.length)) * TEXT * 0.55 + 2;
  return {
    box: {
      x: -0.5,
      y: -0.5,
      width: Math.max(w + beside, told('width').length * TEXT * 0.55) + 1,
      height: h + 3.4,
    },
    figures,
  };
}

import type { Inks } from './inks.js';
import { inksOfMark, type Figure, type Picture } from './page.js';
import type { Mark } from './scene.js';
import type { Shape } from './shape.js';

/** A picture as SVG text: in a file of its own, in a page, and in a page that is saved. */

type Words = Extract<Figure, { kind: 'text' }>;

export interface SvgManner {
  inks: Inks;
  /** What stands before every id, where several pictures stand in one page. */
  prefix?: string;
  /** Whether each row and each stitch is a group with a name of its own. */
  isNamed?: boolean;
  /** What a stitch is called, by its row and its first column from the right, both from 0. */
  nameOf?: (row: number, column: number) => string;
  /** Letters as outlines, in cells, from the origin of their base line; else they are text. */
  outlined?: (words: Pick<Words, 'text' | 'size' | 'anchor'>) => string;
}

/** A text inside markup. What no XML may hold is left out. */
export const escapedXml = (text: string): string =>
  text
    // eslint-disable-next-line no-control-regex
    .replace(/[\0-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff]/g, '')
    .replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

const round = (n: number): string => String(Math.round(n * 1000) / 1000);

const shapeText = ({ d, dx, fill, stroke, width }: Shape, inks: Inks): string =>
  `<path d="${d}"${dx ? ` transform="translate(${round(dx)} 0)"` : ''} fill="${fill ? inks[fill] : 'none'}"${
    stroke ? ` stroke="${inks[stroke]}" stroke-width="${width ?? 0.06}" stroke-linejoin="round"` : ''
  }/>`;

/** Shapes of a drawing, in cells. */
export const shapesText = (shapes: readonly Shape[], inks: Inks): string =>
  shapes.map((shape) => shapeText(shape, inks)).join('');

/** A mark at its upper left corner. */
function markText(mark: Mark, { inks, outlined }: SvgManner): string {
  const own = inksOfMark(mark, inks);
  const whole = mark.isWhole
    ? `<rect x="0.03" y="0.03" width="${round(mark.span - 0.06)}" height="0.94" fill="${inks.casing}"/>`
    : '';
  const letter = own.letter
    ? wordsText(
        { kind: 'text', text: own.letter, x: 0.2, y: 0.3, size: 0.36, anchor: 'middle', ink: '#000' },
        outlined,
      )
    : '';
  return whole + shapesText(mark.shapes, own.inks) + letter;
}

function wordsText({ text, x, y, size, anchor, ink }: Words, outlined: SvgManner['outlined']): string {
  if (outlined)
    return `<path transform="translate(${round(x)} ${round(y)})" d="${outlined({ text, size, anchor })}" fill="${ink}"/>`;
  return `<text x="${round(x)}" y="${round(y)}" font-size="${size}" text-anchor="${anchor}" fill="${ink}">${escapedXml(text)}</text>`;
}

/** The inside of an `svg` element whose view box is the picture's. */
export function svgInside({ clip, figures }: Picture, manner: SvgManner): string {
  const { prefix = '', isNamed, nameOf, outlined } = manner;
  const drawings = new Map<string, { id: string; mark: Mark }>();
  for (const figure of figures)
    if (figure.kind === 'mark' && !drawings.has(figure.mark.key))
      drawings.set(figure.mark.key, { id: `${prefix}m${drawings.size}`, mark: figure.mark });
  const figureText = (figure: Figure): string => {
    if (figure.kind === 'text') return wordsText(figure, outlined);
    if (figure.kind === 'path')
      return `<path d="${figure.d}" fill="${figure.fill ?? 'none'}"${
        figure.stroke
          ? ` stroke="${figure.stroke}" stroke-width="${figure.width ?? 0.06}" stroke-linecap="square"`
          : ''
      }/>`;
    const { mark, x, y, row } = figure;
    const use = `<use href="#${drawings.get(mark.key)!.id}" x="${round(x)}" y="${round(y)}"/>`;
    if (!isNamed || row === undefined || mark.isGap) return use;
    const title = nameOf ? `<title>${escapedXml(nameOf(row, mark.column))}</title>` : '';
    return `<g id="${prefix}row-${row + 1}-column-${mark.column + 1}">${title}${use}</g>`;
  };
  /** Figures one after the other, those of a row in a group of its own. */
  const grouped = (list: readonly Figure[], what: string): string => {
    if (!isNamed) return list.map(figureText).join('');
    const parts: string[] = [];
    for (let i = 0; i < list.length;) {
      const row = rowOf(list[i]!);
      let end = i + 1;
      while (end < list.length && rowOf(list[end]!) === row) end++;
      const inside = list.slice(i, end).map(figureText).join('');
      parts.push(
        row === undefined
          ? inside
          : `<g id="${prefix}${what}-${row + 1}" data-row="${row + 1}">${inside}</g>`,
      );
      i = end;
    }
    return parts.join('');
  };
  const defs = [...drawings.values()]
    .map(({ id, mark }) => `<g id="${id}">${markText(mark, manner)}</g>`)
    .join('');
  const clipped = clip
    ? `<clipPath id="${prefix}clip"><rect x="${round(clip.x)}" y="${round(clip.y)}" width="${round(clip.width)}" height="${round(clip.height)}"/></clipPath>`
    : '';
  const isWords = ({ kind }: Figure) => kind === 'text';
  return (
    `<defs>${defs}${clipped}</defs>` +
    `<g${clip ? ` clip-path="url(#${prefix}clip)"` : ''}>${grouped(
      figures.filter((f) => !isWords(f)),
      'row',
    )}</g>` +
    grouped(figures.filter(isWords), 'number')
  );
}

const rowOf = (figure: Figure): number | undefined => (figure.kind === 'path' ? undefined : figure.row);

/** The view box of a picture, as an attribute has it. */
export const viewBoxOf = ({ box: { x, y, width, height } }: Pick<Picture, 'box'>): string =>
  [x, y, width, height].map(round).join(' ');

/**
 * A picture as an SVG file.
 *
 * @param cell the size of its unit, in millimetres
 */
export const svgFile = (
  picture: Picture,
  manner: SvgManner,
  { title, cell }: { title: string; cell: number },
): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" role="img" width="${round(picture.box.width * cell)}mm" height="${round(picture.box.height * cell)}mm" viewBox="${viewBoxOf(picture)}" font-family="'Source Sans 3', 'Segoe UI', sans-serif"><title>${escapedXml(title)}</title>${svgInside(picture, manner)}</svg>\n`;

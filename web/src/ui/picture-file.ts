import { svgFile, type Picture, type SvgManner } from '@cordelina/core';

/** A picture as a file of its own, as it is printed: lines that stay sharp at any size, or painted. */

/** The size of a cell on paper, in millimetres. */
const CELL = 5;
const INCH = 25.4;
/** The longest side of a picture a browser can paint, and the most dots in all. */
const LONGEST = 12_000;
const MOST_DOTS = 60_000_000;

export interface Asked {
  picture: Picture;
  manner: SvgManner;
  title: string;
}

/** As SVG, with its size in millimetres, its rows and stitches in groups of their names. */
export const svgOf = ({ picture, manner, title }: Asked): Blob =>
  new Blob([svgFile(picture, { ...manner, isNamed: true }, { title, cell: CELL })], {
    type: 'image/svg+xml',
  });

/**
 * Painted on white, at so many dots to an inch where that does not grow too large.
 *
 * @returns the picture, and its dots to an inch; null where the browser cannot paint it
 */
export async function pngOf(
  { picture, manner, title }: Asked,
  wanted: number,
): Promise<{ file: Blob; dots: number } | null> {
  const [width, height] = [picture.box.width, picture.box.height].map((cells) => (cells * CELL) / INCH) as [
    number,
    number,
  ];
  const dots = Math.min(wanted, LONGEST / Math.max(width, height), Math.sqrt(MOST_DOTS / (width * height)));
  const [across, down] = [Math.round(width * dots), Math.round(height * dots)];
  const image = new Image(across, down);
  image.src = `data:image/svg+xml,${encodeURIComponent(svgFile(picture, manner, { title, cell: (CELL * dots) / 96 }))}`;
  const canvas = document.createElement('canvas');
  canvas.width = across;
  canvas.height = down;
  const paint = canvas.getContext('2d');
  try {
    await image.decode();
  } catch {
    return null;
  }
  if (!paint) return null;
  paint.fillStyle = '#fff';
  paint.fillRect(0, 0, across, down);
  paint.drawImage(image, 0, 0, across, down);
  const file = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/png'));
  return file && { file, dots: Math.round(dots) };
}

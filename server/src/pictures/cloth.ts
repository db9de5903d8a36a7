import { dyed, smallPicture, type Chart, type Dye } from '@cordelina/core';
import { PNG } from 'pngjs';

interface Size {
  width: number;
  height: number;
}

/** The cloth of a chart at rest as a PNG of so many pixels, all of it, before a grey from 0 to 255. */
export function clothPng(chart: Chart, dye: Dye, size: Size, behind: number): Buffer {
  const { rgba } = smallPicture(chart, size, dyed(dye), { fill: false });
  for (let p = 0; p < rgba.length; p += 4) {
    const share = rgba[p + 3]! / 255;
    for (let c = 0; c < 3; c++) rgba[p + c] = rgba[p + c]! * share + behind * (1 - share);
    rgba[p + 3] = 255;
  }
  const png = new PNG(size);
  png.data = Buffer.from(rgba.buffer);
  return PNG.sync.write(png, { colorType: 2 });
}

/**
 * The same as an AVIF with transparency between the yarn, filled by the cloth's middle or with all of it: a thirtieth of
 * the bytes, for a list with hundreds of them.
 */
export async function clothAvif(chart: Chart, dye: Dye, size: Size, fill: boolean): Promise<Uint8Array> {
  const { rgba } = smallPicture(chart, size, dyed(dye), { fill });
  // What encodes it is a large library, which only a thread that makes pictures needs.
  const { default: sharp } = await import('sharp');
  const image = sharp(Buffer.from(rgba.buffer), { raw: { ...size, channels: 4 } });
  return image.avif({ quality: 35, effort: 2 }).toBuffer();
}

import { dyed, smallPicture, type Chart, type Dye } from '@cordelina/core';
import { PNG } from 'pngjs';

/** The cloth of a chart at rest as a PNG, of so many pixels: with transparency between the yarn, or before a grey from 0 to 255; filled by its middle, or with all of it. */
export function clothPng(
  chart: Chart,
  dye: Dye,
  size: { width: number; height: number },
  behind: number | null,
  fill = true,
): Buffer {
  const { rgba } = smallPicture(chart, size, dyed(dye), { fill });
  if (behind !== null)
    for (let p = 0; p < rgba.length; p += 4) {
      const share = rgba[p + 3]! / 255;
      for (let c = 0; c < 3; c++) rgba[p + c] = rgba[p + c]! * share + behind * (1 - share);
      rgba[p + 3] = 255;
    }
  const png = new PNG(size);
  png.data = Buffer.from(rgba.buffer);
  return PNG.sync.write(png, { colorType: behind === null ? 6 : 2 });
}

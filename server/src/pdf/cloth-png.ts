import { smallPicture, YARNS, type Chart, type YarnName } from '@cordelina/core';
import { PNG } from 'pngjs';

/** The picture of a cloth in a PDF, in points, and how many of its pixels make one. */
export const CLOTH = { width: 340, height: 225 } as const;
const SHARP = 2;

/** What shows between the yarn is as light as the paper is not. */
const BEHIND = 60;

/** The cloth of a chart as a PNG without transparency, which a PDF takes in as it is. */
export function clothPng(chart: Chart, yarn: YarnName): Buffer {
  const [width, height] = [CLOTH.width * SHARP, CLOTH.height * SHARP];
  const { rgba } = smallPicture(chart, { width, height }, YARNS[yarn]);
  for (let p = 0; p < rgba.length; p += 4) {
    const share = rgba[p + 3]! / 255;
    for (let c = 0; c < 3; c++) rgba[p + c] = rgba[p + c]! * share + BEHIND * (1 - share);
    rgba[p + 3] = 255;
  }
  const png = new PNG({ width, height });
  png.data = Buffer.from(rgba.buffer);
  return PNG.sync.write(png, { colorType: 2 });
}

/** A picture as one number a pixel, line by line from its upper left corner. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  /** 0 to 255. */
  readonly values: Uint8Array;
}

/** A place in a picture, in pixels from its upper left corner. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** A picture that is traced has at most so many pixels; a larger one is made smaller first. */
export const MOST_PIXELS = 24_000_000;

/** Paper is looked for in so many blocks along the longer side. */
const BLOCKS = 28;
/** In each block this share of the pixels is darker than its paper. */
const DARKER = 0.88;
/** Paper is never taken to be darker than this: what is darker is ink, or no paper at all. */
const DARKEST_PAPER = 48;
/** What is so little darker than the paper is the grain of the paper, or of the camera, in 255ths. */
const GRAIN = 14;

/** The light of a picture in colours, with what is clear laid on white. */
export function lightOf(rgba: ArrayLike<number>, width: number, height: number): Pixels {
  const values = new Uint8Array(width * height);
  for (let i = 0, at = 0; i < values.length; i++, at += 4) {
    const alpha = rgba[at + 3]! / 255;
    const light = 0.299 * rgba[at]! + 0.587 * rgba[at + 1]! + 0.114 * rgba[at + 2]!;
    values[i] = Math.round(255 + alpha * (light - 255));
  }
  return { width, height, values };
}

/**
 * How dark a picture is against its paper, 0 to 255: uneven light, a shadow across the page and the tint of the paper are gone, the
 * lines and the marks stay.
 */
export function inkOf({ width, height, values }: Pixels): Pixels {
  const size = Math.max(4, Math.ceil(Math.max(width, height) / BLOCKS));
  const [across, down] = [Math.ceil(width / size), Math.ceil(height / size)];
  const paper = new Float64Array(across * down);
  for (let by = 0; by < down; by++)
    for (let bx = 0; bx < across; bx++) paper[by * across + bx] = paperIn(bx * size, by * size);
  const even = blurred(paper, across, down);
  const ink = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const v = Math.max(0, Math.min(down - 1, (y + 0.5) / size - 0.5));
    const [top, low] = [Math.floor(v), Math.min(down - 1, Math.floor(v) + 1)];
    for (let x = 0; x < width; x++) {
      const u = Math.max(0, Math.min(across - 1, (x + 0.5) / size - 0.5));
      const [left, right] = [Math.floor(u), Math.min(across - 1, Math.floor(u) + 1)];
      const [fx, fy] = [u - left, v - top];
      const upper = even[top * across + left]! * (1 - fx) + even[top * across + right]! * fx;
      const lower = even[low * across + left]! * (1 - fx) + even[low * across + right]! * fx;
      const here = upper * (1 - fy) + lower * fy;
      const darker = 255 * (1 - values[y * width + x]! / here);
      ink[y * width + x] = darker > GRAIN ? Math.min(255, Math.round(darker)) : 0;
    }
  }
  return { width, height, values: ink };

  function paperIn(x0: number, y0: number): number {
    const counts = new Uint32Array(256);
    let many = 0;
    for (let y = y0; y < Math.min(height, y0 + size); y++)
      for (let x = x0; x < Math.min(width, x0 + size); x++, many++) counts[values[y * width + x]!]!++;
    let [level, below] = [0, 0];
    while (level < 255 && below + counts[level]! < DARKER * many) below += counts[level++]!;
    return Math.max(DARKEST_PAPER, level);
  }
}

/** Each block with its neighbours, so that no edge of a block shows. */
function blurred(blocks: Float64Array, across: number, down: number): Float64Array {
  return blocks.map((_, i) => {
    const [bx, by] = [i % across, Math.floor(i / across)];
    let [sum, many] = [0, 0];
    for (let y = Math.max(0, by - 1); y <= Math.min(down - 1, by + 1); y++)
      for (let x = Math.max(0, bx - 1); x <= Math.min(across - 1, bx + 1); x++, many++)
        sum += blocks[y * across + x]!;
    return sum / many;
  });
}

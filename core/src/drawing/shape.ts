/** Ropes are told apart by so many colours; then these come again. */
export const ROPE_COLOURS = 8;
type RopeInk = `rope${1 | 2 | 3 | 4 | 5 | 6 | 7 | 8}`;

/** The ink of a rope by its number, from 0. */
export const ropeInk = (rope: number): RopeInk => `rope${((rope % ROPE_COLOURS) + 1) as 1}`;

/**
 * What a shape is painted with; the page decides the colours. `left` and `right` are the front groups of
 * crossings by their lean, `rope` a straight cord, `under` a cord that passes behind, `strand` a purl stitch of the ground that passes, `casing` the paper's halo that
 * interrupts it, `rope1` and so on the ropes told apart by colour, `outline` and `mark` the dark of the drawing, `gap` where there is no stitch.
 */
export type Ink =
  | RopeInk
  | 'left'
  | 'right'
  | 'rope'
  | 'under'
  | 'strand'
  | 'casing'
  | 'outline'
  | 'mark'
  | 'gap'
  | 'gapLine';

/** One path. Units are cells: x runs right and y down from the upper left corner of what is drawn. */
export interface Shape {
  d: string;
  /** How far right the path is moved, in cells. */
  dx?: number;
  fill?: Ink;
  stroke?: Ink;
  /** Width of the stroke, in cells. */
  width?: number;
}

/** How wide the outline of a cord is drawn, and the paper that shows beside what passes over another, in cells. */
export const OUTLINE = 0.055;
export const CASING = 0.2;

/** The two schools of plain cells: knit empty and purl a dot, or knit an upright bar and purl a level one. */
export type PlainSchool = 'empty' | 'bars';

const round = (n: number) => Math.round(n * 1000) / 1000;

/** Path text from commands and numbers, rounded to a thousandth of a cell. */
export function path(...parts: (string | number)[]): string {
  return parts.map((p) => (typeof p === 'number' ? round(p) : p)).join(' ');
}

export function circle(x: number, y: number, r: number): string {
  return path('M', x - r, y, 'a', r, r, 0, 1, 0, 2 * r, 0, 'a', r, r, 0, 1, 0, -2 * r, 0, 'Z');
}

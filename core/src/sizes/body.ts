import { lengthOf, type Length } from '../measures/length.js';

/**
 * Body measures as the craft-yarn trade's published standard has them, chest or bust all round, to choose sizes from. From
 * memory; in inches, as they were published, the lower end where a range is given.
 */

export interface BodySize {
  name: string;
  chest: Length;
}

const list = (...of: [name: string, inches: number][]): BodySize[] =>
  of.map(([name, inches]) => ({ name, chest: lengthOf(inches, 'in') }));

export const BODY_TABLES: Readonly<Record<'women' | 'men' | 'children', readonly BodySize[]>> = {
  women: list(
    ['XS', 28],
    ['S', 32],
    ['M', 36],
    ['L', 40],
    ['1X', 44],
    ['2X', 48],
    ['3X', 52],
    ['4X', 56],
    ['5X', 60],
  ),
  men: list(['S', 34], ['M', 38], ['L', 42], ['XL', 46], ['XXL', 50]),
  children: list(
    ['2', 21],
    ['4', 23],
    ['6', 25],
    ['8', 26.5],
    ['10', 28],
    ['12', 30],
    ['14', 31.5],
    ['16', 32.5],
  ),
};

export const BODY_NAMES = { women: 'Women', men: 'Men', children: 'Children, by age' } as const;

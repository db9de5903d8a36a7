/** Published tables of the craft-yarn trade: needle sizes, and the weights of yarn. */

export interface NeedleSize {
  mm: number;
  us: string | null;
  uk: string | null;
}

/**
 * Needle sizes by their diameter, from 1.5 to 25 mm, with the numbers they go by in the US (000 to 50) and, of old, in the UK and
 * Canada. The published table of the craft-yarn trade, from memory.
 */
export const NEEDLE_SIZES: readonly NeedleSize[] = [
  [1.5, '000', null],
  [1.75, '00', '15'],
  [2, '0', '14'],
  [2.25, '1', '13'],
  [2.5, '1½', null],
  [2.75, '2', '12'],
  [3, null, '11'],
  [3.25, '3', '10'],
  [3.5, '4', null],
  [3.75, '5', '9'],
  [4, '6', '8'],
  [4.5, '7', '7'],
  [5, '8', '6'],
  [5.5, '9', '5'],
  [6, '10', '4'],
  [6.5, '10½', '3'],
  [7, null, '2'],
  [7.5, null, '1'],
  [8, '11', '0'],
  [9, '13', '00'],
  [10, '15', '000'],
  [12, null, null],
  [12.75, '17', null],
  [15, '19', null],
  [19, '35', null],
  [20, null, null],
  [25, '50', null],
].map(([mm, us, uk]) => ({ mm: mm as number, us: us as string | null, uk: uk as string | null }));

/** The size of a diameter; null where the trade has no number for it. */
export const needleSize = (mm: number): NeedleSize | null => NEEDLE_SIZES.find((n) => n.mm === mm) ?? null;

/** "4 mm (US 6, UK 8)": a needle as a pattern names it. */
export function needleText(mm: number): string {
  const size = needleSize(mm);
  const names = [size?.us && `US ${size.us}`, size?.uk && `UK ${size.uk}`].filter(Boolean);
  return `${mm} mm${names.length ? ` (${names.join(', ')})` : ''}`;
}

export interface YarnWeight {
  number: number;
  name: string;
  /** Stitches of stocking stitch in 10 cm. */
  least: number;
  most: number;
}

/** Weights of yarn. They overlap, and one is never put in the place of another: only a swatch tells. */
export const YARN_WEIGHTS: readonly YarnWeight[] = [
  { number: 0, name: 'lace', least: 33, most: 40 },
  { number: 1, name: 'super fine', least: 27, most: 32 },
  { number: 2, name: 'fine', least: 23, most: 26 },
  { number: 3, name: 'light', least: 21, most: 24 },
  { number: 4, name: 'medium', least: 16, most: 20 },
  { number: 5, name: 'bulky', least: 12, most: 15 },
  { number: 6, name: 'super bulky', least: 7, most: 11 },
  { number: 7, name: 'jumbo', least: 1, most: 6 },
];

/** The weights whose range a gauge of stocking stitch (stitches in 10 cm, rounded) lies in. */
export const weightsAt = (stitches: number): readonly YarnWeight[] =>
  YARN_WEIGHTS.filter(({ least, most }) => Math.round(stitches) >= least && Math.round(stitches) <= most);

import type { Dye, YarnName } from '../chart/cloth-settings.js';
import { TOKENS } from './inks.js';

/** Red, green and blue, 0 to 255. */
export type Rgb = readonly [number, number, number];

/** A yarn as it looks. */
export interface Yarn {
  colour: Rgb;
  /** Flecks of another fibre: their colour, and how much of the yarn they cover (0 to 1). */
  fleck: Rgb;
  flecked: number;
  /** Yarn B, in which loops lie that a fabric says do. */
  second?: Pick<Yarn, 'colour' | 'fleck'>;
}

/** The yarns of the hut's store: undyed, dyed in the fleece, and heathered. */
export const YARNS: Record<YarnName, Yarn & { name: string }> = {
  fleece: { name: 'undyed fleece', colour: [238, 229, 210], fleck: [238, 229, 210], flecked: 0 },
  oatmeal: { name: 'oatmeal heather', colour: [206, 188, 158], fleck: [120, 99, 76], flecked: 0.22 },
  peat: { name: 'natural peat', colour: [104, 88, 76], fleck: [66, 55, 48], flecked: 0.12 },
  slate: { name: 'slate heather', colour: [126, 136, 148], fleck: [206, 208, 206], flecked: 0.16 },
  lichen: { name: 'lichen heather', colour: [142, 154, 108], fleck: [214, 190, 104], flecked: 0.2 },
  woad: { name: 'woad', colour: [78, 118, 156], fleck: [78, 118, 156], flecked: 0 },
  weld: { name: 'weld', colour: [214, 172, 78], fleck: [214, 172, 78], flecked: 0 },
  rowan: { name: 'rowan heather', colour: [168, 74, 62], fleck: [92, 44, 58], flecked: 0.16 },
};

/** The yarn of a cloth as it looks, with yarn B where two are worked at once. */
export const dyed = ({ yarn, second }: Dye): Yarn => ({ ...YARNS[yarn], second: YARNS[second] });

/** So much of a yarn's colour shows on the paper of a chart, whose marks must still be read on it. */
const TINT = 0.42;

/** Paper tinted by a yarn. */
function tint({ colour }: Pick<Yarn, 'colour'>): string {
  const paper = [1, 3, 5].map((at) => parseInt(TOKENS.chalk.slice(at, at + 2), 16));
  const mixed = colour.map((c, i) => Math.round(TINT * c + (1 - TINT) * paper[i]!));
  return `#${mixed.map((c) => c.toString(16).padStart(2, '0')).join('')}`;
}

/** Cells of a chart in pairs, by the yarn that shows: A and B. */
export interface Tints {
  a: string;
  b: string;
}

export const tintsOf = ({ yarn, second }: Dye): Tints => ({ a: tint(YARNS[yarn]), b: tint(YARNS[second]) });

import type { ClosedRopes } from '../../chart/closed-ropes.js';
import type { Jogs } from '../../chart/repeat-lines.js';
import type { Row } from '../../chart/schema.js';

/** A number a motif asks for. */
export interface MotifNumber {
  label: string;
  least: number;
  most: number;
  usual: number;
  /** Only every so many are to be had: 2 for rows that must be even. */
  step?: number;
}

/** One of a few ways a motif can be worked. */
export interface MotifChoice {
  label: string;
  options: readonly (readonly [value: string, name: string])[];
}

/** One repeat of a motif, from the right and from the bottom; its first row is a right-side row. */
export interface Woven {
  rows: readonly Row[];
  /** The columns that repeat where it is worked all over; without them it is a panel. */
  repeat?: { before: number; after: number };
  /** Rows whose repeat begins later, by their place. */
  jogs?: Jogs;
  /** What it is where stitches are won and lost in it: it is drawn into the ground, and columns open for it. */
  figure?: Omit<ClosedRopes, 'row' | 'column'>;
}

/** What a motif is told: its numbers and choices, by name. */
export type Said = Readonly<Record<string, number | string>>;

/** A traditional rope, built by rule from numbers. */
export interface MotifRule {
  id: string;
  name: string;
  about: string;
  numbers: Readonly<Record<string, MotifNumber>>;
  /** The first option of each is the usual one. */
  choices: Readonly<Record<string, MotifChoice>>;
  weave: (said: Said) => Woven;
}

/** A motif whose rule is told what it asked for, by name. */
export function motif<const N extends MotifRule['numbers'], const C extends MotifRule['choices']>(rule: {
  id: string;
  name: string;
  about: string;
  numbers: N;
  choices: C;
  weave: (said: { [K in keyof N]: number } & { [K in keyof C]: string }) => Woven;
}): MotifRule {
  return {
    ...rule,
    weave: (said) => rule.weave(said as { [K in keyof N]: number } & { [K in keyof C]: string }),
  };
}

/** Numbers that many motifs ask for. */
export const STITCHES: MotifNumber = { label: 'Stitches in a rope', least: 1, most: 4, usual: 2 };
export const ROWS: MotifNumber = {
  label: 'Rows from crossing to crossing',
  least: 4,
  most: 24,
  usual: 4,
  step: 2,
};
export const GUTTER: MotifNumber = { label: 'Purls at each side', least: 0, most: 6, usual: 2 };
export const LEAN: MotifChoice = {
  label: 'Leans',
  options: [
    ['left', 'left'],
    ['right', 'right'],
  ],
};
export const GROUND: MotifChoice = {
  label: 'Ground',
  options: [
    ['purl', 'purl'],
    ['moss', 'moss inside'],
  ],
};

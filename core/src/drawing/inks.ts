import type { Tone } from './layers.js';
import type { Ink } from './shape.js';

/** The product's own colours: the one place that names them. Style sheet, canvases and drawings all take them from here. */
export const TOKENS = {
  fleece: '#f5f1e8',
  chalk: '#fcfaf5',
  peat: '#231f1a',
  slate: '#5b6470',
  rule: '#c9cbc6',
  ruleHeavy: '#8f948f',
  wash: '#ebe6d9',
  /** What cloth is laid on to be looked at: a table, or a board of slate. */
  table: '#dcd6c8',
  board: '#3b4148',
  woad: '#2b5876',
  weld: '#875b0c',
  madder: '#a63a2b',
  lichen: '#4f6b3a',
} as const;

/** The colours a drawing is painted with. */
export type Inks = Record<Ink, string>;

export const INKS: Inks = {
  left: '#b3cbd9',
  right: '#e8cf9a',
  rope: '#efe9db',
  under: '#ddd8ca',
  strand: TOKENS.chalk,
  casing: TOKENS.chalk,
  outline: TOKENS.peat,
  mark: TOKENS.peat,
  // Neighbours differ in lightness as well as in hue; each rope also has its letter.
  rope1: '#a9c3d6',
  rope2: '#e6c56a',
  rope3: '#8fa668',
  rope4: '#d9a08c',
  rope5: '#d9cbe3',
  rope6: '#9a7f5c',
  rope7: '#d5e3c8',
  rope8: '#7f93a3',
  gap: '#e4e1d8',
  gapLine: '#a9aaa4',
};

/** The colours of what is laid over a chart. */
export const TONES: Record<Tone, string> = {
  error: TOKENS.madder,
  caution: TOKENS.weld,
  changed: TOKENS.woad,
  symmetry: TOKENS.woad,
  guess: TOKENS.slate,
};

/** For paper: white ground and shades that stay apart in black and white. */
export const PRINT_INKS: Inks = { ...INKS, casing: '#ffffff', strand: '#ffffff', rope: '#f6f4ee' };

/**
 * Colours a designer may give to distinct crossings. They differ in lightness as well as in hue, so that
 * colour-blind eyes tell them apart, and each comes with a mark.
 */
export const PALETTE: readonly { name: string; colour: string; mark: string }[] = [
  { name: 'heather', colour: '#cdb8d4', mark: 'a' },
  { name: 'moss', colour: '#a0b47b', mark: 'b' },
  { name: 'gorse', colour: '#eed452', mark: 'c' },
  { name: 'rowan', colour: '#d88665', mark: 'd' },
  { name: 'loch', colour: '#5a90b6', mark: 'e' },
  { name: 'bracken', colour: '#a1713b', mark: 'f' },
  { name: 'mist', colour: '#e2e8e8', mark: 'g' },
  { name: 'stone', colour: '#696d6f', mark: 'h' },
];

import type { Side } from '../stitches/face.js';

/** How a piece is worked: which way its rows go, and what follows from it. */
export interface Construction {
  id: 'flat' | 'round';
  /** As it is said of a piece: "flat", "in the round". */
  worked: string;
  /** What one row is called. */
  row: 'row' | 'round';
  /** Whether a row begins and ends at an edge; in the round its last stitch lies beside its first. */
  hasEdges: boolean;
  /** After so many rows a row is worked on the same side again: a repeat up must be a multiple of it. */
  rowsToSameSide: number;
  /** The side of the row at `index` (from 0, bottom), when row 1 is worked on `first`. */
  sideOf(index: number, first: Side): Side;
}

/** Back and forth: right-side and wrong-side rows take turns. */
export const FLAT: Construction = {
  id: 'flat',
  worked: 'flat',
  row: 'row',
  hasEdges: true,
  rowsToSameSide: 2,
  sideOf: (index, first) => (index % 2 === 0 ? first : first === 'RS' ? 'WS' : 'RS'),
};

/** Round and round: every round is a right-side one. */
export const ROUND: Construction = {
  id: 'round',
  worked: 'in the round',
  row: 'round',
  hasEdges: false,
  rowsToSameSide: 1,
  sideOf: () => 'RS',
};

export const CONSTRUCTIONS = { flat: FLAT, round: ROUND } as const;

/** Of what tells how it is worked. */
export type HowWorked = { construction: Construction['id']; firstRow: Side };

export const constructionOf = ({ construction }: Pick<HowWorked, 'construction'>): Construction =>
  CONSTRUCTIONS[construction];

/** The side the row at `index` (from 0, bottom) is worked on. */
export function sideOf(chart: HowWorked, index: number): Side {
  return constructionOf(chart).sideOf(index, chart.firstRow);
}

/** "Row 7", "Round 7"; rows count from 1. */
export function rowTitle(chart: Pick<HowWorked, 'construction'>, row: number): string {
  return `${constructionOf(chart).row === 'round' ? 'Round' : 'Row'} ${row}`;
}

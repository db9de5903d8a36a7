import { CLOTH_BOUNDS, type ClothSettings } from '../chart/cloth-settings.js';
import type { MeasuredCloth } from '../chart/piece-document.js';

/** How yarn and hand differ from the ordinary. */
export interface Proportions {
  /** A plain row's height, in widths of its stitch. */
  height: number;
  /** How much longer a loop grows in a crossing for each column it moves: little slack draws the cloth in. */
  slack: number;
  /** How strongly faces step and curl away from each other: 1 closes a rib as wool does. */
  curl: number;
}

/** Plain cloth has about 1.35 rows to a stitch (custom; Munden's courses to wales are 1.3). */
export const ORDINARY: Proportions = { height: 0.74, slack: 0.55, curl: 1 };

/** A plain row's height in widths of its stitch, as a plain gauge has it; the ordinary one where rows were not counted. */
export function heightOf(plain: Pick<MeasuredCloth, 'stitches' | 'rows'> | null): number {
  if (!plain?.rows) return ORDINARY.height;
  const { stitches, rows } = plain;
  const height = rows.over / rows.count / (stitches.over / stitches.count);
  const { least, most } = CLOTH_BOUNDS.height;
  return Math.max(least, Math.min(most, height));
}

/** How yarn and hand of a design draw in: as they were fitted to its swatches, else the ordinary ones. */
export const proportionsOf = (fitted: ClothSettings['fitted'], height: number): Proportions =>
  fitted ?? { ...ORDINARY, height };

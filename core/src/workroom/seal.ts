import type { Seal } from '../api/designs.js';
import type { WrittenDesign } from '../sheet/write-design.js';

/** The seal of a design out of its words. */
export const sealOf = ({
  checked,
  charts,
  problems,
}: Pick<WrittenDesign, 'checked' | 'charts' | 'problems'>): Seal => ({
  checked,
  against: charts.map(({ against }) => against),
  problem: problems[0]?.message ?? null,
});

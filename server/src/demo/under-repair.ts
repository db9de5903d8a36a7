import { FLAT, simpleCrossing, startChart, type Chart, type Stitch } from '@cordelina/core';

/** A draft with honest mistakes in it, one of each kind a pencil makes, so that the findings have something to say. */

const ROWS = 48;
const [L, R] = [simpleCrossing('left', 2, 2), simpleCrossing('right', 2, 2)];
const knit = (n: number) => Array<Stitch>(n).fill('k');
const purl = (n: number) => Array<Stitch>(n).fill('p');

/** What stands between the purls of a row, from the right: two ropes, a plait, and the ropes' mirror images. */
interface Panels {
  outer: Stitch[];
  inner: Stitch[];
  plait: Stitch[];
  innerMirrored: Stitch[];
  outerMirrored: Stitch[];
  edge: Stitch[];
}

const PLAIN: Panels = {
  outer: knit(4),
  inner: knit(4),
  plait: knit(6),
  innerMirrored: knit(4),
  outerMirrored: knit(4),
  edge: [...purl(2), 'k'],
};

/** A single purl parts the plait from the ropes beside it: the first mistake. */
const row = ({ outer, inner, plait, innerMirrored, outerMirrored, edge }: Panels): Stitch[] => [
  'k',
  ...purl(2),
  ...outer,
  ...purl(2),
  ...inner,
  'p',
  ...plait,
  'p',
  ...innerMirrored,
  ...purl(2),
  ...outerMirrored,
  ...edge,
];

/** The row (from 1) as it was meant: every fourth crosses, from row 3. */
function meant(number: number): Panels {
  if (number % 4 !== 3) return PLAIN;
  const isFirst = number % 8 === 3;
  return {
    ...PLAIN,
    outer: [L],
    inner: [R],
    plait: isFirst ? [L, ...knit(2)] : [...knit(2), R],
    innerMirrored: [L],
    outerMirrored: [R],
  };
}

/** What the pencil made of it. */
const SLIPS: Record<number, Partial<Panels>> = {
  // A purl in the middle of a rope.
  9: { inner: ['k', 'p', 'k', 'k'] },
  // A crossing turned the wrong way: over-under and mirror are broken.
  19: { outer: [R] },
  // One set on the wrong side, a row too soon.
  22: { outerMirrored: [R] },
  23: { outerMirrored: knit(4) },
  // One set a column too far.
  27: { plait: ['k', L, 'k'] },
  // One set two rows late.
  31: { innerMirrored: knit(4) },
  33: { innerMirrored: [L] },
  // A twist that takes the edge stitch.
  37: { edge: ['p', simpleCrossing('right', 1, 1, 'p')] },
  // A stitch forgotten.
  45: { edge: ['p', 'k'] },
};

export function underRepair(): Chart {
  const rows = Array.from({ length: ROWS }, (_, r) => row({ ...meant(r + 1), ...SLIPS[r + 1] }));
  const cloth = startChart({ columns: rows[0]!.length, rows: ROWS, construction: FLAT.id, ground: 'p' });
  return { ...cloth, rows };
}

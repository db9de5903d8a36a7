import { crossing } from '../../stitches/crossing.js';
import type { Lean, Worked } from '../../stitches/face.js';
import type { Row } from '../../chart/schema.js';
import { LEAN, motif, ROWS } from './motif.js';

export const ribbed = motif({
  id: 'ribbed',
  name: 'Ribbed rope',
  about: 'A rope of knit one, purl one on garter ground: both faces show ropes.',
  numbers: {
    stitches: { label: 'Stitches in a rope', least: 2, most: 4, usual: 4, step: 2 },
    rows: ROWS,
    gutter: { label: 'Garter stitches at each side', least: 0, most: 6, usual: 3 },
  },
  choices: { lean: LEAN },
  weave: ({ stitches, rows, gutter, lean }) => {
    const rib = Array.from({ length: stitches }, (_, i): Worked => (i % 2 ? 'p' : 'k'));
    // Knit on both sides: a ridge every second row.
    const garter = (r: number) => Array<Worked>(gutter).fill(r % 2 ? 'p' : 'k');
    return {
      rows: Array.from({ length: rows }, (_, r): Row => {
        const ropes = r === 2 ? [crossing(lean as Lean, rib, rib)] : [...rib, ...rib];
        return [...garter(r), ...ropes, ...garter(r)];
      }),
    };
  },
});

import { z } from 'zod';
import { stitchBook } from '../stitches/book.js';
import { beginsByHand, BothFaces, type Way } from './way.js';

/** Back and forth: right-side and wrong-side rows take turns. */
export const FLAT = {
  id: 'flat',
  name: 'flat, back and forth',
  worked: 'flat',
  called: ['back and forth'],
  row: 'row',
  settings: z.object({
    /** The side that row 1 is worked on. */
    firstRow: z.enum(['RS', 'WS']).default('RS'),
    bothFaces: BothFaces,
  }),
  hasEdges: true,
  takesBands: false,
  beds: 1,
  loops: 1,
  says: [],
  trains: [
    'Turn the work at the end of every row. On the wrong side knit what shows as purl on the right one, and purl what shows as knit.',
    'Cross on right-side rows: on wrong-side rows the stitches are worked as they present.',
  ],
  rowsToSameSide: 2,
  sideOf: (index, first) => (index % 2 === 0 ? first : first === 'RS' ? 'WS' : 'RS'),
  beginsAt: beginsByHand,
  shifts: 'repeat',
  alike: [{ side: 'WS' }, { side: 'RS' }],
  // Knit on every row, it lies as a ridge where it was knit on the wrong side.
  isRidge: (_, side) => side === 'WS',
  book: stitchBook,
  checks: ['wrong-side-crossing', 'crossing-at-edge', 'odd-row-repeat'],
  without: [],
} as const satisfies Way;

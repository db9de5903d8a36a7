import { MOST_SWATCHES, SwatchSchema, type Swatch } from '../sizes/swatch.js';
import { fieldsKind } from './fields.js';

export const SWATCH = fieldsKind<Swatch>({
  name: 'swatch',
  schema: SwatchSchema,
  most: MOST_SWATCHES,
  isListedWhole: true,
  titleOf: ({ name }) => name,
  bags: ['before', 'after'],
  labels: {
    name: 'Name',
    of: 'The chart it is of',
    side: 'Side measured',
    cloth: 'Cabled or plain',
    needle: 'Needle',
    yarn: 'Yarn',
    weight: 'Weight of the yarn',
    fibre: 'Fibre',
    'before/stitches': 'Stitches before washing',
    'before/rows': 'Rows before washing',
    'after/stitches': 'Stitches after washing',
    'after/rows': 'Rows after washing',
    grams: 'Grams',
    whole: 'Stitches and rows of the whole swatch',
    notes: 'Notes',
  },
});

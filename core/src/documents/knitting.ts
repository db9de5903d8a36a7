import { KnittingSchema, type Knitting, type NeedlePlace } from '../knitting/document.js';
import { fieldsKind } from './fields.js';

const placeIn = (value: unknown): NeedlePlace => value as NeedlePlace;

/**
 * What someone knits. Of two places the one her hand moved to later stands, whichever the server heard of first; of anything else
 * what was said last.
 */
export const KNITTING = fieldsKind<Knitting>({
  name: 'knitting',
  schema: KnittingSchema,
  most: 2000,
  isListedWhole: true,
  titleOf: ({ name, knitter }) => `${name}, ${knitter}`,
  bags: ['log', 'skeins'],
  labels: {
    name: 'What is knitted',
    knitter: 'Who knits',
    place: 'The place',
    log: 'When a row was finished',
    skeins: 'A skein',
    rest: 'When the hands rest',
    hand: 'For whose hands',
    edition: 'The pattern it is knitted from',
    stays: 'Whether it stays with the pattern it was begun from',
  },
  stands: (mine, theirs) =>
    mine.path[0] === 'place' && placeIn(theirs.now).at > placeIn(mine.now).at ? 'theirs' : 'mine',
});

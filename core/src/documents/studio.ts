import { StudioSchema, type Studio } from './studio-schema.js';
import { fieldsKind } from './fields.js';

/** A studio is one document: the later answer to a question stands, as a later word does among people. */
export const STUDIO = fieldsKind<Studio>({
  name: 'studio',
  schema: StudioSchema,
  most: 1,
  isListedWhole: false,
  titleOf: () => 'The studio',
  bags: ['answers', 'motifs'],
  labels: { house: 'House style', answers: 'What a name means', motifs: 'A motif of the studio’s own' },
  stands: () => 'mine',
});

/** The only studio there is so far. */
export const THE_STUDIO = '5c0ee000-0000-4000-8000-0000000000ff';

/** A studio that has said nothing yet. */
export const EMPTY_STUDIO: Studio = StudioSchema.parse({});

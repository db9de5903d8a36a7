import { NoteSchema, type Note } from '../knitting/document.js';
import { cutText } from '../values.js';
import { fieldsKind } from './fields.js';

/** What a knitter noticed. The later answer stands. */
export const NOTE = fieldsKind<Note>({
  name: 'note',
  schema: NoteSchema,
  most: 5000,
  isListedWhole: true,
  titleOf: ({ text, where }) => cutText(text.trim(), 80) || where,
  bags: [],
  labels: { text: 'What was noticed', state: 'Open or closed', answer: 'The answer', errata: 'On the sheet' },
  stands: () => 'mine',
});

import { DocumentError, readDesign } from '../chart/migrate.js';
import { StepMisfit } from '../chart/steps.js';
import { EditionHeadSchema, type Edition } from '../knitting/document.js';
import type { Kind } from './kind.js';

const STAYS = 'A pattern that is knitted from stays as it was.';

/** A design as it was when someone cast on. It is laid down, read and taken out; nothing in it is changed. */
export const EDITION: Kind<Edition> = {
  name: 'edition',
  most: 2000,
  isListedWhole: false,
  read(value) {
    const { document, ...head } = (value ?? {}) as Partial<Edition>;
    const parsed = EditionHeadSchema.safeParse(head);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      throw new DocumentError(issue.message, issue.path.map(String).join('.'));
    }
    return { ...parsed.data, document: readDesign(document) };
  },
  titleOf: ({ document }) => document.title,
  apply(document, steps) {
    if (steps.length) throw new StepMisfit(STAYS);
    return document;
  },
  rebase: (_document, changes, over) => ({ kept: [], aside: [...changes], over: [...over] }),
  between: () => [],
  placeOf: () => ['edition', 'The pattern'],
};

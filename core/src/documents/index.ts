import type { Design } from '../chart/schema.js';
import type { Swatch } from '../sizes/swatch.js';
import type { Studio } from './studio-schema.js';
import type { Edition, Knitting, Note } from '../knitting/document.js';
import { DESIGN } from './design.js';
import { EDITION } from './edition.js';
import type { Kind, KindName } from './kind.js';
import { KNITTING } from './knitting.js';
import { NOTE } from './note.js';
import { STUDIO } from './studio.js';
import { SWATCH } from './swatch.js';

export type { Kind, KindName } from './kind.js';
export { DESIGN } from './design.js';
export { EDITION } from './edition.js';
export { KNITTING } from './knitting.js';
export { NOTE } from './note.js';
export { SWATCH } from './swatch.js';
export { EMPTY_STUDIO, STUDIO, THE_STUDIO } from './studio.js';

/** What a document of each kind is. */
export interface DocumentOf {
  design: Design;
  swatch: Swatch;
  studio: Studio;
  edition: Edition;
  knitting: Knitting;
  note: Note;
}

/** All kinds of documents that are kept in versions. */
export const KINDS: { readonly [N in KindName]: Kind<DocumentOf[N]> } = {
  design: DESIGN,
  swatch: SWATCH,
  studio: STUDIO,
  edition: EDITION,
  knitting: KNITTING,
  note: NOTE,
};
export const KIND_NAMES = Object.keys(KINDS) as [KindName, ...KindName[]];

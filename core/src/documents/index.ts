import type { Design } from '../chart/schema.js';
import type { Swatch } from '../sizes/swatch.js';
import type { Studio } from './studio-schema.js';
import { DESIGN } from './design.js';
import type { Kind, KindName } from './kind.js';
import { STUDIO } from './studio.js';
import { SWATCH } from './swatch.js';

export type { Kind, KindName } from './kind.js';
export { DESIGN } from './design.js';
export { SWATCH } from './swatch.js';
export { EMPTY_STUDIO, STUDIO, THE_STUDIO } from './studio.js';

/** What a document of each kind is. */
export interface DocumentOf {
  design: Design;
  swatch: Swatch;
  studio: Studio;
}

/** All kinds of documents that are kept in versions. */
export const KINDS: { readonly [N in KindName]: Kind<DocumentOf[N]> } = {
  design: DESIGN,
  swatch: SWATCH,
  studio: STUDIO,
};
export const KIND_NAMES = Object.keys(KINDS) as [KindName, ...KindName[]];

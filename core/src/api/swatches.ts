import { z } from 'zod';
import { SwatchSchema } from '../sizes/swatch.js';
import type { Kind } from '../documents/index.js';
import { SavedSchema, storedOf } from './documents.js';

/** The swatch book: its swatches are saved as documents are; a list of them, and their photos, are its own. */

/** A swatch, its version, and when its photo was put there. */
export const KeptSwatchSchema = SavedSchema.extend({ swatch: SwatchSchema, photoAt: z.string().nullable() });
export type KeptSwatch = Readonly<z.infer<typeof KeptSwatchSchema>>;
export const SwatchListSchema = z.object({ swatches: z.array(KeptSwatchSchema) });

/** One of a kind that is listed whole, as a list tells it. */
export const listedOf = <D>(kind: Kind<D>) => storedOf(kind).extend({ photoAt: z.string().nullable() });
export const PhotoSavedSchema = z.object({ photoAt: z.string() });

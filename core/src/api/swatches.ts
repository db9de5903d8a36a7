import { z } from 'zod';
import { SwatchSchema } from '../sizes/swatch.js';
import { SavedSchema } from './documents.js';

/** The swatch book: its swatches are saved as documents are; a list of them, and their photos, are its own. */

/** A swatch, its version, and when its photo was put there. */
export const KeptSwatchSchema = SavedSchema.extend({ swatch: SwatchSchema, photoAt: z.string().nullable() });
export type KeptSwatch = Readonly<z.infer<typeof KeptSwatchSchema>>;
export const SwatchListSchema = z.object({ swatches: z.array(KeptSwatchSchema) });
export const PhotoSavedSchema = z.object({ photoAt: z.string() });

import { z } from 'zod';
import { SwatchSchema } from '../sizes/swatch.js';

/** The swatch book: what is asked of it and what is answered. */

/** Bytes of a request that saves one. */
export const LARGEST_SWATCH = 100_000;

export const SwatchRequest = z.strictObject({ swatch: SwatchSchema });
export const SwatchSavedSchema = z.object({ savedAt: z.string() });

/** A swatch, and when its photo was put there. */
export const KeptSwatchSchema = z.object({ swatch: SwatchSchema, photoAt: z.string().nullable() });
export type KeptSwatch = Readonly<z.infer<typeof KeptSwatchSchema>>;
export const SwatchListSchema = z.object({ swatches: z.array(KeptSwatchSchema) });
export const PhotoSavedSchema = z.object({ photoAt: z.string() });

import { z } from 'zod';

/** How a design's cloth is shown, as the document holds it. What follows from it is worked out in `cloth`. */

/** The yarns of the hut's store that a cloth can be shown in. */
export const YARN_NAMES = ['fleece', 'oatmeal', 'peat', 'slate', 'lichen', 'woad', 'weld', 'rowan'] as const;
export type YarnName = (typeof YARN_NAMES)[number];

/** What yarn and hand may differ by from the ordinary and still be cloth. */
export const CLOTH_BOUNDS = {
  height: { least: 0.5, most: 1 },
  slack: { least: 0, most: 0.9 },
  curl: { least: 0.3, most: 1.4 },
} as const;

const between = ({ least, most }: { least: number; most: number }) => z.number().min(least).max(most);

export const ClothSettingsSchema = z.strictObject({
  yarn: z.enum(YARN_NAMES).default('fleece'),
  /** Yarn B, where two are worked at once. */
  second: z.enum(YARN_NAMES).default('peat'),
  /** The ground behind ropes: as charted it makes room for them; whole, as where they are embossed on two beds. */
  ground: z.enum(['charted', 'whole']).default('charted'),
  /** How this yarn and hand draw in, fitted to swatches; null for the ordinary. */
  fitted: z
    .strictObject({
      slack: between(CLOTH_BOUNDS.slack),
      curl: between(CLOTH_BOUNDS.curl),
      height: between(CLOTH_BOUNDS.height),
      /** The swatches it was fitted to. */
      swatches: z.array(z.uuid()).max(20).readonly(),
    })
    .nullable()
    .default(null),
});
export type ClothSettings = Readonly<z.infer<typeof ClothSettingsSchema>>;

/** The yarns of a cloth by name: that of most, and yarn B where two are worked at once. */
export type Dye = Pick<ClothSettings, 'yarn' | 'second'>;

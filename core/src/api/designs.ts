import { z } from 'zod';
import { YARN_NAMES } from '../chart/cloth-settings.js';
import { ChartSchema } from '../chart/schema.js';
import { WaySchema } from '../construction/index.js';
import { SavedSchema } from './documents.js';

/** What the workroom shows of its designs. */

/** The lower right corner of a design's first chart, to be drawn small. */
const PreviewSchema = ChartSchema.transform(({ width, rows, own, construction, firstRow, ground, jogs }) => ({
  width,
  rows,
  own,
  construction,
  firstRow,
  ground,
  jogs,
}));

/** What a card in the workroom shows of a design. */
export const SummarySchema = z.object({
  construction: WaySchema,
  columns: z.int(),
  rows: z.int(),
  castOn: z.int(),
  repeats: z.int(),
  errors: z.int(),
  cautions: z.int(),
  /** The yarn its cloth is shown in; one worked out before cloth had yarns names none. */
  yarn: z.enum(YARN_NAMES).catch('fleece'),
  preview: PreviewSchema,
});
export type Summary = z.infer<typeof SummarySchema>;

export const CardSchema = SavedSchema.extend({
  id: z.uuid(),
  title: z.string(),
  /** One of another form is one not worked out yet: it spoils no other card. */
  summary: SummarySchema.nullable().catch(null),
});
export type Card = z.infer<typeof CardSchema>;

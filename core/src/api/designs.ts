import { z } from 'zod';
import { YARN_NAMES } from '../chart/cloth-settings.js';
import { ChartSchema } from '../chart/schema.js';
import { WaySchema } from '../construction/index.js';
import { SavedSchema } from './documents.js';

/** What the workroom shows of its designs. */

/** The lower right corner of a design's first chart, to be drawn small. */
const PreviewSchema = ChartSchema.transform(
  ({ width, rows, own, construction, firstRow, ground, jogs, bands }) => ({
    width,
    rows,
    own,
    construction,
    firstRow,
    ground,
    jogs,
    bands,
  }),
);

/** What a card in the workroom shows of a design. */
export const SummarySchema = z.object({
  construction: WaySchema,
  columns: z.int(),
  rows: z.int(),
  castOn: z.int(),
  repeats: z.int(),
  errors: z.int(),
  cautions: z.int(),
  /** The yarns its cloth is shown in; one worked out before cloth had yarns names none. */
  yarn: z.enum(YARN_NAMES).catch('fleece'),
  second: z.enum(YARN_NAMES).catch('peat'),
  preview: PreviewSchema,
});
export type Summary = z.infer<typeof SummarySchema>;

export const CardSchema = SavedSchema.extend({
  id: z.uuid(),
  title: z.string(),
  /** One of another form is one not worked out yet: it spoils no other card. */
  summary: SummarySchema.nullable().catch(null),
  /** The version that was worked out of, whose picture can be had; none of a design that is not on the server yet. */
  summaryVersion: z.int().nullable().catch(null),
});

/** The picture of a card, in pixels of the page; it has twice as many each way. */
export const CARD_PICTURE = { width: 278, height: 176 } as const;

/** Where the picture of a card is to be had: another address for each version, so that it can be kept. */
export const pictureAt = (id: string, version: number): string => `/api/designs/${id}/picture/${version}`;
export type Card = z.infer<typeof CardSchema>;

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

/** The form of what is worked out; one of an older form is worked out anew. */
export const SUMMARY_FORM = 2;

/** What a card in the workroom shows of a design, and what it is found by. */
export const SummarySchema = z.object({
  form: z.literal(SUMMARY_FORM),
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
  tags: z.array(z.string()),
  /** The words of its stitches and crossings, in its own school. */
  stitches: z.array(z.string()),
  /** What it says in notes, in its sheet and in the names of its charts, cut. */
  said: z.string(),
  preview: PreviewSchema,
});
export type Summary = z.infer<typeof SummarySchema>;

/** What a list tells of a design: without the picture's data, which only one that knits it itself needs. */
const ListedSummarySchema = SummarySchema.extend({ preview: PreviewSchema.optional() });

export const CardSchema = SavedSchema.extend({
  id: z.uuid(),
  title: z.string(),
  /** One of another form is one not worked out yet: it spoils no other card. */
  summary: ListedSummarySchema.nullable().catch(null),
  /** The version that was worked out of, whose picture can be had; none of a design that is not on the server yet. */
  summaryVersion: z.int().nullable().catch(null),
});

/** The picture of a card, in pixels of the page; it has twice as many each way. */
export const CARD_PICTURE = { width: 278, height: 176 } as const;

/** Where the picture of a card is to be had: another address for each version, so that it can be kept. */
export const pictureAt = (id: string, version: number): string => `/api/designs/${id}/picture/${version}`;
export type Card = z.infer<typeof CardSchema>;

/** What proving a design's words came to, without the words. */
export const SealSchema = z.object({
  /** Whether all of it was read back, worked on the needle and equal to the charts, and nothing is wrong with it. */
  checked: z.boolean(),
  /** Of each chart as it is printed, the numbers of repeats it was worked with. */
  against: z.array(z.array(z.int())),
  /** What stands in the way, where something does. */
  problem: z.string().nullable(),
});
export type Seal = z.infer<typeof SealSchema>;

/** For so many days what was taken out can be put back. */
export const DAYS_IN_BASKET = 30;

/** A design that was taken out, and when. */
export const BasketSchema = z.object({ id: z.uuid(), title: z.string(), takenOutAt: z.iso.datetime() });
export type InBasket = z.infer<typeof BasketSchema>;

import { z } from 'zod';
import { YARN_NAMES } from '../chart/cloth-settings.js';
import { ChartSchema, LIMITS } from '../chart/schema.js';
import { ChangeSchema, MOST_CHANGES } from '../chart/steps.js';
import { WaySchema } from '../construction/index.js';
import { boundedTitle } from '../values.js';
import { DocumentSchema } from './documents.js';

/** The workroom's designs: what is asked of them and what is answered, once for server, page and command line. */

/** Versions are numbers of the database: from 1 to the largest it counts to. */
export const MOST_VERSION = 2 ** 31 - 1;
export const VersionSchema = z.int().min(1).max(MOST_VERSION);

/** A version and when it was saved: the answer to every save. */
export const SavedSchema = z.object({ version: VersionSchema, savedAt: z.string() });
export type SavedAnswer = z.infer<typeof SavedSchema>;

/** A new design; the document is looked into apart, so that what is wrong with it is told by its path. */
export const MakeRequest = z.strictObject({ document: z.unknown() });

/** Changes made for a version. */
export const ChangesRequest = z.strictObject({
  base: VersionSchema,
  changes: z.array(ChangeSchema).min(1).max(MOST_CHANGES),
});

/** A whole document in the place of a version. */
export const ReplaceRequest = z.strictObject({ base: VersionSchema, document: z.unknown() });

export const StoredSchema = SavedSchema.extend({ document: DocumentSchema });
export type Stored = z.infer<typeof StoredSchema>;

/** What was saved since a version, oldest first; null when the server no longer keeps all of it. Also what comes with a 409. */
export const SinceSchema = SavedSchema.extend({
  since: z.array(SavedSchema.extend({ changes: z.array(ChangeSchema) })).nullable(),
});

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

/** A version that is kept: what was done to get there, and its name if it has one. */
export const MomentSchema = SavedSchema.extend({
  label: z.string().nullable(),
  name: z.string().nullable(),
});
export type MomentAnswer = z.infer<typeof MomentSchema>;

export const NameRequest = z.strictObject({ name: boundedTitle(LIMITS.title).nullable() });

/** What happened to a design, told to every page that listens. */
export const HappeningSchema = z.object({
  id: z.uuid(),
  kind: z.enum(['made', 'saved', 'taken-out', 'put-back']),
  version: VersionSchema.optional(),
});
export type Happening = z.infer<typeof HappeningSchema>;

/** What every refusal is told as: a sentence for the person, and where in the request it is. */
export const RefusalSchema = z.object({
  error: z.object({ message: z.string(), path: z.string().optional() }),
});

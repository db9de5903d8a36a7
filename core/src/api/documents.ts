import { z } from 'zod';
import { DocumentError } from '../chart/migrate.js';
import { LIMITS } from '../chart/schema.js';
import { ChangeSchema, MOST_CHANGES } from '../chart/steps.js';
import { DESIGN, KIND_NAMES, type Kind, type KindName } from '../documents/index.js';
import { boundedTitle } from '../values.js';

/**
 * Documents that are kept in versions, of whatever kind: what is asked of them and what is answered, once for
 * server, page and command line.
 */

/** A document inside a request, an answer or a stored value: brought up to date and checked. */
const documentOf = <D>(kind: Kind<D>) =>
  z.unknown().transform((value, ctx): D => {
    try {
      return kind.read(value);
    } catch (error) {
      if (!(error instanceof DocumentError)) throw error;
      ctx.addIssue({ code: 'custom', message: error.message });
      return z.NEVER;
    }
  });
export const DocumentSchema = documentOf(DESIGN);

/** Versions are numbers of the database: from 1 to the largest it counts to. */
export const MOST_VERSION = 2 ** 31 - 1;
export const VersionSchema = z.int().min(1).max(MOST_VERSION);

/** A version and when it was saved: the answer to every save. */
export const SavedSchema = z.object({ version: VersionSchema, savedAt: z.string() });
export type SavedAnswer = z.infer<typeof SavedSchema>;

/** A document as it stands at some version. */
export const storedOf = <D>(kind: Kind<D>) => SavedSchema.extend({ document: documentOf(kind) });
export const StoredSchema = storedOf(DESIGN);
export type Stored = z.infer<typeof StoredSchema>;

/** Bytes of a request on one kind of document; null for as many as any request may have. */
export const LARGEST_REQUEST: Readonly<Record<KindName, number | null>> = {
  design: null,
  swatch: 200_000,
  studio: 4_000_000,
  edition: null,
  knitting: 2_000_000,
  note: 50_000,
};

/** A new document; it is looked into apart, so that what is wrong with it is told by its path. */
export const MakeRequest = z.strictObject({ document: z.unknown() });

/** Changes made for a version. */
export const ChangesRequest = z.strictObject({
  base: VersionSchema,
  changes: z.array(ChangeSchema).min(1).max(MOST_CHANGES),
});

/** A whole document in the place of a version. */
export const ReplaceRequest = z.strictObject({ base: VersionSchema, document: z.unknown() });

/** What was saved since a version, oldest first; null when the server no longer keeps all of it. Also what comes with a 409. */
export const SinceSchema = SavedSchema.extend({
  since: z.array(SavedSchema.extend({ changes: z.array(ChangeSchema) })).nullable(),
});

/** A version that is kept: what was done to get there, and its name if it has one. */
export const MomentSchema = SavedSchema.extend({
  label: z.string().nullable(),
  name: z.string().nullable(),
});
export type MomentAnswer = z.infer<typeof MomentSchema>;

export const NameRequest = z.strictObject({ name: boundedTitle(LIMITS.title).nullable() });

/** What happened to a document, told to every page that listens. */
export const HappeningSchema = z.object({
  of: z.enum(KIND_NAMES),
  id: z.uuid(),
  kind: z.enum(['made', 'saved', 'taken-out', 'put-back', 'photographed']),
  version: VersionSchema.optional(),
});
export type Happening = z.infer<typeof HappeningSchema>;

/** What every refusal is told as: a sentence for the person, and where in the request it is. */
export const RefusalSchema = z.object({
  error: z.object({ message: z.string(), path: z.string().optional() }),
});

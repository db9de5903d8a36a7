import { HappeningSchema, type Happening } from '@cordelina/core';
import { z } from 'zod';
import type { Db, Listening } from './db.js';

/** The channel where the database tells what happened to a document, in the statement that did it. */
export const HAPPENINGS = 'cordelina_happenings';

const ToldSchema = HappeningSchema.extend({
  studio: z.uuid(),
  version: HappeningSchema.shape.version.nullable(),
});

/** Tells of what happened to a document beside its versions. */
export const tellHappening = (db: Db, studio: string, { of, id, kind }: Happening): Promise<void> =>
  db.notify(HAPPENINGS, JSON.stringify({ studio, of, id, kind, version: null }));

/**
 * What happens to one studio's documents, whichever program did it. `missed` is told when some may not have been
 * heard.
 */
export function hearHappenings(
  db: Db,
  studio: string,
  hear: (happening: Happening) => void,
  missed: () => void,
): Promise<Listening> {
  return db.listen(
    HAPPENINGS,
    (text) => {
      const parsed = ToldSchema.safeParse(asJson(text));
      if (!parsed.success || parsed.data.studio !== studio) return;
      const { of, id, kind, version } = parsed.data;
      hear({ of, id, kind, ...(version === null || version === undefined ? {} : { version }) });
    },
    missed,
  );
}

function asJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

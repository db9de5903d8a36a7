import type { KindName } from '../documents/index.js';
import type { Keeping } from './restore.js';

/** Asks a workroom's server; the answer's body as text. */
export type Ask = (
  method: 'GET' | 'POST' | 'PUT',
  path: string,
  body?: { type: string; bytes: Uint8Array | string },
) => Promise<{ status: number; text: string }>;

/** The server refused, in its own words. */
export class RestoreRefused extends Error {}

const PLACES: Readonly<Record<KindName, string>> = {
  design: '/api/designs',
  swatch: '/api/swatches',
  studio: '/api/studio',
  edition: '/api/editions',
  knitting: '/api/knittings',
  note: '/api/notes',
};

const placeOf = (of: KindName, id: string): string =>
  of === 'studio' ? PLACES.studio : `${PLACES[of]}/${id}`;

/** A workroom as it is reached over HTTP. */
export function keepingOver(ask: Ask): Keeping {
  const json = (value: unknown) => ({ type: 'application/json', bytes: JSON.stringify(value) });
  const must = async (answer: ReturnType<Ask>): Promise<unknown> => {
    const { status, text } = await answer;
    const value = text ? (JSON.parse(text) as { error?: { message?: string } }) : null;
    if (status >= 400) throw new RestoreRefused(value?.error?.message ?? `The server answered ${status}.`);
    return value;
  };
  return {
    async head(of, id) {
      const answer = await ask('GET', placeOf(of, id));
      if (answer.status === 404) return null;
      return (await must(Promise.resolve(answer))) as { version: number; document: unknown };
    },
    async make(of, document) {
      const answer = await ask('POST', PLACES[of], json({ document }));
      if (answer.status === 409) return false;
      await must(Promise.resolve(answer));
      return true;
    },
    putBack: async (of, id) => void (await must(ask('POST', `${placeOf(of, id)}/restore`))),
    async replace(of, id, base, document) {
      return ((await must(ask('PUT', placeOf(of, id), json({ base, document })))) as { version: number })
        .version;
    },
    name: async (of, id, version, name) =>
      void (await must(ask('PUT', `${placeOf(of, id)}/revisions/${version}`, json({ name })))),
    photo: async (of, id, photo) => void (await must(ask('PUT', `${placeOf(of, id)}/photo`, photo))),
  };
}

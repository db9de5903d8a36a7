import {
  BasketSchema,
  CardSchema,
  MomentSchema,
  PhotoSavedSchema,
  RefusalSchema,
  SavedSchema,
  SealSchema,
  SinceSchema,
  storedOf,
  SwatchListSchema,
  type Card,
  type InBasket,
  type Change,
  type Design,
  listedOf,
  type MomentAnswer,
  type SavedAnswer,
  type Seal,
  type Stored,
  type KindName,
  type DocumentOf,
  type Kind,
  KINDS,
} from '@cordelina/core';
import { z } from 'zod';

/** The server could not be reached, or is in trouble of its own: edits are kept here and sent again. */
export class ServerAway extends Error {}

/** The server refused; the message is for the person. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly body: unknown,
  ) {
    super(message);
  }
}

/** What was saved since a version; null when the server no longer keeps all of it. */
export interface Since {
  version: number;
  savedAt: string;
  changes: Change[] | null;
}
const sinceOf = ({ version, savedAt, since }: z.infer<typeof SinceSchema>): Since => ({
  version,
  savedAt,
  changes: since?.flatMap((s) => s.changes) ?? null,
});

export type Moment = MomentAnswer;

/** @param more what else the browser is to know of the request */
async function asked(
  method: string,
  path: string,
  body?: unknown,
  more: RequestInit = {},
): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      ...more,
      method,
      ...(body instanceof Blob
        ? { headers: { 'content-type': body.type }, body }
        : body !== undefined && {
            headers: { 'content-type': 'application/json' },
            body: JSON.stringify(body),
          }),
    });
  } catch {
    throw new ServerAway('The server is away.');
  }
  if (response.ok) return response;
  const answer: unknown = await response.json().catch(() => null);
  const parsed = RefusalSchema.safeParse(answer);
  const message = parsed.success ? parsed.data.error.message : 'The server could not answer.';
  // A server error is trouble that may pass: it is asked again, as one that is away.
  if (response.status >= 500) throw new ServerAway(message);
  throw new Refused(message, response.status, answer);
}

const ask = async (method: string, path: string, body?: unknown): Promise<unknown> =>
  (await asked(method, path, body)).json().catch(() => null);

/** The workroom's cards. One that cannot be understood does not keep the others away. */
export async function listDesigns(): Promise<Card[]> {
  const { designs } = z.object({ designs: z.array(z.unknown()) }).parse(await ask('GET', '/designs'));
  return designs.flatMap((card) => {
    const parsed = CardSchema.safeParse(card);
    return parsed.success ? [parsed.data] : [];
  });
}

/** One design's card. @throws Refused with status 404 when it is not there */
export const fetchCard = async (id: string): Promise<Card> =>
  CardSchema.parse(await ask('GET', `/designs/${id}/card`));

/** Whether the words of a saved version are proved. @throws Refused where the server cannot say */
export const fetchSeal = async (id: string, version: number): Promise<Seal> =>
  SealSchema.parse(await ask('GET', `/designs/${id}/seal/${version}`));

/** The designs that were taken out, the newest first. */
export const listBasket = async (): Promise<InBasket[]> =>
  z.object({ basket: z.array(BasketSchema) }).parse(await ask('GET', '/designs/basket')).basket;

/** Lets one of them go for good. */
export async function forgetDesign(id: string): Promise<void> {
  await ask('DELETE', `/designs/basket/${id}`);
}

/** Where the documents of each kind are. There is one studio only, at the place itself. */
const PLACES: Readonly<Record<KindName, string>> = {
  design: '/designs',
  swatch: '/swatches',
  studio: '/studio',
  edition: '/editions',
  knitting: '/knittings',
  note: '/notes',
};
const addressOf = (kind: KindName, id: string): string =>
  kind === 'studio' ? PLACES[kind] : `${PLACES[kind]}/${id}`;

type StoredAs<N extends KindName> = SavedAnswer & { document: DocumentOf[N] };

export async function fetchDocument<N extends KindName>(kind: N, id: string): Promise<StoredAs<N>> {
  const schema = storedOf(KINDS[kind] as unknown as Kind<DocumentOf[N]>);
  return schema.parse(await ask('GET', addressOf(kind, id)));
}

export const fetchDesign = (id: string): Promise<Stored> => fetchDocument('design', id);

export async function createDocument<N extends KindName>(
  kind: N,
  document: DocumentOf[N],
): Promise<SavedAnswer> {
  return SavedSchema.parse(await ask('POST', PLACES[kind], { document }));
}

const changesOf = (kind: KindName, id: string): string => `${addressOf(kind, id)}/changes`;

/** Sends changes made for version `base`. @throws Refused with status 409 when it has moved on; see `sinceIn` */
export async function sendChanges(
  kind: KindName,
  id: string,
  base: number,
  changes: readonly Change[],
): Promise<SavedAnswer> {
  return SavedSchema.parse(await ask('POST', changesOf(kind, id), { base, changes }));
}

/** Characters that a browser carries to the server for a page that is gone: it allows 64 kB for all that is under way. */
const MOST_CARRIED = 30_000;

/**
 * Sends changes from a page that is being left, and does not wait for the answer: a change has an id, so it is saved once,
 * however often it comes. What is too long to be carried is in the browser only, as it is there.
 */
export function carryChanges(kind: KindName, id: string, base: number, changes: readonly Change[]): void {
  if (JSON.stringify(changes).length > MOST_CARRIED) return;
  asked('POST', changesOf(kind, id), { base, changes }, { keepalive: true }).catch(() => undefined);
}

/** What a refused save came with: the saves since. Null when it was refused for another reason. */
export function sinceIn(error: unknown): Since | null {
  if (!(error instanceof Refused) || error.status !== 409) return null;
  const parsed = SinceSchema.safeParse(error.body);
  return parsed.success ? sinceOf(parsed.data) : null;
}

export async function fetchSince(kind: KindName, id: string, base: number): Promise<Since> {
  return sinceOf(SinceSchema.parse(await ask('GET', `${changesOf(kind, id)}?since=${base}`)));
}

export async function listMoments(id: string): Promise<Moment[]> {
  return z.object({ revisions: z.array(MomentSchema) }).parse(await ask('GET', `/designs/${id}/revisions`))
    .revisions;
}

export async function fetchMoment(id: string, version: number): Promise<Stored> {
  return storedOf(KINDS.design).parse(await ask('GET', `/designs/${id}/revisions/${version}`));
}

export async function nameMoment(id: string, version: number, name: string | null): Promise<void> {
  await ask('PUT', `/designs/${id}/revisions/${version}`, { name });
}

export async function deleteDocument(kind: KindName, id: string): Promise<void> {
  await ask('DELETE', addressOf(kind, id));
}

export async function restoreDocument(kind: KindName, id: string): Promise<void> {
  await ask('POST', `${addressOf(kind, id)}/restore`);
}

/** Kinds that are listed whole. */
export type ListedKind = 'swatch' | 'knitting' | 'note';

/** One of a kind that is listed, and when its photo was put there. */
export interface Listed<N extends ListedKind = ListedKind> extends SavedAnswer {
  document: DocumentOf[N];
  photoAt: string | null;
}

/** All of a kind, the newest first. One that cannot be understood does not keep the others away. */
export async function listDocuments<N extends ListedKind>(kind: N): Promise<Listed<N>[]> {
  const answer = await ask('GET', PLACES[kind]);
  if (kind === 'swatch')
    return SwatchListSchema.parse(answer).swatches.map(
      ({ swatch, ...rest }) => ({ ...rest, document: swatch }) as Listed<N>,
    );
  const schema = listedOf(KINDS[kind] as unknown as Kind<DocumentOf[N]>);
  const { documents } = z.object({ documents: z.array(z.unknown()) }).parse(answer);
  return documents.flatMap((one) => {
    const parsed = schema.safeParse(one);
    return parsed.success ? [parsed.data] : [];
  });
}

type Photographed = 'swatch' | 'note';

/** Where a document's photo is; another address once it is another photo. */
export const photoAddress = (kind: Photographed, id: string, photoAt: string): string =>
  `/api${PLACES[kind]}/${id}/photo?at=${encodeURIComponent(photoAt)}`;

export async function savePhoto(kind: Photographed, id: string, photo: Blob): Promise<string> {
  const answer = await ask('PUT', `${PLACES[kind]}/${id}/photo`, photo);
  return PhotoSavedSchema.parse(answer).photoAt;
}

export async function deletePhoto(kind: Photographed, id: string): Promise<void> {
  await ask('DELETE', `${PLACES[kind]}/${id}/photo`);
}

/** A design's sheet as a PDF; `missing` are characters that its fonts do not have. */
export async function fetchPdf(
  document: Design,
  corrections: readonly string[],
): Promise<{ file: Blob; pages: number; missing: string }> {
  const response = await asked('POST', '/pdf', { document, corrections });
  return {
    file: await response.blob(),
    pages: Number(response.headers.get('x-pages')),
    missing: decodeURIComponent(response.headers.get('x-missing') ?? ''),
  };
}

import { NameRequest, VersionSchema, type KindName } from '@cordelina/core';
import { Router, type Request, type Response } from 'express';
import { z } from 'zod';
import type { Since } from '../store/documents.js';
import { ApiError, parsed, parsedJson } from '../work/faults.js';
import type { Documents, SaveOutcome } from '../workroom/documents.js';
import { bytesOf, jsonBytes } from './bodies.js';

/** A version as an address names it. */
const Version = z.coerce.number().pipe(VersionSchema);

/** The saves since a version, their changes already JSON. */
function sinceJson(since: Since[] | null): string {
  if (!since) return 'null';
  const one = ({ version, savedAt, changes }: Since) =>
    `{"version":${version},"savedAt":"${savedAt}","changes":${changes}}`;
  return `[${since.map(one).join()}]`;
}

function sendSaved(res: Response, of: KindName, outcome: SaveOutcome): void {
  if (outcome.kind === 'saved') return void res.json(outcome.head);
  const { head, base, since } = outcome;
  const message = `This ${of} has moved on to version ${head.version}; you began from version ${base}. Nothing was overwritten.`;
  res
    .status(409)
    .type('json')
    .send(
      `{"error":${JSON.stringify({ message })},"version":${head.version},"savedAt":"${head.savedAt}","since":${sinceJson(since)}}`,
    );
}

/** Bytes of a request on one kind of document; null for as many as any request may have. */
const LARGEST: Readonly<Record<KindName, number | null>> = {
  design: null,
  swatch: 200_000,
  studio: 4_000_000,
};

/** The id of a document, of a kind of which there are many. */
export const idIn = (req: Request<{ id?: string }>): string => parsed(z.uuid(), req.params.id);

/**
 * What is done to one document, of whatever kind, at the address `at`: opened, saved, what was saved since, looked
 * back on, named.
 */
export function documentRoutes(
  documents: Documents,
  { at = '/:id', idOf = idIn }: { at?: string; idOf?: (req: Request<{ id?: string }>) => string } = {},
): Router {
  const router = Router();
  const largest = LARGEST[documents.of];
  const bodyOf = (req: Request<{ id?: string }>): Uint8Array => {
    const bytes = bytesOf(req as Request);
    if (largest !== null && bytes.length > largest)
      throw new ApiError(413, `That is more than a ${documents.of} holds.`);
    return bytes;
  };
  const path = (rest: string) => `${at === '/' ? '' : at}${rest}` || '/';

  router.get(path(''), async (req, res) => {
    const { version, answer } = await documents.open(idOf(req));
    res.set('Cache-Control', 'no-cache').set('ETag', `"${version}"`);
    if (req.fresh) return void res.status(304).end();
    res.set('Content-Type', 'application/json; charset=utf-8').end(answer);
  });

  router.put(path(''), jsonBytes, async (req, res) => {
    sendSaved(res, documents.of, await documents.save(idOf(req), 'document', bodyOf(req)));
  });

  router.post(path('/changes'), jsonBytes, async (req, res) => {
    sendSaved(res, documents.of, await documents.save(idOf(req), 'changes', bodyOf(req)));
  });

  router.get(path('/changes'), async (req, res) => {
    const { head, since } = await documents.since(
      idOf(req),
      parsed(z.object({ since: Version }), req.query).since,
    );
    res
      .type('json')
      .send(`{"version":${head.version},"savedAt":"${head.savedAt}","since":${sinceJson(since)}}`);
  });

  router.get(path('/revisions'), async (req, res) => {
    res.json({ revisions: await documents.moments(idOf(req)) });
  });

  router.get(path('/revisions/:version'), async (req, res) => {
    const { version } = req.params as { version?: string };
    res.type('json').send(await documents.openEarlier(idOf(req), parsed(Version, version)));
  });

  router.put(path('/revisions/:version'), jsonBytes, async (req, res) => {
    const { version } = req.params as { version?: string };
    const { name } = parsed(NameRequest, parsedJson(bodyOf(req)));
    await documents.name(idOf(req), parsed(Version, version), name);
    res.status(204).end();
  });

  return router;
}

/** What is done to the documents of a kind of which there are many: made, taken out, put back; and to each of them. */
export function collectionRoutes(documents: Documents): Router {
  const router = Router();
  const largest = LARGEST[documents.of];

  router.post('/', jsonBytes, async (req, res) => {
    const bytes = bytesOf(req);
    if (largest !== null && bytes.length > largest)
      throw new ApiError(413, `That is more than a ${documents.of} holds.`);
    const { id, head } = await documents.create(bytes);
    res.status(201).json({ id, ...head });
  });

  router.delete('/:id', async (req, res) => {
    await documents.takeOut(idIn(req));
    res.status(204).end();
  });

  router.post('/:id/restore', async (req, res) => {
    await documents.putBack(idIn(req));
    res.status(204).end();
  });

  router.use(documentRoutes(documents));
  return router;
}

import { LARGEST_REQUEST, NameRequest, VersionSchema, type KindName } from '@cordelina/core';
import { Router, type Request, type Response } from 'express';
import { z } from 'zod';
import type { Since } from '../store/documents.js';
import { ApiError, parsed, parsedJson } from '../work/faults.js';
import type { Documents, SaveOutcome } from '../workroom/documents.js';
import { bytesOf, jsonBytes } from './bodies.js';
import { sendReady } from './send-ready.js';

/** A version as an address names it. */
export const Version = z.coerce.number().pipe(VersionSchema);

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

/** A request whose address may name an id, perhaps above where it is read. */
type WithId = Request<{ id?: string; version?: string }>;

/** The id of a document, of a kind of which there are many. */
export const idIn = (req: WithId): string => parsed(z.uuid(), req.params.id);

/** A request's body, no larger than its kind of document may need. @throws ApiError 413 */
function bodyOf(req: WithId, of: KindName): Uint8Array {
  const bytes = bytesOf(req as Request);
  const largest = LARGEST_REQUEST[of];
  if (largest !== null && bytes.length > largest) throw new ApiError(413, `That is more than a ${of} holds.`);
  return bytes;
}

/** What is done to one document, of whatever kind: opened, saved, what was saved since, looked back on, named. */
export function documentRoutes(documents: Documents, idOf: (req: WithId) => string = idIn): Router {
  const router = Router({ mergeParams: true });
  const { of } = documents;

  router.get('/', async (req, res) => {
    const { version, answer } = await documents.open(idOf(req));
    res.set('Cache-Control', 'no-cache').set('ETag', `"${version}"`);
    if (req.fresh) return void res.status(304).end();
    await sendReady(req as Request, res, answer);
  });

  router.put('/', jsonBytes, async (req, res) => {
    sendSaved(res, of, await documents.save(idOf(req), 'document', bodyOf(req, of)));
  });

  router.post('/changes', jsonBytes, async (req, res) => {
    sendSaved(res, of, await documents.save(idOf(req), 'changes', bodyOf(req, of)));
  });

  router.get('/changes', async (req, res) => {
    const { head, since } = await documents.since(
      idOf(req),
      parsed(z.object({ since: Version }), req.query).since,
    );
    res
      .type('json')
      .send(`{"version":${head.version},"savedAt":"${head.savedAt}","since":${sinceJson(since)}}`);
  });

  router.get('/revisions', async (req, res) => {
    res.json({ revisions: await documents.moments(idOf(req)) });
  });

  router.get('/revisions/:version', async (req, res) => {
    await sendReady(
      req as Request,
      res,
      await documents.openEarlier(idOf(req), parsed(Version, req.params.version)),
    );
  });

  router.put('/revisions/:version', jsonBytes, async (req, res) => {
    const { name } = parsed(NameRequest, parsedJson(bodyOf(req, of)));
    await documents.name(idOf(req), parsed(Version, req.params.version), name);
    res.status(204).end();
  });

  return router;
}

/** What is done to the documents of a kind of which there are many: made, taken out, put back; and to each of them. */
export function collectionRoutes(documents: Documents): Router {
  const router = Router();

  router.post('/', jsonBytes, async (req, res) => {
    const { id, head } = await documents.create(bodyOf(req, documents.of));
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

  router.use('/:id', documentRoutes(documents));
  return router;
}

import { Router } from 'express';
import { readDesign } from '@cordelina/core';
import { z } from 'zod';
import { ApiError, parsed } from '../errors.js';
import type { DesignStore } from '../store/designs.js';

const Id = z.uuid();
/** Versions are PostgreSQL integers. */
const LARGEST_VERSION = 2 ** 31 - 1;
const Version = z.coerce.number().int().min(1).max(LARGEST_VERSION);
const CreateRequest = z.strictObject({ document: z.unknown() });
const SaveRequest = z.strictObject({ base: z.int().min(1).max(LARGEST_VERSION), document: z.unknown() });

const missing = () => new ApiError(404, 'This design is not in the workroom.');

/** The workroom's designs: listed, opened, saved version by version, taken out and put back. */
export function designRoutes(store: DesignStore): Router {
  const router = Router();

  router.get('/', async (_req, res) => {
    res.json({ designs: await store.list() });
  });

  router.post('/', async (req, res) => {
    const document = readDesign(parsed(CreateRequest, req.body).document);
    const created = await store.create(document);
    if (!created) throw new ApiError(409, 'A design with this id is already stored.', 'document.id');
    res.status(201).json({ id: document.id, ...created });
  });

  router.get('/:id', async (req, res) => {
    const found = await store.get(parsed(Id, req.params.id));
    if (!found) throw missing();
    res.json(found);
  });

  router.put('/:id', async (req, res) => {
    const id = parsed(Id, req.params.id);
    const { base, document: sent } = parsed(SaveRequest, req.body);
    const document = readDesign(sent);
    if (document.id !== id)
      throw new ApiError(400, 'The document has another id than the address.', 'document.id');
    const result = await store.save(document, base);
    if (result.kind === 'missing') throw missing();
    if (result.kind === 'stale')
      throw new ApiError(
        409,
        `This design has moved on to version ${result.current.version}; you began from version ${base}. Nothing was overwritten.`,
        undefined,
        { current: result.current },
      );
    res.json({ version: result.version, savedAt: result.savedAt });
  });

  router.delete('/:id', async (req, res) => {
    if (!(await store.remove(parsed(Id, req.params.id)))) throw missing();
    res.status(204).end();
  });

  router.post('/:id/restore', async (req, res) => {
    if (!(await store.restore(parsed(Id, req.params.id)))) throw missing();
    res.status(204).end();
  });

  router.get('/:id/revisions', async (req, res) => {
    res.json({ revisions: await store.revisions(parsed(Id, req.params.id)) });
  });

  router.get('/:id/revisions/:version', async (req, res) => {
    const found = await store.revision(parsed(Id, req.params.id), parsed(Version, req.params.version));
    if (!found) throw new ApiError(404, 'That version is not kept.');
    res.json(found);
  });

  return router;
}

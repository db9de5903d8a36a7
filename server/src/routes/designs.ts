import { Router, type Response } from 'express';
import { NameRequest, VersionSchema } from '@cordelina/core';
import { z } from 'zod';
import type { Since } from '../store/designs.js';
import { parsed, parsedJson } from '../work/faults.js';
import type { SaveOutcome, Workroom } from '../workroom.js';
import { bytesOf, jsonBytes } from './bodies.js';

const Id = z.uuid();
/** A version as an address names it. */
const Version = z.coerce.number().pipe(VersionSchema);

/** The saves since a version, their changes already JSON. */
function sinceJson(since: Since[] | null): string {
  if (!since) return 'null';
  const one = ({ version, savedAt, changes }: Since) =>
    `{"version":${version},"savedAt":"${savedAt}","changes":${changes}}`;
  return `[${since.map(one).join()}]`;
}

function sendSaved(res: Response, outcome: SaveOutcome): void {
  if (outcome.kind === 'saved') return void res.json(outcome.head);
  const { head, base, since } = outcome;
  const message = `This design has moved on to version ${head.version}; you began from version ${base}. Nothing was overwritten.`;
  res
    .status(409)
    .type('json')
    .send(
      `{"error":${JSON.stringify({ message })},"version":${head.version},"savedAt":"${head.savedAt}","since":${sinceJson(since)}}`,
    );
}

/** The workroom's designs: listed, opened, changed, looked back on, taken out and put back. */
export function designRoutes(workroom: Workroom): Router {
  const router = Router();

  router.get('/', async (_req, res) => {
    res.type('json').send(await workroom.list());
  });

  router.post('/', jsonBytes, async (req, res) => {
    const { id, head } = await workroom.create(bytesOf(req));
    res.status(201).json({ id, ...head });
  });

  router.get('/:id', async (req, res) => {
    const { version, answer } = await workroom.open(parsed(Id, req.params.id));
    res.set('Cache-Control', 'no-cache').set('ETag', `"${version}"`);
    if (req.fresh) return void res.status(304).end();
    res.set('Content-Type', 'application/json; charset=utf-8').end(answer);
  });

  router.put('/:id', jsonBytes, async (req, res) => {
    sendSaved(res, await workroom.save(parsed(Id, req.params.id), 'document', bytesOf(req)));
  });

  router.post('/:id/changes', jsonBytes, async (req, res) => {
    sendSaved(res, await workroom.save(parsed(Id, req.params.id), 'changes', bytesOf(req)));
  });

  router.get('/:id/changes', async (req, res) => {
    const { head, since } = await workroom.since(
      parsed(Id, req.params.id),
      parsed(z.object({ since: Version }), req.query).since,
    );
    res
      .type('json')
      .send(`{"version":${head.version},"savedAt":"${head.savedAt}","since":${sinceJson(since)}}`);
  });

  router.delete('/:id', async (req, res) => {
    await workroom.takeOut(parsed(Id, req.params.id));
    res.status(204).end();
  });

  router.post('/:id/restore', async (req, res) => {
    await workroom.putBack(parsed(Id, req.params.id));
    res.status(204).end();
  });

  router.get('/:id/revisions', async (req, res) => {
    res.json({ revisions: await workroom.moments(parsed(Id, req.params.id)) });
  });

  router.get('/:id/revisions/:version', async (req, res) => {
    const answer = await workroom.openEarlier(parsed(Id, req.params.id), parsed(Version, req.params.version));
    res.type('json').send(answer);
  });

  router.put('/:id/revisions/:version', jsonBytes, async (req, res) => {
    const { name } = parsed(NameRequest, parsedJson(bytesOf(req)));
    await workroom.name(parsed(Id, req.params.id), parsed(Version, req.params.version), name);
    res.status(204).end();
  });

  return router;
}

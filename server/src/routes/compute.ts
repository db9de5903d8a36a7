import { Router } from 'express';
import type { Workers } from '../work/workers.js';
import { bytesOf, jsonBytes } from './bodies.js';

/** Stateless computation: the core over HTTP, JSON in and out, worked out in threads of its own. */
export function computeRoutes({ compute }: Workers): Router {
  const router = Router();
  for (const name of [
    'read',
    'check',
    'write',
    'expand',
    'turn',
    'machine',
    'spread',
    'fit',
    'piece',
  ] as const)
    router.post(`/${name}`, jsonBytes, async (req, res) => {
      res.type('json').send(await compute.run(name, bytesOf(req)));
    });
  router.post('/machine/run', jsonBytes, async (req, res) => {
    res.type('json').send(await compute.run('machineRun', bytesOf(req)));
  });
  router.post('/pdf', jsonBytes, async (req, res) => {
    const { bytes, pages, missing } = await compute.run('pdf', bytesOf(req));
    res
      .type('application/pdf')
      .set({ 'X-Pages': String(pages), 'X-Missing': encodeURIComponent(missing.slice(0, 200)) })
      .send(Buffer.from(bytes));
  });
  return router;
}

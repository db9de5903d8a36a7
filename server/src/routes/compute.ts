import { Router } from 'express';
import type { Workers } from '../work/workers.js';
import { bytesOf, jsonBytes } from './bodies.js';

/** Stateless computation: the core over HTTP, JSON in and out, worked out in threads of its own. */
export function computeRoutes({ compute }: Workers): Router {
  const router = Router();
  for (const name of ['read', 'check', 'write', 'expand'] as const)
    router.post(`/${name}`, jsonBytes, async (req, res) => {
      res.type('json').send(await compute.run(name, bytesOf(req)));
    });
  return router;
}

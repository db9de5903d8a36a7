import { Router } from 'express';
import type { Workroom } from '../workroom/index.js';
import { ApiError, parsed } from '../work/faults.js';
import { collectionRoutes, idIn, Version } from './documents.js';
import { sendReady } from './send-ready.js';

/** The workroom's designs: listed by their cards, and whatever is done to documents. */
export function designRoutes({ designs, cards, seals }: Workroom): Router {
  const router = Router();
  router.get('/', async (req, res) => sendReady(req, res, await cards.list()));
  // What was taken out: kept for some weeks, put back, or let go of for good.
  router.get('/basket', async (_req, res) => {
    res.json({ basket: await designs.store.takenOut() });
  });
  router.delete('/basket/:id', async (req, res) => {
    await designs.forget(idIn(req));
    res.status(204).end();
  });
  router.get('/:id/card', async (req, res) => {
    const card = await cards.card(idIn(req));
    if (!card) throw new ApiError(404, 'This design is not in the workroom.');
    res.type('json').send(card);
  });
  // A version's picture stays as it is; of one that has moved on there is only the newest.
  router.get('/:id/picture/:version', async (req, res) => {
    const made = await cards.picture(idIn(req));
    if (!made) throw new ApiError(404, 'There is no picture of this design yet.');
    const isAsked = req.params.version === String(made.version);
    res.set('Cache-Control', isAsked ? 'private, max-age=31536000, immutable' : 'no-store');
    res.type('image/avif').end(made.avif);
  });
  router.get('/:id/seal/:version', async (req, res) => {
    res.type('json').send(await seals.of(idIn(req), parsed(Version, req.params.version)));
  });
  router.use(collectionRoutes(designs));
  return router;
}

import { Router } from 'express';
import type { Workroom } from '../workroom/index.js';
import { collectionRoutes } from './documents.js';

/** The workroom's designs: listed by their cards, and whatever is done to documents. */
export function designRoutes({ designs, cards }: Workroom): Router {
  const router = Router();
  router.get('/', async (_req, res) => {
    res.type('json').send(await cards.list());
  });
  router.use(collectionRoutes(designs));
  return router;
}

import { Router } from 'express';
import { pipeline } from 'node:stream/promises';
import { backupName, backupOf } from '../workroom/backup.js';
import type { Workroom } from '../workroom/index.js';

/** The whole workroom as one file. */
export function backupRoutes(workroom: Workroom): Router {
  const router = Router();
  router.get('/', async (_req, res) => {
    res.set({
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename="${backupName(new Date())}"`,
      'Cache-Control': 'no-store',
    });
    try {
      await pipeline(backupOf(workroom), res);
    } catch (error) {
      // Cut off, so that nobody takes half of it for all; whoever went away is told nothing.
      if (!res.writableEnded) res.destroy(error as Error);
    }
  });
  return router;
}

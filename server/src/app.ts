import { existsSync } from 'node:fs';
import path from 'node:path';
import compression from 'compression';
import express, { type Express, type Request, type Response } from 'express';
import type { ServerResponse } from 'node:http';
import staticGzip from 'express-static-gzip';
import type { Logger } from 'pino';
import { errorHandler, notFound } from './errors.js';
import { backupRoutes } from './routes/backup.js';
import { computeRoutes } from './routes/compute.js';
import { describedRoutes } from './routes/described.js';
import { designRoutes } from './routes/designs.js';
import { collectionRoutes } from './routes/documents.js';
import { eventRoutes } from './routes/events.js';
import { listedRoutes } from './routes/listed.js';
import { studioRoutes } from './routes/studio.js';
import { logged } from './log.js';
import { knownHosts, permissions, policy } from './security.js';
import type { Workers } from './work/workers.js';
import type { Workroom } from './workroom/index.js';

export interface AppOptions {
  workroom: Workroom;
  workers: Workers;
  log: Logger;
  /** Folder of the built page; without it only the API answers. */
  page?: string;
  /** Names this server goes by, besides the loopback's. */
  hosts?: readonly string[];
}

/** What is sent event by event must go out at once, and is not held back to be made smaller. */
const canBePacked = (req: Request, res: Response): boolean =>
  !String(res.getHeader('Content-Type')).startsWith('text/event-stream') && compression.filter(req, res);

/** The service worker above all must never be an old one; a picture may. */
function freshness(res: ServerResponse, file: string): void {
  res.setHeader('Cache-Control', file.endsWith('.svg') ? 'max-age=86400' : 'no-cache');
}

export function createApp({ workroom, workers, log, page, hosts = [] }: AppOptions): Express {
  const app = express();
  app.disable('x-powered-by');
  // A tag made of the answer's bytes costs more than it saves; designs are tagged with their version.
  app.disable('etag');
  app.use(logged(log), policy, permissions, knownHosts(hosts));

  const api = express.Router();
  // Answers are made once and read once: quickly packed beats small.
  api.use(compression({ level: 1, filter: canBePacked }));
  api.get('/health', async (_req, res) => {
    await workroom.answers();
    res.json({ ok: true });
  });
  api.use(describedRoutes());
  // Packed already.
  api.use('/backup', backupRoutes(workroom));
  api.use('/designs', designRoutes(workroom));
  api.use('/studio', studioRoutes(workroom));
  const { swatches, editions, knittings, notes, photos } = workroom;
  api.use('/swatches', listedRoutes(swatches, photos.swatch, { all: 'swatches', one: 'swatch' }));
  api.use('/editions', collectionRoutes(editions));
  api.use('/knittings', listedRoutes(knittings, null, { all: 'documents', one: 'document' }));
  api.use('/notes', listedRoutes(notes, photos.note, { all: 'documents', one: 'document' }));
  api.use('/events', eventRoutes(workroom));
  api.use(computeRoutes(workers));
  api.use(notFound);
  app.use('/api', api);

  if (page && existsSync(page)) {
    // What is named by its content is kept for good.
    const packed = { index: false, enableBrotli: true, orderPreference: ['br', 'gz'] };
    const forGood = { maxAge: '1y', immutable: true } as const;
    app.use('/assets', staticGzip(path.join(page, 'assets'), { ...packed, serveStatic: forGood }));
    const fresh = { cacheControl: false, setHeaders: freshness };
    app.use(staticGzip(page, { ...packed, serveStatic: fresh }));
    app.get(/^\/(?!api\/|assets\/)/, (req, res) => {
      const isPacked = req.acceptsEncodings('br') === 'br' && existsSync(path.join(page, 'index.html.br'));
      if (isPacked) res.set('Content-Encoding', 'br');
      // The file is named from the page's folder on, so that a dot folder above it does not matter.
      res
        .set('Cache-Control', 'no-cache')
        .vary('Accept-Encoding')
        .type('html')
        .sendFile(isPacked ? 'index.html.br' : 'index.html', { root: page });
    });
  }
  app.use(notFound, errorHandler());
  return app;
}

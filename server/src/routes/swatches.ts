import { Router } from 'express';
import type { PhotoType } from '../store/photos.js';
import { ApiError } from '../work/faults.js';
import type { Workroom } from '../workroom/index.js';
import { photoBytes } from './bodies.js';
import { collectionRoutes, idIn } from './documents.js';

/** How files of each type begin: what a file calls itself is not believed. */
const BEGINNINGS: Readonly<Record<PhotoType, (bytes: Buffer) => boolean>> = {
  'image/jpeg': (b) => b.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])),
  'image/png': (b) => b.subarray(0, 8).equals(Buffer.from('\x89PNG\r\n\x1a\n', 'latin1')),
  'image/webp': (b) =>
    b.subarray(0, 4).toString('latin1') === 'RIFF' && b.subarray(8, 12).toString('latin1') === 'WEBP',
};

/** What type a photo is by its first bytes. @throws ApiError 400 when it is none of those kept */
function typeOf(bytes: Buffer): PhotoType {
  const type = (Object.keys(BEGINNINGS) as PhotoType[]).find((t) => BEGINNINGS[t](bytes));
  if (!type) throw new ApiError(400, 'This file is no photo: choose a JPEG, PNG or WebP.');
  return type;
}

const NO_SWATCH = 'This swatch is not in the workroom.';

/** The swatch book: listed whole, with when each photo was put there; whatever is done to documents; and the photos. */
export function swatchRoutes({ swatches, photos }: Workroom): Router {
  const router = Router();
  router.get('/', async (_req, res) => {
    const [rows, times] = await Promise.all([swatches.store.list('made'), photos.times()]);
    res.json({
      swatches: rows.map(({ id, version, savedAt, summary }) => ({
        swatch: summary,
        version,
        savedAt,
        photoAt: times.get(id) ?? null,
      })),
    });
  });

  router.put('/:id/photo', photoBytes, async (req, res) => {
    const id = idIn(req);
    const bytes: unknown = req.body;
    if (!Buffer.isBuffer(bytes) || !bytes.length)
      throw new ApiError(400, 'There is no photo in this request.');
    const photoAt = await photos.save(id, { type: typeOf(bytes), bytes });
    if (photoAt === null) throw new ApiError(404, NO_SWATCH);
    res.json({ photoAt });
  });
  router.get('/:id/photo', async (req, res) => {
    const photo = await photos.photo(idIn(req));
    if (!photo) throw new ApiError(404, 'This swatch has no photo.');
    res.type(photo.type).set('Cache-Control', 'private, no-cache').send(Buffer.from(photo.bytes));
  });
  router.delete('/:id/photo', async (req, res) => {
    await photos.remove(idIn(req));
    res.status(204).end();
  });

  router.use(collectionRoutes(swatches));
  return router;
}

import type { KindName } from '@cordelina/core';
import { Router } from 'express';
import type { PhotoStore, PhotoType } from '../store/photos.js';
import { ApiError } from '../work/faults.js';
import type { Documents } from '../workroom/documents.js';
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

/** How a list of documents answers: under which name it stands, and each of them. */
interface Answers {
  all: string;
  one: string;
}

/** A kind of documents that is listed whole: the list, with when each photo was put there; whatever is done to documents; the photos. */
export function listedRoutes<N extends KindName>(
  documents: Documents<N>,
  photos: PhotoStore | null,
  { all, one }: Answers,
): Router {
  const router = Router();
  router.get('/', async (_req, res) => {
    const [rows, times] = await Promise.all([documents.store.list('made'), photos?.times()]);
    res.json({
      [all]: rows.map(({ id, version, savedAt, summary }) => ({
        [one]: summary,
        version,
        savedAt,
        photoAt: times?.get(id) ?? null,
      })),
    });
  });
  if (photos) addPhotos(router, documents.of, photos);
  router.use(collectionRoutes(documents));
  return router;
}

function addPhotos(router: Router, of: KindName, photos: PhotoStore): void {
  router.put('/:id/photo', photoBytes, async (req, res) => {
    const id = idIn(req);
    const bytes: unknown = req.body;
    if (!Buffer.isBuffer(bytes) || !bytes.length)
      throw new ApiError(400, 'There is no photo in this request.');
    const photoAt = await photos.save(id, { type: typeOf(bytes), bytes });
    if (photoAt === null) throw new ApiError(404, `This ${of} is not in the workroom.`);
    res.json({ photoAt });
  });
  router.get('/:id/photo', async (req, res) => {
    const photo = await photos.photo(idIn(req));
    if (!photo) throw new ApiError(404, `This ${of} has no photo.`);
    res.type(photo.type).set('Cache-Control', 'private, no-cache').send(Buffer.from(photo.bytes));
  });
  router.delete('/:id/photo', async (req, res) => {
    await photos.remove(idIn(req));
    res.status(204).end();
  });
}

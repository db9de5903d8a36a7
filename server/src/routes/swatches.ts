import { LARGEST_SWATCH, SwatchRequest } from '@cordelina/core';
import { Router } from 'express';
import { z } from 'zod';
import type { PhotoType, SwatchStore } from '../store/swatches.js';
import { ApiError, parsed, parsedJson } from '../work/faults.js';
import { bytesOf, jsonBytes, photoBytes } from './bodies.js';

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

const idOf = (params: unknown) => parsed(z.strictObject({ id: z.uuid() }), params).id;

/** The swatch book, and the photos in it. */
export function swatchRoutes(swatches: SwatchStore): Router {
  const router = Router();
  router.get('/', async (_req, res) => {
    res.json({ swatches: await swatches.list() });
  });
  router.put('/:id', jsonBytes, async (req, res) => {
    const id = idOf(req.params);
    const bytes = bytesOf(req);
    if (bytes.length > LARGEST_SWATCH) throw new ApiError(413, 'That is more than a swatch holds.');
    const { swatch } = parsed(SwatchRequest, parsedJson(bytes));
    if (swatch.id !== id) throw new ApiError(400, 'The swatch has another id than the address.', 'swatch.id');
    res.json({ savedAt: await swatches.save(swatch) });
  });
  router.delete('/:id', async (req, res) => {
    await swatches.remove(idOf(req.params));
    res.status(204).end();
  });

  router.put('/:id/photo', photoBytes, async (req, res) => {
    const id = idOf(req.params);
    const bytes: unknown = req.body;
    if (!Buffer.isBuffer(bytes) || !bytes.length)
      throw new ApiError(400, 'There is no photo in this request.');
    res.json({ photoAt: await swatches.savePhoto(id, { type: typeOf(bytes), bytes }) });
  });
  router.get('/:id/photo', async (req, res) => {
    const { type, bytes } = await swatches.photo(idOf(req.params));
    res.type(type).set('Cache-Control', 'private, no-cache').send(Buffer.from(bytes));
  });
  router.delete('/:id/photo', async (req, res) => {
    await swatches.removePhoto(idOf(req.params));
    res.status(204).end();
  });
  return router;
}

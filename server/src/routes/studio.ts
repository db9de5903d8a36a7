import { Router } from 'express';
import { LARGEST_STUDIO_CHANGE, StudioPatchSchema } from '@cordelina/core';
import { ZodError } from 'zod';
import type { StudioStore } from '../store/studio.js';
import { ApiError, parsed, parsedJson } from '../work/faults.js';
import { bytesOf, jsonBytes } from './bodies.js';

/** What belongs to the studio: its house style, what it answered of names, and its own motifs. */
export function studioRoutes(studio: StudioStore): Router {
  const router = Router();
  router.get('/', async (_req, res) => {
    res.json(await studio.open());
  });
  router.patch('/', jsonBytes, async (req, res) => {
    const bytes = bytesOf(req);
    if (bytes.length > LARGEST_STUDIO_CHANGE) throw new ApiError(413, 'That is more than a studio keeps.');
    const patch = parsed(StudioPatchSchema, parsedJson(bytes));
    try {
      res.json(await studio.change(patch));
    } catch (error) {
      if (error instanceof ZodError)
        throw new ApiError(413, error.issues[0]!.message, error.issues[0]!.path.join('.') || 'answers');
      throw error;
    }
  });
  return router;
}

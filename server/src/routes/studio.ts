import { THE_STUDIO } from '@cordelina/core';
import type { Router } from 'express';
import type { Workroom } from '../workroom/index.js';
import { documentRoutes } from './documents.js';

/** What belongs to the studio: its house style, what it answered of names, and its own motifs. One document. */
export const studioRoutes = ({ studio }: Workroom): Router => documentRoutes(studio, () => THE_STUDIO);

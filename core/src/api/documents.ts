import { z } from 'zod';
import { DocumentError, readDesign } from '../chart/migrate.js';

/** A design inside a request, an answer or a stored value: brought up to date, checked, its crossings shared. */
export const DocumentSchema = z.unknown().transform((value, ctx) => {
  try {
    return readDesign(value);
  } catch (error) {
    if (!(error instanceof DocumentError)) throw error;
    ctx.addIssue({ code: 'custom', message: error.message });
    return z.NEVER;
  }
});

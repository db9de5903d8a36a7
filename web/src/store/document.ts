import { DocumentError, readDesign } from '@cordelina/core';
import { z } from 'zod';

/** A design inside an answer or a stored value: brought up to date, checked, its crossings shared. */
export const DocumentSchema = z.unknown().transform((value, ctx) => {
  try {
    return readDesign(value);
  } catch (error) {
    if (!(error instanceof DocumentError)) throw error;
    ctx.addIssue({ code: 'custom', message: error.message });
    return z.NEVER;
  }
});

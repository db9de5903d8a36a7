import { DocumentError } from '@cordelina/core';
import type { ErrorRequestHandler, RequestHandler } from 'express';
import type { Logger } from 'pino';
import { z } from 'zod';
import { DamagedDesign } from './store/designs.js';

/** An answer other than success: a sentence for the person, and where in the request the fault lies. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly path?: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

/** Checks what came from outside. @throws ApiError 400 with the path of the first fault */
export function parsed<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new ApiError(400, issue.message, issue.path.map(String).join('.'));
}

export const notFound: RequestHandler = (req, _res, next) => {
  next(new ApiError(404, `There is nothing at ${req.method} ${req.path}.`));
};

function asApiError(error: unknown): ApiError {
  if (error instanceof ApiError) return error;
  if (error instanceof DocumentError) return new ApiError(400, error.message, error.path);
  if (error instanceof DamagedDesign)
    return new ApiError(500, `${error.message}. The other designs are not affected.`);
  const { type, status } = error as { type?: string; status?: number };
  if (type === 'entity.too.large') return new ApiError(413, 'The request is too large.');
  if (type === 'entity.parse.failed') return new ApiError(400, 'The request is not valid JSON.');
  if (status && status >= 400 && status < 500) return new ApiError(status, 'The request could not be read.');
  return new ApiError(500, 'Something went wrong on the server. Nothing was changed.');
}

/** What the log tells of an error: never the document or the query that went with it. */
export function bareError(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { type: typeof error };
  return { type: error.name, message: error.message.slice(0, 500), stack: error.stack?.slice(0, 4000) };
}

export function errorHandler(log: Logger): ErrorRequestHandler {
  return (error, _req, res, next) => {
    const answer = asApiError(error);
    if (answer.status >= 500) log.error({ err: error }, 'request failed');
    if (res.headersSent) return next(error);
    res.status(answer.status).json({
      error: { message: answer.message, ...(answer.path ? { path: answer.path } : {}) },
      ...answer.more,
    });
  };
}

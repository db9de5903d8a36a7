import type { ErrorRequestHandler, RequestHandler } from 'express';
import { DatabaseAway } from './store/db.js';
import { ApiError } from './work/faults.js';

export const notFound: RequestHandler = (req, _res, next) => {
  next(new ApiError(404, `There is nothing at ${req.method} ${req.path}.`));
};

function asApiError(error: unknown): ApiError {
  if (error instanceof ApiError) return error;
  if (error instanceof DatabaseAway)
    return new ApiError(
      503,
      'The database does not answer just now. Edits stay in the page and are sent again.',
    );
  const { type, status } = error as { type?: string; status?: number };
  if (type === 'entity.too.large') return new ApiError(413, 'The request is too large.');
  if (status && status >= 400 && status < 500) return new ApiError(status, 'The request could not be read.');
  return new ApiError(500, 'Something went wrong on the server. Nothing was changed.');
}

/** What the log tells of an error: never the document or the query that went with it. */
export function bareError(error: unknown): Record<string, unknown> {
  if (!(error instanceof Error)) return { type: typeof error };
  return { type: error.name, message: error.message.slice(0, 500), stack: error.stack?.slice(0, 4000) };
}

export function errorHandler(): ErrorRequestHandler {
  return (error, req, res, next) => {
    const answer = asApiError(error);
    if (answer.status >= 500 && answer.status !== 503) req.log.error({ err: error }, 'request failed');
    if (res.headersSent) return next(error);
    if (answer.status === 503) res.set('Retry-After', '1');
    res.status(answer.status).json({
      error: { message: answer.message, ...(answer.path ? { path: answer.path } : {}) },
      ...answer.more,
    });
  };
}

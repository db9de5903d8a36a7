import express, { type Request, type RequestHandler } from 'express';
import { ApiError } from '../work/faults.js';
import { giveBackSoon } from '../work/memory.js';
import { megabytes } from '../work/pool.js';

/** The largest chart that is one, every cell of it spelled out, is under this. */
const LARGEST_BODY = megabytes(48);
/** Bodies being read at one time may together hold so much. */
const MOST_AT_ONCE = megabytes(192);

/** After bodies over this the memory they were read into is given back. */
const LARGE = megabytes(4);

let held = 0;

/** Together the bodies under way are bounded, so that many large ones cannot fill the memory. */
const inTurn: RequestHandler = (req, res, next) => {
  const told = Number(req.headers['content-length'] ?? (req.headers['transfer-encoding'] ? LARGEST_BODY : 0));
  const size = Math.min(Number.isFinite(told) ? told : LARGEST_BODY, LARGEST_BODY);
  if (held + size > MOST_AT_ONCE)
    return next(new ApiError(503, 'Too many large requests at once. Try again shortly.'));
  held += size;
  res.once('close', () => {
    held -= size;
    if (size > LARGE) giveBackSoon();
  });
  next();
};

const readInTurn =
  (read: RequestHandler): RequestHandler =>
  (req, res, next) =>
    inTurn(req, res, (error?: unknown) => (error ? next(error) : read(req, res, next)));

/** Reads a JSON body as bytes: a worker makes sense of them. */
export const jsonBytes = readInTurn(express.raw({ type: 'application/json', limit: LARGEST_BODY }));

/** A photo is under this: a page makes it smaller before it sends it. */
const LARGEST_PHOTO = megabytes(4);

/** Reads the bytes of a file, whatever it calls itself. */
export const photoBytes = readInTurn(express.raw({ type: () => true, limit: LARGEST_PHOTO }));

/** @throws ApiError 400 when there is no JSON */
export function bytesOf(req: Request): Uint8Array {
  const body: unknown = req.body;
  if (!Buffer.isBuffer(body) || !body.length)
    throw new ApiError(400, 'The request needs a body of JSON, sent as application/json.');
  return body;
}

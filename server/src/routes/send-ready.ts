import type { Request, Response } from 'express';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import type { Ready } from '../workroom/ready.js';

const gzipped = promisify(gzip);

/** Sends it as it is kept: neither written nor packed again for each who asks. */
export async function sendReady(req: Request, res: Response, ready: Ready): Promise<void> {
  res.set('Content-Type', 'application/json; charset=utf-8').vary('Accept-Encoding');
  if (req.acceptsEncodings('gzip') !== 'gzip') return void res.end(ready.plain);
  ready.packed ??= await gzipped(ready.plain);
  res.set('Content-Encoding', 'gzip').end(ready.packed);
}

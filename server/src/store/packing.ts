import { createHash } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import type { Snapshot } from './documents.js';

const sumOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** A document as it is stored whole. */
export function pack(value: unknown): Snapshot {
  const document = gzipSync(JSON.stringify(value), { level: 5 });
  return { document, packing: 'gzip', sum: sumOf(document) };
}

/** What is stored is not what was stored. */
export class Spoiled extends Error {}

/** The stored document's JSON. @throws Spoiled when it is not what was stored */
export function unpack({ document, packing, sum }: Snapshot): string {
  if (sumOf(document) !== sum) throw new Spoiled('its check sum is wrong');
  try {
    return Buffer.from(packing === 'gzip' ? gunzipSync(document) : document).toString('utf8');
  } catch {
    throw new Spoiled('it cannot be unpacked');
  }
}

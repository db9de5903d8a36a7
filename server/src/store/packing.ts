import { createHash } from 'node:crypto';
import { gunzipSync, gzipSync } from 'node:zlib';
import type { Design } from '@cordelina/core';
import { DamagedDesign } from '../work/faults.js';
import type { Snapshot } from './designs.js';

const sumOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** A document as it is stored whole. */
export function pack(design: Design): Snapshot {
  const document = gzipSync(JSON.stringify(design), { level: 5 });
  return { document, packing: 'gzip', sum: sumOf(document) };
}

/** The stored document's JSON. @throws DamagedDesign when it is not what was stored */
export function unpack({ document, packing, sum }: Snapshot): string {
  if (sumOf(document) !== sum) throw new DamagedDesign('its check sum is wrong');
  try {
    return Buffer.from(packing === 'gzip' ? gunzipSync(document) : document).toString('utf8');
  } catch {
    throw new DamagedDesign('it cannot be unpacked');
  }
}

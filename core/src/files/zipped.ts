import { Unzip, UnzipInflate } from 'fflate';
import { FileFault } from './csv.js';

/** Files inside a zip, inflated no further than is allowed: what it says of its own sizes is not believed. */

export interface ZipBounds {
  /** Files at most, bytes of one and of all together, once inflated. */
  files: number;
  one: number;
  all: number;
}

const CHUNK = 64 * 1024;

/**
 * Inflates a zip file by file.
 *
 * @param wants whether a file of this name is kept; the others are counted only
 * @throws FileFault where it is no zip, is spoiled, or holds more than the bounds
 */
export function unzipped(
  bytes: Uint8Array,
  bounds: ZipBounds,
  wants: (name: string) => boolean = () => true,
): Map<string, Uint8Array> {
  const files = new Map<string, Uint8Array>();
  let count = 0;
  let all = 0;
  let open = 0;
  const tooMuch = () =>
    new FileFault('This file holds more than it may once it is unpacked. It is not opened.');
  const unzip = new Unzip((file) => {
    if (++count > bounds.files) throw tooMuch();
    const { name } = file;
    const isKept = wants(name);
    const parts: Uint8Array[] = [];
    let size = 0;
    open++;
    file.ondata = (error, part, isLast) => {
      if (error) throw error;
      size += part.length;
      all += part.length;
      if (size > bounds.one || all > bounds.all) throw tooMuch();
      if (isKept) parts.push(part);
      if (!isLast) return;
      open--;
      if (files.has(name)) throw new FileFault(`This file holds "${name.slice(0, 80)}" twice.`);
      if (isKept) files.set(name, joined(parts, size));
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    for (let at = 0; at < bytes.length; at += CHUNK)
      unzip.push(bytes.subarray(at, at + CHUNK), at + CHUNK >= bytes.length);
  } catch (error) {
    if (error instanceof FileFault) throw error;
    throw new FileFault('This file is spoiled: it cannot be unpacked.');
  }
  if (!count) throw new FileFault('This file is no zip, or an empty one.');
  if (open) throw new FileFault('This file ends in the middle: it was not saved or sent whole.');
  return files;
}

function joined(parts: readonly Uint8Array[], size: number): Uint8Array {
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

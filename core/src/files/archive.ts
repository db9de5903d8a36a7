import { sha256 } from '@noble/hashes/sha2';
import { bytesToHex } from '@noble/hashes/utils';
import { z } from 'zod';
import { KIND_NAMES, KINDS, type DocumentOf, type KindName } from '../documents/index.js';
import { VersionSchema } from '../api/documents.js';
import { FileFault } from './csv.js';
import { unzipped } from './zipped.js';

/**
 * A whole workroom in one zip: every document as it stood at one moment, its named states, and photos; a list of what is in it, and of
 * the sum (SHA-256) of every file, which the common tools check too.
 */

export const MANIFEST = 'manifest.json';
export const SUMS = 'checksums.sha256';
export const ARCHIVE_FORMAT = 1;

/** Documents of all kinds, named states of one, and bytes, at most. */
const MOST = { documents: 60_000, named: 2000 } as const;
const BOUNDS = { files: 200_000, one: 64_000_000, all: 1_500_000_000 };

const path = z.string().regex(/^[a-z]+\/[a-z0-9./-]{1,120}$/);
const ItemSchema = z.strictObject({
  of: z.enum(KIND_NAMES),
  id: z.uuid(),
  title: z.string().max(400),
  version: VersionSchema,
  savedAt: z.iso.datetime(),
  file: path,
  /** States that were given a name, the oldest first. */
  named: z
    .array(
      z.strictObject({
        version: VersionSchema,
        name: z.string().max(400),
        savedAt: z.iso.datetime(),
        file: path,
      }),
    )
    .max(MOST.named)
    .default([]),
  photo: z
    .strictObject({ file: path, type: z.enum(['image/jpeg', 'image/png', 'image/webp']) })
    .nullable()
    .default(null),
});
export type ArchivedItem = Readonly<z.infer<typeof ItemSchema>>;

export const ManifestSchema = z.strictObject({
  program: z.literal('Cordelina'),
  format: z.int().min(1),
  /** The moment all of it is of. */
  at: z.iso.datetime(),
  documents: z.array(ItemSchema).max(MOST.documents),
  /** What could not be put in, and why. */
  left: z.array(z.strictObject({ of: z.enum(KIND_NAMES), id: z.string().max(60), why: z.string().max(400) })),
});
export type Manifest = Readonly<z.infer<typeof ManifestSchema>>;

/** The sum of a file's bytes, in hexadecimal. */
export const sumOf = (bytes: Uint8Array): string => bytesToHex(sha256(bytes));

/** The list of sums, as the common tools read it: a sum, two spaces, a name. */
export const sumsText = (sums: ReadonlyMap<string, string>): string =>
  [...sums].map(([name, sum]) => `${sum}  ${name}\n`).join('');

/** A backup that was opened and found whole. */
export class Archive {
  private constructor(
    readonly manifest: Manifest,
    private readonly files: ReadonlyMap<string, Uint8Array>,
  ) {}

  /** Whether bytes hold one, by the names in them. */
  static isOne(files: ReadonlyMap<string, unknown>): boolean {
    return files.has(MANIFEST) && files.has(SUMS);
  }

  /** Opens a backup and checks every file of it. @throws FileFault where it is none, or anything in it is spoiled or missing */
  static open(bytes: Uint8Array): Archive {
    const files = unzipped(bytes, BOUNDS);
    if (!Archive.isOne(files))
      throw new FileFault('This is no backup of a workroom: it holds no list of what is in it.');
    const decoder = new TextDecoder();
    const told = new Map<string, string>();
    for (const line of decoder.decode(files.get(SUMS)).split('\n')) {
      const [, sum, name] = /^([0-9a-f]{64}) {2}(.+)$/.exec(line) ?? [];
      if (sum) told.set(name!, sum);
    }
    for (const [name, sum] of told) {
      const file = files.get(name);
      if (!file) throw new FileFault(`This backup is not whole: "${name}" is missing.`);
      if (sumOf(file) !== sum)
        throw new FileFault(`This backup is spoiled: "${name}" is not as it was written.`);
    }
    if (!told.has(MANIFEST))
      throw new FileFault('This backup is not whole: its list is not among what was checked.');
    let manifest: Manifest;
    try {
      manifest = ManifestSchema.parse(JSON.parse(decoder.decode(files.get(MANIFEST))));
    } catch {
      throw new FileFault('The list of this backup cannot be read.');
    }
    if (manifest.format > ARCHIVE_FORMAT)
      throw new FileFault(
        `This backup is of format ${manifest.format}; this program reads up to ${ARCHIVE_FORMAT}. A newer Cordelina made it.`,
      );
    for (const { file, named, photo } of manifest.documents)
      for (const name of [file, ...named.map((one) => one.file), ...(photo ? [photo.file] : [])])
        if (!told.has(name)) throw new FileFault(`This backup is not whole: "${name}" is missing.`);
    return new Archive(manifest, files);
  }

  bytes(name: string): Uint8Array {
    return this.files.get(name)!;
  }

  /** A document of it, brought up to date. @throws FileFault, DocumentError */
  document<N extends KindName>(of: N, file: string): DocumentOf[N] {
    let value: unknown;
    try {
      value = JSON.parse(new TextDecoder().decode(this.bytes(file)));
    } catch {
      throw new FileFault(`"${file}" of this backup is no document.`);
    }
    return KINDS[of].read((value as { document?: unknown } | null)?.document) as DocumentOf[N];
  }
}

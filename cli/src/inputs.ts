import { designOfFile, DocumentError, FileFault, LARGEST_FILE, type DesignFileRead } from '@cordelina/core';
import { randomUUID } from 'node:crypto';
import { open, stat } from 'node:fs/promises';
import { glob, isDynamicPattern } from 'tinyglobby';
import { Misuse } from './usage.js';

/** The files that are named on the command line, and what they are. */

export const STDIN = '-';
/** Files that are looked into at once, and how deep a pattern with ** reaches. */
const MOST_FILES = 20_000;
const DEEPEST = 16;

/** A file by its name, or why it cannot be read. */
export type Input = { name: string; read: DesignFileRead } | { name: string; problem: string };

/** The names that are meant, each once, in their order. @throws Misuse where none is, or one is a folder */
export async function namesOf(given: readonly string[]): Promise<string[]> {
  if (!given.length) throw new Misuse('Which files? Name them, or - for standard input.');
  const names: string[] = [];
  for (const one of given) {
    if (one === STDIN || !isDynamicPattern(one)) names.push(one);
    else {
      const found = await glob(one, {
        deep: DEEPEST,
        dot: false,
        ignore: ['**/node_modules/**'],
        expandDirectories: false,
      });
      if (!found.length) throw new Misuse(`No file is called like ${one}.`);
      names.push(...found.toSorted((a, b) => a.localeCompare(b, 'en', { numeric: true })));
    }
  }
  if (names.length > MOST_FILES)
    throw new Misuse(`These are ${names.length} files; at most ${MOST_FILES} are looked into.`);
  return [...new Set(names)];
}

async function bytesOf(name: string): Promise<Uint8Array> {
  if (name === STDIN) {
    const parts: Buffer[] = [];
    let size = 0;
    for await (const part of process.stdin) {
      size += (part as Buffer).length;
      if (size > LARGEST_FILE) throw new FileFault('Standard input is longer than any design.');
      parts.push(part as Buffer);
    }
    return Buffer.concat(parts);
  }
  const about = await stat(name);
  if (about.isDirectory()) throw new FileFault('This is a folder: name its files, as in folder/*.txt.');
  if (about.size > LARGEST_FILE) throw new FileFault('This file is larger than any design.');
  const file = await open(name);
  try {
    return await file.readFile();
  } finally {
    await file.close();
  }
}

/** What a file system says of a file that cannot be had, in words. */
const FILE_TOLD: Readonly<Record<string, string>> = {
  ENOENT: 'There is no such file.',
  EACCES: 'This file may not be read.',
  EPERM: 'This file may not be read.',
};

/** Reads one file. What is wrong with it is its own; the others are read all the same. */
export async function inputOf(name: string): Promise<Input> {
  try {
    return { name, read: await designOfFile(await bytesOf(name), name, randomUUID()) };
  } catch (error) {
    if (error instanceof FileFault || error instanceof DocumentError) return { name, problem: error.message };
    const told = FILE_TOLD[(error as NodeJS.ErrnoException).code ?? ''];
    if (told) return { name, problem: told };
    throw error;
  }
}

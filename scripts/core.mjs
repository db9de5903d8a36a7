// Compiles the core, unless nothing of it has changed since. Every program and every thread loads the one file that comes of
// it, and none of them translates two hundred by itself. Loaded with --import where tests or scripts begin by themselves.
import { buildSync } from 'esbuild';
import { existsSync, mkdirSync, readdirSync, renameSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const core = fileURLToPath(new URL('../core/', import.meta.url));
const compiled = path.join(core, 'dist/index.js');

/** When the newest file in a folder was changed, or anything was taken out of it. */
function newest(place) {
  const stat = statSync(place);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(place).map((name) => newest(path.join(place, name))));
}

const sources = ['src', 'package.json'].map((name) => path.join(core, name));
if (!existsSync(compiled) || sources.some((source) => newest(source) > statSync(compiled).mtimeMs)) {
  const { outputFiles } = buildSync({
    entryPoints: [path.join(core, 'src/index.ts')],
    outfile: compiled,
    bundle: true,
    packages: 'external',
    platform: 'neutral',
    format: 'esm',
    target: 'es2023',
    sourcemap: true,
    write: false,
  });
  mkdirSync(path.dirname(compiled), { recursive: true });
  // Put in place whole: others may be loading it, or compiling it too.
  for (const { path: file, contents } of outputFiles) {
    writeFileSync(`${file}.${process.pid}`, contents);
    renameSync(`${file}.${process.pid}`, file);
  }
}

// Compiles the core into one file, and the server file by file, unless nothing of them has changed since. The server runs from what
// comes of it, and so does every thread of the server, in tests as well. Loaded with --import where tests or scripts begin by themselves.
import { buildSync } from 'esbuild';
import { existsSync, mkdirSync, readdirSync, renameSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../', import.meta.url));

/** When the newest file in a folder was changed, or anything was taken out of it. */
function newest(place) {
  const stat = statSync(place);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(place).map((name) => newest(path.join(place, name))));
}

const filesIn = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(?:ts|sql|txt)$/.test(entry.name))
    .map((entry) => path.join(entry.parentPath, entry.name));

/** Compiles `room/src` into `room/dist` where the latter's `mark` is older than any of the former. */
function compile(room, mark, entryPoints, options) {
  const from = path.join(root, room);
  const made = path.join(from, 'dist', mark);
  const sources = ['src', 'package.json'].map((name) => path.join(from, name));
  if (existsSync(made) && sources.every((source) => newest(source) <= statSync(made).mtimeMs)) return;
  const { outputFiles } = buildSync({
    entryPoints: entryPoints(path.join(from, 'src')),
    outbase: path.join(from, 'src'),
    outdir: path.join(from, 'dist'),
    format: 'esm',
    target: 'es2023',
    sourcemap: true,
    write: false,
    ...options,
  });
  // Put in place whole, the mark last: others may be loading it, or compiling it too.
  const files = outputFiles.toSorted((a, b) => Number(a.path === made) - Number(b.path === made));
  for (const { path: file, contents } of files) {
    mkdirSync(path.dirname(file), { recursive: true });
    writeFileSync(`${file}.${process.pid}`, contents);
    renameSync(`${file}.${process.pid}`, file);
  }
}

compile('core', 'index.js', (src) => [path.join(src, 'index.ts')], {
  bundle: true,
  packages: 'external',
  platform: 'neutral',
});
compile('server', 'main.js', filesIn, { platform: 'node', loader: { '.sql': 'copy', '.txt': 'copy' } });
compile('cli', 'main.js', filesIn, { platform: 'node' });

// Builds the page, unless nothing it is made of has changed since the last build; and the core, for all that is no page.
import './compiled.mjs';
import { execFileSync } from 'node:child_process';
import { appendFileSync, existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

const root = fileURLToPath(new URL('../', import.meta.url));
process.chdir(root);

function newest(place) {
  const stat = statSync(place);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(place).map((name) => newest(path.join(place, name))));
}

/** Fonts come by the style sheet, which the list of packages does not follow. */
function fontNotices() {
  const families = ['@fontsource', '@fontsource-variable'].flatMap((scope) =>
    readdirSync(path.join('node_modules', scope)).map((name) => `${scope}/${name}`),
  );
  return families
    .map(
      (name) =>
        `\n---\n\nName: ${name}\n\n${readFileSync(path.join('node_modules', name, 'LICENSE'), 'utf8')}`,
    )
    .join('');
}

/** Lays beside every file of text what it is packed, so that the server packs none of it each time it is asked for. */
function pack(folder) {
  const params = { [constants.BROTLI_PARAM_QUALITY]: 11 };
  for (const name of readdirSync(folder, { recursive: true })) {
    if (!/\.(?:js|css|html|svg|txt|webmanifest)$/.test(name)) continue;
    const bytes = readFileSync(path.join(folder, name));
    writeFileSync(path.join(folder, `${name}.br`), brotliCompressSync(bytes, { params }));
    writeFileSync(path.join(folder, `${name}.gz`), gzipSync(bytes, { level: 9 }));
  }
}

const built = 'web/dist/index.html';
const sources = [
  'web/src',
  'web/index.html',
  'web/public',
  'web/vite.config.ts',
  'core/src',
  'core/package.json',
  'package-lock.json',
];
if (!existsSync(built) || sources.some((s) => newest(s) > statSync(built).mtimeMs)) {
  execFileSync('npm', ['run', '--silent', 'build', '-w', 'web'], { stdio: 'inherit' });
  appendFileSync('web/dist/notices.txt', fontNotices());
  pack('web/dist');
}

// Builds the page, unless nothing it is made of has changed since the last build; and the core, for all that is no page.
import './core.mjs';
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../', import.meta.url));
process.chdir(root);

function newest(place) {
  const stat = statSync(place);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return Math.max(stat.mtimeMs, ...readdirSync(place).map((name) => newest(path.join(place, name))));
}

const built = 'web/dist/index.html';
const sources = [
  'web/src',
  'web/index.html',
  'web/vite.config.ts',
  'core/src',
  'core/package.json',
  'package-lock.json',
];
if (!existsSync(built) || sources.some((s) => newest(s) > statSync(built).mtimeMs)) {
  execFileSync('npm', ['run', '--silent', 'build', '-w', 'web'], { stdio: 'inherit' });
}

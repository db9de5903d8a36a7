// Makes the checkout ready: packages, the compiled grammar and, for tests, a browser. Node built-ins only,
// since it runs before anything is installed.
import { execFileSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { haveBrowser } from './browser.mjs';

const root = fileURLToPath(new URL('../', import.meta.url));
process.chdir(root);

const newer = (a, b) => !existsSync(b) || statSync(a).mtimeMs > statSync(b).mtimeMs;
const run = (command, args) => execFileSync(command, args, { stdio: 'inherit' });

if (newer('package-lock.json', 'node_modules/.package-lock.json')) {
  console.log('Installing packages …');
  run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund']);
}

const grammar = 'core/src/words/reader/grammar';
if (newer(`${grammar}.peggy`, `${grammar}.js`) || newer('core/package.json', `${grammar}.js`)) {
  console.log('Compiling the grammar of written rows …');
  run('npm', ['run', '--silent', 'grammar', '-w', 'core']);
}

if (process.argv.includes('--browser')) haveBrowser();

// Runs everything there is to check and ends with one plain line: N passed, N failed.
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

process.chdir(fileURLToPath(new URL('../', import.meta.url)));

/** Runs a command, shows what it prints (when it has ended), and gives back its exit code and its text. */
function run(command, args) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    let text = '';
    for (const from of [child.stdout, child.stderr]) from.on('data', (chunk) => (text += chunk));
    child.on('close', (code) => {
      process.stdout.write(text);
      resolve({ code: code ?? 1, text });
    });
  });
}

const sum = (text, pattern) => [...text.matchAll(pattern)].reduce((n, m) => n + Number(m[1]), 0);

let passed = 0;
let failed = 0;

/** Counts a step: by the tests it tells of, or as one check; a step that ends badly always counts as failed. */
function count({ code, text }, told) {
  const good = told ? sum(text, told.passed) : code === 0 ? 1 : 0;
  const bad = told ? sum(text, told.failed) : code === 0 ? 0 : 1;
  passed += good;
  failed += bad || (code === 0 && good > 0 ? 0 : 1);
}

const mocha = { passed: /^\s+(\d+) passing/gm, failed: /^\s+(\d+) failing/gm };
// A browser's test may be tried twice on a busy machine; one that wanted both tries passed, and is named at the end.
const playwright = {
  passed: /^\s+(\d+) (?:passed|flaky)/gm,
  failed: /^\s+(\d+) (?:failed|interrupted|did not run)/gm,
};
const twice = (text) => /^\s+\d+ flaky\n(?:\s+\[.*\n)+/m.exec(text)?.[0];

const npm = (...args) => run('npm', args);
const room = async (name) => count(await npm('test', '--silent', '-w', name), mocha);

async function inTurn(...steps) {
  for (const step of steps) await step();
}

// The server's tests mostly wait for its folders: all else is done meanwhile. The page is tried last, by itself.
await Promise.all([
  inTurn(
    () => room('server'),
    async () => count(await npm('run', '--silent', 'types')),
    async () => count(await npm('run', '--silent', 'rules')),
  ),
  inTurn(
    () => room('core'),
    () => room('web'),
    () => room('cli'),
    async () => count(await npm('run', '--silent', 'form')),
  ),
]);
const pages = await npm('test', '--silent', '-w', 'e2e');
count(pages, playwright);

const again = twice(pages.text);
if (again) console.log(`Passed at the second try only:\n${again}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);

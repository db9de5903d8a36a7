// For one who is writing code: types, the tests of the core's ideas and of the page's store, lint of what was changed. Under a
// minute; what it leaves out (long samples, the server's folders, the browser) `npm test` does.
import { execFileSync, spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

process.chdir(fileURLToPath(new URL('../', import.meta.url)));

/** Tests of the core that take long by themselves. */
const LONG = [
  'simulator',
  'mutations',
  'manners',
  'corpus',
  'piece*',
  'cloth-*',
  'words',
  'joins',
  'mends',
  'sizes',
  'own-cells',
  'seal',
  'spread',
  'counts',
  'design-words',
  'findings',
];

const git = (...args) => execFileSync('git', args, { encoding: 'utf8' }).split('\n').filter(Boolean);
const changed = [
  ...git('diff', '--name-only', '--diff-filter=d', 'HEAD'),
  ...git('ls-files', '--others', '--exclude-standard'),
].filter((file) => /\.(?:ts|tsx|mjs|js)$/.test(file));

const run = (what, command, args, cwd = '.') =>
  new Promise((resolve) => {
    const child = spawn(command, args, { cwd, stdio: ['ignore', 'pipe', 'pipe'] });
    let text = '';
    for (const from of [child.stdout, child.stderr]) from.on('data', (chunk) => (text += chunk));
    child.on('close', (code) => {
      console.log(`${code ? 'FAILED' : 'passed'}  ${what}`);
      if (code) console.log(text);
      resolve(code === 0);
    });
  });

const began = Date.now();
const core = LONG.flatMap((name) => ['--ignore', `test/${name}.test.ts`]);
const good = await Promise.all([
  run('types', 'npm', ['run', '--silent', 'types']),
  run('core', 'npx', ['mocha', '--reporter', 'dot', ...core], 'core').then((is) =>
    run(
      'page',
      'npx',
      ['mocha', '--reporter', 'dot', '--exit', '--ignore', 'test/outbox.test.ts'],
      'web',
    ).then((too) => is && too),
  ),
  changed.length
    ? run(`lint of ${changed.length} files`, 'npx', ['eslint', '--max-warnings', '0', ...changed])
    : true,
]);
console.log(
  `${good.every(Boolean) ? 'All passed' : 'Something failed'} in ${Math.round((Date.now() - began) / 1000)} s.`,
);
process.exit(good.every(Boolean) ? 0 : 1);

import '../scripts/compiled.mjs';
import { browserPath } from '../scripts/browser.mjs';
import { defineConfig } from '@playwright/test';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const port = Number(process.env.E2E_PORT ?? 5398);
const root = fileURLToPath(new URL('../', import.meta.url));
// One folder for the run; the workers read the configuration again and must not make another.
process.env.E2E_DATA ??= mkdtempSync(path.join(tmpdir(), 'cordelina-e2e-'));

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  timeout: 180_000,
  expect: { timeout: 40_000 },
  // Every test has designs of its own, or leaves those it looks at as they are.
  fullyParallel: true,
  workers: 2,
  // A machine that others share stands still at times: what fails is tried once more, and told apart from what passed at once.
  retries: 1,
  // What is the studio's is everyone's: a test that changes it runs when nobody else is there.
  projects: [
    { name: 'together', grepInvert: /@alone/ },
    { name: 'alone', grep: /@alone/, dependencies: ['together'] },
  ],
  reporter: [['list']],
  outputDir: path.join(root, 'test-results'),
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    // Only its own test has the page kept by the browser: the others want the one just built.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: browserPath() ?? undefined,
      args: [
        '--no-sandbox',
        // Drawn plainly: a graphics card played by the processor takes it from the page.
        '--disable-gpu',
        '--disable-software-rasterizer',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
  webServer: {
    command: 'node scripts/build.mjs && exec node server/dist/main.js',
    cwd: root,
    url: `http://127.0.0.1:${port}/api/health`,
    env: { CORDELINA_DATA: process.env.E2E_DATA, PORT: String(port) },
    timeout: 120_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 8000 },
  },
});

import { chromium } from '@playwright/test';
import { pathToFileURL } from 'node:url';
const [, , script] = process.argv;
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-background-networking'],
});
const ctx = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
const page = await ctx.newPage();
page.on('pageerror', (e) => console.log('PAGEERROR', e.message));
page.on('console', (m) => m.type() === 'error' && console.log('CONSOLE', m.text().slice(0, 300)));
const { run } = await import(pathToFileURL(script).href);
await run(page, async (name) => page.screenshot({ path: `/tmp/shots/${name}.png` }));
await browser.close();

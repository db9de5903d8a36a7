/** Cloth, timed in the browser: its first picture, its rest, and what one edit costs of each. */
import { startDesign, type Chart } from '@cordelina/core';
import type { Browser } from '@playwright/test';
import { fileURLToPath } from 'node:url';
import { build, type Rollup } from 'vite';
import type { benchCloth } from './bench-cloth-page.js';

export async function clothSpeed(browser: Browser): Promise<void> {
  const built = (await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      lib: {
        entry: fileURLToPath(new URL('./bench-cloth-page.ts', import.meta.url)),
        formats: ['iife'],
        name: 'bench',
      },
    },
  })) as Rollup.RollupOutput[];
  const page = await browser.newPage();
  await page.addScriptTag({ content: built[0]!.output[0].code });
  const t = await page.evaluate(() =>
    (globalThis as unknown as { benchCloth: typeof benchCloth }).benchCloth(),
  );
  await page.close();
  const ms = (name: string) => t[name]!.toFixed(0);
  const ratio = (a: string, b: string) => (t[a]! / t[b]!).toFixed(2);
  console.log(
    `cloth of 100 × 100: first picture ${ms('quick')} ms (sharp ${ms('whole')} ms), as many lines ${ms('strokes')} ms, at rest after ${ms('rest')} ms, 400 energies ${ms('energies')} ms; after one edit ${ms('edit')} ms to rest, ${ms('update')} ms to paint`,
  );
  console.log(
    `the fine picture of all of it ${ms('fine')} ms; at 24 pixels a stitch ${ms('closeFine')} ms, after ${ms('pressed')} ms in which its yarn is laid against yarn`,
  );
  console.log(`first picture / stroking as many plain lines (at most 0.7): ${ratio('quick', 'strokes')}`);
  console.log(
    `update of the picture after one edit / first picture (at most 0.15): ${ratio('update', 'quick')}`,
  );
  console.log(`coming to rest / 400 evaluations of the energy (at most 1): ${ratio('rest', 'energies')}`);
  console.log(`coming to rest after one edit / all of it (at most 0.15): ${ratio('edit', 'rest')}`);
}

/** How long the page is kept from answering while a cloth is knitted, settled and painted beside it. */
export async function pageBesideCloth(browser: Browser, base: string, chart: Chart): Promise<void> {
  const design = startDesign(crypto.randomUUID(), 'bench of cloth', chart);
  await fetch(`${base}/api/designs`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document: design }),
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${base}/designs/${design.id}/cloth`);
  await page.getByTestId('settling').waitFor();
  const longest = await page.evaluate(async () => {
    let most = 0;
    const until = performance.now() + 3000;
    for (let last = performance.now(); last < until;) {
      await new Promise((r) => setTimeout(r));
      const now = performance.now();
      most = Math.max(most, now - last);
      last = now;
    }
    return most;
  });
  await page.close();
  console.log(
    `longest the page did not answer while a cloth settled (at most 50 ms): ${longest.toFixed(0)} ms`,
  );
}

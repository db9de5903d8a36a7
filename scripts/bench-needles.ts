/** How long a key takes to show at the needles, on a page as large as a phone's: of a large chart against a small one. */
import { startDesign, type Chart } from '@cordelina/core';
import type { Browser } from '@playwright/test';

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

async function lay(url: string, at: string, document: object): Promise<void> {
  const answer = await fetch(`${url}/api/${at}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document }),
  });
  if (!answer.ok) throw new Error(`${at}: ${answer.status}`);
}

/** Keys until each shows: the group that is lit and what is on the needles are another. */
async function measure(browser: Browser, url: string, chart: Chart): Promise<number[]> {
  const design = startDesign(crypto.randomUUID(), 'bench', chart);
  const [edition, id] = [crypto.randomUUID(), crypto.randomUUID()];
  await lay(url, 'designs', design);
  await lay(url, 'editions', { id: edition, design: design.id, version: 1, at: 1, document: design });
  await lay(url, 'knittings', {
    id,
    design: design.id,
    edition,
    of: { chart: chart.id },
    name: 'bench',
    knitter: 'bench',
    begun: 1,
    place: { row: 0, group: 0, at: 1, device: 'bench' },
  });
  const page = await browser.newPage({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' });
  await page.goto(`${url}/knit/${id}`);
  await page.getByTestId('words').waitFor();
  await page.waitForTimeout(1500);
  const times = await page.evaluate(async () => {
    const room = document.querySelector('[data-testid="needles"]')!;
    const found: number[] = [];
    for (let i = 0; i < 120; i++) {
      const [before, start] = [room.textContent, performance.now()];
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key: ' ', bubbles: true }));
      while (room.textContent === before && performance.now() - start < 2000)
        await new Promise((r) => setTimeout(r));
      found.push(performance.now() - start);
    }
    return found;
  });
  await page.close();
  // The first of them still warm the page up.
  return times.slice(-60);
}

export async function keysAtNeedles(
  browser: Browser,
  url: string,
  field: (columns: number, rows: number) => Chart,
): Promise<void> {
  const rounds: Record<'small' | 'large', number[]>[] = [];
  for (let i = 0; i < 3; i++)
    rounds.push({
      small: await measure(browser, url, field(20, 20)),
      large: await measure(browser, url, field(300, 300)),
    });
  const [small, large] = (['small', 'large'] as const).map((size) => median(rounds.flatMap((r) => r[size])));
  console.log(`a key at the needles: 20 × 20 ${small!.toFixed(1)} ms, 300 × 300 ${large!.toFixed(1)} ms`);
  console.log(
    `key to picture at the needles 300 × 300 / 20 × 20 (at most 1.25): ${(large! / small!).toFixed(2)}`,
  );
}

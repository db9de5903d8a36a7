/** What a first visit costs: bytes over the wire, long tasks, and how far the page shifts while it is laid out. */
import type { Browser, Page } from '@playwright/test';
import http from 'node:http';
import type { AddressInfo } from 'node:net';

/** Kilobytes over the wire at a first visit, as a browser asks for them packed; pictures of cards are told apart. */
const MOST_BYTES = { Workroom: 250, Bench: 450 } as const;
/** Milliseconds of the longest task while a chart of 300 × 300 is opened, and the most the page may shift. */
const LONGEST_TASK = 100;
const MOST_SHIFT = 0.05;

/** What goes over the wire, in bytes, by address: counted between browser and server, workers' scripts too. */
async function counting(
  base: string,
): Promise<{ url: string; sent: Map<string, number>; close: () => void }> {
  const to = new URL(base);
  const sent = new Map<string, number>();
  const proxy = http.createServer((asked, answer) => {
    const up = http.request(
      { host: to.hostname, port: to.port, path: asked.url, method: asked.method, headers: asked.headers },
      (from) => {
        answer.writeHead(from.statusCode!, from.headers);
        from.on('data', (chunk: Buffer) => sent.set(asked.url!, (sent.get(asked.url!) ?? 0) + chunk.length));
        from.pipe(answer);
      },
    );
    up.on('error', () => answer.destroy());
    asked.pipe(up);
  });
  await new Promise<void>((r) => proxy.listen(0, '127.0.0.1', r));
  const { port } = proxy.address() as AddressInfo;
  return { url: `http://127.0.0.1:${port}`, sent, close: () => proxy.closeAllConnections() };
}

const sum = (sent: Map<string, number>, of: (address: string) => boolean) =>
  [...sent].reduce((n, [address, bytes]) => n + (of(address) ? bytes : 0), 0) / 1024;

/** Watches long tasks and shifts from the page's first moment on. */
const watch = (page: Page) =>
  page.addInitScript(() => {
    const seen = { longest: 0, shift: 0 };
    (window as unknown as { seen: typeof seen }).seen = seen;
    new PerformanceObserver((list) => {
      for (const { duration } of list.getEntries()) seen.longest = Math.max(seen.longest, duration);
    }).observe({ type: 'longtask', buffered: true });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & {
        value: number;
        hadRecentInput: boolean;
      })[])
        if (!entry.hadRecentInput) seen.shift += entry.value;
    }).observe({ type: 'layout-shift', buffered: true });
  });
const seen = (page: Page) =>
  page.evaluate(() => (window as unknown as { seen: { longest: number; shift: number } }).seen);

export async function firstVisit(browser: Browser, base: string): Promise<void> {
  const { url, sent, close } = await counting(base);
  const { designs } = (await (await fetch(`${base}/api/designs`)).json()) as {
    designs: { id: string; title: string }[];
  };
  const some = designs.find(({ title }) => title === 'Scree mittens') ?? designs[0]!;
  for (const [room, address] of [
    ['Workroom', '/'],
    ['Bench', `/designs/${some.id}`],
  ] as const) {
    sent.clear();
    const page = await browser.newPage({ serviceWorkers: 'block', viewport: { width: 1280, height: 800 } });
    await watch(page);
    await page.goto(url + address, { waitUntil: 'networkidle' });
    await page.waitForTimeout(3000);
    const pictures = sum(sent, (at) => at.includes('/picture/'));
    const page_ = sum(sent, (at) => !at.includes('/picture/'));
    const { shift } = await seen(page);
    console.log(
      `first visit of the ${room}: ${page_.toFixed(0)} kB over the wire (at most ${MOST_BYTES[room]}), pictures of cards ${pictures.toFixed(0)} kB; shift of layout (at most ${MOST_SHIFT}): ${shift.toFixed(3)}`,
    );
    await page.close();
  }
  close();
  const id = crypto.randomUUID();
  const row = Array.from({ length: 300 }, (_, c) => (c % 7 < 2 ? 'p' : 'k'));
  const crossing = { lean: 'left', front: ['k', 'k'], back: ['k', 'k'] };
  const rows = Array.from({ length: 300 }, (_, r) =>
    r % 6 === 2 ? [...row.slice(0, (r % 40) + 2), crossing, ...row.slice((r % 40) + 6)] : row,
  );
  const document = { format: 1, id, title: 'Large', charts: [{ width: 300, rows }] };
  await fetch(`${base}/api/designs`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document }),
  });
  const page = await browser.newPage({ serviceWorkers: 'block', viewport: { width: 1280, height: 800 } });
  await watch(page);
  await page.goto(`${base}/designs/${id}`, { waitUntil: 'networkidle' });
  await page.waitForTimeout(4000);
  const { longest } = await seen(page);
  console.log(
    `opening 300 × 300, the longest task in the page (at most ${LONGEST_TASK} ms): ${longest.toFixed(0)} ms`,
  );
  await page.close();
  await fetch(`${base}/api/designs/${id}`, { method: 'DELETE' });
}

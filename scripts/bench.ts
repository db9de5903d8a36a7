/**
 * The benchmark: ratios within one run, so that they hold on a slow machine and on a fast one.
 * Run with `npm run bench`.
 */
import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import {
  ChartSchema,
  checkChart,
  fitWidth,
  interlacesOf,
  lengthOf,
  OVER,
  placeStitches,
  readPattern,
  ropedOf,
  SettingsSchema,
  simpleCrossing,
  startDesign,
  turnOver,
  workChart,
  writeChart,
  type Chart,
  type Stitch,
} from '@cordelina/core';
import { clothSpeed, pageBesideCloth } from './bench-cloth.js';
import { customsMissed } from './bench-customs.js';
import { browserPath } from './browser.mjs';
import { firstVisit } from './bench-ease.js';
import { keysPressed } from './bench-keys.js';
import { keysAtNeedles } from './bench-needles.js';
import { pageWeight } from './bench-page.js';
import { serverSpeed } from './bench-server.js';

const root = fileURLToPath(new URL('../', import.meta.url));

function median(values: number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}

function time(work: () => void, runs: number): number {
  return median(
    Array.from({ length: runs }, () => {
      const start = performance.now();
      work();
      return performance.now() - start;
    }),
  );
}

/**
 * An all-over field of plaits: every fourth row crosses, every other row is plain. Fields of other seeds lean otherwise,
 * so that nothing worked out of the one holds of the other.
 */
function field(columns: number, rows: number, seed = 0): Chart {
  const repeats = Math.floor(columns / 10);
  const unit: Stitch[] = ['p', 'p', ...Array<Stitch>(6).fill('k'), 'p', 'p'];
  const lean = (panel: number, way: 0 | 1) => (((seed >> (panel % 8)) & 1) === way ? 'left' : 'right');
  const crossed = (panel: number): Stitch[] => [
    'p',
    'p',
    simpleCrossing(lean(panel, 0), 2, 2),
    'k',
    'k',
    'p',
    'p',
  ];
  const other = (panel: number): Stitch[] => [
    'p',
    'p',
    'k',
    'k',
    simpleCrossing(lean(panel, 1), 2, 2),
    'p',
    'p',
  ];
  const row = (panelOf: (panel: number) => Stitch[]) =>
    Array.from({ length: repeats }, (_, i) => panelOf(i)).flat();
  return ChartSchema.parse({
    width: repeats * 10,
    rows: Array.from({ length: rows }, (_, r) =>
      row(r % 4 === 2 ? (r % 8 === 2 ? crossed : other) : () => unit),
    ),
  });
}

function computation(): void {
  const settings = SettingsSchema.parse({});
  const textOf = (seed: number) =>
    JSON.stringify(startDesign('00000000-0000-4000-8000-000000000001', 'bench', field(200, 400, seed)));
  const text = textOf(0);
  const parse = time(() => JSON.parse(text), 15);
  // A fresh document each time: nothing of it is remembered from the run before. As many of them as let the code, like
  // the parser beside it, be measured as it runs in the middle of a session.
  const charts = Array.from({ length: 31 }, (_, seed) =>
    ChartSchema.parse(JSON.parse(textOf(seed)).charts[0]),
  );
  const whole = median(
    charts.map((chart) =>
      time(() => {
        checkChart(chart);
        writeChart(chart, settings);
      }, 1),
    ),
  );
  const chart = charts[0]!;
  let turn = 0;
  const edit = time(() => {
    const edited = placeStitches(chart, 200, 2, [turn++ % 2 ? 'k' : 'p']).chart;
    checkChart(edited);
    writeChart(edited, settings);
  }, 15);
  console.log(
    `200 × 400: JSON.parse ${parse.toFixed(1)} ms, check + write ${whole.toFixed(1)} ms, after one edit ${edit.toFixed(1)} ms`,
  );
  console.log(`check + write / JSON.parse (at most 6): ${(whole / parse).toFixed(1)}`);
  console.log(`check + write after one edit / check + write of all: ${(edit / whole).toFixed(2)}`);

  everyWay(settings);

  const smaller = Array.from({ length: 9 }, () => field(100, 200));
  const json = JSON.stringify(startDesign('00000000-0000-4000-8000-000000000001', 'bench', smaller[0]!));
  const parsing = time(() => JSON.parse(json), 15);
  const texts: string[] = [];
  const writing = median(smaller.map((c) => time(() => texts.push(writeChart(c, settings).text), 1)));
  // Each text differs, so that nothing of it is remembered from the one before.
  const reading = median(
    texts.map((t, i) => {
      const other = t.replaceAll('k6', `k${6 - (i % 3)}, k${i % 3}`);
      return time(() => readPattern(other, { construction: 'flat', firstRow: 'RS' }), 1);
    }),
  );
  console.log(
    `100 × 200: JSON.parse ${parsing.toFixed(1)} ms, write ${writing.toFixed(1)} ms, read ${reading.toFixed(1)} ms`,
  );
  console.log(
    `write / JSON.parse: ${(writing / parsing).toFixed(1)}, read / JSON.parse: ${(reading / parsing).toFixed(1)}`,
  );

  // As in the middle of a session: what is measured has run before, on other charts.
  const squares = Array.from({ length: 9 }, (_, seed) => field(300, 300, seed));
  for (let i = 0; i < 300; i++) checkChart(placeStitches(chart, 5 + ((i * 7) % 390), 2, ['ktbl']).chart);
  const full = median(squares.map((square) => time(() => checkChart(square), 1)));
  const [square] = squares as [Chart];
  const edits = Array.from(
    { length: 201 },
    (_, i) => placeStitches(square, 5 + ((i * 7) % 290), 2 + ((i * 13) % 200), ['ktbl']).chart,
  );
  // Each is one edit: the chart is checked as it was before, between one and the next.
  const afterOne = (edited: Chart) => {
    checkChart(square);
    return time(() => checkChart(edited), 1);
  };
  const again = median(edits.map(afterOne));
  console.log(`300 × 300: check ${full.toFixed(1)} ms, after one edit ${again.toFixed(2)} ms`);
  console.log(`check after one edit / check of all (at most 0.01): ${(again / full).toFixed(3)}`);

  // Ropes by themselves: traced, and joined into interlaces; then with one crossing turned over.
  const roped = median(
    Array.from({ length: 9 }, (_, seed) => field(300, 300, 100 + seed)).map((c) => {
      workChart(c);
      return time(() => interlacesOf(ropedOf(c)), 1);
    }),
  );
  const turned = Array.from(
    { length: 41 },
    (_, i) => turnOver(square, [{ row: 2 + 8 * ((i * 7) % 36), column: 2 + 10 * ((i * 13) % 30) }]).chart,
  );
  const afterTurn = median(turned.map(afterOne));
  console.log(`ropes of all / check of all: ${(roped / full).toFixed(2)}`);
  console.log(`check after one crossing is turned over / check of all: ${(afterTurn / full).toFixed(3)}`);
}

/** The same of other ways of working, each beside what flat work takes: at most half as much again. */
function everyWay(settings: ReturnType<typeof SettingsSchema.parse>): void {
  const bands = Object.fromEntries(
    Array.from({ length: 40 }, (_, i) => [String(10 * i), { every: 3, rounds: 3 }] as const),
  );
  const ways: Record<string, Partial<Chart>> = {
    flat: {},
    round: { construction: 'round' },
    'both faces': { bothFaces: true },
    double: { construction: 'double' },
    'round, bands': { construction: 'round', bands },
  };
  const took = (more: Partial<Chart>, seed: number) => {
    const chart: Chart = { ...field(200, 400, seed), ...more };
    return time(() => {
      checkChart(chart);
      writeChart(chart, settings);
    }, 1);
  };
  // In turn, so that what the machine does besides falls on all alike.
  const times = new Map<string, number[]>(Object.keys(ways).map((name) => [name, []]));
  for (let seed = 40; seed < 61; seed++)
    for (const [name, more] of Object.entries(ways)) times.get(name)!.push(took(more, seed));
  const flat = median(times.get('flat')!);
  for (const [name, some] of times)
    if (name !== 'flat')
      console.log(`200 × 400, ${name} / flat (at most 1.5): ${(median(some) / flat).toFixed(2)}`);
}

/** Fitting a piece to a width, against only going through as many ways as there are. */
function fitting(): void {
  const gauge = { count: 20, over: OVER.cm };
  const gap = { kind: 'gap' as const, stitches: 6, least: 2, most: 18, gauge };
  const filling = {
    kind: 'filling' as const,
    of: 8,
    plus: 2,
    least: 1,
    most: 20,
    gauge: { ...gauge, count: 26 },
  };
  const parts = [gap, filling, gap, filling, gap];
  const ways = 17 ** 3 * 20 ** 2;
  let [wanted, nearest] = [0, 0];
  const fitted = time(() => fitWidth(parts, lengthOf(40 + (wanted++ % 30), 'cm')), 15);
  const bare = time(() => {
    nearest = Infinity;
    const each = [OVER.cm / 20, (8 * OVER.cm) / 26];
    for (let a = 2; a <= 18; a++)
      for (let b = 1; b <= 20; b++)
        for (let c = 2; c <= 18; c++)
          for (let d = 1; d <= 20; d++)
            for (let e = 2; e <= 18; e++)
              nearest = Math.min(nearest, Math.abs((a + c + e) * each[0]! + (b + d) * each[1]! - 480_000));
  }, 15);
  console.log(`fit over ${ways} ways: ${fitted.toFixed(1)} ms, going through them ${bare.toFixed(1)} ms`);
  console.log(`fit / going through all ways: ${(fitted / bare).toFixed(2)}`);
}

async function drawing(): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'cordelina-bench-'));
  const port = 5397;
  const server = spawn(process.execPath, ['server/dist/main.js'], {
    cwd: root,
    env: { ...process.env, CORDELINA_DATA: folder, PORT: String(port) },
    stdio: 'ignore',
  });
  const base = `http://127.0.0.1:${port}`;
  const browser = await chromium.launch({
    executablePath: browserPath() ?? undefined,
    args: ['--no-sandbox'],
  });
  try {
    for (let i = 0; i < 100; i++) {
      if (
        await fetch(`${base}/api/health`).then(
          (r) => r.ok,
          () => false,
        )
      )
        break;
      await new Promise((r) => setTimeout(r, 200));
    }
    await pageWeight(browser, base);
    await firstVisit(browser, base);
    await keysPressed(browser, base);
    await keysAtNeedles(browser, base, field);
    await clothSpeed(browser);
    await pageBesideCloth(browser, base, field(100, 100));
    const measure = async (size: number) => {
      const design = startDesign(crypto.randomUUID(), `bench ${size}`, field(size, size));
      await fetch(`${base}/api/designs`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ document: design }),
      });
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.goto(`${base}/designs/${design.id}`);
      await page.getByTestId('chart').focus();
      await page.waitForTimeout(1500);
      const figures = await page.evaluate(async () => {
        const chart = document.querySelector<HTMLElement>('[data-testid="chart"]')!;
        const edits: number[] = [];
        for (let i = 0; i < 140; i++) {
          // In the third column, below a crossing that stops what is carried up; the cursor goes back to it by arrows.
          const set = i % 2 ? 'k' : 'p';
          for (const key of ['Home', '2', 'ArrowLeft', set]) {
            const start = performance.now();
            chart.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
            await new Promise((r) => setTimeout(r));
            if (key === set) edits.push(performance.now() - start);
          }
        }
        const paints = performance
          .getEntriesByName('chart-paint')
          .slice(-60)
          .map((e) => e.duration);
        // The first of them still warm the page up.
        return { edits: edits.slice(-60), paints };
      });
      await page.close();
      return figures;
    };
    // In turn, so that a slow while of the machine falls on both.
    const rounds: Record<'small' | 'large', Awaited<ReturnType<typeof measure>>>[] = [];
    for (let i = 0; i < 3; i++) rounds.push({ small: await measure(20), large: await measure(300) });
    const over = (size: 'small' | 'large') => ({
      edit: median(rounds.flatMap((round) => round[size].edits)),
      paint: median(rounds.flatMap((round) => round[size].paints)),
    });
    const [small, large] = [over('small'), over('large')];
    console.log(
      `redraw after one edit: 20 × 20 ${small.paint.toFixed(2)} ms, 300 × 300 ${large.paint.toFixed(2)} ms`,
    );
    console.log(`key to picture: 20 × 20 ${small.edit.toFixed(1)} ms, 300 × 300 ${large.edit.toFixed(1)} ms`);
    console.log(`redraw 300 × 300 / 20 × 20: ${(large.paint / small.paint).toFixed(1)}`);
    console.log(`key to picture 300 × 300 / 20 × 20 (at most 1.25): ${(large.edit / small.edit).toFixed(2)}`);
  } finally {
    await browser.close();
    server.kill('SIGTERM');
    await new Promise((r) => server.once('exit', r));
    rmSync(folder, { recursive: true, force: true });
  }
}

const [, , only] = process.argv;
if (only !== 'page') {
  computation();
  fitting();
  customsMissed();
}
if (only !== 'core') {
  if (only !== 'page') await serverSpeed();
  await drawing();
}

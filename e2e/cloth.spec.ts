import { readPattern, startDesign } from '@cordelina/core';
import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { barriers, chart, keys, newDesign, openCopy, saved, type } from './helpers.js';

/** A design of one rope in the middle of a purl ground, laid down for a test that begins at its cloth. */
async function ropeDesign(page: Page, title: string, room = 'cloth'): Promise<string> {
  const { chart } = readPattern(
    `Row 1 (RS): *p3, k6, p3; rep from * to end.
Row 2 and all WS rows: work the stitches as they present.
Row 3: *p3, 3/3 LC, p3; rep from * to end.
Row 5: *p3, k6, p3; rep from * to end.
Row 6: work the stitches as they present.
Rep rows 1-6.`,
    { construction: 'flat', firstRow: 'RS', school: 'front-back' },
  );
  const document = startDesign(crypto.randomUUID(), title, chart!);
  expect((await page.request.post('/api/designs', { data: { document } })).status()).toBe(201);
  await page.goto(`/designs/${document.id}/${room}`);
  return document.id;
}

const cloth = (page: Page) => page.getByTestId('cloth');
const settled = (page: Page) =>
  expect(page.getByTestId('settling')).toHaveText('At rest', { timeout: 60_000 });
/** The picture as it is seen, when it answers what was asked for and is painted to the end. */
async function picture(page: Page): Promise<string> {
  // Without the ring that shows where the keys go.
  await cloth(page).evaluate((element: HTMLElement) => element.blur());
  await expect(cloth(page)).toHaveAttribute('data-still', 'true');
  return (await cloth(page).screenshot()).toString('base64');
}
const scaleOf = async (page: Page) => Number(await cloth(page).getAttribute('data-scale'));

test('the cloth of a chart settles, tells how it draws in, is turned over, made larger and moved', async ({
  page,
}) => {
  await ropeDesign(page, 'Col scarf');
  await settled(page);
  await expect(page.getByTestId('draw-in')).toContainText(/About \d+ % narrower than plain cloth/);
  await expect(page.getByText('knit a swatch before you count on it.')).toBeVisible();
  await barriers(page);
  const right = await picture(page);
  await page.getByRole('button', { name: 'Right side' }).click();
  await expect(page.getByRole('button', { name: 'Wrong side' })).toHaveAttribute('aria-pressed', 'true');
  const wrong = await picture(page);
  expect(wrong).not.toBe(right);
  // And back by its key: the very same picture.
  await page.keyboard.press('t');
  expect(await picture(page)).toBe(right);

  const whole = await scaleOf(page);
  await page.getByRole('button', { name: 'Larger' }).click();
  expect(await scaleOf(page)).toBeCloseTo(whole * 1.4, 0);
  const large = await picture(page);
  await cloth(page).focus();
  await page.keyboard.press('ArrowRight');
  expect(await picture(page)).not.toBe(large);
  await page.keyboard.press('0');
  expect(await picture(page)).toBe(right);

  // Fewer repeats are larger; nonsense is not taken.
  await page.getByLabel('repeats across').fill('1');
  await settled(page);
  expect(await scaleOf(page)).toBeGreaterThan(whole);
  await page.getByLabel('up', { exact: true }).fill('0');
  await settled(page);
});

test('ropes lie before a ground that is whole, as two beds emboss them', async ({ page }) => {
  await ropeDesign(page, 'Embossed');
  await settled(page);
  const narrower = page.getByText(/narrower than plain cloth/);
  const charted = Number(/(\d+) %/.exec((await narrower.textContent())!)![1]);
  await page.getByLabel('Ground behind the ropes').selectOption('whole');
  await expect(narrower).not.toContainText(`${charted} %`);
  await settled(page);
  expect(Number(/(\d+) %/.exec((await narrower.textContent())!)![1])).toBeLessThan(charted);
});

test('a yarn is chosen for the design and kept; the cloth is saved as a picture and as lines', async ({
  page,
}) => {
  const id = await ropeDesign(page, 'Tarn cowl');
  await settled(page);
  const before = await picture(page);
  await page.getByText('lichen heather').click();
  expect(await picture(page)).not.toBe(before);
  await saved(page);
  await page.reload();
  await expect(page.getByRole('radio', { name: 'lichen heather' })).toBeChecked();
  await page.getByRole('button', { name: 'Undo' }).isDisabled();

  const save = async (kind: string) => {
    await page.getByRole('button', { name: 'Save …' }).click();
    const coming = page.waitForEvent('download');
    await page.getByRole('menuitem', { name: kind }).click();
    const file = await coming;
    return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
  };
  await settled(page);
  const png = await save('As a picture (PNG)');
  expect(png.name).toBe('Tarn-cowl-cloth-RS.png');
  expect([...png.bytes.subarray(0, 4)]).toEqual([137, 80, 78, 71]);
  const svg = await save('As lines (SVG)');
  expect(svg.bytes.toString()).toMatch(/^<svg [^>]+>.*<\/svg>$/s);
  expect((await (await page.request.get(`/api/designs/${id}`)).json()).document.settings.cloth.yarn).toBe(
    'lichen',
  );
});

test('a loop and its stitch show each other, and the stitch is shown on the Bench', async ({ page }) => {
  // Each picture of a chart begins by setting its scale.
  await page.addInitScript(() => {
    const { prototype } = CanvasRenderingContext2D;
    const { scale } = prototype;
    prototype.scale = function (this: CanvasRenderingContext2D, x, y) {
      document.documentElement.dataset.painted = `${Number(document.documentElement.dataset.painted ?? 0) + 1}`;
      scale.call(this, x, y);
    };
  });
  await ropeDesign(page, 'Scarp cap');
  await settled(page);
  const box = (await cloth(page).boundingBox())!;
  const painted = () => page.evaluate(() => Number(document.documentElement.dataset.painted ?? 0));
  const before = await painted();
  for (let i = 1; i <= 8; i++) await page.mouse.move(box.x + (box.width * i) / 16, box.y + box.height / 2);
  await expect(page.getByTestId('cloth-cell')).toBeVisible();
  // The chart beside the cloth is painted once, not with every move of the pointer.
  expect(await painted()).toBe(before);
  const pointed = page.getByTestId('pointed');
  await expect(pointed).toContainText(/^Row \d+, (right|wrong) side, column \d+: /);
  await expect(page.getByTestId('cloth-cell')).toBeVisible();
  await expect(cloth(page).locator('polyline').first()).toBeAttached();
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.move(box.x - 40, box.y + 5);

  // From the chart, by its keys: the loops of the cell are marked, as often as it is repeated.
  const small = page.getByRole('application', { name: /^The chart/ });
  await small.focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowDown');
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  await expect(pointed).toHaveText('Row 1, right side, column 1: purl');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  await expect(pointed).toHaveText('Row 3, right side, column 2: purl');
  await page.getByRole('button', { name: 'Show on the Bench' }).click();
  await expect(chart(page)).toBeVisible();
  await expect(page.getByTestId('cursor')).toContainText('Row 3, right side, column 2');
});

test('on the Bench a small cloth follows each edit, and its loops lead to the chart', async ({ page }) => {
  await newDesign(page, 'Moor mitten', 16, 12);
  await keys(page, 'u');
  const panel = page.getByTestId('cloth-panel');
  await expect(panel).toBeVisible();
  const plain = await picture(page);
  await keys(page, 'Home');
  await type(page, '2/2lc');
  await keys(page, 'Enter');
  expect(await picture(page)).not.toBe(plain);
  await keys(page, 'Control+z');
  // The rows above and below have come to rest again: nothing is left of the crossing.
  const box = (await cloth(page).boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await expect(page.getByTestId('cursor')).not.toContainText('Row 1, ');
  await panel.getByRole('button', { name: 'Turn the cloth over' }).click();
  await expect(panel).toContainText('wrong side');
  await panel.getByRole('button', { name: 'Put the cloth away' }).click();
  await expect(panel).toHaveCount(0);
  await page.reload();
  await expect(chart(page)).toBeVisible();
  await expect(panel).toHaveCount(0);
});

test('the piece of the vest is seen in each of its sizes, and its cloth fitted to the swatch', async ({
  page,
}) => {
  test.slow();
  const copy = await openCopy(page, 'Cornice vest', '/cloth');
  await settled(page);
  await page.getByLabel('Cloth of').selectOption({ label: 'The whole piece' });
  await settled(page);
  const small = await scaleOf(page);
  await page.getByLabel('Size').selectOption({ index: 3 });
  // "At rest" may still be said of the cloth before.
  await expect.poll(() => scaleOf(page), { timeout: 60_000 }).toBeLessThan(small);
  await settled(page);
  await expect(page.getByRole('heading', { name: 'Chart' })).toHaveCount(0);

  // The swatch book's swatch is of the demo's chart; one of this design is laid beside its plain one.
  const swatches = (await (await page.request.get('/api/swatches')).json()).swatches;
  const of = swatches.find((s: { swatch: { name: string } }) => s.swatch.name === 'Cornice, diamonds').swatch;
  const own = {
    ...of,
    id: crypto.randomUUID(),
    name: 'Seen diamonds',
    of: { design: copy.id, chart: copy.charts[0]!.id },
  };
  expect((await page.request.post('/api/swatches', { data: { document: own } })).ok()).toBe(true);
  await page.goto(`/designs/${copy.id}/cloth`);
  await settled(page);
  const measured = page.getByText(/Measured on “Seen diamonds”: \d+ % narrower/);
  await expect(measured).toBeVisible();
  const share = Number(/(\d+) %/.exec((await measured.textContent())!)![1]);
  await page.getByRole('button', { name: 'Fit to the swatch' }).click();
  await expect(page.getByText('Fitted to 1 of your swatches.')).toBeVisible({ timeout: 60_000 });
  await settled(page);
  await expect
    .poll(async () => Number(/About (\d+) %/.exec((await page.getByTestId('draw-in').textContent())!)?.[1]))
    .toBeGreaterThanOrEqual(share - 2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText(/^Worked out for ordinary wool/)).toBeVisible();
  await page.request.delete(`/api/swatches/${own.id}`);
});

import { SwatchSchema } from '@cordelina/core';
import { expect, test, type Page } from '@playwright/test';
import { barriers } from './helpers.js';

const row = (page: Page, name: string | RegExp) =>
  page.getByRole('table', { name: 'Swatches' }).getByRole('row', { name });

test('a swatch is entered by keyboard, worked out, found again, taken out and brought back', async ({
  page,
}) => {
  await page.goto('/swatches');
  await expect(row(page, /Cornice, diamonds/)).toBeVisible();
  await page.keyboard.press('n');
  const name = page.getByRole('textbox', { name: 'Name' });
  await expect(name).toBeFocused();
  await name.fill('Col plait');
  const own = page.getByRole('region', { name: 'Swatch Col plait' });
  await own.getByLabel('Needle').fill('US 6');
  await own.getByLabel('Needle').press('Enter');
  await expect(own.getByText('4 mm (US 6, UK 8)')).toBeVisible();
  await own.getByLabel('Yarn', { exact: true }).fill('Hut store wool');
  await own.getByRole('button', { name: 'Add a reading: stitches', exact: true }).click();
  // The new reading is in hand: its count, its distance, and Enter for another.
  await page.keyboard.type('25');
  await page.keyboard.press('Tab');
  await page.keyboard.type('4 in');
  await page.keyboard.press('Enter');
  await expect(own.getByLabel('stitches, reading 2')).toBeFocused();
  await page.keyboard.type('30');
  await page.keyboard.press('Tab');
  // Nothing is measured until its distance is typed too.
  await expect(own.getByText('It counts when both its numbers are typed.')).toBeVisible();
  await expect(row(page, /Col plait/)).toContainText('24.6');
  await page.keyboard.type('4 in');
  await page.keyboard.press('Tab');
  // 25 and 30 stitches in 4 in each: the one is a fifth more than the other, and both are asked about.
  await expect(own.getByText(/lies far from the others/)).toHaveCount(2);
  await own.getByLabel('stitches, reading 2').fill('minus one');
  await own.getByLabel('stitches, reading 2').press('Tab');
  await expect(own.getByRole('alert')).toHaveText('A count is a number; "minus one" is none.');
  await own.getByLabel('stitches, reading 2').fill('25');
  await own.getByLabel('stitches, reading 2').press('Enter');
  await expect(own.getByText('against Hut wool, stocking stitch')).toBeVisible();
  // 25 in 10.16 cm against 20 in 10 cm.
  await expect(row(page, /Col plait/)).toContainText('24.6');
  await expect(row(page, /Col plait/)).toContainText('19 %');

  await page.reload();
  await page.getByRole('searchbox').fill('plait');
  await expect(page.getByText('2 of 7 swatches')).toBeVisible();
  await row(page, /Col plait/).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(row(page, /Col plait/)).toBeFocused();
  await own.getByRole('button', { name: 'Take it out of the book' }).click();
  await expect(row(page, /Col plait/)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(row(page, /Col plait/)).toBeVisible();
  await row(page, /Col plait/).click();
  await own.getByRole('button', { name: 'Take it out of the book' }).click();
  await page.getByRole('searchbox').fill('');
  await expect(page.getByText('6 swatches')).toBeVisible();
});

test('the book is sorted and narrowed, told in inches, shows a photo and says what is none', async ({
  page,
}) => {
  await page.goto('/swatches?swatch=5a7c4000-0000-4000-8000-000000000005');
  const names = page.locator('tbody td:first-child');
  await page
    .getByRole('columnheader', { name: /^Sts in/ })
    .getByRole('button')
    .click();
  await expect(names.first()).toHaveText('Scree plait');
  await page.getByRole('combobox', { name: 'Cloth' }).first().selectOption('Plain');
  await expect(names).toHaveText([
    'Fell two-ply, stocking stitch',
    'Hut wool, stocking stitch',
    'Hut wool, larger needle',
  ]);
  await page.getByRole('combobox', { name: 'Cloth' }).first().selectOption('All');
  await page.getByRole('radio', { name: 'in', exact: true }).check();
  // 32 stitches in 10 cm are 32.5 in 4 in, which is 1.6 mm more.
  await expect(row(page, /Scree plait/)).toContainText('32.5');
  expect(await barriers(page)).toEqual([]);

  const photo = page.getByLabel('Photo of the swatch');
  await photo.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') });
  await expect(page.getByText('This file is no picture that the browser can open')).toBeVisible();
  const picture = await page.screenshot({ clip: { x: 0, y: 0, width: 60, height: 40 } });
  await photo.setInputFiles({ name: 'swatch.png', mimeType: 'image/png', buffer: picture });
  const shown = page.getByRole('img', { name: 'Photo of Scree plait' });
  await expect(shown).toBeVisible();
  expect(await shown.evaluate((img: HTMLImageElement) => img.decode().then(() => img.naturalWidth))).toBe(60);
  await page.getByRole('button', { name: 'Take it out', exact: true }).click();
  await expect(shown).toHaveCount(0);
});

test('what is measured while the server is away is kept, and sent when it is back', async ({ page }) => {
  await page.goto('/swatches?swatch=5a7c4000-0000-4000-8000-000000000004');
  await expect(row(page, /Hut wool, larger needle/)).toBeVisible();
  await page.route('**/api/swatches**', (route) => route.abort());
  await page.getByLabel('Grams').fill('19,5');
  await page.getByLabel('Grams').press('Enter');
  await expect(page.getByText('the server is away; 1 kept in this browser')).toBeVisible();
  await page.unroute('**/api/swatches**');
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Grams' })).toHaveValue('19.5');
  // What was done before the reload can still be taken back.
  await expect(page.getByRole('button', { name: 'Undo: grams' })).toBeEnabled();
  await expect
    .poll(async () => {
      const { swatches } = (await (await page.request.get('/api/swatches')).json()) as {
        swatches: { swatch: { name: string; grams: number | null } }[];
      };
      return swatches.find(({ swatch }) => swatch.name === 'Hut wool, larger needle')!.swatch.grams;
    })
    .toBe(19.5);
});

test('two people at one swatch both keep their work; of one thing measured twice one is chosen', async ({
  page,
  browser,
}) => {
  const swatch = SwatchSchema.parse({ id: crypto.randomUUID(), name: 'Two hands' });
  expect((await page.request.post('/api/swatches', { data: { document: swatch } })).status()).toBe(201);
  const at = `/swatches?swatch=${swatch.id}`;
  const other = await (await browser.newContext()).newPage();
  for (const one of [page, other]) {
    await one.goto(at);
    await expect(one.getByRole('textbox', { name: 'Name' })).toHaveValue('Two hands');
  }
  const enter = async (of: Page, label: string, text: string) => {
    const field = of.getByRole('region', { name: 'Swatch Two hands' }).getByLabel(label, { exact: true });
    await field.fill(text);
    await field.press('Tab');
  };
  // What the one measures the other sees at once.
  await enter(other, 'Grams', '31');
  await expect(page.getByRole('textbox', { name: 'Grams' })).toHaveValue('31');
  await page.route('**/api/swatches/**', (route) => route.abort());
  await enter(page, 'Fibre', 'wool');
  await enter(page, 'Needle', '4');
  await expect(page.getByText(/the server is away/)).toBeVisible();
  await enter(other, 'Needle', '5');
  await enter(other, 'Yarn', 'Hut wool');
  await expect
    .poll(async () => (await (await other.request.get(`/api/swatches/${swatch.id}`)).json()).document.yarn)
    .toBe('Hut wool');
  await page.unroute('**/api/swatches/**');
  const choose = page.getByRole('button', { name: 'Choose what is to stand' });
  await expect(choose).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('textbox', { name: 'Yarn' })).toHaveValue('Hut wool');
  await expect(other.getByRole('textbox', { name: 'Fibre' })).toHaveValue('wool');
  await choose.click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('4 mm');
  expect(await barriers(page, '[role=dialog]')).toEqual([]);
  await dialog.getByRole('radio', { name: 'from here' }).check();
  await dialog.getByRole('button', { name: 'Take 1 from here' }).click();
  await expect(other.getByRole('textbox', { name: 'Needle' })).toHaveValue('4');
  await page.getByRole('button', { name: 'Undo: what was done here' }).click();
  await expect(other.getByRole('textbox', { name: 'Needle' })).toHaveValue('5');
  await page.request.delete(`/api/swatches/${swatch.id}`);
  await other.context().close();
});

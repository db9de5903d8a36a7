import { expect, test, type Page } from '@playwright/test';
import type { Design } from '@cordelina/core';
import { readFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import { barriers, chart, cursor, keys, openCopy, saved, wordsOf } from './helpers.js';

const stored = async (page: Page, id: string): Promise<Design> =>
  ((await (await page.request.get(`/api/designs/${id}`)).json()) as { document: Design }).document;
const openId = (page: Page): string => /designs\/([\w-]+)/.exec(page.url())![1]!;
const told = (page: Page) => page.getByTestId('tracing-told');
const dialog = (page: Page) => page.getByRole('dialog', { name: 'Trace a picture of a chart' });
const chooser = (page: Page) => page.getByLabel('A picture of a chart', { exact: true });

/** The chart of a design as a picture, as the bench saves it. */
async function chartPicture(page: Page): Promise<{ picture: Buffer; design: Design }> {
  const design = await openCopy(page, 'Cornice vest');
  await expect(chart(page)).toBeVisible();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('chart as a picture');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('option', { name: /Save the chart as a picture/ }).click(),
  ]);
  return { picture: await readFile(await download.path()), design };
}

async function write(page: Page, row: number, words: string): Promise<void> {
  await wordsOf(page, row).getByRole('button').dblclick();
  await page.getByLabel('Words of the row').fill(words);
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Words of the row')).toHaveCount(0);
}

async function openTracing(page: Page): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').fill('trace a picture');
  await page.getByRole('option', { name: /Trace a picture/ }).click();
  await expect(dialog(page)).toBeVisible();
}

test('a picture of a chart is traced: three rows shown by hand, the others guessed, looked at and taken one by one', async ({
  page,
}) => {
  test.slow();
  const { picture, design } = await chartPicture(page);
  await page.goto('/');
  await page
    .getByLabel('Bring designs in from files')
    .setInputFiles({ name: 'Found diamond.png', mimeType: 'image/png', buffer: picture });
  await page.getByRole('button', { name: 'Trace it on a new chart' }).click();
  await expect(dialog(page)).toContainText('A grid was found');
  await expect(page.getByLabel('Columns', { exact: true })).toHaveValue('28');
  await expect(page.getByLabel('Rows', { exact: true })).toHaveValue('16');
  expect(await barriers(page)).toEqual([]);
  await page.getByRole('button', { name: 'Lay it under the chart' }).click();
  await expect(told(page)).toContainText('Chart one row');
  const id = openId(page);

  await write(page, 1, 'k1, p2, k4, p5, 2/2 LC, p5, k4, p2, k1');
  await write(page, 2, 'p1, k2, p4, k5, p4, k5, p4, k2, p1');
  await keys(page, 'PageDown', 'PageDown', 'Alt+y');
  await expect(told(page)).toContainText('1 of 16 rows done');
  await keys(page, 'ArrowUp', 'Alt+y', 'ArrowUp');
  // Of a crossing only the mirror image was shown: it is guessed, and said not to be sure. Nothing of it is in the design.
  await expect(told(page)).toContainText('not sure');
  expect((await stored(page, id)).charts[0]!.rows[2]!.every((stitch) => stitch === 'k')).toBe(true);
  await write(page, 3, 'k1, p2, 2/2 RC, p4, 2/1 RPC, 2/1 LPC, p4, 2/2 RC, p2, k1');
  await keys(page, 'Alt+y');
  await expect(told(page)).toContainText('3 of 16 rows done');
  for (let row = 4; row <= 16; row++) {
    await keys(page, 'PageDown', 'PageDown', ...Array<string>(row - 1).fill('ArrowUp'));
    await expect(told(page)).toContainText(new RegExp(`Row ${row}: \\d+ stitches guessed\\.`));
    await keys(page, 'Alt+t');
    await expect(told(page)).toContainText(`${row} of 16 rows done`);
  }
  await saved(page);
  expect((await stored(page, id)).charts[0]!.rows).toEqual(design.charts[0]!.rows);

  // One undo takes one row back, and it is to be done again.
  await keys(page, 'Control+z');
  await expect(told(page)).toContainText('15 of 16 rows done');
  await keys(page, 'Control+y');
  await expect(told(page)).toContainText('16 of 16 rows done');

  await saved(page);

  // The picture lies there again after a reload, until it is put away.
  await page.reload();
  await expect(told(page)).toContainText('16 of 16 rows done');
  expect(await barriers(page)).toEqual([]);
  await page.getByRole('button', { name: 'Put the picture away' }).click();
  await expect(told(page)).toHaveCount(0);
  await page.reload();
  await expect(chart(page)).toBeVisible();
  await expect(told(page)).toHaveCount(0);
});

test('a page of a PDF is laid with its corners moved by keys; another place of the chart, and without growing it', async ({
  page,
}) => {
  const design = await openCopy(page, 'Cornice vest');
  const pdf = await page.request.post('/api/pdf', { data: { document: design } });
  await openTracing(page);
  await chooser(page).setInputFiles({
    name: 'sheet.pdf',
    mimeType: 'application/pdf',
    buffer: await pdf.body(),
  });
  await expect(dialog(page)).toContainText('sheet.pdf, page 1');
  for (let n = 2; n <= 4; n++) {
    await page.getByRole('button', { name: 'One more page' }).click();
    await expect(dialog(page)).toContainText(`sheet.pdf, page ${n}`);
  }
  await expect(page.getByLabel('Columns', { exact: true })).toHaveValue('28');

  // Moved by a key, and laid on the lines again.
  const corner = page.locator('[data-corner="0"]');
  const before = await corner.getAttribute('aria-label');
  await corner.focus();
  for (let i = 0; i < 2; i++) await page.keyboard.press('ArrowRight');
  await expect(corner).not.toHaveAttribute('aria-label', before!);
  await page.getByRole('button', { name: 'Lay on the lines' }).click();
  await page.getByRole('button', { name: 'Count the lines' }).click();
  await expect(page.getByLabel('Rows', { exact: true })).toHaveValue('16');

  await dialog(page).getByRole('spinbutton', { name: 'row', exact: true }).fill('3');
  await dialog(page)
    .getByLabel(/Make the chart 28 × 18/)
    .uncheck();
  await page.getByRole('button', { name: 'Lay it under the chart' }).click();
  await expect(told(page)).toContainText('The picture does not reach this row.');
  await keys(page, 'ArrowUp', 'ArrowUp');
  await expect(told(page)).not.toContainText('does not reach');
  await expect(cursor(page)).toContainText('Row 3');
  expect((await stored(page, design.id)).charts[0]!.rows).toHaveLength(16);
});

/** A PNG whose head says that it is so large; what it holds is nothing. */
function hugePng(side: number): Buffer {
  const head = Buffer.alloc(13);
  head.writeUInt32BE(side, 0);
  head.writeUInt32BE(side, 4);
  head.set([8, 0, 0, 0, 0], 8);
  const chunk = (type: string, data: Buffer) => {
    const length = Buffer.alloc(4);
    length.writeUInt32BE(data.length);
    return Buffer.concat([length, Buffer.from(type), data, Buffer.alloc(4)]);
  };
  const signature = Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]);
  const body = chunk('IDAT', deflateSync(Buffer.alloc(100)));
  return Buffer.concat([signature, chunk('IHDR', head), body, chunk('IEND', Buffer.alloc(0))]);
}

test('what is no picture, or too large a one, is said in a sentence; the chart stays', async ({ page }) => {
  await openCopy(page, 'Cornice vest');
  await expect(chart(page)).toBeVisible();
  await openTracing(page);
  const alert = dialog(page).getByRole('alert');
  const files: [string, string, Buffer, string][] = [
    ['words.png', 'image/png', Buffer.from('k2, p2'), 'no picture'],
    ['bomb.png', 'image/png', hugePng(60_000), '60000 × 60000 pixels; at most 64 million'],
    ['half.png', 'image/png', hugePng(300), 'no picture'],
    ['spoiled.pdf', 'application/pdf', Buffer.from('%PDF-1.7 and nothing'), 'cannot be opened'],
    [
      'script.svg',
      'image/svg+xml',
      Buffer.from(
        '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><script>top.hit=1</script></svg>',
      ),
      'no picture',
    ],
  ];
  for (const [name, mimeType, buffer, says] of files) {
    await chooser(page).setInputFiles({ name, mimeType, buffer });
    await expect(alert, name).toContainText(says);
    await expect(page.getByRole('button', { name: 'Lay it under the chart' }), name).toBeDisabled();
  }
  await page.keyboard.press('Escape');
  await expect(dialog(page)).toHaveCount(0);
  await expect(chart(page)).toBeFocused();
});

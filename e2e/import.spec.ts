import { expect, test } from '@playwright/test';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { barriers, paste, wordsOf } from './helpers.js';

test('a sentence is left aside where she says that it says nothing of the rows, and the design keeps that', async ({
  page,
}) => {
  await page.goto('/import');
  await paste(
    page,
    'Moor scarf\n\nWork the edge as you like it.\nCast on 8 sts.\nRow 1: p2, C4F, p2.\nRow 2: k2, p4, k2.',
  );
  await expect(page.getByTestId('read-as')).toHaveText('1 thing does not add up.');
  await page.getByRole('button', { name: 'This says nothing of the rows' }).click();
  await expect(page.getByTestId('read-as')).toContainText('Read whole. Flat: 2 rows on 8 stitches');
  // It is kept while the room is left, and can be taken back.
  await page.reload();
  await expect(page.getByTestId('read-as')).toContainText('Read whole');
  await page.getByText('2 pieces of the text left aside').click();
  await expect(page.getByText('you said that it says nothing of the rows')).toBeVisible();
  await page.getByRole('button', { name: 'Read it after all' }).click();
  await expect(page.getByTestId('read-as')).toHaveText('1 thing does not add up.');
  await page.getByRole('button', { name: 'This says nothing of the rows' }).click();
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await expect(wordsOf(page, 1)).toContainText('p2, 2/2 LC, p2');
  const id = /designs\/([^/?]+)/.exec(page.url())![1]!;
  await expect(async () => {
    const answer = await page.request.get(`/api/designs/${id}`);
    expect(JSON.stringify(await answer.json())).toContain('"asides":["work the edge as you like it."]');
  }).toPass();
});

test('a text for several sizes is read for the one that is chosen', async ({ page }) => {
  await page.goto('/import');
  await paste(page, 'Cast on 8 (14, 20) sts.\nRow 1: *p2, k4; rep from * to last 2 sts, p2.');
  await expect(page.getByTestId('read-as')).toContainText('1 row on 8 stitches');
  await page.getByLabel('Size').selectOption('3: on 20 sts');
  await expect(page.getByTestId('read-as')).toContainText('1 row on 20 stitches');
});

test('a folder of patterns is read together, asks each name once, and is laid on the bench', async ({
  page,
}, info) => {
  const folder = join(info.outputDir, 'ropes');
  mkdirSync(folder, { recursive: true });
  const put = (name: string, text: string | Buffer) => writeFileSync(join(folder, name), text);
  put('1 rope.txt', 'A rope for folders\n\nCast on 8 sts.\nRow 1: p2, C4F, p2.\nRow 2: k2, p4, k2.');
  put('2 rope.txt', 'Wide rope of a folder\n\nCast on 9 sts.\nRow 1: p2, C5F, p2.');
  put('3 rope.txt', 'Other rope of a folder\n\nCast on 9 sts.\nRow 1: p2, C5F, p2.');
  put('4 fault.txt', '=Fault\n\nCast on 8 sts.\nRow 1: k9.');
  put('5 picture.png', Buffer.from([0x89, 0x50, 0, 0]));
  await page.goto('/import');
  await page.getByRole('button', { name: 'A folder of patterns' }).click();
  await page.getByLabel('A folder of patterns', { exact: true }).setInputFiles(folder);
  await expect(page.getByRole('status')).toHaveText('4 texts read');
  await expect(page.getByRole('button', { name: '1 read', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: '2 asked', exact: true })).toBeVisible();
  await expect(page.getByRole('button', { name: '1 refused', exact: true })).toBeVisible();
  await page.getByText('1 file is not read').click();
  await expect(page.getByText('5 picture.png: it is no text file.')).toBeVisible();
  expect(await barriers(page)).toEqual([]);

  // Answered for one text, it is offered to the other.
  await page.getByRole('button', { name: 'Open 2 rope.txt' }).click();
  await page.getByRole('radio', { name: '3 over 2, left' }).click();
  await expect(page.getByTestId('read-as')).toContainText('Read whole');
  await page.getByRole('button', { name: 'It means the same there' }).click();
  await page.getByRole('button', { name: 'The folder' }).click();
  await expect(page.getByRole('button', { name: '3 read', exact: true })).toBeVisible();

  // A fault is mended where it is told.
  await page.getByRole('button', { name: 'Open 4 fault.txt' }).click();
  await paste(page, '=Fault\n\nCast on 8 sts.\nRow 1: k8.');
  await expect(page.getByTestId('read-as')).toContainText('Read whole');
  await page.getByRole('button', { name: 'The folder' }).click();
  await expect(page.getByRole('button', { name: '4 read', exact: true })).toBeVisible();

  const [table] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'The table' }).click(),
  ]);
  const lines = readFileSync(await table.path(), 'utf8').split(/\r?\n/);
  expect(lines[0]).toBe('File,Title,Outcome,Patterns,Rows,Cast on,Repeat,Asked,Told,More told,Left aside');
  expect(lines[1]).toBe('1 rope.txt,A rope for folders,read,1,2,8,,,,0,1');
  // What begins like a formula is none in a spreadsheet.
  expect(lines[4]).toContain("'=Fault");

  await page.getByRole('button', { name: 'Lay the 4 that are read on the bench' }).click();
  await expect(page.getByRole('button', { name: 'On the bench', exact: true })).toHaveCount(4);
  // Another room and back: the folder is as it was.
  await page.getByRole('button', { name: 'On the bench', exact: true }).nth(1).click();
  // The name that the text gives it is the design's own.
  await expect(wordsOf(page, 1)).toContainText('p2, C5F, p2');
  await page.goBack();
  await expect(page.getByRole('button', { name: 'On the bench', exact: true })).toHaveCount(4);
});

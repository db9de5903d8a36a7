import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { barriers, openCopy } from './helpers.js';

test('an operator’s list is run on the simulated beds, step by step and to its end', async ({ page }) => {
  await openCopy(page, 'Switchback legwarmers', '/machine');
  await expect(page.getByText('Two beds cannot knit this chart as it stands')).toBeVisible();
  await expect(page.getByText('worked in the round; two beds knit flat')).toBeVisible();

  await page.getByLabel('Chart', { exact: true }).selectOption('panel');
  const list = page.getByTestId('operators-list');
  await expect(list).toContainText('5 times: rows 1–22');
  await expect(list).toContainText('L2 L1 × R1 R2');
  await expect(page.getByText('the list makes the chart’s cloth')).toBeVisible();
  const count = page.getByTestId('machine-count');
  const step = page.getByRole('button', { name: 'Step' });
  for (let i = 0; i < 4; i++) await step.click();
  await expect(count).toContainText('3 of 110');
  await expect(page.getByRole('img', { name: 'The cloth after 3 rows' })).toBeVisible();
  await page.getByLabel('Count 2, cable: done').check();
  expect(await barriers(page)).toEqual([]);

  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByRole('button', { name: 'Stop' }).click();
  await page.getByRole('button', { name: 'To the end' }).click();
  await expect(count).toContainText('110 of 110');
  await expect(page.getByTestId('machine-told')).toContainText('All rows are knit.');
  await page.getByLabel('Ropes').selectOption('embossed');
  await expect(list).toContainText('on every needle');
  await expect(count).toContainText('0 of 110');

  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV' }).click();
  const file = readFileSync(await (await waiting).path(), 'utf8');
  expect(file.split(/\r?\n/)[2]).toBe('2,cable,L2 L1 R1 R2,R1 R2 L2 L1,L2 L1,,two double,');
});

test('a list by hand is run too, and says the first row in which it makes another cloth', async ({
  page,
}) => {
  await openCopy(page, 'Switchback legwarmers', '/machine');
  await page.getByLabel('Chart', { exact: true }).selectOption('panel');
  await expect(page.getByTestId('operators-list')).toBeVisible();
  await page.getByRole('tab', { name: 'A list by hand' }).click();
  const text = page.getByLabel('Needles in work, a line for each action');
  const own = await text.inputValue();
  await text.fill(own.replace('L1 R1 out', 'L1 out'));
  await page.getByRole('button', { name: 'To the end' }).click();
  await expect(page.getByTestId('machine-told')).toContainText(
    'At count 4 needle R1 was in work without a stitch',
  );
  await text.fill(`${own}\nturn the handle`);
  await expect(page.getByRole('status').filter({ hasText: 'turn the handle' })).toContainText(
    'is not understood',
  );
  await page.getByRole('button', { name: 'As the chart’s' }).click();
  await page.getByRole('button', { name: 'To the end' }).click();
  await expect(page.getByTestId('machine-told')).toContainText('The list makes the chart’s cloth.');
});

test('a chart that two beds cannot knit is stretched until they can, in one undo', async ({ page }) => {
  await openCopy(page, 'Switchback legwarmers', '/machine');
  await page.getByRole('button', { name: 'Make a flat copy of the chart' }).click();
  await expect(page.getByLabel('Chart', { exact: true })).toContainText('Legs, flat');
  await page.getByLabel('Act every').fill('3');
  await page.getByLabel('Act every').press('Enter');
  await expect(page.getByText('stretch the chart so that crossings stand 3 apart').first()).toBeVisible();
  await page.getByRole('button', { name: 'Stretch to every third row' }).click();
  await expect(page.getByText('the list makes the chart’s cloth')).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByText('Two beds cannot knit this chart as it stands')).toBeVisible();
});

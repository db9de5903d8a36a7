import { expect, test } from '@playwright/test';
import { barriers, cursor, keys, layOutDesign, openCopy, wordsOf } from './helpers.js';

test('both sides of a cloth count: either is looked at and worked on, and the words name them', async ({
  page,
}) => {
  await openCopy(page, 'Lantern headband');
  const other = page.getByTestId('other-side');
  await expect(other).toContainText('Side 2');
  await expect(wordsOf(page, 1)).toContainText('side 1');
  await expect(cursor(page)).toHaveText('Row 1, side 1, column 1: knit');

  // Turned over, the cursor stays on its stitch, which shows its other face from its other end.
  await keys(page, 'j');
  await expect(other).toContainText('Side 1');
  await expect(cursor(page)).toHaveText('Row 1, side 1, column 42: purl');

  // What is set on side 2 is in the one cloth: its words say it, and one undo takes it back.
  await keys(page, '!', 'k', 'Enter');
  await expect(wordsOf(page, 1)).toContainText('p1, k3');
  await keys(page, 'j', 'PageDown', 'Home');
  await expect(cursor(page)).toHaveText('Row 1, side 1, column 1: purl');
  await keys(page, 'Control+z');
  await expect(cursor(page)).toHaveText('Row 1, side 1, column 1: knit');
  await expect(wordsOf(page, 1)).toContainText('k4, p1');

  // A click on the other side turns the cloth over, and the cursor is there.
  await other.getByRole('img').click({ position: { x: 3, y: 3 } });
  await expect(cursor(page)).toHaveText('Row 24, side 2, column 42: knit');
  expect(await barriers(page)).toEqual([]);

  await page.getByRole('link', { name: 'Words' }).click();
  const sheet = page.getByTestId('sheet');
  await expect(sheet).toContainText('Worked flat, both sides count.');
  await expect(sheet.getByText('Side 2', { exact: true })).toBeVisible();
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
});

test('a rope is ribbed in one stroke, and an odd one is told of once both sides count', async ({ page }) => {
  await layOutDesign(page, 'Ribbed', 14, 4);
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Repeat and construction' }).click();
  await page.getByLabel('Both sides count').check();
  await expect(page.getByLabel('Row 1 is')).toContainText('of side 1');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(page.getByTestId('other-side')).toBeVisible();

  await keys(page, 'PageDown', 'Home', ...'3.'.split(''), ...'3/3lc'.split(''), 'Enter');
  await page.getByTitle(/pen the findings/).click();
  await expect(page.locator('[data-finding="odd-group"]')).toContainText('a group of 3');
  // From the other side it leads to the same stitch, which is counted from there.
  await keys(page, 'j');
  await page.locator('[data-finding="odd-group"] [data-place]').click();
  await expect(cursor(page)).toContainText('Row 1, side 1, column 11: ');
  await keys(page, 'j');
  await keys(page, 'Control+z', 'PageDown', 'Home', ...'3.'.split(''), ...'4/4lc'.split(''), 'Enter');
  await keys(
    page,
    'PageDown',
    'Home',
    'ArrowLeft',
    'ArrowLeft',
    'ArrowLeft',
    ...Array<string>(7).fill('Shift+ArrowLeft'),
  );
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Rib the selection' }).click();
  await expect(wordsOf(page, 1)).toContainText('4/4 LC in rib');
});

test('two yarns at once: rows are told and written in pairs, and what cannot be worked so is said before it is set', async ({
  page,
}) => {
  await openCopy(page, 'Ridge scarf');
  await expect(wordsOf(page, 1)).toContainText('[[k1 A, p1 B] twice, [k1 B, p1 A] twice] twice');
  await wordsOf(page, 1).getByRole('button').dblclick();
  await page.getByLabel('Words of the row').fill('[k1 B, p1 A] 6 times, [k1 A, p1 B] twice');
  await page.keyboard.press('Enter');
  await expect(wordsOf(page, 1)).toContainText('[k1 B, p1 A] 6 times, [k1 A, p1 B] twice');
  await expect(cursor(page)).toHaveText('Row 1, side 1, column 1: a pair that shows B');
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByTestId('sheet')).toContainText('Cast on 16 sts (8 pairs), A and B in turn.');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  await expect(page.getByTestId('sheet')).toContainText('2/2 LPC');
  await page.getByLabel('Numbers in names of crossings').selectOption('loops');
  await expect(page.getByTestId('sheet')).toContainText('4/4 LPC');
  await expect(page.getByTestId('sheet')).toContainText('names of crossings count loops, two for each pair');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();

  await openCopy(page, 'Two Springs bottle cover');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Repeat and construction' }).click();
  await page.getByLabel('Worked', { exact: true }).selectOption('double');
  const lost = page.getByRole('region', { name: 'Not carried over' });
  await expect(lost).toContainText(
    'Stitches worked as knit 2 together stay in the chart as errors, to be mended: row 21.',
  );
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByRole('button', { name: /^flat/ })).toBeVisible();
});

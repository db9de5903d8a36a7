import { expect, test } from '@playwright/test';
import { barriers, cursor, keys, openCopy } from './helpers.js';

test('a band is put in between rounds, set in place, mended and taken out', async ({ page }) => {
  await openCopy(page, 'Scree mittens');
  await keys(page, 'PageDown', 'Home', 'ArrowUp');
  await expect(cursor(page)).toContainText('Row 2');
  await keys(page, 'q');
  const editor = page.getByRole('dialog', { name: 'Band before round 2' });
  await expect(editor).toBeVisible();
  const line = page.locator('[data-band="2"]');
  await expect(line).toContainText('3 rounds of braid steps, crossing every 5');
  expect(await barriers(page)).toEqual([]);

  // 42 stitches and the one cast on divide by nothing: it is said, with what would; one round alone needs none.
  await expect(line).toContainText('does not come out');
  await expect(editor).toContainText('none of 2 to 12 divides 43');
  await editor.getByRole('button', { name: 'One fewer round' }).click();
  await editor.getByRole('button', { name: 'One fewer round' }).click();
  await expect(line).toContainText('one round of braid steps');
  await expect(line).toContainText('42 → 43 → 42');
  await expect(line).toContainText('✓');
  await editor.getByRole('button', { name: 'Up' }).click();
  await expect(page.locator('[data-band="3"]')).toBeVisible();
  await page.getByRole('button', { name: 'Down' }).click();
  await expect(line).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('chart')).toBeFocused();
  await page.getByRole('link', { name: 'Words' }).click();
  const sheet = page.getByTestId('sheet');
  await expect(sheet).toContainText('knit on 1 st, braid step to end');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();

  await page.getByRole('link', { name: 'Bench' }).click();
  await keys(page, 'Control+z', 'Control+z', 'Control+z', 'Control+z');
  await expect(line).toContainText('does not come out');
  await page.getByTitle(/pen the findings/).click();
  const finding = page.locator('[data-finding="band-divides"]');
  await expect(finding).toContainText('crosses every 5 stitches');
  await line.getByRole('button').click();
  await page.getByRole('button', { name: 'Take out' }).click();
  await expect(page.locator('[data-band]')).toHaveCount(0);
  await expect(finding).toHaveCount(0);
});

test('hem, bands and casing are set out in a tube and told on its sheet', async ({ page }) => {
  await openCopy(page, 'Snowline cowl', '/setting-out');
  const above = page.getByRole('group', { name: 'Border above' });
  await expect(above.getByLabel('A band between it and the panels')).toBeChecked();
  await page.getByRole('link', { name: 'Words' }).click();
  const sheet = page.getByTestId('sheet');
  await expect(sheet).toContainText('Cast them on provisionally');
  await expect(sheet).toContainText('over 144 sts, a multiple of 5 less 1');
  await expect(sheet).toContainText('Cord of 4 stitches, 87.6 cm long');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();

  // Another number of repeats does not divide: the piece says so, and what would do.
  await page.getByRole('link', { name: 'Setting out' }).click();
  await page.getByLabel('Plaits ×').first().fill('11');
  await page.getByLabel('Plaits ×').first().press('Enter');
  await expect(page.getByRole('main')).toContainText('The band above the border crosses every 5 stitches');
  await expect(page.locator('[data-proof="open"]').first()).toBeVisible();
});

import { expect, test } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { barriers, chart, newDesign } from './helpers.js';

test('a room that fails shows the ways out, and nothing that was done is lost', async ({ page }) => {
  await newDesign(page, 'Scree scarf', 12, 8);
  await chart(page).focus();
  await page.keyboard.press('k');
  await expect(page.getByRole('button', { name: /^Undo: / })).toBeEnabled();
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByRole('heading', { name: 'Scree scarf', exact: true })).toBeVisible();
  // From now on nothing can be drawn.
  await page.evaluate(() => {
    const of = HTMLCanvasElement.prototype as { getContext: unknown; was?: unknown };
    of.was = of.getContext;
    of.getContext = () => {
      throw new Error('nothing can be drawn');
    };
  });
  await page.getByRole('link', { name: 'Bench' }).click();
  const failed = page.getByRole('alert').filter({ hasText: 'This room has failed' });
  await expect(failed).toBeVisible();
  await expect(failed).toContainText('every change is kept');
  await barriers(page);
  const saving = page.waitForEvent('download');
  await failed.getByRole('button', { name: 'Save a copy' }).click();
  const copy = JSON.parse(readFileSync(await (await saving).path(), 'utf8')) as { title: string };
  expect(copy.title).toBe('Scree scarf');
  // The head of the page and the other rooms go on.
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByRole('heading', { name: 'Scree scarf', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Bench' }).click();
  await expect(failed).toBeVisible();
  await page.evaluate(() => {
    const of = HTMLCanvasElement.prototype as { getContext: unknown; was?: unknown };
    of.getContext = of.was;
  });
  await failed.getByRole('button', { name: /^Go back one change/ }).click();
  await expect(chart(page)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Do again: / })).toBeEnabled();
});

test('undo and redo stand in the head of every room of a design, and say what they take back', async ({
  page,
}) => {
  await newDesign(page, 'Cornice scarf', 12, 8);
  await chart(page).focus();
  await page.keyboard.press('k');
  const undo = page.getByRole('button', { name: /^Undo: / });
  const label = await undo.getAttribute('aria-label');
  for (const room of ['Cloth', 'Words', 'Setting out', 'Machine']) {
    await page.getByRole('link', { name: room }).click();
    await expect(undo).toHaveAttribute('aria-label', label!);
  }
  // By its key, in a room that has no chart.
  await page.getByRole('link', { name: 'Words' }).click();
  await page.locator('main, body').first().click();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: label!.replace('Undo', 'Do again') })).toBeEnabled();
  await page.keyboard.press('Control+Shift+z');
  await expect(undo).toHaveAttribute('aria-label', label!);
});

test('in every room what can be done is found by its name, and its keys are on one sheet', async ({
  page,
}) => {
  await newDesign(page, 'Found by name', 12, 8);
  const search = page.getByRole('dialog', { name: 'What is to be done?' });
  const sheet = page.getByRole('dialog', { name: 'Keys' });
  const find = async (words: string) => {
    await page.keyboard.press('Control+k');
    await expect(search.getByRole('combobox')).toBeFocused();
    await page.keyboard.type(words);
  };
  // On the chart, with the hands where they were before and after.
  await find('insert row');
  await expect(search.getByRole('option')).toHaveText(['Insert a row aboveAlt ↑']);
  expect(await barriers(page, '[role=dialog]')).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: / })).toBeEnabled();
  await expect(chart(page)).toBeFocused();
  await find('nothing of the kind');
  await expect(search).toContainText('Nothing here goes by that name.');
  await page.keyboard.press('Escape');
  // Another dialog is opened by one.
  await find('motif shelf');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog', { name: /Motif/ })).toBeVisible();
  await page.keyboard.press('Escape');
  for (const [room, command, key] of [
    ['go to cloth', 'Turn the cloth over', 'turn the cloth over'],
    ['go to words', 'Copy the sheet as Markdown', 'print the sheet'],
    ['go to setting out', 'Go to Cloth', 'this sheet'],
    ['go to the workroom', 'Bring designs in from files', 'new design'],
    ['go to the swatch book', 'New swatch', 'new swatch'],
    ['Read a pattern from its words', 'Read a folder of patterns', 'find a command'],
  ] as const) {
    await find(room);
    await page.keyboard.press('Enter');
    await expect(search).toBeHidden();
    await expect(page.getByRole('heading', { level: 1 }).or(page.locator('main')).first()).toBeVisible();
    // Its editor takes the hands when it comes.
    if (room.startsWith('Read'))
      await expect(page.getByRole('textbox', { name: 'Written rows' })).toBeFocused();
    await find(command);
    await expect(search.getByRole('option').first()).toContainText(command);
    await page.keyboard.press('Escape');
    await expect(search).toBeHidden();
    await page.locator('body').evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press('?');
    await expect(sheet).toContainText(key);
    await page.keyboard.press('Escape');
    await expect(sheet).toBeHidden();
  }
});

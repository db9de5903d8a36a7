import { expect, test } from '@playwright/test';
import { chart, cursor, keys, newDesign, saved, type, wordsOf } from './helpers.js';

/** Where the hands and the eyes are while someone works: words typed on the chart, room made for what is read. */

test('words of the trade are typed on the chart: nothing happens before they are read', async ({ page }) => {
  await newDesign(page, 'Typed words', 12, 4);
  const tag = page.getByTestId('typed');
  const plain = 'purl';
  await expect(wordsOf(page, 1)).toContainText(plain);

  // Each key by itself would set a stitch; begun words set nothing, and show at the cursor.
  await keys(page, 'k', '2', 't', 'o');
  await expect(tag).toContainText('k2to');
  await expect(wordsOf(page, 1)).toContainText(plain);
  await keys(page, 'g');
  await expect(tag).toHaveCount(0);
  await expect(wordsOf(page, 1)).toContainText('k2tog');
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 1)).toContainText(plain);

  // A ribbed crossing to its last letter, and a twist by its name; what is nothing says so and sets nothing.
  await keys(page, 'Home');
  await type(page, '2/2rc-kp/kp');
  await expect(cursor(page)).toContainText('column 5');
  await type(page, 'lt');
  await expect(wordsOf(page, 1)).toContainText('1/1 LC');
  await keys(page, 'Control+z', 'Control+z');
  await expect(wordsOf(page, 1)).toContainText(plain);
  await keys(page, 'Home', 'z', 'z');
  await expect(page.getByRole('status').filter({ hasText: 'nothing was set' })).toBeVisible();
  await expect(wordsOf(page, 1)).toContainText(plain);

  // Escape lets go of what is begun; one key by itself is taken after a pause, or with the next.
  await keys(page, '3', '/');
  await expect(tag).toContainText('3/');
  await keys(page, 'Escape');
  await expect(tag).toHaveCount(0);
  await keys(page, 'k', 'ArrowUp');
  await expect(wordsOf(page, 1)).toContainText('k1, p11');
  await saved(page);
});

test('the stitches fold, and the words of all rows are as wide as the longest', async ({ page }) => {
  await page.goto('/');
  await page.getByLabel('Seek a design').fill('Cornice vest');
  await page.getByRole('link', { name: 'Cornice vest', exact: true }).click();
  await expect(chart(page)).toBeVisible();
  const lines = page.locator('[data-row]');
  /** Whether the words of every row that shows are read to their end, in one line or in two. */
  const areWhole = () =>
    lines.evaluateAll((rows) =>
      rows.every((row) =>
        [...row.querySelectorAll('button > span')].every(
          (words) =>
            words.scrollWidth <= words.clientWidth + 1 && words.scrollHeight <= words.clientHeight + 3,
        ),
      ),
    );
  // Words come before stitches: where both have no room these fold to a strip of pictures by themselves.
  await expect(page.getByLabel('Crossing builder')).toBeHidden();
  await expect.poll(areWhole).toBe(true);
  const strip = page.getByRole('toolbar', { name: 'Stitches of this chart' });
  await strip.getByRole('button', { name: /2\/2 RC/ }).click();
  await expect(strip.getByRole('button', { name: /2\/2 RC/ })).toHaveAttribute('aria-pressed', 'true');
  await keys(page, 'Escape');

  await keys(page, 'b');
  await expect(page.getByLabel('Crossing builder')).toBeVisible();
  await expect.poll(areWhole).toBe(false);
  const narrow = (await chart(page).boundingBox())!;
  // The row in hand is read whole at the needle all the while.
  await expect(page.getByTestId('row-words')).toContainText('rep from * to last 8 sts, p1, k4, p2, k1');

  await keys(page, 'b', 'e');
  await expect.poll(areWhole).toBe(true);
  await expect(wordsOf(page, 7)).toContainText('rep from * to last 8 sts, p1, 2/2 RC, p2, k1');
  await keys(page, 'e', 'b');
  await expect
    .poll(async () => Math.round((await chart(page).boundingBox())!.width))
    .toBe(Math.round(narrow.width));
});

test('faces that stay do so in the design they were told to', async ({ page }) => {
  await newDesign(page, 'Faces stay', 8, 4);
  await keys(page, 'f');
  await expect(page.getByRole('status').filter({ hasText: 'no longer carry up' })).toBeVisible();
  await keys(page, 'Home');
  await type(page, '4k');
  await expect(wordsOf(page, 1)).toContainText('k4, p4');
  await expect(wordsOf(page, 3)).toContainText('purl');

  await newDesign(page, 'Faces carry', 8, 4);
  await type(page, '4k');
  await expect(wordsOf(page, 3)).toContainText('k4, p4');
});

test('a new design begins on the wrong side, on garter, or on rows of its own', async ({ page }) => {
  const begin = async (title: string, ground: string, own?: string) => {
    await page.goto('/');
    await page.getByRole('button', { name: 'New design' }).first().click();
    await page.getByLabel('Title').fill(title);
    await page.getByLabel('Columns (stitches)').fill('12');
    await page.getByRole('textbox', { name: 'Rows', exact: true }).fill('4');
    await page.getByLabel('Ground', { exact: true }).selectOption(ground);
    await page.getByLabel('Row 1 is worked on the').selectOption('WS');
    if (own !== undefined)
      await page
        .getByLabel(/[Rr]ows of|[Ii]ts rows|one on a line/)
        .last()
        .fill(own);
    await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  };
  await begin('Garter from behind', 'garter');
  await expect(wordsOf(page, 1)).toContainText('1 WSknit');
  await expect(wordsOf(page, 2)).toContainText('2 RSknit');

  await begin('Own ground', 'own', '*k5; rep from * to end');
  await expect(page.getByText(/even number of rows/)).toBeVisible();
  await page
    .getByLabel('Rows of the ground, one on a line, over and over')
    .fill('*k2, p1; rep from * to end\npurl');
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await expect(wordsOf(page, 1)).toContainText('1 WS[k2, p1] 4 times');
  await expect(wordsOf(page, 4)).toContainText('purl');
  await saved(page);
});

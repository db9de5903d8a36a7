import { expect, test, type Page } from '@playwright/test';
import {
  barriers,
  chart,
  cursor,
  keys,
  newDesign,
  openCopy,
  saved,
  type,
  wordsOf,
  still,
} from './helpers.js';

const said = (page: Page) => page.getByTestId('said');
const errors = (page: Page) =>
  page.locator('[data-finding="count-law"], [data-finding="row-short"], [data-finding="row-long"]');

/** Seeks a stitch by its word and works it at the cursor. */
async function work(page: Page, word: string): Promise<void> {
  await keys(page, '/');
  await page.getByLabel('Seek a stitch by word or name').fill(word);
  await page.keyboard.press('Enter');
}

const closedRopes = async (page: Page) => {
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByRole('menuitem', { name: /closed ropes/ }).click();
};

test('a closed figure is drawn, converted to the other school, and undone to the start', async ({ page }) => {
  await newDesign(page, 'Ring', 14, 28);
  const plain = await wordsOf(page, 1).textContent();
  await keys(page, 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowUp', ...Array(6).fill('ArrowLeft'));
  await expect(cursor(page)).toContainText('Row 5, right side, column 7');
  await closedRopes(page);
  await page.getByRole('button', { name: 'Convert the figure here' }).click();
  await expect(page.getByRole('alert')).toContainText('No closed ropes were found here');
  await page.getByRole('button', { name: 'Draw it here' }).click();
  await expect(said(page)).toContainText('Drawn over 20 rows');
  await expect(wordsOf(page, 5)).toContainText('14 → 16');
  await expect(wordsOf(page, 7)).toContainText('16 → 18');
  await expect(wordsOf(page, 7)).toContainText('k1, LLI, RLI, k1');
  await expect(errors(page)).toHaveCount(0);
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();

  await keys(page, ...Array(8).fill('ArrowUp'));
  await closedRopes(page);
  await page.getByRole('button', { name: 'Convert the figure here' }).click();
  await expect(said(page)).toContainText('one stitch wider');
  await expect(wordsOf(page, 7)).toContainText('15 → 19');
  await expect(wordsOf(page, 9)).toContainText('2/1/2 LPC');
  await expect(errors(page)).toHaveCount(0);
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();

  await keys(page, 'Control+z');
  await expect(wordsOf(page, 7)).toContainText('16 → 18');
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 5)).toContainText('purl');
  expect(await wordsOf(page, 1).textContent()).toBe(plain);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await saved(page);
});

test('increases open the columns above, decreases close them, and the ledger shows the change', async ({
  page,
}) => {
  await newDesign(page, 'Counts', 8, 4);
  await keys(page, 'ArrowUp', 'ArrowUp', ...Array(3).fill('ArrowLeft'));
  await work(page, 'yo');
  await expect(wordsOf(page, 3)).toContainText('8 → 9');
  await expect(wordsOf(page, 4)).toContainText('9');
  await keys(page, 'Home');
  await work(page, 'k2tog');
  await expect(wordsOf(page, 3)).toContainText('k2tog, p1, yo, p5');
  await expect(errors(page)).toHaveCount(0);
  await keys(page, 'Control+z', 'Home', ...Array(3).fill('ArrowLeft'), 'Delete');
  await expect(wordsOf(page, 3)).toContainText('purl');
  await work(page, 'kyokyok');
  await expect(page.getByText('No stitch is called so.')).toBeVisible();
  await page.keyboard.press('Escape');
});

test('a crossing is built with a centre and faces, flipped, turned, slipped, named, coloured and replaced', async ({
  page,
}) => {
  await newDesign(page, 'Builder', 10, 6);
  for (const row of Array(6).fill('10k')) await type(page, row);
  const builder = page.getByLabel('Crossing builder');
  await builder.getByRole('button', { name: 'One more in centre' }).click();
  await builder.getByText('stitch by stitch').click();
  await builder.getByRole('button', { name: 'front stitch 1: k. Change it' }).click();
  await builder.getByRole('button', { name: 'front stitch 1: p. Change it' }).click();
  await expect(page.getByTestId('builder-name')).toHaveText('2/1/2 LC-bk/k/k');
  await page.getByTestId('builder-name').click();
  await expect(builder).toContainText('C5F-bk/k/k');
  await builder.getByRole('button', { name: 'front stitch 1: k tbl. Change it' }).click();
  await builder.getByRole('button', { name: 'front stitch 1: p tbl. Change it' }).click();
  await builder.getByRole('button', { name: 'One fewer in centre' }).click();
  await expect(page.getByTestId('builder-name')).toHaveText('2/2 LC');
  await builder.getByRole('button', { name: 'take' }).click();
  await keys(page, 'PageDown', 'Home', 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowLeft', 'Enter');
  await expect(wordsOf(page, 5)).toContainText('k1, 2/2 LC, k5');
  await keys(page, 'ArrowRight', 'l');
  await expect(wordsOf(page, 5)).toContainText('2/2 RC');
  await keys(page, 'o');
  await expect(wordsOf(page, 5)).toContainText('2/2 LC');
  await keys(page, 's', 's');
  await expect(wordsOf(page, 4)).toContainText('sl 2 wyif');
  await expect(wordsOf(page, 3)).toContainText('sl 2 wyib');

  // Its card: a name of its own, refused where it is a stitch's; a colour with its mark; another in its place.
  await page.getByRole('button', { name: 'More for 2/2 LC' }).click();
  await page.getByLabel('Your name for it').fill('k2tog');
  await page.keyboard.press('Enter');
  await expect(page.getByText('names both the stitch')).toBeVisible();
  await page.getByLabel('Your name for it').fill('Gate');
  await page.keyboard.press('Enter');
  await expect(wordsOf(page, 5)).toContainText('k1, Gate, k5');
  await page.getByRole('radio', { name: 'moss' }).click();
  await expect(page.getByRole('radio', { name: 'moss' })).toBeChecked();
  await page.getByLabel('Put in its place').selectOption({ label: '2/2 RC' });
  await page.getByRole('button', { name: 'Replace' }).click();
  await page.keyboard.press('Escape');
  await expect(wordsOf(page, 5)).toContainText('k1, 2/2 RC, k5');
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 5)).toContainText('Gate');
});

test("a stitch of the designer's own joins the others", async ({ page }) => {
  await newDesign(page, 'Own', 6, 3);
  await page.getByRole('button', { name: 'All stitches' }).click();
  await page.getByRole('button', { name: 'A stitch of your own' }).click();
  const dialog = page.getByRole('dialog', { name: 'A stitch of your own' });
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Name:');
  await dialog.getByLabel('Name').fill('pebble');
  await dialog.getByLabel('Word on the right side').fill('k2tog');
  await dialog.getByLabel('Makes (loops)').fill('2');
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await expect(dialog.getByRole('alert')).toContainText('already the word for knit 2 together');
  await dialog.getByLabel('Word on the right side').fill('peb');
  await dialog.getByLabel('How it is worked on the right side').fill('knit and purl into the stitch');
  await dialog.getByRole('button', { name: 'Add it' }).click();
  await keys(page, 'Enter');
  await expect(wordsOf(page, 1)).toContainText('peb, p5');
  await expect(wordsOf(page, 1)).toContainText('6 → 7');
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByTestId('key')).toContainText('knit and purl into the stitch');
  await expect(page.getByTestId('key')).toContainText('1 → 2');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
});

test('words for other hands and manners', async ({ page }) => {
  await openCopy(page, 'Switchback legwarmers', '/words');
  await page.getByLabel('Two-stitch twists', { exact: true }).selectOption('together');
  await expect(page.getByTestId('key')).toContainText('knit 2 together but leave them on the needle');
  await page.getByLabel('Also say how to cross without').check();
  await expect(page.getByTestId('key')).toContainText('enter stitch 3 purlwise from behind');
  await page.getByLabel('Knitter', { exact: true }).selectOption('left-same-fabric');
  // The same cloth: these hands would twist a stitch by that method, so the name says that none is.
  await expect(page.getByTestId('rows').first()).toContainText(
    '*p6, k2, p1, 1/1 RC-k/k, p1; rep from * to end',
  );
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  await page.getByLabel('Knitter', { exact: true }).selectOption('left-same-words');
  await expect(page.getByText('the cloth comes out as its mirror image').first()).toBeVisible();
  await page.getByLabel('Knitter', { exact: true }).selectOption('right');
  await saved(page);
});

test('plain cells change their school on the bench, and the change is undone like any other', async ({
  page,
}) => {
  await newDesign(page, 'Schools', 6, 2);
  await page.getByRole('button', { name: /^Knit empty, purl a dot/ }).click();
  await expect(page.getByRole('button', { name: /^Knit and purl as bars/ })).toBeVisible();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Knit and purl as bars/ })).toBeVisible();
  await page.getByRole('button', { name: /^Knit and purl as bars/ }).click();
  await keys(page, 'Control+z');
  await expect(page.getByRole('button', { name: /^Knit and purl as bars/ })).toBeVisible();
});

test('what opens over the bench can be used by everyone', async ({ page }) => {
  await page.goto('/');
  await page.getByLabel('Seek a design').fill('Two Springs');
  await page.getByRole('link', { name: 'Two Springs bottle cover', exact: true }).click();
  await expect(chart(page)).toBeVisible();
  await keys(page, 'b');
  for (const [what, open] of [
    ['all stitches', () => page.getByRole('button', { name: 'All stitches' }).click()],
    ['closed ropes', () => closedRopes(page)],
    ['the repeat', () => page.getByRole('button', { name: /set a repeat/ }).click()],
    ['the keys', () => page.getByRole('button', { name: 'Keys' }).click()],
    [
      'a stitch’s card',
      () =>
        page
          .getByRole('button', { name: /^More for/ })
          .first()
          .click(),
    ],
  ] as const) {
    await expect(chart(page)).toBeVisible();
    await open();
    await expect(page.getByRole('dialog')).toBeVisible();
    await still(page);
    expect(await barriers(page, '[role=dialog]'), what).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }
});

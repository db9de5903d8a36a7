import { expect, test, type Page } from '@playwright/test';
import {
  cellPoint,
  cellSize,
  chart,
  cursor,
  keys,
  newDesign,
  openCopy,
  saved,
  type,
  wordsOf,
} from './helpers.js';

const proved = (page: Page) => page.locator('[data-proof="proved"]').first();

/** Chooses a line of the menu that hangs from a button. */
async function choose(page: Page, button: RegExp | string, line: RegExp | string): Promise<void> {
  await page.getByRole('button', { name: button }).first().click();
  await page
    .getByRole('menuitem', { name: line })
    .or(page.getByRole('menuitemcheckbox', { name: line }))
    .click();
}

/** Sets the repeat by typing it. */
async function repeat(page: Page, written: string): Promise<void> {
  await keys(page, 'r');
  await page.getByLabel('As it is written').fill(written);
  await page.getByRole('button', { name: 'Set', exact: true }).click();
}

test('a woven lattice: charted by what changes, its shifted row mended, proved, and seen at its whole width', async ({
  page,
}) => {
  await newDesign(page, 'Lattice', 14, 8);
  // The keys are the chart's from the first moment, without a click.
  await expect(chart(page)).toBeFocused();
  for (const entry of ['14k', '.', '3/3lc']) await page.keyboard.type(entry);
  // Enter takes what is typed, and then sets it again.
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  for (const entry of ['.', '14.', '4.', '3/3rc']) await page.keyboard.type(entry);
  await expect(wordsOf(page, 8)).toContainText('purl');
  await expect(wordsOf(page, 7)).toContainText('k4, 3/3 RC, k4');
  await keys(page, 'Escape');
  await repeat(page, '9 + 2');
  await expect(page.getByRole('alert')).toHaveText(
    'A repeat of 9 columns and 2 beside it makes charts of 11, 20, 29 … columns; this one has 14.',
  );
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(chart(page)).toBeFocused();
  await repeat(page, '6 + 2 × 4');
  await page.getByTitle('Open the findings').click();
  await page.getByRole('button', { name: 'Begin the repeat of row 7 3 stitches later' }).click();
  await expect(page.locator('[data-finding]')).toHaveCount(0);
  await expect(wordsOf(page, 3)).toContainText('k1, *3/3 LC; rep from * to last st, k1');
  await expect(wordsOf(page, 7)).toContainText('k4, *3/3 RC; rep from * to last 4 sts, k4');
  await expect(proved(page)).toBeVisible();

  // The row's lines step by keys; one step further there is no room.
  await keys(page, 'PageDown', ...Array<string>(6).fill('ArrowUp'), '[', '[', '[', '[', '[');
  await expect(page.getByTestId('said')).toContainText('cannot begin its repeat');
  await keys(page, 'Control+z');
  await expect(page.getByTestId('said')).toContainText('Undone: begin a row later');

  // The whole width, and an edit in one of its copies.
  await keys(page, 'n');
  await expect(page.getByRole('button', { name: 'Show the whole width' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  const [pane, row] = [(await chart(page).boundingBox())!, (await wordsOf(page, 1).boundingBox())!];
  // The 13th of 26 drawn columns is the last of the second repeat.
  await page.mouse.click(pane.x + pane.width / 2 + row.height / 2, row.y + row.height / 2);
  await expect(cursor(page)).toContainText('Row 1, right side, column 7');
  await keys(page, 'n');
  await saved(page);
});

test('lines of the repeat are dragged, a row is shifted with Alt, and a menu opens at the place', async ({
  page,
}) => {
  await newDesign(page, 'Lines', 10, 6);
  await keys(page, 'Escape');
  await repeat(page, '8 + 2');
  await expect(page.getByRole('button', { name: /8 \+ 2 columns/ })).toBeVisible();
  const cell = await cellSize(page);
  const box = (await chart(page).boundingBox())!;
  /** Drags what stands left of a column; the chart of ten lies in the middle of its pane. */
  const drag = async (row: number, column: number, by: number) => {
    const { y } = await cellPoint(page, row, column);
    const x = box.x + box.width / 2 + (5 - column) * cell;
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x - by * cell, y, { steps: 4 });
    await page.mouse.up();
  };
  // The right line, one column further to the left.
  await drag(4, 1, 1);
  await expect(page.getByRole('button', { name: /7 \+ 3 columns/ })).toBeVisible();
  await keys(page, 'Control+z');
  await page.keyboard.down('Alt');
  await drag(3, 1, 1);
  await page.keyboard.up('Alt');
  await expect(page.getByRole('button', { name: /rows shifted/ })).toBeVisible();

  // The line below the rows that repeat, two rows further up.
  await keys(page, 'Escape', 'Control+a', 'Alt+r');
  await expect(page.getByRole('button', { name: /rows 1–6/ })).toBeVisible();
  const lowest = (await wordsOf(page, 1).boundingBox())!;
  const middle = box.x + box.width / 2 + cell / 2;
  await page.mouse.move(middle, lowest.y + cell);
  await page.mouse.down();
  await page.mouse.move(middle, lowest.y - cell, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /rows 3–6/ })).toBeVisible();

  const place = await cellPoint(page, 5, 4);
  await page.mouse.click(place.x, place.y, { button: 'right' });
  await page.getByRole('menuitem', { name: /Insert a row above/ }).click();
  await expect(page.locator('[data-row]')).toHaveCount(7);
  await expect(chart(page)).toBeFocused();
});

test('a rope is drawn with the hand, and one undo takes it back', async ({ page }) => {
  await newDesign(page, 'By hand', 14, 9);
  const [from, to] = [await cellPoint(page, 1, 3), await cellPoint(page, 8, 9)];
  await keys(page, 'w');
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 14 });
  await page.mouse.up();
  await expect(wordsOf(page, 1)).toContainText('p2, k2, p10');
  await expect(wordsOf(page, 3)).toContainText(/2\/[12] LPC/);
  await expect(wordsOf(page, 7)).toContainText(/2\/[12] LPC/);
  await expect(proved(page)).toBeVisible();
  await keys(page, 'Escape', 'Control+z');
  await expect(wordsOf(page, 1)).toContainText('purl');
  await expect(wordsOf(page, 7)).toContainText('purl');
});

test('what is set on one side is set on the other, unless it is set alone', async ({ page }) => {
  await newDesign(page, 'Mirror', 12, 5);
  await keys(page, 'a');
  await type(page, '2.');
  await type(page, '2k');
  await expect(wordsOf(page, 5)).toContainText('p2, k2, p4, k2, p2');
  await keys(page, 'PageDown', 'ArrowUp', 'ArrowUp', 'Home', '2', 'ArrowLeft');
  await type(page, '2/1lpc');
  await expect(wordsOf(page, 3)).toContainText('p2, 2/1 LPC, p2, 2/1 RPC, p2');
  // Alone: neither mirrored nor followed.
  await keys(page, 'PageDown', 'Home');
  await type(page, '!k');
  await expect(wordsOf(page, 1)).toContainText('k1, p1, k2, p4, k2, p2');
  await expect(wordsOf(page, 2)).toContainText('k2, p2, k4, p2, k2');
  // The switch does the same for everything.
  await keys(page, 'f', 'a');
  await expect(page.getByRole('button', { name: 'Faces carry up' })).toHaveAttribute('aria-pressed', 'false');
  await type(page, 'k');
  await expect(wordsOf(page, 2)).toContainText('k2, p2, k4, p2, k2');
  await keys(page, 'f');
});

test('turned half round, a crossing stands at the other end of the chart and leans as it did', async ({
  page,
}) => {
  await newDesign(page, 'Half turn', 8, 5);
  await choose(page, 'Mirror as you go', 'Half turn about the middle of the chart');
  // The keys come back to the chart when the menu is gone.
  await expect(chart(page)).toBeFocused();
  await type(page, '2/1lpc');
  await expect(wordsOf(page, 1)).toContainText('2/1 LPC, p5');
  await expect(wordsOf(page, 5)).toContainText(/^5 RS.*2\/1 LPC\d/);
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 5)).toContainText('purl');
});

test('in the round a twist crosses the place where the round begins, and the words move its marker', async ({
  page,
}) => {
  await newDesign(page, 'Weave', 2, 4);
  await page.getByRole('button', { name: /set a repeat/ }).click();
  await page.getByLabel('Worked', { exact: true }).selectOption('round');
  await page.getByLabel('As it is written').fill('2 × 6');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await type(page, '2k');
  await type(page, '1/1lc');
  await expect(wordsOf(page, 2)).toContainText('*1/1 LC; rep from * to end');
  await keys(page, '[');
  await type(page, '1/1rc');
  await expect(wordsOf(page, 3)).toContainText('move the marker on 1 st, *1/1 RC; rep from * to end');
  await expect(wordsOf(page, 4)).toContainText('move the marker back 1 st');
  await expect(proved(page)).toBeVisible();
});

test('a design holds several charts: made, named, filled from each other, printed in order, taken out and back', async ({
  page,
}) => {
  await newDesign(page, 'Kit', 8, 4);
  await type(page, '2.');
  await type(page, '4k');
  await keys(page, 'Control+a', 'Control+c');
  await choose(page, /^Chart A/, 'New chart');
  await expect(wordsOf(page, 1)).toContainText('purl');
  await keys(page, 'Control+v');
  await expect(wordsOf(page, 1)).toContainText('p2, k4, p2');
  await choose(page, /^Chart B/, 'Name …');
  await page.getByLabel('Name', { exact: true }).fill('Thumb');
  await page.keyboard.press('Enter');
  await choose(page, /^Thumb/, 'Move up in the order');
  await page.getByRole('link', { name: 'Words' }).click();
  const headings = page.getByTestId('sheet').getByRole('heading', { level: 2 });
  await expect(headings).toHaveText(['Thumb', 'Chart B', 'Thumb', 'Chart B', 'Key']);
  await expect(page.getByRole('main')).toContainText('proved against the charts');
  await page.getByRole('link', { name: 'Bench' }).click();
  await choose(page, /^Thumb/, 'Delete');
  await expect(page.getByRole('button', { name: /^Chart A/ })).toBeVisible();
  await keys(page, 'Control+z');
  await choose(page, /^Chart B/, 'Thumb');
  await expect(wordsOf(page, 1)).toContainText('p2, k4, p2');
  await saved(page);
});

test('the last row’s entry is set again in another row, and never mixed with what was set in another chart', async ({
  page,
}) => {
  await newDesign(page, 'Again', 8, 6);
  await type(page, '5k');
  await choose(page, /^Chart A/, 'New chart');
  await type(page, '1.');
  await type(page, '2/2lc');
  await keys(page, 'Enter', 'PageDown', 'ArrowUp', 'ArrowUp', 'Home', 'd');
  await expect(wordsOf(page, 3)).toContainText('p1, 2/2 LC, p3');
  // In flat work the cursor has gone past the wrong-side row.
  await keys(page, 'Alt+d');
  await expect(wordsOf(page, 5)).toContainText('p1, k2, 2/2 RC, p1');
});

test('fingers: two apart zoom, one with a stitch in hand draws', async ({ page }) => {
  await newDesign(page, 'Fingers', 12, 8);
  await keys(page, 'Escape', '-', '-', '-');
  const [one, two, row] = [await cellPoint(page, 4, 9), await cellPoint(page, 4, 5), await cellSize(page)];
  const touch = await page.context().newCDPSession(page);
  const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: { x: number; y: number }[]) =>
    touch.send('Input.dispatchTouchEvent', {
      type,
      touchPoints: points.map(({ x, y }, id) => ({ x, y, id })),
    });
  await send('touchStart', one);
  await send('touchStart', one, two);
  for (let by = 8; by <= 40; by += 8) await send('touchMove', one, { ...two, x: two.x + by });
  await send('touchEnd');
  const grown = await cellSize(page);
  expect(grown).toBeGreaterThan(row);

  const [from, to] = [await cellPoint(page, 6, 2), await cellPoint(page, 6, 7)];
  await keys(page, 'PageDown', 'Home', 'k', 'Home', 'g');
  await send('touchStart', from);
  for (let i = 1; i <= 10; i++)
    await send('touchMove', { x: from.x + ((to.x - from.x) * i) / 10, y: from.y });
  await send('touchEnd');
  await expect(wordsOf(page, 6)).toContainText('k5, p7');
});

for (const [screen, width, height] of [
  ['a tablet', 820, 1180],
  ['a phone', 390, 844],
] as const)
  test(`on ${screen} the chart keeps the screen, and the rest slides in over it`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openCopy(page, 'Bivouac bolster');
    const pane = (await chart(page).boundingBox())!;
    expect(pane.width).toBeGreaterThan(width - 4);
    await page.getByRole('button', { name: 'Words', exact: true }).click();
    await expect(wordsOf(page, 3)).toContainText('k1, *3/3 LC');
    await page.getByRole('button', { name: 'Close words' }).click();
    await page.getByRole('button', { name: 'Stitches', exact: true }).click();
    await expect(page.getByLabel('Crossing builder')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(page.getByLabel('Crossing builder')).toBeHidden();
    await page.getByRole('button', { name: 'Set purl', exact: true }).click();
    await expect(page.getByText(/Row 1 \(RS\)p1/)).toBeVisible();
    // Nothing scrolls sideways but the chart.
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    await keys(page, 'Control+z');
    await expect(page.getByText(/Row 1 \(RS\)p1/)).toHaveCount(0);
    await saved(page);
  });

import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import type { Design } from '@cordelina/core';
import { barriers, openCopy } from './helpers.js';

const PHONE = { width: 390, height: 844 };
const TABLET = { width: 820, height: 1180 };

const words = (page: Page) => page.getByTestId('words');
const lit = (page: Page) => words(page).locator('mark');
const head = (page: Page) => page.getByTestId('row-head');
const goOn = (page: Page) => page.getByTestId('go-on');

/** A copy of a design of the demo is cast on by someone; where she knits. */
async function castOn(page: Page, title: string, what: string, name: string): Promise<string> {
  await openCopy(page, title, '/needles');
  return castOnHere(page, what, name);
}

async function castOnHere(page: Page, what: string, name: string): Promise<string> {
  await page.getByLabel('What').selectOption({ label: what });
  await page.getByRole('textbox', { name: 'Called', exact: true }).fill(name);
  await page.getByLabel('Who knits').fill('Ina');
  await page.getByRole('button', { name: 'Cast on' }).click();
  await expect(words(page)).toBeVisible();
  return new URL(page.url()).pathname;
}

const saved = (page: Page) => expect(page.locator('[data-save="saved"]')).toBeVisible();
const noSideways = async (page: Page) =>
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);

for (const size of [PHONE, TABLET])
  test(`a row is gone through by thumb and by keys, its crossing told, at ${size.width}`, async ({
    page,
  }) => {
    await page.setViewportSize(size);
    await castOn(page, 'Cornice vest', 'the piece, S', 'Front');
    await expect(head(page)).toContainText('Border, Row 1');
    await expect(head(page)).toContainText('1 of');
    await noSideways(page);
    // By rows to the first row of the panels, then by groups to its first crossing.
    for (let row = 0; row < 16; row++) await page.keyboard.press('ArrowDown');
    await expect(head(page)).toContainText('Diamond row 1');
    await expect(page.getByTestId('counts')).toContainText('23 + 10 + 7 + 14 + 7 + 10 + 23 = 94 sts');
    await expect(lit(page)).toHaveText('k1');
    await goOn(page).click();
    await expect(lit(page)).toHaveText('p22');
    await page.keyboard.press('PageDown');
    await expect(lit(page)).toHaveText('pm');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press(' ');
    await expect(lit(page)).toHaveText('2/2 LC');
    const help = page.getByTestId('crossing-help');
    await expect(help).toContainText('sl 2 to cable needle, hold in front, k2, k2 from cable needle');
    await expect(help).toContainText('nearer to you');
    await help.getByRole('button', { name: 'Without a cable needle' }).click();
    await expect(help).toContainText('from behind');
    await page.keyboard.press('ArrowLeft');
    await expect(lit(page)).toHaveText('p2');
    expect(await barriers(page)).toEqual([]);
    await noSideways(page);
    // Dark, and larger: both stay readable.
    await page.getByRole('button', { name: 'More' }).click();
    await page.getByRole('menuitemcheckbox', { name: 'Dark' }).click();
    await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
    expect(await barriers(page)).toEqual([]);
  });

test('in the middle of a crossing a reload changes nothing', async ({ page }) => {
  await page.setViewportSize(PHONE);
  const at = await castOn(page, 'Cornice vest', 'the piece, S', 'Front');
  for (let row = 0; row < 16; row++) await page.keyboard.press('ArrowDown');
  for (let group = 0; group < 4; group++) await page.keyboard.press(' ');
  await expect(lit(page)).toHaveText('2/2 LC');
  await page.reload();
  await expect(lit(page)).toHaveText('2/2 LC');
  await saved(page);
  await page.goto(at);
  await expect(lit(page)).toHaveText('2/2 LC');
});

/** Another device: its own browser. */
async function device(context: BrowserContext, path: string): Promise<Page> {
  const page = await context.newPage();
  await page.setViewportSize(TABLET);
  await page.goto(path);
  await expect(words(page)).toBeVisible();
  return page;
}

test('of two devices the later hand is told to the other, who goes there or stays', async ({
  page,
  browser,
}) => {
  const at = await castOn(page, 'Cornice vest', 'the piece, S', 'Front');
  await page.keyboard.press('ArrowDown');
  await saved(page);
  const context = await browser.newContext({ serviceWorkers: 'block' });
  const tablet = await device(context, at);
  await tablet.evaluate(() => {
    const habits = JSON.parse(localStorage.getItem('cordelina-habits') ?? '{}') as object;
    localStorage.setItem('cordelina-habits', JSON.stringify({ ...habits, device: 'tablet#2' }));
  });
  await tablet.reload();
  await expect(head(tablet)).toContainText('2 of');
  for (let row = 0; row < 3; row++) await tablet.keyboard.press('ArrowDown');
  await expect(head(tablet)).toContainText('5 of');
  const told = page.getByRole('alert').filter({ hasText: 'Moved on to the border, row 5 on the tablet' });
  await expect(told).toBeVisible();
  // She stays where she is until she says otherwise.
  await expect(head(page)).toContainText('2 of');
  await told.getByRole('button', { name: 'Go there' }).click();
  await expect(head(page)).toContainText('5 of');
  await page.keyboard.press('ArrowUp');
  const toldThere = tablet.getByRole('alert').filter({ hasText: 'row 4' });
  await toldThere.getByRole('button', { name: 'Stay' }).click();
  await expect(head(tablet)).toContainText('5 of');
  await expect(page.getByRole('alert').filter({ hasText: 'row 5 on the tablet' })).toBeVisible();
  await context.close();
});

test('a design that changes is told to whoever knits it, and she chooses', async ({ page }) => {
  const design: Design = await openCopy(page, 'Two Springs bottle cover', '/needles');
  await castOnHere(page, (await page.getByLabel('What').locator('option').first().textContent())!, 'Cover');
  for (let row = 0; row < 3; row++) await page.keyboard.press('ArrowDown');
  await saved(page);
  const own = design.charts[0]!;
  const rows = own.rows.map((row, r) => (r === 1 ? row.map((s) => (s === 'p' ? 'ptbl' : s)) : row));
  const answer = await page.request.put(`/api/designs/${design.id}`, {
    data: { base: 1, document: { ...design, charts: [{ ...own, rows }, ...design.charts.slice(1)] } },
  });
  expect(answer.ok()).toBe(true);
  const told = page.getByTestId('changed');
  await expect(told).toContainText('row 2 (worked already)');
  await expect(told).toContainText('What is on your needles is of the pattern you began.');
  // The page is left in the same breath: what was chosen is kept all the same.
  const loaded = page.waitForEvent('load');
  await told.getByRole('button', { name: 'Stay with mine' }).evaluate((button: HTMLElement) => {
    button.click();
    setTimeout(() => location.reload());
  });
  await loaded;
  await expect(words(page)).toBeVisible();
  await expect(told).toBeHidden();
});

test('what she notices reaches the designer: at its row on the Bench, in a list, on the sheet', async ({
  page,
}) => {
  const design = await openCopy(page, 'Two Springs bottle cover', '/needles');
  await castOnHere(page, (await page.getByLabel('What').locator('option').first().textContent())!, 'Cover');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('n');
  const sheet = page.getByRole('dialog', { name: 'What do you notice?' });
  await sheet.getByRole('button', { name: 'Write it down' }).click();
  await expect(sheet.getByRole('alert')).toContainText('Write a line, count, or add a photo first.');
  await sheet.getByLabel('In a line').fill('One stitch is left over after the last p2.');
  await sheet.getByRole('checkbox').check();
  await sheet.getByLabel('On the needle there are').fill('many');
  await sheet.getByRole('button', { name: 'Write it down' }).click();
  await expect(sheet.getByRole('alert')).toContainText('A number such as 41.');
  await sheet.getByLabel('On the needle there are').fill('23');
  await sheet
    .getByLabel('Photo')
    .setInputFiles({ name: 'a.txt', mimeType: 'text/plain', buffer: Buffer.from('no photo') });
  await expect(sheet.getByRole('alert')).toContainText('no picture that the browser can open');
  await sheet.getByRole('button', { name: 'Write it down' }).click();
  await expect(sheet).toBeHidden();
  await page.goto(`/designs/${design.id}`);
  await page.getByTestId('row-note').first().click();
  const note = page.getByRole('listitem').filter({ hasText: 'One stitch is left over' });
  await expect(note).toContainText('on the needle were 23');
  await note.getByLabel('Answer').fill('Row 2: end with p3.');
  await note.getByRole('button', { name: 'Answer' }).click();
  await page.getByLabel('Show').selectOption('answered');
  await note.getByRole('checkbox').check();
  expect(await barriers(page)).toEqual([]);
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByTestId('sheet')).toContainText('Corrections');
  await expect(page.getByTestId('sheet')).toContainText('end with p3.');
  // The design's own undo knows nothing of it.
  await expect(page.getByRole('button', { name: /^Undo/ }).first()).toBeDisabled();
});

test('mistakes are mended: taken back in order, let down alone or wider, and a lost row is found', async ({
  page,
}) => {
  await castOn(page, 'Cornice vest', 'the piece, S', 'Front');
  for (let row = 0; row < 20; row++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('u');
  const mend = page.getByRole('dialog', { name: 'Mend a mistake' });
  await expect(mend.getByTestId('take-back')).toContainText('take back');
  await expect(mend.getByTestId('needle-then')).toContainText('wait, showing');
  await mend.getByLabel('How', { exact: true }).selectOption('drop');
  await mend.getByLabel('From stitch').fill('26');
  await mend.getByLabel('To stitch').fill('27');
  await mend.getByLabel('Rows deep').fill('4');
  await mend.getByLabel('Rows deep').press('Tab');
  await expect(mend.getByTestId('too-narrow')).toContainText('hang together');
  await mend.getByRole('button', { name: /Let stitches \d+ to \d+ down together/ }).click();
  await expect(mend.getByTestId('drop')).toContainText('loops are worked again');
  await mend.getByLabel('How', { exact: true }).selectOption('wrong');
  await expect(mend.getByTestId('wrong-below')).toContainText('Leave it');
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  const which = page.getByRole('dialog', { name: 'Which row am I on?' });
  const fit = which.getByTestId('rows-fit');
  await expect(fit).toContainText('rows fit');
  const before = Number((await fit.textContent())!.split(' ')[0]);
  await which.getByLabel('Counted').fill('1');
  await which.getByRole('button', { name: 'So many' }).click();
  await expect(fit).not.toContainText(`${before} rows`);
  await which.getByRole('button', { name: 'I am here' }).first().click();
  await expect(which).toBeHidden();
});

test('rows and skeins are written down, and a crossing is practised and a chart read', async ({ page }) => {
  await castOn(page, 'Cornice vest', 'the piece, S', 'Front');
  for (let row = 0; row < 4; row++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('l');
  const log = page.getByRole('dialog', { name: 'Rows, hours and skeins' });
  await expect(log.getByTestId('pace')).toContainText('4 of');
  await expect(log.getByTestId('pace')).toContainText('rows an hour');
  await log.getByLabel('Skein and dye lot').fill('lot 4b');
  await log.getByRole('button', { name: 'Joined in this row' }).click();
  await expect(log.getByRole('listitem').filter({ hasText: 'lot 4b' })).toContainText('begun in row 5');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Back to the design' }).click();
  await expect(page.getByText('4 rows worked')).toBeVisible();
  await page.getByRole('tab', { name: 'Practice' }).click();
  await expect(page.getByTestId('practice-sheet')).toContainText('Cast on');
  await expect(page.getByText('✓ proved')).toBeVisible();
  await page.getByRole('tab', { name: 'Read the chart' }).click();
  const reading = page.getByTestId('reading');
  await reading.getByRole('button').first().click();
  await expect(reading.getByRole('status')).toContainText(/^(Yes|Not)/);
  expect(await barriers(page)).toEqual([]);
  await page.getByRole('tab', { name: 'On the needles' }).click();
  await page.getByRole('button', { name: 'Put away' }).click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByText('4 rows worked')).toBeVisible();
});

test('a machine’s list is stepped by its counter', async ({ page }) => {
  await openCopy(page, 'Switchback legwarmers', '/needles');
  await castOnHere(page, 'Panel for two beds, on two beds, ropes among the ground', 'Panel');
  await expect(head(page)).toContainText('Counter 0');
  await expect(lit(page)).toContainText('hang the ropes on the back bed');
  await goOn(page).click();
  await expect(lit(page)).toContainText('the ground on the front bed');
  await page.keyboard.press('ArrowDown');
  await expect(head(page)).toContainText(/Counter [1-9]/);
  await expect(lit(page)).toContainText(/cable|move/);
  await page.keyboard.press('ArrowLeft');
  await expect(lit(page)).toContainText(/knit \d+ rows?, to/);
  await page.reload();
  await expect(lit(page)).toContainText(/knit \d+ rows?, to/);
});

test.describe('without the server', () => {
  test.use({ serviceWorkers: 'allow' });

  test('she knits on from a cold start, and her place goes out when the server is back', async ({
    page,
    context,
  }) => {
    await page.setViewportSize(PHONE);
    const at = await castOn(page, 'Cornice vest', 'the piece, S', 'Front');
    await page.keyboard.press('ArrowDown');
    await saved(page);
    // The browser keeps the page before it is left alone with it.
    await page.evaluate(async () => void (await navigator.serviceWorker.ready));
    await page.reload();
    await expect(words(page)).toBeVisible();
    await context.setOffline(true);
    await page.goto(at);
    await expect(words(page)).toBeVisible();
    await expect(head(page)).toContainText('2 of');
    for (let row = 0; row < 3; row++) await page.keyboard.press('ArrowDown');
    await expect(head(page)).toContainText('5 of');
    await expect(page.getByText('kept on this device')).toBeVisible();
    await page.goto(at);
    await expect(head(page)).toContainText('5 of');
    await context.setOffline(false);
    await saved(page);
    const id = at.split('/').at(-1)!;
    const there = (await (await page.request.get(`/api/knittings/${id}`)).json()) as {
      document: { place: { row: number } };
    };
    expect(there.document.place.row).toBe(4);
  });
});

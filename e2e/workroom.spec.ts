import { expect, test, type Page } from '@playwright/test';
import AxeBuilder from '@axe-core/playwright';
import { readFileSync } from 'node:fs';
import { keys, newDesign, saved, type, wordsOf } from './helpers.js';

const card = (page: Page, title: string) =>
  page.getByRole('listitem').filter({ has: page.getByRole('link', { name: title, exact: true }) });
const more = async (page: Page, title: string, item: string) => {
  await page.getByRole('button', { name: `More for ${title}`, exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
};

test('designs are renamed, duplicated, taken out and put back, exported and brought in again', async ({
  page,
}) => {
  await newDesign(page, 'Trial piece', 8, 4);
  await type(page, '2/2lc');
  await saved(page);
  await page.goto('/');
  await more(page, 'Trial piece', 'Rename');
  await page.getByLabel('Title').fill('Second trial');
  await page.getByRole('button', { name: 'Rename' }).click();
  await expect(card(page, 'Second trial')).toBeVisible();
  await more(page, 'Second trial', 'Duplicate');
  await expect(card(page, 'Second trial (copy)')).toBeVisible();
  await more(page, 'Second trial (copy)', 'Take out');
  await expect(card(page, 'Second trial (copy)')).toHaveCount(0);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(card(page, 'Second trial (copy)')).toBeVisible();

  const waiting = page.waitForEvent('download');
  await more(page, 'Second trial', 'Export');
  const file = await (await waiting).path();
  expect(JSON.parse(readFileSync(file, 'utf8')).charts[0].rows[0][0]).toMatchObject({
    lean: 'left',
    front: ['k', 'k'],
  });
  await page.getByLabel('Import a design from a file').setInputFiles(file);
  await expect(wordsOf(page, 1)).toContainText('2/2 LC');

  await page.goto('/');
  await page
    .getByLabel('Import a design from a file')
    .setInputFiles({ name: 'odd.json', mimeType: 'application/json', buffer: Buffer.from('{"format":7}') });
  await expect(page.getByRole('status')).toContainText('format 7; this program reads up to format 1');
});

test('a form that does not make sense says what to do', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New design' }).first().click();
  await page.getByLabel('Columns (stitches)').fill('many');
  await page.getByRole('textbox', { name: 'Rows' }).fill('0');
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  for (const said of ['A design needs a title.', 'How many columns?', 'At least one row.'])
    await expect(page.getByText(said)).toBeVisible();
});

test('a design is read from written rows, or its rows are told what does not add up', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New design' }).first().click();
  await page.getByRole('tab', { name: 'Written rows' }).click();
  await page.getByLabel('Title').fill('From words');
  await page.locator('textarea').fill('Cast on 10.\nRow 1: p3, k4, p2.');
  await page.getByRole('button', { name: 'Read into a chart' }).click();
  await expect(page.getByRole('alert')).toContainText('Row 1 works 9 of 10 stitches');
  await page
    .locator('textarea')
    .fill(
      'Row 1 (RS): p2, *k4, p2; rep from * to end.\nRow 2: work the stitches as they present.\nRow 3: p2, *2/2 LC, p2; rep from * to end.',
    );
  await page.getByRole('button', { name: 'Read into a chart' }).click();
  await expect(wordsOf(page, 3)).toContainText('p2, *2/2 LC, p2; rep from * to end');
});

test('edits made while the server is away are kept, survive a reload, and are sent when it is back', async ({
  page,
}) => {
  await newDesign(page, 'Kept here', 6, 2);
  await saved(page);
  await page.route('**/api/**', (route) => route.abort());
  await type(page, '3k');
  await expect(page.locator('[data-save="away"]')).toContainText('kept in this browser (1 edit)');
  await page.unroute('**/api/**');
  await page.route('**/api/designs/*', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.continue(),
  );
  await page.reload();
  await expect(wordsOf(page, 1)).toContainText('k3, p3');
  await page.unroute('**/api/designs/*');
  await saved(page);
  await page.reload();
  await expect(wordsOf(page, 1)).toContainText('k3, p3');
  await saved(page);
});

test('two people: edits of other cells are joined, edits of the same cells are both kept', async ({
  page,
  browser,
}) => {
  await newDesign(page, 'Shared', 6, 4);
  await saved(page);
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await other.goto(page.url());
  await expect(wordsOf(other, 1)).toContainText('p6');

  await type(page, '2k');
  await saved(page);
  await keys(other, 'ArrowUp');
  await type(other, '4k');
  await expect(other.getByTestId('said')).toContainText('Joined with changes saved from elsewhere.');
  await expect(wordsOf(other, 1)).toContainText('k2, p4');
  await saved(other);

  await keys(page, 'Home', 'ArrowUp', 'ArrowUp', 'ArrowUp');
  await type(page, 'k');
  await expect(wordsOf(page, 2)).toContainText('p4');
  await saved(page);
  await keys(other, 'Home', 'ArrowUp', 'ArrowUp');
  await type(other, '2/2lc');
  await expect(other.getByRole('alert')).toContainText('also changed elsewhere');
  await other.getByRole('button', { name: 'Keep both' }).click();
  await expect(other.getByText('Shared (kept here)')).toBeVisible();
  await expect(wordsOf(other, 4)).toContainText('k2, 2/2 LC');
});

test('the sheet prints without the edges of the page, in black and white', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Cornice vest' }).click();
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByTestId('rows')).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByLabel('Style of the words')).toBeHidden();
  await expect(page.getByRole('navigation', { name: 'Rooms' })).toBeHidden();
  await expect(page.getByTestId('sheet')).toBeVisible();
  await expect(page.getByRole('img', { name: /Chart of Cornice vest/ })).toBeVisible();
  const pdf = await page.pdf({ format: 'A4' });
  expect(pdf.length).toBeGreaterThan(20_000);
});

test('a large chart does not hold the words up, and is printed whole', async ({ page, request }) => {
  const id = crypto.randomUUID();
  const row = Array.from({ length: 120 }, (_, c) => (c % 6 < 2 ? 'p' : 'k'));
  const document = { format: 1, id, title: 'Tall', charts: [{ width: 120, rows: Array(120).fill(row) }] };
  expect((await request.post('/api/designs', { data: { document } })).status()).toBe(201);
  await page.goto(`/designs/${id}/words`);
  await expect(page.getByTestId('rows')).toContainText('Row 120');
  const blocks = page.getByRole('img', { name: /^Chart of Tall/ });
  await expect(blocks).toHaveCount(0);
  await page.pdf({ format: 'A4' });
  await expect(blocks).toHaveCount(3);
  await expect(blocks.first()).toHaveAccessibleName('Chart of Tall: 120 columns, rows 81 to 120');
});

test('schools and styles change the words, which stay proved', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'Scree mittens' }).click();
  await page.getByRole('link', { name: 'Words' }).click();
  await page.getByLabel('Names of crossings').selectOption('total-hold');
  await expect(page.getByTestId('rows')).toContainText('*C4F, k2, p2, C4B, p2; rep from * to end');
  await page.getByLabel('Stitch counts').selectOption('changes');
  await expect(page.getByTestId('rows')).not.toContainText('(42 sts)');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  await page.getByLabel('Names of crossings').selectOption('front-back');
  await saved(page);
});

for (const [room, open] of [
  ['workroom', async (page: Page) => page.goto('/')],
  [
    'bench',
    async (page: Page) => (await page.goto('/'), page.getByRole('link', { name: 'Cornice vest' }).click()),
  ],
  [
    'words',
    async (page: Page) => (
      await page.goto('/'),
      await page.getByRole('link', { name: 'Cornice vest' }).click(),
      page.getByRole('link', { name: 'Words' }).click()
    ),
  ],
] as const)
  test(`the ${room} can be used by everyone`, async ({ page }) => {
    await open(page);
    await page.waitForTimeout(600);
    const { violations } = await new AxeBuilder({ page })
      .withTags(['wcag2a', 'wcag2aa', 'wcag21aa'])
      .analyze();
    expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  });

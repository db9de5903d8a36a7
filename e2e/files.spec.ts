import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { newDesign, saved, type, wordsOf, openCopy, chart, keys } from './helpers.js';

/** Files out of the program and back into it, as a person would: nothing is taken unseen, nothing is written over. */

const json = (title: string, format = 1) =>
  JSON.stringify({
    format,
    id: crypto.randomUUID(),
    title,
    charts: [{ width: 6, rows: [Array(6).fill('k'), Array(6).fill('k')] }],
  });
const file = (name: string, text: string | Buffer, mimeType = 'application/json') => ({
  name,
  mimeType,
  buffer: Buffer.from(text),
});
const choose = (page: Page, ...files: ReturnType<typeof file>[]) =>
  page.getByLabel('Bring designs in from files').setInputFiles(files);
const bringBack = (page: Page, one: ReturnType<typeof file>) =>
  page.getByLabel('Bring a file back into this design').setInputFiles(one);

async function download(page: Page, button: string | RegExp): Promise<{ name: string; bytes: Buffer }> {
  const [given] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: button }).click(),
  ]);
  return { name: given.suggestedFilename(), bytes: readFileSync(await given.path()) };
}

test('a design goes out in every format and comes back from those that hold it, after it was looked at', async ({
  page,
}) => {
  test.slow();
  await newDesign(page, 'Trial of files', 8, 4);
  await type(page, '2/2lc');
  await saved(page);
  await page.getByRole('button', { name: 'Save a copy as a file' }).click();
  const out = new Map<string, Buffer>();
  for (const format of ['json', 'xlsx', 'csv', 'html', 'md', 'txt', 'pdf']) {
    const { name, bytes } = await download(page, new RegExp(`^Save ${format} `));
    expect(name).toBe(`Trial-of-files.${format}`);
    out.set(format, bytes);
  }
  const svg = await download(page, 'Chart as lines (SVG)');
  expect(svg.bytes.toString()).toContain('id="row-1-column-1"');
  await page.getByLabel('Letters as outlines').check();
  expect((await download(page, 'Chart as lines (SVG)')).bytes.toString()).not.toContain('<text');
  await page.getByLabel('Dots to an inch of the picture').selectOption('600');
  const png = await download(page, 'Chart as a picture (PNG)');
  // 11 cells of 5 mm with what stands beside them, at 600 dots to an inch.
  expect(png.bytes.readUInt32BE(16)).toBe(Math.round((11 * 5 * 600) / 25.4));
  await page.keyboard.press('Escape');

  expect(out.get('pdf')!.subarray(0, 5).toString()).toBe('%PDF-');
  expect(JSON.parse(out.get('json')!.toString()).charts[0].rows[0][0]).toMatchObject({ lean: 'left' });
  // Brought back as it is, nothing changes; with a cell changed, that row does, and one undo takes it back.
  await bringBack(page, file('same.xlsx', out.get('xlsx')!, 'application/octet-stream'));
  await expect(page.getByText('there is nothing to bring back')).toBeVisible();
  await page.keyboard.press('Escape');
  const edited = out
    .get('csv')!
    .toString()
    .replace(/^2,(\w+),\w+/m, '2,$1,k');
  const before = (await wordsOf(page, 2).textContent())!;
  await bringBack(page, file('edited.csv', edited, 'text/csv'));
  await expect(page.getByText('Brought back, it changes 1 place: Row 2.')).toBeVisible();
  await page.getByRole('button', { name: 'Bring back into this design' }).click();
  await expect(wordsOf(page, 2)).not.toHaveText(before);
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 2)).toHaveText(before);
  // A fault is told by its cell, and nothing is taken.
  await bringBack(page, file('bad.csv', edited.replace(/^2,(\w+),k/m, '2,$1,quux'), 'text/csv'));
  await expect(page.getByText(/bad\.csv C\d+ "quux" is no stitch/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Bring in as a new design' })).toBeDisabled();
});

test('several files at once: each is told, those wanted are taken, and all are taken out again', async ({
  page,
}) => {
  await page.goto('/');
  const [one, two] = ['Alpha of files', 'Beta of files'];
  await choose(
    page,
    file('a.json', json(one)),
    file('b.json', json(two)),
    file('newer.json', json('Newer', 999)),
    file('words.txt', 'Cast on 4 sts.\nRow 1 (RS): k4.', 'text/plain'),
  );
  const list = page.getByRole('list', { name: 'Files' });
  await expect(list).toContainText('format 999; this program reads up to format 8');
  await expect(list).toContainText('Words of 2 lines');
  await expect(page.getByRole('button', { name: 'Read the words in Import' })).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 2 designs' }).click();
  const card = (title: string) => page.getByRole('link', { name: title, exact: true });
  await expect(card(one)).toBeVisible();
  await page.getByRole('button', { name: 'Take them out again' }).click();
  await expect(card(one)).toHaveCount(0);
  await expect(card(two)).toHaveCount(0);
});

test('many designs go out in one zip, which comes in again; a bomb does not', async ({ page }) => {
  await page.goto('/');
  await choose(page, file('a.json', json('Zipped one')), file('b.json', json('Zipped two')));
  await page.getByRole('button', { name: 'Bring in 2 designs' }).click();
  await expect(page.getByRole('link', { name: 'Zipped one', exact: true })).toBeVisible();
  await page.getByLabel('Seek a design').fill('Zipped');
  await expect(page.getByRole('status').first()).toContainText('2 of');
  await page.keyboard.press('Control+k');
  await page.getByRole('dialog').getByRole('combobox').fill('save copies of these designs');
  await page.keyboard.press('Enter');
  await page.getByLabel('Format').selectOption('csv');
  const { bytes } = await download(page, 'Save');
  expect(Object.keys(unzipSync(bytes)).toSorted()).toEqual(['Zipped-one.csv', 'Zipped-two.csv']);
  await page.keyboard.press('Escape');
  await choose(page, file('Designs.zip', bytes, 'application/zip'));
  await expect(page.getByRole('button', { name: 'Bring in 2 designs' })).toBeEnabled();
  await page.keyboard.press('Escape');
  // A zip that says it is large, and one that is cut off.
  await choose(page, file('half.zip', bytes.subarray(0, bytes.length >> 1), 'application/zip'));
  await expect(page.getByText(/ends in the middle|spoiled/)).toBeVisible();
});

test('a saved page opens by itself, keeps what is ticked, and fetches nothing', async ({ page, context }) => {
  await openCopy(page, 'Scree mittens');
  await expect(chart(page)).toBeVisible();
  await page.getByRole('button', { name: 'Save a copy as a file' }).click();
  const { bytes } = await download(page, /^Save html /);
  const alone = await context.newPage();
  const asked: string[] = [];
  await alone.route('**/*', (route) => {
    asked.push(route.request().url());
    return route.request().url().endsWith('/page.html')
      ? route.fulfill({ body: bytes, contentType: 'text/html' })
      : route.abort();
  });
  await alone.goto('http://alone.test/page.html');
  await expect(alone.getByRole('heading', { level: 1 })).toHaveText(/^Scree mittens/);
  const boxes = alone.getByRole('checkbox');
  await boxes.nth(0).check();
  await expect(alone.getByRole('status')).toContainText(`1 of ${await boxes.count()}`);
  await expect(alone.locator('figure.chart [data-row="1"].done').first()).toBeAttached();
  await alone.reload();
  await expect(boxes.nth(0)).toBeChecked();
  expect(asked.filter((url) => !/page\.html$|favicon/.test(url))).toEqual([]);
});

test('cells go to a spreadsheet and come from one by the clipboard', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await newDesign(page, 'Trial of cells', 8, 4);
  await type(page, '2/2lc');
  await keys(page, 'Home', 'Shift+ArrowUp', 'Shift+End', 'Control+c');
  const onClipboard = () => page.evaluate(() => navigator.clipboard.readText());
  await expect
    .poll(async () => (await onClipboard()).split('\n').map((row) => row.split('\t')))
    .toEqual([
      ['p', 'p', 'p', 'p', 'k', 'k', 'k', 'k'],
      ['p', 'p', 'p', 'p', '2/2 LC', '<', '<', '<'],
    ]);
  await page.evaluate(() => navigator.clipboard.writeText('k\tp\tk\tp\np\tk\tp\tk\n'));
  await keys(page, 'Escape', 'Home', 'ArrowUp', 'Control+v');
  await expect(wordsOf(page, 3)).toContainText('k1, p1, k1, p5');
  // What is no cell is told by its place, and nothing changes.
  await page.evaluate(() => navigator.clipboard.writeText('k\tfrog'));
  await keys(page, 'Control+v');
  await expect(page.getByTestId('said')).toContainText('B1 of what was copied: "frog"');
});

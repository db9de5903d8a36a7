import { expect, test, type Page, type Route } from '@playwright/test';
import {
  barriers,
  keys,
  layOutDesign,
  newDesign,
  openCopy,
  paste,
  saved,
  type,
  wordsOf,
  still,
  withoutHouse,
} from './helpers.js';

const card = (page: Page, title: string) =>
  page.getByRole('listitem').filter({ has: page.getByRole('link', { name: title, exact: true }) });
const more = async (page: Page, title: string, item: string) => {
  await page.getByRole('button', { name: `More for ${title}`, exact: true }).click();
  await page.getByRole('menuitem', { name: item }).click();
};

/** Two of the demo's: other tests put cards of theirs before it, so they are not looked for among them. */
const CORNICE = '/designs/5c0ee000-0000-4000-8000-000000000002';

test('designs are renamed, duplicated, taken out and put back', async ({ page }) => {
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

test('a design is read from its words as they are typed, and its rows are told what does not add up', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'From words' }).click();
  await paste(page, 'A rope\n\nCast on 10.\nRow 1: p3, k4, p2.');
  await expect(page.getByTestId('read-as')).toHaveText('1 thing does not add up.');
  await page.getByRole('button', { name: /Row 1 works 9 of 10 stitches/ }).click();
  await expect(page.getByRole('textbox', { name: 'Written rows' })).toBeFocused();
  await page.getByText('1 piece of the text left aside').click();
  await expect(page.getByRole('button', { name: /A rope – it says nothing of the rows/ })).toBeVisible();
  await paste(
    page,
    'Row 1 (RS): p2, *k4, p2; rep from * to end.\nRow 2: work the stitches as they present.\nRow 3: p2, *2/2 LC, p2; rep from * to end.',
  );
  await expect(page.getByTestId('read-as')).toContainText('Read whole. Flat: 3 rows on 8 stitches');
  await page.reload();
  await expect(page.getByTestId('read-as')).toContainText('Read whole');
  // Either side can be corrected: what is set on the chart is written into the words.
  await page.getByRole('application').focus();
  for (const key of ['ArrowUp', 'ArrowUp', 'ArrowUp', ...Array<string>(3).fill('ArrowLeft')])
    await page.keyboard.press(key);
  await page.getByRole('button', { name: 'Lean it the other way' }).click();
  await expect(page.getByRole('textbox', { name: 'Written rows' })).toContainText(
    'hold in back, k2, k2 from cable',
  );
  await expect(page.getByRole('button', { name: 'Lean it the other way' })).toBeEnabled();
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await expect(page.getByRole('alert').or(page.getByText('A design needs a title.'))).toBeVisible();
  await page.getByLabel('Title').fill('From words');
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await expect(wordsOf(page, 3)).toContainText('p2, *2/2 RC, p2; rep from * to end');
});

test('a name that may mean two things is asked with its cloths, and the answer is kept', async ({ page }) => {
  await newDesign(page, 'Asked', 6, 2);
  await page.getByRole('button', { name: /^Chart A/ }).click();
  await page.getByRole('menuitem', { name: 'From words …' }).click();
  await paste(page, 'Row 1: p2, C5F, p2.\nRow 2: k2, p5, k2.');
  await expect(page.getByTestId('read-as')).toHaveText('1 name wants an answer first.');
  await page.getByRole('radio', { name: '3 over 2, left' }).click();
  await expect(page.getByTestId('read-as')).toContainText('Read whole');
  await page.getByRole('button', { name: 'Put it into the design' }).click();
  await page.getByRole('button', { name: /^Chart A/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Chart B' }).click();
  // Her name for it, where the school would say 3/2 LC.
  await expect(wordsOf(page, 1)).toContainText('p2, C5F, p2');
  await keys(page, 'Control+z');
  await expect(page.getByRole('button', { name: /^Chart A/ })).toBeVisible();

  // It is not asked again; it can be.
  await page.goto('/import');
  await paste(page, 'Row 1: p2, C5F, p2.');
  await expect(page.getByTestId('read-as')).toContainText('Read whole');
  await page.getByRole('button', { name: 'C5F' }).click();
  await expect(page.getByRole('radio', { name: '3 over 2, left' })).toBeVisible();

  // Of several patterns none is dropped: while one has no chart, nothing is taken.
  await paste(page, 'Cuff\n\nRow 1: k4.\n\nThumb\n\nRow 1: p2, C5F, p2.');
  await expect(page.getByText('Thumb has no chart yet')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take it with its faults' })).toBeDisabled();
});

test('edits made while the server is away are kept, survive a reload, and are sent when it is back', async ({
  page,
}) => {
  await newDesign(page, 'Kept here', 6, 2);
  await saved(page);
  await page.route('**/api/**', (route) => route.abort());
  await type(page, '3k');
  await expect(page.locator('[data-save="away"]')).toContainText('1 edit kept in this browser');
  await page.unroute('**/api/**');
  await page.route('**/api/designs/*/changes*', (route) => route.abort());
  await page.reload();
  await expect(wordsOf(page, 1)).toContainText('k3, p3');
  await page.unroute('**/api/designs/*/changes*');
  await saved(page);
  await page.reload();
  await expect(wordsOf(page, 1)).toContainText('k3, p3');
  await saved(page);
  // Undo goes back past both reloads.
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 1)).toContainText('purl');
  await saved(page);
});

test('two people: what one saves the other sees at once; in the same cells each row is chosen', async ({
  page,
  browser,
}) => {
  await newDesign(page, 'Shared', 6, 4);
  await saved(page);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(wordsOf(other, 1)).toContainText('purl');

  await type(page, '2k');
  await expect(other.getByTestId('said')).toContainText('Joined with changes saved elsewhere.');
  await expect(wordsOf(other, 1)).toContainText('k2, p4');

  await context.setOffline(true);
  await keys(page, 'Home', 'ArrowUp', 'ArrowUp', 'ArrowUp');
  await type(page, 'p');
  await saved(page);
  await keys(other, 'Home', 'ArrowUp', 'ArrowUp', 'ArrowUp');
  await type(other, '2/2lc');
  await expect(other.locator('[data-save="away"]')).toBeVisible();
  await context.setOffline(false);
  const notice = other.getByRole('alert');
  await expect(notice).toContainText('in the same places (1)');
  await expect(wordsOf(other, 4)).toContainText('k4, p1, k1');
  await notice.getByRole('button', { name: 'Choose' }).click();
  const sheet = other.getByRole('dialog', { name: 'Which is to stand?' });
  await expect(sheet.getByRole('group', { name: 'Row 4' })).toBeVisible();
  await sheet.getByRole('radio', { name: 'from here' }).check();
  await sheet.getByRole('button', { name: 'Take 1 from here' }).click();
  await expect(notice).toHaveCount(0);
  await expect(wordsOf(page, 4)).toContainText('2/2 LC');
  await context.close();
});

test('tabs closed without the server lose nothing, and a design is made without it', async ({ browser }) => {
  // Tried a second time, it has designs of its own again.
  const again = crypto.randomUUID().slice(0, 8);
  const [tabs, away] = [`Two tabs ${again}`, `Made away ${again}`];
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'allow',
  });
  const one = await context.newPage();
  await layOutDesign(one, tabs, 6, 4);
  await saved(one);
  await one.waitForFunction(() => navigator.serviceWorker.ready.then((r) => r.active?.state === 'activated'));
  const url = one.url();
  const two = await context.newPage();
  await two.goto(url);
  await expect(wordsOf(two, 1)).toContainText('purl');
  await context.setOffline(true);
  await type(one, '2k');
  await keys(two, 'ArrowUp', 'ArrowUp');
  await type(two, '3k');
  await expect(two.locator('[data-save="away"]')).toBeVisible();
  await one.close();
  await two.close();

  // The page itself opens, shows what is kept, and takes a new design.
  const cold = await context.newPage();
  await layOutDesign(cold, away, 8, 4);
  await type(cold, '2/2lc');
  await expect(cold.locator('[data-save="away"]')).toContainText('new, kept in this browser');
  await cold.getByRole('link', { name: 'Cordelina' }).click();
  await expect(cold.getByRole('alert')).toContainText('The server is away');
  await expect(cold.getByRole('link', { name: away })).toContainText('only in this browser yet');
  await expect(cold.getByRole('link', { name: tabs })).toContainText('edits wait in this browser');
  await context.setOffline(false);
  await expect(cold.getByRole('link', { name: away })).toContainText('1 caution');
  await cold.getByRole('link', { name: tabs }).click();
  await expect(wordsOf(cold, 1)).toContainText('k2, p4');
  await expect(wordsOf(cold, 3)).toContainText('k3, p3');
  await saved(cold);
  await context.close();
});

test('pictures of cards are fetched two at a time, and one that is not given lets the next', async ({
  page,
}) => {
  const held: Route[] = [];
  await page.route('**/picture/**', (route) => void held.push(route));
  await page.goto('/');
  await expect.poll(() => held.length).toBe(2);
  await held[0]!.abort();
  await expect(page.getByText('no picture yet')).toHaveCount(1);
  await expect.poll(() => held.length).toBe(3);
  // Those that are under way are let go with the shelf.
  await page.getByRole('link', { name: 'Swatch book' }).click();
  await expect(page.getByRole('heading', { name: 'Swatch book' })).toBeVisible();
  await page.getByRole('link', { name: 'Cordelina' }).click();
  await expect.poll(() => held.length).toBe(5);
  await page.unrouteAll();
});

test('an earlier state is looked at, named, and taken back', async ({ page }) => {
  await newDesign(page, 'Second thoughts', 8, 4);
  await type(page, '2/2lc');
  await saved(page);
  await keys(page, 'Home');
  await type(page, '4p');
  await saved(page);
  await page.getByRole('button', { name: 'Earlier states' }).click();
  const sheet = page.getByRole('dialog', { name: 'Earlier states' });
  const states = sheet.getByRole('list', { name: 'Earlier states' }).getByRole('button');
  await expect(states).toHaveCount(3);
  await states.nth(1).click();
  await expect(sheet).toContainText('4 rows were different');
  await sheet.getByLabel('Name, to keep it for good').fill('With the rope');
  await sheet.getByRole('button', { name: 'Name it' }).click();
  await expect(states.nth(1)).toContainText('With the rope');
  await sheet.getByRole('button', { name: 'Take this state back' }).click();
  await expect(wordsOf(page, 1)).toContainText('2/2 LC, p4');
  await saved(page);
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 1)).toContainText('purl');
});

test('a design taken out elsewhere keeps its edits here, and can be laid down as a new one', async ({
  page,
  request,
}) => {
  await newDesign(page, 'Taken out', 6, 2);
  await saved(page);
  const id = page.url().split('/').at(-1)!;
  await request.delete(`/api/designs/${id}`);
  await expect(page.getByRole('alert')).toContainText('taken out of the workroom elsewhere');
  await type(page, '2k');
  await page.getByRole('button', { name: 'Lay it down as a new design' }).click();
  await expect(page).not.toHaveURL(new RegExp(id));
  await expect(wordsOf(page, 1)).toContainText('k2, p4');
  await saved(page);
});

test('a design opens where the browser keeps nothing, and says so', async ({ page }) => {
  await page.addInitScript(() => {
    Object.defineProperty(window, 'indexedDB', {
      value: {
        open: () => {
          throw new DOMException('not here', 'SecurityError');
        },
      },
    });
  });
  await newDesign(page, 'Nothing kept', 6, 2);
  await type(page, '2k');
  await saved(page);
  await expect(page.locator('[data-save="saved"]')).toContainText('this browser keeps nothing');
  await page.reload();
  await expect(wordsOf(page, 1)).toContainText('k2, p4');
});

test('the sheet prints without the edges of the page, in black and white', async ({ page }) => {
  await page.goto(`${CORNICE}/words`);
  await expect(page.getByTestId('rows').first()).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByLabel('How it is written and printed')).toBeHidden();
  await expect(page.getByRole('navigation', { name: 'Rooms' })).toBeHidden();
  await expect(page.getByTestId('sheet')).toBeVisible();
  await expect(page.getByRole('img', { name: 'Chart of Back, all over' })).toBeVisible();
  const pdf = await page.pdf({ format: 'A4' });
  expect(pdf.length).toBeGreaterThan(20_000);
});

test('a large chart does not hold the words up, and is printed whole', async ({ page, request }) => {
  const id = crypto.randomUUID();
  // No two rows are alike, so that each has a line of its own.
  const rows = Array.from({ length: 120 }, (_, r) =>
    Array.from({ length: 120 }, (_, c) => (c === r ? 'p' : 'k')),
  );
  const document = { format: 1, id, title: 'Tall', charts: [{ width: 120, rows }] };
  expect((await request.post('/api/designs', { data: { document } })).status()).toBe(201);
  await page.goto(`/designs/${id}/words`);
  await expect(page.getByTestId('rows')).toContainText('Row 120');
  const blocks = page.getByRole('img', { name: /^Chart of Tall/ });
  await expect(blocks).toHaveCount(0);
  await page.pdf({ format: 'A4' });
  // Three strips of three blocks, and the plan of them.
  await expect(blocks).toHaveCount(9);
  await expect(blocks.first()).toHaveAccessibleName(
    /^Chart of Tall, part 1 of 9: columns 1 to \d+, rows 81 to 120$/,
  );
  await expect(page.getByRole('img', { name: /^Plan of the 9 parts/ })).toBeVisible();
});

test(
  'the sheet is put in the designer’s order, copied, and set as a PDF; the house style goes on',
  { tag: '@alone' },
  async ({ page, context }) => {
    await context.grantPermissions(['clipboard-read', 'clipboard-write']);
    await newDesign(page, 'Tarn wrap', 12, 4);
    await type(page, '4k');
    await page.getByRole('link', { name: 'Words' }).click();
    const sheet = page.getByTestId('sheet');
    await page.getByLabel('Words', { exact: true }).selectOption('full');
    await expect(page.getByTestId('rows')).toContainText('knit 4, purl 8. (12 stitches)');
    await page.getByRole('tab', { name: 'Sheet' }).click();
    await page.getByLabel('Materials', { exact: true }).first().fill('A needle of 4 mm.');
    await expect(sheet).toContainText('A needle of 4 mm.');
    await page.getByRole('checkbox', { name: 'Abbreviations' }).check();
    await page.getByRole('checkbox', { name: 'Charts' }).uncheck();
    const headings = sheet.getByRole('heading', { level: 2 });
    await expect(headings).toHaveText(['Materials', 'Construction', 'Rows', 'Key']);
    // By keys: the key is taken up, moved before the rows, and set down.
    await page.getByRole('button', { name: 'Move Key' }).focus();
    // Each step is told to who cannot see it.
    const told = page.locator('[id^="DndLiveRegion"]').first();
    await page.keyboard.press('Space');
    await expect(told).not.toHaveText('');
    const taken = (await told.textContent())!;
    await page.keyboard.press('ArrowUp');
    await expect(told).not.toHaveText(taken);
    await page.keyboard.press('Space');
    await expect(headings).toHaveText(['Materials', 'Construction', 'Key', 'Rows']);

    await page.getByRole('button', { name: 'Copy the sheet' }).click();
    await page.getByRole('menuitem', { name: 'As Markdown' }).click();
    await expect(page.getByRole('status').filter({ hasText: 'Copied as Markdown' })).toBeVisible();
    const copied = await page.evaluate(() => navigator.clipboard.readText());
    expect(copied).toContain('# Tarn wrap\n\n## Materials\n\nA needle of 4 mm.');
    expect(copied).toContain('**Row 1 (right side):** knit 4, purl 8. (12 stitches)');

    const [pdf] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'PDF' }).click(),
    ]);
    expect(pdf.suggestedFilename()).toBe('Tarn-wrap.pdf');
    await expect(page.getByText('Saved: 1 page.')).toBeVisible();

    await page.getByRole('tab', { name: 'Writing' }).click();
    await page.getByRole('button', { name: 'Keep as house style' }).click();
    await expect(page.getByLabel('House style')).toContainText('In the house style');
    await saved(page);
    await layOutDesign(page, 'Next of the house', 8, 2);
    await expect(wordsOf(page, 1)).toContainText('purl');
    await withoutHouse(page);
  },
);

test('schools and styles change the words, which stay proved', async ({ page }) => {
  await openCopy(page, 'Scree mittens', '/words');
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
    async (page: Page) => (await page.goto(CORNICE), expect(page.getByTestId('chart')).toBeVisible()),
  ],
  [
    'import room',
    async (page: Page) => (
      await page.goto('/import'),
      await paste(page, 'Two ropes\n\nRow 1: k2, C5F, wobble, k2.'),
      expect(page.getByRole('radiogroup')).toBeVisible()
    ),
  ],
  [
    'words',
    async (page: Page) => (
      await page.goto(`${CORNICE}/words`),
      expect(page.getByTestId('rows').first()).toBeVisible()
    ),
  ],
] as const)
  test(`the ${room} can be used by everyone`, async ({ page }) => {
    await open(page);
    await still(page);
    expect(await barriers(page)).toEqual([]);
  });

import { expect, test } from '@playwright/test';
import {
  cellPoint,
  chart,
  chartPicture,
  cursor,
  keys,
  openCopy,
  layOutDesign,
  newDesign,
  saved,
  type,
  wordsOf,
} from './helpers.js';

test('a design as it was saved is sealed by the server; from the first change on its words are proved here', async ({
  page,
}) => {
  const readers: string[] = [];
  page.on('request', (asked) => void (/words\.worker/.test(asked.url()) && readers.push(asked.url())));
  const seal = (how: string) => page.locator(`[data-proof="${how}"]`).first();
  await newDesign(page, 'Sealed', 12, 4);
  await expect(seal('proved')).toHaveAttribute('title', /worked on a needle with 1 repeat,/);
  expect(readers).toHaveLength(0);
  await keys(page, 'PageDown', 'Home', 'ArrowUp', 'x');
  await expect(seal('open')).toBeVisible();
  expect(readers).toHaveLength(1);

  // A server that does not say leaves it to the page.
  await page.route('**/seal/*', (route) => route.fulfill({ status: 503, json: {} }));
  await newDesign(page, 'Sealed here', 12, 4);
  await expect(seal('proved')).toBeVisible();
});

test('a rope panel, from an empty cloth to proved words, and all there again after a reload', async ({
  page,
}) => {
  await layOutDesign(page, 'Rope panel', 12, 4);
  await expect(cursor(page)).toHaveText('Row 1, right side, column 1: purl');

  // Charted with the keys: only what changes is said. Faces carry up, and wrong-side rows follow.
  for (const entry of ['2.', '4k', '2.', '4k', '2.', '2/2lc', '2.', '2/2lc']) await type(page, entry);
  await expect(wordsOf(page, 3)).toContainText('[p2, 2/2 LC] twice');
  await expect(wordsOf(page, 2)).toContainText('p4, k2, p4, k2');

  // Columns 1–6 are selected and made the repeat; the rows are repeated up in the dialog.
  await keys(page, 'PageDown', 'Home', ...Array(5).fill('Shift+ArrowLeft'), 'r');
  await page.getByRole('button', { name: /repeat × 1/ }).click();
  await page.getByLabel('Worked how many times').first().fill('5');
  await page.getByLabel('Repeat up').check();
  await page.getByLabel('Worked how many times').nth(1).fill('3');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(wordsOf(page, 1)).toContainText('*p2, k4; rep from * to end');
  await expect(wordsOf(page, 1)).toContainText('36');

  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByTestId('sheet')).toContainText('Worked flat. Multiple of 6 sts, at least 12.');
  await expect(page.getByTestId('sheet')).toContainText('Cast on 36 sts (6 repeats).');
  await expect(page.getByTestId('rows')).toContainText('*p2, 2/2 LC; rep from * to end. (36 sts)');
  await expect(page.getByTestId('key')).toContainText(
    'sl 2 to cable needle, hold in front, k2, k2 from cable needle',
  );
  await expect(page.getByRole('main')).toContainText(
    'proved against the chart, worked with 1, 5 and 6 repeats',
  );

  // Words that do not fill the row are refused; a count that is broken is found, led to and mended.
  await page.getByRole('link', { name: 'Bench' }).click();
  await wordsOf(page, 2).getByRole('button').dblclick();
  await page.getByLabel('Words of the row').fill('k2tog, p2, k2, p4, k2');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status')).toContainText(['These words fill 11 columns; the chart has 12.']);
  await page.keyboard.press('Escape');
  await keys(page, 'PageDown', 'Home', 'ArrowUp', 'x');
  const finding = page.locator('[data-finding="count-law"]').first();
  await expect(finding).toContainText('Row 2 works 11 of the 12 stitches row 1 leaves');
  await expect(page.locator('[data-proof="open"]').first()).toBeVisible();
  await keys(page, 'PageUp');
  await finding.getByRole('button').first().click();
  await expect(cursor(page)).toContainText('Row 2, wrong side');
  await keys(page, 'Home', 'p');
  await expect(page.locator('[data-finding="count-law"]')).toHaveCount(0);
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  await saved(page);

  await page.reload();
  await expect(wordsOf(page, 3)).toContainText('*p2, 2/2 LC; rep from * to end');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
});

test('a row that is a stitch short is found, led to and mended', async ({ page }) => {
  await openCopy(page, 'Tarn scarf, under repair');
  const finding = page.locator('[data-finding="row-short"]');
  await expect(finding).toContainText('Row 45 is 1 stitch short');
  await expect(page.locator('[data-proof="open"]').first()).toBeVisible();
  await finding.getByRole('button').first().click();
  await expect(cursor(page)).toContainText('Row 45, right side, column 33: knit');
  await expect(wordsOf(page, 45)).toContainText('does not come out');
  await finding.getByRole('button', { name: 'Put in p1 after p1' }).click();
  await expect(page.locator('[data-finding="row-short"]')).toHaveCount(0);
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  await keys(page, 'Control+z');
  await expect(page.locator('[data-finding="row-short"]')).toHaveCount(1);
  await saved(page);
});

test('findings are filtered, tried on the chart, mended one after the other, accepted and copied', async ({
  page,
}) => {
  const { title } = await openCopy(page, 'Tarn scarf, under repair');
  await expect(page).toHaveTitle(`(13) Bench – ${title} – Cordelina`);
  const list = page.getByTestId('findings');
  await page.getByLabel('Which findings are shown').selectOption('caution');
  await expect(list.getByRole('heading')).not.toContainText(['Rows too short']);

  // By keyboard: from finding to finding, and with Enter to its place.
  await list.locator('[data-place]').first().focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(cursor(page)).toContainText('Row 9, right side, column 11');

  // Tried, the crossing leans the other way on the chart; nothing is made yet.
  const turn = list.getByRole('button', { name: 'Turn the crossing over' });
  const before = await chartPicture(page);
  await turn.hover();
  await expect.poll(() => chartPicture(page)).not.toBe(before);
  const tried = await chartPicture(page);
  await page.mouse.move(5, 5);
  // Back as it was, but for how single pixels at the edges of painted rows are smoothed.
  await expect.poll(() => chartPicture(page)).not.toBe(tried);
  await expect(list.locator('[data-finding="over-under-broken"]')).toHaveCount(1);
  await turn.click();
  await expect(
    list.locator('[data-finding="over-under-broken"], [data-finding="mirror-broken"]'),
  ).toHaveCount(0);

  // Accepted with a reason: it is counted no more, is shown with the reason, and can be taken back.
  const gutter = list.locator('[data-finding="narrow-gutter"]');
  await gutter.first().getByRole('button', { name: 'It is meant so …' }).click();
  await page.getByRole('button', { name: 'Accept it' }).click();
  await expect(page.getByText('Say in a few words why.')).toBeVisible();
  await page.getByLabel('Why it is meant so').fill('the plait leans on its ropes');
  await page.getByLabel('throughout the design').check();
  await page.getByRole('button', { name: 'Accept it' }).click();
  await expect(gutter).toHaveCount(0);
  await page.getByLabel('Which findings are shown').selectOption('meant');
  await expect(gutter).toHaveCount(2);
  await expect(gutter.first()).toContainText('Meant: the plait leans on its ropes');
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.getByRole('button', { name: 'Copy the findings as text' }).click();
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  expect(copied).toContain('Rope purled (caution)\n- Row 9 purls 1 stitch of a rope in column 11');
  expect(copied).toContain('Meant so:\n\nRopes too close (caution)');
  await gutter.first().getByRole('button', { name: 'Not meant after all' }).click();
  await expect(gutter).toHaveCount(0);

  // The line of custom is the designer's.
  await page.getByLabel('Which findings are shown').selectOption('all');
  await expect(gutter).toHaveCount(2);
  await page.getByRole('button', { name: 'Where the checks draw the line' }).click();
  await page.getByLabel('Purls between a rope and its neighbour, at least').fill('9');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(page.getByText('A whole number from 0 to 2.')).toBeVisible();
  await page.getByLabel('Purls between a rope and its neighbour, at least').fill('1');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(gutter).toHaveCount(0);

  // Whatever has a mend is mended, and then nothing is left.
  for (let i = 0; i < 12 && (await list.locator('[data-finding]').count()); i++) {
    const left = await list.locator('[data-finding]').count();
    // Each was tried before it is offered, a moment after the last was made.
    await list.locator('[data-mend]').first().click();
    await expect.poll(() => list.locator('[data-finding]').count()).not.toBe(left);
  }
  await expect(list.locator('[data-finding]')).toHaveCount(0);
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  await saved(page);
  await page.goto('/');
  await expect(page.getByRole('link', { name: title })).toContainText('counts come out');
});

test('a design begins with a motif; its ropes are told apart, followed by keys, and turned to go over and under', async ({
  page,
}) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'New design' }).first().click();
  await page.getByRole('button', { name: 'Begin with a motif' }).click();
  await page.getByRole('button', { name: 'Plait', exact: true }).click();
  await page.getByLabel('Times upwards').fill('3');
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await expect(wordsOf(page, 3)).toContainText('p2, 2/2 LC, k2, p2');
  const plain = await chartPicture(page);
  await keys(page, 'v');
  const ropes = page.getByTestId('ropes');
  await expect(ropes).toContainText(
    'Three ropes in columns 3–8; home after 3 repeats, 24 rows; over and under throughout.',
  );
  expect(await chartPicture(page)).not.toBe(plain);
  await expect(
    page.getByRole('img', { name: /^Rhythm: crosses in rows 3, 7; mostly every 4 rows/ }),
  ).toBeVisible();
  await keys(page, 'Control+ArrowUp');
  await expect(page.getByTestId('said')).toContainText('No rope stands at the cursor.');
  await keys(page, 'ArrowLeft', 'ArrowLeft', 'Control+ArrowUp');
  await expect(page.getByTestId('said')).toContainText('Rope A goes over rope B in row 3.');
  await expect(cursor(page)).toContainText('Row 3, right side');
  await expect(ropes).toContainText('Rope A at the cursor: 2 stitches; it goes under rope C in row 7.');
  await keys(page, 'Control+ArrowDown', 'Control+ArrowDown');
  await expect(page.getByTestId('said')).toContainText('Rope A begins in row 1.');
  // Half of the crossings turned is another figure; the set that makes it alternate again is still at hand.
  await keys(page, 'Control+ArrowUp', 'o');
  await expect(page.locator('[data-finding="over-under-broken"]')).toHaveCount(0);
  await ropes.getByRole('button', { name: 'Turn it over' }).click();
  await expect(ropes).toContainText('over and under throughout');
  await keys(page, 'v');
  await expect(ropes).toHaveCount(0);
  await saved(page);
});

test('a motif is built to measure and laid; a selection is kept as one and found in another design', async ({
  page,
}) => {
  await newDesign(page, 'Shelf one', 20, 8);
  await keys(page, 'h');
  await page.getByLabel('Seek a motif').fill('plait');
  await expect(page.getByRole('list', { name: 'Motifs' }).getByRole('listitem')).toHaveCount(1);
  await page.getByLabel('Ropes, 3–7').fill('9');
  await expect(page.getByText('Ropes: at most 7.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Lay it at the cursor' })).toBeDisabled();
  await page.getByLabel('Ropes, 3–7').fill('4');
  await expect(page.getByTestId('motif-size')).toHaveText('12 stitches, 8 rows.');
  await page.getByRole('button', { name: 'Lay it at the cursor' }).click();
  await expect(wordsOf(page, 3)).toContainText('p2, 2/2 LC, 2/2 LC, p10');
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();

  // What cannot be laid is said in the sheet, and nothing is lost.
  await keys(page, 'End', 'h');
  await page.getByRole('button', { name: 'Lay it at the cursor' }).click();
  await expect(page.getByRole('alert')).toContainText('from column 20 there are 1');
  await page.getByRole('button', { name: 'Close', exact: true }).click();

  await keys(page, 'Home', 'Control+a');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Keep the selection as a motif' }).click();
  await page.getByLabel('Name').fill('Hut plait');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByTestId('said')).toContainText('“Hut plait” stands on the motif shelf.');
  await saved(page);

  await newDesign(page, 'Shelf two', 24, 10);
  await keys(page, 'h');
  await page.getByRole('button', { name: /^Hut plait/ }).click();
  await expect(page.getByTestId('motif-size')).toHaveText('20 stitches, 8 rows.');
  await page.getByRole('button', { name: 'As a chart of its own' }).click();
  await expect(page.getByRole('button', { name: /^Hut plait 2 of 2/ })).toBeVisible();
  await keys(page, 'h');
  await page.getByRole('button', { name: 'Take Hut plait off the shelf' }).click();
  await expect(page.getByRole('button', { name: /^Hut plait/ })).toHaveCount(0);
});

test('a rope by mouse: built, taken in hand, stamped, selected, copied, mirrored and undone', async ({
  page,
}) => {
  await newDesign(page, 'By mouse', 12, 6);
  const builder = page.getByLabel('Crossing builder');
  await builder.getByRole('button', { name: 'One more in front' }).click();
  await builder.getByRole('button', { name: 'One fewer in back' }).click();
  await builder.getByRole('radio', { name: 'right' }).click();
  await builder.getByRole('radio', { name: 'purl' }).click();
  await expect(page.getByTestId('builder-name')).toHaveText('3/1 RPC');
  const point = await cellPoint(page, 3, 2);
  const edge = await cellPoint(page, 3, 11);
  await builder.getByRole('button', { name: 'take' }).click();
  await page.mouse.click(point.x, point.y);
  await expect(cursor(page)).toContainText('Row 3, right side, column 2: 3/1 RPC, columns 2 to 5');
  await expect(page.getByLabel('In reach')).toContainText('3/1 RPC');

  // Too near the edge: said at once, and nothing changes.
  await page.mouse.click(edge.x, edge.y);
  await expect(page.getByTestId('said')).toContainText(
    '4 columns are needed from column 11; row 3 has 2 left.',
  );
  await keys(page, 'Escape');

  const from = await cellPoint(page, 3, 1);
  const to = await cellPoint(page, 3, 6);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await keys(page, 'Control+c');
  await expect(page.getByTestId('said')).toContainText('Copied 6 × 1.');
  await keys(page, 'm');
  await expect(wordsOf(page, 3)).toContainText('3/1 LPC');
  await keys(page, 'Escape', 'ArrowUp', 'ArrowUp', 'Home', 'Control+v');
  await expect(wordsOf(page, 5)).toContainText('3/1 RPC');
  await keys(page, 'Control+z', 'Control+z', 'Control+z');
  await expect(wordsOf(page, 3)).toContainText('purl');
  await keys(page, 'Control+y');
  await expect(wordsOf(page, 3)).toContainText('3/1 RPC');

  // A stroke with a plain stitch in hand paints a run, which is undone as one.
  const start = await cellPoint(page, 6, 2);
  const end = await cellPoint(page, 6, 8);
  await keys(page, 'PageDown', 'PageDown', 'Home', 'k', 'Home', 'g');
  await page.mouse.move(start.x, start.y);
  await page.mouse.down();
  await page.mouse.move(end.x, end.y, { steps: 12 });
  await page.mouse.up();
  await expect(wordsOf(page, 6)).toContainText('k4, p8');
  await keys(page, 'Control+z');
  // The knit stitch of row 1 has carried up to row 6, and so has the rope of row 3.
  await expect(wordsOf(page, 6)).toContainText('k8, p4');
});

test('rows and columns come and go with the keys', async ({ page }) => {
  await newDesign(page, 'Rows', 6, 2);
  await keys(page, 'Alt+ArrowUp', 'Alt+ArrowLeft');
  await expect(page.locator('[data-row]')).toHaveCount(3);
  await expect(wordsOf(page, 1)).toContainText('purl');
  await keys(page, 'Alt+ArrowDown', 'Alt+ArrowRight');
  await expect(page.locator('[data-row]')).toHaveCount(2);
  await expect(wordsOf(page, 1)).toContainText('purl');
  await type(page, '9/9lc');
  await expect(page.getByTestId('said')).toContainText('18 columns are needed');
  await type(page, 'c5f');
  await expect(page.getByTestId('said')).toContainText('does not say how its stitches are divided');
  await keys(page, '?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
});

test('words written beside the chart become the row', async ({ page }) => {
  await newDesign(page, 'Written', 8, 2);
  await wordsOf(page, 1).getByRole('button').dblclick();
  await page.getByLabel('Words of the row').fill('p2, 2/2 RC, p2');
  await page.keyboard.press('Enter');
  await expect(wordsOf(page, 1)).toContainText('p2, 2/2 RC, p2');
  await expect(page.getByLabel('In reach')).toContainText('2/2 RC');
  // What does not come out says why under its words, and the needle what is left over.
  await wordsOf(page, 2).getByRole('button').dblclick();
  await page.getByLabel('Words of the row').fill('k2, p3, k2');
  await page.keyboard.press('Enter');
  const problem = wordsOf(page, 2).getByRole('status');
  await expect(problem).toHaveText('Row 2 works 7 of 8 stitches: 1 is left over at the end.');
  await expect(page.getByLabel('Needle')).toContainText('the words take 7 of 8 loops, 1 is left over');
  await page.getByLabel('Words of the row').fill('k2, wobble, k2');
  await expect(problem).toContainText('"wobble" is not a stitch or crossing known here.');
  await expect(page.locator('.cm-lintRange-error')).toHaveText('wobble');

  // Left unfinished it stays as it was written, also when the page is opened again; the chart is as it was.
  await chart(page).focus();
  await expect(wordsOf(page, 2)).toContainText('k2, wobble, k2');
  await expect(wordsOf(page, 2)).toContainText('unfinished');
  await page.reload();
  await expect(wordsOf(page, 2)).toContainText('k2, wobble, k2');
  await wordsOf(page, 2).getByRole('button').dblclick();
  await page.getByLabel('Words of the row').fill('k2, p4, ');
  await page.keyboard.type('m1');
  // Escape closes what is offered first, once it is; with nothing offered it would leave the row.
  await expect(page.locator('.cm-tooltip-autocomplete')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByLabel('Words of the row').fill('k2, p4, k2');
  await page.keyboard.press('Enter');
  await expect(wordsOf(page, 2)).not.toContainText('unfinished');
  await expect(wordsOf(page, 2)).toContainText('k2, p4, k2');
});

test('several rows are pasted into the words, what is missing of the chart is put in, and one undo takes them back', async ({
  page,
}) => {
  await newDesign(page, 'Pasted', 8, 2);
  await wordsOf(page, 1).getByRole('button').dblclick();
  await expect(page.getByLabel('Words of the row')).toBeFocused();
  const text =
    'Row 1: p2, k4, p2\nRow 2 and all WS rows: k2, p4, k2\nRow 3: p2, 2/2 LC, p2\nRow 5: p2, k9\nRow 6: k8';
  await page.getByLabel('Words of the row').evaluate((place, said) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text/plain', said);
    place.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }));
  }, text);
  await expect(wordsOf(page, 3)).toContainText('p2, 2/2 LC, p2');
  await expect(wordsOf(page, 6)).toContainText('knit');
  await expect(wordsOf(page, 5)).toContainText('p2, k9');
  await expect(page.getByTestId('said')).toContainText('1 row did not come out and waits as written, marked');
  await keys(page, 'Control+z');
  await expect(wordsOf(page, 6)).toHaveCount(0);
  await expect(wordsOf(page, 1)).toContainText('purl');
});

test('a chart of 300 × 300 is painted in part and stays at hand', async ({ page, request }) => {
  const id = crypto.randomUUID();
  const row = Array.from({ length: 300 }, (_, c) => (c % 6 < 2 ? 'p' : 'k'));
  const document = { format: 1, id, title: 'Large', charts: [{ width: 300, rows: Array(300).fill(row) }] };
  expect((await request.post('/api/designs', { data: { document } })).status()).toBe(201);
  await page.goto(`/designs/${id}`);
  await expect(cursor(page)).toContainText('Row 1');
  await keys(page, ...Array(6).fill('PageUp'), 'End');
  await expect(cursor(page)).toContainText('Row 61, right side, column 300');
  await type(page, 'p');
  expect(await page.locator('[data-row]').count()).toBeLessThan(60);
  // The map at its edge leads to the top of the chart.
  const map = (await page.getByTestId('map').boundingBox())!;
  await page.mouse.click(map.x + map.width / 2, map.y + 4);
  await expect(wordsOf(page, 300)).toBeVisible();
  const size = await chart(page)
    .locator('canvas')
    .first()
    .evaluate((c: HTMLCanvasElement) => c.width * c.height);
  expect(size).toBeLessThan(1280 * 800);
});

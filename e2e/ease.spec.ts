import { expect, test, type Locator, type Page } from '@playwright/test';
import { demo, ROOMS } from './all-rooms.js';
import { barriers, chart, keys, newDesign, openCopy, still } from './helpers.js';

/** Every room on every screen, by keyboard, in any light, on paper. */

const SCREENS = [
  [390, 844],
  [820, 1180],
  [1280, 800],
  [1440, 900],
] as const;

/** What lies beyond the page's right edge and is not held by anything that scrolls. */
const beyond = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const held = (e: Element): boolean => {
      for (let at = e.parentElement; at && at !== document.body; at = at.parentElement)
        if (/auto|scroll|hidden|clip/.test(getComputedStyle(at).overflowX)) return true;
      return false;
    };
    const out = [...document.querySelectorAll('body *')]
      .filter((e) => !e.closest('svg'))
      .filter((e) => {
        const box = e.getBoundingClientRect();
        return box.width > 0 && box.right > window.innerWidth + 1 && !held(e);
      })
      .map((e) => `${e.tagName} ${(e.textContent ?? '').slice(0, 30)}`);
    const { scrollWidth } = document.scrollingElement!;
    return scrollWidth > window.innerWidth ? [`the page is ${scrollWidth} wide`, ...out] : out;
  });

test('every room on every screen: nothing beyond the page, a heading and a title, no barriers', async ({
  page,
}) => {
  test.slow();
  for (const [room, address, there] of ROOMS) {
    await page.goto(address);
    for (const [width, height] of SCREENS) {
      await page.setViewportSize({ width, height });
      await expect(there(page), room).toBeVisible();
      await still(page);
      expect(await beyond(page), `${room} at ${width}`).toEqual([]);
      // The wide page has a test of its own for this.
      if (width === 390) expect(await barriers(page), `${room} at ${width}`).toEqual([]);
    }
    await expect(page.getByRole('heading', { level: 1 }), room).toHaveCount(1);
    await expect(page, room).toHaveTitle(new RegExp(`${room}.*Cordelina$`));
  }
});

test('on a touch screen what is pressed is 44 px high and wide; the title keeps its place', async ({
  browser,
}) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
  const page = await context.newPage();
  for (const [room, address, there] of ROOMS) {
    await page.goto(address);
    await expect(there(page), room).toBeVisible();
    const small = await page.evaluate(() =>
      [...document.querySelectorAll('button, a[href], select, [role=tab]')]
        .filter((e) => {
          const box = e.getBoundingClientRect();
          // What is only read out, what stands within a sentence, and rows of words on the chart's own lines.
          const isApart =
            e.classList.contains('sr-only') ||
            e.closest('p, dd, li > span, [data-row], [data-to-scale], .paper') !== null;
          return box.width > 2 && !isApart && (box.height < 43.5 || box.width < 27.5);
        })
        .map((e) => `${(e.getAttribute('aria-label') ?? e.textContent ?? '').slice(0, 30)}`),
    );
    expect(small, room).toEqual([]);
    const title = page.getByTitle('Rename', { exact: true });
    if (address.startsWith('/designs')) expect((await title.boundingBox())!.width, room).toBeGreaterThan(80);
  }
  await context.close();
});

/** What has the keys, as a person would say it. */
const inHand = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const e = document.activeElement!;
    return `${e.tagName} ${e.getAttribute('aria-label') ?? e.textContent?.slice(0, 40) ?? ''}`;
  });

/** Opens something by the keyboard from what has the keys, leaves it with Escape: they are where they were. */
async function comesBack(
  page: Page,
  from: Locator,
  opened: (page: Page) => Locator,
  key = 'Enter',
): Promise<void> {
  // What waits for its words to be written takes no keys yet.
  await expect(from).toBeEnabled();
  await from.focus();
  const before = await inHand(page);
  await page.keyboard.press(key);
  await expect(opened(page), before).toBeVisible();
  await still(page);
  await page.keyboard.press('Escape');
  await expect(opened(page), before).toBeHidden();
  await expect.poll(() => inHand(page), before).toBe(before);
}
const dialog = (page: Page) => page.getByRole('dialog').first();
const menu = (page: Page) => page.getByRole('menu').first();

test('the focus is where it was after every sheet and menu, in every room', async ({ page }) => {
  test.slow();
  // The two sheets of everywhere, in one room of each kind.
  for (const [room, address, there] of ROOMS.filter(([room]) =>
    /^(Workroom|Import|Bench|Needles)$/.test(room),
  )) {
    await page.goto(address);
    await expect(there(page), room).toBeVisible();
    await comesBack(page, page.getByRole('link', { name: 'Cordelina' }), dialog, 'Control+k');
    await comesBack(page, page.getByRole('button', { name: /^This room and its keys/ }), dialog);
  }
  const button = (name: string | RegExp) => page.getByRole('button', { name }).first();
  await page.goto('/');
  for (const name of ['New design', 'Basket']) await comesBack(page, button(name), dialog);
  await comesBack(page, button(/^More for/), menu);
  await page.getByRole('link', { name: /./ }).and(page.locator('[data-card]')).first().focus();
  await comesBack(page, page.locator('[data-card][tabindex="0"]'), dialog, 'F2');

  await openCopy(page, 'Cornice vest');
  await expect(chart(page)).toBeVisible();
  for (const name of [/^Back, all over/, /^Change$/, /^Mirror as you go/])
    await comesBack(page, button(name), menu);
  for (const name of ['Motif shelf', /^flat · 18/, 'Earlier states'])
    await comesBack(page, button(name), dialog);
  await comesBack(page, button('All stitches'), (p) => p.getByRole('dialog', { name: 'All stitches' }));
  // From the chart, by its own key, they come back to the chart.
  await comesBack(page, page.getByRole('application'), dialog, '/');

  await page.getByRole('link', { name: 'Words' }).click();
  await comesBack(page, button('Copy the sheet …'), menu);
  await page.getByRole('link', { name: 'Setting out' }).click();
  await comesBack(page, button('Add a part'), menu);
  await page.getByRole('link', { name: 'Cloth' }).click();
  await comesBack(page, button('Save …'), menu);
});

test('a title is renamed in its field, and the focus is on the title again', async ({ page }) => {
  await newDesign(page, 'First name', 6, 4);
  await page.getByTitle('Rename', { exact: true }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Title of the design')).toBeFocused();
  await page.getByLabel('Title of the design').fill('Second name');
  await page.keyboard.press('Enter');
  await expect(page.getByTitle('Rename', { exact: true })).toHaveText('Second name');
  await expect(page.getByTitle('Rename', { exact: true })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(page.getByTitle('Rename', { exact: true })).toBeFocused();
});

test('what is taken from under the hands leaves them to what stands in its place', async ({ page }) => {
  const copy = await openCopy(page, 'Cornice vest', '/setting-out');
  await expect(page.getByText(/^Cast on \d/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Take size M out' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Take size M out' })).toHaveCount(0);
  await expect.poll(() => inHand(page)).toMatch(/size (?:S|L|XL)/);
  expect(copy.title).toContain('Cornice');
});

test('menus keep to a low window and scroll in it', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 420 });
  await openCopy(page, 'Scree mittens');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  const box = (await menu(page).boundingBox())!;
  expect(box.y).toBeGreaterThanOrEqual(0);
  expect(box.y + box.height).toBeLessThanOrEqual(420);
  await page.keyboard.press('End');
  const last = menu(page).getByRole('menuitemcheckbox').last();
  await expect(last).toBeInViewport();
});

test('the line between chart and words goes by keys, and single keys are the room’s own', async ({
  page,
}) => {
  await openCopy(page, 'Scree mittens');
  await expect(chart(page)).toBeVisible();
  const line = page.getByRole('separator', { name: 'Between chart and words' });
  const before = Number(await line.getAttribute('aria-valuenow'));
  await line.focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => Number(await line.getAttribute('aria-valuenow'))).toBeLessThan(before);
  await page.keyboard.press('Enter');
  await expect.poll(async () => Number(await line.getAttribute('aria-valuenow'))).toBe(before);

  // With the hands in the head of the page a letter does nothing; in the room it does.
  await page.goto('/');
  await page.getByRole('link', { name: 'Swatch book' }).focus();
  await page.keyboard.press('n');
  await expect(dialog(page)).toBeHidden();
  await page.locator('[data-card][tabindex="0"]').focus();
  await page.keyboard.press('n');
  await expect(page.getByRole('dialog', { name: 'New design' })).toBeVisible();
});

test('past the head of the page leads a link, in every room', async ({ page }) => {
  for (const address of ['/', demo(2), demo(2, '/words')]) {
    await page.goto(address);
    const skip = page.getByRole('button', { name: 'Skip to what lies here' });
    await expect(skip).toBeAttached();
    // A room that is just there takes the keys once for its own.
    await expect(async () => {
      await skip.focus();
      await expect(skip).toBeInViewport({ timeout: 500 });
    }).toPass();
    await page.keyboard.press('Enter');
    await expect
      .poll(() => page.evaluate(() => document.activeElement?.closest('main') !== null), address)
      .toBe(true);
  }
});

test('past the head of a room that is still being opened, the keys go to it when it is there', async ({
  page,
}) => {
  let open = () => {};
  const opened = new Promise<void>((resolve) => (open = resolve));
  await page.route('**/api/designs/*', async (route) => {
    await opened;
    await route.continue();
  });
  await page.goto(demo(2));
  await expect(page.getByText('Opening …')).toBeVisible();
  const skip = page.getByRole('button', { name: 'Skip to what lies here' });
  await skip.focus();
  await page.keyboard.press('Enter');
  open();
  await expect.poll(() => page.evaluate(() => document.activeElement?.closest('main') !== null)).toBe(true);
});

test('a reload, Back and Forward come back to the chart and the cell; a place that is not there is said', async ({
  page,
}) => {
  const copy = await openCopy(page, 'Cornice vest');
  await expect(chart(page)).toBeVisible();
  await page.getByRole('button', { name: /^Back, all over/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Diamond' }).click();
  await keys(page, 'ArrowUp', 'ArrowUp', 'ArrowUp', 'ArrowLeft');
  const at = page.getByTestId('cursor');
  await expect(at).toContainText('Row 4');
  await expect(page).toHaveURL(/chart=.*row=4&column=2/);
  await page.reload();
  await expect(page.getByRole('button', { name: /^Diamond/ })).toBeVisible();
  await expect(at).toContainText('Row 4');
  await page.getByRole('link', { name: 'Words' }).click();
  await expect(page.getByTestId('rows').first()).toBeVisible();
  await page.goBack();
  await expect(at).toContainText('Row 4');

  await page.goto(`/designs/${copy.id}?row=999`);
  await expect(page.getByTestId('said')).toContainText('There is no such row in this chart');
  await page.goto(`/designs/${copy.id}?chart=nowhere`);
  await expect(page.getByTestId('said')).toContainText('this is its first');
  await page.goto(`/designs/${copy.id}/attic`);
  await expect(page.getByText('There is nothing at this address.')).toBeVisible();
  await page.getByRole('link', { name: 'Back to the workroom' }).click();
  await expect(page.getByRole('heading', { name: 'Workroom' })).toBeVisible();
});

test('a dark page as the system wishes: told apart as well, and the sheet stays paper', async ({ page }) => {
  await page.emulateMedia({ colorScheme: 'dark' });
  for (const address of ['/', demo(2), demo(2, '/words')]) {
    await page.goto(address);
    await expect(page.locator('main')).toBeVisible();
    await still(page);
    // What is painted upside down for the dark is seen otherwise than its colours say.
    expect(
      (await barriers(page)).filter((b) => !b.includes('charted')),
      address,
    ).toEqual([]);
  }
  const ground = (of: Locator) => of.evaluate((e) => getComputedStyle(e).backgroundColor);
  await page.goto(demo(2, '/words'));
  await expect(page.getByTestId('rows').first()).toBeVisible();
  expect(await ground(page.locator('body'))).toBe('rgb(25, 24, 21)');
  expect(await ground(page.getByTestId('sheet'))).toBe('rgb(252, 250, 245)');
  // By choice: light whatever the system wishes, and kept.
  await page.goto('/');
  await page.getByRole('button', { name: /^Light or dark as the system is/ }).click();
  await expect(page.getByRole('button', { name: /^Light page/ })).toBeVisible();
  expect(await ground(page.locator('body'))).toBe('rgb(245, 241, 232)');
  await page.reload();
  await expect(page.getByRole('button', { name: /^Light page/ })).toBeVisible();
  expect(await ground(page.locator('body'))).toBe('rgb(245, 241, 232)');
});

test('in colours the system forces, what is pressed or current differs from what is not', async ({
  page,
}) => {
  await page.emulateMedia({ forcedColors: 'active' });
  await page.goto(demo(2));
  await expect(chart(page)).toBeVisible();
  const ground = (of: Locator) => of.evaluate((e) => getComputedStyle(e).backgroundColor);
  const nav = page.getByRole('navigation', { name: 'Rooms' });
  expect(await ground(nav.getByRole('link', { name: 'Bench' }))).not.toBe(
    await ground(nav.getByRole('link', { name: 'Cloth' })),
  );
  expect(await ground(page.locator('[aria-pressed="true"]').first())).not.toBe(
    await ground(page.locator('[aria-pressed="false"]').first()),
  );
});

test('one chart prints alone from the bench, or what is selected of it; and is saved as a drawing and a picture', async ({
  page,
}) => {
  await openCopy(page, 'Scree mittens');
  await expect(chart(page)).toBeVisible();
  await page.evaluate(() => window.dispatchEvent(new Event('beforeprint')));
  const printed = page.getByTestId('printed-chart');
  await page.emulateMedia({ media: 'print' });
  await expect(printed).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Rooms' })).toBeHidden();
  await expect(page.getByRole('toolbar', { name: 'Chart', exact: true })).toBeHidden();
  await expect(printed).toContainText('14 columns, 8 rows');
  await page.emulateMedia({ media: 'screen' });
  await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));
  await expect(printed).toHaveCount(0);
  await keys(page, 'Shift+ArrowUp', 'Shift+ArrowLeft', 'Shift+ArrowLeft');
  await page.evaluate(() => window.dispatchEvent(new Event('beforeprint')));
  await expect(printed).toContainText('Rows 1 to 2, columns 1 to 3 of 14.');
  await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));
  await keys(page, 'Escape');

  const saved = async (name: string) => {
    await page.getByRole('toolbar', { name: 'Chart', exact: true }).getByRole('button').first().click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('menuitem', { name }).click(),
    ]);
    const chunks: Buffer[] = [];
    for await (const chunk of await download.createReadStream()) chunks.push(chunk as Buffer);
    return { name: download.suggestedFilename(), bytes: Buffer.concat(chunks) };
  };
  const svg = await saved('Save the chart as a drawing (SVG)');
  expect(svg.name).toMatch(/\.svg$/);
  expect(svg.bytes.toString()).toMatch(/<svg[^>]*width="[\d.]+mm"/);
  const png = await saved('Save the chart as a picture (PNG)');
  expect(png.bytes.subarray(1, 4).toString('latin1')).toBe('PNG');
  // 17 cells of 5 mm at 300 dots to an inch, or thereabouts.
  expect(png.bytes.readUInt32BE(16)).toBeGreaterThan(900);
  await expect(page.getByTestId('said')).toContainText('dots to an inch');
});

test('the sheet shows where its pages end', async ({ page }) => {
  await page.goto(demo(2, '/words'));
  await expect(page.getByTestId('rows').first()).toBeVisible();
  const ends = page.getByTestId('page-break');
  await expect(ends.first()).toContainText('page 2');
  expect(await ends.count()).toBeGreaterThan(2);
});

test('an empty workroom leads to the three ways a design begins; a walk leads through the bench and is found again', async ({
  page,
}) => {
  await page.route('**/api/designs', (route) =>
    route.request().method() === 'GET' ? route.fulfill({ json: { designs: [] } }) : route.continue(),
  );
  await page.goto('/');
  for (const name of ['Draw it', 'Paste its words', 'Take a motif'])
    await expect(page.getByRole('button', { name: new RegExp(`^${name}`) })).toBeVisible();
  await page.getByRole('button', { name: /^Take a motif/ }).click();
  await expect(dialog(page)).toContainText('Plait');
  await page.keyboard.press('Escape');
  await page.unroute('**/api/designs');

  await page.goto('/');
  await page.getByRole('button', { name: 'Take the walk' }).click();
  const walk = page.getByRole('complementary', { name: 'A walk through the bench' });
  await expect(walk).toContainText('1 of 8');
  await walk.getByRole('button', { name: 'Next' }).click();
  await expect(walk).toContainText('2 of 8');
  await page.getByRole('button', { name: /^Leave the walk/ }).click();
  await expect(walk).toBeHidden();
  await page.reload();
  await expect(chart(page)).toBeVisible();
  await keys(page, '?');
  await page.getByRole('button', { name: 'Take a walk through the bench' }).click();
  await expect(walk).toContainText('2 of 8');
});

test('hundreds of designs: few stops of the Tab key, arrows between cards, found by their stitches, sorted by tags', async ({
  page,
}) => {
  await newDesign(page, 'Rope among many', 12, 8);
  await keys(page, 'PageDown', 'Home', '2', '/', '2', 'l', 'c', 'Enter');
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
  await page.goto('/');
  const cards = page.locator('[data-card]');
  await expect(cards.first()).toBeVisible();
  await expect(
    page.locator('main [tabindex="0"], main button:not([tabindex="-1"]), main input, main select'),
  ).not.toHaveCount(0);
  expect(await page.locator('[data-card][tabindex="0"]').count()).toBe(1);
  await page.locator('[data-card][tabindex="0"]').focus();
  const first = await inHand(page);
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => inHand(page)).not.toBe(first);
  await page.keyboard.press('ArrowLeft');
  await expect.poll(() => inHand(page)).toBe(first);

  await page.getByLabel('Seek a design').fill('Rope among many');
  await page
    .getByRole('button', { name: /^More for Rope among many/ })
    .first()
    .click();
  await page.getByRole('menuitem', { name: 'Tags …' }).click();
  await page.getByLabel('Another tag').fill('equinox, trial');
  await page.getByRole('button', { name: 'Keep these tags' }).click();
  await page.getByLabel('Seek a design').fill('2/2 lc equinox');
  await expect(page.locator('[data-card]')).toHaveCount(1);
  await page.reload();
  await expect(page.getByLabel('Seek a design')).toHaveValue('2/2 lc equinox');
  await expect(page.locator('[data-card]')).toHaveCount(1);
  await page.locator('[data-card]').focus();
  await page.keyboard.press('Delete');
  await expect(page.locator('[data-card]')).toHaveCount(0);
  // After a reload too it is had back.
  await page.reload();
  await page.getByRole('button', { name: 'Basket' }).click();
  await page.getByRole('button', { name: 'Put Rope among many back' }).first().click();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-card]')).toHaveCount(1);
});

test('a file that is dropped is brought in; one that is none says so', async ({ page }) => {
  await page.goto('/');
  await expect(page.locator('[data-card]').first()).toBeVisible();
  const drop = (name: string, text: string) =>
    page.evaluate(
      ([name, text]) => {
        const data = new DataTransfer();
        data.items.add(new File([text!], name!, { type: 'application/json' }));
        const to = document.querySelector('main')!;
        for (const type of ['dragover', 'drop'])
          to.dispatchEvent(new DragEvent(type, { dataTransfer: data, bubbles: true, cancelable: true }));
      },
      [name, text],
    );
  await drop('broken.json', 'nothing');
  await expect(page.getByText('Words of 1 line: Import reads them.')).toBeVisible();
  await page.keyboard.press('Escape');
  await drop('broken.json', '{"format": 1, ');
  await expect(page.getByText(/^This begins like a document and is none/)).toBeVisible();
  await page.keyboard.press('Escape');
  const rows = [Array(6).fill('k'), Array(6).fill('k')];
  await drop(
    'dropped.json',
    JSON.stringify({ format: 1, id: crypto.randomUUID(), title: 'Dropped', charts: [{ width: 6, rows }] }),
  );
  await page.getByRole('button', { name: 'Bring in as a new design' }).click();
  await expect(page.getByTitle('Rename', { exact: true })).toHaveText('Dropped');
});

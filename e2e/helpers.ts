import { startChart, startDesign, type Design, type Studio } from '@cordelina/core';
import AxeBuilder from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';

/** What a person does on the page, in the words of the trade. */

/** A design on an empty cloth, laid down for a test that begins at the bench. */
export async function newDesign(page: Page, title: string, columns: number, rows: number): Promise<void> {
  const cloth = startChart({ columns, rows, construction: 'flat', ground: 'p' });
  const document = startDesign(crypto.randomUUID(), title, cloth);
  const made = await page.request.post('/api/designs', { data: { document } });
  expect(made.status()).toBe(201);
  await page.goto(`/designs/${document.id}`);
  await expect(chart(page)).toBeVisible();
}

/**
 * A copy of one of the demo's designs, opened for a test that changes it: another test may be at the demo's
 * own at that moment. Its title says so.
 */
export async function openCopy(page: Page, title: string, room = ''): Promise<Design> {
  const { designs } = (await (await page.request.get('/api/designs')).json()) as {
    designs: { id: string; title: string }[];
  };
  const of = designs.find((design) => design.title === title)!;
  const { document } = (await (await page.request.get(`/api/designs/${of.id}`)).json()) as {
    document: Design;
  };
  const id = crypto.randomUUID();
  const copy = { ...document, id, title: `${title}, copy ${id.slice(0, 8)}` };
  const made = await page.request.post('/api/designs', { data: { document: copy } });
  expect(made.status()).toBe(201);
  await page.goto(`/designs/${copy.id}${room}`);
  return copy;
}

/** The same as a person begins it, from the workroom. */
export async function layOutDesign(page: Page, title: string, columns: number, rows: number): Promise<void> {
  await page.goto('/');
  await page.getByRole('button', { name: 'New design' }).first().click();
  await page.getByLabel('Title').fill(title);
  await page.getByLabel('Columns (stitches)').fill(String(columns));
  await page.getByRole('textbox', { name: 'Rows' }).fill(String(rows));
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await expect(chart(page)).toBeVisible();
}

/** Nothing moves on the page any more: what opens or closes has done so. */
export const still = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    const ended = (a: Animation) => a.finished.catch(() => undefined);
    await Promise.all(document.getAnimations().map(ended));
  });

export const chart = (page: Page): Locator => page.getByTestId('chart');
export const cursor = (page: Page): Locator => page.getByTestId('cursor');
export const wordsOf = (page: Page, row: number): Locator => page.locator(`[data-row="${row}"]`);

/** Types keys on the chart one by one. */
export async function keys(page: Page, ...pressed: string[]): Promise<void> {
  await chart(page).focus();
  for (const key of pressed) await page.keyboard.press(key);
}

/** Types a run or crossing as it is written, `6k` or `2/2lc`. */
export async function type(page: Page, text: string): Promise<void> {
  await keys(page, ...text);
  // What may go on is done after a pause.
  await expect(page.getByTestId('typed')).toHaveCount(0);
}

export async function saved(page: Page): Promise<void> {
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
}

/** The middle of a cell on the screen, found by asking the cursor where a click lands. */
export async function cellPoint(page: Page, row: number, column: number): Promise<{ x: number; y: number }> {
  const box = (await chart(page).boundingBox())!;
  const at = async (x: number, y: number) => {
    await page.mouse.click(x, y);
    const text = (await cursor(page).textContent()) ?? '';
    const found = /Row (\d+).*?column (\d+)/.exec(text)!;
    return { row: Number(found[1]), column: Number(found[2]) };
  };
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const here = await at(middle.x, middle.y);
  const cell = await cellSize(page);
  return { x: middle.x + (here.column - column) * cell, y: middle.y + (here.row - row) * cell };
}

/** The height of a row's words is that of its cells: they lie on one line. */
export async function cellSize(page: Page): Promise<number> {
  const row = page.locator('[data-row]').first();
  return (await row.boundingBox())!.height;
}

/** The chart as it is painted, without what is laid over it, as a number: equal for equal pictures. */
export async function chartPicture(page: Page): Promise<number> {
  const paint = () =>
    chart(page)
      .locator('canvas')
      .first()
      .evaluate((canvas: HTMLCanvasElement) => {
        const { width, height } = canvas;
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, width, height);
        return data.reduce((sum, byte) => (sum * 31 + byte) | 0, 0);
      });
  // Painted to the end: twice the same.
  let last = await paint();
  for (let now = await paint(); now !== last; now = await paint()) last = now;
  return last;
}

/** What keeps people from using the page, or a part of it: by rule, with the first place of each. */
export async function barriers(page: Page, part?: string): Promise<string[]> {
  const axe = new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa']);
  const { violations } = await (part ? axe.include(part) : axe).analyze();
  return violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`);
}

/** Types a text into the import room, in place of what is there. */
export async function paste(page: Page, text: string): Promise<void> {
  const box = page.getByRole('textbox', { name: 'Written rows' });
  // The editor marks words while it is filled: it is filled again where a mark has swallowed some.
  await expect(async () => {
    await box.fill(text);
    expect((await box.locator('.cm-line').allTextContents()).join('\n')).toBe(text);
  }).toPass();
}

/** The studio's house style given up, as it was before a test that set one. */
export async function withoutHouse(page: Page): Promise<void> {
  const { document, version } = (await (await page.request.get('/api/studio')).json()) as {
    document: Studio;
    version: number;
  };
  const step = { kind: 'set', path: ['house'], was: document.house, now: null };
  const changes = [{ id: crypto.randomUUID(), label: 'no house style', steps: [step] }];
  const saved = await page.request.post('/api/studio/changes', { data: { base: version, changes } });
  expect(saved.status()).toBe(200);
}

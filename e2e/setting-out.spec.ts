import { startDesign, readPattern, type Chart } from '@cordelina/core';
import { expect, test, type Page } from '@playwright/test';
import { barriers, saved } from './helpers.js';

const charted = (id: string, name: string, text: string): Chart => {
  const { chart } = readPattern(text, { construction: 'flat', firstRow: 'RS', school: 'front-back' });
  return { ...chart!, id, name, part: 'panel' };
};

const plait = charted(
  'plait',
  'Plait',
  `Row 1 (RS): p2, 2/2 LC, k2, p2.
Row 2 and all WS rows: work the stitches as they present.
Row 3: p2, k2, 2/2 RC, p2.
Row 4: work the stitches as they present.`,
);
const diamond = charted(
  'diamond',
  'Diamond',
  `Row 1 (RS): p4, 2/2 LC, p4.
Row 2 and all WS rows: work the stitches as they present.
Row 3: p3, 2/1 RPC, 2/1 LPC, p3.
Row 5: p3, 2/1 LPC, 2/1 RPC, p3.
Row 6: work the stitches as they present.`,
);

/** A design of two panels, laid down for a test that begins at its setting out. */
async function twoPanels(page: Page, title: string): Promise<void> {
  const document = { ...startDesign(crypto.randomUUID(), title, plait), charts: [plait, diamond] };
  expect((await page.request.post('/api/designs', { data: { document } })).status()).toBe(201);
  await page.goto(`/designs/${document.id}/setting-out`);
  await page.getByRole('button', { name: 'Begin with the charts of this design' }).click();
}

const parts = (page: Page) => page.getByRole('list', { name: /^Parts, from the left/ }).getByRole('listitem');
const cell = (page: Page, name: string) =>
  page.getByRole('table', { name: 'Sizes' }).getByLabel(name, { exact: true });

test('a vest front is set out from two panels and a mirrored pair, fitted to 48 cm in four sizes, and printed', async ({
  page,
}) => {
  await twoPanels(page, 'Ridge vest');
  // Edge, ground, plait, gap, diamond, ground, edge; seen from the left the last comes first.
  await expect(parts(page)).toHaveCount(7);
  await expect(page.getByText('No gauge yet, so no width')).toBeVisible();
  await page
    .getByRole('group', { name: 'Gauge of plain cloth' })
    .getByLabel('From a swatch')
    .selectOption({ label: 'Hut wool, stocking stitch' });
  await expect(page.getByTestId('totals')).toContainText(
    'parts without a swatch as their cloth is worked out to lie',
  );

  // The plait gets its mirror image, and the gap too.
  await page.getByRole('button', { name: /^Plait, 10 stitches/ }).click();
  await page.getByRole('button', { name: 'Put its mirror image in its mirror place' }).click();
  await expect(parts(page)).toHaveCount(8);
  await expect(page.getByRole('button', { name: /^Plait mirrored, 10 stitches/ })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  // It stands where the right one does, counted from the other end; the gap is put between it and the diamond.
  await page.getByRole('button', { name: /^Diamond, 12 stitches/ }).click();
  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: 'Ground' }).click();
  const names = () =>
    parts(page).evaluateAll((all) =>
      all.map((li) => li.querySelector('button')!.getAttribute('aria-label')!.replace(/, .*/, '')),
    );
  await expect
    .poll(names)
    .toEqual([
      'edge',
      'ground 1',
      'Plait mirrored',
      'ground 3',
      'Diamond',
      'ground 2',
      'Plait',
      'ground 1',
      'edge',
    ]);
  await page.getByLabel('Equal to its mirror place').check();
  await expect
    .poll(names)
    .toEqual([
      'edge',
      'ground 1',
      'Plait mirrored',
      'ground 2',
      'Diamond',
      'ground 2',
      'Plait',
      'ground 1',
      'edge',
    ]);

  // A part is moved by keyboard, and the move undone.
  await page.getByRole('button', { name: 'One place to the left' }).click();
  await expect
    .poll(names)
    .not.toEqual([
      'edge',
      'ground 1',
      'Plait mirrored',
      'ground 2',
      'Diamond',
      'ground 2',
      'Plait',
      'ground 1',
      'edge',
    ]);
  await page.getByRole('button', { name: 'Undo' }).click();

  await page.getByRole('tab', { name: 'Piece', exact: true }).click();
  const below = page.getByRole('group', { name: 'Border below' });
  await below.getByLabel('Cloth').selectOption('k2, p2 rib');

  // Four sizes: 48 cm across in the second.
  await cell(page, 'Name of size One size').fill('S');
  await cell(page, 'Name of size One size').press('Enter');
  await cell(page, 'The measure, S').fill('44');
  await cell(page, 'The measure, S').press('Enter');
  await cell(page, 'The length, S').fill('50');
  await cell(page, 'The length, S').press('Enter');
  for (const [name, measure] of [
    ['M', '48'],
    ['L', '52 cm'],
    ['XL', '22 in'],
  ] as const) {
    await page.getByRole('button', { name: 'A size', exact: true }).click();
    const made = page.getByRole('table', { name: 'Sizes' }).getByRole('row').last();
    await made.getByRole('textbox').first().fill(name);
    await made.getByRole('textbox').first().press('Enter');
    await cell(page, `The measure, ${name}`).fill(measure);
    await cell(page, `The measure, ${name}`).press('Enter');
  }
  await cell(page, 'The measure, M').fill('no measure');
  await cell(page, 'The measure, M').press('Tab');
  await expect(page.getByRole('alert')).toContainText('The measure is one measure, as 48 cm or 7½ in');
  await cell(page, 'The measure, M').fill('48');
  await cell(page, 'The measure, M').press('Enter');
  // The gaps beside the diamond stay narrow: the sides take up the width.
  await page
    .getByRole('button', { name: /^ground 2, / })
    .first()
    .click();
  await page.getByLabel('At most', { exact: true }).fill('6');
  await page.getByLabel('At most', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Fit all sizes' }).click();
  for (const name of ['S', 'M', 'L', 'XL'])
    await expect(page.getByTestId(`cast-on-${name}`)).toHaveText(/^\d+$/);
  const castOns = await Promise.all(
    ['S', 'M', 'L', 'XL'].map(async (name) =>
      Number(await page.getByTestId(`cast-on-${name}`).textContent()),
    ),
  );
  expect([...castOns].sort((a, b) => a - b)).toEqual(castOns);
  // k2, p2 rib that begins and ends alike.
  for (const n of castOns) expect(n % 4).toBe(2);
  await cell(page, 'The measure, M').click();
  const ways = page.getByRole('region', { name: 'Ways to the width' });
  await expect(ways).toContainText('M: 48 cm across');
  await expect(ways.getByText('as it is now')).toBeVisible();

  await page.getByRole('tab', { name: 'Going up' }).click();
  await expect(page.getByText('They meet again every 12 rows')).toBeVisible();
  await saved(page);
  await expect(page.locator('[data-proof="proved"]').first()).toBeVisible();
  expect(await barriers(page)).toEqual([]);

  await page.getByRole('link', { name: 'Words' }).click();
  const sheet = page.getByTestId('sheet');
  await expect(sheet).toContainText(`Cast on ${castOns[0]} (${castOns.slice(1).join(', ')}) sts.`);
  await expect(sheet).toContainText('work row 1 of Plait mirrored over the next 10 sts');
  await expect(page.getByRole('img', { name: 'Schematic of Ridge vest' })).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Rooms' })).toBeHidden();
  expect((await page.pdf({ format: 'A4' })).length).toBeGreaterThan(20_000);
});

test('a panel on the wrong side is mended, one of another design is copied in, and all of it can be undone', async ({
  page,
}) => {
  await twoPanels(page, 'Ridge wrap');
  await page.getByLabel('First row of the panels').selectOption('WS');
  const findings = page.getByRole('list', { name: 'Findings' });
  await expect(findings.getByText('which is not of the side')).toHaveCount(2);
  await findings.getByRole('button', { name: 'Begin it one row later' }).first().click();
  await expect(findings.getByText('which is not of the side')).toHaveCount(1);
  await findings.getByRole('button', { name: 'Give its chart a set-up row' }).click();
  await expect(findings.getByText('which is not of the side')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(findings.getByText('which is not of the side')).toHaveCount(1);
  await page.keyboard.press('Control+y');

  await page.getByRole('button', { name: 'Add a part' }).click();
  await page.getByRole('menuitem', { name: 'Panel of another design' }).click();
  await page.getByRole('dialog').getByLabel('Design').selectOption({ label: 'Cornice vest' });
  await page.getByRole('dialog').getByLabel('Chart').selectOption({ label: 'Diamond' });
  await page.getByRole('button', { name: 'Put it in' }).click();
  await expect(page.getByText('Copied from Cornice vest, which has it as it was.')).toBeVisible();
  await expect(parts(page)).toHaveCount(8);
  await saved(page);
  await page.reload();
  await expect(parts(page)).toHaveCount(8);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(parts(page)).toHaveCount(7);
});

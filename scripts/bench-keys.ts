/** How many keys a panel takes to chart, against the characters of its written rows. */
import type { Browser, Page } from '@playwright/test';

interface Panel {
  name: string;
  columns: number;
  rows: number;
  /** What is pressed, from an empty cloth of purl: entries as they are typed, and keys by their names in brackets. */
  pressed: string;
}

/** A key by its name, or one character of an entry. */
const keysOf = (pressed: string): string[] =>
  pressed
    .split(/(\[[^\]]+\])/)
    .flatMap((part) =>
      part.startsWith('[') && part.length > 2 ? [part.slice(1, -1)] : [...part.replaceAll(/\s/g, '')],
    );

const PANELS: readonly Panel[] = [
  {
    // Two ropes of four on purl, crossed in rows 3 and 7.
    name: 'rope panel, 12 × 8',
    columns: 12,
    rows: 8,
    pressed: '2. 4k 2. 4k 2. 2/2lc 2. [Enter] [ArrowUp] [ArrowUp] d',
  },
  {
    // Ropes of three woven all over: left in row 3, right half a repeat on in row 7.
    name: 'woven lattice, 14 × 8',
    columns: 14,
    rows: 8,
    pressed: '14k . 3/3lc [Enter] . 14. 4. 3/3rc',
  },
  {
    // Six ropes of two that meet in pairs, cross, part, and meet their other neighbours; drawn by its mirror line.
    name: 'interlace of six ropes, 24 × 16',
    columns: 24,
    rows: 16,
    pressed:
      'a . 2k 2. 2k 2. 2k 13.' +
      '. 2/1lpc 2/1rpc 2. 1 [Enter] 12.' +
      '2. 2/2lc 4. [Enter] 12.' +
      '. 2 [Enter] 1 [Enter] 2. 2 [Enter] 12.' +
      '5. 1 [Enter] 2 [Enter] 13.' +
      '6. 2/2rc 14.' +
      '5. 2 [Enter] 1 [Enter]',
  },
];

async function chart(page: Page, url: string, { name, columns, rows, pressed }: Panel): Promise<number> {
  await page.goto(url);
  await page.getByRole('button', { name: 'New design' }).first().click();
  await page.getByLabel('Title').fill(name);
  await page.getByLabel('Columns (stitches)').fill(String(columns));
  await page.getByRole('textbox', { name: 'Rows' }).fill(String(rows));
  await page.getByRole('button', { name: 'Lay it on the bench' }).click();
  await page.getByTestId('chart').waitFor();
  const keys = keysOf(pressed);
  for (const key of keys) await page.keyboard.press(key);
  // What is typed last is done when no further key makes more of it.
  await page.locator('[data-testid="said"] .font-mono').waitFor({ state: 'detached' });
  const refused = await page.getByTestId('said').allTextContents();
  if (refused.length) throw new Error(`${name}: ${refused.join()}`);
  const written = await page.locator('[data-row] button').allTextContents();
  const characters = written.reduce((sum, words) => sum + words.length, 0);
  console.log(
    `${name}: ${keys.length} keys for ${characters} characters, keys / characters (at most 0.5, aim 0.35): ${(keys.length / characters).toFixed(2)}`,
  );
  if (process.env.SHOW_WORDS) console.log([...written].reverse().join('\n'));
  return keys.length / characters;
}

export async function keysPressed(browser: Browser, url: string): Promise<void> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, serviceWorkers: 'block' });
  for (const panel of PANELS) await chart(page, url, panel);
  await page.close();
}

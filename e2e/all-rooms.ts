import { type Locator, type Page } from '@playwright/test';
import { chart } from './helpers.js';

/** The address of one of the demo's designs. */
export const demo = (n: number, room = '') => `/designs/5c0ee000-0000-4000-8000-00000000000${n}${room}`;

/** Each room, and what is on the screen when it is there. */
export const ROOMS: readonly (readonly [room: string, address: string, there: (page: Page) => Locator])[] = [
  ['Workroom', '/', (page) => page.getByRole('list', { name: 'Designs' }).getByRole('listitem').first()],
  ['Swatch book', '/swatches', (page) => page.getByRole('table').getByRole('row').nth(1)],
  ['Import', '/import', (page) => page.getByRole('textbox', { name: 'Written rows' })],
  ['A folder of patterns', '/import/folder', (page) => page.locator('main')],
  ['Bench', demo(2), chart],
  ['Cloth', demo(1, '/cloth'), (page) => page.locator('main canvas').first()],
  ['Words', demo(2, '/words'), (page) => page.getByTestId('rows').first()],
  ['Setting out', demo(2, '/setting-out'), (page) => page.getByText(/^Cast on \d/).first()],
  ['Machine', demo(6, '/machine'), (page) => page.locator('main')],
  ['Needles', demo(1, '/needles'), (page) => page.getByRole('tab').first()],
];

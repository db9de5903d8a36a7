import { TOKENS } from '@cordelina/core';

/** Gives the page its colours: the style sheet knows them as `--fleece`, `--chalk` and so on. */
export function layColours(page: HTMLElement): void {
  for (const [name, colour] of Object.entries(TOKENS)) page.style.setProperty(`--${name}`, colour);
}

/** The colours as they are on the screen, in whichever theme; drawings on chart paper are painted in `TOKENS`. */
export const SEEN = {
  fleece: 'var(--color-fleece)',
  chalk: 'var(--color-chalk)',
  peat: 'var(--color-peat)',
  slate: 'var(--color-slate)',
  wash: 'var(--color-wash)',
  weld: 'var(--color-weld)',
  madder: 'var(--color-madder)',
} as const;

export const THEMES = ['system', 'light', 'dark'] as const;
export type Theme = (typeof THEMES)[number];
export const THEME_NAMES: Readonly<Record<Theme, string>> = {
  system: 'Light or dark as the system is',
  light: 'Light page',
  dark: 'Dark page',
};

const wish = typeof window === 'undefined' ? null : window.matchMedia('(prefers-color-scheme: dark)');
let worn: Theme = 'system';

function wearIt(): void {
  const isDark = worn === 'dark' || (worn === 'system' && wish?.matches === true);
  if (isDark) document.documentElement.dataset.theme = 'dark';
  else delete document.documentElement.dataset.theme;
}
wish?.addEventListener('change', wearIt);

/** What cloth lies on: light or dark whatever the page is, or as the page. */
export const GROUNDS = ['page', 'light', 'dark'] as const;
export type Ground = (typeof GROUNDS)[number];

/** Has all cloth laid on this from now on. */
export function layGround(ground: Ground): void {
  if (ground === 'page') delete document.documentElement.dataset.ground;
  else document.documentElement.dataset.ground = ground;
}

/** Has the page light or dark, or as the system wishes from now on. */
export function wear(theme: Theme): void {
  worn = theme;
  wearIt();
}

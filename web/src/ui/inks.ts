import { TOKENS } from '@cordelina/core';

/** Gives the page its colours: the style sheet knows them as `--fleece`, `--chalk` and so on. */
export function layColours(page: HTMLElement): void {
  for (const [name, colour] of Object.entries(TOKENS)) page.style.setProperty(`--${name}`, colour);
}

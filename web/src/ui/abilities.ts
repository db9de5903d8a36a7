/** What a browser may lack that the page uses, and what there is less of for it. Everything else goes on. */

/** Whether cloth can be painted beside the page. */
export const paintsCloth = (): boolean => typeof OffscreenCanvas !== 'undefined';

/** What this browser, or the way the page is served, leaves out: a sentence each. */
export function lacking(): string[] {
  const said: string[] = [];
  if (!('serviceWorker' in navigator))
    said.push(
      'The page is not kept for when the server is away: a browser keeps it only over https, or on this machine.',
    );
  if (typeof indexedDB === 'undefined')
    said.push('This browser keeps no edits: they are safe once the page says “saved”.');
  if (!paintsCloth()) said.push('This browser cannot paint cloth; charts, words and all else are whole.');
  return said;
}

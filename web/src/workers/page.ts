import { registerSW } from 'virtual:pwa-register';

/** The page itself is kept by the browser (a service worker), so that it opens while the server is away. */

let take: ((reload?: boolean) => Promise<void>) | null = null;

/** Has the page kept, where the browser does; `onNewer` is called when a newer one lies ready. */
export function registerPage(onNewer: () => void): void {
  if (import.meta.env.DEV) return;
  take = registerSW({ onNeedRefresh: onNewer });
}

/** Shows the newer page. Every edit is kept in the browser already. */
export const takeNewerPage = (): void => void take?.(true);

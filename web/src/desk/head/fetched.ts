import { lazy, type ComponentType, type LazyExoticComponent } from 'react';
import { matchPath } from 'react-router';

/** A script of this page that is not to be had: the page is another by now, or the server is away. */
export class NotFetched extends Error {
  constructor(cause: unknown) {
    super('A part of this page could not be fetched.', { cause });
  }
}

/**
 * A room that is fetched when it is first shown; the one the page is opened at, by its `path`, at once, and not only when
 * what stands around it is there.
 *
 * @throws NotFetched while it is shown
 */
export function fetched(
  load: () => Promise<ComponentType>,
  path: string,
): LazyExoticComponent<ComponentType> {
  const fetch = async () => ({
    default: await load().catch((error: unknown) => {
      throw new NotFetched(error);
    }),
  });
  if (!matchPath(path, window.location.pathname)) return lazy(fetch);
  // In a task of its own: the page's first is long as it is.
  const begun = new Promise<void>((resolve) => setTimeout(resolve)).then(fetch);
  // Told where it is shown, if it is.
  begun.catch(() => undefined);
  return lazy(() => begun);
}

import { newId } from './newId.js';

/**
 * Every tab keeps its unsaved work under an id of its own, which outlives a reload. The tab holds a lock of that
 * name while it is open, so that others can tell its work from what a closed tab left behind.
 */

const KEY = 'cordelina-tab';
const lockOf = (id: string) => `${KEY} ${id}`;

function remembered(): string | null {
  try {
    return sessionStorage.getItem(KEY);
  } catch {
    return null;
  }
}

function remember(id: string): string {
  try {
    sessionStorage.setItem(KEY, id);
  } catch {
    // Without a memory of its own the tab is a new one after a reload; its work is found again as a closed tab's.
  }
  return id;
}

/** Takes a lock for as long as the page lives; false when another has it. */
function take(name: string): Promise<boolean> {
  return new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock && new Promise(() => undefined);
    });
  });
}

const hasLocks = () => typeof navigator !== 'undefined' && 'locks' in navigator;

async function makeTab(): Promise<string> {
  const before = remembered();
  if (!hasLocks()) return remember(before ?? newId());
  // The page before a reload may hold it a moment longer; a duplicated tab holds it for good.
  for (let tries = 0; before && tries < 5; tries++) {
    if (await take(lockOf(before))) return before;
    await new Promise((r) => setTimeout(r, 100));
  }
  const id = newId();
  await take(lockOf(id));
  return remember(id);
}

let own: Promise<string> | null = null;

/** This tab's id. */
export const thisTab = (): Promise<string> => (own ??= makeTab());

/**
 * The ids of the tabs that are open now. Where the browser cannot tell, there seem to be none: what another tab
 * keeps is then sent twice, and known by its id the second time.
 */
export async function openTabs(): Promise<Set<string>> {
  if (!hasLocks()) return new Set();
  const { held = [] } = await navigator.locks.query();
  return new Set(
    held.flatMap(({ name }) => (name?.startsWith(`${KEY} `) ? [name.slice(KEY.length + 1)] : [])),
  );
}

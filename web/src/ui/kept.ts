/** What is kept for as long as the tab is, by its name: over other rooms, Back, Forward and a reload. */

const KEY = 'cordelina-places';
const MOST = 200;

const all = new Map<string, unknown>(stored());

function stored(): [string, unknown][] {
  try {
    const value: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? '[]');
    return Array.isArray(value)
      ? value.filter((e): e is [string, unknown] => Array.isArray(e) && typeof e[0] === 'string')
      : [];
  } catch {
    return [];
  }
}

function store(): void {
  try {
    sessionStorage.setItem(KEY, JSON.stringify([...all].slice(-MOST)));
  } catch {
    // It holds until the page is left.
  }
}
if (typeof window !== 'undefined') window.addEventListener('pagehide', store);

export const keptAt = (name: string): unknown => all.get(name);

export function keepAt(name: string, value: unknown): void {
  all.delete(name);
  all.set(name, value);
}

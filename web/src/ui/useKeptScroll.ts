import { useEffect, useRef, type RefObject } from 'react';

const KEY = 'cordelina-scroll';

/** How far each part of the page was scrolled, by its name; kept for as long as the tab is. */
const kept = new Map<string, number>(entries());

function entries(): [string, number][] {
  try {
    const all: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? '[]');
    return Array.isArray(all)
      ? (all.filter((e) => Array.isArray(e) && typeof e[1] === 'number') as never)
      : [];
  } catch {
    return [];
  }
}

function keep(): void {
  try {
    sessionStorage.setItem(KEY, JSON.stringify([...kept].slice(-60)));
  } catch {
    // It holds until the page is left.
  }
}
if (typeof window !== 'undefined') window.addEventListener('pagehide', keep);

/**
 * Keeps how far something is scrolled, over other rooms, Back, Forward and a reload. `name` says what is scrolled; it is
 * scrolled to there once it `isReady`, that is, as long as it was.
 */
export function useKeptScroll<E extends HTMLElement = HTMLElement>(
  name: string,
  isReady: boolean,
): RefObject<E | null> {
  const ref = useRef<E>(null);
  useEffect(() => {
    const element = ref.current;
    if (!element || !isReady) return;
    const frame = requestAnimationFrame(() => {
      const top = kept.get(name);
      if (top) element.scrollTop = top;
    });
    const onScroll = () => {
      kept.delete(name);
      kept.set(name, element.scrollTop);
    };
    element.addEventListener('scroll', onScroll, { passive: true });
    return () => {
      cancelAnimationFrame(frame);
      element.removeEventListener('scroll', onScroll);
    };
  }, [name, isReady]);
  return ref;
}

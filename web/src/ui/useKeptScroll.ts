import { useEffect, useRef, type RefObject } from 'react';
import { keepAt, keptAt } from './kept.js';

/**
 * Keeps how far something is scrolled. `name` says what is scrolled; it is scrolled to there once it `isReady`, that is, as long
 * as it was.
 */
export function useKeptScroll<E extends HTMLElement = HTMLElement>(
  name: string,
  isReady = true,
): RefObject<E | null> {
  const ref = useRef<E>(null);
  useEffect(() => {
    const element = ref.current;
    if (!element || !isReady) return;
    const frame = requestAnimationFrame(() => {
      const top = keptAt(`scroll ${name}`);
      if (typeof top === 'number') element.scrollTop = top;
    });
    const onScroll = () => keepAt(`scroll ${name}`, element.scrollTop);
    element.addEventListener('scroll', onScroll, { passive: true });
    return () => {
      cancelAnimationFrame(frame);
      element.removeEventListener('scroll', onScroll);
    };
  }, [name, isReady]);
  return ref;
}

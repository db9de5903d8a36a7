import { useSyncExternalStore } from 'react';

/** Below this the chart keeps the screen, and what stands beside it elsewhere slides in over it. */
const NARROW = '(max-width: 900px)';

const listen = (changed: () => void) => {
  const query = window.matchMedia(NARROW);
  query.addEventListener('change', changed);
  return () => query.removeEventListener('change', changed);
};

/** Whether the screen is a tablet's or a phone's. */
export const useNarrow = (): boolean =>
  useSyncExternalStore(
    listen,
    () => window.matchMedia(NARROW).matches,
    () => false,
  );

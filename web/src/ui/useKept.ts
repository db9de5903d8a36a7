import { useCallback, useState } from 'react';
import { keepAt, keptAt } from './kept.js';

/** A choice among a few that is kept for as long as the tab is, as which of several sheets lies on top. */
export function useKept<T extends string>(name: string, of: readonly T[], initial: T): [T, (now: T) => void] {
  const [value, setValue] = useState<T>(() => {
    const was = keptAt(name);
    return of.find((one) => one === was) ?? initial;
  });
  const set = useCallback(
    (now: T) => {
      keepAt(name, now);
      setValue(now);
    },
    [name],
  );
  return [value, set];
}

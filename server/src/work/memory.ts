import v8 from 'node:v8';
import vm from 'node:vm';

let collect: (() => void) | null = null;

/**
 * Gives back at once what is not held any more, in the thread that calls: one at rest would keep it for good. It takes some tens of
 * milliseconds, so it is for after what was large, not for every day.
 */
export function giveBack(): void {
  if (!collect) {
    v8.setFlagsFromString('--expose-gc');
    collect = vm.runInNewContext('gc') as () => void;
  }
  collect();
}

let waiting: NodeJS.Timeout | null = null;

/** The same, a moment after the last time it was asked for. */
export function giveBackSoon(after = 1000): void {
  if (waiting) clearTimeout(waiting);
  waiting = setTimeout(giveBack, after).unref();
}

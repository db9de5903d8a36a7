/** Jobs for the tests of a thread's limits; a thread begins them as they are. */

export const ready = () => ({ value: true });

/** Takes memory until there is none left. */
export function takeAll() {
  const kept = [];
  for (;;) kept.push(Array.from({ length: 10_000 }, (_, i) => i + kept.length));
}

export const double = (n) => ({ value: n * 2 });

let rested = 0;
/** Says how often something that a job left for later was done while the thread had nothing to do. */
export function rests(after) {
  if (after) globalThis.setTimeout(() => rested++, after);
  return { value: rested };
}

/** Holds the thread for so many milliseconds. */
export function wait(milliseconds) {
  Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, milliseconds);
  return { value: true };
}

import type { Outcome } from '../src/work/faults.js';

/** Jobs for the tests of a thread's limits. */

export const ready = (_nothing: null): Outcome<true> => ({ value: true });

/** Takes memory until there is none left. */
export function takeAll(_nothing: null): Outcome<number> {
  const kept: number[][] = [];
  for (;;) kept.push(Array.from({ length: 10_000 }, (_, i) => i + kept.length));
}

export const double = (n: number): Outcome<number> => ({ value: n * 2 });

export type GreedyJobs = { ready: typeof ready; takeAll: typeof takeAll; double: typeof double };

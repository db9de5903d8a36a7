/** Work that can be done a little at a time, done to its end at once. */
export function finished<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}

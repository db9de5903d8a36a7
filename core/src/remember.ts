/** One answer, and the inputs it was worked from. */
interface Slot<V> {
  inputs: readonly unknown[];
  value: V;
}

/** Rows are often shared by a chart, a preview of it, and what undo goes back to. */
const SLOTS = 3;

const sameInputs = (a: readonly unknown[], b: readonly unknown[]): boolean =>
  a.length === b.length && a.every((v, i) => Object.is(v, b[i]));

/**
 * The one cache of the craft. What is worked out of a row is remembered by the row's identity, since rows are
 * replaced and never changed, and by every other input, compared one by one. Each row keeps its last few answers,
 * and gives them up with itself.
 */
export function memory<V>(): (row: object, inputs: readonly unknown[], work: () => V) => V {
  const kept = new WeakMap<object, Slot<V>[]>();
  return (row, inputs, work) => {
    const known = kept.get(row);
    const at = known ? known.findIndex((slot) => sameInputs(slot.inputs, inputs)) : -1;
    if (at === 0) return known![0]!.value;
    const slot = at > 0 ? known!.splice(at, 1)[0]! : { inputs, value: work() };
    if (!known) kept.set(row, [slot]);
    else {
      known.unshift(slot);
      if (known.length > SLOTS) known.pop();
    }
    return slot.value;
  };
}

/** A function of a row and other inputs that remembers its last answers for each row. */
export function remembered<R extends object, I extends readonly unknown[], V>(
  work: (row: R, ...inputs: I) => V,
): (row: R, ...inputs: I) => V {
  const remember = memory<V>();
  return (row, ...inputs) => remember(row, inputs, () => work(row, ...inputs));
}

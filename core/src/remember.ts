/** One answer, and the inputs it was worked from. */
interface Slot<V> {
  inputs: readonly unknown[];
  value: V;
}

/** Rows are often shared by a chart, a preview of it, and what undo goes back to. */
const SLOTS = 3;
/** Of long lists fewer are kept: so many rows in all, and the last list always. */
const MOST_ROWS = 1500;

/** Whether two lists of inputs are the same, one by one. */
export function sameInputs(a: readonly unknown[], b: readonly unknown[]): boolean {
  for (let i = 0; i < a.length; i++) if (!Object.is(a[i], b[i])) return false;
  return a.length === b.length;
}

/**
 * The one cache of the craft. What is worked out of a row is remembered by the row's identity, since rows are
 * replaced and never changed, and by every other input, compared one by one. Each row keeps its last few answers,
 * and gives them up with itself.
 */
export function memory<V>(): (row: object, inputs: readonly unknown[], work: () => V) => V {
  const kept = new WeakMap<object, Slot<V>[]>();
  return (row, inputs, work) => {
    const known = kept.get(row);
    if (!known) {
      const value = work();
      kept.set(row, [{ inputs, value }]);
      return value;
    }
    for (let i = 0; i < known.length; i++) {
      const slot = known[i]!;
      if (!sameInputs(slot.inputs, inputs)) continue;
      if (i > 0) known.unshift(...known.splice(i, 1));
      return slot.value;
    }
    const slot = { inputs, value: work() };
    known.unshift(slot);
    if (known.length > SLOTS) known.pop();
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

/** A function of a thing alone, which remembers its answer for as long as the thing is there. */
export function ofEach<K extends object, V>(work: (thing: K) => V): (thing: K) => V {
  const kept = new WeakMap<K, V>();
  return (thing) => {
    let known = kept.get(thing);
    if (known === undefined) kept.set(thing, (known = work(thing)));
    return known;
  };
}

/** A function of one of few numbers or words, all of whose answers are kept: for what there is a bounded list of. */
export function ofEvery<K extends string | number, V>(work: (key: K) => V): (key: K) => V {
  const kept = new Map<K, V>();
  return (key) => {
    let known = kept.get(key);
    if (known === undefined) kept.set(key, (known = work(key)));
    return known;
  };
}

interface Run<E, V> {
  inputs: readonly unknown[];
  elements: readonly E[];
  values: readonly V[];
}

/**
 * A row and its place; `carried` is what came of the one right below it, where the value of a row depends on that;
 * `was` what came of the row that stood in its place the last time.
 */
interface Standing<E, V> {
  element: E;
  carried: V | null;
  was: V | undefined;
  r: number;
}

type AlongRows<E, V> = (
  elements: readonly E[],
  inputs: readonly unknown[],
  work: (standing: Standing<E, V>) => V,
) => readonly V[];

function alongRows<E, V>(isCarried: boolean, isSame?: (a: V, b: V) => boolean): AlongRows<E, V> {
  const runs: Run<E, V>[] = [];
  return (elements, inputs, work) => {
    const at = runs.findIndex((run) => sameInputs(run.inputs, inputs));
    const last = runs[at];
    if (last?.elements === elements) return last.values;
    const before = last?.elements ?? [];
    // Most rows are as they were: their values are kept in one piece, and only the others gone into.
    const values = last ? last.values.slice(0, elements.length) : [];
    let isAsBefore = before.length === elements.length;
    /** Whether the row below, and what is carried up from it, are as they were. */
    let isStillBelow = last !== undefined;
    for (let r = 0; r < elements.length; r++) {
      const isStill = elements[r] === before[r];
      if (isStill && isStillBelow) continue;
      const carried = isCarried && r > 0 ? values[r - 1]! : null;
      const was = last?.values[r];
      const made = work({ element: elements[r]!, carried, was, r });
      const isKept = was !== undefined && (made === was || isSame?.(was, made) === true);
      values[r] = isKept ? was : made;
      isAsBefore &&= isKept;
      isStillBelow = isStill && (isKept || !isCarried);
    }
    const kept = isSame && isAsBefore ? last!.values : values;
    if (at >= 0) runs.splice(at, 1);
    runs.unshift({ inputs, elements, values: kept });
    let rows = 0;
    const end = runs.findIndex((run, i) => (rows += run.elements.length) > MOST_ROWS && i > 0);
    runs.length = Math.min(runs.length, SLOTS, end < 0 ? SLOTS : end);
    return kept;
  };
}

/**
 * What comes of each row from itself and the row right below it. The last few lists of rows are kept, so an edit
 * costs its own row and the one above. With `isSame`, what comes out equal is what it was before; and where every row
 * is, so is the list, so that what is worked out of all of them can be remembered by it.
 */
export const rowByRow = <E, V>(isSame?: (a: V, b: V) => boolean): AlongRows<E, V> => alongRows(false, isSame);

/**
 * The same where what came of the row below is carried into a row: an edit costs its own row and those above until
 * they come out as before.
 */
export const upwards = <E, V>(isSame?: (a: V, b: V) => boolean): AlongRows<E, V> => alongRows(true, isSame);

/** Texts up to so many characters in all, and so many of them, are kept. */
const MOST_TEXTS = 6000;
const MOST_KEPT = 2_000_000;

/** What was worked out of texts lately, by the text: for what has no row to be remembered by. The oldest go first. */
export class Lately<V> {
  private readonly known = new Map<string, V>();
  private size = 0;

  /** Whether a text is known. */
  has(text: string): boolean {
    return this.known.has(text);
  }

  /** The value of a text, worked out where it is not known; it is shared, and not to be changed. */
  of(text: string, work: () => V): V {
    const found = this.known.get(text);
    if (found !== undefined) return found;
    const made = work();
    this.known.set(text, made);
    this.size += text.length;
    for (const oldest of this.known.keys()) {
      if (this.size <= MOST_KEPT && this.known.size <= MOST_TEXTS) break;
      this.known.delete(oldest);
      this.size -= oldest.length;
    }
    return made;
  }
}

/** Gives what was last made for a row again where the new is equal to it, so that what depends on it stays as it was. */
export function keptWhereSame<R extends object, V>(isSame: (a: V, b: V) => boolean): (row: R, made: V) => V {
  const last = new WeakMap<R, V>();
  return (row, made) => {
    const before = last.get(row);
    if (before !== undefined && isSame(before, made)) return before;
    last.set(row, made);
    return made;
  };
}

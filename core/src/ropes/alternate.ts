/** Two crossings that follow each other on one rope, by their numbers. */
export interface Link {
  a: number;
  b: number;
  /** Whether the rope goes over at the one and under at the other as they are. */
  alternates: boolean;
}

/** Crossings that hang together by their ropes. */
export interface Interlace {
  crossings: number;
  links: number;
  /** Links along which a rope lies alike at both ends. */
  broken: number;
  /** The fewest crossings to turn over so that every rope goes over and under; those that are meant are left. */
  turns: readonly number[];
  /** Links between crossings that are left as they are: they alternate, and say that the others should. */
  firm: number;
  /** Those that are meant though they lie the other way than all the others then do. */
  meant: readonly number[];
  /** Where a rope comes back to a crossing so that no turning can make all of them alternate; null where it can. */
  conflict: Link | null;
}

/** All interlaces of so many crossings, and for each crossing which it belongs to. */
export interface Interlaces {
  interlaces: readonly Interlace[];
  interlaceOf: ArrayLike<number>;
}

/**
 * Makes ropes go over and under. Let x of a crossing say whether it is turned over: two that follow each other on a rope
 * want x_a ⊕ x_b = 0 where they alternate already, and 1 where they do not. So the choice for one crossing settles all
 * that hang together with it: there are two solutions, each the other one turned throughout, or none. The one with
 * fewer turns is taken, and those of crossings that are meant are left. Crossings are joined into sets that know each
 * member's x against the first one's, so the time is about linear in crossings and links.
 */
export function alternate(
  crossings: number,
  links: readonly Link[],
  isMeant: (crossing: number) => boolean = () => false,
): Interlaces {
  const parent = Int32Array.from({ length: crossings }, (_, i) => i);
  /** x of a crossing against its parent's. */
  const against = new Uint8Array(crossings);
  /** Finds the first of a set, and leaves the crossing right below it. */
  const first = (crossing: number): number => {
    let [top, x] = [crossing, 0];
    while (parent[top] !== top) {
      x ^= against[top]!;
      top = parent[top]!;
    }
    while (parent[crossing] !== top && crossing !== top) {
      const [next, own] = [parent[crossing]!, against[crossing]!];
      parent[crossing] = top;
      against[crossing] = x;
      x ^= own;
      crossing = next;
    }
    return top;
  };
  const astray: Link[] = [];
  for (const link of links) {
    const [a, b] = [first(link.a), first(link.b)];
    const wanted = against[link.a]! ^ against[link.b]! ^ (link.alternates ? 0 : 1);
    if (a !== b) {
      parent[b] = a;
      against[b] = wanted;
    } else if (wanted) astray.push(link);
  }
  const interlaceOf = new Int32Array(crossings).fill(-1);
  const found: {
    crossings: number;
    links: number;
    broken: number;
    ways: [number[], number[]];
    meantWays: [number[], number[]];
    conflict: Link | null;
  }[] = [];
  for (let c = 0; c < crossings; c++) {
    const top = first(c);
    if (interlaceOf[top]! < 0) {
      interlaceOf[top] = found.length;
      found.push({ crossings: 0, links: 0, broken: 0, ways: [[], []], meantWays: [[], []], conflict: null });
    }
    interlaceOf[c] = interlaceOf[top]!;
    const one = found[interlaceOf[c]!]!;
    one.crossings++;
    (isMeant(c) ? one.meantWays : one.ways)[against[c] as 0 | 1].push(c);
  }
  for (const { a, alternates } of links) {
    const one = found[interlaceOf[a]!]!;
    one.links++;
    if (!alternates) one.broken++;
  }
  for (const link of astray) found[interlaceOf[link.a]!]!.conflict ??= link;
  const interlaces = found.map(({ ways, meantWays, ...one }) => {
    const size = (way: 0 | 1) => ways[way].length + meantWays[way].length;
    const way = size(0) < size(1) ? 0 : 1;
    const isNone = one.conflict !== null;
    return { ...one, firm: 0, turns: isNone ? [] : ways[way], meant: isNone ? [] : meantWays[way] };
  });
  const otherwise = new Set(interlaces.flatMap(({ turns, meant }) => [...turns, ...meant]));
  for (const { a, b, alternates } of links)
    if (alternates && !otherwise.has(a) && !otherwise.has(b)) interlaces[interlaceOf[a]!]!.firm++;
  return { interlaces, interlaceOf };
}

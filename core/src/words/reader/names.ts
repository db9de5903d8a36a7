/** Names that are found as wholes. */
export interface Names {
  /** Equal for equal names. */
  key: string;
  /** How many characters of a name stand at a place of a text; 0 for none. */
  find: (text: string, at: number) => number;
}

/**
 * Finds names of more than one word, or that begin with another word, as wholes: at each place of a text the longest
 * name that stands there by itself. Case and the width of spaces do not count.
 */
export function namesIn(names: Iterable<string>): Names {
  const plain = [...new Set([...names].map((name) => name.toLowerCase().replace(/\s+/g, ' ').trim()))]
    .filter(Boolean)
    .sort((a, b) => b.length - a.length || (a < b ? -1 : 1));
  // Names of one word are looked up by their length; those of more are few, and gone through.
  const single = new Set(plain.filter((name) => !name.includes(' ')));
  const lengths = [...new Set([...single].map((name) => name.length))];
  const several = plain.filter((name) => name.includes(' '));
  const standsAlone = (text: string, end: number) => !/[A-Za-z0-9/']/.test(text[end] ?? ' ');
  const find = (text: string, at: number) => {
    for (const name of several) {
      const length = lengthOf(name, text, at);
      if (length && standsAlone(text, at + length)) return length;
    }
    return (
      lengths.find((n) => standsAlone(text, at + n) && single.has(text.slice(at, at + n).toLowerCase())) ?? 0
    );
  };
  return { key: plain.join('\n'), find };
}

/** How many characters of a text a name takes up there, however wide its spaces; 0 where it does not stand there. */
function lengthOf(name: string, text: string, at: number): number {
  let i = at;
  for (const letter of name) {
    if (letter === ' ') {
      if (!/\s/.test(text[i] ?? '')) return 0;
      while (/\s/.test(text[i] ?? '')) i++;
    } else if (text[i]?.toLowerCase() !== letter) return 0;
    else i++;
  }
  return i - at;
}

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
  const byFirst = new Map<string, string[]>();
  for (const name of plain) byFirst.set(name[0]!, [...(byFirst.get(name[0]!) ?? []), name]);
  const standsAlone = (text: string, end: number) => !/[A-Za-z0-9/']/.test(text[end] ?? ' ');
  const find = (text: string, at: number) => {
    for (const name of byFirst.get(text[at]?.toLowerCase() ?? '') ?? []) {
      const length = lengthOf(name, text, at);
      if (length && standsAlone(text, at + length)) return length;
    }
    return 0;
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

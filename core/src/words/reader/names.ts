/** Names that are found as wholes. */
export interface Names {
  /** Equal for equal names. */
  key: string;
  /** How many characters of a name stand at a place of a text; 0 for none. */
  find: (text: string, at: number) => number;
}

/** A name as it is compared: in small letters, its words one space apart. */
export const plainName = (name: string): string => name.toLowerCase().replace(/\s+/g, ' ').trim();

/**
 * Finds names of more than one word, or that begin with another word, as wholes: at each place of a text the longest
 * name that stands there by itself, one of several words before one that is longer. Case and the width of spaces do
 * not count.
 */
export function namesIn(names: Iterable<string>): Names {
  const known = new Set([...names].map(plainName).filter(Boolean));
  const begins = new Set([...known].map((name) => name[0]!));
  const longest = Math.max(0, ...[...known].map((name) => name.length));
  const lengths = new Set([...known].map((name) => name.length));
  const find = (text: string, at: number) => {
    if (!begins.has(text[at]?.toLowerCase() ?? '')) return 0;
    let [read, single, several] = ['', 0, 0];
    for (let end = at; end < text.length && read.length < longest;) {
      if (SPACE.test(text[end]!)) {
        read += ' ';
        while (end < text.length && SPACE.test(text[end]!)) end++;
      } else read += text[end++]!.toLowerCase();
      if (!lengths.has(read.length) || !known.has(read) || GOES_ON.test(text[end] ?? ' ')) continue;
      if (read.includes(' ')) several = end - at;
      else single = end - at;
    }
    return several || single;
  };
  return { key: [...known].sort().join('\n'), find };
}

const SPACE = /\s/;
/** What a name that stands by itself is not followed by. */
const GOES_ON = /[A-Za-z0-9/']/;

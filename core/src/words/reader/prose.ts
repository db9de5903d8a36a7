import { wayOf } from '../../construction/index.js';
import { stitchBook } from '../../stitches/book.js';
import type { ReadOptions } from './assemble.js';
import { harmless, mostTelling } from './aside.js';
import { UNUSED, type KeyRead } from './define.js';
import { quoted, type Span } from './language.js';
import { plainWord } from './lexicon.js';
import { MOST_PROBLEMS, type Aside, type PatternLines, type Problem } from './pattern-lines.js';

/** A sentence as it is remembered when it is said to say nothing of the rows. */
export const plainly = (text: string): string => text.replace(/\s+/g, ' ').trim().toLowerCase();

/** Why a sentence is left aside that the designer said says nothing of the rows. */
export const SAID_SO = 'you said that it says nothing of the rows';

/**
 * Looks at what nothing was made of. A piece of it is left aside where it is of a kind that says nothing of the rows, or
 * where the designer said so of it; anything else is told, with the words of rows that it speaks of.
 */
export function readProse(
  lines: PatternLines,
  used: ReadonlyMap<string, unknown>,
  key: KeyRead,
  options: ReadOptions,
): { problems: Problem[]; asides: Aside[] } {
  const { asides: said = [] } = options;
  const names = [...used.keys()].filter(
    (name) => isOwnName(name) && !key.defined.has(name) && !key.told.has(name),
  );
  const problems: Problem[] = [];
  const asides: Aside[] = [];
  const leave = ({ from, to }: Span, why: string) => {
    if (asides.length < MOST_PROBLEMS)
      asides.push({ from, to, text: lines.text.slice(from, Math.min(to, from + 120)), why });
  };
  const known = new Set(said);
  // A line that looks like one of the key, and tells no word of the rows, may tell of one nevertheless.
  const unsure = key.left.flatMap(({ line, why }) =>
    (why === '' || why === UNUSED) && line.at.to ? [{ at: line.at, knownWhy: why, isBehindRows: false }] : [],
  );
  const prose = lines.prose.map(({ from, to, isBehindRows }) => ({
    at: { from, to },
    knownWhy: '',
    isBehindRows,
  }));
  for (const { at, knownWhy, isBehindRows } of [...prose, ...unsure]) {
    const text = lines.text.slice(at.from, at.to);
    if (!text.trim()) continue;
    if (known.has(plainly(text))) {
      leave(at, SAID_SO);
      continue;
    }
    const name = names.find((n) => speaksOf(text.toLowerCase(), n));
    const isLine =
      /(?:^|\n)\s*$/.test(lines.text.slice(0, at.from)) && /^\s*(?:\n|$)/.test(lines.text.slice(at.to));
    const why =
      name !== undefined
        ? null
        : knownWhy ||
          harmless({
            text,
            isLine,
            isFirst: !lines.text.slice(0, at.from).trim(),
            isBehindRows,
            hasEdges: wayOf(options).hasEdges,
          });
    const last = problems.at(-1)?.at;
    if (why !== null) leave(at, why);
    // Clauses of one sentence are one fault.
    else if (last && /^[\s,;:.()&–-]*(?:(?:and|then)[\s,]*)?$/i.test(lines.text.slice(last.to, at.from)))
      last.to = at.to;
    else if (problems.length < MOST_PROBLEMS)
      problems.push({
        id: 'line-not-read',
        level: 'error',
        message: `${quoted(lines.text.slice(at.from, sentenceEnd(lines.text, at)), 60)} speaks of "${name ?? mostTelling(text)}", ${name === undefined ? 'as rows do' : 'which the rows use'}, and was not understood. Tell it as a row or a line of the key, or say that it says nothing of the rows.`,
        at: { ...at },
      });
  }
  return { problems, asides };
}

/** Where the sentence ends that a clause stands in. */
function sentenceEnd(text: string, { to }: Span): number {
  const end = /[.;](?=\s|$)|\n/.exec(text.slice(to));
  return text[to - 1] === '.' || !end ? to : to + end.index;
}

/** Whether a word is a name that only a key or a school explains, and no word of everyday prose. */
const isOwnName = (name: string): boolean =>
  plainWord(name, 'RS', stitchBook()) === null &&
  plainWord(name, 'WS', stitchBook()) === null &&
  name.length > 1;

/** Whether a text has a name as words of its own. */
function speaksOf(text: string, name: string): boolean {
  for (let at = text.indexOf(name); at >= 0; at = text.indexOf(name, at + 1))
    if (!/[a-z0-9]/.test(text[at - 1] ?? ' ') && !/[a-z0-9]/.test(text[at + name.length] ?? ' ')) return true;
  return false;
}

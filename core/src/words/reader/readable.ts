import type { ReadOptions } from './assemble.js';
import { quoted } from './language.js';
import { MOST_PROBLEMS, type Problem } from './pattern-lines.js';
import { forSize, sizesIn } from './sizes.js';
import { withFigures } from './spelling.js';

/** A text as one size of it is read, with what a scanner mistook put right. */
export function readable(text: string, { size = 0 }: ReadOptions) {
  const sizes = sizesIn(text);
  const read = sizes ? Math.max(0, Math.min(size, sizes.castOns.length - 1)) : 0;
  const { text: figured, taken } = withFigures(sizes ? forSize(text, sizes, read) : text);
  const problems = taken.slice(0, MOST_PROBLEMS).map(({ from, to, as }): Problem => ({
    id: 'figure-taken',
    level: 'caution',
    message: `${quoted(text.slice(from, to))} is read as "${as}": a scanner takes 1 for l and 0 for O.`,
    at: { from, to },
  }));
  if (sizes)
    problems.push({
      id: 'size-taken',
      level: 'caution',
      message: `The text is for ${sizes.castOns.length} sizes: it is read for the ${ORDINALS[read] ?? `${read + 1}th`}${sizes.castOns[read] ? `, on ${sizes.castOns[read]} stitches` : ''}. Choose the size that is meant.`,
    });
  return { text: figured, sizes: sizes && { ...sizes, read }, problems };
}
const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

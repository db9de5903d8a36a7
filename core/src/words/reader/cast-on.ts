import { LIMITS } from '../../chart/schema.js';
import { freshNeedle } from '../../needle/needle.js';
import { takesOf, type Stitch } from '../../stitches/book.js';
import { modulo } from '../../values.js';
import type { Reader } from './attempt.js';
import { WordProblem } from './lexicon.js';
import type { PatternLines } from './pattern-lines.js';
import type { PlacedRow } from './order.js';
import { RowProblem } from './at-work.js';
import { takesByItself, workWords } from './work.js';

const MOST_REPEATS_TRIED = 60;

/** Loops the first row takes: its head, one pass of its star, and its tail; null when it does not say. */
function firstRowTakes({ rows, lexicon }: Reader): { fixed: number; repeat: number } | null {
  const [first] = rows;
  if (!first?.body || first.body.type !== 'items') return null;
  const takes = (row: readonly Stitch[]) => row.reduce((sum, s) => sum + takesOf(s, lexicon.book), 0);
  try {
    const fixed = takesByItself(first.body, first.side, lexicon);
    if (fixed !== null) return { fixed, repeat: 0 };
  } catch (error) {
    if (error instanceof WordProblem) return null;
    throw error;
  }
  for (let castOn = 1; castOn <= LIMITS.columns; castOn++) {
    try {
      const { stitches, star } = workWords(first.body, freshNeedle(castOn), first.side, lexicon);
      if (!star) return { fixed: takes(stitches), repeat: 0 };
      return { fixed: takes(star.head) + takes(star.tail), repeat: takes(star.body) };
    } catch (error) {
      if (error instanceof WordProblem) return null;
      if (!(error instanceof RowProblem)) throw error;
    }
  }
  return null;
}

/** Whether a row goes as far as there are stitches, whatever their number. */
const isOpen = ({ body }: PlacedRow): boolean =>
  body !== null &&
  (body.type !== 'items' ||
    body.items.some((i) => i.type === 'rest' || (i.type === 'present' && i.n === null)));

/** The cast-ons worth trying, smallest first: the stated one alone, or those that the text and its rows allow. */
export function castOns(lines: PatternLines, reader: Reader): number[] {
  const { castOn, multiple } = lines.pattern;
  if (castOn) return [castOn.stitches];
  if (lines.panel) return [lines.panel.stitches];
  const ups = (fixed: number, by: number) =>
    Array.from({ length: MOST_REPEATS_TRIED }, (_, i) => fixed + (i + 1) * by);
  const fits = (n: number) => !multiple || multiple.of < 1 || modulo(n - multiple.plus, multiple.of) === 0;
  const tried = (row: PlacedRow): number[] => {
    const told = isOpen(row) ? null : firstRowTakes({ ...reader, rows: [row] });
    return told ? (told.repeat ? ups(told.fixed, told.repeat) : [told.fixed]) : [];
  };
  const [first] = reader.rows as [PlacedRow];
  if (first.body && !isOpen(first)) {
    const tries = tried(first);
    const fitting = tries.filter(fits);
    if (tries.length) return fitting.length ? fitting : tries;
  }
  // A first row that fits any needle: a count says which, or the multiple, or a row that is counted out.
  const counts = reader.rows.flatMap(({ line }) => (typeof line?.count === 'number' ? [line.count] : []));
  if (counts.length) return counts.slice(0, 1);
  if (multiple && multiple.of > 0) return ups(multiple.plus, multiple.of);
  return [
    ...new Set(
      reader.rows
        .slice(1)
        .map(tried)
        .filter((t) => t.length)
        .slice(0, 4)
        .flat(),
    ),
  ];
}

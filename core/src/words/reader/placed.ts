import type { RowLine } from '../pattern.js';
import type { ReadOptions } from './assemble.js';
import { withGapsFilled } from './order.js';
import { readLines, type PatternLines } from './pattern-lines.js';
import { readable } from './readable.js';
import { placeRows, setting } from './setting.js';

/** The lines of a text, and the rows of the piece in their places. */
export function linesPlaced(given: string, options: ReadOptions) {
  const { text, sizes, problems } = readable(given, options);
  const written = readLines(text, { keyText: options.keyText });
  const places = new Map<RowLine, RowLine>();
  const filled = withGapsFilled(written.pattern.rows, written.again, (line, as) => places.set(line, as));
  const lines: PatternLines = {
    ...written,
    problems: [...problems, ...written.problems],
    pattern: { ...written.pattern, rows: [...filled.lines] },
    again: filled.again,
    placeOf: (line, item) => written.placeOf(places.get(line) ?? line, item),
  };
  const set = setting(lines, options);
  return { lines, sizes, set, placed: placeRows(lines, set.options) };
}

/** A text's lines, how it is worked, and its rows in their places. */
export type Placed = ReturnType<typeof linesPlaced>;

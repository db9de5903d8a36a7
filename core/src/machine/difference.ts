import { isCrossing, sameStitch, spanOf, stitchBook, type Stitch } from '../stitches/book.js';
import { needleAt } from './needles.js';
import type { Operator } from './operate.js';

/** Where what came off the beds is first another cloth than the chart's. Rows count from 1. */
export interface Difference {
  row: number;
  message: string;
}

const named = (stitch: Stitch | undefined): string =>
  stitch === undefined
    ? 'nothing'
    : isCrossing(stitch)
      ? `${stitch.front.length} over ${stitch.back.length} to the ${stitch.lean}`
      : stitch === 'k'
        ? 'a rope stitch'
        : stitch === 'p'
          ? 'ground'
          : stitch;

/**
 * The first place in which the cloth of an operator, so far, differs from the one that is wanted; null where it does not. A stitch
 * that grew on a needle left in work is one too. Once the list is at its end, rows that are missing are. `looked` rows from the
 * bottom are known to be alike.
 */
export function differenceOf(
  wanted: readonly (readonly Stitch[])[],
  operator: Operator,
  looked = 0,
): Difference | null {
  const { cloth, beds, problems, right } = operator;
  const book = stitchBook();
  const [grown] = beds.grown;
  const [problem] = problems;
  for (let r = looked; r < cloth.length; r++) {
    const row = cloth[r]!;
    if (grown && grown.counter <= r)
      return {
        row: r + 1,
        message: `At count ${grown.counter} needle ${grown.needle} was in work without a stitch, and began one of its own.`,
      };
    const due = wanted[r];
    if (!due) return { row: r + 1, message: `The chart has ${wanted.length} rows; the list knits more.` };
    let place = right;
    for (let i = 0; i < Math.max(row.length, due.length); i++) {
      const [is, was] = [row[i], due[i]];
      if (is === undefined || was === undefined || !sameStitch(is, was))
        return {
          row: r + 1,
          message: `Row ${r + 1} differs at ${needleAt(place)}: the chart has ${named(was)} there, the list makes ${named(is)}.`,
        };
      place += spanOf(is, book);
    }
  }
  if (problem)
    return { row: problem.counter + 1, message: `At count ${problem.counter}: ${problem.message}` };
  if (!operator.next && cloth.length < wanted.length)
    return {
      row: cloth.length + 1,
      message: `The list ends after ${cloth.length} rows; the chart has ${wanted.length}.`,
    };
  return null;
}

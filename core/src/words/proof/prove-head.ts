import type { Style } from '../../chart/schema.js';
import type { Hand } from '../../construction/index.js';
import type { Multiple, Pattern } from '../pattern.js';
import type { Charted } from './charted.js';
import type { Problems } from './problems.js';

/** The multiple before a row, from what it takes with one repeat and with two. */
function multipleAt(piece: Charted, row: number): { of: number; plus: number } {
  const one = piece.takes(row, 1);
  const of = piece.takes(row, 2) - one;
  return { of, plus: one - of };
}

/** What the text must say of the multiple; null where nothing repeats. */
function multipleWanted(piece: Charted): Multiple | null {
  if (piece.times === null) return null;
  const first = multipleAt(piece, 1);
  if (first.of === 0) return null;
  const changes: Multiple['changes'] = [];
  let last = first;
  for (let row = 2; row <= piece.height; row++) {
    const here = multipleAt(piece, row);
    if (here.of !== last.of || here.plus !== last.plus)
      changes.push({ of: here.of, plus: here.of ? here.plus % here.of : here.plus, after: row - 1 });
    last = here;
  }
  const fewest = piece.takes(1, piece.least);
  const plus = first.plus % first.of;
  return { of: first.of, plus, least: fewest > first.of + plus ? fewest : null, changes };
}

const asText = (value: unknown): string => JSON.stringify(value);

/** How it is worked and by whom, the multiple, the cast-on and the plan, each against the chart. */
export function proveHead(
  pattern: Pattern,
  piece: Charted,
  hand: Hand,
  { length, pairNames }: Pick<Style, 'length' | 'pairNames'>,
  isPanel: boolean,
  problems: Problems,
): void {
  const { head, multiple, castOn, plan } = pattern;
  if (head.construction !== piece.chart.construction)
    problems.tell(
      'construction-differs',
      'The words do not say rightly whether it is worked flat or in the round.',
    );
  if (head.bothFaces !== (piece.chart.bothFaces && piece.way.hasNumbers))
    problems.tell('faces-differ', 'The words do not say rightly whether both sides count.');
  if (head.names !== (piece.way.loops === 2 ? pairNames : null))
    problems.tell(
      'names-differ',
      'The words do not say rightly what the numbers in names of crossings count.',
    );
  if (head.hand !== hand)
    problems.tell('hand-differs', 'The words do not say rightly for whose hands they are written.');
  const wanted = multipleWanted(piece);
  if (asText(multiple && { ...multiple }) !== asText(wanted))
    problems.tell(
      'multiple-differs',
      wanted
        ? `The words do not give the multiple as it is: ${wanted.of} plus ${wanted.plus}${wanted.least === null ? '' : `, at least ${wanted.least}`}.`
        : 'The words give a multiple where nothing repeats.',
    );
  const stitches = piece.takes(1, piece.times ?? 1);
  // Repeats are those of the multiple as it is told, in lowest form.
  const repeats = wanted && (stitches - wanted.plus) / wanted.of;
  if (castOn?.stitches !== stitches || castOn.repeats !== repeats || (castOn.isPanel ?? false) !== isPanel)
    problems.tell('cast-on-differs', `The words do not give the cast-on as it is: ${stitches} stitches.`);
  const stretches = (plan ?? []).map(({ from, to, times, ends }) => [from, to, times, ends ?? null]);
  if (asText(stretches) !== asText(piece.plan(isPanel, length === 'open')))
    problems.tell('plan-differs', 'The words do not say how the rows follow each other as the chart does.');
}

import { LIMITS } from '../../chart/schema.js';
import { sideOf, takesTurns, wayOf, wayOfRows } from '../../construction/index.js';
import type { Side } from '../../stitches/face.js';
import { sidedText } from '../manner.js';
import type { ReadOptions } from './assemble.js';
import type { PatternLines, Problem } from './pattern-lines.js';
import { numberRows, orderOf, spokenOf, swapProblems, type Order } from './order.js';

/** Stitches told as pairs in two yarns. */
const PAIRS = /\bk(?:nit)? ?1 ?[AB], ?p(?:url)? ?1 ?[AB]\b/i;

/** The side of the first row, and how it is worked, as the text says them; and where it contradicts itself. */
export function setting(
  lines: PatternLines,
  options: ReadOptions,
): { options: ReadOptions; problems: Problem[] } {
  const problems: Problem[] = [];
  const { head, rows } = lines.pattern;
  const tell = (message: string, at?: Problem['at']) =>
    problems.push({ id: 'construction-differs', level: 'error', message, at });
  const sided = rows.find((line) => line.side !== null || (line.rest && 'side' in line.rest));
  const round = rows.find((line) => line.kind === 'round');
  const construction =
    head.construction ??
    wayOfRows(options.construction, {
      areRounds: round !== undefined,
      areSided: sided !== undefined,
      arePairs: PAIRS.test(lines.text),
    });
  const way = wayOf({ construction });
  if (way.row !== 'round' && round)
    tell(`The text says that it is worked ${way.worked}, and calls its rows rounds.`, lines.placeOf(round));
  const other: Side = way.sideOf(0, 'RS') === 'RS' ? 'WS' : 'RS';
  const otherSided = takesTurns(way)
    ? undefined
    : rows.find(
        (line) => line.side === other || (line.rest && 'side' in line.rest && line.rest.side === other),
      );
  if (otherSided)
    tell(
      `The text is worked ${way.worked}, where there are no ${sidedText(other, { form: 'full', terms: 'US', sides: 'by name', stitches: 'single' })} rows, and speaks of one.`,
      lines.placeOf(otherSided),
    );
  if (construction !== options.construction)
    problems.push({
      id: 'construction-taken',
      level: 'note',
      message: `It is read as its words say: worked ${way.worked}.`,
    });
  return { options: { ...options, construction }, problems };
}

/** The rows of a text in order, with the first row on the side that the text says. */
export function placeRows(
  lines: PatternLines,
  options: ReadOptions,
): { order: Order; options: ReadOptions; problems: Problem[] } {
  const way = wayOf(options);
  const numbered = numberRows(lines.pattern.rows, lines.placeOf);
  const spoken = spokenOf(lines.pattern.plan, lines.again);
  const orderFrom = (firstRow: Side) =>
    orderOf(
      lines.pattern.rows,
      numbered,
      { ...spoken, to: Math.min(spoken.to, LIMITS.rows + 1) },
      (place) => sideOf({ ...options, firstRow }, place - 1),
      { takesTurns: takesTurns(way), placeOf: lines.placeOf },
    );
  const problems = [...numbered.problems, ...swapProblems(lines.pattern.rows, numbered, lines.placeOf)];
  if (!takesTurns(way)) {
    const order = orderFrom(options.firstRow);
    return { order, options, problems: [...problems, ...order.problems] };
  }
  const first = orderFrom(options.firstRow);
  const at = first.rows.findIndex(
    ({ line, number }) => line?.side && (number === null || line.numbers.includes(number)),
  );
  const says = first.rows[at]?.line?.side ?? null;
  // A line for all rows of one side says it of the first of them.
  const shared = lines.pattern.rows.find((l) => l.rest && 'side' in l.rest && l.numbers.length);
  const sharedAt = shared && !says ? first.placeOf(shared.numbers[0]!) : null;
  const sharedSide = sharedAt && shared?.rest && 'side' in shared.rest ? shared.rest.side : null;
  const side = says ?? sharedSide ?? lines.firstSide;
  const place = says ? at + 1 : sharedSide ? sharedAt : first.placeOf(1);
  // Rows before row 1 put it on the side that nobody told.
  const before = (first.placeOf(1) ?? 1) - 1;
  if (!side && before % 2 === 1)
    problems.push({
      id: 'first-side-open',
      level: 'caution',
      message: `Nothing says the side of row 1: with ${before === 1 ? 'a row' : `${before} rows`} before it, it is read as a ${first.rows[before]!.side} row. Write "(RS)" or "(WS)" beside it.`,
      at: first.rows[before]!.line ? lines.placeOf(first.rows[before]!.line) : undefined,
    });
  const firstRow: Side =
    side && place ? ((place % 2 === 1) === (side === 'RS') ? 'RS' : 'WS') : options.firstRow;
  if (firstRow === options.firstRow)
    return { order: first, options, problems: [...problems, ...first.problems] };
  const order = orderFrom(firstRow);
  return {
    order,
    options: { ...options, firstRow },
    problems: [
      ...problems,
      ...order.problems,
      {
        id: 'first-side-taken',
        level: 'note',
        message: `Row 1 is read as a ${firstRow} row, as the text says.`,
      },
    ],
  };
}

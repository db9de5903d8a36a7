import { z } from 'zod';
import { drawClosedRopes } from '../../chart/closed-ropes.js';
import { EditError, andThen, unchanged, type Edit } from '../../chart/edit.js';
import { groundRow, insertRows, pasteRows } from '../../chart/edits.js';
import { spanOfAll } from '../../chart/rows.js';
import { startChart } from '../../chart/start.js';
import { bookOf, type Chart, type Row } from '../../chart/schema.js';
import { FLAT, sideOf } from '../../construction/index.js';
import { stitchBook } from '../../stitches/book.js';
import { knot, ring } from './closed.js';
import type { MotifRule, Said, Woven } from './motif.js';
import { crossesAndRings, honeycomb, horseshoe, wishbone } from './pairs.js';
import { ribbed } from './ribbed.js';
import { plait, rope, wave } from './ropes.js';
import { basket, diamond, lattice } from './travelling.js';

export type { MotifChoice, MotifNumber, MotifRule, Said } from './motif.js';

/** The shelf of traditional ropes, each built by rule. */
export const MOTIFS: readonly MotifRule[] = [
  rope,
  plait,
  wave,
  horseshoe,
  wishbone,
  honeycomb,
  crossesAndRings,
  diamond,
  lattice,
  basket,
  ring,
  knot,
  ribbed,
];

/** How often a motif may be worked upwards. */
export const MOST_TIMES = 50;

/** What a motif may be told; what is left out is as usual. */
export function saidSchema({ numbers, choices }: MotifRule) {
  const shape: Record<string, z.ZodType<number | string>> = {};
  for (const [key, { least, most, usual, step = 1, label }] of Object.entries(numbers))
    shape[key] = z
      .int(`${label}: a whole number from ${least} to ${most}.`)
      .min(least, `${label}: at least ${least}.`)
      .max(most, `${label}: at most ${most}.`)
      .refine((n) => n % step === 0, `${label}: an even number.`)
      .default(usual);
  for (const [key, { options }] of Object.entries(choices))
    shape[key] = z.enum(options.map(([value]) => value) as [string, ...string[]]).default(options[0]![0]);
  return z.strictObject(shape);
}

/** A motif as it usually is. */
export const usualOf = (rule: MotifRule): Said => saidSchema(rule).parse({});

const widthOf = ({ rows }: Woven): number => spanOfAll(rows[0]!, stitchBook());

/** "A multiple of 8 sts + 4, 8 rows"; of a panel, its stitches. */
export function motifSize(woven: Woven): string {
  const width = widthOf(woven);
  const { repeat, rows } = woven;
  if (!repeat) return `${width} stitches, ${rows.length} rows`;
  const plus = repeat.before + repeat.after;
  const of = width - plus;
  // Further repeats drawn beside the first are of the multiple too.
  const edges = plus % of;
  return `a multiple of ${of} stitches${edges ? ` + ${edges}` : ''}, ${rows.length} rows`;
}

/** A motif as a chart of its own: a panel, its rows repeated so often. @throws ZodError where it is told what it cannot be */
export function motifChart(rule: MotifRule, said: Said, times = 1): Chart {
  const woven = rule.weave(saidSchema(rule).parse(said));
  const { rows, repeat, jogs } = woven;
  const cloth = startChart({
    columns: widthOf(woven),
    rows: rows.length,
    construction: FLAT.id,
    ground: 'p',
  });
  return {
    ...cloth,
    name: rule.name,
    part: 'panel',
    rows,
    across: repeat ? { ...repeat, times: 1, least: 1 } : null,
    jogs: jogs ?? {},
    up: times > 1 ? { setup: 0, closing: 0, times } : null,
  };
}

/**
 * A motif laid on a chart with its lower right corner at a cell, so often one above the other; rows of ground are added
 * on top where there are too few. One that wins stitches is drawn into the ground, and columns open for it.
 *
 * @throws EditError where it has no room, or its first row would not be a right-side row
 */
export function layMotif(
  chart: Chart,
  r: number,
  column: number,
  rule: MotifRule,
  said: Said,
  times = 1,
): Edit {
  const woven = rule.weave(saidSchema(rule).parse(said));
  if (sideOf(chart, r) !== 'RS')
    throw new EditError(`A motif begins on a right-side row; row ${r + 1} is a wrong-side row.`);
  const { figure, rows } = woven;
  if (figure) return drawClosedRopes(chart, { ...figure, row: r, column });
  return layRows(chart, r, column, Array.from({ length: times }, () => rows).flat(), rule.name);
}

/** Rows laid with their lower right corner at a cell. @throws EditError where they have no room */
export function layRows(chart: Chart, r: number, column: number, rows: readonly Row[], name: string): Edit {
  const book = bookOf(chart);
  const width = Math.max(...rows.map((row) => spanOfAll(row, book)));
  if (column + width > chart.width)
    throw new EditError(
      `${name} is ${width} columns wide; from column ${column + 1} there are ${chart.width - column}. Put the cursor further to the right, or insert columns first.`,
    );
  const missing = r + rows.length - chart.rows.length;
  const ground = groundRow(chart);
  const roomy =
    missing > 0 ? insertRows(chart, chart.rows.length, Array<Row>(missing).fill(ground)) : unchanged(chart);
  return andThen(roomy, (c) => pasteRows(c, r, column, rows));
}

import { z } from 'zod';
import { boundedText, boundedTitle } from '../values.js';
import {
  averaged,
  drawIn,
  growth,
  MOST_COUNTED,
  ReadingSchema,
  type Averaged,
  type Gauge,
} from '../measures/gauge.js';
import { YARN_WEIGHTS } from '../measures/trade.js';

/** A swatch as the book holds it. What is measured is kept as it was counted; what follows from it is worked out. */

/** So many readings of one thing are averaged. */
const MOST_READINGS = 20;
/** A swatch weighs at most a kilogram. */
const HEAVIEST = 1000;

const Readings = z.array(ReadingSchema).max(MOST_READINGS).readonly().default([]);

/** What was counted across and up the swatch, in one state of it. */
const Measured = z.strictObject({ stitches: Readings, rows: Readings });
const none = () => ({ stitches: [], rows: [] });

const WEIGHTS = `The trade has weights of yarn from 0 to ${YARN_WEIGHTS.length - 1}.`;

export const SwatchSchema = z.strictObject({
  id: z.uuid(),
  name: boundedTitle(120, 'A swatch needs a name.'),
  /** Of which chart it is, and which side was measured; null where it is of none. */
  of: z
    .strictObject({ design: z.uuid(), chart: z.string().min(1).max(80) })
    .nullable()
    .default(null),
  side: z.enum(['RS', 'WS']).default('RS'),
  cloth: z.enum(['cabled', 'plain']).default('cabled'),
  /** The needle, in millimetres across. */
  needle: z
    .number()
    .min(0.5, 'No needle is so thin.')
    .max(50, 'No needle is so thick.')
    .nullable()
    .default(null),
  yarn: boundedText(0, 120).default(''),
  weight: z
    .int()
    .min(0, WEIGHTS)
    .max(YARN_WEIGHTS.length - 1, WEIGHTS)
    .nullable()
    .default(null),
  fibre: boundedText(0, 120).default(''),
  before: Measured.default(none),
  after: Measured.default(none),
  grams: z.number().positive('A swatch weighs something.').max(HEAVIEST).nullable().default(null),
  /** All stitches and rows of the swatch that was weighed, as far as they were counted. */
  whole: z
    .strictObject({
      stitches: z.int().min(1).max(MOST_COUNTED).nullable(),
      rows: z.int().min(1).max(MOST_COUNTED).nullable(),
    })
    .nullable()
    .default(null),
  notes: boundedText(0, 4000).default(''),
});
export type Swatch = Readonly<z.infer<typeof SwatchSchema>>;

/** A studio keeps so many. */
export const MOST_SWATCHES = 2000;

/** Which way something is counted. */
export type Counted = 'stitches' | 'rows';

/** What was read of a swatch in one state; null where nothing was. */
export const gaugeIn = (swatch: Swatch, state: 'before' | 'after', way: Counted): Averaged | null =>
  swatch[state][way].length ? averaged(swatch[state][way]) : null;

/** The gauge a piece goes by: after washing, and only where that was not measured, before. */
export function gaugeOf(swatch: Swatch, way: Counted): { gauge: Gauge; isWashed: boolean } | null {
  const [after, before] = [gaugeIn(swatch, 'after', way), gaugeIn(swatch, 'before', way)];
  const read = after ?? before;
  return read && { gauge: read.gauge, isWashed: after !== null };
}

/** By how much the swatch grew in the wash across or up; null where it was not measured on both sides of it. */
export function growthOf(swatch: Swatch, way: Counted): number | null {
  const [before, after] = [gaugeIn(swatch, 'before', way), gaugeIn(swatch, 'after', way)];
  return before && after && growth(before.gauge, after.gauge);
}

/** Grams of one loop; null where the swatch was not weighed or its loops not counted. */
export const gramsPerLoop = ({ grams, whole }: Swatch): number | null =>
  grams === null || !whole?.stitches || !whole.rows ? null : grams / (whole.stitches * whole.rows);

const sameText = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/** The plain swatch a cabled one is held against: of the same yarn and needle; the first in the list where there are more. */
export const plainFor = (cabled: Swatch, all: readonly Swatch[]): Swatch | null =>
  (cabled.cloth === 'cabled' &&
    cabled.yarn.trim() !== '' &&
    cabled.needle !== null &&
    all.find(
      (s) =>
        s.cloth === 'plain' &&
        s.needle === cabled.needle &&
        sameText(s.yarn, cabled.yarn) &&
        s.after.stitches.length + s.before.stitches.length > 0,
    )) ||
  null;

/** How much narrower a cabled swatch is than the plain one; null unless both were measured in the same state. */
export function drawInOf(cabled: Swatch, plain: Swatch): number | null {
  const [a, b] = [gaugeOf(plain, 'stitches'), gaugeOf(cabled, 'stitches')];
  return a && b && a.isWashed === b.isWashed ? drawIn(a.gauge, b.gauge) : null;
}

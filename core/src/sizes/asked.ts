import { z } from 'zod';
import { boundedTitle } from '../values.js';
import { fitWidth, type Fitted, type FitPart } from './fit.js';
import { OVER, type Gauge } from '../measures/gauge.js';
import {
  LENGTH_UNITS,
  LONGEST,
  lengthOf,
  lengthText,
  measureOf,
  UNIT,
  type LengthUnit,
} from '../measures/length.js';
import { MOST_ON_NEEDLE } from './evenly.js';

/** What is asked of the sizes from outside: measures in the unit they were taken in, bounded before anything is made of them. */

const unit = z.enum(LENGTH_UNITS).default('cm');

const measure = (what: string) =>
  z
    .number()
    .positive(`${what} is more than nothing.`)
    .max(LONGEST, `${what} is longer than any piece of knitting.`);

/** Gauges from the thickest rope to the finest thread: so many in 10 cm. */
const GAUGES = { least: 1, most: 200 } as const;

/** So many stitches or rows over a measure. */
export const GaugeSchema = z
  .strictObject({ count: z.number().positive().max(10_000), over: measure('What it was counted over'), unit })
  .transform(({ count, over, unit: u }): Gauge => ({ count, over: lengthOf(over, u) }))
  .refine(({ count, over }) => {
    const in10 = (count * OVER.cm) / over;
    return in10 >= GAUGES.least && in10 <= GAUGES.most;
  }, `A gauge has from ${GAUGES.least} to ${GAUGES.most} in 10 cm: are the count and the measure those of one swatch?`);

const stitches = z.int().min(0).max(MOST_ON_NEEDLE);
const pair = boundedTitle(40).optional();
/** A gauge of its own; where a part has none it has that of the piece. */
const gauge = GaugeSchema.optional();

const Part = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('fixed'), stitches, gauge }),
  z.strictObject({
    kind: z.literal('gap'),
    stitches,
    least: stitches.optional(),
    most: stitches.optional(),
    pair,
    gauge,
  }),
  z.strictObject({
    kind: z.literal('filling'),
    of: z.int().min(1).max(MOST_ON_NEEDLE),
    plus: stitches.default(0),
    least: stitches.default(1),
    most: stitches.optional(),
    pair,
    gauge,
  }),
]);

const ordered = (low: number, high: number | undefined) => high === undefined || low <= high;

export const FitSchema = z
  .strictObject({
    parts: z.array(Part).min(1).max(60),
    gauge: GaugeSchema.optional(),
    target: z.strictObject({
      width: measure('The width'),
      unit,
      within: measure('How near it must come').optional(),
    }),
    most: z.int().min(1).max(20).default(5),
  })
  .superRefine(({ parts, gauge: whole, target }, ctx) => {
    const tell = (path: (string | number)[], message: string) =>
      ctx.addIssue({ code: 'custom', path, message });
    parts.forEach((part, i) => {
      if (!part.gauge && !whole)
        tell(
          ['parts', i, 'gauge'],
          'It needs a gauge, its own or that of the piece: without a swatch there is no width.',
        );
      if (part.kind !== 'fixed' && !ordered(part.least ?? 0, part.most))
        tell(['parts', i, 'most'], 'The most is less than the least.');
    });
    if (target.width * UNIT[target.unit] > LONGEST)
      tell(['target', 'width'], `${target.width} ${target.unit} is wider than any piece of knitting.`);
  });

export type FitAsked = z.output<typeof FitSchema>;

/** Unless bounds are given, a gap may be half or twice as wide as was wished. */
const gapBounds = (wish: number) => ({
  least: Math.floor(wish / 2),
  most: Math.min(MOST_ON_NEEDLE, 2 * wish),
});

/** Unless told otherwise, a width is met that comes within a centimetre, or half an inch (custom). */
const WITHIN = { cm: 1, mm: 10, in: 0.5 } as const satisfies Record<LengthUnit, number>;

/** A fit with measures in the unit of the width that was asked for. */
export interface FitAnswer extends Pick<Fitted, 'isWhole'> {
  solutions: (Omit<Fitted['solutions'][number], 'width' | 'off'> & { width: number; off: number })[];
  /** Why there is no solution, or none near enough. */
  problem?: string;
}

/** The ways that come nearest to the width asked for. */
export function fit({ parts, gauge: whole, target, most }: FitAsked): FitAnswer {
  const wanted = lengthOf(target.width, target.unit);
  const fitted = fitWidth(
    parts.map((part): FitPart => {
      const own = part.gauge ?? whole!;
      if (part.kind === 'fixed') return { kind: 'fixed', stitches: part.stitches, gauge: own };
      if (part.kind === 'gap') return { ...part, ...gapBounds(part.stitches), ...bounds(part), gauge: own };
      const room = Math.floor(((wanted * own.count) / own.over / part.of) * 2) + 1;
      return { ...part, most: part.most ?? Math.min(MOST_ON_NEEDLE, Math.max(part.least, room)), gauge: own };
    }),
    wanted,
    most,
  );
  const inUnit = (length: number) => Number(measureOf(length, target.unit).toFixed(4));
  const problem = problemOf(fitted, wanted, target);
  return {
    solutions: fitted.solutions.map((s) => ({ ...s, width: inUnit(s.width), off: inUnit(s.off) })),
    isWhole: fitted.isWhole,
    ...(problem !== null && { problem }),
  };
}

const bounds = ({ least, most }: { least?: number; most?: number }) => ({
  ...(least !== undefined && { least }),
  ...(most !== undefined && { most }),
});

function problemOf(
  { solutions }: Fitted,
  wanted: number,
  { unit: u, within }: FitAsked['target'],
): string | null {
  const [best] = solutions;
  if (!best) return 'The bounds of parts that are paired do not meet: give them a number they can share.';
  const near = within ?? WITHIN[u];
  if (Math.abs(best.off) <= lengthOf(near, u)) return null;
  const other = solutions.find((s) => Math.sign(s.off) !== Math.sign(best.off));
  const widths = [best, ...(other ? [other] : [])].map((s) => lengthText(s.width, u));
  return `Nothing comes within ${near} ${u} of ${lengthText(wanted, u)}; the nearest ${widths.length > 1 ? `are ${widths.join(' and ')}` : `is ${widths[0]!}`}.`;
}

import { ClothSettingsSchema } from '../chart/cloth-settings.js';
import { z } from 'zod';
import { PieceSchema } from '../chart/piece-document.js';
import { ChartSchema, LIMITS, SchoolSchema, SettingsSchema, StyleSchema } from '../chart/schema.js';
import { WayFields, WaySchema } from '../construction/index.js';
import { MOST_NEEDLES, placeOf as needlePlace } from '../machine/needles.js';
import { MOST_ON_NEEDLE, SPREAD_ENDS } from '../sizes/evenly.js';
import { MOST_SIZES } from '../words/reader/sizes.js';
import { boundedText } from '../values.js';

/** Stateless computation: what is asked of the core from outside the page. What is answered is the core's own. */

/** Cells that are worked at once, repeats and all. */
export const MOST_CELLS = 1_500_000;
/** Cells that a piece may have in all its sizes together. */
export const MOST_CELLS_IN_SIZES = 6_000_000;
/** Cells that the charts of one sheet may have together. */
export const MOST_CELLS_PRINTED = 250_000;
/** Characters of a text to be read. */
export const LONGEST_TEXT = 1_000_000;

export const ReadRequest = z.strictObject({
  text: z.string().min(1).max(LONGEST_TEXT),
  construction: WaySchema,
  firstRow: WayFields.firstRow,
  school: SchoolSchema.optional(),
  answers: z.record(boundedText(0, 200), boundedText(0, 400)).optional(),
  size: z
    .int()
    .min(0)
    .max(MOST_SIZES - 1)
    .optional(),
  asides: z.array(boundedText(0, LIMITS.aside)).max(LIMITS.asides).optional(),
});

/** Lines of custom and what is meant may be given as a design's settings have them. */
export const CheckRequest = z.strictObject({
  chart: ChartSchema,
  rules: SettingsSchema.shape.rules.optional(),
  meant: SettingsSchema.shape.meant.optional(),
});

export const WriteRequest = z.strictObject({
  chart: ChartSchema,
  school: SchoolSchema.default('front-back'),
  style: StyleSchema.partial().optional(),
});

/** How a chart is to be worked on two beds. */
export const MachineRequest = z.strictObject({
  chart: ChartSchema,
  method: z.enum(['basic', 'embossed']),
  every: z.int().min(1).max(20).optional(),
  lean: z.enum(['left', 'right']).optional(),
});

const Needle = z
  .string()
  .refine((needle) => needlePlace(needle) !== null, 'A needle is L1 to L300, or R1 to R300.');
const Needles = z.array(Needle).max(2 * MOST_NEEDLES);
/** Actions of one list, at most. */
const MOST_ACTIONS = 5000;

/** An operator's list, by whoever made it, to be run on the simulated beds. */
export const MachineRunRequest = z.strictObject({
  setup: z.strictObject({ back: Needles, front: Needles }),
  actions: z
    .array(
      z.strictObject({
        counter: z.int().min(0).max(LIMITS.rows),
        kind: z.enum(['cable', 'move']),
        from: Needles,
        to: Needles,
        over: Needles.optional(),
        out: Needles.default([]),
      }),
    )
    .max(MOST_ACTIONS),
  rows: z.int().min(1).max(LIMITS.rows),
});

export const TurnRequest = z.strictObject({ chart: ChartSchema });

const repeats = z.int().min(1).max(LIMITS.repeats).optional();
export const ExpandRequest = z.strictObject({ chart: ChartSchema, times: repeats, passes: repeats });

const stitches = z.int().min(1).max(MOST_ON_NEEDLE);
export const SpreadRequest = z.strictObject({
  from: stitches,
  to: stitches,
  kind: z.enum(['increase', 'decrease']).optional(),
  ends: z.enum(SPREAD_ENDS).optional(),
  by: z.enum(['between', 'into']).optional(),
});

export const PieceRequest = z.strictObject({
  charts: z.array(ChartSchema).min(1).max(LIMITS.charts),
  piece: PieceSchema,
  school: SchoolSchema.default('front-back'),
  style: StyleSchema.partial().optional(),
  units: SettingsSchema.shape.units,
  /** How yarn and hand draw in, as a design holds it; null for the ordinary. */
  fitted: ClothSettingsSchema.shape.fitted,
});

export const PdfRequest = z.strictObject({
  document: z.unknown(),
  /** Corrections that are printed under the sheet. */
  corrections: z.array(boundedText(1, 5000)).max(200).default([]),
});

import { z } from 'zod';
import { OwnStitchSchema, stitchBook, type Stitch, type StitchBook } from '../stitches/book.js';
import { crossing, LARGEST_GROUP } from '../stitches/crossing.js';

/** The version of the document's form. Older documents are brought up to date by `migrate`. */
export const FORMAT = 1;

/** Bounds of one chart: generous for a whole piece, small enough that every check answers at once. */
export const LIMITS = { columns: 600, rows: 1200, repeats: 500 } as const;

const Worked = z.enum(['k', 'p', 'ktbl', 'ptbl']);
const group = z.array(Worked).min(1).max(LARGEST_GROUP);

const CrossingSchema = z
  .strictObject({
    lean: z.enum(['left', 'right']),
    front: group,
    centre: z.array(Worked).max(LARGEST_GROUP).default([]),
    back: group,
  })
  .transform((c) => crossing(c.lean, c.front, c.back, c.centre));

const StitchSchema: z.ZodType<Stitch> = z.union([z.string().min(1).max(48), CrossingSchema]);

/** One row of the chart, from the right, as the RS looks. Rows are never changed, only replaced. */
export type Row = readonly Stitch[];
const RowSchema = z.array(StitchSchema).max(LIMITS.columns).readonly();

const count = z.int().min(0);

/**
 * The repeat across, in columns: `before` columns at the right and `after` at the left are worked once, the
 * columns between `times` times; `least` is the smallest number of repeats the pattern may be worked with.
 */
const AcrossSchema = z.strictObject({
  before: count,
  after: count,
  times: z.int().min(1).max(LIMITS.repeats),
  least: z.int().min(1).max(LIMITS.repeats).default(1),
});

/** The repeat up: `setup` rows once, the rows between `times` times, `closing` rows once. */
const UpSchema = z.strictObject({
  setup: count,
  closing: count,
  times: z.int().min(1).max(LIMITS.repeats),
});

export const ChartSchema = z
  .strictObject({
    id: z.string().min(1).max(64).default('chart'),
    name: z.string().max(80).default(''),
    width: z.int().min(1).max(LIMITS.columns),
    construction: z.enum(['flat', 'round']).default('flat'),
    firstRow: z.enum(['RS', 'WS']).default('RS'),
    /** The stitch new cells are filled with. */
    ground: z.enum(['k', 'p']).default('p'),
    rows: z.array(RowSchema).min(1).max(LIMITS.rows).readonly(),
    across: AcrossSchema.nullable().default(null),
    up: UpSchema.nullable().default(null),
    own: z.array(OwnStitchSchema).max(60).readonly().default([]),
  })
  .superRefine((chart, ctx) => {
    const issue = (path: (string | number)[], message: string) =>
      ctx.addIssue({ code: 'custom', path, message });
    const book = stitchBook(chart.own);
    chart.rows.forEach((row, r) =>
      row.forEach((stitch, i) => {
        if (typeof stitch === 'string' && !book.kind(stitch))
          issue(['rows', r, i], `Row ${r + 1} holds a stitch of unknown kind, "${stitch}".`);
      }),
    );
    const { across, up } = chart;
    if (across && across.before + across.after >= chart.width)
      issue(['across'], 'The repeat across needs at least one column of its own.');
    if (across && across.least > across.times)
      issue(['across', 'times'], 'The number of repeats is below the smallest this pattern may have.');
    if (up && up.setup + up.closing >= chart.rows.length)
      issue(['up'], 'The repeat up needs at least one row of its own.');
    if (new Set(chart.own.map((o) => o.id)).size < chart.own.length)
      issue(['own'], 'Two stitches of your own have the same id.');
  });

export type Chart = Readonly<z.infer<typeof ChartSchema>>;
export type Across = z.infer<typeof AcrossSchema>;
export type Up = z.infer<typeof UpSchema>;

export const SCHOOLS = [
  'front-back',
  'total-hold',
  'total-lean',
  'total-ground',
  'worked-order',
  'spelled',
] as const;
export const SchoolSchema = z.enum(SCHOOLS);
export type School = z.infer<typeof SchoolSchema>;

export const TWIST_METHODS = ['cable', 'together', 'second-first', 'both-tbl'] as const;
export const HANDS = ['right', 'left-same-fabric', 'left-same-words'] as const;
export type Hand = (typeof HANDS)[number];

/** How the rows are written: as they are worked or as they present, and how often the count is given. */
export const StyleSchema = z.strictObject({
  wsRows: z.enum(['written', 'presented']).default('written'),
  counts: z.enum(['every', 'changes']).default('every'),
});
export type Style = z.infer<typeof StyleSchema>;

/** A name must be readable inside a written row: letters and figures, and no mark that a row itself uses. */
const name = z
  .string()
  .trim()
  .min(1, 'A crossing needs a name.')
  .max(40)
  .regex(
    /^[A-Za-z0-9][A-Za-z0-9/+'-]*( [A-Za-z0-9/+'-]+)*$/,
    "A name holds letters, figures, single spaces and / + ' - only, so that it can stand in a row.",
  );
export const CrossingNameSchema = name;

export const SettingsSchema = z.strictObject({
  school: SchoolSchema.default('front-back'),
  hand: z.enum(HANDS).default('right'),
  plain: z.enum(['empty', 'bars']).default('empty'),
  units: z.enum(['cm', 'in']).default('cm'),
  style: StyleSchema.default({ wsRows: 'written', counts: 'every' }),
  /** How a 1/1 crossing is worked, for the key. */
  twist: z.enum(TWIST_METHODS).default('cable'),
  /** Whether the key also says how to cross without a cable needle. */
  cableless: z.boolean().default(false),
  /** Loops a bobble is worked into. */
  bobble: z.union([z.literal(3), z.literal(5), z.literal(7)]).default(5),
  /** The designer's own names of crossings, by crossing id. */
  names: z.record(z.string(), name).default({}),
  /** Palette places of crossings the designer coloured, by crossing id. */
  colours: z.record(z.string(), z.int().min(0).max(7)).default({}),
});
export type Settings = Readonly<z.infer<typeof SettingsSchema>>;

export const DesignSchema = z.strictObject({
  format: z.literal(FORMAT),
  id: z.uuid(),
  title: z.string().trim().min(1).max(120),
  notes: z.string().max(20_000).default(''),
  settings: SettingsSchema.prefault({}),
  charts: z.array(ChartSchema).min(1).max(12).readonly(),
});
export type Design = Readonly<z.infer<typeof DesignSchema>>;

/** The book of stitches a chart may use: the table and its own. */
export function bookOf(chart: Pick<Chart, 'own'>): StitchBook {
  return stitchBook(chart.own);
}

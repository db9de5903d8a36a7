import { z } from 'zod';
import { boundedText, boundedTitle } from '../values.js';
import { OwnStitchSchema, stitchBook, type Stitch, type StitchBook } from '../stitches/book.js';
import { crossing, LARGEST_GROUP } from '../stitches/crossing.js';
import { TWIST_METHODS } from '../stitches/twist.js';
import { FLAT, HANDS, WayFields, WaySchema, wayOf } from '../construction/index.js';
import { remembered } from '../remember.js';
import { BandsSchema } from './bands.js';
import { ClothSettingsSchema } from './cloth-settings.js';
import { AcrossSchema, JogsSchema, lineRules, UpSchema } from './repeat-lines.js';
import { MeantPlacesSchema, MeantSchema } from './meant.js';
import { PieceSchema } from './piece-document.js';
import { RulesSchema } from './rules.js';

/** The version of the document's form. Older documents are brought up to date by `migrate`. */
export const FORMAT = 8;

/** Bounds of one chart: generous for a whole piece, small enough that every check answers at once. */
export const LIMITS = {
  columns: 600,
  rows: 1200,
  repeats: 500,
  /** Columns that the stitches of one row may cover while it still does not fit its chart. */
  span: 600 * 36,
  /** Stitches of the designer's own. */
  own: 60,
  charts: 60,
  /** Words a design is sorted under, and characters of one. */
  tags: 12,
  tag: 40,
  /** Characters of a title, of a chart's name, and of notes. */
  title: 120,
  name: 80,
  notes: 20_000,
  /** Sentences said to say nothing of the rows, and characters of one. */
  asides: 200,
  aside: 2000,
  /** Names and colours the designer gave to crossings. */
  named: 2000,
} as const;

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

export const StitchSchema: z.ZodType<Stitch> = z.union([z.string().min(1).max(48), CrossingSchema]);

/** One row of the chart, from the right, as the RS looks. Rows are never changed, only replaced. */
export type Row = readonly Stitch[];
/** Stopped at the first stitch that is none: a chart of nothing but faults must not cost more than a good one. */
export const RowSchema = z
  .array(z.unknown())
  .max(LIMITS.columns)
  .transform((cells, ctx): Row => {
    const row: Stitch[] = [];
    for (const [i, cell] of cells.entries()) {
      const stitch = StitchSchema.safeParse(cell);
      if (stitch.success) row.push(stitch.data);
      else {
        const issue = stitch.error.issues[0]!;
        const message = typeof cell === 'object' ? 'This is neither a stitch nor a crossing.' : issue.message;
        ctx.addIssue({ code: 'custom', path: [i], message });
        return z.NEVER;
      }
    }
    return row;
  });

/**
 * The symmetry a chart is drawn by: `axis` in half columns from the right edge (8 stands between the 4th and the 5th
 * column, 9 in the middle of the 5th). With `turn`, in half rows from the bottom, what is set on one side is set
 * on the other turned half round about that point, and not mirrored.
 */
const MirrorSchema = z.strictObject({
  axis: z
    .int()
    .min(1)
    .max(2 * LIMITS.columns),
  turn: z
    .int()
    .min(1)
    .max(2 * LIMITS.rows)
    .optional(),
});
export type Mirror = Readonly<z.infer<typeof MirrorSchema>>;

/** What a chart says of itself besides its rows and its width: each of these can be set by itself. */
export const FrameFields = {
  name: boundedText(0, LIMITS.name).default(''),
  construction: WaySchema.default(FLAT.id),
  ...WayFields,
  /** The stitch new cells are filled with. */
  ground: z.enum(['k', 'p']).default('p'),
  across: AcrossSchema.nullable().default(null),
  up: UpSchema.nullable().default(null),
  jogs: JogsSchema.default({}),
  bands: BandsSchema.default({}),
  mirror: MirrorSchema.nullable().default(null),
  /** Whether its edges are the piece's, or it is a panel that stands in a larger piece. */
  part: z.enum(['piece', 'panel']).default('piece'),
  meant: MeantPlacesSchema,
  own: z.array(OwnStitchSchema).readonly().default([]),
};

const ChartShape = z.strictObject({
  id: boundedText(1, 64).default('chart'),
  ...FrameFields,
  width: z.int(),
  // The lengths are asked here too, so that no row is looked into before it is known that there are not too many.
  rows: z.array(RowSchema).min(1).max(LIMITS.rows).readonly(),
});

export type Chart = Readonly<z.infer<typeof ChartShape>>;

/** Something a chart must never be, and where in it. */
export interface Fault {
  path: (string | number)[];
  message: string;
}

/** Where a row holds a stitch of unknown kind; -1 where it does not. */
const unknownIn = remembered((row: Row, book: StitchBook): number =>
  row.findIndex((s) => typeof s === 'string' && !book.kind(s)),
);

function unknownStitch(rows: readonly Row[], book: StitchBook): Fault[] {
  for (let r = 0; r < rows.length; r++) {
    const row = rows[r]!;
    const i = unknownIn(row, book);
    if (i >= 0)
      return [
        {
          path: ['rows', r, i],
          message: `Row ${r + 1} holds a stitch of unknown kind, "${row[i] as string}".`,
        },
      ];
  }
  return [];
}

/**
 * What holds of every chart, however it came about: read from outside, edited, or joined from two people's
 * edits. The first fault is the one to tell; none means that the chart may be kept.
 */
export function invariants(chart: Chart): Fault[] {
  const { width, rows, own } = chart;
  const faults: Fault[] = [];
  const must = (holds: boolean, path: Fault['path'], message: string) => {
    if (!holds) faults.push({ path, message });
  };
  must(
    width >= 1 && width <= LIMITS.columns,
    ['width'],
    `A chart is 1 to ${LIMITS.columns} columns wide; this would be ${width}.`,
  );
  must(
    rows.length >= 1 && rows.length <= LIMITS.rows,
    ['rows'],
    `A chart has 1 to ${LIMITS.rows} rows; this would have ${rows.length}.`,
  );
  const long = rows.findIndex((row) => row.length > LIMITS.columns);
  must(
    long < 0,
    ['rows', long],
    `Row ${long + 1} would hold ${rows[long]?.length} stitches; ${LIMITS.columns} is the most.`,
  );
  for (const [holds, path, message] of lineRules(chart, LIMITS.repeats)) must(holds, path, message);
  must(own.length <= LIMITS.own, ['own'], `A chart holds at most ${LIMITS.own} stitches of your own.`);
  must(
    new Set(own.map((o) => o.id)).size === own.length,
    ['own'],
    'Two stitches of your own have the same id.',
  );
  return faults.length ? faults : unknownStitch(rows, stitchBook(own));
}

export const ChartSchema = ChartShape.superRefine((chart, ctx) => {
  for (const { path, message } of invariants(chart)) ctx.addIssue({ code: 'custom', path, message });
});

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

/**
 * How the rows are written: as they are worked or as they present, equal ones joined or each by itself, how often the
 * count is given, whether uneven crossings are spelled out in the key alone or also where they are first met, in
 * abbreviations or in full, in whose terms, and whether rows are repeated so often or to a length.
 */
export const StyleSchema = z.strictObject({
  wsRows: z.enum(['written', 'presented']).default('written'),
  counts: z.enum(['every', 'changes']).default('every'),
  spelled: z.enum(['key', 'first']).default('key'),
  equal: z.enum(['joined', 'apart']).default('joined'),
  form: z.enum(['short', 'full']).default('short'),
  terms: z.enum(['US', 'UK']).default('US'),
  /** How often the rows of the repeat are worked: counted out, or to the length wished. */
  length: z.enum(['counted', 'open']).default('counted'),
  /** What numbers in the names of crossings count in double knitting: pairs, or their loops. */
  pairNames: z.enum(['pairs', 'loops']).default('pairs'),
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

const fewEnough = (record: object) => Object.keys(record).length <= LIMITS.named;
const TOO_MANY = `At most ${LIMITS.named} crossings can be named or coloured.`;

export const SettingsSchema = z.strictObject({
  school: SchoolSchema.default('front-back'),
  hand: z.enum(HANDS).default('right'),
  plain: z.enum(['empty', 'bars']).default('empty'),
  units: z.enum(['cm', 'in']).default('cm'),
  style: StyleSchema.prefault({}),
  /** How a 1/1 crossing is worked, for the key. */
  twist: z.enum(TWIST_METHODS).default('cable'),
  /** Whether twists of two are called crossings like others, or LT and RT (LPT, RPT over purl). */
  twistNames: z.enum(['crossing', 'twist']).default('crossing'),
  /** Whether the key also says how to cross without a cable needle. */
  cableless: z.boolean().default(false),
  /** Loops a bobble is worked into. */
  bobble: z.union([z.literal(3), z.literal(5), z.literal(7)]).default(5),
  /** The designer's own names of crossings, by crossing id. */
  names: z.record(boundedText(1, 200), name).refine(fewEnough, TOO_MANY).default({}),
  /** Palette places of crossings the designer coloured, by crossing id. */
  colours: z.record(boundedText(1, 200), z.int().min(0).max(7)).refine(fewEnough, TOO_MANY).default({}),
  /** Where the checks draw the lines that are custom. */
  rules: RulesSchema.prefault({}),
  /** What the checks find in this design that is meant so. */
  meant: MeantSchema,
  cloth: ClothSettingsSchema.prefault({}),
});
export type Settings = Readonly<z.infer<typeof SettingsSchema>>;

/** What a printed sheet is made of below its title, in the order a new one has; abbreviations and cloth only where they are put in. */
export const SECTIONS = [
  'notes',
  'materials',
  'construction',
  'piece',
  'abbreviations',
  'rows',
  'charts',
  'cloth',
  'key',
] as const;
export type Section = (typeof SECTIONS)[number];

/** How the pattern is printed. */
export const SheetSchema = z.strictObject({
  /** Whose design it is, under the title. */
  by: boundedText(0, 120).default(''),
  materials: boundedText(0, 5_000).default(''),
  /** The sections in their order; those left out are not printed. */
  order: z
    .array(z.enum(SECTIONS))
    .max(SECTIONS.length)
    .refine((order) => new Set(order).size === order.length, 'A section stands on a sheet once.')
    .readonly()
    .default(['notes', 'materials', 'construction', 'piece', 'rows', 'charts', 'key']),
  /** Whether each chart stands beside its rows, where there is room, instead of in a section of its own. */
  beside: z.boolean().default(false),
  page: z.enum(['A4', 'Letter']).default('A4'),
  large: z.boolean().default(false),
});
export type SheetSettings = Readonly<z.infer<typeof SheetSchema>>;

/** What a design says of itself besides its charts: each of these can be set by itself. */
export const HeadFields = {
  title: boundedTitle(LIMITS.title, 'A design needs a title.'),
  notes: boundedText(0, LIMITS.notes).default(''),
  /** Sentences of the text it was read from that the designer said say nothing of the rows. */
  asides: z
    .array(boundedText(1, LIMITS.aside))
    .max(LIMITS.asides, `A design keeps at most ${LIMITS.asides} sentences that were left aside.`)
    .readonly()
    .default([]),
  /** Words it is sorted under in the workroom. */
  tags: z
    .array(boundedText(1, LIMITS.tag))
    .max(LIMITS.tags, `A design has at most ${LIMITS.tags} tags.`)
    .readonly()
    .default([]),
  settings: SettingsSchema.prefault({}),
  sheet: SheetSchema.prefault({}),
  /** The piece its charts are set out in; null until one is begun. */
  piece: PieceSchema.nullable().default(null),
};

export const DesignSchema = z
  .strictObject({
    format: z.literal(FORMAT),
    id: z.uuid(),
    ...HeadFields,
    charts: z.array(ChartSchema).min(1).max(LIMITS.charts).readonly(),
  })
  .superRefine(({ charts }, ctx) => {
    const twice = charts.findIndex((c, i) => charts.findIndex((o) => o.id === c.id) < i);
    if (twice >= 0)
      ctx.addIssue({
        code: 'custom',
        path: ['charts', twice, 'id'],
        message: 'Two charts of the design have the same id.',
      });
  });
export type Design = Readonly<z.infer<typeof DesignSchema>>;

/** The book of stitches a chart may use: the table and its own. */
export function bookOf(chart: Pick<Chart, 'own' | 'construction'>): StitchBook {
  return wayOf(chart).book(chart.own);
}

import { z } from 'zod';
import { LIMITS } from '../chart/schema.js';
import type { Design } from '../chart/schema.js';
import { boundedText, boundedTitle } from '../values.js';

/** What a knitter keeps: what she knits and where she is, the pattern as it was when she began, and what she noticed. */

/** Moments are milliseconds since 1970; none is taken that no calendar of ours has. */
const LAST_MOMENT = Date.UTC(9999, 0);
const moment = z.int().min(0).max(LAST_MOMENT);
const person = boundedTitle(80, 'Say who knits.');
const partId = z.string().min(1).max(80);
/** So many rows are gone through, at most: more than any piece has. */
export const MOST_JOB_ROWS = 20_000;

const rowIndex = z.int().min(0).max(MOST_JOB_ROWS);

/** The most groups of a row: each takes a stitch at least, or is a marker's. */
const MOST_GROUPS = 4 * LIMITS.columns * LIMITS.repeats;

/** What is knitted: a chart, a piece in a size, or a chart on two beds by an operator's list. */
const JobOfSchema = z.union([
  z.strictObject({ chart: partId }),
  z.strictObject({ size: partId }),
  z.strictObject({
    machine: partId,
    method: z.enum(['basic', 'embossed']),
    every: z.int().min(1).max(6).optional(),
    lean: z.enum(['left', 'right']).optional(),
  }),
]);

/** Where a knitter is: the row of her job that she works, from 0, and the group of it; one past the last row when all is done. */
export const PlaceSchema = z.strictObject({
  row: rowIndex,
  group: z.int().min(0).max(MOST_GROUPS),
  /** When her hand moved there, by the latest clock of her devices: of two places the later stands. */
  at: moment,
  /** The device she moved on. */
  device: boundedTitle(60),
});
export type NeedlePlace = Readonly<z.infer<typeof PlaceSchema>>;

const KNITTING_LIMITS = { skeins: 200, log: MOST_JOB_ROWS } as const;
const few = (most: number, what: string) =>
  [(all: object) => Object.keys(all).length <= most, `At most ${most} ${what} are kept.`] as const;

/** A skein, or a ball: which, and the row it was begun in. */
const SkeinSchema = z.strictObject({ lot: boundedText(0, 80), row: rowIndex, at: moment });
export type Skein = Readonly<z.infer<typeof SkeinSchema>>;

export const KnittingSchema = z.strictObject({
  id: z.uuid(),
  design: z.uuid(),
  /** The pattern as it is knitted. */
  edition: z.uuid(),
  of: JobOfSchema,
  /** Which of several alike it is: "left mitten". */
  name: boundedTitle(120, 'Say what is knitted.'),
  knitter: person,
  /** For whose hands its words are; null for those of the design. */
  hand: z.enum(['right', 'left-same-fabric', 'left-same-words']).nullable().default(null),
  begun: moment,
  place: PlaceSchema,
  /** When each row, by its number from 0, was finished the last time. */
  log: z
    .record(z.string().regex(/^(0|[1-9]\d{0,5})$/), moment)
    .refine(...few(KNITTING_LIMITS.log, 'rows'))
    .default({}),
  /** Skeins by id. */
  skeins: z
    .record(z.uuid(), SkeinSchema)
    .refine(...few(KNITTING_LIMITS.skeins, 'skeins'))
    .default({}),
  /** The design's version she was told of and stayed with what she began; 0 where none. */
  stays: z
    .int()
    .min(0)
    .max(2 ** 31 - 1)
    .default(0),
  /** After so many minutes of knitting her hands rest; null where she is not reminded. */
  rest: z.int().min(5).max(180).nullable().default(null),
});
export type Knitting = Readonly<z.infer<typeof KnittingSchema>>;

/** What is asked of whoever casts on. */
export const KNITTING_NAMES = z.object({
  what: z.string(),
  name: boundedTitle(120, 'Say what is knitted.'),
  knitter: person,
  hand: z.enum(['', 'right', 'left-same-fabric', 'left-same-words']),
  device: boundedTitle(40, 'Call this device something.').refine(
    (name) => !name.includes('#'),
    'A name without #, please.',
  ),
});

/** A design as it was when someone cast on: it stays so. */
export interface Edition {
  id: string;
  design: string;
  /** The design's version it is; 0 where the server had none of it. */
  version: number;
  at: number;
  document: Design;
}
/** What is an edition's own; its document is read as a design is. */
export const EditionHeadSchema = z.strictObject({
  id: z.uuid(),
  design: z.uuid(),
  version: z
    .int()
    .min(0)
    .max(2 ** 31 - 1),
  at: moment,
});

/** A count as the words say it and as it came out. */
const CountSchema = z.strictObject({ said: z.int().min(0).max(1e7), found: z.int().min(0).max(1e7) });

/** What a knitter noticed, at its place. */
export const NoteSchema = z.strictObject({
  id: z.uuid(),
  design: z.uuid(),
  /** What was knitted; null where it was written on the Bench. */
  knitting: z.uuid().nullable().default(null),
  by: person,
  at: moment,
  /** The row as it was told to the knitter: "M, row 7". */
  where: boundedTitle(200),
  /** The chart it is about, its row and column from 0; null where it is of none. */
  chart: partId.nullable().default(null),
  row: z
    .int()
    .min(0)
    .max(LIMITS.rows - 1)
    .nullable()
    .default(null),
  column: z
    .int()
    .min(0)
    .max(LIMITS.columns - 1)
    .nullable()
    .default(null),
  text: boundedText(0, 2000).default(''),
  count: CountSchema.nullable().default(null),
  state: z.enum(['open', 'answered', 'closed']).default('open'),
  answer: boundedText(0, 2000).default(''),
  /** Whether it is to stand on the sheet among its corrections. */
  errata: z.boolean().default(false),
});
export type Note = Readonly<z.infer<typeof NoteSchema>>;

import { z } from 'zod';
import { BandSchema } from './bands.js';
import { FLAT, WayFields, WaySchema } from '../construction/index.js';
import { ReadingSchema } from '../measures/gauge.js';
import { LONGEST } from '../measures/length.js';
import { boundedTitle } from '../values.js';

/**
 * The piece a design's charts are set out in, as the document holds it: its parts from the right as the RS looks, its
 * borders, its sizes. What follows from it is worked out in `sizes`. Lengths are whole micrometres.
 */

export const PIECE_LIMITS = {
  parts: 60,
  sizes: 20,
  /** Stitches of one ground, and of an edge. */
  stitches: 600,
  selvage: 10,
  rows: 1200,
  repeats: 500,
  borderRows: 200,
  /** Pieces of one order. */
  pieces: 1000,
} as const;

/** Cloths a gap or a border is worked in. */
export const CLOTHS = ['reverse', 'stocking', 'garter', 'moss', 'double-moss', 'rib', 'wide-rib'] as const;
export type GroundCloth = (typeof CLOTHS)[number];

const id = z.string().min(1).max(40);
const chart = z.string().min(1).max(64);
const swatch = z.uuid().nullable().default(null);

/** How wide stitches lie, and of which swatch that was read. */
const Lie = z.strictObject({ stitches: ReadingSchema, swatch });
export type Lie = Readonly<z.infer<typeof Lie>>;
/** The same across and up. */
const Measured = z.strictObject({ stitches: ReadingSchema, rows: ReadingSchema.nullable(), swatch });
export type MeasuredCloth = Readonly<z.infer<typeof Measured>>;

/** Parts of one name are mirror images of each other: they share their number. */
const pair = boundedTitle(40).nullable().default(null);
const own = Lie.nullable().default(null);
const stitches = z.int().min(0).max(PIECE_LIMITS.stitches);
const repeats = z.int().min(1).max(PIECE_LIMITS.repeats);
/** On which row of the piece the chart begins, and with which of its own rows. */
const going = {
  starts: z.int().min(1).max(PIECE_LIMITS.rows).default(1),
  begins: z.int().min(1).max(PIECE_LIMITS.rows).default(1),
};

/** Which chart of which design a chart was copied from, and how that stood then. */
const From = z
  .strictObject({ design: z.uuid(), chart, print: z.string().max(40) })
  .nullable()
  .default(null);

export const PartSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    id,
    kind: z.literal('selvage'),
    style: z.enum(['stocking', 'garter', 'moss', 'slipped']).default('stocking'),
    stitches: z.int().min(1).max(PIECE_LIMITS.selvage),
    /** Whether it goes into a seam: then it has no width in the finished piece. */
    seamed: z.boolean().default(false),
  }),
  z.strictObject({
    id,
    kind: z.literal('ground'),
    cloth: z.enum(CLOTHS).default('reverse'),
    stitches,
    /** Within what a fit may set it; none for whatever the width allows. */
    least: stitches.nullable().default(null),
    most: stitches.nullable().default(null),
    pair,
    gauge: own,
  }),
  z.strictObject({
    id,
    kind: z.literal('panel'),
    chart,
    isMirrored: z.boolean().default(false),
    ...going,
    gauge: own,
    from: From,
  }),
  z.strictObject({
    id,
    kind: z.literal('filling'),
    chart,
    isMirrored: z.boolean().default(false),
    repeats,
    least: repeats.default(1),
    most: repeats.nullable().default(null),
    pair,
    ...going,
    gauge: own,
    from: From,
  }),
  z.strictObject({ id, kind: z.literal('marker') }),
]);
export type PiecePart = Readonly<z.infer<typeof PartSchema>>;

/**
 * A border below or above the rows of the parts: a cloth; the parts' own ribs run on into it; or a hem, folded at a ridge or
 * at a row of eyelets, with eyelets for a cord where one is wished. Between it and the parts a band may stand.
 */
export const BorderSchema = z.strictObject({
  kind: z.enum([...CLOTHS, 'runs-on', 'hem']).default('wide-rib'),
  rows: z.int().min(1).max(PIECE_LIMITS.borderRows),
  /** Where stitches come to the border's count: evenly spaced, as many as may be within the ropes, or nowhere. */
  changes: z.enum(['none', 'even', 'ropes']).default('even'),
  /** How many stitches it has fewer than the rows of the parts; null for as many as custom and its rib say. */
  fewer: z.int().min(0).max(PIECE_LIMITS.stitches).nullable().default(null),
  fold: z.enum(['ridge', 'picot']).default('ridge'),
  cord: z.boolean().default(false),
  /** Where the eyelets of the cord are: all around, or one after the beginning of the row and one before its end. */
  eyelets: z.enum(['around', 'ends']).default('around'),
  /**
   * How a hem is held down: sewn; or joined on the needles, below by working each stitch together with its loop of a provisional
   * cast-on, above by binding off together with loops picked up where it begins.
   */
  join: z.enum(['sewn', 'joined']).default('sewn'),
  band: BandSchema.nullable().default(null),
});
export type Border = Readonly<z.infer<typeof BorderSchema>>;

const length = z.int().min(1000, 'A length is a millimetre at least.').max(LONGEST);

export const SizeSchema = z.strictObject({
  id,
  name: boundedTitle(40, 'A size needs a name.'),
  /** What is measured, all round or across; null where no width is wished for. */
  measure: length.nullable().default(null),
  /** What the piece is wider than that; negative where it is to stretch. */
  ease: z
    .int()
    .min(-LONGEST / 10)
    .max(LONGEST / 10)
    .default(0),
  /** How long it is to be, borders and all. */
  length: length.nullable().default(null),
  /** Stitches of grounds and repeats of fillings where they are others than the piece's own, by part. */
  counts: z
    .record(id, stitches)
    .refine((counts) => Object.keys(counts).length <= PIECE_LIMITS.parts)
    .default({}),
});
export type Size = Readonly<z.infer<typeof SizeSchema>>;

export const PieceSchema = z
  .strictObject({
    /** What it is: the front, a sleeve. */
    name: boundedTitle(60).or(z.literal('')).default(''),
    /** What of the wearer is measured: the chest. */
    fits: boundedTitle(40).or(z.literal('')).default(''),
    construction: WaySchema.default(FLAT.id),
    /** Its first row is that of the parts, above the border. */
    ...WayFields,
    parts: z.array(PartSchema).max(PIECE_LIMITS.parts).readonly().default([]),
    gauge: z
      .strictObject({
        /** Of plain cloth: what parts without a gauge of their own go by. */
        plain: Measured.nullable().default(null),
        /** Of a swatch of the whole, all parts side by side: it wins over the sum of the parts. */
        whole: Measured.nullable().default(null),
      })
      .prefault({}),
    /** Whether a marker stands at both sides of every panel. */
    markers: z.boolean().default(true),
    length: z
      .strictObject({
        way: z.enum(['whole', 'part', 'centred']).default('whole'),
        /** The part whose rows are made to come out; null for the first panel. */
        lead: id.nullable().default(null),
      })
      .prefault({}),
    border: z
      .strictObject({
        bottom: BorderSchema.nullable().default(null),
        top: BorderSchema.nullable().default(null),
      })
      .prefault({}),
    sizes: z
      .array(SizeSchema)
      .min(1)
      .max(PIECE_LIMITS.sizes)
      .readonly()
      .default([{ id: 'one', name: 'One size', measure: null, ease: 0, length: null, counts: {} }]),
    /** Into how many pieces what is measured is shared: 2 where front and back go around it. */
    around: z.union([z.literal(1), z.literal(2)]).default(1),
    yarn: z
      .strictObject({
        swatch,
        /** Grams of one loop of that swatch; null without one. */
        grams: z.number().positive().max(1).nullable().default(null),
        /** Metres in 100 grams of the yarn; null where that is not known. */
        metres: z.number().min(1).max(5000).nullable().default(null),
        margin: z.number().min(0).max(1).default(0.1),
        pieces: z.int().min(1).max(PIECE_LIMITS.pieces).default(1),
      })
      .prefault({}),
    /** The needle it is worked on, in millimetres across. */
    needle: z.number().min(0.5).max(50).nullable().default(null),
    words: z.enum(['panels', 'rows']).default('panels'),
  })
  .superRefine(({ parts, sizes, length: { lead } }, ctx) => {
    const tell = (path: string[], message: string) => ctx.addIssue({ code: 'custom', path, message });
    if (new Set(parts.map((p) => p.id)).size < parts.length) tell(['parts'], 'Two parts have the same id.');
    if (new Set(sizes.map((s) => s.id)).size < sizes.length) tell(['sizes'], 'Two sizes have the same id.');
    if (new Set(sizes.map((s) => s.name)).size < sizes.length)
      tell(['sizes'], 'Two sizes have the same name.');
    if (lead !== null && !parts.some((p) => p.id === lead))
      tell(['length', 'lead'], 'The part whose rows should come out is not in the piece.');
    const odd = parts.find(
      (p) =>
        (p.kind === 'ground' || p.kind === 'filling') &&
        p.least !== null &&
        p.most !== null &&
        p.least > p.most,
    );
    if (odd) tell(['parts'], 'The most of a part is less than its least.');
  });
export type Piece = Readonly<z.infer<typeof PieceSchema>>;

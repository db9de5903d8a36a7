import { z } from 'zod';
import { spanOfAll } from '../chart/rows.js';
import { LIMITS, RowSchema, SettingsSchema, SheetSchema, type Design } from '../chart/schema.js';
import { OwnStitchSchema, stitchBook } from '../stitches/book.js';
import { boundedTitle } from '../values.js';

/** What belongs to the studio and to no design of it: its house style, and what it answered of names. */

/** How a studio writes and prints: what a new design begins with. Names, colours and materials are each design's own. */
export const HouseSchema = z.strictObject({
  settings: SettingsSchema.omit({ names: true, colours: true, meant: true }),
  sheet: SheetSchema.omit({ materials: true }),
});
export type House = Readonly<z.infer<typeof HouseSchema>>;

const MOST_ANSWERS = 2000;
const word = z.string().min(1).max(80);
const meaning = z.string().min(1).max(200);

/** A motif of the studio's own holds so much, and the studio so many. */
export const MOTIF_LIMITS = { columns: 120, rows: 240, cells: 2_500, motifs: 100 } as const;

/** A piece of a chart kept under a name, with the stitches of the designer's own it uses. Its rows are equally wide. */
export const OwnMotifSchema = z
  .strictObject({
    name: boundedTitle(80, 'A motif needs a name.'),
    rows: z.array(RowSchema).min(1).max(MOTIF_LIMITS.rows).readonly(),
    own: z.array(OwnStitchSchema).max(LIMITS.own).readonly().default([]),
  })
  .superRefine(({ rows, own }, ctx) => {
    const tell = (message: string) => ctx.addIssue({ code: 'custom', path: ['rows'], message });
    const book = stitchBook(own);
    const unknown = rows.flat().find((s) => typeof s === 'string' && !book.kind(s));
    if (unknown !== undefined) return tell(`It holds a stitch of unknown kind, "${unknown as string}".`);
    const widths = rows.map((row) => spanOfAll(row, book));
    if (new Set(widths).size > 1) return tell('The rows of a motif are equally wide.');
    const { columns, cells } = MOTIF_LIMITS;
    if (widths[0]! < 1 || widths[0]! > columns) return tell(`A motif is 1 to ${columns} columns wide.`);
    if (widths[0]! * rows.length > cells)
      tell(`A motif has at most ${cells} cells; this one has ${widths[0]! * rows.length}.`);
  });
export type OwnMotif = Readonly<z.infer<typeof OwnMotifSchema>>;

const TOO_MANY = `A studio keeps at most ${MOTIF_LIMITS.motifs} motifs of its own.`;
const fewMotifs = (all: object) => Object.keys(all).length <= MOTIF_LIMITS.motifs;

export const StudioSchema = z.strictObject({
  house: HouseSchema.nullable().default(null),
  /** What names that may mean two things were said to mean, by name in lower case: ids of stitches. */
  answers: z
    .record(word, meaning)
    .refine(
      (all) => Object.keys(all).length <= MOST_ANSWERS,
      `A studio keeps at most ${MOST_ANSWERS} answers.`,
    )
    .default({}),
  /** Motifs of the studio's own, across its designs, by id. */
  motifs: z.record(z.uuid(), OwnMotifSchema).refine(fewMotifs, TOO_MANY).default({}),
});
export type Studio = Readonly<z.infer<typeof StudioSchema>>;

/** The house style that a design is written in. */
export function houseOf({ settings, sheet }: Design): House {
  const { names: _names, colours: _colours, meant: _meant, ...written } = settings;
  const { materials: _materials, ...printed } = sheet;
  return { settings: written, sheet: printed };
}

/** The design in a house style: what is the design's own stays. */
export const inHouse = (design: Design, house: House | null): Design =>
  house
    ? {
        ...design,
        settings: { ...design.settings, ...house.settings },
        sheet: { ...design.sheet, ...house.sheet },
      }
    : design;

import { z } from 'zod';
import { SettingsSchema, SheetSchema, type Design } from '../chart/schema.js';

/** What belongs to the studio and to no design of it: its house style, and what it answered of names. */

/** How a studio writes and prints: what a new design begins with. Names, colours and materials are each design's own. */
export const HouseSchema = z.strictObject({
  settings: SettingsSchema.omit({ names: true, colours: true }),
  sheet: SheetSchema.omit({ materials: true }),
});
export type House = Readonly<z.infer<typeof HouseSchema>>;

const MOST_ANSWERS = 2000;
const word = z.string().min(1).max(80);
const meaning = z.string().min(1).max(200);

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
});
export type Studio = Readonly<z.infer<typeof StudioSchema>>;

/** What is to change: the house style as a whole, answers one by one; null takes one away. */
export const StudioPatchSchema = z.strictObject({
  house: HouseSchema.nullable().optional(),
  answers: z
    .record(word, meaning.nullable())
    .refine((all) => Object.keys(all).length <= MOST_ANSWERS, `At most ${MOST_ANSWERS} answers at once.`)
    .optional(),
});
export type StudioPatch = Readonly<z.infer<typeof StudioPatchSchema>>;

/** The studio with a change made. @throws ZodError when it would keep too many answers */
export function withPatch(studio: Studio, patch: StudioPatch): Studio {
  const answers = { ...studio.answers, ...patch.answers };
  return StudioSchema.parse({
    house: patch.house === undefined ? studio.house : patch.house,
    answers: Object.fromEntries(Object.entries(answers).filter(([, id]) => id !== null)),
  });
}

/** The house style that a design is written in. */
export function houseOf({ settings, sheet }: Design): House {
  const { names: _names, colours: _colours, ...written } = settings;
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

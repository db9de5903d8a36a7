import { z } from 'zod';
import { boundedText, boundedTitle } from '../values.js';

/** What a check found, accepted as it is: with the reason, which is kept and shown to the editor, never printed. */

const check = boundedText(1, 60);
const reason = boundedTitle(300, 'Say in a few words why it is meant so.');

/** Of one chart, so many places may be accepted; and so many checks, or crossings to a check, of a design. */
export const MOST_MEANT = 500;
const fewEnough = (record: object) => Object.keys(record).length <= MOST_MEANT;
const TOO_MANY = `At most ${MOST_MEANT} findings can be accepted.`;

/** One place of a chart: row and first column (from 0); without a column, all of the row. */
const PlaceSchema = z.strictObject({
  check,
  row: z.int().min(0).max(1200),
  column: z.int().min(0).max(600).optional(),
  reason,
});
export type MeantPlace = Readonly<z.infer<typeof PlaceSchema>>;

/** Places accepted in a chart, each under an id of its own. */
export const MeantPlacesSchema = z
  .record(boundedText(1, 64), PlaceSchema)
  .refine(fewEnough, TOO_MANY)
  .default({});
export type MeantPlaces = Readonly<z.infer<typeof MeantPlacesSchema>>;

/** Reasons by what is accepted in a whole design: a check, or a check and the id of a crossing. */
export const MeantSchema = z.record(boundedText(1, 199), reason).refine(fewEnough, TOO_MANY).default({});
export type Meant = Readonly<z.infer<typeof MeantSchema>>;

/** The name under which a design accepts a check: of all it finds, or of what it finds in one crossing. */
export const meantKey = (checkId: string, crossingId?: string): string =>
  crossingId === undefined ? checkId : `${checkId} ${crossingId}`;

/** The accepted places after rows or columns came (or, with a negative count, went) at a place: those that went are gone. */
export function movedMeant(
  meant: MeantPlaces,
  of: 'rows' | 'columns',
  at: number,
  count: number,
): MeantPlaces {
  if (!Object.keys(meant).length) return meant;
  const moved = (n: number): number | null => {
    if (n < at) return n;
    return count < 0 && n < at - count ? null : n + count;
  };
  const entries = Object.entries(meant).flatMap(([id, place]): [string, MeantPlace][] => {
    const was = of === 'rows' ? place.row : place.column;
    if (was === undefined) return [[id, place]];
    const now = moved(was);
    if (now === null) return [];
    return [[id, of === 'rows' ? { ...place, row: now } : { ...place, column: now }]];
  });
  return Object.fromEntries(entries);
}

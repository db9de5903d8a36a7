import { z } from 'zod';

/** A row, by its place from 0, as what is kept of it is named. */
export const RowPlace = z.string().regex(/^(0|[1-9]\d{0,4})$/, 'A row is named by its place, from 0.');

/** Stitches from one crossing of the lying strands to the next, at least and at most. */
export const LEAST_EVERY = 2;
export const MOST_EVERY = 600;

/** Rounds of braid steps of a band: with one of them its strands lie side by side, with more they cross. */
export const MOST_BAND_ROUNDS = 3;

/**
 * A band of stitches that lie sideways, round a tube: a lateral braid. Every `every` stitches its lying strands cross (custom:
 * 5), in each of its `rounds` after the first.
 */
export const BandSchema = z.strictObject({
  every: z.int().min(LEAST_EVERY).max(MOST_EVERY).default(5),
  rounds: z.int().min(1).max(MOST_BAND_ROUNDS).default(3),
});
export type Band = Readonly<z.infer<typeof BandSchema>>;

/** Bands, each by the place (from 0) of the round it stands before. */
export const BandsSchema = z.record(RowPlace, BandSchema);
export type Bands = Readonly<z.infer<typeof BandsSchema>>;

/** The usual one (common practice, no source). */
export const USUAL_BAND: Band = { every: 5, rounds: 3 };

/** The bands of a chart from the bottom, each with the row (from 0) it stands before. */
export const bandsOf = ({ bands }: { bands: Bands }): { row: number; band: Band }[] =>
  Object.entries(bands)
    .map(([r, band]) => ({ row: Number(r), band }))
    .sort((a, b) => a.row - b.row);

/** Whether any band stands between its rounds. */
export const hasBands = ({ bands }: { bands: Bands }): boolean => Object.keys(bands).length > 0;

/** Whether its strands cross, so that they divide the round. */
export const isCrossed = ({ rounds }: Band): boolean => rounds > 1;

/** Whether so many stitches, and the one cast on for the travelling loop, fall into whole stretches of a band. */
export const divides = (stitches: number, band: Band): boolean =>
  !isCrossed(band) || (stitches + 1) % band.every === 0;

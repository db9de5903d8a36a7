import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { z } from 'zod';

/** Words of rows that do not come out yet, as they were written: kept in this browser until they do, or are given up. */
const DraftSchema = z.object({
  design: z.string().max(64),
  chart: z.string().max(64),
  /** From 0, where it was written; `was` are the row's own words then, by which it is found when rows have moved. */
  row: z.int().min(0),
  was: z.string().max(20_000),
  text: z.string().max(20_000),
});
export type Draft = z.infer<typeof DraftSchema>;

/** The oldest are given up when there are more. */
const MOST = 200;
const KEY = 'cordelina-row-drafts';

function remembered(): Draft[] {
  try {
    const kept = z.array(z.unknown()).parse(JSON.parse(localStorage.getItem(KEY) ?? '[]'));
    // One that cannot be understood takes none of the others along.
    return kept.slice(-MOST).flatMap((draft) => DraftSchema.safeParse(draft).data ?? []);
  } catch {
    return [];
  }
}

type Where = Pick<Draft, 'design' | 'chart' | 'row'>;
const isAt = (a: Where, b: Where) => a.design === b.design && a.chart === b.chart && a.row === b.row;

const slice = createSlice({
  name: 'drafts',
  initialState: remembered,
  reducers: {
    kept: (state, { payload }: PayloadAction<Draft>) =>
      [...state.filter((d) => !isAt(d, payload)), payload].slice(-MOST),
    dropped: (state, { payload }: PayloadAction<Where>) => state.filter((d) => !isAt(d, payload)),
  },
});

export const drafts = slice.actions;
export const draftsReducer = slice.reducer;

/** Keeps drafts as they change; a browser that keeps nothing has none after the page is left. */
export function keepDrafts(now: readonly Draft[]): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(now));
  } catch {
    // They hold until the page is left.
  }
}

/** Where a draft stands now: in its row, or in the nearest that has the words its row had. */
export function rowOfDraft({ row, was }: Draft, height: number, wordsOf: (row: number) => string): number {
  for (let by = 0; by < height; by++)
    for (const at of [row - by, row + by]) if (at >= 0 && at < height && wordsOf(at) === was) return at;
  return Math.min(row, height - 1);
}

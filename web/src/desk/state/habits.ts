import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { z } from 'zod';
import { GROUNDS, THEMES } from '../../ui/inks.js';

/** Of so many designs it is kept that faces stay; the ones put off first are let go of. */
const MOST_STAYING = 200;

/** How someone likes to work, kept in this browser: it belongs to no design. */
const HabitsSchema = z.object({
  /** The designs, by id, in which faces do not carry up when a cell below them changes: put off in each by itself. */
  stays: z.array(z.string().max(64)).max(MOST_STAYING).catch([]),
  /** At the end of a row the hand goes past wrong-side rows that only present. */
  skips: z.boolean().catch(true),
  /** The bench shows the whole width, and the rows' next pass, not the repeat once. */
  whole: z.boolean().catch(false),
  /** The ropes of a chart are told apart, by colour and letter. */
  apart: z.boolean().catch(false),
  /** Whether a small cloth stands beside the chart on the bench; null for wherever there is room for it. */
  cloth: z.boolean().nullable().catch(null),
  /** In which unit lengths are told outside the designs, which have each their own. */
  units: z.enum(['cm', 'in']).catch('cm'),
  /** The edge with the stitches is folded to a strip of pictures; null for wherever the words need its room. */
  folded: z.boolean().nullable().catch(null),
  /** Whether the page is light or dark, or as the system wishes. */
  theme: z.enum(THEMES).catch('system'),
  /** Pictures of charts have been traced in this browser: what traces them comes with the bench. */
  traces: z.boolean().catch(false),
  /** What cloth lies on, to be looked at. */
  ground: z.enum(GROUNDS).catch('page'),
  /** The walk through the bench: on which design, at which step, whether it is shown. */
  walk: z
    .object({ design: z.string().max(64), step: z.int().min(0).max(20), isOpen: z.boolean() })
    .nullable()
    .catch(null),
  /** Nobody has said yet that they know their way. */
  isNew: z.boolean().catch(true),
  /** Who knits on this device, and what the device is called. */
  knitter: z.string().max(80).catch(''),
  device: z.string().max(60).catch(''),
  /** How rows are shown at the needles: their size, whether light on dark, on which side the thumb is, and what is read aloud. */
  needles: z
    .object({
      size: z.int().min(0).max(4).catch(1),
      theme: z.enum(['light', 'dark']).catch('light'),
      thumb: z.enum(['both', 'left', 'right']).catch('both'),
      speaks: z.boolean().catch(false),
      /** The strip as the chart is drawn, or as the cloth is turned to the knitter. */
      strip: z.enum(['facing', 'charted']).catch('facing'),
      awake: z.boolean().catch(true),
    })
    .catch({ size: 1, theme: 'light', thumb: 'both', speaks: false, strip: 'facing', awake: true }),
  /** The chart's share of the sheet, where it has been dragged. */
  share: z.number().min(0.2).max(0.85).nullable().catch(null),
});
export type Habits = z.infer<typeof HabitsSchema>;

const KEY = 'cordelina-habits';

function remembered(): Habits {
  try {
    return HabitsSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    return HabitsSchema.parse({});
  }
}

const slice = createSlice({
  name: 'habits',
  initialState: remembered,
  reducers: {
    changed: (state, { payload }: PayloadAction<Partial<Habits>>) => ({ ...state, ...payload }),
  },
});

export const habits = slice.actions;
export const habitsReducer = slice.reducer;

/** Whether faces carry up in a design. */
export const followsIn = ({ stays }: Pick<Habits, 'stays'>, design: string | null): boolean =>
  design === null || !stays.includes(design);

/** The habits with carrying up put on or off in one design. */
export const withFollowing = ({ stays }: Pick<Habits, 'stays'>, design: string): Pick<Habits, 'stays'> => ({
  stays: stays.includes(design)
    ? stays.filter((id) => id !== design)
    : [...stays, design].slice(-MOST_STAYING),
});

/** Keeps habits as they change; a browser that keeps nothing has those of a new one next time. */
export function keepHabits(now: Habits): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(now));
  } catch {
    // They hold until the page is left.
  }
}

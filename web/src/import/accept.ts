import {
  ChartSchema,
  crossingId,
  CrossingNameSchema,
  cutText,
  EditError,
  headChange,
  inHouse,
  putChart,
  rowCrossings,
  bookOf,
  nameOf,
  namingOf,
  startDesign,
  type Change,
  type Chart,
  type Crossing,
  type Design,
  type House,
  type School,
  type SectionRead,
  type Settings,
  type TwistMethod,
  LIMITS,
} from '@cordelina/core';
import { makeIn } from '../desk/state/editing.js';
import type { AppDispatch, RootState } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import { boxOf } from '../sync/outbox.js';
import { openOutbox } from '../sync/post.js';

/** A name that was answered before, and the crossing that the charts show for it, where they show one. */
export interface Answered {
  word: string;
  crossing: Crossing | null;
}

const crossingsOf = (chart: Chart): Crossing[] =>
  chart.rows.flatMap((row) => rowCrossings(row, bookOf(chart)).map(({ crossing }) => crossing));

/** Of all that was answered, what a text speaks of. */
export function answersIn(
  text: string,
  answers: Readonly<Record<string, string>>,
): Readonly<Record<string, string>> {
  const lower = text.toLowerCase();
  return Object.fromEntries(
    Object.entries(answers).filter(([word]) => lower.includes(word.replace(/ \(ws\)$/, ''))),
  );
}

/** The answers that a text was read with, each with the crossing its charts show for it. */
export function answeredIn(
  sections: readonly SectionRead[],
  answered: Readonly<Record<string, string>>,
): Answered[] {
  const known = new Map(
    sections.flatMap(({ reading }) =>
      reading.chart ? crossingsOf(reading.chart).map((c) => [crossingId(c), c] as const) : [],
    ),
  );
  return Object.entries(answered).map(([word, id]) => ({ word, crossing: known.get(id) ?? null }));
}

/** What a text gives a design: its charts, and what it calls their crossings. */
interface Taken {
  charts: Chart[];
  names: Record<string, string>;
  /** How its key works two-stitch twists, where it says so. */
  twist: TwistMethod | null;
  /** What the numbers in its names of crossings count, where it says so. */
  pairNames: Settings['style']['pairNames'] | null;
  /** Sentences that were said to say nothing of the rows. */
  asides: readonly string[];
}

/** The charts that were read, each under its title, and the names that are not those of the school. */
export function takenFrom(
  sections: readonly SectionRead[],
  answered: readonly Answered[],
  school: School,
  asides: readonly string[] = [],
): Taken {
  const charts = sections.flatMap(({ reading, title }) =>
    reading.chart
      ? // Read in another thread: its crossings are made this thread's own.
        [
          {
            ...ChartSchema.parse(reading.chart),
            id: newId(),
            name: sections.length > 1 ? cutText(title ?? '', 80) : '',
          },
        ]
      : [],
  );
  const told = new Map(
    answered.flatMap(({ word, crossing }) =>
      crossing ? [[crossingId(crossing), word.replace(/ \(ws\)$/, '').toUpperCase()] as const] : [],
    ),
  );
  const twist = sections.map((s) => s.reading.twist).find((t) => t !== null) ?? null;
  const pairNames = sections.map((s) => s.reading.pairNames).find((p) => p !== null) ?? null;
  const called = new Map(
    charts.flatMap((chart) => {
      const naming = namingOf(
        { school, names: {}, hand: 'right', style: { pairNames: pairNames ?? 'pairs' } },
        chart,
      );
      return crossingsOf(chart).map((c) => [c, nameOf(c, naming)] as const);
    }),
  );
  const names: Record<string, string> = {};
  for (const [crossing, bySchool] of called) {
    const id = crossingId(crossing);
    if (names[id] !== undefined) continue;
    const name = CrossingNameSchema.safeParse(
      sections.map((s) => s.reading.names[id]).find(Boolean) ?? told.get(id),
    );
    const isOwn = name.success && name.data.toLowerCase() !== bySchool?.toLowerCase();
    if (isOwn && !Object.values(names).includes(name.data)) names[id] = name.data;
  }
  return { charts, names, twist, pairNames, asides };
}

/** A design keeps so many sentences that were left aside. */

/** A new design of what was read, in the house style; the school is the text's where it was said. */
export function designOf(
  title: string,
  { charts, names, twist, pairNames, asides }: Taken,
  school: School | null,
  house: House | null,
): Design {
  const [first, ...others] = charts as [Chart, ...Chart[]];
  const design = inHouse(startDesign(newId(), cutText(title, 120), first), house);
  return {
    ...design,
    charts: [...design.charts, ...others],
    asides: asides.slice(0, LIMITS.asides),
    settings: {
      ...design.settings,
      ...(school && { school }),
      ...(twist && { twist }),
      style: { ...design.settings.style, ...(pairNames && { pairNames }) },
      names,
    },
  };
}

/** Puts what was read into a design that is there, as one change that can be undone. @throws EditError */
export function putInto(id: string, { charts, names, asides }: Taken) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<boolean> => {
    await dispatch(openOutbox('design', id));
    const box = boxOf(getState().outbox, 'design', id);
    if (!box) throw new EditError('That design could not be opened.');
    const { document } = box;
    const steps = charts.flatMap((chart, i) => putChart(document, document.charts.length + i, chart));
    const { settings } = document;
    const head = headChange(
      document,
      {
        settings: { ...settings, names: { ...names, ...settings.names } },
        asides: [...new Set([...document.asides, ...asides])].slice(0, LIMITS.asides),
      },
      '',
      '',
    );
    const change: Change = {
      id: newId(),
      label: 'read from words',
      steps: [...steps, ...(head?.steps ?? [])],
    };
    return dispatch(makeIn(box, change));
  };
}

import { cutText } from '../values.js';
import { rowCrossings } from '../chart/rows.js';
import {
  bookOf,
  ChartSchema,
  CrossingNameSchema,
  LIMITS,
  type Chart,
  type Design,
  type School,
  type Settings,
} from '../chart/schema.js';
import { startDesign } from '../chart/start.js';
import { inHouse, type House } from '../documents/studio-schema.js';
import { nameOf, namingOf } from '../names/schools.js';
import { crossingId, type Crossing } from '../stitches/crossing.js';
import type { TwistMethod } from '../stitches/twist.js';
import type { SectionRead } from '../words/read.js';

/** Designs made of patterns that were read from words. */

/** Makes ids; the core makes no random numbers. */
type NewId = () => string;

/** A name that was answered before, and the crossing that the charts show for it, where they show one. */
export interface NameAnswered {
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
): NameAnswered[] {
  const known = new Map(
    sections.flatMap(({ reading }) =>
      reading.chart ? crossingsOf(reading.chart).map((c) => [crossingId(c), c] as const) : [],
    ),
  );
  return Object.entries(answered).map(([word, id]) => ({ word, crossing: known.get(id) ?? null }));
}

/** What a text gives a design: its charts, and what it calls their crossings. */
export interface TakenFromWords {
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
  answered: readonly NameAnswered[],
  school: School,
  newId: NewId,
  asides: readonly string[] = [],
): TakenFromWords {
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

/** A new design of what was read, in the house style; the school is the text's where it was said. */
export function designOf(
  title: string,
  { charts, names, twist, pairNames, asides }: TakenFromWords,
  school: School | null,
  house: House | null,
  newId: NewId,
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

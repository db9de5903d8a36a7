import type { Chart } from '../chart/schema.js';
import {
  crossingAtEdge,
  crossingOnWrongSide,
  longFloat,
  longSlip,
  multipleChanges,
  wideCrossing,
} from './cautions.js';
import { countLaw } from './count-law.js';
import { overGap, overRepeatLine } from './crossing-places.js';
import { fillsColumns } from './fills-columns.js';
import { counted, knit, type Check, type Finding } from './finding.js';
import { needleAtRepeat, oddRepeat } from './row-repeat.js';
import { toWorkInto } from './to-work-into.js';

/** Every check of the chart, in the order its findings are told. */
export const CHECKS: readonly Check[] = [
  fillsColumns,
  countLaw,
  overGap,
  overRepeatLine,
  toWorkInto,
  oddRepeat,
  needleAtRepeat,
  crossingOnWrongSide,
  wideCrossing,
  crossingAtEdge,
  longFloat,
  longSlip,
  multipleChanges,
];

const LEVELS = { error: 0, caution: 1, note: 2 } as const;

/** A chart may be told so many things at once; past that, only how many more there are. */
export const MOST_FINDINGS = 1000;

/** All findings of a chart: errors first, then from the bottom row up. */
export function checkChart(chart: Chart): Finding[] {
  const knitted = knit(chart);
  const found = CHECKS.flatMap((check) => check(knitted)).sort(
    (a, b) => LEVELS[a.level] - LEVELS[b.level] || (a.row ?? 0) - (b.row ?? 0),
  );
  const rest = found[MOST_FINDINGS];
  if (!rest) return found;
  const more = counted(found.length - MOST_FINDINGS, 'finding');
  return [
    ...found.slice(0, MOST_FINDINGS),
    { id: 'more-findings', level: rest.level, message: `${more} more; mend these first.` },
  ];
}

export type { Finding } from './finding.js';

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
import { knit, type Check, type Finding } from './finding.js';
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

/** All findings of a chart: errors first, then from the bottom row up. */
export function checkChart(chart: Chart): Finding[] {
  const knitted = knit(chart);
  return CHECKS.flatMap((check) => check(knitted)).sort(
    (a, b) => LEVELS[a.level] - LEVELS[b.level] || (a.row ?? 0) - (b.row ?? 0),
  );
}

export type { Finding } from './finding.js';

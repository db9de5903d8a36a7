import { frameOf } from '../chart/frame.js';
import type { Chart } from '../chart/schema.js';
import { rowByRow } from '../remember.js';
import {
  crossingAtEdge,
  crossingOnWrongSide,
  longFloat,
  longSlip,
  longSlipAgain,
  multipleChanges,
  wideCrossing,
} from './cautions.js';
import { countLaw } from './count-law.js';
import { overRepeatLine } from './crossing-places.js';
import { fillsColumns } from './fills-columns.js';
import type { RowWork } from '../needle/needle.js';
import { counted, knit, type Check, type Finding, type Knitted, type RowCheck } from './finding.js';
import { endOfPass, needleAtRepeat, oddRepeat, roundStart } from './row-repeat.js';
import { trueRepeat } from './true-repeat.js';
import { toWorkInto } from './to-work-into.js';

/** The checks that look at one row and what enters it, in the order their findings are told. */
export const ROW_CHECKS: readonly RowCheck[] = [
  fillsColumns,
  countLaw,
  overRepeatLine,
  toWorkInto,
  crossingOnWrongSide,
  wideCrossing,
  crossingAtEdge,
  longFloat,
  longSlip,
];

/** The checks that look at the chart as a whole. */
export const CHECKS: readonly Check[] = [
  oddRepeat,
  needleAtRepeat,
  endOfPass,
  roundStart,
  longSlipAgain,
  multipleChanges,
  trueRepeat,
];

const rowFindings = rowByRow<RowWork, readonly Finding[]>();

/** Findings of the rows: each worked out again only when what enters it, or the chart around it, is another. */
function findingsOf(knitted: Knitted): Finding[] {
  const { id, construction, firstRow, ground, own } = knitted.chart;
  const around = [...frameOf(knitted.chart), id, construction, firstRow, ground, own];
  const found: Finding[] = [];
  const rows = rowFindings(knitted.works, around, ({ r }) =>
    ROW_CHECKS.flatMap((check) => check(knitted, r)),
  );
  // Most rows have none, and a chart has many rows.
  for (const row of rows) if (row.length) found.push(...row);
  return found;
}

const LEVELS = { error: 0, caution: 1, note: 2 } as const;

/** A chart may be told so many things at once; past that, only how many more there are. */
export const MOST_FINDINGS = 1000;

/** All findings of a chart: errors first, then from the bottom row up. */
export function checkChart(chart: Chart): Finding[] {
  const knitted = knit(chart);
  const found = [...findingsOf(knitted), ...CHECKS.flatMap((check) => check(knitted))].sort(
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

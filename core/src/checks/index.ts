import { frameOf, wholeFrameOf } from '../chart/frame.js';
import { USUAL_RULES } from '../chart/rules.js';
import type { Chart, Settings } from '../chart/schema.js';
import type { RowWork } from '../needle/needle.js';
import { memory, rowByRow } from '../remember.js';
import type { RowRopes } from '../ropes/trace.js';
import { countLaw } from './count-law.js';
import { crossedAgain } from './crossed-again.js';
import { crossingAtEdge } from './crossing-at-edge.js';
import { denseCloth } from './dense-cloth.js';
import { endOfPass } from './end-of-pass.js';
import { fillsColumns } from './fills-columns.js';
import {
  counted,
  finished,
  knit,
  type Check,
  type Finding,
  type Found,
  type Knitted,
  type RopeCheck,
  type RopesCheck,
  type RowCheck,
} from './finding.js';
import { groundChanges } from './ground-changes.js';
import { irregularRhythm } from './irregular-rhythm.js';
import { longFloat } from './long-float.js';
import { longSlip, longSlipAgain } from './long-slip.js';
import { isMeant } from './meant.js';
import { mirrorBroken } from './mirror-broken.js';
import { multipleChanges } from './multiple-changes.js';
import { narrowGutter } from './narrow-gutter.js';
import { needleAtRepeat } from './needle-at-repeat.js';
import { oddRepeat } from './odd-row-repeat.js';
import { oddRibbedGroup } from './odd-ribbed-group.js';
import { overRepeatLine } from './over-repeat-line.js';
import { overUnder } from './over-under.js';
import { ropePurled } from './rope-purled.js';
import { ropeSplit } from './rope-split.js';
import { roundStart } from './round-start.js';
import { toWorkInto } from './to-work-into.js';
import { trueRepeat } from './true-repeat.js';
import { wideCrossing } from './wide-crossing.js';
import { crossingOnWrongSide } from './wrong-side-crossing.js';

/** The checks that look at one row and what enters it, in the order their findings are told. */
export const ROW_CHECKS: readonly RowCheck[] = [
  fillsColumns,
  countLaw,
  overRepeatLine,
  toWorkInto,
  crossingOnWrongSide,
  wideCrossing,
  crossingAtEdge,
  oddRibbedGroup,
  longFloat,
  longSlip,
];

/** Those that look at what the ropes do in a row, over the lines of the repeats too. */
export const ROPE_CHECKS: readonly RopeCheck[] = [ropePurled, ropeSplit, crossedAgain];

/** Those that look at the ropes as a whole. */
export const ROPES_CHECKS: readonly RopesCheck[] = [
  overUnder,
  mirrorBroken,
  irregularRhythm,
  narrowGutter,
  groundChanges,
  denseCloth,
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

const rowFindings = rowByRow<RowWork, readonly Found[]>();
const ropeFindings = rowByRow<RowRopes, readonly Found[]>();
const ropesFindings = memory<readonly Found[]>();

/** Of most rows nothing is found, and a chart has many rows. */
function gathered(rows: readonly (readonly Found[])[]): Found[] {
  const found: Found[] = [];
  for (const row of rows) if (row.length) found.push(...row);
  return found;
}

/** Findings of the rows: each worked out again only when what enters it, or the chart around it, is another. */
function findingsOfRows(knitted: Knitted): Found[] {
  const { id, construction, firstRow, ground, own, part } = knitted.chart;
  const around = [...frameOf(knitted.chart), id, construction, firstRow, ground, own, part, knitted.rules];
  return gathered(
    rowFindings(knitted.works, around, ({ r }) => ROW_CHECKS.flatMap((check) => check(knitted, r))),
  );
}

/** Findings of the ropes, each told once, however often its rows are drawn out. */
function findingsOfRopes(knitted: Knitted): Found[] {
  const { chart, roped, rules, meant } = knitted;
  const around = [...wholeFrameOf(chart), chart.own, rules];
  const byRow = ropeFindings(roped.rows, around, ({ r }) =>
    ROPE_CHECKS.flatMap((check) => check(knitted, r)),
  );
  const all = ropesFindings(roped.crossed, [...around, chart.mirror, chart.part, chart.meant, meant], () =>
    ROPES_CHECKS.flatMap((check) => check(knitted)),
  );
  const told = new Map<string, Found>();
  for (const found of [...gathered(byRow), ...all]) {
    const key = `${found.id} ${found.row} ${found.columns?.join()}`;
    if (!told.has(key)) told.set(key, found);
  }
  return [...told.values()];
}

const LEVELS = { error: 0, caution: 1, note: 2 } as const;

/** A chart may be told so many things at once; past that, only how many more there are. */
export const MOST_FINDINGS = 1000;

/** What of a design's settings the checks ask. */
export type CheckSettings = Partial<Pick<Settings, 'rules' | 'meant'>>;

const NOTHING_MEANT = {};

/**
 * All findings of a chart: errors first, then from the bottom row up. What the designer has accepted is told with her
 * reason.
 */
export function checkChart(
  chart: Chart,
  { rules = USUAL_RULES, meant = NOTHING_MEANT }: CheckSettings = {},
): Finding[] {
  const knitted = knit(chart, rules, meant);
  const found = [
    ...findingsOfRows(knitted),
    ...findingsOfRopes(knitted),
    ...CHECKS.flatMap((check) => check(knitted)),
  ].sort((a, b) => LEVELS[a.level] - LEVELS[b.level] || (a.row ?? 0) - (b.row ?? 0));
  const told = found.slice(0, MOST_FINDINGS).map((f) => isMeant(finished(f, chart), chart, meant));
  const rest = found[MOST_FINDINGS];
  if (!rest) return told;
  const more = counted(found.length - MOST_FINDINGS, 'finding');
  return [...told, { id: 'more-findings', level: rest.level, message: `${more} more; mend these first.` }];
}

/** Those that are still to be seen to. */
export const unmeant = (findings: readonly Finding[]): Finding[] =>
  findings.filter((f) => f.meant === undefined);

export type { Finding } from './finding.js';
export { meantCrossings } from './over-under.js';

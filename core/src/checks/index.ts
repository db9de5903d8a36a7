import { frameOf, wholeFrameOf } from '../chart/frame.js';
import type { Edit } from '../chart/edit.js';
import type { Meant } from '../chart/meant.js';
import { USUAL_RULES, type Rules } from '../chart/rules.js';
import type { Chart, Settings } from '../chart/schema.js';
import type { RowWork } from '../needle/needle.js';
import { allWays, bothCount, wayOf, type Way } from '../construction/index.js';
import { memory, remembered, rowByRow } from '../remember.js';
import type { RowRopes } from '../ropes/trace.js';
import { bandDivides, bandJoins, bandNeedsRound } from './bands.js';
import { countLaw } from './count-law.js';
import { crossedAgain } from './crossed-again.js';
import { crossingAtEdge } from './crossing-at-edge.js';
import { denseCloth } from './dense-cloth.js';
import { endOfPass } from './end-of-pass.js';
import { fillsColumns } from './fills-columns.js';
import {
  knit,
  mendsThatDo,
  type Asked,
  type Check,
  type CheckOf,
  type Finding,
  type Found,
  type Knitted,
} from './finding.js';
import { counted } from '../values.js';
import { groundChanges } from './ground-changes.js';
import { groundOverRope } from './ground-over-rope.js';
import { irregularRhythm } from './irregular-rhythm.js';
import { longFloat } from './long-float.js';
import { longSlip, longSlipAgain } from './long-slip.js';
import { isMeant } from './meant.js';
import { mirrorBroken } from './mirror-broken.js';
import { multipleChanges } from './multiple-changes.js';
import { narrowGutter } from './narrow-gutter.js';
import { needleAtRepeat } from './needle-at-repeat.js';
import { coloursHome } from './colours-home.js';
import { notInPairs } from './not-in-pairs.js';
import { oddRepeat } from './odd-row-repeat.js';
import { oddGroup, oddRibbedGroup } from './odd-ribbed-group.js';
import { oneFaced } from './one-faced.js';
import { overRepeatLine } from './over-repeat-line.js';
import { overUnder } from './over-under.js';
import { ropePurled } from './rope-purled.js';
import { ropeSplit } from './rope-split.js';
import { repeatOnce } from './repeat-once.js';
import { roundStart } from './round-start.js';
import { firstOf, ofSheaf, sheavesOf, toldOf, type Sheaf, type Tally, type ToTell } from './tally.js';
import { liftsNothing, toWorkInto } from './to-work-into.js';
import { trueRepeat } from './true-repeat.js';
import { wideCrossing } from './wide-crossing.js';
import { crossingOnWrongSide } from './wrong-side-crossing.js';

/** The checks, in the order their findings are told: the only list of them. */
export const CHECKS: readonly Check[] = [
  fillsColumns,
  countLaw,
  overRepeatLine,
  toWorkInto,
  crossingOnWrongSide,
  wideCrossing,
  crossingAtEdge,
  oddRibbedGroup,
  oddGroup,
  oneFaced,
  notInPairs,
  coloursHome,
  longFloat,
  longSlip,
  ropePurled,
  crossedAgain,
  overUnder,
  mirrorBroken,
  ropeSplit,
  groundOverRope,
  irregularRhythm,
  narrowGutter,
  groundChanges,
  denseCloth,
  liftsNothing,
  oddRepeat,
  needleAtRepeat,
  endOfPass,
  roundStart,
  longSlipAgain,
  multipleChanges,
  trueRepeat,
  repeatOnce,
  bandNeedsRound,
  bandDivides,
  bandJoins,
];

/** Whether a check holds of a way of working: of any, unless some way has it as one of its own. */
const holdsOf = ({ tells }: Check, { checks, without }: Way): boolean =>
  Object.keys(tells).every(
    (id) =>
      !without.includes(id) && (checks.includes(id) || !allWays().some((way) => way.checks.includes(id))),
  );

/** The checks of one scope that hold of a way, and what of a chart they ask. */
interface Held<S extends Check['scope']> {
  checks: readonly (Check & { scope: S })[];
  asks: (knitted: Knitted) => readonly unknown[];
}

const ASK: Record<Asked, (knitted: Knitted) => readonly unknown[]> = {
  ground: ({ chart }) => [chart.ground],
  part: ({ chart }) => [chart.part],
  bothFaces: ({ chart }) => [bothCount(chart)],
  mirror: ({ chart }) => [chart.mirror],
  rules: ({ rules }) => [rules],
  meant: ({ chart, meant }) => [chart.meant, meant],
};

const heldOf = remembered((way: Way, scope: Check['scope']): Held<Check['scope']> => {
  const checks = CHECKS.filter((check) => check.scope === scope && holdsOf(check, way));
  const asked = [...new Set(checks.flatMap(({ reads = [] }) => reads))];
  return { checks, asks: (knitted) => asked.flatMap((of) => ASK[of](knitted)) };
});

const held = <S extends Check['scope']>({ chart }: Knitted, scope: S): Held<S> =>
  heldOf(wayOf({ construction: chart.construction }), scope) as Held<S>;

const rowSheaves = rowByRow<RowWork, readonly Sheaf[]>();
const ropeSheaves = rowByRow<RowRopes, readonly Sheaf[]>();
const ropesTally = memory<Tally>();

type CheckRow = (knitted: Knitted, r: number) => Found[];

const checkRow: CheckRow = (knitted, r) =>
  held(knitted, 'row').checks.flatMap(({ find }) => find(knitted, r));
const checkRopes: CheckRow = (knitted, r) =>
  held(knitted, 'rope-row').checks.flatMap(({ find }) => find(knitted, r));

/** What is found in rows, ready to be told: where it is only counted it is found again. */
function toTell(rows: readonly (readonly Sheaf[])[], again: (r: number) => readonly Found[]): ToTell[] {
  const all: ToTell[] = [];
  rows.forEach((sheaves, r) => {
    for (const sheaf of sheaves) all.push({ ...sheaf, found: () => sheaf.found ?? ofSheaf(again(r), sheaf) });
  });
  return all;
}

const alone = (found: Found): ToTell => ({ ...found, count: 1, found: () => [found] });

/** A tally's findings one by one, and for those it let go of one that only counts. */
function tallied({ first, count }: Tally): ToTell[] {
  const all = first.map(alone);
  const last = all.at(-1);
  if (last) last.count += count - first.length;
  return all;
}

/** Findings of the rows: each worked out again only when what enters it, or the chart around it, is another. */
function findingsOfRows(knitted: Knitted): ToTell[] {
  const { chart } = knitted;
  const around = [...frameOf(chart), wayOf(chart), chart.own, ...held(knitted, 'row').asks(knitted)];
  const rows = rowSheaves(knitted.works, around, ({ r }) => sheavesOf(checkRow(knitted, r)));
  return toTell(rows, (r) => checkRow(knitted, r));
}

/** Findings of the ropes, each told once, however often its rows are drawn out. */
function findingsOfRopes(knitted: Knitted): ToTell[] {
  const { chart, roped } = knitted;
  const frame = [...wholeFrameOf(chart), chart.own];
  const around = [...frame, ...held(knitted, 'rope-row').asks(knitted)];
  const { checks, asks } = held(knitted, 'ropes');
  const most = roped.isWhole ? undefined : Infinity;
  const rows = ropeSheaves(roped.rows, around, ({ r }) => sheavesOf(checkRopes(knitted, r), most));
  const all = ropesTally(roped.crossed, [...frame, ...asks(knitted)], () =>
    firstOf(eachOnce(checks, knitted)),
  );
  const byRow = roped.isWhole
    ? toTell(rows, (r) => checkRopes(knitted, r))
    : tallied(firstOf(once(rows.flatMap((sheaves) => sheaves.flatMap(({ found }) => found!)))));
  return [...byRow, ...tallied(all)];
}

/** What the checks of the ropes find, one after the other. */
function* eachOnce(checks: readonly CheckOf<'ropes'>[], knitted: Knitted): Iterable<Found> {
  for (const { find } of checks) {
    const found = find(knitted);
    yield* knitted.roped.isWhole ? found : once(found);
  }
}

/** What copies of a row tell alike, once. */
function* once(findings: Iterable<Found>): Iterable<Found> {
  const told = new Set<string>();
  for (const found of findings) {
    const key = `${found.id} ${found.row} ${found.columns?.join()}`;
    if (told.has(key)) continue;
    told.add(key);
    yield found;
  }
}

/** What of a design's settings the checks ask. */
export type CheckSettings = Partial<Pick<Settings, 'rules' | 'meant'>>;

const NOTHING_MEANT = {};

/** The mends of a finding, none where there are none that do. */
export type Mends = Pick<Finding, 'fix' | 'others'>;

/**
 * All findings of a chart, without mends: errors first, then from the bottom row up. What the designer has accepted is told
 * with her reason.
 */
export function findingsOf(
  chart: Chart,
  { rules = USUAL_RULES, meant = NOTHING_MEANT }: CheckSettings = {},
): Finding[] {
  const { told, more, level } = foundIn(chart, rules, meant);
  const findings = told.map(({ mend: _, ...finding }) => isMeant(finding, chart, meant));
  if (!more) return findings;
  const message = `${counted(more, 'finding')} more; mend these first.`;
  return [...findings, { id: 'more-findings', level, message }];
}

/**
 * The mends of each of a chart's findings, in their order, one finding at a time: a mend is given only once it was tried, and to
 * try them all takes as many checks more as there are mends.
 */
export function* mendsOf(
  chart: Chart,
  { rules = USUAL_RULES, meant = NOTHING_MEANT }: CheckSettings = {},
): Generator<Mends> {
  const { told } = foundIn(chart, rules, meant);
  const cells = chart.width * chart.rows.length;
  let tries = Math.max(LEAST_TRIED, Math.min(MOST_TRIED, Math.floor(CELLS_TRIED / cells)));
  const mends = (found: Found, { chart: mended }: Edit): boolean =>
    tries-- > 0 && isBetter(told, foundIn(mended, rules, meant).told, found);
  for (const found of told) yield mendsThatDo(found, chart, mends);
}

/** All findings of a chart, each with its mends. */
export function checkChart(chart: Chart, by: CheckSettings = {}): Finding[] {
  const mends = [...mendsOf(chart, by)];
  return findingsOf(chart, by).map((finding, i) => ({ ...finding, ...mends[i] }));
}

/** What keeps a chart from being knitted or written as it stands, without mends. */
export const errorsIn = (chart: Chart): Finding[] =>
  foundIn(chart, USUAL_RULES, NOTHING_MEANT)
    .told.filter(({ level }) => level === 'error')
    .map(({ mend: _, ...finding }) => finding);

/** So many mends are tried each time, of the gravest findings first; the others get their turn once these are mended. */
const [LEAST_TRIED, MOST_TRIED, CELLS_TRIED] = [6, 60, 120_000];

/** All that the checks find in a chart, the first of it in order. */
function foundIn(chart: Chart, rules: Rules, meant: Meant): ReturnType<typeof toldOf> {
  const knitted = knit(chart, rules, meant);
  return toldOf([
    ...findingsOfRows(knitted),
    ...findingsOfRopes(knitted),
    ...held(knitted, 'chart')
      .checks.flatMap(({ find }) => find(knitted))
      .map(alone),
  ]);
}

/** How often each check found something, of a level. */
function counts(told: readonly Found[], levels: readonly Found['level'][]): Map<string, number> {
  const many = new Map<string, number>();
  for (const { id, level } of told) if (levels.includes(level)) many.set(id, (many.get(id) ?? 0) + 1);
  return many;
}

/** Whether a mend does what it says: its finding is gone, and nothing as grave has come in its place. */
function isBetter(before: readonly Found[], after: readonly Found[], { id, level }: Found): boolean {
  const own = (told: readonly Found[]) => told.filter((f) => f.id === id).length;
  if (own(after) >= own(before)) return false;
  const levels: Found['level'][] = level === 'error' ? ['error'] : ['error', 'caution'];
  const [was, now] = [counts(before, levels), counts(after, levels)];
  return [...now].every(([check, many]) => many <= (was.get(check) ?? 0));
}

/** Those that are still to be seen to. */
export const unmeant = (findings: readonly Finding[]): Finding[] =>
  findings.filter((f) => f.meant === undefined);

/** What ids that no check tells are called: what is told of names, of a mirror's edit, and of what is left untold. */
const OTHER_TITLES: Readonly<Record<string, string>> = {
  'same-name': 'Two crossings of one name',
  'no-mirror-image': 'No mirror image',
  'more-findings': 'More findings',
};

/** What findings of an id are called where they stand together: of one that has no title, its id in plain words. */
export const checkTitle = (id: string): string =>
  CHECKS.find(({ tells }) => id in tells)?.tells[id] ?? OTHER_TITLES[id] ?? id.replaceAll('-', ' ');

export type { Check, Finding, Fix } from './finding.js';
export { meantCrossings } from './over-under.js';

import { EditError } from '../../chart/edit.js';
import { setUp } from '../../chart/edits.js';
import type { Stretch } from '../../chart/frame.js';
import type { Up } from '../../chart/lines.js';
import type { Chart } from '../../chart/schema.js';
import type { Pattern } from '../pattern.js';
import type { PatternLines, Problem } from './lines.js';
import type { Order } from './order.js';

/** How the rows of a text follow each other, in places from 1; `open` is a stretch it does not say how often. */
export interface Planned {
  plan: Stretch[] | null;
  open: Stretch | null;
  problems: Problem[];
}

/**
 * What a text says of rows that are worked again: its plan, or what stands between its rows ("rep rows 1–4 twice
 * more", "these 4 rows form the pattern").
 */
export function planned({ plan, rows }: Pattern, again: PatternLines['again'], order: Order): Planned {
  const problems: Problem[] = [];
  const height = order.rows.length;
  const tell = (id: string, message: string, at?: Problem['at']) =>
    problems.push({ id, level: 'error', message, at });
  if (plan) {
    const placed = plan.map(({ from, to, times }) => ({
      from: order.placeOf(from) ?? from,
      to: order.placeOf(to) ?? to,
      times,
    }));
    if (plan.some(({ from, to }) => order.placeOf(from) === null || order.placeOf(to) === null)) {
      tell(
        'rows-not-there',
        `The text says how rows follow each other that it does not write: it has ${height} rows.`,
      );
      return { plan: null, open: null, problems };
    }
    // A plan of the numbered rows begins after those that stand before row 1.
    const first = placed[0]?.from ?? 1;
    const lead = first > 1 && plan[0]?.from === 1 ? [{ from: 1, to: first - 1, times: 1 }] : [];
    return { plan: [...lead, ...placed], open: null, problems };
  }
  let found: { from: number; to: number; times: number | null } | undefined;
  for (const { said, after, at } of again) {
    const here = order.rowsAfter(after);
    let from: number | null;
    let to: number | null;
    if ('from' in said)
      [from, to] = [order.placeOf(said.from), said.to === null ? here : order.placeOf(said.to)];
    else [from, to] = [said.last === null ? (order.placeOf(1) ?? 1) : here - said.last + 1, here];
    if (from === null || to === null || from < 1 || to < from || to > height) {
      tell(
        'rows-not-there',
        `The text repeats rows that are not written before: ${rows.length ? `it has ${height} rows` : 'it has none'}.`,
        at,
      );
      continue;
    }
    const times = said.times ?? (said.more === null ? null : said.more + (said.isWorked ? 0 : 1));
    // "These 4 rows form the pattern" and "rep rows 1–4 twice more" say one thing.
    if (!found) found = { from, to, times };
    else if (found.from === from && found.to === to) found.times ??= times;
    else if (times !== null || found.times !== null)
      tell(
        'plan-left-aside',
        `The text repeats rows ${found.from}–${found.to}, and here rows ${from}–${to}: a chart repeats one stretch of rows.`,
        at,
      );
  }
  for (const p of problems) if (p.id === 'plan-left-aside') p.level = 'caution';
  if (!found) return { plan: null, open: null, problems };
  const { from, to, times } = found;
  const stretch: Stretch = { from, to, times: times ?? 1 };
  return {
    plan: [{ from: 1, to: from - 1, times: 1 }, stretch, { from: to + 1, to: height, times: 1 }].filter(
      (s) => s.from <= s.to,
    ),
    open: times === null ? stretch : null,
    problems,
  };
}

/** The chart with the repeat up that the text plans, where its rows allow it. */
export function withPlan(chart: Chart, { plan, open }: Planned): { chart: Chart; problems: Problem[] } {
  if (!plan) return { chart, problems: [] };
  const cannot = (why: string): { chart: Chart; problems: Problem[] } => ({
    chart,
    problems: [
      {
        id: 'plan-left-aside',
        level: 'caution' as const,
        message: `How the rows follow each other is left aside: ${why}`,
      },
    ],
  });
  const goesBack = (i: number) => (plan[i + 1]?.from ?? Infinity) <= plan[i]!.to;
  const at = open ? plan.indexOf(open) : plan.findIndex(({ times }, i) => times > 1 || goesBack(i));
  if (at < 0) {
    const isAll = plan[0]!.from === 1 && plan.at(-1)!.to === chart.rows.length;
    const inOrder = plan.every((p, i) => i === 0 || p.from === plan[i - 1]!.to + 1);
    return isAll && inOrder
      ? { chart, problems: [] }
      : cannot('it does not go through all the rows in order.');
  }
  const { from, to, times } = plan[at]!;
  const [before, after] = [plan.slice(0, at), plan.slice(at + 1)];
  if (after.some((p) => p.times > 1)) return cannot('a chart repeats one stretch of rows.');
  // Some of the rows once more after the last whole pass: it is ended part-way.
  const ended = after[0]?.from === from && after[0].to < to ? after.shift() : undefined;
  const onwards = (stretches: readonly Stretch[], first: number) =>
    stretches.every((p, i) => p.from === (i ? stretches[i - 1]!.to + 1 : first));
  const isWhole =
    onwards(before, 1) &&
    (before.at(-1)?.to ?? 0) === from - 1 &&
    onwards(after, to + 1) &&
    (after.at(-1)?.to ?? to) === chart.rows.length;
  if (!isWhole) return cannot('it does not go through the rows in order, with one stretch of them repeated.');
  const up: Up = { setup: from - 1, closing: chart.rows.length - to, times };
  try {
    const edit = setUp(chart, ended ? { ...up, end: ended.to } : up);
    return {
      chart: edit.chart,
      problems: open
        ? [
            {
              id: 'repeat-open',
              level: 'note',
              message: `The text leaves open how often rows ${from}–${to} are repeated: set it in the chart.`,
            },
          ]
        : [],
    };
  } catch (error) {
    if (error instanceof EditError) return cannot(error.message);
    throw error;
  }
}

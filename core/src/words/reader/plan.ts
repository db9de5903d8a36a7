import { EditError } from '../../chart/edit.js';
import { setUp } from '../../chart/edits.js';
import type { Stretch } from '../../chart/frame.js';
import type { Up } from '../../chart/repeat-lines.js';
import { jogsFrom } from '../../chart/repeat-lines.js';
import { LIMITS, type Chart, type Row } from '../../chart/schema.js';
import { sideOf } from '../../construction/index.js';
import { workChart } from '../../needle/needle.js';
import type { Pattern } from '../pattern.js';
import type { PatternLines, Problem } from './pattern-lines.js';
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
    // A stretch that is left open is worked once in the chart, and what of a last pass is told beyond it.
    const placed = plan.flatMap(({ from, to, times, ends }): (Stretch & { isOpen: boolean })[] => {
      const [a, b] = [order.placeOf(from) ?? from, order.placeOf(to) ?? to];
      const end = ends === undefined || ends === to ? null : (order.placeOf(ends) ?? ends);
      return [
        { from: a, to: b, times: times ?? 1, isOpen: times === null },
        ...(end === null ? [] : [{ from: a, to: end, times: 1, isOpen: false }]),
      ];
    });
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
    const whole = [...lead, ...placed.map(({ isOpen: _, ...stretch }) => stretch)];
    const at = placed.findIndex(({ isOpen }) => isOpen);
    return { plan: whole, open: at < 0 ? null : whole[at + lead.length]!, problems };
  }
  const found: { from: number; to: number; times: number | null; ends: number | null }[] = [];
  const left: { from: number; to: number; at: Problem['at'] }[] = [];
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
    const whole = said.rows === undefined ? null : said.rows / (to - from + 1);
    if (whole !== null && (!Number.isInteger(whole) || whole < 1)) {
      tell(
        'plan-left-aside',
        `Rows ${from}–${to} are said to be repeated until ${said.rows} rows are worked: that is no whole number of repeats.`,
        at,
      );
      continue;
    }
    const then = said.then && {
      from: order.placeOf(said.then.from) ?? said.then.from,
      to: order.placeOf(said.then.to) ?? said.then.to,
    };
    let times = whole ?? said.times ?? (said.more === null ? null : said.more + 1);
    if ('from' in said && here === height && to < height) left.push({ from, to, at });
    const end = said.ends === null ? null : order.placeOf(said.ends);
    if (said.ends !== null && (end === null || end < from || end > to))
      tell(
        'plan-left-aside',
        `The text repeats rows ${from}–${to} and ends with row ${said.ends}, which is not one of them.`,
        at,
      );
    let ends = end === null || end < from || end >= to ? null : end;
    // "Then rows 1 and 2 once": a last pass that is ended part-way.
    if (then && then.from <= to) {
      if (then.from !== from || then.to > to || times === null || ends !== null) {
        tell(
          'plan-left-aside',
          `The text repeats rows ${from}–${to}, then works rows ${then.from}–${then.to}: it does not say how the two go together.`,
          at,
        );
        continue;
      }
      times += 1;
      ends = then.to < to ? then.to : null;
    }
    // "These 4 rows form the pattern" and "rep rows 1–4 twice more" say one thing.
    const same = found.find((f) => f.from === from && f.to === to);
    if (same) {
      same.times ??= times;
      same.ends ??= ends;
    } else if (
      found.length &&
      (times === null || found.some((f) => f.times === null || (f.from <= to && f.to >= from)))
    ) {
      const [first] = found as [(typeof found)[number]];
      if (times !== null || first.times !== null)
        tell(
          'plan-left-aside',
          `The text repeats rows ${first.from}–${first.to}, and here rows ${from}–${to}: it does not say how the two go together.`,
          at,
        );
    } else found.push({ from, to, times, ends });
  }
  for (const p of problems) if (p.id === 'plan-left-aside') p.level = 'caution';
  // Said after rows that nothing speaks of: whether these belong to the repeat is hers to say.
  if (found.length === 1)
    for (const { from, to, at } of left.slice(0, 1))
      problems.push({
        id: 'repeat-not-whole',
        level: 'caution',
        row: to,
        message: `The text repeats rows ${from}–${to}, and writes ${height - to === 1 ? `row ${height}` : `rows ${to + 1}–${height}`} before it says so: do these belong to the repeat? They are charted after it; set the repeat as you mean it.`,
        at,
      });
  if (!found.length) return { plan: null, open: null, problems };
  // So many times, the last of them ended early: the whole ones, and the rows of the last. One that is left open ends beyond it.
  const stretches = found
    .sort((a, b) => a.from - b.from)
    .map(({ from, to, times, ends }) => ({
      whole: { from, to, times: times === null ? 1 : ends === null ? times : times - 1 },
      last: ends === null ? [] : [{ from, to: ends, times: 1 }],
    }));
  const open = found.length === 1 && found[0]!.times === null ? stretches[0]!.whole : null;
  // What stands between them is worked once.
  const whole = stretches.flatMap(({ whole: stretch, last }, i): Stretch[] => [
    { from: i ? stretches[i - 1]!.whole.to + 1 : 1, to: stretch.from - 1, times: 1 },
    ...(stretch.times > 0 ? [stretch] : []),
    ...last,
  ]);
  whole.push({ from: stretches.at(-1)!.whole.to + 1, to: height, times: 1 });
  return { plan: whole.filter((s) => s.from <= s.to), open, problems };
}

/**
 * The chart with its rows drawn out as a plan works them, where it repeats more than one stretch of them; null where
 * they would not come out so: too many, on the other side, on another needle, or presenting other stitches.
 */
function drawnOut(chart: Chart, plan: readonly Stretch[], order: Order): Chart | null {
  const total = plan.reduce((sum, { from, to, times }) => sum + (to - from + 1) * times, 0);
  const worked = new Set(
    plan.flatMap(({ from, to }) => Array.from({ length: to - from + 1 }, (_, i) => from + i)),
  );
  if (total > LIMITS.rows || worked.size < chart.rows.length) return null;
  const rows: Row[] = [];
  const jogs: number[] = [];
  for (const { from, to, times } of plan) {
    if (times > 1 && order.rows[from - 1]?.body?.type === 'presented') return null;
    for (let pass = 0; pass < times; pass++)
      for (let r = from - 1; r < to; r++) {
        if (sideOf(chart, r) !== sideOf(chart, rows.length)) return null;
        rows.push(chart.rows[r]!);
        jogs.push(chart.jogs[r] ?? 0);
      }
  }
  const drawn = { ...chart, rows, jogs: jogsFrom(jogs) };
  return workChart(drawn).some(({ lacks }, r) => r > 0 && lacks !== 0) ? null : drawn;
}

/** The chart with the repeat up that the text plans, where its rows allow it. */
export function withPlan(
  chart: Chart,
  { plan, open }: Planned,
  order: Order,
): { chart: Chart; problems: Problem[] } {
  if (!plan) return { chart, problems: [] };
  const asDrawn = (): { chart: Chart; problems: Problem[] } | null => {
    const drawn = open ? null : drawnOut(chart, plan, order);
    return (
      drawn && {
        chart: drawn,
        problems: [
          {
            id: 'plan-drawn-out',
            level: 'note',
            message: `A chart repeats one stretch of rows: what the text plans is drawn out as ${drawn.rows.length} rows.`,
          },
        ],
      }
    );
  };
  const cannot = (why: string): { chart: Chart; problems: Problem[] } =>
    asDrawn() ?? {
      chart,
      problems: [
        {
          id: 'plan-left-aside',
          level: 'caution' as const,
          message: `How the rows follow each other is left aside: ${why}`,
        },
      ],
    };
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

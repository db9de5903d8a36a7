import { sameStitch, spanOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { sameValue } from '../values.js';
import { isListName, isToldApart, listSteps, type Listed, type ListName, type ListStep } from './listed.js';
import { spanOfAll } from './rows.js';
import { bookOf, type Chart, type Design, type Row } from './schema.js';
import {
  sameStitches,
  setStep,
  type CellsStep,
  type Change,
  type ChartsStep,
  type SetStep,
  type Step,
} from './steps.js';

/** Steps read off the difference of two states: of a row, of settings, of whole designs. */

type Bag = Readonly<Record<string, unknown>>;

const isBag = (v: unknown): v is Bag => typeof v === 'object' && v !== null && !Array.isArray(v);

/** The pieces a step of equal span falls into: wherever both what was and what is can be cut. */
export function unitsOf(
  was: Row,
  now: Row,
  book: StitchBook,
): { at: number; was: Stitch[]; now: Stitch[] }[] {
  const units: { at: number; was: Stitch[]; now: Stitch[] }[] = [];
  let [i, j, a, b] = [0, 0, 0, 0];
  while (i < was.length || j < now.length) {
    const unit = { at: a, was: [] as Stitch[], now: [] as Stitch[] };
    do {
      if (a <= b && i < was.length) a += spanOf(push(unit.was, was[i++]!), book);
      else if (j < now.length) b += spanOf(push(unit.now, now[j++]!), book);
      else break;
    } while (a !== b);
    units.push(unit);
  }
  return units;
}

function push(to: Stitch[], stitch: Stitch): Stitch {
  to.push(stitch);
  return stitch;
}

/** How many stitches two rows have alike from the right, and of the others from the left. */
function alike(was: Row, now: Row): [head: number, tail: number] {
  let head = 0;
  while (head < was.length && head < now.length && sameStitch(was[head]!, now[head]!)) head++;
  let tail = 0;
  const shorter = Math.min(was.length, now.length) - head;
  while (tail < shorter && sameStitch(was.at(-1 - tail)!, now.at(-1 - tail)!)) tail++;
  return [head, tail];
}

/** The smallest steps that lead from one row to another in the same place. */
export function rowSteps(chart: string, r: number, was: Row, now: Row, book: StitchBook): CellsStep[] {
  if (sameStitches(was, now)) return [];
  const step = (column: number, from: Row, to: Row): CellsStep => ({
    kind: 'cells',
    chart,
    row: r,
    column,
    was: from,
    now: to,
  });
  if (spanOfAll(was, book) !== spanOfAll(now, book)) {
    const [head, tail] = alike(was, now);
    const column = spanOfAll(was.slice(0, head), book);
    return [step(column, was.slice(head, was.length - tail), now.slice(head, now.length - tail))];
  }
  // Most rows differ in one place: the stitches before and after it need no cutting.
  const [head, tail] = alike(was, now);
  const from = spanOfAll(was.slice(0, head), book);
  const steps: CellsStep[] = [];
  let open: { at: number; was: Stitch[]; now: Stitch[] } | null = null;
  const close = () => {
    if (open) steps.push(step(from + open.at, open.was, open.now));
    open = null;
  };
  const middle = (row: Row) => row.slice(head, row.length - tail);
  for (const unit of unitsOf(middle(was), middle(now), book)) {
    if (sameStitches(unit.was, unit.now)) close();
    else if (!open) open = unit;
    else open = { at: open.at, was: [...open.was, ...unit.was], now: [...open.now, ...unit.now] };
  }
  close();
  return steps;
}

/** Steps that set what differs between two bags of settings, each by its own path. */
export function setSteps(
  path: readonly string[],
  was: Bag,
  now: Bag,
  skip: readonly string[] = [],
): (SetStep | ListStep)[] {
  const keys = [...new Set([...Object.keys(was), ...Object.keys(now)])].filter((k) => !skip.includes(k));
  return keys.flatMap((key): (SetStep | ListStep)[] => {
    const [a, b] = [was[key], now[key]];
    if (sameValue(a, b)) return [];
    if (isBag(a) && isBag(b)) return setSteps([...path, key], a, b);
    if (isListName(key) && isToldApart(a) && isToldApart(b))
      return listedSteps(
        key,
        [...path, key],
        a as unknown as Listed[typeof key][],
        b as unknown as Listed[typeof key][],
      );
    if (key === 'own') return ownSteps([...path, key], a as Chart['own'], b as Chart['own']);
    return [setStep([...path, key], a, b)];
  });
}

/** What is told by its id comes, goes and changes places; and what is left of it is set field by field. */
function listedSteps<N extends ListName>(
  of: N,
  path: readonly string[],
  was: readonly Listed[N][],
  now: readonly Listed[N][],
): (SetStep | ListStep)[] {
  const set = was.flatMap((item) => {
    const other = now.find((o) => o.id === item.id);
    return other ? setSteps([...path, item.id], item as unknown as Bag, other as unknown as Bag) : [];
  });
  return [...set, ...listSteps(of, was, now)];
}

/** The designer's own stitches are set one by one, each as a whole. */
function ownSteps(path: readonly string[], was: Chart['own'], now: Chart['own']): SetStep[] {
  const ids = [...new Set([...was, ...now].map((o) => o.id))];
  const find = (list: Chart['own'], id: string) => list.find((o) => o.id === id);
  return ids
    .filter((id) => !sameValue(find(was, id), find(now, id)))
    .map((id) => setStep([...path, id], find(was, id), find(now, id)));
}

/** A change of title, notes, what was left aside, tags, settings, sheet or piece; null when nothing changed. The caller brings the id. */
export function headChange(
  design: Design,
  patch: Partial<Pick<Design, 'title' | 'notes' | 'asides' | 'tags' | 'settings' | 'sheet' | 'piece'>>,
  label: string,
  id: string,
): Change | null {
  const steps = setSteps([], design, { ...design, ...patch }, ['charts', 'id', 'format']);
  return steps.length ? { id, label, steps } : null;
}

/**
 * The steps that lead from one state of a design to another, as when an earlier one is taken back. A chart whose
 * rows still stand in the same places is changed cell by cell, any other is replaced whole.
 */
export function stepsBetween(was: Design, now: Design): Step[] {
  const steps: Step[] = setSteps([], was, now, ['charts', 'id', 'format']);
  const sameCharts = sameValue(
    was.charts.map((c) => c.id),
    now.charts.map((c) => c.id),
  );
  if (!sameCharts) return [...steps, ...chartsReplaced(0, was.charts, now.charts)];
  was.charts.forEach((chart, i) => {
    const other = now.charts[i]!;
    if (chart === other) return;
    const within = chartSteps(chart, other);
    if (within) steps.push(...within);
    else if (!sameValue(chart, other)) steps.push(...chartsReplaced(i, [chart], [other]));
  });
  return steps;
}

/** The steps from one state of a chart to another whose rows still stand in the same places; null where they do not. */
export function chartSteps(was: Chart, now: Chart): Step[] | null {
  const sameShape = was.id === now.id && was.width === now.width && was.rows.length === now.rows.length;
  if (!sameShape || !sameValue(was.own, now.own)) return null;
  const book = bookOf(was);
  return [
    ...setSteps(['charts', was.id], was, now, ['rows', 'id', 'width']),
    ...was.rows.flatMap((row, r) =>
      row === now.rows[r] ? [] : rowSteps(was.id, r, row, now.rows[r]!, book),
    ),
  ];
}

function chartsReplaced(at: number, was: readonly Chart[], now: readonly Chart[]): ChartsStep[] {
  return [
    { kind: 'charts', done: 'out', at, charts: was },
    { kind: 'charts', done: 'in', at, charts: now },
  ];
}

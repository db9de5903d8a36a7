import type { Stitch } from '../stitches/book.js';
import { EditError } from './edit.js';
import { setStep, type Step } from './steps.js';
import { LIMITS, type Chart, type Design } from './schema.js';

/** Several charts of one design: how they are called, and edits that put them in, order them and take them out. */

/** The name a chart is spoken of by: its own, or else the letter of its place. */
export function chartName({ charts }: Pick<Design, 'charts'>, chart: Pick<Chart, 'id' | 'name'>): string {
  if (chart.name) return chart.name;
  const place = charts.findIndex((c) => c.id === chart.id);
  return `Chart ${String.fromCharCode(65 + Math.max(0, place))}`;
}

/** A chart put in at a place. @throws EditError where there are as many as a design holds */
export function putChart({ charts }: Design, at: number, chart: Chart): Step[] {
  if (charts.length >= LIMITS.charts) throw new EditError(`A design holds at most ${LIMITS.charts} charts.`);
  return [{ kind: 'charts', done: 'in', at, charts: [chart] }];
}

/** A chart taken out. @throws EditError where it is the last */
export function takeChart({ charts }: Design, id: string): Step[] {
  if (charts.length === 1) throw new EditError('A design keeps at least one chart.');
  const at = charts.findIndex((c) => c.id === id);
  if (at < 0) throw new EditError('That chart is no longer in the design.');
  return [{ kind: 'charts', done: 'out', at, charts: [charts[at]!] }];
}

/** A chart moved to another place in the order they are printed. */
export function moveChart({ charts }: Design, id: string, to: number): Step[] {
  const at = charts.findIndex((c) => c.id === id);
  const chart = charts[at];
  if (!chart || to === at || to < 0 || to >= charts.length) return [];
  return [
    { kind: 'charts', done: 'out', at, charts: [chart] },
    { kind: 'charts', done: 'in', at: to, charts: [chart] },
  ];
}

/** A chart given a name; '' for the letter of its place. */
export const nameChart = ({ id, name }: Chart, now: string): Step[] =>
  name === now ? [] : [setStep(['charts', id, 'name'], name, now)];

/** The chart whose own stitches a stitch of a shared key is one of; any, where it is everyone's. */
export const chartHolding = (charts: readonly Chart[], stitch: Stitch): Chart =>
  charts.find(({ own }) => own.some((o) => o.id === stitch)) ?? charts[0]!;

/** A short text that is another once a chart's rows, repeats or own stitches are (two passes of FNV-1a). */
export function printOf(chart: Chart): string {
  const text = JSON.stringify({ ...chart, id: '', name: '', part: 'piece', meant: {} });
  const pass = (seed: number) => {
    let hash = seed;
    for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 16_777_619);
    return (hash >>> 0).toString(36);
  };
  return `${pass(2_166_136_261)}-${pass(0x5bd1_e995)}`;
}

import { placesOf, type Action } from './beds.js';
import type { OperatorsList } from './list.js';
import { toolsOf } from './list-text.js';
import { Operator } from './operate.js';

/** How a needle of the back bed stands: with a stitch, in work without one, or out of work. */
export type Stands = 'stitch' | 'bare' | 'out';

/** The needles about an action, from the left as they are looked at, before it and after. */
export interface Pictured {
  /** The place of the leftmost; those to its right follow. */
  from: number;
  before: Stands[];
  after: Stands[];
}

/** So many needles beside those of an action are shown. */
const BESIDE = 1;

function standsAt(operator: Operator, from: number, to: number): Stands[] {
  const bed = operator.beds.standing('back');
  return Array.from({ length: from - to + 1 }, (_, i): Stands => {
    const has = bed.get(from - i);
    return has === undefined ? 'out' : has ? 'stitch' : 'bare';
  });
}

/** The needles before and after each of these actions of a list, as the simulated beds have them; none of what they cannot do. */
export function picturesOf(
  { setup, actions, rows }: Pick<OperatorsList, 'setup' | 'actions' | 'rows'>,
  told: readonly Action[],
): (Pictured | null)[] {
  const wanted = new Set(told);
  const found = new Map<Action, Pictured>();
  const operator = new Operator(setup, actions, rows);
  while (found.size < wanted.size && operator.next) {
    const { next } = operator;
    if (next.what === 'row' || !wanted.has(next.action)) {
      operator.step();
      continue;
    }
    const { action } = next;
    const places = [...placesOf(action.from), ...placesOf(action.to)];
    const [from, to] = [Math.max(...places) + BESIDE, Math.min(...places) - BESIDE];
    const before = standsAt(operator, from, to);
    operator.step();
    if (!operator.problems.length) found.set(action, { from, before, after: standsAt(operator, from, to) });
  }
  return told.map((action) => found.get(action) ?? null);
}

/** One moment of a transfer: how the needles of the back bed stand, from the left, and what hangs on the tools meanwhile. */
export interface TransferFrame {
  said: string;
  stands: Stands[];
  /** Places among `stands` whose stitches are on a tool. */
  lifted: number[];
}

/** An action moment by moment, as the beds have it before and after. */
export function transferFrames(action: Action, { from, before, after }: Pictured): TransferFrame[] {
  const [starts, ends] = [placesOf(action.from), placesOf(action.to)];
  const at = (place: number) => from - place;
  const bare = before.map((s, i): Stands => (starts.some((p) => at(p) === i) ? 'bare' : s));
  const laid = after.map((s, i): Stands => (s === 'out' && before[i] !== 'out' ? 'bare' : s));
  const tools = toolsOf(action);
  const frames: TransferFrame[] = [
    { said: `Knit to count ${action.counter}.`, stands: before, lifted: [] },
    { said: `Lift ${action.from.join(' ')}: ${tools}.`, stands: bare, lifted: starts.map(at) },
    {
      said:
        action.kind === 'cable'
          ? `Lay them on each other’s needles, ${(action.over ?? []).join(' ')} over.`
          : `Lay them on ${action.to.join(' ')}.`,
      stands: bare,
      lifted: ends.map(at),
    },
    { said: 'Every stitch hangs on its needle.', stands: laid, lifted: [] },
  ];
  if (action.out.length)
    frames.push({
      said: `Put ${action.out.join(' ')} out of work: left in work it begins a stitch of its own.`,
      stands: after,
      lifted: [],
    });
  return frames;
}

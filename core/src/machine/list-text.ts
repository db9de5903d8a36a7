import { shownRepeat } from '../chart/smallest.js';
import { counted, sameValue } from '../values.js';
import type { Action, Setup } from './beds.js';
import type { OperatorsList } from './list.js';
import { placeOf } from './needles.js';

/** An operator's list in words, as it is printed, typed and read. */

/** Prongs of a transfer tool, at most. */
const MOST_PRONGS = 3;
const PRONGS = ['', 'single', 'double', 'triple'];

/** Groups of stitches that are lifted at once, by their sizes. */
function lifts(stitches: number): number[] {
  const tools = Math.ceil(stitches / MOST_PRONGS);
  return Array.from({ length: tools }, (_, i) => Math.ceil((stitches - i) / tools));
}

/** What an action does, as an operator reads it: "L1 × R1" of a cable, what lies over first; "L2 L1 → L3 L2" of each rope that moves. */
export function actionSigns({ kind, from, to, over = [] }: Action): string {
  if (kind === 'cable')
    return `${over.join(' ')} × ${from.filter((needle) => !over.includes(needle)).join(' ')}`;
  const place = (needle: string | undefined) => placeOf(needle ?? '') ?? 0;
  const ropes: { from: string[]; to: string[] }[] = [];
  from.forEach((needle, i) => {
    const isSame =
      i > 0 &&
      place(from[i - 1]) === place(needle) + 1 &&
      place(to[i]) - place(needle) === place(to[i - 1]) - place(from[i - 1]);
    const rope = isSame ? ropes.at(-1)! : { from: [], to: [] };
    if (!isSame) ropes.push(rope);
    rope.from.push(needle);
    rope.to.push(to[i]!);
  });
  return ropes.map((rope) => `${rope.from.join(' ')} → ${rope.to.join(' ')}`).join(', ');
}

/** Neighbouring needles of a move, as the ropes they are. */
function ropesOf({ from, to }: Action): number[] {
  const moves = from.map((needle, i) => ({
    place: placeOf(needle) ?? 0,
    by: (placeOf(to[i]!) ?? 0) - (placeOf(needle) ?? 0),
  }));
  moves.sort((a, b) => a.place - b.place);
  const sizes: number[] = [];
  moves.forEach(({ place, by }, i) => {
    const last = moves[i - 1];
    if (last?.place === place - 1 && last.by === by) sizes[sizes.length - 1]!++;
    else sizes.push(1);
  });
  return sizes;
}

/** The tools an action wants: both groups of a cable are held at once, ropes that move go one after the other. */
export function toolsOf(action: Action): string {
  const { kind, from, over = [] } = action;
  const held =
    kind === 'cable'
      ? [...lifts(over.length), ...lifts(from.length - over.length)]
      : [...new Set(ropesOf(action).flatMap(lifts))];
  const many = [3, 2, 1].flatMap((prongs) => {
    const n = held.filter((size) => size === prongs).length;
    return n ? [`${n === 1 ? 'one' : n === 2 ? 'two' : n} ${PRONGS[prongs]!}`] : [];
  });
  return many.join(', ');
}

/** What an action does, without its count: "cable L1 R1 to R1 L1, R1 over", "move L1 R1 to L2 R2, L1 R1 out". */
export function actionText({ kind, from, to, over = [], out }: Action): string {
  const needles = (list: readonly string[]) => list.join(' ');
  return [
    `${kind} ${needles(from)} to ${needles(to)}`,
    ...(kind === 'cable' ? [`${needles(over)} over`] : []),
    ...(out.length ? [`${needles(out)} out`] : []),
  ].join(', ');
}

/** A list as it is told: what is done once, what is done over and over, and what then. */
export interface ToldList {
  before: Action[];
  /** Actions of the first time; after `rows` rows they come again, so many times in all. */
  again: { actions: Action[]; from: number; rows: number; times: number } | null;
  after: Action[];
}

/** What is told of a list, in its order: what comes again is told once. */
export const toldActions = ({ before, again, after }: ToldList): Action[] => [
  ...before,
  ...(again?.actions ?? []),
  ...after,
];

/** The actions of a list with equal stretches told once. */
export function toldList({ actions, rows }: Pick<OperatorsList, 'actions' | 'rows'>): ToldList {
  const at = Array.from({ length: rows }, (): Omit<Action, 'counter'>[] => []);
  for (const { counter, ...action } of actions) at[counter]?.push(action);
  const same = (a: number, b: number) => sameValue(at[a], at[b]);
  const shown = rows <= MOST_COMPARED ? shownRepeat(rows, same, () => true) : null;
  const within = (from: number, to: number) => actions.filter(({ counter: c }) => c >= from && c < to);
  const once = { before: [...actions], again: null, after: [] };
  if (!shown) return once;
  const { before: from, length, times } = shown;
  const told = within(from, from + length);
  return told.length
    ? {
        before: within(0, from),
        again: { actions: told, from, rows: length, times },
        after: within(from + length * times, rows),
      }
    : once;
}
/** Longer lists are told whole: looking for what repeats grows with the square of their rows. */
const MOST_COMPARED = 4000;

/** A list as text that is read back: the needles in work, a line for each action, and how many rows are knit. */
export const listText = ({
  setup,
  actions,
  rows,
}: Pick<OperatorsList, 'setup' | 'actions' | 'rows'>): string =>
  [
    `back: ${setup.back.join(' ')}`,
    `front: ${setup.front.join(' ')}`,
    ...actions.map((action) => `${action.counter}: ${actionText(action)}`),
    `rows: ${rows}`,
  ].join('\n');

export const LIST_COLUMNS = ['Count', 'Action', 'From', 'To', 'Over', 'Out of work', 'Tool', 'Done'] as const;

/** The rows of a list for a table of figures. */
export const listCsvRows = (actions: readonly Action[]): string[][] =>
  actions.map((action) => {
    const { counter, kind, from, to, over = [], out } = action;
    return [
      String(counter),
      kind,
      from.join(' '),
      to.join(' '),
      over.join(' '),
      out.join(' '),
      toolsOf(action),
      '',
    ];
  });

/** A list that was typed, as far as it was understood; lines count from 1. */
export interface ListRead {
  setup: Setup;
  actions: Action[];
  rows: number;
  problems: { line: number; message: string }[];
}

/** A list has at most so many lines and rows; a longer one is not read. */
const [MOST_LINES, MOST_ROWS] = [4000, 100_000];

const ACTION =
  /^(\d{1,6})\s*:\s*(cable|move)\s+(.*?)\s+to\s+([^,]*?)\s*(?:,\s*([^,]*?)\s+over\s*)?(?:,\s*([^,]*?)\s+out\s*)?$/i;

/** Reads a list as it is typed. Nothing is guessed: a line that is not understood is told. */
export function readList(text: string): ListRead {
  const read: ListRead = { setup: { back: [], front: [] }, actions: [], rows: 0, problems: [] };
  const lines = text.split('\n');
  const tell = (line: number, message: string) => read.problems.push({ line, message });
  if (lines.length > MOST_LINES) {
    tell(MOST_LINES, `A list has at most ${counted(MOST_LINES, 'line')}.`);
    return read;
  }
  const said = new Set<string>();
  lines.forEach((given, i) => {
    const line = given.trim();
    if (!line) return;
    const needles = (list: string | undefined): string[] => {
      const names = (list ?? '')
        .toUpperCase()
        .split(/[\s,]+/)
        .filter(Boolean);
      const odd = names.find((name) => placeOf(name) === null);
      if (odd !== undefined) tell(i + 1, `${odd.slice(0, 12)} is no needle: they are L1, L2 … and R1, R2 …`);
      return names.filter((name) => placeOf(name) !== null);
    };
    const bed = /^(back|front)\s*:\s*(.*)$/i.exec(line);
    const rows = /^rows\s*:\s*(\d{1,9})$/i.exec(line);
    const action = ACTION.exec(line);
    const once = (what: string) => {
      if (said.has(what)) tell(i + 1, `${what} is said twice.`);
      said.add(what);
    };
    if (bed) {
      const name = bed[1]!.toLowerCase() as keyof Setup;
      once(name);
      read.setup = { ...read.setup, [name]: needles(bed[2]) };
    } else if (rows) {
      once('rows');
      read.rows = Math.min(MOST_ROWS, Number(rows[1]));
      if (Number(rows[1]) > MOST_ROWS) tell(i + 1, `At most ${MOST_ROWS} rows are knit.`);
    } else if (action) {
      const [, counter, kind, from, to, over, out] = action;
      read.actions.push({
        counter: Number(counter),
        kind: kind!.toLowerCase() as Action['kind'],
        from: needles(from),
        to: needles(to),
        ...(over !== undefined && { over: needles(over) }),
        out: needles(out),
      });
    } else
      tell(
        i + 1,
        `"${line.slice(0, 24)}" is not understood. A line is "back: …", "front: …", "rows: 12", "2: cable L1 R1 to R1 L1, R1 over" or "4: move L1 to L2, L1 out".`,
      );
  });
  if (!read.rows && !said.has('rows')) tell(lines.length, 'How many rows are knit is not said: "rows: 12".');
  return read;
}

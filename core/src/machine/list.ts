import { expandPiece } from '../chart/expand.js';
import type { Chart } from '../chart/schema.js';
import { wayOf } from '../construction/index.js';
import { isCrossing, kindOf, stitchBook, stitchId, type Stitch } from '../stitches/book.js';
import { crossing, type Crossing } from '../stitches/crossing.js';
import type { Lean, Worked } from '../stitches/face.js';
import type { Action, Setup } from './beds.js';
import { inOrder, needleAt } from './needles.js';
import { runMachine } from './operate.js';

/** How a chart is worked on two beds. */
export interface Method {
  /** Ground facing the ropes needle to needle, or whole across the front bed with the ropes before it. */
  method: 'basic' | 'embossed';
  /** Rows that are knit between one look at the counter and the next. */
  every?: number;
  /** All cables one way, where it is wished so; else as the chart leans. */
  lean?: Lean;
}

/** What stands in the way of a list, and what would help. Rows count from 1. */
export interface MachineProblem {
  /** Stable, in small letters: what it is that the beds cannot do. */
  id: 'one-fabric' | 'crossing' | 'off-count' | 'stitch' | 'no-rope' | 'texture' | 'on-the-beds';
  row: number;
  message: string;
}

/** The operator's list of a chart, run on the simulated beds. */
export interface OperatorsList {
  setup: Setup;
  actions: Action[];
  rows: number;
  /** Whether the simulated beds made the chart's cloth by it. */
  checked: boolean;
  problems: MachineProblem[];
}

/** Larger cables are hard on needles and yarn (custom). */
const MOST_CABLED = 3;
const MOST_PROBLEMS = 50;
/** What is said of the chart as a whole. */
const OF_ALL: readonly MachineProblem['id'][] = ['one-fabric', 'no-rope'];

const all = (group: readonly Worked[], worked: Worked) => group.every((w) => w === worked);

/** What a crossing is on a machine: stitches of one bed, or a rope that goes over a ground stitch; else why it is neither. */
export function taken(c: Crossing): 'cable' | 'move' | string {
  if (c.centre.length) return 'has a group in the middle, and a cable changes two groups';
  if (all(c.front, 'k') && all(c.back, 'k'))
    return c.front.length > MOST_CABLED || c.back.length > MOST_CABLED
      ? `changes more than ${MOST_CABLED} stitches with others: that is hard on needles and yarn`
      : 'cable';
  if (!all(c.front, 'k') || !all(c.back, 'p'))
    return 'is not of knit stitches over knit ones, or over purl ground';
  return c.back.length > 1
    ? `moves a rope ${c.back.length} needles at once, and it goes one at a time: stretch the chart so that it moves in ${c.back.length} rows`
    : 'move';
}

/** The other way about, where all cables lie one way. */
export const leaning = (stitch: Stitch, lean: Lean | undefined): Stitch =>
  lean && isCrossing(stitch) && taken(stitch) === 'cable'
    ? crossing(lean, stitch.front, stitch.back)
    : stitch;

/** The cloth that a chart's piece is to be, its repeats carried out, all cables one way where that is wished. */
export const clothWanted = (chart: Chart, lean?: Lean): Stitch[][] =>
  expandPiece(chart).map(({ stitches }) => stitches.map((stitch) => leaning(stitch, lean)));

/** The list of a chart as its piece is worked, its repeats carried out. */
export function listOf(chart: Chart, { method, every = 2, lean }: Method): OperatorsList {
  const problems: MachineProblem[] = [];
  const tell = (id: MachineProblem['id'], row: number, message: string) => {
    if (problems.length < MOST_PROBLEMS)
      problems.push({
        id,
        row: row + 1,
        message: `${OF_ALL.includes(id) ? 'The chart' : `Row ${row + 1}`} ${message}.`,
      });
  };
  const none = (): OperatorsList => ({
    setup: { back: [], front: [] },
    actions: [],
    rows: 0,
    checked: false,
    problems,
  });
  const way = wayOf(chart);
  if (!way.hasEdges || way.loops === 2) {
    tell('one-fabric', 0, `is worked ${way.worked}; two beds knit flat, one fabric`);
    return none();
  }
  const piece = clothWanted(chart, lean);
  const book = stitchBook(chart.own);
  piece.forEach((row, r) => {
    for (const stitch of row) {
      if (isCrossing(stitch)) {
        const what = taken(stitch);
        if (what !== 'cable' && what !== 'move') tell('crossing', r, `holds a crossing that ${what}`);
        else if (r % every)
          tell(
            'off-count',
            r,
            `crosses at count ${r}, and the counter is read after every ${every} rows: stretch the chart so that crossings stand ${every} apart`,
          );
      } else if (stitch !== 'k' && stitch !== 'p')
        tell(
          'stitch',
          r,
          `holds ${kindOf(stitch, book).name}; two beds knit ropes on purl ground, and nothing else`,
        );
    }
  });
  if (problems.length) return none();

  /** Which columns are of a rope, from the right, as the first row has them before its own crossings. */
  const before = (row: readonly Stitch[]): boolean[] =>
    row.flatMap((s) => {
      if (!isCrossing(s)) return [s === 'k'];
      const group = (g: readonly Worked[]) => g.map((w) => w === 'k');
      return s.lean === 'left'
        ? [...group(s.front), ...group(s.back)]
        : [...group(s.back), ...group(s.front)];
    });
  let ropes = before(piece[0]!);
  const knitColumns = piece.flatMap((row) => before(row).flatMap((is, i) => (is ? [i] : [])));
  if (!knitColumns.length) {
    tell('no-rope', 0, 'has no rope: nothing is to be told of ground alone');
    return none();
  }
  const centre = Math.floor((Math.min(...knitColumns) + Math.max(...knitColumns) + 1) / 2);
  const width = ropes.length;
  const places = Array.from({ length: width }, (_, column) => column - centre);
  const setup: Setup = {
    back: inOrder(places.filter((_, i) => ropes[i])),
    front: inOrder(method === 'embossed' ? places : places.filter((_, i) => !ropes[i])),
  };
  const actions: Action[] = [];
  piece.forEach((row, r) => {
    const moves: { from: number; to: number }[] = [];
    const here = before(row);
    if (here.length !== width || here.some((is, i) => is !== ropes[i]))
      tell(
        'texture',
        r,
        'changes between rope and ground where nothing crosses: texture cannot be knit in the ropes',
      );
    let column = 0;
    for (const stitch of row) {
      if (!isCrossing(stitch)) {
        column++;
        continue;
      }
      const [f, b] = [stitch.front.length, stitch.back.length];
      const isLeft = stitch.lean === 'left';
      const fronts = Array.from({ length: f }, (_, i) => column + (isLeft ? 0 : b) + i);
      const by = isLeft ? b : -b;
      if (taken(stitch) === 'move') moves.push(...fronts.map((from) => ({ from, to: from + by })));
      else {
        const backs = Array.from({ length: b }, (_, i) => column + (isLeft ? f : 0) + i);
        const pairs = [
          ...fronts.map((from) => ({ from, to: from + by })),
          ...backs.map((from) => ({ from, to: from - Math.sign(by) * f })),
        ].sort((x, y) => y.from - x.from);
        const name = (at: number) => needleAt(at - centre);
        actions.push({
          counter: r,
          kind: 'cable',
          from: pairs.map(({ from }) => name(from)),
          to: pairs.map(({ to }) => name(to)),
          over: [...fronts].reverse().map(name),
          out: [],
        });
      }
      column += f + b;
    }
    if (moves.length) {
      const inTurn = moves.sort((x, y) => y.from - x.from);
      const goesTo = new Set(inTurn.map(({ to }) => to));
      const name = (at: number) => needleAt(at - centre);
      actions.push({
        counter: r,
        kind: 'move',
        from: inTurn.map(({ from }) => name(from)),
        to: inTurn.map(({ to }) => name(to)),
        out: inTurn.flatMap(({ from }) => (goesTo.has(from) ? [] : [name(from)])),
      });
      const now = [...ropes];
      for (const { from } of inTurn) now[from] = false;
      for (const { to } of inTurn) now[to] = true;
      ropes = now;
    }
  });
  if (problems.length) return none();
  const run = runMachine(setup, actions, piece.length);
  const told = (rows: readonly (readonly Stitch[])[]) =>
    rows.map((row) => row.map(stitchId).join(' ')).join('\n');
  const checked = run.chart !== null && !run.problems.length && told(run.chart.rows) === told(piece);
  for (const { counter, message } of run.problems)
    tell('on-the-beds', counter, `does not come out on the beds: ${message}`);
  return { setup, actions, rows: piece.length, checked, problems };
}

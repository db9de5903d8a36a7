/** Cloths for the tests: ropes on a ground, worked out stitch by stitch, which patterns are printed from. */

/** A stitch as the right side looks: a word, or a crossing. */
export type Cell = string | Cross;
export interface Cross {
  lean: 'left' | 'right';
  front: string[];
  back: string[];
}

/** Numbers that follow from a seed, the same on every machine. */
export class Dice {
  constructor(private seed: number) {}
  next(): number {
    this.seed = (this.seed + 0x6d2b79f5) | 0;
    let t = Math.imul(this.seed ^ (this.seed >>> 15), 1 | this.seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  below = (n: number): number => Math.floor(this.next() * n);
  of = <T>(all: readonly T[]): T => all[this.below(all.length)]!;
  chance = (p: number): boolean => this.next() < p;
}

export const many = (n: number, cell: Cell): Cell[] => Array.from({ length: n }, () => cell);
const cross = (lean: 'left' | 'right', front: number, back: number, purl = false): Cross => ({
  lean,
  front: Array<string>(front).fill('k'),
  back: Array<string>(back).fill(purl ? 'p' : 'k'),
});
export const takes = (cell: Cell): number =>
  typeof cell !== 'string'
    ? cell.front.length + cell.back.length
    : (({ yo: 0, m1l: 0, m1r: 0, m1lp: 0, k2tog: 2, ssk: 2, p2tog: 2, kfb: 1 } as Record<string, number>)[
        cell
      ] ?? 1);
export const makes = (cell: Cell): number =>
  typeof cell !== 'string' ? takes(cell) : cell === 'kfb' ? 2 : 1;
export const sum = (row: readonly Cell[], of: (cell: Cell) => number) => row.reduce((n, c) => n + of(c), 0);

/** What the right side shows above a row that is only followed as it presents. */
export const above = (row: readonly Cell[]): Cell[] =>
  row.flatMap((cell) => {
    if (typeof cell === 'string') return many(makes(cell), cell === 'p' ? 'p' : 'k');
    return cell.lean === 'left' ? [...cell.back, ...cell.front] : [...cell.front, ...cell.back];
  });

/** A cloth in parts: what stands before the repeat, the repeat, how often, and after it; each row a list of cells. */
export interface Cloth {
  before: Cell[][];
  unit: Cell[][];
  times: number;
  after: Cell[][];
}

export const wholeRow = ({ before, unit, times, after }: Cloth, r: number): Cell[] => [
  ...before[r]!,
  ...Array.from({ length: times }, () => unit[r]!).flat(),
  ...after[r]!,
];

/** A rope of so many stitches, crossed on some of its rows. */
function rope(dice: Dice, rows: number, isRound: boolean): Cell[][] {
  const half = dice.of([1, 2, 2, 2, 3, 3]);
  const lean = dice.of(['left', 'right'] as const);
  const at = dice.of([0, 2]);
  const isInTurn = dice.chance(0.3);
  const other = lean === 'left' ? 'right' : 'left';
  return Array.from({ length: rows }, (_, r) =>
    r % 4 === at && (isRound || r % 2 === 0)
      ? [cross(isInTurn && r >= 4 ? other : lean, half, half)]
      : many(2 * half, 'k'),
  );
}

/** Two strands that travel over purl ground, together and apart again: eight rows. */
function travelling(): Cell[][] {
  const [L, R] = [cross('left', 2, 1, true), cross('right', 2, 1, true)];
  const apart: Cell[] = ['k', 'k', 'p', 'p', 'k', 'k'];
  const together: Cell[] = ['p', 'k', 'k', 'k', 'k', 'p'];
  return [apart, apart, [R, L], together, together, together, [L, R], apart];
}

function ground(dice: Dice, rows: number): Cell[][] {
  const n = dice.of([1, 2, 2, 3]);
  return Array.from({ length: rows }, () => many(n, 'p'));
}

const beside = (...parts: Cell[][][]): Cell[][] => parts[0]!.map((_, r) => parts.flatMap((p) => p[r]!));

export function clothOf(dice: Dice, isRound: boolean): Cloth {
  const rows = dice.of([4, 4, 6, 8]);
  const none = Array.from({ length: rows }, (): Cell[] => []);
  const edge = (n: number, c: Cell): Cell[][] => Array.from({ length: rows }, () => many(n, c));
  const kind = dice.of(['panel', 'repeat', 'repeat', 'counts', 'bobble', 'twisted', 'travel']);
  const g = ground(dice, rows);
  if (kind === 'repeat') {
    const n = g[0]!.length;
    const unit = beside(edge(n, 'p'), rope(dice, rows, isRound));
    const e = isRound ? 0 : dice.of([0, 0, 1, 2]);
    return {
      before: e ? edge(e, 'k') : none,
      unit,
      times: dice.of([2, 3, 4]),
      after: isRound ? none : beside(edge(n, 'p'), e ? edge(e, 'k') : none),
    };
  }
  const only = (unit: Cell[][]): Cloth => ({ before: none, unit, times: 1, after: none });
  if (kind === 'counts') {
    // One loop more, and one fewer further up.
    const gain = dice.of(['yo', 'm1l', 'm1r', 'kfb']);
    const drop = dice.of(['k2tog', 'ssk']);
    const gained: Cell[] = gain === 'kfb' ? ['k', 'kfb', 'k', 'k'] : ['k', gain, 'k', 'k', 'k'];
    const five = Array.from({ length: rows - 3 }, () => many(5, 'k'));
    const rest = [gained, ...five, ['k', drop, 'k', 'k'], many(4, 'k')];
    return only(beside(g, rest, g));
  }
  if (kind === 'bobble')
    return only(
      beside(
        g,
        Array.from({ length: rows }, (_, r) => (r === 2 ? ['k', 'mb', 'k'] : many(3, 'k'))),
        g,
        rope(dice, rows, isRound),
        g,
      ),
    );
  if (kind === 'twisted')
    return only(
      beside(
        g,
        Array.from({ length: rows }, () => ['kt', 'p', 'kt']),
        g,
        rope(dice, rows, isRound),
        g,
      ),
    );
  if (kind === 'travel') {
    const strands = travelling();
    const edges = strands.map(() => many(2, 'p'));
    const nothing = strands.map((): Cell[] => []);
    return { before: nothing, unit: beside(edges, strands, edges), times: 1, after: nothing };
  }
  return only(
    beside(g, rope(dice, rows, isRound), g, dice.chance(0.5) ? rope(dice, rows, isRound) : none, g),
  );
}

export const hasCrossing = (row: readonly Cell[]) => row.some((c) => typeof c !== 'string');
/** Whether a row has more than plain stitches. */
export const hasOdd = (row: readonly Cell[]) =>
  row.some((c) => typeof c !== 'string' || !/^(?:k|p|kt|pt)$/.test(c));

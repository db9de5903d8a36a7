import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { wayOf } from '../construction/index.js';
import { remembered } from '../remember.js';
import { isCrossing, type Stitch } from '../stitches/book.js';
import { crossingSize, stitchesBefore, workedAfter, type Crossing } from '../stitches/crossing.js';
import { LAYERS, LOOP, meetings, type LoopKind, type RowKnit, type Tie, type Wale } from './row-knit.js';

/**
 * Ropes on a ground that is whole, as two beds make them where they are embossed: the ground is knitted on all needles of the
 * front bed, and the rope's stitches are further loops before it, which change places among themselves.
 */

const isPlain = (stitch: Stitch): boolean =>
  isCrossing(stitch)
    ? [...stitch.front, ...stitch.centre, ...stitch.back].every((w) => w === 'k' || w === 'p')
    : stitch === 'k' || stitch === 'p';

/** Whether a chart's ropes can lie on a whole ground: of knit and purl stitches and their crossings alone, with edges. */
export const takesWholeGround = remembered((chart: Chart): boolean => {
  const { hasEdges, loops } = wayOf(chart);
  const all = chart.rows.flat();
  return hasEdges && loops === 1 && all.every(isPlain) && all.some(isCrossing) && all.includes('p');
});

/** Whether each stitch that a row meets is one of a rope, from the right. */
const ropesBelow = (row: Row): boolean[] =>
  row.flatMap((stitch) =>
    isCrossing(stitch) ? stitchesBefore(stitch).map(({ worked }) => worked === 'k') : [stitch === 'k'],
  );

/** Of a crossing each stitch of a rope that it makes: its place, that of the one it continues, and how deep it lies. */
function ropesOfCrossing(
  crossing: Crossing,
  continues: readonly number[],
): { to: number; from: number; layer: number }[] {
  const before = stitchesBefore(crossing);
  const after = workedAfter(crossing);
  const layers = LAYERS[crossing.centre.length ? 'three' : 'two'];
  return continues.flatMap((from, to) =>
    // What lies lowest lies level still: the ground is behind it.
    after[to] === 'k' ? [{ to, from, layer: (layers[before[from]!.group] + 1) / 2 }] : [],
  );
}

/** What lies in a row: its ground from the right, then the loops of its ropes. */
class RowOnGround {
  readonly column: number[] = [];
  readonly stitch: number[] = [];
  readonly kind: LoopKind[] = [];
  readonly face: number[] = [];
  readonly wales: Wale[] = [];
  readonly overs: RowKnit['overs'] = [];
  readonly ties: Tie[] = [];
  /** The loop of a rope in each column; −1 where there is none. */
  readonly rope: Int32Array;

  constructor(
    readonly first: number,
    readonly r: number,
    readonly width: number,
    readonly made: LoopKind,
  ) {
    this.rope = new Int32Array(width).fill(-1);
  }

  put(column: number, stitch: number, face: 1 | -1): number {
    this.stitch.push(stitch);
    this.kind.push(this.made);
    this.face.push(face);
    return this.first + this.column.push(column) - 1;
  }

  putRope(column: number, stitch: number): number {
    const loop = (this.rope[column] = this.put(column, stitch, 1));
    this.ties.push({ rope: loop, ground: this.first + column });
    return loop;
  }

  draw(parent: number, child: number, how: Pick<Wale, 'moved' | 'isCrossed' | 'layer'>): boolean {
    // A needle that was put in work starts a stitch of its own.
    if (parent < 0) return false;
    this.wales.push({ parent, child, shift: 0, apart: 1, ...how, rank: 0, of: 1 });
    return true;
  }

  /** The ground is joined along all of its row, a rope along its stitches. */
  done(): RowKnit & { ties: readonly Tie[] } {
    const { first, width, rope, r } = this;
    const beside = (a: number, b: number) => ({ a, b, shift: 0, apart: 1, float: 0 });
    const ground = Array.from({ length: width }, (_, c) => first + c);
    const courses = ground.slice(1).map((b) => beside(b - 1, b));
    for (let c = 1; c < width; c++)
      if (rope[c - 1]! >= 0 && rope[c]! >= 0) courses.push(beside(rope[c - 1]!, rope[c]!));
    return {
      row: [],
      loops: [],
      below: [],
      first,
      column: this.column,
      stitch: this.stitch,
      kind: this.kind,
      face: this.face,
      courses,
      wales: this.wales,
      overs: this.overs,
      needle: ground.map((loop) => ({ loop, shift: 0, row: r, through: null })),
      ties: this.ties,
    };
  }
}

const LEVEL = { moved: 0, isCrossed: false, layer: 0 } as const;

/** The rows of a chart on a whole ground, the cast-on first. */
export function rowsOnWholeGround(chart: Chart): (RowKnit & { ties: readonly Tie[] })[] {
  const book = bookOf(chart);
  const { width } = chart;
  const cast = new RowOnGround(0, -1, width, LOOP.castOn);
  for (let c = 0; c < width; c++) cast.put(c, -1, 1);
  ropesBelow(chart.rows[0]!).forEach((isRope, c) => isRope && cast.putRope(c, -1));
  const rows = [cast];
  chart.rows.forEach((row, r) => {
    const below = rows.at(-1)!;
    const now = new RowOnGround(below.first + below.column.length, r, width, LOOP.plain);
    rows.push(now);
    row.forEach((stitch, i) => {
      for (let k = isCrossing(stitch) ? crossingSize(stitch) : 1; k > 0; k--)
        now.put(now.column.length, i, -1);
    });
    for (let c = 0; c < width; c++) now.draw(below.first + c, now.first + c, LEVEL);
    let column = 0;
    row.forEach((stitch, i) => {
      if (!isCrossing(stitch)) {
        if (stitch === 'k') now.draw(below.rope[column]!, now.putRope(column, i), LEVEL);
        column++;
        return;
      }
      const firstWale = now.wales.length;
      const order: number[] = [];
      for (const { to, from, layer } of ropesOfCrossing(stitch, book.facts(stitch).continues))
        if (
          now.draw(below.rope[column + from]!, now.putRope(column + to, i), {
            moved: to - from,
            isCrossed: true,
            layer,
          })
        )
          order.push(from);
      now.overs.push(...meetings(now.wales, firstWale, order));
      column += crossingSize(stitch);
    });
  });
  return rows.map((row) => row.done());
}

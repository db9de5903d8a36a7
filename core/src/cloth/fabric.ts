import { startOf } from '../chart/frame.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { constructionOf, sideOf } from '../construction/construction.js';
import { fromStart, workChart } from '../needle/needle.js';
import { isCrossing, kindOf, type Stitch, type StitchBook, type StitchFacts } from '../stitches/book.js';
import { stitchesBefore, type Crossing, type Group } from '../stitches/crossing.js';
import { modulo } from '../values.js';

/**
 * The fabric: which loop stands beside which along the yarn, and which is drawn through which. It is knitted from the
 * chart row by row, on the needle, and holds no lengths: where the loops lie is told by what relaxes it.
 */

/** How a loop came about, as far as its yarn lies otherwise for it. */
export const LOOP = {
  castOn: 0,
  plain: 1,
  /** Drawn through a loop from behind, which crosses that loop's legs. */
  twisted: 2,
  /** The yarn laid over the needle, through nothing. */
  over: 3,
  /** Out of the bar between two loops, twisted. */
  bar: 4,
  /** Out of the loop below its neighbour. */
  lifted: 5,
  bobble: 6,
} as const;
export type LoopKind = (typeof LOOP)[keyof typeof LOOP];

/** How deep the groups of a crossing lie: what is in none lies level. With a centre group there are three layers. */
const LAYERS: Record<'two' | 'three', Record<Group, number>> = {
  two: { front: 1, back: -1, centre: 0 },
  three: { front: 1, back: 0, centre: -1 },
};

/** Two loops beside each other along the yarn: `b` is the one further left, `shift` turns of the round away. */
export interface Course {
  a: number;
  b: number;
  shift: number;
  /** Columns from one to the other: more than 1 where loops between them were slipped. */
  apart: number;
  /** Where the yarn passes slipped loops: 1 in front of them, −1 behind; 0 where it passes none. */
  float: number;
}

/** A loop drawn through another, or through several worked together. */
export interface Wale {
  parent: number;
  child: number;
  /** Turns of the round that lie between them. */
  shift: number;
  /** Rows from one to the other: more than 1 where the loop was slipped, or lifted from below. */
  apart: number;
  /** Columns it is moved to the left in a crossing. */
  moved: number;
  /** Whether it is in a crossing at all, and how deep there: the higher lies before the lower. */
  isCrossed: boolean;
  layer: number;
  /** Its place among the loops its child is drawn through, 0 on top, and how many these are. */
  rank: number;
  of: number;
}

/** Two stitches of a crossing, as places in the list of wales: the first lies over the second where they meet. */
export interface Over {
  over: number;
  under: number;
}

export interface Fabric {
  readonly chart: Chart;
  /** How many loops there are; those of the cast-on come first. */
  readonly size: number;
  /** Whether the last loop of each row lies beside its first. */
  readonly isRound: boolean;
  /** For each loop: the row that made it (from 0; −1 for the cast-on), the column it stands in, its stitch in that row. */
  readonly row: Int32Array;
  readonly column: Int32Array;
  readonly stitch: Int32Array;
  /** 1 for knit, −1 for purl, as the right side looks. */
  readonly face: Int8Array;
  readonly kind: Uint8Array;
  /** The loops on the needle after each row from the right: first those of the cast-on. */
  readonly needles: readonly Int32Array[];
  readonly courses: readonly Course[];
  readonly wales: readonly Wale[];
  readonly overs: readonly Over[];
  /** In flat work: the last loop of a row and the first of the next, which the same yarn makes. */
  readonly turns: readonly (readonly [number, number])[];
  /** The wale a loop is held up by, and the one it holds up best: places in the list; −1 where there is none. */
  readonly stem: Int32Array;
  readonly crown: Int32Array;
  /** The courses a loop stands in, as places in the list: the one to its right and the one to its left; −1 for none. */
  readonly right: Int32Array;
  readonly left: Int32Array;
}

/** A loop on the needle, and how many turns of the round it lies from where it was made. */
interface Held {
  loop: number;
  shift: number;
}

/** One loop a stitch makes: the loops it is drawn through by their places among those taken, the top one first. */
interface Made {
  through: readonly number[];
  moved: number;
  isCrossed: boolean;
  layer: number;
}

/** What each loop of a crossing is drawn through. */
function crossed(crossing: Crossing, { continues }: StitchFacts): Made[] {
  const before = stitchesBefore(crossing);
  const layers = LAYERS[crossing.centre.length ? 'three' : 'two'];
  return continues.map((from, to) => ({
    through: [from],
    moved: to - from,
    isCrossed: true,
    layer: layers[before[from]!.group],
  }));
}

const level = (through: readonly number[]): Made => ({
  through,
  moved: 0,
  isCrossed: false,
  layer: 0,
});

/**
 * What each loop of a stitch that is no crossing is drawn through. A decrease is drawn through all it takes, what lies
 * on top first; of several loops out of fewer, each continues the one that lies below it.
 */
function madeOf({ takes, makes, continues }: StitchFacts): Made[] {
  if (takes <= makes || makes === 0)
    return Array.from({ length: makes }, (_, i) => level(takes ? [Math.floor((i * takes) / makes)] : []));
  return Array.from({ length: makes }, (_, i) => {
    const through = Array.from({ length: takes }, (_, t) => t).filter(
      (t) => Math.floor((t * makes) / takes) === i,
    );
    const top = continues[i]!;
    return level(through.sort((x, y) => Math.abs(x - top) - Math.abs(y - top)));
  });
}

const shapes = new WeakMap<StitchFacts, readonly Made[]>();

function shapeOf(stitch: Stitch, facts: StitchFacts): readonly Made[] {
  let shape = shapes.get(facts);
  if (!shape) shapes.set(facts, (shape = isCrossing(stitch) ? crossed(stitch, facts) : madeOf(facts)));
  return shape;
}

function loopKind(stitch: Stitch, facts: StitchFacts, i: number, book: StitchBook): LoopKind {
  if (facts.twisted.includes(i)) return LOOP.twisted;
  if (isCrossing(stitch)) return LOOP.plain;
  if (stitch === 'mb') return LOOP.bobble;
  if (facts.takes) return LOOP.plain;
  const { outOf } = kindOf(stitch, book);
  return outOf === undefined ? LOOP.over : outOf === 'bar' ? LOOP.bar : LOOP.lifted;
}

/** Grows as loops are made. */
class Knitting {
  readonly row: number[] = [];
  readonly column: number[] = [];
  readonly stitch: number[] = [];
  readonly face: number[] = [];
  readonly kind: number[] = [];
  readonly courses: Course[] = [];
  readonly wales: Wale[] = [];
  readonly overs: Over[] = [];
  readonly stem: number[] = [];
  readonly crown: number[] = [];

  loop(row: number, column: number, stitch: number, face: number, kind: LoopKind): number {
    this.row.push(row);
    this.column.push(column);
    this.stitch.push(stitch);
    this.face.push(face);
    this.kind.push(kind);
    this.stem.push(-1);
    return this.crown.push(-1) - 1;
  }

  wale(wale: Wale): number {
    const at = this.wales.push(wale) - 1;
    if (wale.rank === 0 && this.stem[wale.child]! < 0) this.stem[wale.child] = at;
    const crown = this.wales[this.crown[wale.parent] ?? -1];
    // Of several loops out of one, the middle one goes straight on.
    if (!crown || wale.rank < crown.rank) this.crown[wale.parent] = at;
    return at;
  }

  /** The loops of a row joined along the yarn, from the right. */
  join(made: readonly (Held & { worked: boolean; float: number })[], around: boolean): void {
    let last: Held | null = null;
    let first: Held | null = null;
    let [apart, float] = [1, 0];
    for (const { loop, shift, worked, float: passes } of made) {
      if (!worked) {
        apart++;
        float = passes;
        continue;
      }
      if (last) this.courses.push({ a: last.loop, b: loop, shift: shift - last.shift, apart, float });
      else first = { loop, shift };
      last = { loop, shift };
      [apart, float] = [1, 0];
    }
    // Loops slipped before the first one worked are passed on the way round too.
    const before = made.findIndex(({ worked }) => worked);
    if (around && first && last && first.loop !== last.loop)
      this.courses.push({
        a: last.loop,
        b: first.loop,
        shift: first.shift - last.shift - 1,
        apart: apart + Math.max(0, before),
        float: float || (before > 0 ? made[0]!.float : 0),
      });
  }
}

/** The wales of one loop: what it is drawn through, in a row over the loops it meets. */
function drawThrough(
  knitting: Knitting,
  child: number,
  { through, moved, isCrossed, layer }: Made,
  kind: LoopKind,
  met: readonly Held[],
  taken: number,
  outOf: string | undefined,
): number[] {
  const row = knitting.row[child]!;
  const wale = ({ loop, shift }: Held, rank: number, of: number): number =>
    knitting.wale({
      parent: loop,
      child,
      shift,
      apart: row - knitting.row[loop]!,
      moved,
      isCrossed,
      layer,
      rank,
      of,
    });
  if (kind === LOOP.bar)
    // The bar hangs between the loop just worked and the next.
    return [met[taken - 1], met[taken]].flatMap((held) => (held ? [wale(held, 1, 2)] : []));
  if (kind === LOOP.lifted) {
    const beside = outOf === 'right' ? met[taken - 1] : met[taken];
    if (!beside) return [];
    const below = knitting.wales[knitting.stem[beside.loop]!];
    const held = below ? { loop: below.parent, shift: beside.shift + below.shift } : beside;
    return [wale(held, 1, 2)];
  }
  const held = through.map((t) => met[taken + t]).filter((h) => h !== undefined);
  return held.map((h, rank) => wale(h, rank, held.length));
}

/** Where the stitches of a crossing meet: every one of a higher layer lies over every one of a lower that it passes. */
function meetings(knitting: Knitting, wales: readonly number[], order: readonly number[]): void {
  for (let i = 0; i < wales.length; i++)
    for (let j = i + 1; j < wales.length; j++) {
      if (order[i]! < order[j]!) continue;
      const [a, b] = [knitting.wales[wales[i]!]!, knitting.wales[wales[j]!]!];
      if (a.layer === b.layer) continue;
      knitting.overs.push(
        a.layer > b.layer ? { over: wales[i]!, under: wales[j]! } : { over: wales[j]!, under: wales[i]! },
      );
    }
}

/** A needle as a round meets it that begins `by` loops later, each loop as many turns away as that takes it. */
function turned(needle: readonly Held[], by: number): Held[] {
  const n = needle.length;
  if (!by || !n) return [...needle];
  return needle.map((_, k) => {
    const place = k + by;
    const { loop, shift } = needle[modulo(place, n)]!;
    return { loop, shift: shift - Math.floor(place / n) };
  });
}

/**
 * Knits a chart as it is drawn, each cell one stitch: a chart with its repeats drawn out gives them all. Where a row
 * wants more loops than there are, these are drawn through nothing; loops it leaves stay as they are.
 */
export function knitFabric(chart: Chart): Fabric {
  const book = bookOf(chart);
  const isRound = !constructionOf(chart).hasEdges;
  const works = workChart(chart);
  const knitting = new Knitting();
  const needles: Int32Array[] = [];
  let needle: Held[] = [];
  const keep = () => needles.push(Int32Array.from(needle, ({ loop }) => loop));

  const castOn: (Held & { worked: boolean; float: number })[] = [];
  let at = startOf(chart, 0);
  for (const stitch of chart.rows[0]!) {
    const { takes, span } = book.facts(stitch);
    for (let i = 0; i < takes; i++) {
      const loop = knitting.loop(-1, at + Math.min(i, span - 1), -1, 1, LOOP.castOn);
      castOn.push({ loop, shift: 0, worked: true, float: 0 });
    }
    at += span;
  }
  knitting.join(castOn, isRound);
  needle = turned(castOn, -startOf(chart, 0));
  keep();

  const turns: [number, number][] = [];
  let lastMade: number[] = castOn.map(({ loop }) => loop);
  for (const [r, stitches] of chart.rows.entries()) {
    const start = startOf(chart, r);
    const met = turned(needle, start);
    const faces = fromStart(works[r]!.loops, start);
    const made: (Held & { worked: boolean; float: number })[] = [];
    let taken = 0;
    let column = start;
    for (const [i, stitch] of stitches.entries()) {
      const facts = book.facts(stitch);
      const kind = isCrossing(stitch) ? undefined : kindOf(stitch, book);
      if (facts.faces === 'below') {
        const held = met[taken];
        if (held) made.push({ ...held, worked: false, float: stitch === 'slyf' ? 1 : -1 });
      } else {
        const wales: number[] = [];
        shapeOf(stitch, facts).forEach((shape, k) => {
          const as = loopKind(stitch, facts, k, book);
          const face = faces[made.length]?.face === 'purl' ? -1 : 1;
          const loop = knitting.loop(r, column + k, i, face, as);
          wales.push(...drawThrough(knitting, loop, shape, as, met, taken, kind?.outOf));
          made.push({ loop, shift: 0, worked: true, float: 0 });
        });
        if (isCrossing(stitch) && wales.length === facts.continues.length)
          meetings(knitting, wales, facts.continues);
      }
      taken += facts.takes;
      column += facts.span;
    }
    knitting.join(made, isRound);
    const worked = made.filter((h) => h.worked).map(({ loop }) => loop);
    if (!isRound && lastMade.length && worked.length) {
      // The yarn ends a row where the next begins: at the left after a right-side row.
      const leftward = sideOf(chart, r) === 'WS';
      turns.push(leftward ? [lastMade.at(-1)!, worked.at(-1)!] : [lastMade[0]!, worked[0]!]);
    }
    if (worked.length) lastMade = worked;
    needle = turned(made, -start);
    keep();
  }

  const size = knitting.row.length;
  const right = new Int32Array(size).fill(-1);
  const left = new Int32Array(size).fill(-1);
  knitting.courses.forEach(({ a, b }, c) => {
    left[a] = c;
    right[b] = c;
  });
  return {
    chart,
    size,
    isRound,
    row: Int32Array.from(knitting.row),
    column: Int32Array.from(knitting.column),
    stitch: Int32Array.from(knitting.stitch),
    face: Int8Array.from(knitting.face),
    kind: Uint8Array.from(knitting.kind),
    needles,
    courses: knitting.courses,
    wales: knitting.wales,
    overs: knitting.overs,
    turns,
    stem: Int32Array.from(knitting.stem),
    crown: Int32Array.from(knitting.crown),
    right,
    left,
  };
}

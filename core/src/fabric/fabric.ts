import { startOf } from '../chart/frame.js';
import type { ClothSettings } from '../chart/cloth-settings.js';
import { rowFacts } from '../chart/rows.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import { wayOf } from '../construction/index.js';
import type { Needle } from '../needle/loop.js';
import { castOnAsShown, fromStart, workChart } from '../needle/needle.js';
import { memory, upwards } from '../remember.js';
import { isCrossing, kindOf, type Stitch, type StitchBook, type StitchFacts } from '../stitches/book.js';
import { stitchesBefore, type Crossing } from '../stitches/crossing.js';
import { modulo } from '../values.js';
import { frontSheet, withBands, type LaidBand } from './knitted-as.js';
import {
  LAYERS,
  LOOP,
  meetings,
  type Course,
  type Held,
  type LoopKind,
  type Over,
  type RowKnit,
  type Tie,
  type Wale,
} from './row-knit.js';
import { rowsOnWholeGround, takesWholeGround } from './whole-ground.js';

/**
 * The fabric: which loop stands beside which along the yarn, and which is drawn through which. It is knitted from the
 * chart row by row, on the needle, and holds no lengths: where the loops lie is told by what relaxes it.
 */

export interface Fabric {
  /** What was knitted: the chart with the rounds of its bands among its rows. */
  readonly chart: Chart;
  /** The row of the chart as it was drawn that each of those stands for: of a band that of the row above it. */
  readonly rowOf: readonly number[];
  /** Where bands lie: the first of their rounds among the rows, how many they are, and how often their strands cross. */
  readonly bands: readonly LaidBand[];
  /** How many loops there are; those of the cast-on come first. */
  readonly size: number;
  /** Whether the last loop of each row lies beside its first. */
  readonly isTube: boolean;
  /** For each loop: the row that made it (from 0; −1 for the cast-on), the column it stands in, its stitch in that row. */
  readonly row: Int32Array;
  readonly column: Int32Array;
  readonly stitch: Int32Array;
  /** Of each loop whether it lies in yarn B, where two are worked at once; null where there is one. */
  readonly second: Uint8Array | null;
  /** 1 for knit, −1 for purl, as the right side looks. */
  readonly face: Int8Array;
  readonly kind: Uint8Array;
  /** The loops on the needle after each row from the right: first those of the cast-on. */
  readonly needles: readonly Int32Array[];
  readonly courses: readonly Course[];
  readonly wales: readonly Wale[];
  readonly overs: readonly Over[];
  /** Where ropes lie on a ground that is whole; none where the ground makes room for them. */
  readonly ties: readonly Tie[];
  /** The wale a loop is held up by, and the one it holds up best: places in the list; −1 where there is none. */
  readonly stem: Int32Array;
  readonly crown: Int32Array;
  /** The courses a loop stands in, as places in the list: the one to its right and the one to its left; −1 for none. */
  readonly right: Int32Array;
  readonly left: Int32Array;
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

const shapes = memory<readonly Made[]>();

const shapeOf = (stitch: Stitch, facts: StitchFacts): readonly Made[] =>
  shapes(facts, [], () => (isCrossing(stitch) ? crossed(stitch, facts) : madeOf(facts)));

function loopKind(stitch: Stitch, facts: StitchFacts, i: number, book: StitchBook): LoopKind {
  if (facts.twisted.includes(i)) return LOOP.twisted;
  if (isCrossing(stitch)) return LOOP.plain;
  if (stitch === 'mb') return LOOP.bobble;
  if (facts.takes) return LOOP.plain;
  const { outOf } = kindOf(stitch, book);
  return outOf === undefined ? LOOP.over : outOf === 'bar' ? LOOP.bar : LOOP.lifted;
}

/** A loop as a row meets or leaves it: worked in it, or slipped and passed by in front (1) or behind (−1). */
interface Left extends Held {
  isWorked: boolean;
  float: number;
}

/** The loops of a row joined along the yarn, from the right. */
function joined(along: readonly Left[], isTube: boolean): Course[] {
  const courses: Course[] = [];
  let last: Left | null = null;
  let first: Left | null = null;
  let [apart, float] = [1, 0];
  for (const held of along) {
    if (!held.isWorked) {
      apart++;
      float = held.float;
      continue;
    }
    if (last) courses.push({ a: last.loop, b: held.loop, shift: held.shift - last.shift, apart, float });
    else first = held;
    last = held;
    [apart, float] = [1, 0];
  }
  if (!isTube || !first || !last || first === last) return courses;
  // Loops slipped before the first one worked are passed on the way round too.
  const before = along.indexOf(first);
  courses.push({
    a: last.loop,
    b: first.loop,
    shift: first.shift - last.shift - 1,
    apart: apart + before,
    float: float || (before > 0 ? along[0]!.float : 0),
  });
  return courses;
}

/** What one loop is drawn through: loops of the needle as the row meets it, of which so many are taken already. */
function throughOf(
  { through }: Made,
  kind: LoopKind,
  met: readonly Held[],
  taken: number,
  outOf: string | undefined,
): (NonNullable<Held['through']> & { rank: number; of: number })[] {
  if (kind === LOOP.bar)
    // The bar hangs between the loop just worked and the next.
    return [met[taken - 1], met[taken]].flatMap((held) => (held ? [{ ...held, rank: 1, of: 2 }] : []));
  if (kind === LOOP.lifted) {
    const beside = outOf === 'right' ? met[taken - 1] : met[taken];
    if (!beside) return [];
    const { through: below } = beside;
    return [{ ...(below ? { ...below, shift: beside.shift + below.shift } : beside), rank: 1, of: 2 }];
  }
  const held = through.map((t) => met[taken + t]).filter((h) => h !== undefined);
  return held.map((h, rank) => ({ ...h, rank, of: held.length }));
}

/** A needle as a round meets it that begins `by` loops later, each loop as many turns away as that takes it. */
function turned(needle: readonly Held[], by: number): readonly Held[] {
  const n = needle.length;
  if (!by || !n) return needle;
  return needle.map((_, k) => {
    const place = k + by;
    const held = needle[modulo(place, n)]!;
    return { ...held, shift: held.shift - Math.floor(place / n) };
  });
}

/** One row knitted over the needle below it. */
function knitRow(chart: Chart, r: number, loops: Needle, below: readonly Held[], first: number): RowKnit {
  const book = bookOf(chart);
  const row = chart.rows[r]!;
  const start = startOf(chart, r);
  const met = turned(below, start);
  const faces = fromStart(loops, start);
  const made: Pick<RowKnit, 'column' | 'stitch' | 'kind' | 'face' | 'wales' | 'overs'> = {
    column: [],
    stitch: [],
    kind: [],
    face: [],
    wales: [],
    overs: [],
  };
  const along: Left[] = [];
  const { starts, meets } = rowFacts(row, book);
  row.forEach((stitch, i) => {
    const facts = book.facts(stitch);
    const taken = meets[i]!;
    const column = start + starts[i]!;
    if (facts.faces === 'below') {
      const held = met[taken];
      if (held) along.push({ ...held, isWorked: false, float: stitch === 'slyf' ? 1 : -1 });
    } else {
      const outOf = isCrossing(stitch) ? undefined : kindOf(stitch, book).outOf;
      const firstWale = made.wales.length;
      shapeOf(stitch, facts).forEach((shape, k) => {
        const kind = loopKind(stitch, facts, k, book);
        const loop = first + made.column.length;
        const through = throughOf(shape, kind, met, taken, outOf);
        const { moved, isCrossed, layer } = shape;
        for (const { loop: parent, shift, row: from, rank, of } of through)
          made.wales.push({ parent, child: loop, shift, apart: r - from, moved, isCrossed, layer, rank, of });
        made.column.push(column + k);
        made.stitch.push(i);
        made.kind.push(kind);
        made.face.push(faces[along.length]?.face === 'purl' ? -1 : 1);
        const stem = through.find(({ rank }) => rank === 0) ?? null;
        along.push({ loop, shift: 0, row: r, through: stem, isWorked: true, float: 0 });
      });
      if (isCrossing(stitch) && made.wales.length - firstWale === facts.continues.length)
        made.overs.push(...meetings(made.wales, firstWale, facts.continues));
    }
  });
  const isTube = !wayOf(chart).hasEdges;
  return {
    row,
    loops,
    below,
    first,
    ...made,
    courses: joined(along, isTube),
    needle: turned(along, -start),
  };
}

const sameHeld = (a: Held, b: Held): boolean =>
  a.loop === b.loop &&
  a.shift === b.shift &&
  a.row === b.row &&
  a.through?.loop === b.through?.loop &&
  a.through?.shift === b.through?.shift;

const sameNeedle = (a: readonly Held[], b: readonly Held[]): boolean =>
  a === b || (a.length === b.length && a.every((held, i) => sameHeld(held, b[i]!)));

/** The cast-on as a row of its own, which meets nothing. */
function castOn(chart: Chart): RowKnit {
  const book = bookOf(chart);
  const start = startOf(chart, 0);
  const first = chart.rows[0]!;
  const { starts } = rowFacts(first, book);
  const column = first.flatMap((stitch, i) => {
    const { takes, span } = book.facts(stitch);
    return Array.from({ length: takes }, (_, k) => start + starts[i]! + Math.min(k, span - 1));
  });
  const along = column.map((_, loop): Left => ({
    loop,
    shift: 0,
    row: -1,
    through: null,
    isWorked: true,
    float: 0,
  }));
  const each = <T>(value: T) => column.map(() => value);
  return {
    row: [],
    loops: [],
    below: [],
    first: 0,
    column,
    stitch: each(-1),
    kind: each(LOOP.castOn),
    face: each(1),
    courses: joined(along, !wayOf(chart).hasEdges),
    wales: [],
    overs: [],
    needle: turned(along, -start),
  };
}

const knitUpwards = upwards<Row, RowKnit>();

/**
 * Knits a chart as it is drawn, each cell one stitch: a chart with its repeats drawn out gives them all. Where a row
 * wants more loops than there are, these are drawn through nothing; loops it leaves stay as they are. A row that is as it
 * was, over a needle as it was, is not knitted again.
 *
 * @param ground whether it makes room for the ropes, as charted, or is whole behind them, where the chart can be worked so
 */
export function knitFabric(drawn: Chart, ground: ClothSettings['ground'] = 'charted'): Fabric {
  const { chart: worked, rowOf, bands } = withBands(drawn);
  if (ground === 'whole' && takesWholeGround(worked)) {
    const onGround = rowsOnWholeGround(worked);
    return { ...assembled(worked, onGround), ties: onGround.flatMap(({ ties }) => ties), rowOf, bands };
  }
  const chart = wayOf(worked).loops === 2 ? frontSheet(worked) : worked;
  const { own, jogs, construction, rows } = chart;
  const works = workChart(chart);
  const cast = castOn(chart);
  const knitted = knitUpwards(rows, [own, jogs, construction], ({ element: row, carried, was, r }) => {
    const { loops } = works[r]!;
    const below = carried ?? cast;
    const first = below.first + below.column.length;
    const isAsBefore =
      was?.row === row && was.loops === loops && was.first === first && sameNeedle(was.below, below.needle);
    return isAsBefore ? was : knitRow(chart, r, loops, below.needle, first);
  });
  const fabric = { ...assembled(chart, [cast, ...knitted]), rowOf, bands };
  return chart === worked ? fabric : { ...fabric, second: secondOf(worked, fabric) };
}

/** Which loops of the front sheet lie in yarn B: those of pairs that show it; of the cast-on those below them. */
function secondOf(drawn: Chart, { size, row, needles }: Fabric): Uint8Array {
  const second = new Uint8Array(size);
  const works = workChart(drawn);
  const before = castOnAsShown(drawn.rows[0]!, bookOf(drawn));
  needles.forEach((needle, n) => {
    const loops = n ? works[n - 1]!.loops : before;
    needle.forEach((loop, k) => {
      if (row[loop] === n - 1 && loops[k]?.face === 'purl') second[loop] = 1;
    });
  });
  return second;
}

/** The rows put together, loops and links of all of them each in one list. */
function assembled(chart: Chart, rows: readonly RowKnit[]): Omit<Fabric, 'rowOf' | 'bands'> {
  const size = rows.reduce((n, { column }) => n + column.length, 0);
  const fabric = {
    row: new Int32Array(size),
    column: new Int32Array(size),
    stitch: new Int32Array(size),
    face: new Int8Array(size),
    kind: new Uint8Array(size),
    stem: new Int32Array(size).fill(-1),
    crown: new Int32Array(size).fill(-1),
    right: new Int32Array(size).fill(-1),
    left: new Int32Array(size).fill(-1),
    courses: [] as Course[],
    wales: [] as Wale[],
    overs: [] as Over[],
  };
  const { stem, crown, right, left, courses, wales, overs } = fabric;
  /** Further loops drawn through each as well as the one that goes straight on. */
  const more = new Uint8Array(size);
  rows.forEach((knit, r) => {
    const { first } = knit;
    fabric.row.fill(r - 1, first, first + knit.column.length);
    fabric.column.set(knit.column, first);
    fabric.stitch.set(knit.stitch, first);
    fabric.face.set(knit.face, first);
    fabric.kind.set(knit.kind, first);
    const firstWale = wales.length;
    for (const wale of knit.wales) {
      const at = wales.push(wale) - 1;
      const { parent, child, rank } = wale;
      if (rank === 0 && stem[child]! < 0) stem[child] = at;
      const other = crown[parent]!;
      if (other < 0 || rank < wales[other]!.rank) {
        crown[parent] = at;
        more[parent] = 0;
        // Of several loops out of one the middle one goes straight on: every other time the next.
      } else if (rank === wales[other]!.rank && ++more[parent]! % 2 === 0) crown[parent] = other + 1;
    }
    for (const { over, under } of knit.overs)
      overs.push({ over: over + firstWale, under: under + firstWale });
    for (const course of knit.courses) {
      const at = courses.push(course) - 1;
      left[course.a] = at;
      right[course.b] = at;
    }
  });
  return {
    chart,
    size,
    isTube: !wayOf(chart).hasEdges,
    needles: rows.map(({ needle }) => Int32Array.from(needle, ({ loop }) => loop)),
    ...fabric,
    second: null,
    ties: [],
  };
}

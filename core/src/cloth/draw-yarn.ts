import type { Fabric } from '../fabric/fabric.js';
import { LOOP } from '../fabric/row-knit.js';
import { DRAWN_POINTS, FEET, HEAD, MIDDLE, POINT, SHAPES, TWISTED, TWISTED_PURL } from './loop-shapes.js';
import { standsOf, type Stands } from './stands.js';
import { type Positions } from '../fabric/springs.js';
import { ORDINARY } from '../fabric/proportions.js';
import { wayOf } from '../construction/index.js';

/** Points put down one after the other. */
export class Line {
  points = new Float32Array(1 << 16);
  loop = new Int32Array(1 << 14);
  /** Of a point at a loop's head the loop that is drawn through it; else −1. */
  through = new Int32Array(1 << 14);
  count = 0;
  readonly lines: number[] = [0];

  put(x: number, y: number, z: number, loop: number, through = -1): void {
    if (this.count === this.loop.length) {
      const [points, loops, throughs] = [this.points, this.loop, this.through];
      this.points = new Float32Array(2 * points.length);
      this.points.set(points);
      this.loop = new Int32Array(2 * loops.length);
      this.loop.set(loops);
      this.through = new Int32Array(2 * loops.length);
      this.through.set(throughs);
    }
    const p = 3 * this.count;
    this.points[p] = x;
    this.points[p + 1] = y;
    this.points[p + 2] = z;
    this.through[this.count] = through;
    this.loop[this.count++] = loop;
  }

  /** Turns about what was put down since. */
  reverse(from: number): void {
    for (let [i, j] = [from, this.count - 1]; i < j; i++, j--) {
      for (let k = 0; k < 3; k++) {
        const held = this.points[3 * i + k]!;
        this.points[3 * i + k] = this.points[3 * j + k]!;
        this.points[3 * j + k] = held;
      }
      for (const of of [this.loop, this.through]) {
        const held = of[i]!;
        of[i] = of[j]!;
        of[j] = held;
      }
    }
  }

  end(): void {
    if (this.count > this.lines.at(-1)!) this.lines.push(this.count);
  }
}

/** Three directions: right, up and front of a loop, written into one list of nine numbers. */
type Frame = Float64Array;

/** From how `right` and `up` go, the frame of a loop: up as it is, right straight off it, front mostly towards the eye. */
function setFrame(f: Frame, rx: number, ry: number, rz: number, ux: number, uy: number, uz: number): void {
  const u = 1 / (Math.sqrt(ux * ux + uy * uy + uz * uz) || 1);
  const r = 1 / (Math.sqrt(rx * rx + ry * ry + rz * rz) || 1);
  f[3] = ux * u;
  f[4] = uy * u;
  f[5] = uz * u;
  const lean = LEAN * r * (rx * f[3] + ry * f[4] + rz * f[5]);
  const ax = rx * r - lean * f[3];
  const ay = ry * r - lean * f[4];
  const az = rz * r - lean * f[5];
  const s = 1 / (Math.sqrt(ax * ax + ay * ay + az * az) || 1);
  f[0] = ax * s;
  f[1] = ay * s;
  f[2] = az * s;
  const fx = f[1] * f[5] - f[2] * f[4];
  const fy = f[2] * f[3] - f[0] * f[5];
  const fz = f[0] * f[4] - f[1] * f[3];
  const n = FRONT / (Math.sqrt(fx * fx + fy * fy + fz * fz) || 1);
  const g = 1 / (Math.sqrt(fx * fx * n * n + fy * fy * n * n + (fz * n + 1) * (fz * n + 1)) || 1);
  f[6] = fx * n * g;
  f[7] = fy * n * g;
  f[8] = (fz * n + 1) * g;
}

/** How nearly straight off its way up a loop's right is; how much its front is its own, against towards the eye. */
const LEAN = 0.7;
const FRONT = 1.5;

/** Where loops lie close they are narrow, and wide where they lie apart, within what a loop can be. */
const ROOM = { least: 0.6, most: 1.05 } as const;

/** How much the legs of a loop go straight from foot to head, each counting so much against where the loop lies: those led across more so. */
const TAUT = { plain: 0.25, led: 0.3 } as const;

/** How far before its loops a strand of a band lies. */
const BEFORE = 0.42;
/** Over how many loops to either side of a crossing it goes under the strand below, and how far behind that. */
const DIPS = 1.7;
const BEHIND = 0.62;

const NONE_RAISED: ReadonlyMap<number, number> = new Map();

/** How a bobble's loops stand: so many rows, each loop turned by so much from the next on a ball of this size. */
const BOBBLE = { rows: 3, radius: 0.62, wide: 3, high: 2.6 } as const;

class Drawing {
  readonly line = new Line();
  readonly #frame: Frame = new Float64Array(9);
  /** How much room the loop has across whose frame that is, by what a plain one has. */
  #room = 1;

  constructor(
    readonly fabric: Fabric,
    readonly stands: Stands,
    readonly width: number,
    readonly height: number,
  ) {}

  private frameOf(i: number): Frame {
    const { courses, right, left } = this.fabric;
    const { lie, foot, head } = this.stands;
    const [r, l] = [courses[right[i]!], courses[left[i]!]];
    const [a, b] = [r ? 3 * r.a : 3 * i, l ? 3 * l.b : 3 * i];
    const turns = ((r ? -r.shift : 0) - (l ? l.shift : 0)) * this.width;
    const p = 3 * i;
    const alone = a === b ? 1 : 0;
    const rx = lie[a]! - lie[b]! + turns + alone;
    const ry = lie[a + 1]! - lie[b + 1]!;
    const rz = lie[a + 2]! - lie[b + 2]!;
    const between = Math.sqrt(rx * rx + ry * ry + rz * rz) / (r && l ? 2 : 1);
    this.#room = Math.max(ROOM.least, Math.min(ROOM.most, between));
    setFrame(
      this.#frame,
      rx,
      ry,
      rz,
      head[p]! - foot[p]!,
      head[p + 1]! - foot[p + 1]!,
      head[p + 2]! - foot[p + 2]!,
    );
    return this.#frame;
  }

  /** The points of a loop, from the right, so many turns from where it was made. */
  loop(i: number, turn: number): void {
    const { face, kind, wales, crown } = this.fabric;
    const above = wales[crown[i]!];
    const through = above?.child ?? -1;
    const taut = above?.moved ? TAUT.led : TAUT.plain;
    const { lie, foot, head, headWidth, headFront, legs } = this.stands;
    const f = this.frameOf(i);
    const p = 3 * i;
    const s = face[i]!;
    const c = this.stands.above[i]!;
    const from = turn * this.width;
    const own = SHAPES[kind[i]!]!;
    const shape = own === TWISTED && s < 0 ? TWISTED_PURL : own;
    for (let o = 0; o < shape.length; o += POINT) {
      const where = shape[o]!;
      const low = where === FEET ? 1 : where === HEAD ? 0 : taut;
      const high = where === HEAD ? 1 : where === FEET ? 0 : taut;
      const middle = 1 - low - high;
      const wide = shape[o + 1]! * (where === HEAD ? this.#room * headWidth[i]! : this.#room);
      const up = shape[o + 2]!;
      const byFace = shape[o + 3]! * s + shape[o + 4]! * c;
      const front = where === HEAD ? byFace + headFront[i]! : where === MIDDLE ? byFace * legs[i]! : byFace;
      this.line.put(
        low * foot[p]! +
          high * head[p]! +
          middle * lie[p]! +
          wide * f[0]! +
          up * f[3]! +
          front * f[6]! +
          from,
        low * foot[p + 1]! +
          high * head[p + 1]! +
          middle * lie[p + 1]! +
          wide * f[1]! +
          up * f[4]! +
          front * f[7]!,
        low * foot[p + 2]! +
          high * head[p + 2]! +
          middle * lie[p + 2]! +
          wide * f[2]! +
          up * f[5]! +
          front * f[8]!,
        i,
        where === HEAD ? through : -1,
      );
    }
  }

  /** The yarn from a loop to the next one on its left, before that is drawn; its first point is told. */
  passage(i: number, turn: number, raised: ReadonlyMap<number, number>): void {
    const { courses, left } = this.fabric;
    const { foot } = this.stands;
    const course = courses[left[i]!];
    const bar = raised.get(left[i]!);
    if (!course || (bar === undefined && !course.float)) return;
    const { line } = this;
    const [x, y, z] = [0, 1, 2].map((k) => line.points[3 * (line.count - 1) + k]!) as [
      number,
      number,
      number,
    ];
    if (bar !== undefined) {
      line.put(foot[3 * bar]! + turn * this.width, foot[3 * bar + 1]!, foot[3 * bar + 2]!, i);
      return;
    }
    const to = 3 * course.b;
    const far = (turn + course.shift) * this.width;
    for (const k of [0.25, 0.5, 0.75])
      line.put(
        x + k * (foot[to]! + far + 0.3 - x),
        y + k * (foot[to + 1]! - 0.1 - y),
        z + k * (foot[to + 2]! - z) + course.float * 0.45,
        i,
      );
  }

  /**
   * The yarn of one row, from the right, or backwards from the left as a wrong-side row is worked; in the round back to
   * where it began. Where a loop is not drawn the line ends, and another begins.
   */
  row(first: number, backwards: boolean, raised: ReadonlyMap<number, number>, only: Uint8Array | null): void {
    const { courses, left } = this.fabric;
    const { line } = this;
    const along: { i: number; turn: number }[] = [];
    for (let [i, turn] = [first, 0]; ;) {
      along.push({ i, turn });
      const course = courses[left[i]!];
      if (!course || (i === first && along.length > 1)) break;
      turn += course.shift;
      i = course.b;
    }
    if (backwards) along.reverse();
    for (const [n, { i, turn }] of along.entries()) {
      if (only && !only[i]) {
        line.end();
        continue;
      }
      const from = line.count;
      this.loop(i, turn);
      // The loop a round comes back to has gone on already.
      if (!this.fabric.isTube || n === 0 || i !== first) this.passage(i, turn, raised);
      if (backwards) line.reverse(from);
    }
  }

  /** A rope's stitches in a row on a whole ground: its yarn comes from behind, where the ground lies, and goes back there. */
  beforeGround(rope: number, groundOf: ReadonlyMap<number, number>): void {
    const { courses, left } = this.fabric;
    let last = rope;
    while (left[last]! >= 0) last = courses[left[last]!]!.b;
    this.behind(rope, groundOf.get(rope)!, 0.4);
    this.row(rope, false, NONE_RAISED, null);
    this.behind(last, groundOf.get(last)!, -0.4);
    this.line.end();
  }

  /** A point of a loop's yarn at the foot of a loop of the ground, so far to its right. */
  private behind(i: number, ground: number, aside: number): void {
    const { foot } = this.stands;
    this.line.put(foot[3 * ground]! + aside, foot[3 * ground + 1]!, foot[3 * ground + 2]!, i);
  }

  /** A strand of a band: the chain that lies before the loops it binds; where strands cross it dips under the one below. */
  lying(loops: readonly number[], every: number | null): void {
    const from = this.line.count;
    this.chain(loops, true);
    const { line, height } = this;
    const each = DRAWN_POINTS.length;
    for (let p = from; p < line.count; p++) {
      const along = (p - from) / each;
      // The first stretch has the travelling stitch among its own.
      const away = every === null ? Infinity : Math.abs(((along + 0.5 + every / 2) % every) - every / 2);
      const dip = away < DIPS ? (1 + Math.cos((Math.PI * away) / DIPS)) / 2 : 0;
      line.points[3 * p + 1]! -= (0.5 + 0.8 * dip) * height;
      line.points[3 * p + 2]! += BEFORE - BEHIND * dip;
    }
    line.end();
  }

  /** The chain over the last loops: each is drawn over the next. */
  chain(loops: readonly number[], leftward: boolean): void {
    const { head } = this.stands;
    const { line, fabric, width } = this;
    const order = leftward ? loops : [...loops].reverse();
    const way = leftward ? -1 : 1;
    for (const [n, i] of order.entries()) {
      const p = 3 * i;
      const next = order[n + 1] ?? (fabric.isTube ? order[0]! : undefined);
      const around = next !== undefined && n + 1 === order.length ? way * width : 0;
      const q = next === undefined ? p : 3 * next;
      const [hx, hy, hz] = [head[p]!, head[p + 1]! + 0.16, head[p + 2]! + 0.1];
      const tx = next === undefined ? hx + way * 0.8 : head[q]! + around;
      const ty = next === undefined ? hy : head[q + 1]! + 0.16;
      const tz = next === undefined ? hz - 0.1 : head[q + 2]! + 0.1;
      setFrame(this.#frame, 0, -way, 0, tx - hx, ty - hy, tz - hz);
      const f = this.#frame;
      for (const { share, right, high, front } of DRAWN_POINTS) {
        const k = share;
        line.put(
          hx + k * (tx - hx) + right * 0.8 * f[0]! + high * f[3]! + front * f[6]!,
          hy + k * (ty - hy) + right * 0.8 * f[1]! + high * f[4]! + front * f[7]!,
          hz + k * (tz - hz) + right * 0.8 * f[2]! + high * f[5]! + front * f[8]!,
          i,
        );
      }
    }
  }

  /** The loops of a bobble, on a ball before the loop that closes it. */
  bobble(i: number, loops: number): void {
    const { lie } = this.stands;
    const { line, height } = this;
    const own = this.frameOf(i).slice();
    const p = 3 * i;
    const radius = BOBBLE.radius + 0.05 * loops;
    const onBall = (across: number, up: number, out: number): [number, number, number] => {
      const [x, y, z] = [
        Math.sin(across) * Math.cos(up) * (radius + out),
        Math.sin(up) * (radius * 1.1 + out),
        Math.cos(across) * Math.cos(up) * (radius + out) + 0.15,
      ];
      return [0, 1, 2].map(
        (k) => lie[p + k]! - 0.4 * height * own[k + 3]! + x * own[k]! + y * own[k + 3]! + z * own[k + 6]!,
      ) as [number, number, number];
    };
    for (let row = 0; row < BOBBLE.rows; row++) {
      const low = (row / BOBBLE.rows - 0.5) * BOBBLE.high;
      for (let n = 0; n < loops; n++) {
        const across = -((n + 0.5) / loops - 0.5) * BOBBLE.wide;
        const step = BOBBLE.wide / loops;
        const tall = BOBBLE.high / BOBBLE.rows;
        for (const { share, right, high, front } of DRAWN_POINTS) {
          const at = low + (share + high) * tall;
          const [x, y, z] = onBall(across + right * step, at, front);
          line.put(x, y, z, i);
        }
      }
      if (row % 2) line.reverse(line.count - loops * DRAWN_POINTS.length);
    }
    line.end();
  }
}

export interface YarnAs {
  /** A plain row's height, in widths of its stitch. */
  height?: number;
  /** How many loops a bobble is worked into. */
  bobble?: number;
  /** Only these loops: what lies beside them is not drawn, and each run of them is a line of its own. */
  only?: Uint8Array | null;
}

/**
 * Some loops, with those that yarn goes on to from them: over slipped ones, along a rope before a whole ground, along a band they are bound
 * by, and along the cast-off.
 */
function withLaid({ courses, bands, needles, ties, left }: Fabric, only: Uint8Array): Uint8Array {
  const laid = only.slice();
  for (const { a, b, float } of courses) if (float && (only[a] || only[b])) laid[a] = laid[b] = 1;
  const groundOf = new Map(ties.map(({ rope, ground }) => [rope, ground]));
  for (const { rope } of ties)
    for (let i = only[rope] ? rope : -1; i >= 0; i = courses[left[i]!]?.b ?? -1)
      laid[i] = laid[groundOf.get(i) ?? i] = 1;
  const bound = bands.flatMap(({ row, rounds }) =>
    Array.from({ length: rounds }, (_, j) => needles[row + j + 1]!),
  );
  for (const along of [...bound, needles.at(-1) ?? new Int32Array()])
    if (along.some((i) => only[i])) for (const i of along) laid[i] = 1;
  return laid;
}

/** Lines of yarn as the loops by themselves have them. */
export function drawYarn(
  fabric: Fabric,
  lie: Positions,
  { height = ORDINARY.height, bobble = 5, only = null }: YarnAs = {},
): { line: Line; around: number } {
  const { size, wales, kind, isTube, left, right, row, chart, needles } = fabric;
  const width = isTube ? lie[3 * size]! : 0;
  const stands = standsOf(fabric, lie, height, width, only && withLaid(fabric, only));
  const drawing = new Drawing(fabric, stands, width, height);
  const { line } = drawing;
  const way = wayOf(chart);
  const goesLeft = (r: number) => way.beginsAt(way.sideAt(r), 'right') === 'right';
  /** Bars that a loop was made of, by the course they are in. */
  const raised = new Map<number, number>();
  for (const { parent, child } of wales)
    if (kind[child] === LOOP.bar && left[parent]! >= 0 && fabric.courses[left[parent]!]!.b !== child)
      raised.set(left[parent]!, child);

  let begun = -2;
  for (let i = 0; i < size; i++) {
    if (row[i] === begun || (!isTube && right[i]! >= 0)) continue;
    begun = row[i]!;
    // The cast-on ends where the first row begins.
    const isLeftward = begun < 0 ? goesLeft(-1) : goesLeft(begun);
    drawing.row(i, !isLeftward, raised, only);
    if (isTube) line.end();
  }
  line.end();
  const groundOf = new Map(fabric.ties.map(({ rope, ground }) => [rope, ground]));
  for (const { rope } of fabric.ties)
    if (right[rope]! < 0 && (!only || only[rope])) drawing.beforeGround(rope, groundOf);
  for (const { row: first, rounds, every } of fabric.bands)
    for (let j = 0; j < rounds; j++) {
      const bound = needles[first + j + 1]!;
      if (!only || bound.some((i) => only[i])) drawing.lying([...bound], j ? every : null);
    }
  const last = needles.at(-1) ?? new Int32Array();
  if (!only || last.some((i) => only[i])) drawing.chain([...last], goesLeft(chart.rows.length));
  line.end();
  for (let i = 0; i < size; i++) if (kind[i] === LOOP.bobble && (!only || only[i])) drawing.bobble(i, bobble);
  return { line, around: width };
}

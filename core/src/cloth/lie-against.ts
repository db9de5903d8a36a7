/**
 * Yarn lies against yarn, not in it. The loops of a fabric tell where their yarn goes, each by itself; here it gives way to the yarn it
 * meets: what is too near is pushed apart, as far as yarn that keeps its length and does not like to be bent lets it. The lines it is
 * drawn as are curves through their points, and so are these.
 */

/** The middles of two yarns are kept so far apart, in stitch widths: a little less than they are thick, since wool gives way. */
const APART = 0.305;
/** Pieces of yarn whose middles are further from each other than this at first are never held apart. */
const REACH = 0.72;
/** What is held apart is looked for anew every so many sweeps: what may come too near until then. */
const LOOK_EVERY = 8;
const SOON = 0.15;
/** Of one line of yarn, pieces so near along it are the same yarn, bent. */
const ALONG = 3;
const SWEEPS = 32;
/** How much of what is lacking is mended at a time, and how much of the last move is made again: what is pushed keeps going. */
const PUSH = 1.9;
const ONWARD = 0.8;
/** How firmly a piece keeps its length, its bend, and its place. */
const LENGTH = 0.36;
const BEND = 0.03;
const PLACE = 0.01;
/** No point goes further from where its loop has it, in each direction. */
const FURTHEST = 0.36;

export interface YarnLines {
  /** x, y and z of each point. */
  readonly points: Float32Array;
  /** The loop each point belongs to. */
  readonly loop: Int32Array;
  /** Where each line begins; the last entry is where the last one ends. */
  readonly lines: readonly number[];
  /** In the round, how far it is round; else 0. */
  readonly around: number;
}

/** Pairs of pieces, each named by the point it begins at, and how many turns of the round the second is away. */
class Pairs {
  a = new Int32Array(1 << 14);
  b = new Int32Array(1 << 14);
  turns = new Int8Array(1 << 14);
  count = 0;

  put(a: number, b: number, turns: number): void {
    if (this.count === this.a.length) {
      const room = 2 * this.count;
      const grown = <T extends Int32Array | Int8Array>(to: T, from: T): T => {
        to.set(from);
        return to;
      };
      this.a = grown(new Int32Array(room), this.a);
      this.b = grown(new Int32Array(room), this.b);
      this.turns = grown(new Int8Array(room), this.turns);
    }
    this.a[this.count] = a;
    this.b[this.count] = b;
    this.turns[this.count++] = turns;
  }
}

/** The points that a piece of yarn begins at: all but the last of each line. */
function piecesIn(lines: readonly number[]): Uint8Array {
  const isPiece = new Uint8Array(lines.at(-1)!);
  for (let l = 0; l + 1 < lines.length; l++)
    isPiece.fill(1, lines[l]!, Math.max(lines[l]!, lines[l + 1]! - 1));
  return isPiece;
}

/** A grid of square cells over the cloth, with the pieces that begin in each in the order of their points. */
class Grid {
  readonly columns: number;
  readonly rows: number;
  private readonly first: Int32Array;
  private readonly order: Int32Array;
  readonly left: number;
  readonly right: number;
  private readonly bottom: number;

  constructor(
    private readonly points: Float32Array,
    isPiece: Uint8Array,
    private readonly cell: number,
  ) {
    let [left, bottom, right, top] = [Infinity, Infinity, -Infinity, -Infinity];
    for (let i = 0; i < isPiece.length; i++) {
      const [x, y] = [points[3 * i]!, points[3 * i + 1]!];
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < bottom) bottom = y;
      if (y > top) top = y;
    }
    [this.left, this.right, this.bottom] = [left, right, bottom];
    this.columns = Math.floor((right - left) / cell) + 1;
    this.rows = Math.floor((top - bottom) / cell) + 1;
    const cells = this.columns * this.rows;
    this.first = new Int32Array(cells + 1);
    for (let i = 0; i < isPiece.length; i++) if (isPiece[i]) this.first[this.cellOf(i) + 1]!++;
    for (let c = 0; c < cells; c++) this.first[c + 1]! += this.first[c]!;
    this.order = new Int32Array(this.first[cells]!);
    const next = this.first.slice();
    for (let i = 0; i < isPiece.length; i++) if (isPiece[i]) this.order[next[this.cellOf(i)]!++] = i;
  }

  private cellOf(i: number): number {
    const { points, cell } = this;
    const row = Math.floor((points[3 * i + 1]! - this.bottom) / cell);
    return row * this.columns + Math.floor((points[3 * i]! - this.left) / cell);
  }

  /** Tells the pieces in the cells about a point, and in its own. */
  about(x: number, y: number, tell: (piece: number) => void): void {
    const c = Math.floor((x - this.left) / this.cell);
    const r = Math.floor((y - this.bottom) / this.cell);
    const [low, high] = [Math.max(0, r - 1), Math.min(this.rows - 1, r + 1)];
    const [right, left] = [Math.max(0, c - 1), Math.min(this.columns - 1, c + 1)];
    if (right > left) return;
    for (let row = low; row <= high; row++) {
      const end = this.first[row * this.columns + left + 1]!;
      for (let k = this.first[row * this.columns + right]!; k < end; k++) tell(this.order[k]!);
    }
  }
}

/** A piece is hardly longer than this: one whose middle is in reach begins in the cells about it. */
const LONG = 0.5;

function nearPairs({ points, loop, around }: YarnLines, isPiece: Uint8Array): Pairs {
  const near = new Pairs();
  const grid = new Grid(points, isPiece, REACH + LONG);
  const meet = (i: number, j: number, turns: number) => {
    // A round comes back to its first loop: that is the same yarn again.
    if (turns && loop[i] === loop[j]) return;
    const [p, q] = [3 * i, 3 * j];
    const dx = (points[q]! + points[q + 3]! - points[p]! - points[p + 3]!) / 2 + turns * around;
    const dy = (points[q + 1]! + points[q + 4]! - points[p + 1]! - points[p + 4]!) / 2;
    const dz = (points[q + 2]! + points[q + 5]! - points[p + 2]! - points[p + 5]!) / 2;
    if (dx * dx + dy * dy + dz * dz < REACH * REACH) near.put(i, j, turns);
  };
  for (let i = 0; i < isPiece.length; i++) {
    if (!isPiece[i]) continue;
    const [x, y] = [points[3 * i]!, points[3 * i + 1]!];
    grid.about(x, y, (j) => {
      if (j > i + ALONG) meet(i, j, 0);
    });
    // In the round what lies at one end of the cloth lies beside what lies at the other.
    if (around && x - around > grid.left - REACH - LONG) grid.about(x - around, y, (j) => meet(i, j, 1));
  }
  return near;
}

/**
 * Points that are drawn twice, by the first of them, the second and how far that is to its right: in the round a line goes on to the loop
 * that it began with.
 */
function drawnTwice({
  points,
  loop,
  lines,
  around,
}: YarnLines): { first: number; again: number; by: number }[] {
  if (!around) return [];
  return lines.slice(0, -1).flatMap((from, l) => {
    const end = lines[l + 1]!;
    const own = loop[from]!;
    let many = 0;
    while (from + many < end && loop[from + many] === own) many++;
    if (from + 2 * many > end || loop[end - 1] !== own || loop[end - many] !== own) return [];
    return Array.from({ length: many }, (_, k) => {
      const [first, again] = [from + k, end - many + k];
      return { first, again, by: points[3 * again]! - points[3 * first]! };
    });
  });
}

/** How far apart two curved pieces are, and where and which way they are pushed; one of it is used over and over. */
class Meeting {
  far = 0;
  s = 0;
  t = 0;
  x = 0;
  y = 0;
  z = 0;

  /** Where two pieces are nearest, by the straight ways between their ends and then by how these bulge. */
  of(points: Float32Array, bulge: Float32Array, p: number, q: number, turn: number): void {
    const ux = points[p + 3]! - points[p]!;
    const uy = points[p + 4]! - points[p + 1]!;
    const uz = points[p + 5]! - points[p + 2]!;
    const vx = points[q + 3]! - points[q]!;
    const vy = points[q + 4]! - points[q + 1]!;
    const vz = points[q + 5]! - points[q + 2]!;
    const wx = points[p]! - points[q]! - turn;
    const wy = points[p + 1]! - points[q + 1]!;
    const wz = points[p + 2]! - points[q + 2]!;
    const uu = ux * ux + uy * uy + uz * uz + 1e-9;
    const uv = ux * vx + uy * vy + uz * vz;
    const vv = vx * vx + vy * vy + vz * vz + 1e-9;
    const uw = ux * wx + uy * wy + uz * wz;
    const vw = vx * wx + vy * wy + vz * wz;
    const d = uu * vv - uv * uv;
    let s = d > 1e-7 ? (uv * vw - vv * uw) / d : 0.5;
    s = s < 0 ? 0 : s > 1 ? 1 : s;
    let t = (uv * s + vw) / vv;
    t = t < 0 ? 0 : t > 1 ? 1 : t;
    s = (uv * t - uw) / uu;
    s = s < 0 ? 0 : s > 1 ? 1 : s;
    const g = s * (1 - s);
    const h = t * (1 - t);
    this.x = wx + s * ux - t * vx + g * bulge[p]! - h * bulge[q]!;
    this.y = wy + s * uy - t * vy + g * bulge[p + 1]! - h * bulge[q + 1]!;
    this.z = wz + s * uz - t * vz + g * bulge[p + 2]! - h * bulge[q + 2]!;
    this.s = s;
    this.t = t;
    this.far = Math.sqrt(this.x * this.x + this.y * this.y + this.z * this.z);
  }
}

/**
 * Pushes yarn that lies in other yarn out of it, in place, a little at a time. The same yarn comes to lie the same each time, and its
 * mirror image likewise.
 */
export function* lieAgainst(yarn: YarnLines): Generator<void, void> {
  const { points, lines, around } = yarn;
  const isPiece = piecesIn(lines);
  const count = isPiece.length;
  if (!count) return;
  const near = nearPairs(yarn, isPiece);
  const was = points.slice(0, 3 * count);
  const long = new Float32Array(count);
  for (let i = 0, p = 0; i < count; i++, p += 3)
    if (isPiece[i])
      long[i] = Math.sqrt(
        (points[p + 3]! - points[p]!) ** 2 +
          (points[p + 4]! - points[p + 1]!) ** 2 +
          (points[p + 5]! - points[p + 2]!) ** 2,
      );
  const move = new Float32Array(3 * count);
  const last = new Float32Array(3 * count);
  const bulge = new Float32Array(3 * count);
  const times = new Float32Array(count);
  const soon = new Int32Array(near.count);
  const meeting = new Meeting();
  const twice = drawnTwice(yarn);
  let many = 0;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    move.fill(0);
    times.fill(0);
    bulges(points, isPiece, bulge);
    if (sweep % LOOK_EVERY === 0) {
      many = 0;
      for (let n = 0; n < near.count; n++) {
        meeting.of(points, bulge, 3 * near.a[n]!, 3 * near.b[n]!, near.turns[n]! * around);
        if (meeting.far < APART + SOON) soon[many++] = n;
      }
    }
    for (let m = 0; m < many; m++) {
      const n = soon[m]!;
      const [a, b] = [near.a[n]!, near.b[n]!];
      meeting.of(points, bulge, 3 * a, 3 * b, near.turns[n]! * around);
      if (meeting.far < APART) pushApart(meeting, move, times, a, b);
    }
    for (let i = 0, p = 0; i < count; i++, p += 3) {
      // Pushed from several sides it goes the mean of their ways.
      const share = times[i]! > 1 ? PUSH / times[i]! : PUSH;
      move[p]! *= share;
      move[p + 1]! *= share;
      move[p + 2]! *= share;
    }
    keepShape(points, was, long, isPiece, move);
    for (let p = 0; p < 3 * count; p++) {
      const by = move[p]! + PLACE * (was[p]! - points[p]!) + ONWARD * last[p]!;
      const gone = points[p]! + by - was[p]!;
      points[p] = was[p]! + (gone > FURTHEST ? FURTHEST : gone < -FURTHEST ? -FURTHEST : gone);
      last[p] = gone > FURTHEST || gone < -FURTHEST ? 0 : by;
    }
    for (const { first, again, by } of twice) {
      const [p, q] = [3 * first, 3 * again];
      for (let k = 0; k < 3; k++) {
        const mean = (points[p + k]! + points[q + k]! - (k ? 0 : by)) / 2;
        points[p + k] = mean;
        points[q + k] = mean + (k ? 0 : by);
      }
    }
    yield;
  }
}

/** How far the curve through the points leaves the straight way between two of them, four times over in its middle. */
function bulges(points: Float32Array, isPiece: Uint8Array, bulge: Float32Array): void {
  for (let i = 0, p = 0; i < isPiece.length; i++, p += 3) {
    if (!isPiece[i]) continue;
    const from = i > 0 && isPiece[i - 1] ? p - 3 : p;
    const to = isPiece[i + 1] ? p + 6 : p + 3;
    for (let k = 0; k < 3; k++)
      bulge[p + k] = (points[p + k]! + points[p + 3 + k]! - points[from + k]! - points[to + k]!) / 4;
  }
}

/** Puts down for the four ends of two pieces how far they are pushed. */
function pushApart(
  { far, s, t, x, y, z }: Meeting,
  move: Float32Array,
  times: Float32Array,
  a: number,
  b: number,
): void {
  const k = (APART - far) / 2 / (far || 1);
  const [p, q] = [3 * a, 3 * b];
  const [s0, s1, t0, t1] = [k * (1 - s), k * s, k * (1 - t), k * t];
  move[p]! += s0 * x;
  move[p + 1]! += s0 * y;
  move[p + 2]! += s0 * z;
  move[p + 3]! += s1 * x;
  move[p + 4]! += s1 * y;
  move[p + 5]! += s1 * z;
  move[q]! -= t0 * x;
  move[q + 1]! -= t0 * y;
  move[q + 2]! -= t0 * z;
  move[q + 3]! -= t1 * x;
  move[q + 4]! -= t1 * y;
  move[q + 5]! -= t1 * z;
  times[a]! += 1 - s;
  times[a + 1]! += s;
  times[b]! += 1 - t;
  times[b + 1]! += t;
}

/** Yarn is neither made longer nor bent otherwise than it was, as far as it goes. */
function keepShape(
  points: Float32Array,
  was: Float32Array,
  long: Float32Array,
  isPiece: Uint8Array,
  move: Float32Array,
): void {
  for (let i = 0, p = 0; i < isPiece.length; i++, p += 3) {
    if (!isPiece[i]) continue;
    const dx = points[p + 3]! - points[p]!;
    const dy = points[p + 4]! - points[p + 1]!;
    const dz = points[p + 5]! - points[p + 2]!;
    const off = LENGTH * (1 - long[i]! / (Math.sqrt(dx * dx + dy * dy + dz * dz) || 1));
    move[p]! += off * dx;
    move[p + 1]! += off * dy;
    move[p + 2]! += off * dz;
    move[p + 3]! -= off * dx;
    move[p + 4]! -= off * dy;
    move[p + 5]! -= off * dz;
    if (!i || !isPiece[i - 1]) continue;
    for (let k = p; k < p + 3; k++) {
      const now = points[k - 3]! - 2 * points[k]! + points[k + 3]!;
      const bent = (BEND / 4) * (now - (was[k - 3]! - 2 * was[k]! + was[k + 3]!));
      move[k]! += 2 * bent;
      move[k - 3]! -= bent;
      move[k + 3]! -= bent;
    }
  }
}

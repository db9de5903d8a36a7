import { HELD, type Positions, type Springs } from './springs.js';

/**
 * The energy of a lie, and into `gradient` how it changes with each coordinate.
 *
 * @param gradient as long as the lie; what stood in it is overwritten
 */
export function energyOf(springs: Springs, lie: Positions, gradient: Float64Array): number {
  gradient.fill(0);
  const { around } = springs;
  const width = around < 0 ? 0 : lie[around]!;
  // Sums of twice the energy, and of the pull on the width of the round.
  const sums: [number, number] = [0, 0];
  links(springs, lie, gradient, width, sums);
  steps(springs, lie, gradient, width, sums);
  bends(springs, lie, gradient, width, sums);
  flatness(springs, lie, gradient, sums);
  overs(springs, lie, gradient, sums);
  if (around >= 0) gradient[around] = sums[1];
  return sums[0] / 2;
}

type Sums = [number, number];

function links(springs: Springs, lie: Positions, gradient: Float64Array, width: number, sums: Sums): void {
  const { a, b, turns, rest, longer, shorter } = springs.links;
  let twice = 0;
  let pull = 0;
  for (let i = 0; i < a.length; i++) {
    const p = 3 * a[i]!;
    const q = 3 * b[i]!;
    const dx = lie[q]! - lie[p]! + turns[i]! * width;
    const dy = lie[q + 1]! - lie[p + 1]!;
    const dz = lie[q + 2]! - lie[p + 2]!;
    const length = Math.sqrt(dx * dx + dy * dy + dz * dz) + 1e-9;
    const off = length - rest[i]!;
    const k = off > 0 ? longer[i]! : shorter[i]!;
    twice += k * off * off;
    const f = (k * off) / length;
    gradient[p]! -= f * dx;
    gradient[p + 1]! -= f * dy;
    gradient[p + 2]! -= f * dz;
    gradient[q]! += f * dx;
    gradient[q + 1]! += f * dy;
    gradient[q + 2]! += f * dz;
    pull += f * dx * turns[i]!;
  }
  sums[0] += twice;
  sums[1] += pull;
}

function steps(springs: Springs, lie: Positions, gradient: Float64Array, width: number, sums: Sums): void {
  const { a, b, turns, by, k } = springs.steps;
  let twice = 0;
  let pull = 0;
  for (let i = 0; i < a.length; i++) {
    const p = a[i]!;
    const q = b[i]!;
    const off = lie[q]! - lie[p]! + turns[i]! * width - by[i]!;
    const f = k[i]! * off;
    twice += f * off;
    gradient[p]! -= f;
    gradient[q]! += f;
    pull += f * turns[i]!;
  }
  sums[0] += twice;
  sums[1] += pull;
}

function bends(springs: Springs, lie: Positions, gradient: Float64Array, width: number, sums: Sums): void {
  const { a, b, c, turns, by, k } = springs.bends;
  let twice = 0;
  let pull = 0;
  for (let i = 0; i < a.length; i++) {
    const p = a[i]!;
    const q = b[i]!;
    const r = c[i]!;
    const off = lie[p]! - 2 * lie[q]! + lie[r]! + turns[i]! * width - by[i]!;
    const f = k[i]! * off;
    twice += f * off;
    gradient[p]! += f;
    gradient[q]! -= 2 * f;
    gradient[r]! += f;
    pull += f * turns[i]!;
  }
  sums[0] += twice;
  sums[1] += pull;
}

function flatness({ loops }: Springs, lie: Positions, gradient: Float64Array, sums: Sums): void {
  for (let i = 0; i < loops.length; i++) {
    const p = 3 * loops[i]! + 2;
    const f = HELD.flat * lie[p]!;
    sums[0] += f * lie[p]!;
    gradient[p]! += f;
  }
}

function overs(springs: Springs, lie: Positions, gradient: Float64Array, sums: Sums): void {
  const { a, b, c, d, at } = springs.overs;
  for (let i = 0; i < a.length; i++) {
    const [p, q, r, s, t] = [a[i]!, b[i]!, c[i]!, d[i]!, at[i]!];
    const lacks = HELD.overDepth - (1 - t) * (lie[p]! - lie[r]!) - t * (lie[q]! - lie[s]!);
    if (lacks <= 0) continue;
    const f = HELD.over * lacks;
    sums[0] += f * lacks;
    gradient[p]! -= (1 - t) * f;
    gradient[q]! -= t * f;
    gradient[r]! += (1 - t) * f;
    gradient[s]! += t * f;
  }
}

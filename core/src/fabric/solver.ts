/** Finds where an energy is least: L-BFGS (Nocedal and Wright, Numerical Optimization, algorithms 7.4 and 3.1). */

/** An energy, its gradient into `g`. */
export type Energy = (x: Float64Array, g: Float64Array) => number;
/** Smooths a direction in place, so that what is felt in one place moves its whole neighbourhood. */
export type Smooth = (direction: Float64Array) => void;

export interface Step {
  /** Steps taken, and how often the energy was asked for. */
  steps: number;
  asked: number;
  energy: number;
  /** The largest part of the gradient. */
  pull: number;
}

const KEPT = 4;
const REACH_EVERY = 6;
const ENOUGH_FALL = 1e-4;

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** a + k b, into a. */
function add(a: Float64Array, k: number, b: Float64Array): void {
  for (let i = 0; i < a.length; i++) a[i]! += k * b[i]!;
}

/** a + k b, into `to`. */
function sum(to: Float64Array, a: Float64Array, k: number, b: Float64Array): void {
  for (let i = 0; i < a.length; i++) to[i] = a[i]! + k * b[i]!;
}

function largest(a: Float64Array): number {
  let most = 0;
  for (let i = 0; i < a.length; i++) {
    const size = a[i]! < 0 ? -a[i]! : a[i]!;
    if (size > most) most = size;
  }
  return most;
}

/**
 * Moves `x` downhill step by step, in place, yielding after each; it ends where no pull is above `still`, or after
 * `most` steps. Every step lowers the energy.
 */
export function* minimise(
  energy: Energy,
  x: Float64Array,
  smooth: Smooth,
  { still = 1e-3, most = 500 }: { still?: number; most?: number } = {},
): Generator<Step, Step> {
  const n = x.length;
  let g = new Float64Array(n);
  const trial = new Float64Array(n);
  let trialG = new Float64Array(n);
  const direction = new Float64Array(n);
  const pairs: { s: Float64Array; y: Float64Array; rho: number }[] = [];
  const alpha = new Float64Array(KEPT);
  let e = energy(x, g);
  let asked = 1;
  let reach = 1;
  let pull = largest(g);
  let steps = 0;
  for (; steps < most && pull > still; steps++) {
    direction.set(g);
    for (let j = pairs.length - 1; j >= 0; j--) {
      const { s, y, rho } = pairs[j]!;
      const al = (alpha[j] = rho * dot(s, direction));
      add(direction, -al, y);
    }
    smooth(direction);
    if (reach !== 1) add(direction, reach - 1, direction);
    for (let j = 0; j < pairs.length; j++) {
      const { s, y, rho } = pairs[j]!;
      const be = alpha[j]! - rho * dot(y, direction);
      add(direction, be, s);
    }
    let slope = -dot(g, direction);
    if (slope >= 0) {
      // What is remembered no longer fits: begin again from the gradient.
      pairs.length = 0;
      direction.set(g);
      smooth(direction);
      slope = -dot(g, direction);
    }
    let size = 1;
    let found = false;
    for (let tries = 0; tries < 30; tries++) {
      sum(trial, x, -size, direction);
      const e1 = energy(trial, trialG);
      asked++;
      if (e1 < e + ENOUGH_FALL * size * slope) {
        e = e1;
        found = true;
        break;
      }
      // The least of the parabola through what is known, not too far and not too near.
      const least = (-slope * size * size) / (2 * (e1 - e - slope * size));
      size = Math.min(size * 0.5, Math.max(size * 0.1, least));
    }
    if (!found) break;
    const reuse = pairs.length === KEPT ? pairs.shift()! : null;
    const s = reuse?.s ?? new Float64Array(n);
    const y = reuse?.y ?? new Float64Array(n);
    sum(s, trial, -1, x);
    sum(y, trialG, -1, g);
    const sy = dot(s, y);
    x.set(trial);
    if (sy > 1e-12) {
      pairs.push({ s, y, rho: 1 / sy });
      // How far a smoothed pull reaches changes little: it is found again now and then.
      if (steps < 3 || steps % REACH_EVERY === 0) {
        trial.set(y);
        smooth(trial);
        reach = sy / dot(y, trial);
      }
    }
    [g, trialG] = [trialG, g];
    pull = largest(g);
    yield { steps: steps + 1, asked, energy: e, pull };
  }
  return { steps, asked, energy: e, pull };
}

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

const KEPT = 6;
const REACH_EVERY = 6;
const ENOUGH_FALL = 1e-4;
const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
};

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
  const largest = () => {
    let most = 0;
    for (let i = 0; i < n; i++) most = Math.max(most, Math.abs(g[i]!));
    return most;
  };
  let reach = 1;
  let pull = largest();
  let steps = 0;
  for (; steps < most && pull > still; steps++) {
    direction.set(g);
    for (let j = pairs.length - 1; j >= 0; j--) {
      const { s, y, rho } = pairs[j]!;
      const al = (alpha[j] = rho * dot(s, direction));
      for (let i = 0; i < n; i++) direction[i]! -= al * y[i]!;
    }
    smooth(direction);
    if (reach !== 1) for (let i = 0; i < n; i++) direction[i]! *= reach;
    for (let j = 0; j < pairs.length; j++) {
      const { s, y, rho } = pairs[j]!;
      const be = alpha[j]! - rho * dot(y, direction);
      for (let i = 0; i < n; i++) direction[i]! += be * s[i]!;
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
      for (let i = 0; i < n; i++) trial[i] = x[i]! - size * direction[i]!;
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
    let sy = 0;
    for (let i = 0; i < n; i++) {
      s[i] = trial[i]! - x[i]!;
      y[i] = trialG[i]! - g[i]!;
      sy += s[i]! * y[i]!;
    }
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
    pull = largest();
    yield { steps: steps + 1, asked, energy: e, pull };
  }
  return { steps, asked, energy: e, pull };
}

import {
  bothCount,
  drawInOf,
  gaugeOf,
  passesOf,
  plainFor,
  timesOf,
  wayOf,
  type Chart,
  type Design,
  type MeasuredCloth,
  type Swatch,
} from '@cordelina/core';

/** A swatch of one of a design's charts, and how much it was measured to draw in. */
export interface MeasuredSwatch {
  swatch: Swatch;
  chart: Chart;
  drawIn: number;
}

/** The swatches of a design's own charts whose draw-in is known: they have a plain swatch to be held against. */
export function measuredSwatches({ id, charts }: Design, all: readonly Swatch[]): MeasuredSwatch[] {
  return all.flatMap((swatch) => {
    if (swatch.of?.design !== id) return [];
    const chart = charts.find((c) => c.id === swatch.of?.chart);
    const plain = plainFor(swatch, all);
    const drawIn = plain && drawInOf(swatch, plain);
    return chart && drawIn !== null && drawIn > -0.5 && drawIn < 0.8 ? [{ swatch, chart, drawIn }] : [];
  });
}

/** The plain gauge a design's cloth rests on: of its piece, or of the plain swatch of one of its own. */
export function plainOf(
  { piece }: Design,
  measured: readonly MeasuredSwatch[],
  all: readonly Swatch[],
): Pick<MeasuredCloth, 'stitches' | 'rows'> | null {
  if (piece?.gauge.plain) return piece.gauge.plain;
  const plain = measured[0] ? plainFor(measured[0].swatch, all) : null;
  const stitches = plain && gaugeOf(plain, 'stitches');
  return plain && stitches && { stitches: stitches.gauge, rows: gaugeOf(plain, 'rows')?.gauge ?? null };
}

/** How many repeats are drawn out so that about this many stitches or rows are seen. */
const SEEN = 56;

export function repeatsSeen(
  chart: Chart,
  drawn: (times: number, passes: number) => Chart,
): { times: number; passes: number } {
  const one = drawn(1, 1);
  const two = drawn(2, 2);
  const enough = (first: number, more: number) =>
    more > 0 ? Math.max(1, Math.ceil((SEEN - first) / more) + 1) : 1;
  return {
    times: Math.max(1, Math.min(enough(one.width, two.width - one.width), Math.max(timesOf(chart), 2))),
    passes: Math.max(
      1,
      Math.min(enough(one.rows.length, two.rows.length - one.rows.length), Math.max(passesOf(chart), 2)),
    ),
  };
}

/**
 * How a side of a cloth is looked at: where both its sides are fronts of fabrics of their own, as of pairs, the cloth is turned over
 * before it is knitted, and looked at from its front.
 */
export const lookedAt = (
  of: Parameters<typeof wayOf>[0],
  side: 'RS' | 'WS',
): { isTurned: boolean; side: 'RS' | 'WS' } =>
  wayOf(of).loops === 2 ? { isTurned: side === 'WS', side: 'RS' } : { isTurned: false, side };

/** What a side of a cloth is called. */
export const sideName = (of: Parameters<typeof bothCount>[0], side: 'RS' | 'WS'): string =>
  bothCount(of) ? `side ${side === 'RS' ? 1 : 2}` : side === 'RS' ? 'right side' : 'wrong side';

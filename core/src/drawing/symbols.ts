import type { OwnMark } from '../stitches/book.js';
import { ofEach, remembered } from '../remember.js';
import { isCrossing, kindOf, type Stitch, type StitchBook } from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import { drawCrossing } from './cords.js';
import { circle, path, type PlainSchool, type Shape } from './shape.js';

const LINE = 0.095;
const line = (...parts: (string | number)[]): Shape => ({ d: path(...parts), stroke: 'mark', width: LINE });
const solid = (d: string): Shape => ({ d, fill: 'mark' });
const dot = (x: number, y: number, r = 0.095) => solid(circle(x, y, r));
const ring = (x: number, y: number, r: number): Shape => ({
  d: circle(x, y, r),
  stroke: 'mark',
  width: LINE,
});

/** A drawing turned left to right in a cell `width` columns wide. */
type Turn = (x: number) => number;
const asIs: Turn = (x) => x;
const turned: Turn = (x) => 1 - x;

/** Two or three legs that run together into one stroke, which shows the way the stitch leans. */
const together = (x: Turn, legs: number[]): Shape[] => [
  line('M', x(0.2), 0.86, 'L', x(0.74), 0.16),
  ...legs.map((leg) => line('M', x(leg), 0.86, 'L', x(0.47), 0.51)),
];
const central = (): Shape[] => [
  line('M', 0.5, 0.86, 'L', 0.5, 0.14),
  line('M', 0.18, 0.86, 'L', 0.5, 0.46, 'L', 0.82, 0.86),
];
const purlDot = (x: number) => dot(x, 0.24, 0.08);

/** A bar that was lifted, and the way its stitch twists. */
const madeOne = (x: Turn): Shape[] => [
  line('M', 0.2, 0.82, 'L', 0.8, 0.82),
  line('M', x(0.62), 0.82, 'L', x(0.34), 0.18),
];
/** A neighbour's leg that branches off. */
const lifted = (x: Turn): Shape[] => [
  line('M', x(0.7), 0.88, 'L', x(0.7), 0.14),
  line('M', x(0.7), 0.66, 'L', x(0.28), 0.2),
];
/** One foot that spreads into several heads, over the columns they make. */
const fan = (heads: number): Shape[] => {
  const foot = heads / 2;
  return [
    ...Array.from({ length: heads }, (_, i) => line('M', foot, 0.86, 'L', i + 0.5, 0.2)),
    { d: circle(foot, 0.84, 0.1), fill: 'mark' },
  ];
};
const wedge = (): string => path('M', 0.5, 0.16, 'L', 0.84, 0.84, 'L', 0.16, 0.84, 'Z');
const twistedLoop = (bottom: number): Shape =>
  line(
    'M',
    0.28,
    bottom,
    'C',
    0.86,
    bottom - 0.34,
    0.76,
    0.14,
    0.5,
    0.14,
    'C',
    0.24,
    0.14,
    0.14,
    bottom - 0.34,
    0.72,
    bottom,
  );
const slipped = (bottom: number): Shape => line('M', 0.26, 0.16, 'L', 0.5, bottom, 'L', 0.74, 0.16);

const SYMBOLS: Record<string, () => Shape[]> = {
  ktbl: () => [twistedLoop(0.86)],
  ptbl: () => [twistedLoop(0.66), dot(0.5, 0.84, 0.08)],
  slyb: () => [slipped(0.84)],
  slyf: () => [slipped(0.68), line('M', 0.2, 0.84, 'L', 0.8, 0.84)],
  mb: () => [dot(0.5, 0.5, 0.31)],
  yo: () => [ring(0.5, 0.5, 0.27)],
  m1l: () => madeOne(asIs),
  m1r: () => madeOne(turned),
  m1lp: () => [...madeOne(asIs), purlDot(0.74)],
  m1rp: () => [...madeOne(turned), purlDot(0.26)],
  lli: () => lifted(asIs),
  rli: () => lifted(turned),
  kfb: () => [...fan(2), dot(0.28, 0.5, 0.08)],
  kfbr: () => [...fan(2), dot(1.72, 0.5, 0.08)],
  kyok: () => fan(3),
  kyokyok: () => fan(5),
  k2tog: () => together(asIs, [0.78]),
  ssk: () => together(turned, [0.78]),
  p2tog: () => [...together(asIs, [0.78]), purlDot(0.24)],
  ssp: () => [...together(turned, [0.78]), purlDot(0.76)],
  k3tog: () => together(asIs, [0.52, 0.84]),
  sssk: () => together(turned, [0.52, 0.84]),
  p3tog: () => [...together(asIs, [0.52, 0.84]), purlDot(0.24)],
  sssp: () => [...together(turned, [0.52, 0.84]), purlDot(0.76)],
  cdd: central,
  cddp: () => [...central(), purlDot(0.8)],
  k5tog: () => [solid(wedge())],
  p5tog: () => [{ d: wedge(), stroke: 'mark', width: LINE }, dot(0.5, 0.64, 0.09)],
  none: () => [
    { d: 'M 0 0 H 1 V 1 H 0 Z', fill: 'gap' },
    { d: 'M 0 1 L 1 0', stroke: 'gapLine', width: 0.04 },
  ],
};

const OWN: Record<OwnMark, () => Shape[]> = {
  dot: () => [dot(0.5, 0.5, 0.14)],
  bar: () => [line('M', 0.5, 0.16, 'L', 0.5, 0.84)],
  level: () => [line('M', 0.16, 0.5, 'L', 0.84, 0.5)],
  rise: () => [line('M', 0.2, 0.84, 'L', 0.8, 0.16)],
  fall: () => [line('M', 0.2, 0.16, 'L', 0.8, 0.84)],
  ring: () => [ring(0.5, 0.5, 0.34)],
  wedge: () => [{ d: wedge(), stroke: 'mark', width: LINE }],
  fork: () => [line('M', 0.5, 0.86, 'L', 0.5, 0.5), line('M', 0.2, 0.16, 'L', 0.5, 0.5, 'L', 0.8, 0.16)],
  cross: () => [line('M', 0.24, 0.24, 'L', 0.76, 0.76), line('M', 0.76, 0.24, 'L', 0.24, 0.76)],
  loop: () => [twistedLoop(0.86)],
};

function plainShapes(id: string, plain: PlainSchool): Shape[] | null {
  if (id === 'k') return plain === 'empty' ? [] : [line('M', 0.5, 0.2, 'L', 0.5, 0.8)];
  if (id === 'p') return plain === 'empty' ? [dot(0.5, 0.5)] : [line('M', 0.22, 0.5, 'L', 0.78, 0.5)];
  return null;
}

const numbers = (text: string) => (text ? text.split(' ').map(Number) : undefined);
const crossed = remembered((c: Crossing, plain: PlainSchool, feet: string, ropes: string) =>
  drawCrossing(c, plain, numbers(feet), numbers(ropes)),
);

/**
 * A crossing as cords; `feet` (columns from its right end, joined by spaces) where its loops do not stand right below it,
 * and the `ropes` of its loops above it, joined alike, where ropes are told apart.
 */
export const drawnCrossing = (c: Crossing, plain: PlainSchool, feet = '', ropes = ''): readonly Shape[] =>
  crossed(c, plain, feet, ropes);

const drawnOnce = ofEach((symbol: () => Shape[]): readonly Shape[] => symbol());

/** The symbol of any stitch, in cells, as wide as the columns it covers. Drawings of equal stitches are shared. */
export function drawStitch(stitch: Stitch, plain: PlainSchool, book: StitchBook): readonly Shape[] {
  if (!isCrossing(stitch) && stitch.startsWith('own-')) {
    const own = book.own.find((o) => o.id === stitch);
    const shift = (kindOf(stitch, book).span - 1) / 2;
    return (own?.marks ?? ['cross']).flatMap((m) => OWN[m]().map((s) => ({ ...s, dx: shift })));
  }
  if (isCrossing(stitch)) return drawnCrossing(stitch, plain);
  const symbol = plainShapes(stitch, plain) ?? SYMBOLS[stitch];
  if (!symbol) return OWN.cross();
  return typeof symbol === 'function' ? drawnOnce(symbol) : symbol;
}

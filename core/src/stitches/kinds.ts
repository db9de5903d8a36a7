import type { Face, Lean } from './face.js';

export type StitchGroup = 'plain' | 'slip' | 'increase' | 'decrease' | 'gap' | 'own';

/**
 * One kind of stitch that is not a crossing.
 *
 * `takes` loops come off the left needle and `makes` loops go on the right; `span` is the number of
 * columns the cell covers. Apart from the gap, span is max(1, makes): a row's cells are the loops it leaves
 * on the needle, so every loop stands right above the loop that carries it.
 */
export interface StitchKind {
  id: string;
  name: string;
  group: StitchGroup;
  takes: number;
  makes: number;
  span: number;
  /** Faces of the loops made, from the right, as the RS shows them; `'below'` keeps those it takes. */
  faces: readonly Face[] | 'below';
  /**
   * The word written on an RS and on a WS row. `#` stands for a count: `k#` is written `k3` for three.
   * A word without `#` is repeated in brackets.
   */
  rs: string;
  ws: string;
  /** What the hands do, for the key; `#` stands for the number of stitches. */
  rsSteps: string;
  wsSteps: string;
  /** The kind this one becomes in a mirror, and in a left-handed knitter's hands. */
  mirror: string;
  /** The way it leans, seen from the RS; absent where it stands upright. */
  lean?: Lean;
  /** Worked through the back loop, which twists it. */
  twists?: boolean;
  /** What an increase that takes no loop is drawn out of: the yarn alone, the bar between two loops, or a neighbour, as the RS looks. */
  outOf?: 'bar' | Lean;
}

type Shape = Pick<StitchKind, 'group' | 'takes' | 'makes' | 'faces'>;

const knit: Face[] = ['knit'];
const purl: Face[] = ['purl'];
const plain = (faces: Face[]): Shape => ({ group: 'plain', takes: 1, makes: 1, faces });
const decrease = (takes: number, faces: Face[]): Shape => ({
  group: 'decrease',
  takes,
  makes: 1,
  faces,
});
const increase = (takes: number, faces: Face[]): Shape => ({
  group: 'increase',
  takes,
  makes: faces.length,
  faces,
});
const slip: Shape = { group: 'slip', takes: 1, makes: 1, faces: 'below' };

function kind(
  id: string,
  name: string,
  shape: Shape,
  [rs, ws]: [string, string],
  [rsSteps, wsSteps]: [string, string],
  more: Partial<Pick<StitchKind, 'mirror' | 'lean' | 'twists' | 'outOf'>> = {},
): StitchKind {
  const span = Math.max(1, shape.makes);
  return { id, name, ...shape, span, rs, ws, rsSteps, wsSteps, mirror: id, ...more };
}

const STEPS = {
  k: 'knit',
  p: 'purl',
  ktbl: 'knit through the back loop',
  ptbl: 'purl through the back loop',
  wyib: 'slip purlwise with yarn in back',
  wyif: 'slip purlwise with yarn in front',
  k2tog: 'knit 2 stitches together',
  p2tog: 'purl 2 stitches together',
  ssk: 'slip 2 stitches knitwise one at a time, knit them together through the back loops',
  ssp: 'slip 2 stitches knitwise one at a time, return them, purl them together through the back loops',
  k3tog: 'knit 3 stitches together',
  p3tog: 'purl 3 stitches together',
  sssk: 'slip 3 stitches knitwise one at a time, knit them together through the back loops',
  sssp: 'slip 3 stitches knitwise one at a time, return them, purl them together through the back loops',
  cdd: 'slip 2 stitches together knitwise, knit 1, pass the 2 slipped stitches over',
  cddp: 'slip 2 stitches knitwise one at a time, return them, slip them together through the back loops, purl 1, pass the 2 slipped stitches over',
  k5tog: 'slip 3 stitches together knitwise, knit 2 together, pass the 3 slipped stitches over',
  p5tog:
    'slip 3 stitches knitwise one at a time, return them, slip them together through the back loops, purl 2 together, pass the 3 slipped stitches over',
  yo: 'bring the yarn over the needle',
  m1l: 'lift the bar between the needles from front to back, knit it through the back loop',
  m1r: 'lift the bar between the needles from back to front, knit it through the front loop',
  m1lp: 'lift the bar between the needles from front to back, purl it through the back loop',
  m1rp: 'lift the bar between the needles from back to front, purl it through the front loop',
  lli: 'with the left needle lift the left leg of the stitch two rows below the last stitch worked, knit it',
  rli: 'lift the right leg of the stitch below the next stitch onto the left needle, knit it',
  llip: 'with the left needle lift the left leg of the stitch two rows below the last stitch worked, purl it',
  rlip: 'lift the right leg of the stitch below the next stitch onto the left needle, purl it',
  kfb: 'knit into the front and then the back of the stitch',
  pfb: 'purl into the front and then the back of the stitch',
  kp: 'knit, purl into the same stitch',
  pk: 'purl, knit into the same stitch',
  kyok: 'knit, yarn over, knit into the same stitch',
  pyop: 'purl, yarn over, purl into the same stitch',
  kyokyok: 'knit, yarn over, knit, yarn over, knit into the same stitch',
  pyopyop: 'purl, yarn over, purl, yarn over, purl into the same stitch',
} as const;

/**
 * Every kind of stitch but crossings. Other sides follow the rule of the craft: knit and purl change
 * places, and a decrease keeps its lean (k2tog is worked p2tog on the WS, ssk is worked ssp). A make-one keeps
 * its lean too, since a twist has the same hand from both sides; a lifted increase changes the leg it lifts,
 * since its neighbour is met after it and not before.
 */
const KINDS: readonly StitchKind[] = [
  kind('k', 'knit', plain(knit), ['k#', 'p#'], [STEPS.k, STEPS.p]),
  kind('p', 'purl', plain(purl), ['p#', 'k#'], [STEPS.p, STEPS.k]),
  kind('ktbl', 'knit through the back loop', plain(knit), ['k# tbl', 'p# tbl'], [STEPS.ktbl, STEPS.ptbl], {
    twists: true,
  }),
  kind('ptbl', 'purl through the back loop', plain(purl), ['p# tbl', 'k# tbl'], [STEPS.ptbl, STEPS.ktbl], {
    twists: true,
  }),
  kind('slyb', 'slip, float at the back', slip, ['sl # wyib', 'sl # wyif'], [STEPS.wyib, STEPS.wyif]),
  kind('slyf', 'slip, float in front', slip, ['sl # wyif', 'sl # wyib'], [STEPS.wyif, STEPS.wyib]),
  kind('mb', 'bobble', plain(knit), ['MB', 'MB'], ['', '']),

  kind('yo', 'yarn over', increase(0, knit), ['yo', 'yo'], [STEPS.yo, STEPS.yo]),
  kind('m1l', 'make one left', increase(0, knit), ['M1L', 'M1LP'], [STEPS.m1l, STEPS.m1lp], {
    lean: 'left',
    mirror: 'm1r',
    outOf: 'bar',
  }),
  kind('m1r', 'make one right', increase(0, knit), ['M1R', 'M1RP'], [STEPS.m1r, STEPS.m1rp], {
    lean: 'right',
    mirror: 'm1l',
    outOf: 'bar',
  }),
  kind('m1lp', 'make one left purlwise', increase(0, purl), ['M1LP', 'M1L'], [STEPS.m1lp, STEPS.m1l], {
    lean: 'left',
    mirror: 'm1rp',
    outOf: 'bar',
  }),
  kind('m1rp', 'make one right purlwise', increase(0, purl), ['M1RP', 'M1R'], [STEPS.m1rp, STEPS.m1r], {
    lean: 'right',
    mirror: 'm1lp',
    outOf: 'bar',
  }),
  kind('lli', 'left lifted increase', increase(0, knit), ['LLI', 'RLIP'], [STEPS.lli, STEPS.rlip], {
    lean: 'left',
    mirror: 'rli',
    outOf: 'right',
  }),
  kind('rli', 'right lifted increase', increase(0, knit), ['RLI', 'LLIP'], [STEPS.rli, STEPS.llip], {
    lean: 'right',
    mirror: 'lli',
    outOf: 'left',
  }),
  // Its bar lies on the loop worked second: from the other side that loop is met first, so it is worked otherwise.
  kind('kfb', 'knit front and back', increase(1, ['knit', 'purl']), ['kfb', 'k-p'], [STEPS.kfb, STEPS.kp], {
    mirror: 'kfbr',
  }),
  kind(
    'kfbr',
    'purl and knit into one',
    increase(1, ['purl', 'knit']),
    ['p-k', 'pfb'],
    [STEPS.pk, STEPS.pfb],
    { mirror: 'kfb' },
  ),
  kind(
    'kyok',
    'three out of one',
    increase(1, ['knit', 'knit', 'knit']),
    ['k-yo-k', 'p-yo-p'],
    [STEPS.kyok, STEPS.pyop],
  ),
  kind(
    'kyokyok',
    'five out of one',
    increase(1, ['knit', 'knit', 'knit', 'knit', 'knit']),
    ['k-yo-k-yo-k', 'p-yo-p-yo-p'],
    [STEPS.kyokyok, STEPS.pyopyop],
  ),

  kind('k2tog', 'knit 2 together', decrease(2, knit), ['k2tog', 'p2tog'], [STEPS.k2tog, STEPS.p2tog], {
    lean: 'right',
    mirror: 'ssk',
  }),
  kind('ssk', 'slip slip knit', decrease(2, knit), ['ssk', 'ssp'], [STEPS.ssk, STEPS.ssp], {
    lean: 'left',
    mirror: 'k2tog',
  }),
  kind('p2tog', 'purl 2 together', decrease(2, purl), ['p2tog', 'k2tog'], [STEPS.p2tog, STEPS.k2tog], {
    lean: 'right',
    mirror: 'ssp',
  }),
  kind('ssp', 'slip slip purl', decrease(2, purl), ['ssp', 'ssk'], [STEPS.ssp, STEPS.ssk], {
    lean: 'left',
    mirror: 'p2tog',
  }),
  kind('k3tog', 'knit 3 together', decrease(3, knit), ['k3tog', 'p3tog'], [STEPS.k3tog, STEPS.p3tog], {
    lean: 'right',
    mirror: 'sssk',
  }),
  kind('sssk', 'slip slip slip knit', decrease(3, knit), ['sssk', 'sssp'], [STEPS.sssk, STEPS.sssp], {
    lean: 'left',
    mirror: 'k3tog',
  }),
  kind('p3tog', 'purl 3 together', decrease(3, purl), ['p3tog', 'k3tog'], [STEPS.p3tog, STEPS.k3tog], {
    lean: 'right',
    mirror: 'sssp',
  }),
  kind('sssp', 'slip slip slip purl', decrease(3, purl), ['sssp', 'sssk'], [STEPS.sssp, STEPS.sssk], {
    lean: 'left',
    mirror: 'p3tog',
  }),
  kind('cdd', 'central double decrease', decrease(3, knit), ['cdd', 'cddp'], [STEPS.cdd, STEPS.cddp]),
  kind(
    'cddp',
    'central double decrease purlwise',
    decrease(3, purl),
    ['cddp', 'cdd'],
    [STEPS.cddp, STEPS.cdd],
  ),
  // Not "k5tog", which leans: its centre lies on top.
  kind('k5tog', 'central five into one', decrease(5, knit), ['s3k2p', 's3p2p'], [STEPS.k5tog, STEPS.p5tog]),
  kind(
    'p5tog',
    'central five into one purlwise',
    decrease(5, purl),
    ['s3p2p', 's3k2p'],
    [STEPS.p5tog, STEPS.k5tog],
  ),

  {
    id: 'none',
    name: 'no stitch',
    group: 'gap',
    takes: 0,
    makes: 0,
    span: 1,
    faces: [],
    rs: '',
    ws: '',
    rsSteps: '',
    wsSteps: '',
    mirror: 'none',
  },
];

/** The table of stitches by id. A designer's own stitches join it in a `StitchBook`. */
export const STITCH_KINDS: ReadonlyMap<string, StitchKind> = new Map(KINDS.map((k) => [k.id, k]));

/** The gap in the grid: a cell that takes and makes nothing and is never written. */
export const NO_STITCH = 'none';

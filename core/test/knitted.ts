import { expect } from 'chai';
import { crossingOrder, crossingSize, isCrossing, type Stitch } from '../src/index.js';
import { workedAfter } from '../src/stitches/crossing.js';
import { showsKnit, type KnittedRow } from './simulator.js';

/** What a chart's stitch must come out as, in the words of the craft and not of the program. */
interface Meant {
  takes: number;
  /** Faces from the right: k smooth, p not. */
  faces: string;
  /** Of a decrease: which of the loops taken lies on top on its smooth side, from the right. */
  top?: number;
  madeOf?: string | RegExp;
  twisted?: boolean;
}

const K = { takes: 1, faces: 'k' };
const P = { takes: 1, faces: 'p' };
export const MEANT: Record<string, Meant> = {
  k: K,
  p: P,
  ktbl: { ...K, twisted: true },
  ptbl: { ...P, twisted: true },
  mb: { ...K, madeOf: 'bobble' },
  yo: { takes: 0, faces: 'k', madeOf: 'yarn' },
  m1l: { takes: 0, faces: 'k', madeOf: 'bar, leaning left' },
  m1r: { takes: 0, faces: 'k', madeOf: 'bar, leaning right' },
  m1lp: { takes: 0, faces: 'p', madeOf: 'bar, leaning left' },
  m1rp: { takes: 0, faces: 'p', madeOf: 'bar, leaning right' },
  lli: { takes: 0, faces: 'k', madeOf: 'lifted right' },
  rli: { takes: 0, faces: 'k', madeOf: 'lifted left' },
  kfb: { takes: 1, faces: 'kp' },
  kfbr: { takes: 1, faces: 'pk' },
  kyok: { takes: 1, faces: 'kkk' },
  kyokyok: { takes: 1, faces: 'kkkkk' },
  k2tog: { takes: 2, faces: 'k', top: 1 },
  ssk: { takes: 2, faces: 'k', top: 0 },
  // The smooth side of a purled decrease is the wrong side: it leans there as its name says.
  p2tog: { takes: 2, faces: 'p', top: 0 },
  ssp: { takes: 2, faces: 'p', top: 1 },
  k3tog: { takes: 3, faces: 'k', top: 2 },
  sssk: { takes: 3, faces: 'k', top: 0 },
  p3tog: { takes: 3, faces: 'p', top: 0 },
  sssp: { takes: 3, faces: 'p', top: 2 },
  cdd: { takes: 3, faces: 'k', top: 1 },
  cddp: { takes: 3, faces: 'p', top: 1 },
  k5tog: { takes: 5, faces: 'k', top: 2 },
  p5tog: { takes: 5, faces: 'p', top: 2 },
};

/** Holds one knitted row against the stitches the chart says for it. */
export function expectRow(
  { row, side, loops, below }: KnittedRow,
  stitches: readonly Stitch[],
  fromLeft: boolean,
): void {
  let at = 0;
  let taken = 0;
  const next = () => loops[at++]!;
  const where = (s: Stitch) => `row ${row}, ${typeof s === 'string' ? s : 'crossing'} at loop ${taken + 1}`;
  for (const s of stitches) {
    if (isCrossing(s)) {
      const n = crossingSize(s);
      const made = Array.from({ length: n }, next);
      expect(
        made.map((l) => below.indexOf(l.through[0]!) - taken),
        where(s),
      ).to.deep.equal(crossingOrder(s));
      expect(
        made.map((l) => (showsKnit(l, side) ? 'k' : 'p') + (l.twisted ? 'tbl' : '')),
        where(s),
      ).to.deep.equal(workedAfter(s));
      // Depth as the right side looks: front over centre and back, and the centre under both.
      const depths = made.map((l) => (side === 'RS' ? l.depth : -l.depth));
      const [b, c, f] = [s.back.length, s.centre.length, s.front.length];
      const groups =
        s.lean === 'left'
          ? { back: depths.slice(0, b), centre: depths.slice(b, b + c), front: depths.slice(b + c) }
          : { front: depths.slice(0, f), centre: depths.slice(f, f + c), back: depths.slice(f + c) };
      expect(Math.min(...groups.front), where(s)).to.be.greaterThan(
        Math.max(...groups.back, ...groups.centre),
      );
      if (c) expect(Math.max(...groups.centre), where(s)).to.be.lessThan(Math.min(...groups.back));
      taken += n;
      continue;
    }
    if (s === 'slyb' || s === 'slyf') {
      const loop = next();
      const float = (s === 'slyb') === (side === 'RS') ? 'back' : 'front';
      expect([below.indexOf(loop.through[0]!), loop.madeOf], where(s)).to.deep.equal([
        taken,
        `slipped, yarn in ${float}`,
      ]);
      taken++;
      continue;
    }
    const { takes, faces, top, madeOf, twisted } = MEANT[s]!;
    const from = below.slice(taken, taken + takes);
    for (const face of faces) {
      const loop = next();
      // A yarn over shows no face of its own.
      if (s !== 'yo') expect(showsKnit(loop, side) ? 'k' : 'p', where(s)).to.equal(face);
      const same = loop.through.length === from.length && from.every((l) => loop.through.includes(l));
      expect(same, `${where(s)} is drawn through its loops`).to.be.true;
      expect(loop.twisted, where(s)).to.equal(twisted ?? false);
      if (top !== undefined) expect(from.indexOf(loop.top!), where(s)).to.equal(top);
      if (madeOf === undefined) continue;
      const before = (side === 'RS') !== fromLeft ? 'right' : 'left';
      const after = before === 'right' ? 'left' : 'right';
      const found = loop.madeOf
        .replace('lifted, neighbour before', `lifted ${before}`)
        .replace('lifted, neighbour after', `lifted ${after}`);
      expect(found, where(s)).to.equal(madeOf);
    }
    taken += takes;
  }
  expect([at, taken], `row ${row}`).to.deep.equal([loops.length, below.length]);
}

import { expect } from 'chai';
import fc from 'fast-check';
import {
  boundsOf,
  ChartSchema,
  clothSvg,
  crossingSwatch,
  fittedView,
  knitFabric,
  linesOfLoops,
  loopsAbout,
  newPlate,
  paintCloth,
  paintFinely,
  pixelOf,
  pointAt,
  simpleCrossing,
  smallPicture,
  YARNS,
  yarnPaths,
  type Chart,
  type KnittedCloth,
  type View,
} from '../src/index.js';
import { settled } from '../src/fabric/settle.js';
import { anyCrossing, THOROUGH } from './arbitrary.js';
import { cloth, knitted, LATTICE, otherSideOf, PLAIN, ropes } from './cloths.js';

type Point = readonly [number, number, number];

/** The points of each loop's own yarn, in a cloth whose loops are all drawn through others. */
function loopPoints({ fabric, lie }: KnittedCloth, loosely = false): Point[][] {
  const { points, loop, lines } = yarnPaths(fabric, lie, { loosely });
  const of: Point[][] = Array.from({ length: fabric.size }, () => []);
  for (let i = 0; i < lines[lines.length - 2]!; i++)
    of[loop[i]!]!.push([points[3 * i]!, points[3 * i + 1]!, points[3 * i + 2]!]);
  return of;
}

/** How far the first of two stretches of yarn lies before the second at each place where they are seen to meet. */
function meetings(one: readonly Point[], other: readonly Point[]): number[] {
  const found: number[] = [];
  for (let i = 0; i + 1 < one.length; i++)
    for (let j = 0; j + 1 < other.length; j++) {
      const [a, b, p, q] = [one[i]!, one[i + 1]!, other[j]!, other[j + 1]!];
      const d = (b[0] - a[0]) * (q[1] - p[1]) - (b[1] - a[1]) * (q[0] - p[0]);
      if (Math.abs(d) < 1e-9) continue;
      const s = ((p[0] - a[0]) * (q[1] - p[1]) - (p[1] - a[1]) * (q[0] - p[0])) / d;
      const t = ((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])) / d;
      if (s < 0 || s > 1 || t < 0 || t > 1) continue;
      found.push(a[2] + s * (b[2] - a[2]) - (p[2] + t * (q[2] - p[2])));
    }
  return found;
}

function checkOvers(chart: Chart, made = knitted(chart)): number {
  const { wales, overs, row, column } = made.fabric;
  const of = loopPoints(made);
  let seen = 0;
  for (const { over, under } of overs) {
    // The loops that are led across: those the crossing's stitches are drawn through, without their feet.
    const [o, u] = [wales[over]!.parent, wales[under]!.parent];
    for (const before of meetings(of[o]!.slice(1, -1), of[u]!.slice(1, -1))) {
      seen++;
      expect(before, `row ${row[o]! + 2}, columns ${column[o]! + 1} and ${column[u]! + 1}`).to.be.greaterThan(
        0,
      );
    }
  }
  return seen;
}

/** Every meeting of a rope's yarn with that of a whole ground behind it. */
function checkBeforeGround(chart: Chart): number {
  const made = settled(knitFabric(chart, 'whole'));
  checkOvers(chart, made);
  const { ties, row, column, size } = made.fabric;
  const of = loopPoints(made);
  const isRope = new Set(ties.map(({ rope }) => rope));
  let seen = 0;
  for (const rope of isRope)
    for (let i = 0; i < size; i++) {
      if (isRope.has(i) || Math.abs(row[i]! - row[rope]!) > 2 || Math.abs(column[i]! - column[rope]!) > 2)
        continue;
      // Where a rope's row begins and ends its yarn comes from behind.
      for (const before of meetings(of[rope]!.slice(2, -2), of[i]!)) {
        seen++;
        expect(
          before,
          `row ${row[rope]! + 1}, columns ${column[rope]! + 1} and ${column[i]! + 1}`,
        ).to.be.greaterThan(0);
      }
    }
  return seen;
}

const yarn = YARNS.fleece;

describe('the yarn of cloth, and its picture', () => {
  it('lays what is over above what is under wherever the two are seen to meet', () => {
    expect(checkOvers(ropes(3, 4))).to.be.greaterThan(200);
    expect(checkOvers(ropes(2, 6))).to.be.greaterThan(50);
    expect(checkOvers(LATTICE)).to.be.greaterThan(200);
    fc.assert(
      fc.property(
        anyCrossing(4),
        fc.constantFrom('flat' as const, 'double' as const),
        (crossing, construction) => void checkOvers(crossingSwatch(crossing, construction)),
      ),
      { numRuns: 60 * THOROUGH },
    );
  }).timeout(60_000);

  it('lays ropes before a ground that is whole, wherever yarn of the two is seen to meet', () => {
    for (const chart of [ropes(2, 6), ropes(3, 4), crossingSwatch(simpleCrossing('left', 2, 1, 'p'))])
      expect(checkBeforeGround(chart)).to.be.greaterThan(60);
  });

  it('shows the same cloth from the other side: that of the chart seen from there, mirrored', () => {
    for (const chart of [
      ropes(2, 4, 2, 12),
      LATTICE,
      cloth(11, 14, (c, r) => ((c * r) % 3 ? 'k' : 'ptbl')),
    ]) {
      const [one, other] = [knitted(chart), knitted(otherSideOf(chart))];
      const [a, b] = [loopPoints(one, true), loopPoints(other, true)];
      // Cloth lies anywhere along its rows: the two are laid on each other.
      const mean = ({ fabric, lie }: KnittedCloth) =>
        [...fabric.row.keys()].reduce((sum, i) => sum + lie[3 * i]!, 0) / fabric.size;
      const along = mean(one) + mean(other);
      const at = (k: KnittedCloth, row: number, column: number) =>
        [...k.fabric.row.keys()].find((i) => k.fabric.row[i] === row && k.fabric.column[i] === column)!;
      for (let i = 0; i < one.fabric.size; i++) {
        const row = one.fabric.row[i]!;
        // The cast-on is the same on both sides, and so are the rows it bends.
        if (row < 4) continue;
        const twin = at(other, row, chart.width - 1 - one.fabric.column[i]!);
        expect(other.fabric.face[twin]).to.equal(-one.fabric.face[i]!);
        // The yarn is met from its other end; points are taken in the order in which they go to the left.
        const here = a[i]!.map(([x, y, z]) => [along - x, y, -z]).reverse();
        const there = b[twin]!;
        here.forEach((p, n) => {
          const q = there.length === here.length ? there[n]! : null;
          const nearest = (q ? [q] : there)
            .concat(there)
            .reduce(
              (least, r) => Math.min(least, Math.hypot(p[0]! - r[0], p[1]! - r[1], p[2]! - r[2])),
              Infinity,
            );
          expect(nearest, `row ${row + 1}, column ${one.fabric.column[i]! + 1}`).to.be.lessThan(0.16);
        });
      }
    }
  }).timeout(60_000);

  it('covers the same pixels from both sides, turned over', () => {
    const made = knitted(ropes(2, 4, 2, 12));
    const paths = yarnPaths(made.fabric, made.lie);
    const [width, height] = [200, 120];
    const seen = (side: View['side']) => {
      const plate = newPlate(width, height);
      paintCloth(plate, paths, fittedView(boundsOf(made), { width, height }, side), yarn);
      return plate;
    };
    const [rs, ws] = [seen('RS'), seen('WS')];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [p, q] = [y * width + x, y * width + (width - 1 - x)];
        expect(rs.loop[p]! < 0, `${x}, ${y}`).to.equal(ws.loop[q]! < 0);
        // What is nearest from behind is farthest from before.
        if (rs.loop[p]! >= 0) expect(rs.depth[p]! + ws.depth[q]!).to.be.greaterThan(0);
      }
  });

  it('is the same picture whether painted whole or a part anew', () => {
    const made = knitted(ropes(2, 4, 2, 16));
    // What is painted at once is loose: yarn lies against yarn once the picture is made fine.
    const paths = yarnPaths(made.fabric, made.lie, { loosely: true });
    const view = fittedView(boundsOf(made), { width: 240, height: 180 });
    const [whole, parts] = [newPlate(240, 180), newPlate(240, 180)];
    paintCloth(whole, paths, view, yarn);
    paintCloth(parts, paths, view, yarn);
    const box = { left: 60, top: 40, right: 130, bottom: 110 };
    for (let y = box.top; y < box.bottom; y++)
      parts.rgba.fill(0, 4 * (y * 240 + box.left), 4 * (y * 240 + box.right));
    // Of the yarn too only what is about the part is needed.
    const only = loopsAbout(made, view, box);
    expect(only.includes(0)).to.equal(true);
    paintCloth(parts, yarnPaths(made.fabric, made.lie, { only, loosely: true }), view, yarn, box);
    expect([...parts.rgba]).to.deep.equal([...whole.rgba]);
    expect([...parts.loop]).to.deep.equal([...whole.loop]);
  });

  it('finds the loop at a point, and the point of a loop, from both sides and at every size', () => {
    const made = knitted(PLAIN);
    const { fabric, lie } = made;
    const paths = yarnPaths(fabric, lie);
    for (const side of ['RS', 'WS'] as const)
      for (const scale of [9, 30]) {
        const view: View = { width: 300, height: 260, scale, x: -12, y: 8, side };
        const plate = newPlate(300, 260);
        paintFinely(plate, paths, view, yarn);
        let hit = 0;
        for (const i of [fabric.needles[11]![12]!, fabric.needles[13]![14]!]) {
          const at = pixelOf(view, lie[3 * i]!, lie[3 * i + 1]!);
          expect(pointAt(view, at.x, at.y).x).to.be.closeTo(lie[3 * i]!, 1e-9);
          // The leg of the V: a little beside its middle.
          for (const dx of [-0.24, 0.24]) {
            const [x, y] = [Math.floor(at.x + dx * scale), Math.floor(at.y)];
            const loop = plate.loop[y * 300 + x]!;
            if (
              loop >= 0 &&
              Math.abs(fabric.row[loop]! - fabric.row[i]!) <= 1 &&
              fabric.column[loop] === fabric.column[i]
            )
              hit++;
          }
        }
        expect(hit, `${side} ${scale}`).to.equal(4);
      }
  });

  it('shows knit as Vs and purl as bumps: what lies in front', () => {
    const front = (stitch: 'k' | 'p') => {
      const made = knitted(cloth(12, 12, () => stitch));
      const inner = made.fabric.needles[6]![6]!;
      const of = loopPoints(made)[inner]!;
      // Legs are the points beside the middle, the head the highest, the feet the lowest.
      const ys = of.map((p) => p[1]);
      const top = of[ys.indexOf(Math.max(...ys))]!;
      const middle = of[Math.floor(of.length / 4)]!;
      return { legs: middle[2], head: top[2] };
    };
    const [knit, purl] = [front('k'), front('p')];
    expect(knit.legs).to.be.greaterThan(knit.head + 0.2);
    expect(purl.head).to.be.greaterThan(purl.legs + 0.2);
  });

  it('shows openings as holes, and none in plain cloth', () => {
    const lace = ChartSchema.parse({
      width: 12,
      rows: Array.from({ length: 12 }, (_, r) => {
        const knit = (n: number) => Array<string>(n).fill('k');
        return r === 6 ? [...knit(4), 'k2tog', 'yo', ...knit(6)] : knit(12);
      }),
    });
    const open = (chart: Chart) => {
      const made = knitted(chart);
      const plate = newPlate(90, 90);
      // About the sixth column of the seventh row.
      const i = made.fabric.needles[7]![5]!;
      const [x, y] = [made.lie[3 * i]!, made.lie[3 * i + 1]!];
      const view: View = { width: 90, height: 90, scale: 60, x, y, side: 'RS' };
      paintCloth(plate, yarnPaths(made.fabric, made.lie), view, yarn);
      // Between yarns that nearly touch there is the dark inside of the cloth: that is no hole.
      return plate.loop.filter((_, i) => plate.rgba[4 * i + 3]! < 128).length / plate.loop.length;
    };
    expect(open(PLAIN)).to.be.lessThan(0.01);
    expect(open(lace)).to.be.greaterThan(0.012);
  });

  it('is none where a chart has nothing but gaps, and settles at once', () => {
    const gaps = ChartSchema.parse({
      width: 5,
      rows: Array.from({ length: 4 }, () => Array(5).fill('none')),
    });
    const made = settled(knitFabric(gaps));
    expect(made.fabric.size).to.equal(0);
    expect(Object.values(boundsOf(made)).every(Number.isFinite)).to.equal(true);
    const { rgba } = smallPicture(gaps, { width: 30, height: 20 }, yarn);
    expect(rgba.every((v) => v === 0)).to.equal(true);
  });

  it('goes on at both sides in the round', () => {
    const round = { ...ropes(2, 4, 2, 8), construction: 'round' as const };
    const made = knitted(round);
    const paths = yarnPaths(made.fabric, made.lie);
    const view: View = { width: 400, height: 40, scale: 8, x: 40, y: 3, side: 'RS' };
    const plate = newPlate(400, 40);
    paintCloth(plate, paths, view, yarn);
    expect(plate.loop.filter((l) => l >= 0).length / plate.loop.length).to.be.greaterThan(0.6);
    expect(paths.around).to.be.within(6, 14);
  });

  it('makes lines of what is seen, in colours that were chosen, nothing of other programs', () => {
    const made = knitted(crossingSwatch(simpleCrossing('left', 2, 2)));
    const paths = yarnPaths(made.fabric, made.lie);
    const svg = clothSvg(
      paths,
      fittedView(boundsOf(made), { width: 300, height: 200 }),
      YARNS.woad,
      made.fabric,
    );
    expect(svg).to.match(/^<svg xmlns="http:\/\/www.w3.org\/2000\/svg" viewBox="0 0 300 200"/);
    expect(svg.match(/<path/g)!.length).to.be.greaterThan(10);
    expect(svg).not.to.match(/NaN|Infinity/);
    // Every row, and every stitch of it, has a name that nothing else has.
    const rows = new Set([...svg.matchAll(/data-row="(\d+)"/g)].map(([, row]) => Number(row)));
    expect(rows).to.deep.equal(new Set(made.fabric.needles.map((_, row) => row)));
    const names = [...svg.matchAll(/ id="([^"]+)"/g)].map(([, name]) => name);
    expect(new Set(names).size).to.equal(names.length);
    const stitches = new Set([...svg.matchAll(/"yarn-\d+-(row-\d+-stitch-\d+)"/g)].map(([, name]) => name));
    expect(stitches.size).to.equal(made.fabric.size - made.fabric.needles[0]!.length);
    const lines = linesOfLoops(paths, new Set([made.fabric.needles[5]![4]!]));
    expect(lines).to.have.length(1);
    expect(lines[0]!.length).to.be.greaterThan(7);
  });

  it('fills a small picture with the middle of the cloth, from every kind of yarn', () => {
    for (const name of ['fleece', 'lichen'] as const) {
      const { rgba, loop } = smallPicture(ropes(2, 4), { width: 120, height: 80 }, YARNS[name]);
      expect(loop.filter((l) => l < 0).length / loop.length).to.be.lessThan(0.04);
      const mean = [0, 1, 2].map(
        (c) => rgba.filter((_, i) => i % 4 === c).reduce((s, v) => s + v, 0) / loop.length,
      );
      // As bright as its colour in light and shade.
      mean.forEach((v, c) => expect(v / YARNS[name].colour[c]!).to.be.within(0.3, 1.1));
    }
  });
});

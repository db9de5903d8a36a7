import { expect } from 'chai';
import {
  ChartSchema,
  knitFabric,
  paintCloth,
  paintFinely,
  yarnPaths,
  YARNS,
  type Chart,
  type YarnPaths,
} from '../src/index.js';
import { drawHalo, haloAt } from '../src/cloth/halo.js';
import { newPlate, piecesOf, RADIUS, radiusOf, rasterise } from '../src/cloth/raster.js';
import { shade } from '../src/cloth/shade.js';
import { settled } from '../src/fabric/settle.js';
import { cloth, GARTER, knitted, LATTICE, PLAIN, rib, ropes } from './cloths.js';

/** How yarn lies against yarn: measured along the curves it is drawn as, away from the edges of the cloth. */

const MOSS = cloth(24, 24, (c, r) => ((c + r) % 2 ? 'p' : 'k'));
const CLOTHS: Record<string, Chart> = {
  knit: PLAIN,
  purl: cloth(24, 24, () => 'p'),
  '1 × 1 rib': rib(1),
  '2 × 2 rib': rib(2),
  garter: GARTER,
  moss: MOSS,
  '2/2 ropes': ropes(2, 4),
  '3/3 ropes': ropes(3, 6, 2),
  '3/3 ropes, seldom crossed': ropes(3, 12, 2, 30),
  '4/4 ropes': ropes(4, 8, 2, 30),
};

/** A place on the curve of the yarn: where, how far along its line, which line and loop. */
interface Place {
  x: number;
  y: number;
  z: number;
  along: number;
  line: number;
  loop: number;
}

const CUTS = 4;
/** Nearer along a line than this it is the same yarn, bent. */
const SAME = 0.8;

function placesOn({ points, loop, lines }: YarnPaths): Place[] {
  const places: Place[] = [];
  for (let line = 0; line + 1 < lines.length; line++) {
    const [first, end] = [lines[line]!, lines[line + 1]! - 1];
    let along = 0;
    for (let i = first; i < end; i++)
      for (let cut = 0; cut < CUTS; cut++) {
        const t = cut / CUTS;
        const [x, y, z] = [0, 1, 2].map((axis) => {
          const at = (k: number) => points[3 * Math.max(first, Math.min(end, i + k)) + axis]!;
          const [a, b, c, d] = [at(-1), at(0), at(1), at(2)];
          return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
        }) as [number, number, number];
        const last = places.at(-1);
        if (last?.line === line) along += Math.hypot(x - last.x, y - last.y, z - last.z);
        places.push({ x, y, z, along, line, loop: loop[i]! });
      }
  }
  return places;
}

/** The share of the yarn that is sunk in other yarn by more than a quarter of its thickness. */
function sunk(chart: Chart): number {
  const made = knitted(chart);
  const { row, column } = made.fabric;
  const places = placesOn(yarnPaths(made.fabric, made.lie));
  const byCell = new Map<string, Place[]>();
  const cellOf = (x: number, y: number) => `${Math.floor(2 * x)} ${Math.floor(2 * y)}`;
  for (const place of places) {
    const cell = cellOf(place.x, place.y);
    byCell.set(cell, [...(byCell.get(cell) ?? []), place]);
  }
  let [deep, all] = [0, 0];
  for (const one of places) {
    const [r, c] = [row[one.loop]!, column[one.loop]!];
    if (r < 3 || r > chart.rows.length - 4 || c < 2 || c > chart.width - 3) continue;
    all++;
    const isDeep = [-0.5, 0, 0.5].some((dx) =>
      [-0.5, 0, 0.5].some((dy) =>
        byCell
          .get(cellOf(one.x + dx, one.y + dy))
          ?.some(
            (o) =>
              (o.line !== one.line || Math.abs(o.along - one.along) > SAME) &&
              Math.hypot(o.x - one.x, o.y - one.y, o.z - one.z) < 0.75 * 2 * RADIUS,
          ),
      ),
    );
    if (isDeep) deep++;
  }
  return deep / all;
}

describe('yarn that lies against yarn', () => {
  for (const [name, chart] of Object.entries(CLOTHS))
    it(`is sunk by over a quarter along a sixth of its length at most: ${name}`, () =>
      expect(sunk(chart)).to.be.below(0.17));

  it('holds as much yarn in a loop of a lattice as in a plain one, but for a seventh', () => {
    const perLoop = (chart: Chart) => {
      const made = knitted(chart);
      const { points, lines } = yarnPaths(made.fabric, made.lie);
      let length = 0;
      for (let l = 0; l + 1 < lines.length; l++)
        for (let p = 3 * lines[l]!; p < 3 * (lines[l + 1]! - 1); p += 3)
          length += Math.hypot(
            points[p + 3]! - points[p]!,
            points[p + 4]! - points[p + 1]!,
            points[p + 5]! - points[p + 2]!,
          );
      return length / made.fabric.size;
    };
    expect(perLoop(LATTICE) / perLoop(PLAIN)).to.be.within(0.9, 1.14);
  });

  it('goes nowhere else where only a part of it is drawn: what lies there is drawn as in the whole', () => {
    const slipped = cloth(14, 12, (c, r) => (c % 4 === 1 && r % 2 ? 'slyb' : 'k'));
    const banded = ChartSchema.parse({
      ...cloth(12, 12, () => 'k'),
      construction: 'round',
      bands: { 4: { rounds: 3, every: 2 } },
    });
    for (const fabric of [
      knitFabric(ropes(2, 4, 2, 16)),
      knitFabric(slipped),
      knitFabric(banded),
      knitFabric(ropes(2, 6, 2, 16), 'whole'),
    ]) {
      const { lie } = settled(fabric);
      const longest = ({ points, lines }: YarnPaths) => {
        const starts = new Set(lines);
        let most = 0;
        for (let i = 1; i < points.length / 3; i++)
          if (!starts.has(i))
            most = Math.max(
              most,
              Math.hypot(...[0, 1, 2].map((k) => points[3 * i + k]! - points[3 * i - 3 + k]!)),
            );
        return most;
      };
      const whole = longest(yarnPaths(fabric, lie, { loosely: true }));
      const middle = Uint8Array.from({ length: fabric.size }, (_, i) =>
        Math.abs(lie[3 * i]! - lie[3 * (fabric.size >> 1)]!) < 4 && fabric.row[i]! > 2 ? 1 : 0,
      );
      expect(middle.includes(1) && middle.includes(0)).to.equal(true);
      expect(longest(yarnPaths(fabric, lie, { only: middle, loosely: true }))).to.be.below(whole + 0.01);
    }
  });

  it('is found as the stitch it is read as: the bump of a purl belongs to its own row', () => {
    // One purl among knits: above its foot lies the head of the loop below, which it was drawn through.
    const chart = cloth(12, 12, (c, r) => (c === 6 && r === 6 ? 'p' : 'k'));
    const made = knitted(chart);
    const { fabric, lie } = made;
    const purl = fabric.needles[7]![6]!;
    const below = fabric.wales[fabric.stem[purl]!]!.parent;
    const seen = (side: 'RS' | 'WS') => {
      const plate = newPlate(120, 120);
      const view = { width: 120, height: 120, scale: 40, x: lie[3 * purl]!, y: lie[3 * purl + 1]!, side };
      paintCloth(plate, yarnPaths(fabric, lie), view, YARNS.fleece);
      return (loop: number) => plate.loop.filter((l) => l === loop).length;
    };
    const { points, loop, through } = yarnPaths(fabric, lie);
    const heads = [...loop.keys()].filter((i) => loop[i] === below && through[i] === purl);
    expect(heads.length).to.be.greaterThan(2);
    expect(points.length).to.equal(3 * through.length);
    expect(seen('RS')(purl)).to.be.greaterThan(200);
    // From behind it is a knit: its legs are seen there, and the head of the loop below is that loop's own.
    expect(seen('WS')(below)).to.be.greaterThan(0);
  });

  it('has a halo of fibres where a stitch is 40 pixels wide or more, the same each time', () => {
    const made = knitted(cloth(10, 10, () => 'k'));
    const paths = yarnPaths(made.fabric, made.lie);
    const { x, y } = { x: made.lie[3 * 55]!, y: made.lie[3 * 55 + 1]! };
    const painted = (scale: number) => {
      const plate = newPlate(90, 90);
      paintFinely(plate, paths, { width: 90, height: 90, scale, x, y, side: 'RS' }, YARNS.peat);
      return plate.rgba;
    };
    expect(haloAt(40)).to.equal(0);
    expect(haloAt(70)).to.equal(1);
    const one = painted(70);
    expect(painted(70)).to.deep.equal(one);
    // A shaded picture, and the same with its fibres: they lie over dark and light alike, on a part of it alone.
    const view = { width: 90, height: 90, scale: 70, x, y, side: 'RS' as const };
    const plate = newPlate(90, 90);
    const box = { left: 0, top: 0, right: 90, bottom: 90 };
    const pieces = piecesOf(paths, view, box);
    rasterise(plate, pieces, box, radiusOf(view));
    shade(plate, pieces, box, view.scale, radiusOf(view), YARNS.peat);
    const bare = plate.rgba.slice();
    const half = { ...box, bottom: 45 };
    drawHalo(plate, pieces, half, view.scale, radiusOf(view), YARNS.peat, 1);
    const changed = [...plate.rgba.keys()].filter((i) => plate.rgba[i] !== bare[i]);
    expect(changed.length).to.be.greaterThan(500);
    expect(Math.max(...changed)).to.be.below(4 * 90 * 45);
  });

  it('draws stitches of her own that take and make any number of loops', () => {
    for (const [takes, makes] of [
      [1, 5],
      [5, 1],
      [0, 3],
      [4, 0],
      [7, 9],
    ] as const) {
      const own = {
        id: 'own-x',
        name: 'Knot',
        takes,
        makes,
        span: Math.max(takes, makes),
        faces: Array<'knit'>(makes).fill('knit'),
        marks: ['rise'],
        rs: 'knot',
        ws: 'knot',
        rsSteps: 'work it',
        wsSteps: 'work it',
      };
      const knit = (n: number) => Array<string>(n).fill('k');
      const rows = [knit(12 + takes), [...knit(6), 'own-x', ...knit(6)], knit(12 + makes), knit(12 + makes)];
      const made = knitted(ChartSchema.parse({ width: 24, own: [own], rows }));
      expect(
        [...yarnPaths(made.fabric, made.lie).points].every(Number.isFinite),
        `${takes} → ${makes}`,
      ).to.equal(true);
    }
  });

  it('is the same each time, and lies loosely where that is asked', () => {
    const made = knitted(ropes(2, 4, 2, 12));
    const one = yarnPaths(made.fabric, made.lie);
    expect(yarnPaths(knitFabric(ropes(2, 4, 2, 12)), made.lie).points).to.deep.equal(one.points);
    expect(yarnPaths(made.fabric, made.lie, { loosely: true }).points).not.to.deep.equal(one.points);
    expect([...one.points].every(Number.isFinite)).to.equal(true);
  });
});

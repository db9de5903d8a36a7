import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import {
  DOUBLE,
  FLAT,
  crossing,
  drawClosedRopes,
  readPattern,
  simpleCrossing,
  startChart,
  startDesign,
  type Chart,
  type Design,
  type Stitch,
  type Worked,
  type YarnName,
  wayOf,
} from '@cordelina/core';
import { cornicePiece } from './cornice-piece.js';
import { snowline, snowlinePiece } from './snowline.js';
import { underRepair } from './under-repair.js';

/** The invented Moraine Hut winter kit: what a new workroom begins with. */

function chartFrom(file: string, construction: Chart['construction']): Chart {
  const text = readFileSync(fileURLToPath(new URL(file, import.meta.url)), 'utf8');
  const { chart, problems } = readPattern(text, { construction, firstRow: 'RS', school: 'front-back' });
  if (!chart || problems.length) throw new Error(`${file}: ${problems[0]?.message ?? 'no chart'}`);
  return chart;
}

function design(
  id: string,
  title: string,
  notes: string,
  chart: Chart,
  yarn: YarnName,
  second: YarnName = 'peat',
): Design {
  const started = startDesign(id, title, chart);
  const by = 'Moraine Hut studio';
  const materials = wayOf(chart).hasEdges ? MATERIALS.flat : MATERIALS.round;
  const settings = { ...started.settings, cloth: { ...started.settings.cloth, yarn, second } };
  return { ...started, notes, settings, sheet: { ...started.sheet, by, materials } };
}

const MATERIALS = {
  flat: 'Wool of the hut’s own store, a pair of needles of 4 mm, a cable needle, markers.',
  round: 'Wool of the hut’s own store, a set of needles of 3.5 mm, a cable needle, a marker for the round.',
};

/** Two rings of closed ropes, one of each school, between ropes that frame the piece. */
function twoSprings(): Chart {
  const row = (rope: Stitch[]): Stitch[] => [
    'k',
    'p',
    ...rope,
    ...Array<Stitch>(18).fill('p'),
    ...rope,
    'p',
    'k',
  ];
  const plain = row(['k', 'k', 'k', 'k']);
  const crossed = row([simpleCrossing('left', 2, 2)]);
  const frame: Chart = {
    id: 'chart',
    name: '',
    width: 30,
    construction: FLAT.id,
    firstRow: 'RS',
    bothFaces: false,
    ground: 'p',
    rows: Array.from({ length: 36 }, (_, r) => (r % 4 === 2 ? crossed : plain)),
    across: null,
    up: null,
    jogs: {},
    bands: {},
    mirror: null,
    part: 'piece',
    meant: {},
    own: [],
  };
  const ring = { lean: 'right', spread: 2, rest: 1 } as const;
  const upper = drawClosedRopes(frame, { ...ring, row: 12, column: 19, school: 'within' }).chart;
  return drawClosedRopes(upper, { ...ring, row: 2, column: 9, school: 'between' }).chart;
}

/** A panel of two strands for two beds: they cross, part by a needle every second row, and come home. */
function switchbackPanel(): Chart {
  const [WIDTH, OUT] = [14, 4];
  const crossed = simpleCrossing('right', 2, 2);
  const [toLeft, toRight] = [simpleCrossing('left', 2, 1, 'p'), simpleCrossing('right', 2, 1, 'p')];
  const ground = (n: number): Stitch[] => Array<Stitch>(n).fill('p');
  const rope: Stitch[] = ['k', 'k'];
  /** A row in which both strands stand `out` needles from home, or go one on from there, out or in. */
  const row = (out: number, go = 0): Stitch[] => {
    const edge = WIDTH / 2 - 2 - out;
    if (!go) return [...ground(edge), ...rope, ...ground(2 * out), ...rope, ...ground(edge)];
    const [right, left] = go > 0 ? [toRight, toLeft] : [toLeft, toRight];
    const [beside, between] = go > 0 ? [edge - 1, 2 * out] : [edge, 2 * out - 2];
    return [...ground(beside), right, ...ground(between), left, ...ground(beside)];
  };
  const steps = [...Array<number>(OUT).fill(1), 0, ...Array<number>(OUT).fill(-1)];
  let out = 0;
  const rows: Stitch[][] = [row(0), row(0), [...ground(5), crossed, ...ground(5)], row(0)];
  for (const go of steps) {
    rows.push(row(out, go));
    out += go;
    rows.push(row(out));
  }
  return {
    ...startChart({ columns: WIDTH, rows: 1, construction: FLAT.id, ground: 'p' }),
    id: 'panel',
    name: 'Panel for two beds',
    part: 'panel',
    rows,
    up: { setup: 0, closing: 0, times: 5 },
  };
}

/**
 * A braid of three ribbed ropes between two that slant, on garter: the braid is the same from both sides, and what slants to the left
 * on one slants to the right on the other.
 */
function lantern(): Chart {
  const rib: Worked[] = ['k', 'p', 'k', 'p'];
  const [right, left] = [crossing('right', rib, rib), crossing('left', rib, rib)];
  const [SLANT, STEPS] = [10, 3];
  const row = (r: number): Stitch[] => {
    // Garter is knit by hand on both sides.
    const plain: Worked = r % 2 ? 'p' : 'k';
    const ground = (n: number) => Array<Stitch>(n).fill(plain);
    const move = Math.floor((r + 1) / 4);
    const [isOut, at] = [move % (2 * STEPS) < STEPS, move % STEPS];
    const place = 2 * (isOut ? at : STEPS - at);
    const slant: Stitch[] =
      r % 4 === 2
        ? isOut
          ? [...ground(place), crossing('left', rib, ['k', 'k']), ...ground(SLANT - place - 6)]
          : [...ground(place - 2), crossing('right', rib, ['k', 'k']), ...ground(SLANT - place - 4)]
        : [...ground(place), ...rib, ...ground(SLANT - place - 4)];
    const braid: Stitch[] =
      r % 8 === 2 ? [right, ...rib] : r % 8 === 6 ? [...rib, left] : [...rib, ...rib, ...rib];
    return [...ground(3), ...slant, ...ground(2), ...braid, ...ground(2), ...slant, ...ground(3)];
  };
  return {
    ...startChart({ columns: 42, rows: 24, construction: FLAT.id, ground: 'k' }),
    bothFaces: true,
    rows: Array.from({ length: 24 }, (_, r) => row(r)),
    up: { setup: 0, closing: 0, times: 6 },
  };
}

/**
 * A scarf of 8 pairs in two ropes, each of two pairs that show one yarn and two that show the other, crossed every 8 rows: exchanged after
 * the first crossing, home after the second.
 */
function ridge(): Chart {
  const [inA, inB]: Stitch[][] = [
    ['k', 'k', 'p', 'p'],
    ['p', 'p', 'k', 'k'],
  ];
  const first = crossing('left', ['k', 'k'], ['p', 'p']);
  const second = crossing('left', ['p', 'p'], ['k', 'k']);
  const rows = Array.from({ length: 16 }, (_, r): Stitch[] =>
    r === 4
      ? [first, first]
      : r === 12
        ? [second, second]
        : r < 4 || r > 12
          ? [...inA!, ...inA!]
          : [...inB!, ...inB!],
  );
  return {
    ...startChart({ columns: 8, rows: 16, construction: DOUBLE.id, ground: 'p' }),
    rows,
    up: { setup: 0, closing: 0, times: 12 },
  };
}

export function demoDesigns(): Design[] {
  const plaits = snowline();
  const legs = { ...chartFrom('switchback.txt', 'round'), name: 'Legs' };
  const panel = (id: string, name: string): Chart => ({
    ...chartFrom(`cornice-${id}.txt`, 'flat'),
    id,
    name,
    part: 'panel',
  });
  const allOver = { ...chartFrom('cornice.txt', 'flat'), name: 'Back, all over' };
  const charts = [allOver, panel('plait', 'Plait'), panel('diamond', 'Diamond')];
  return [
    design(
      '5c0ee000-0000-4000-8000-000000000001',
      'Scree mittens',
      'Moraine Hut winter kit. Plait on the back of the hand, worked round from the cuff.',
      chartFrom('scree.txt', 'round'),
      'slate',
    ),
    {
      ...design(
        '5c0ee000-0000-4000-8000-000000000002',
        'Cornice vest',
        'Moraine Hut winter kit. The back all over in diamonds between ropes, the front in three panels; the wardens wear it under the shell.',
        allOver,
        'fleece',
      ),
      charts,
      piece: cornicePiece(charts),
    },
    design(
      '5c0ee000-0000-4000-8000-000000000003',
      'Two Springs bottle cover',
      'Moraine Hut winter kit. Two rings of closed ropes: one rises between stitches, one within a stitch.',
      twoSprings(),
      'oatmeal',
    ),
    design(
      '5c0ee000-0000-4000-8000-000000000004',
      'Bivouac bolster',
      'Moraine Hut winter kit. Ropes woven all over, for the bench by the stove; two sides and a button band.',
      chartFrom('bivouac.txt', 'flat'),
      'lichen',
    ),
    {
      ...design(
        '5c0ee000-0000-4000-8000-000000000006',
        'Switchback legwarmers',
        'Moraine Hut winter kit. The rope climbs by the long way round, as the hut path does; the panel is for the machine in the hut’s cellar.',
        legs,
        'rowan',
      ),
      charts: [legs, switchbackPanel()],
    },
    design(
      '5c0ee000-0000-4000-8000-000000000008',
      'Lantern headband',
      'Moraine Hut winter kit. Turned up or down it looks as it should: a braid between two ropes that slant, on both sides.',
      lantern(),
      'weld',
    ),
    design(
      '5c0ee000-0000-4000-8000-000000000009',
      'Ridge scarf',
      'Moraine Hut winter kit. Two yarns at once: what is light on one side is dark on the other, and the ropes trade places on both.',
      ridge(),
      'fleece',
      'slate',
    ),
    {
      ...design(
        '5c0ee000-0000-4000-8000-00000000000a',
        'Snowline cowl',
        'Moraine Hut winter kit. Plaits between two lying braids, a hem below and a cord in the casing above: it stays up in wind.',
        plaits,
        'fleece',
      ),
      piece: snowlinePiece(plaits),
    },
    design(
      '5c0ee000-0000-4000-8000-000000000007',
      'Tarn scarf, under repair',
      'Moraine Hut winter kit. Copied from a pencil chart by candle light: mend it before anyone casts on.',
      underRepair(),
      'woad',
    ),
  ];
}

/** What the benchmark of cloth times inside the browser: bundled by itself, and run in an empty page. */
import {
  boundsOf,
  boxAbout,
  loopsAbout,
  movedLoops,
  carriedOver,
  energyOf,
  fittedView,
  knitFabric,
  newPlate,
  paintCloth,
  paintFinely,
  placeStitches,
  settle,
  settleNear,
  simpleCrossing,
  springsOf,
  startChart,
  unrelaxed,
  YARNS,
  yarnPaths,
  type Box,
  type Chart,
  type KnittedCloth,
  type Stitch,
} from '@cordelina/core';

const [WIDTH, HEIGHT] = [1280, 800];
/** While a cloth settles its pictures are half as sharp. */
const QUICK = { width: WIDTH / 2, height: HEIGHT / 2 };
const RUNS = 9;

/** Ropes all over, leaning otherwise for each seed, so that nothing worked out of one holds of another. */
function ropes(seed: number): Chart {
  const rows: Stitch[][] = Array.from({ length: 100 }, (_, r) => {
    const row: Stitch[] = ['p', 'p'];
    for (let panel = 0; panel < 12; panel++) {
      if (r % 6 === 3) row.push(simpleCrossing((seed >> panel) & 1 ? 'left' : 'right', 3, 3));
      else for (let i = 0; i < 6; i++) row.push('k');
      row.push('p', 'p');
    }
    while (row.length < 100 && row.reduce((n, s) => n + (typeof s === 'string' ? 1 : 6), 0) < 100)
      row.push('p');
    return row;
  });
  return { ...startChart({ columns: 100, rows: 100, construction: 'flat', ground: 'p' }), rows };
}

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

function time(work: (run: number) => void, runs = RUNS): number {
  return median(
    Array.from({ length: runs }, (_, run) => {
      const start = performance.now();
      work(run);
      return performance.now() - start;
    }),
  );
}

export function benchCloth(): Record<string, number> {
  const charts = Array.from({ length: RUNS + 3 }, (_, seed) => ropes(seed * 37 + 5));
  const picture = (cloth: KnittedCloth, { width, height }: typeof QUICK, box?: Box) => {
    const paths = yarnPaths(cloth.fabric, cloth.lie, { loosely: true });
    const plate = newPlate(width, height);
    paintCloth(plate, paths, fittedView(boundsOf(cloth), plate), YARNS.fleece, box);
    return plate;
  };
  const first = (chart: Chart, size: typeof QUICK) => {
    const fabric = knitFabric(chart);
    return picture({ fabric, lie: unrelaxed(fabric) }, size);
  };
  // As in the middle of a session: what is measured has run before, on another chart.
  for (let i = 0; i < 9; i++) first(charts[RUNS + (i % 3)]!, QUICK);
  const quick = time((run) => first(charts[run]!, QUICK));
  const whole = time((run) => first(charts[run]!, { width: WIDTH, height: HEIGHT }), 5);

  // As many plain lines: one a loop, through the points of its yarn.
  const fabric = knitFabric(charts[0]!);
  const flat = { fabric, lie: unrelaxed(fabric) };
  const { points, loop } = yarnPaths(fabric, flat.lie, { loosely: true });
  const view = fittedView(boundsOf(flat), { width: WIDTH, height: HEIGHT });
  const ctx = new OffscreenCanvas(WIDTH, HEIGHT).getContext('2d', { willReadFrequently: true })!;
  ctx.lineWidth = 0.49 * view.scale;
  ctx.lineCap = ctx.lineJoin = 'round';
  const strokes = time(() => {
    ctx.clearRect(0, 0, WIDTH, HEIGHT);
    for (let i = 0; i < loop.length;) {
      ctx.strokeStyle = i % 2 ? '#e8dfcc' : '#cbbfa6';
      ctx.beginPath();
      const own = loop[i];
      for (; i < loop.length && loop[i] === own; i++)
        ctx.lineTo(
          WIDTH / 2 + (points[3 * i]! - view.x) * view.scale,
          HEIGHT / 2 - (points[3 * i + 1]! - view.y) * view.scale,
        );
      ctx.stroke();
    }
    ctx.getImageData(0, 0, 1, 1);
  }, 5);

  // At rest, and after one edit.
  const rest = time((run) => {
    const made = knitFabric(charts[run]!);
    for (const _ of settle({ fabric: made, lie: unrelaxed(made) }));
  }, 5);
  const springs = springsOf(fabric);
  const gradient = new Float64Array(flat.lie.length);
  const energies = time(() => {
    for (let i = 0; i < 400; i++) energyOf(springs, flat.lie, gradient);
  }, 3);
  for (const _ of settle(flat));
  const edits = Array.from(
    { length: RUNS },
    (_, i) => placeStitches(charts[0]!, 40 + i + (i > 4 ? 1 : 0), 34, [simpleCrossing('right', 3, 3)]).chart,
  );
  const near = (edited: Chart): KnittedCloth => {
    const made = knitFabric(edited);
    const { lie, near: moving } = carriedOver(flat, made);
    const cloth = { fabric: made, lie };
    for (const _ of settleNear(cloth, moving!)) continue;
    return cloth;
  };
  const warm = Array.from(
    { length: 12 },
    (_, i) =>
      placeStitches(charts[0]!, 10 + i + (i > 4 ? 1 : 0) + (i > 9 ? 1 : 0), 34, [
        simpleCrossing('right', 3, 3),
      ]).chart,
  );
  for (const edited of warm) near(edited);
  const edit = time((run) => void near(edits[run]!));
  const clothsAfter = edits.map(near);
  const moved = clothsAfter.map((cloth) => movedLoops(flat, cloth)!);
  const plate = picture(flat, QUICK);
  const quickView = fittedView(boundsOf(flat), plate);
  const repaint = (run: number) => {
    const { fabric: made, lie } = clothsAfter[run]!;
    // As the worker paints it: what has moved, and the yarn about it.
    const { chart } = made;
    knitFabric(chart);
    const box = boxAbout(made, [flat.lie, lie], moved[run]!, quickView)!;
    const only = loopsAbout({ fabric: made, lie }, quickView, box);
    paintCloth(plate, yarnPaths(made, lie, { only, loosely: true }), quickView, YARNS.fleece, box);
  };
  for (let i = 0; i < 2 * RUNS; i++) repaint(i % RUNS);
  const update = time(repaint);

  // The fine picture of all of it, and of what is seen when it is gone near to, whose yarn lies against yarn first.
  const size = { width: WIDTH, height: HEIGHT };
  const fine = time(() => {
    const paths = yarnPaths(fabric, flat.lie, { loosely: true });
    paintFinely(newPlate(WIDTH, HEIGHT), paths, fittedView(boundsOf(flat), size), YARNS.fleece);
  }, 3);
  const close = { ...fittedView(boundsOf(flat), size), scale: 24 };
  const seen = loopsAbout(flat, close, { left: 0, top: 0, right: WIDTH, bottom: HEIGHT });
  const pressed = time(() => void yarnPaths(fabric, flat.lie, { only: seen }), 3);
  const paths = yarnPaths(fabric, flat.lie, { only: seen });
  const closeFine = time(() => paintFinely(newPlate(WIDTH, HEIGHT), paths, close, YARNS.fleece), 3);
  return { quick, whole, strokes, rest, energies, edit, update, fine, pressed, closeFine };
}

Object.assign(globalThis, { benchCloth });

import { expect } from 'chai';
import fc from 'fast-check';
import {
  bookOf,
  crossing,
  findCorners,
  findGrid,
  Guesser,
  inkOf,
  isField,
  lightOf,
  planeOf,
  snapped,
  squaredUp,
  startChart,
  stitchId,
  tracedRow,
  tracingLayer,
  type Corners,
  type Shown,
  type Stitch,
} from '../src/index.js';
import { MARKS, photographed, type Photo } from './photographed.js';

const box = (x: number, y: number, width: number, height: number): Corners => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];

/** What the letters of the test's pictures stand for. */
const STITCHES: Record<string, Stitch> = {
  k: 'k',
  p: 'p',
  b: 'ptbl',
  i: 'ktbl',
  r: 'k2tog',
  l: 'ssk',
  o: 'yo',
  L: crossing('left', ['k', 'k'], ['k', 'k']),
  R: crossing('right', ['k', 'k'], ['k', 'k']),
};

const inkIn = (photo: Photo, seed = 1) =>
  inkOf(lightOf(photographed(photo, seed), photo.size.width, photo.size.height));

/** The stitches of a row of letters with the columns they begin at. */
function placed(letters: string, row: number): Shown[] {
  let column = 0;
  return [...letters].map((letter) => {
    const at = column;
    column += MARKS[letter]!.span;
    return { row, column: at, stitch: STITCHES[letter]! };
  });
}

const far = (a: { x: number; y: number }, b: { x: number; y: number }) => Math.hypot(a.x - b.x, a.y - b.y);

const ROWS = [
  'ppkkkkppkkkkpp',
  'ppLppLpp',
  'ppkkkkppkkkkpp',
  'pprkklppRpp',
  'ppiiiippobbopp',
  'ppkkkkppkkkkpp',
  'ppRppLpp',
  'ppkkkkppkkkkpp',
  'pploorppLpp',
  'ppkkkkppkkkkpp',
];
const wide = (row: string) => [...row].reduce((sum, letter) => sum + MARKS[letter]!.span, 0);
const GROUND = startChart({ columns: 14, rows: ROWS.length, construction: 'flat', ground: 'p' });
const GRID = { columns: 14, rows: ROWS.length };

/** Photos of the same chart, as it may come to the bench. */
const PHOTOS: Record<string, Photo> = {
  'a scan': { grid: GRID, rows: ROWS, corners: box(60, 40, 560, 400), size: { width: 700, height: 500 } },
  'a scan with pale lines, each fifth heavy': {
    grid: GRID,
    rows: ROWS,
    corners: box(50.5, 61.2, 420, 300),
    size: { width: 540, height: 420 },
    line: 55,
    heavy: 5,
    noise: 8,
  },
  'a photo from the side, in uneven light, on a dark table': {
    grid: GRID,
    rows: ROWS,
    corners: [
      { x: 150, y: 120 },
      { x: 905, y: 190 },
      { x: 950, y: 690 },
      { x: 95, y: 640 },
    ],
    size: { width: 1100, height: 800 },
    shadow: 90,
    noise: 14,
    table: 30,
    line: 110,
  },
  'a page turned a little, crossings without lines inside': {
    grid: GRID,
    rows: ROWS,
    corners: [
      { x: 90, y: 60 },
      { x: 680, y: 82 },
      { x: 664, y: 510 },
      { x: 74, y: 488 },
    ],
    size: { width: 760, height: 580 },
    through: false,
    shadow: 40,
    noise: 10,
  },
};

describe('tracing a picture of a chart', () => {
  it('is tried with rows that fill their grid', () => {
    for (const row of ROWS) expect(wide(row), row).to.equal(GRID.columns);
  });

  it('a field goes from corner to corner, and straight lines stay straight', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.double({ min: -40, max: 40, noNaN: true }),
            fc.double({ min: -40, max: 40, noNaN: true }),
          ),
          {
            minLength: 4,
            maxLength: 4,
          },
        ),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (off, t) => {
          const corners = box(100, 100, 300, 200).map(({ x, y }, i) => ({
            x: x + off[i]![0],
            y: y + off[i]![1],
          })) as unknown as Corners;
          const plane = planeOf(corners);
          [plane(0, 0), plane(1, 0), plane(1, 1), plane(0, 1)].forEach((at, i) =>
            expect(far(at, corners[i]!)).to.be.below(1e-6),
          );
          // Three points of one line of the grid lie on one line of the picture.
          const [p, q, r] = [plane(0, t), plane(0.5, t), plane(1, t)];
          const off2 = (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
          expect(Math.abs(off2) / far(p, r)).to.be.below(1e-6);
        },
      ),
    );
    expect(isField(box(0, 0, 100, 50))).to.equal(true);
    const [a, b, c, d] = box(0, 0, 100, 50);
    expect(isField([a, c, b, d])).to.equal(false);
    expect(isField([a, a, c, d])).to.equal(false);
  });

  for (const [name, photo] of Object.entries(PHOTOS)) {
    it(`finds corners, columns and rows: ${name}`, () => {
      const ink = inkIn(photo);
      const found = findCorners(ink)!;
      const cell = far(photo.corners[0], photo.corners[1]) / GRID.columns;
      found.forEach((at, i) => expect(far(at, photo.corners[i]!), `corner ${i}`).to.be.below(cell / 3));
      const grid = findGrid(ink, found);
      expect(grid).to.deep.equal(GRID);
      // And lies on the lines by a tenth of a cell.
      snapped(ink, found, GRID).forEach((at, i) =>
        expect(far(at, photo.corners[i]!), `corner ${i}`).to.be.below(cell / 8),
      );
    });

    it(`tells all cells once each mark is shown, and is sure of most: ${name}`, () => {
      const ink = inkIn(photo);
      const squared = squaredUp(ink, snapped(ink, photo.corners, GRID), GRID);
      // Each mark once, where it first stands.
      const all = ROWS.flatMap((row, r) => placed(row, r));
      const shown = Object.values(STITCHES).map((stitch) => all.find((one) => one.stitch === stitch)!);
      const guesser = new Guesser(squared, shown, bookOf(GROUND));
      let [sure, many] = [0, 0];
      ROWS.forEach((row, r) => {
        const guesses = guesser.row(r);
        expect(
          guesses.map(({ column, stitch }) => ({ row: r, column, stitch })),
          `row ${r + 1}`,
        ).to.deep.equal(placed(row, r));
        sure += guesses.filter((g) => g.isSure).length;
        many += guesses.length;
      });
      expect(sure / many).to.be.above(0.9);
    });
  }

  it('never names what was not shown: a mark it does not know stays open', () => {
    const photo = PHOTOS['a scan']!;
    const squared = squaredUp(inkIn(photo), photo.corners, GRID);
    const all = ROWS.flatMap((row, r) => placed(row, r));
    const shown = ['k', 'p'].map((letter) => all.find((one) => one.stitch === STITCHES[letter])!);
    const guesser = new Guesser(squared, shown, bookOf(GROUND));
    ROWS.forEach((row, r) => {
      const known = new Map(placed(row, r).map(({ column, stitch }) => [column, stitch]));
      for (const { column, stitch } of guesser.row(r))
        if (stitch !== null) expect(stitch, `row ${r + 1}, column ${column + 1}`).to.equal(known.get(column));
    });
    // With nothing shown nothing is known.
    const none = new Guesser(squared, [], bookOf(GROUND));
    expect(none.row(0).every(({ stitch, isSure }) => stitch === null && !isSure)).to.equal(true);
  });

  it('is sure of nothing but what was shown, whatever was', () => {
    const letters = Object.keys(STITCHES);
    const all = ROWS.flatMap((row, r) => placed(row, r));
    const sheets = ['a scan', 'a page turned a little, crossings without lines inside'].map((name) => {
      const photo = PHOTOS[name]!;
      const ink = inkIn(photo);
      return squaredUp(ink, snapped(ink, photo.corners, GRID), GRID);
    });
    fc.assert(
      fc.property(
        fc.subarray(letters, { minLength: 1, maxLength: letters.length - 1 }),
        fc.constantFrom(...sheets),
        (known, sheet) => {
          const shown = known.map((letter) => all.find((one) => one.stitch === STITCHES[letter])!);
          const guesser = new Guesser(sheet, shown, bookOf(GROUND));
          ROWS.forEach((row, r) => {
            const is = new Map(placed(row, r).map(({ column, stitch }) => [column, stitch]));
            for (const { column, stitch, isSure } of guesser.row(r))
              if (isSure) expect(stitch, `row ${r + 1}, column ${column + 1}`).to.equal(is.get(column));
          });
        },
      ),
      { numRuns: 25 },
    );
  });

  it('guesses the mirror image of what was shown, and is not sure of it', () => {
    const photo = PHOTOS['a scan']!;
    const all = ROWS.flatMap((row, r) => placed(row, r));
    const shown = ['k', 'p', 'L'].map((letter) => all.find((one) => one.stitch === STITCHES[letter])!);
    const guesses = new Guesser(squaredUp(inkIn(photo), photo.corners, GRID), shown, bookOf(GROUND)).row(6);
    // ppRppLpp: the first was never shown.
    expect(guesses.map(({ stitch }) => stitch && stitchId(stitch))).to.deep.equal(
      placed('ppRppLpp', 6).map(({ stitch }) => stitchId(stitch)),
    );
    expect(guesses.map(({ isSure }) => isSure)).to.deep.equal([
      true,
      true,
      false,
      true,
      true,
      true,
      true,
      true,
    ]);
  });

  it('finds grids of any size, in any corner of a page', () => {
    fc.assert(
      fc.property(
        fc.record({
          columns: fc.integer({ min: 4, max: 40 }),
          rows: fc.integer({ min: 4, max: 40 }),
          cell: fc.integer({ min: 18, max: 26 }),
          x: fc.integer({ min: 15, max: 60 }),
          y: fc.integer({ min: 15, max: 60 }),
          lean: fc.double({ min: -0.05, max: 0.05, noNaN: true }),
          heavy: fc.constantFrom(0, 5, 10),
          marks: fc.constantFrom('k', 'p', 'b', 'i'),
          seed: fc.integer({ min: 1, max: 1000 }),
        }),
        ({ columns, rows, cell, x, y, lean, heavy, marks, seed }) => {
          const [w, h] = [columns * cell, rows * cell];
          const corners: Corners = [
            { x: x + 20, y: y + 20 },
            { x: x + 20 + w, y: y + 20 + lean * w },
            { x: x + 20 + w - lean * h, y: y + 20 + lean * w + h },
            { x: x + 20 - lean * h, y: y + 20 + h },
          ];
          const size = { width: Math.ceil(x + w + 80 + h * 0.06), height: Math.ceil(y + h + 80 + w * 0.06) };
          const photo: Photo = {
            grid: { columns, rows },
            rows: Array.from({ length: rows }, () => marks.repeat(columns)),
            corners: corners.map((at) => ({ x: at.x, y: at.y + 0.05 * w })) as unknown as Corners,
            size: { width: size.width, height: Math.ceil(size.height + 0.05 * w) },
            heavy,
            noise: 8,
          };
          const ink = inkIn(photo, seed);
          const found = findCorners(ink);
          expect(found).not.to.equal(null);
          expect(findGrid(ink, found!)).to.deep.equal({ columns, rows });
        },
      ),
      { numRuns: 6 },
    );
  });

  it('finds nothing where there is nothing', () => {
    const { width, height } = { width: 200, height: 160 };
    const blank = inkOf(lightOf(new Uint8ClampedArray(width * height * 4).fill(255), width, height));
    expect(findCorners(blank)).to.equal(null);
    expect(findGrid(blank, box(10, 10, 150, 120))).to.equal(null);
    // A frame, and nothing in it.
    const framed = photographed({
      grid: { columns: 1, rows: 1 },
      rows: ['k'],
      corners: box(20, 20, 150, 120),
      size: { width, height },
    });
    expect(findCorners(inkOf(lightOf(framed, width, height)))).to.equal(null);
    expect(
      findGrid(blank, [box(10, 10, 150, 120)[0], ...box(10, 10, 150, 120).slice(0, 3)] as unknown as Corners),
    ).to.equal(null);
  });

  it('comes to an end on patterns that are no grid', () => {
    const [width, height] = [1200, 900];
    const patterns: ((x: number, y: number) => number)[] = [
      (x) => (x % 4 < 2 ? 0 : 255),
      (x, y) => (((x >> 1) + (y >> 1)) % 2) * 255,
      (x, y) => Math.imul(x * 7919 + y * 104729, 2654435761) >>> 24,
    ];
    for (const at of patterns) {
      const rgba = new Uint8ClampedArray(width * height * 4).fill(255);
      for (let i = 0; i < width * height; i++)
        rgba.fill(at(i % width, Math.floor(i / width)), 4 * i, 4 * i + 3);
      const ink = inkOf(lightOf(rgba, width, height));
      findCorners(ink);
      const grid = findGrid(ink, box(4, 4, width - 8, height - 8));
      if (grid) expect(grid.columns * grid.rows).to.be.at.most(600 * 1200);
    }
  }).timeout(60_000);

  it('sets what is guessed into the row, and leaves open cells as they are', () => {
    const chart = startChart({ columns: 8, rows: 3, construction: 'flat', ground: 'p' });
    const rope = STITCHES['L']!;
    const { chart: now, steps } = tracedRow(chart, 1, [
      { column: 0, span: 1, stitch: 'k', isSure: true },
      { column: 1, span: 1, stitch: null, isSure: false },
      { column: 2, span: 4, stitch: rope, isSure: true },
      { column: 6, span: 1, stitch: null, isSure: false },
      { column: 7, span: 1, stitch: 'k', isSure: false },
    ]);
    expect(now.rows[1]).to.deep.equal(['k', 'p', rope, 'p', 'k']);
    expect(now.rows[0]).to.equal(chart.rows[0]);
    expect(steps.length).to.be.above(0);
    expect(tracedRow(chart, 0, [{ column: 0, span: 8, stitch: null, isSure: false }]).steps).to.deep.equal(
      [],
    );
  });

  it('marks every guess, and asks about each that is not sure, and each cell of which nothing is known', () => {
    const guesses = [
      { column: 0, span: 1, stitch: 'k', isSure: true },
      { column: 1, span: 4, stitch: STITCHES['L']!, isSure: false },
      { column: 5, span: 1, stitch: null, isSure: false },
      { column: 6, span: 1, stitch: 'p', isSure: true },
    ];
    const cells = { shape: 'cells', row: 3 };
    expect(tracingLayer([{ row: 3, guesses }]).marks).to.deep.equal([
      { ...cells, from: 0, to: 4, look: 'veil', tone: 'guess' },
      { ...cells, from: 0, to: 4, look: 'dashes', tone: 'guess' },
      { ...cells, from: 6, to: 6, look: 'veil', tone: 'guess' },
      { ...cells, from: 6, to: 6, look: 'dashes', tone: 'guess' },
      { ...cells, from: 1, to: 4, look: 'dashes', tone: 'caution' },
      { shape: 'asked', row: 3, column: 1, tone: 'caution' },
      { shape: 'asked', row: 3, column: 5, tone: 'caution' },
    ]);
  });
});

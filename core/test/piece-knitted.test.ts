import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyStep,
  assemble,
  ChartSchema,
  checkPiece,
  expandPiece,
  NO_STITCH,
  PieceFault,
  PieceSchema,
  printedOf,
  SettingsSchema,
  sheetOf,
  sheetText,
  simpleCrossing,
  sideOf,
  writeDesign,
  type Design,
  type Piece,
  type Settings,
} from '../src/index.js';
import { anyUnbanded, anyStyle, anySingleWay, THOROUGH } from './arbitrary.js';
import { expectRow } from './knitted.js';
import { knitPiece } from './piece-simulator.js';
import { design, piece } from './pieces.js';

/** Knits every size of a piece from its sheet and holds it against the piece, row by row. Whether the sheet is sealed. */
function knitAll(design: Design, piece: Piece, settings: Settings): boolean {
  const written = writeDesign(design.charts, piece, settings);
  if (!written.checked) return false;
  const text = sheetText(sheetOf({ ...design, piece, settings }, written, true));
  const names = {
    sizes: piece.sizes.map((s) => s.name),
    charts: printedOf({ charts: design.charts, piece }, written).map(({ name }) => name),
    seen: sideOf(piece, 0),
  };
  piece.sizes.forEach((size, i) => {
    const worked = expandPiece(assemble(design, piece, size).chart);
    const { rows: knitted, bands } = knitPiece(text, i, names);
    const { bottom, top } = piece.border;
    const told = [bottom, top].filter((border) => border?.band).length;
    expect(bands, 'bands').to.equal(told);
    expect(knitted.length, `${text}\nrows of ${size.name}`).to.equal(worked.length);
    knitted.forEach((row, r) =>
      expectRow(
        row,
        worked[r]!.stitches.filter((s) => s !== NO_STITCH),
        settings.hand === 'left-same-fabric',
      ),
    );
  });
  return true;
}

describe('a literal knitter who has the printed sheet of a piece', () => {
  const sizes = [
    { id: 's', name: 'S', length: 300_000 },
    { id: 'm', name: 'M', length: 360_000, counts: { b: 9, f: 9 } },
    { id: 'l', name: 'L', length: 420_000, counts: { b: 12, f: 12 } },
  ];

  it('knits it in each of its sizes, borders, markers, panels and all', () => {
    for (const more of [
      {},
      { markers: false },
      { length: { way: 'centred', lead: null } },
      { length: { way: 'part', lead: null } },
      {
        border: {
          bottom: { kind: 'runs-on', rows: 5 },
          top: { kind: 'hem', rows: 4, fold: 'picot', cord: true },
        },
      },
      { border: { bottom: { kind: 'garter', rows: 7, changes: 'even' }, top: null } },
      { firstRow: 'WS', parts: piece().parts.map((p) => (p.kind === 'panel' ? { ...p, starts: 2 } : p)) },
    ])
      expect(knitAll(design, piece({ sizes, ...more }), design.settings), JSON.stringify(more)).to.be.true;
  });

  it('knits it in the words of any manner and with either hand', () => {
    fc.assert(
      fc.property(
        anyStyle(),
        fc.constantFrom('right', 'left-same-fabric'),
        fc.constantFrom('rib', 'moss', 'hem', 'runs-on'),
        (style, hand, kind) => {
          const settings = SettingsSchema.parse({ style, hand });
          const border = { bottom: { kind, rows: 4 }, top: { kind, rows: 3 } };
          expect(knitAll(design, piece({ sizes, border }), settings)).to.be.true;
        },
      ),
      { numRuns: 8 * THOROUGH },
    );
  });

  it('knits a tube with hem, bands and casing in each of its sizes', () => {
    const rope = simpleCrossing('right', 3, 3);
    const row = ['p', 'p', 'k', 'k', 'k', 'k', 'k', 'k', 'p', 'p'];
    const ropes = ChartSchema.parse({
      id: 'r',
      name: 'Ropes',
      width: 10,
      construction: 'round',
      across: { before: 0, after: 0, times: 2 },
      rows: [row, ['p', 'p', rope, 'p', 'p'], row, row],
      up: { setup: 0, closing: 0, times: 1 },
    });
    const band = { every: 5, rounds: 3 };
    const hem = { kind: 'hem', rows: 3, changes: 'none', join: 'joined' };
    const set = (more: object) =>
      PieceSchema.parse({
        construction: 'round',
        parts: [
          { id: 'f', kind: 'filling', chart: 'r', repeats: 3 },
          { id: 'g', kind: 'ground', cloth: 'reverse', stitches: 4 },
        ],
        border: { bottom: { ...hem, band }, top: { ...hem, cord: true, eyelets: 'ends', band } },
        sizes: [
          { id: 's', name: 'S', length: 200_000 },
          { id: 'm', name: 'M', length: 300_000, counts: { f: 5 } },
        ],
        gauge: {
          plain: { stitches: { count: 20, over: 100_000 }, rows: { count: 28, over: 100_000 }, swatch: null },
        },
        ...more,
      });
    const of = { ...design, charts: [ropes, { ...ropes, id: 'o', name: 'Others' }] };
    expect(checkPiece(of, set({}), 'cm').filter(({ level }) => level === 'error')).to.deep.equal([]);
    expect(knitAll(of, set({}), design.settings)).to.be.true;
    expect(writeDesign(of.charts, set({ words: 'rows' }), design.settings).checked).to.equal(true);
    const written = writeDesign(of.charts, set({}), design.settings);
    const sheet = sheetText(sheetOf({ ...of, piece: set({}), settings: design.settings }, written, true));
    expect(sheet).to.include('Band before round 1: over 34 (54) sts, a multiple of 5 less 1.');
    expect(sheet).to.include('Cast them on provisionally: the hem takes their loops up again.');
    expect(sheet).to.include('In round 8 knit each stitch together with its loop of the cast-on');
    expect(sheet).to.match(
      /On a second needle pick up a loop behind each stitch of round 1 of it: 34 \(54\) loops/,
    );
    expect(sheet).to.match(/Cord of 4 stitches, [\d.]+ \([\d.]+\) cm long, 30 cm of it to tie\./);
    // Worked over and over, the rows of the panels must not take the band with them.
    const { chart } = assemble(of, set({}), set({}).sizes[1]!);
    const placed = expandPiece(chart).flatMap(({ band: is }, i) => (is ? [i] : []));
    expect(placed).to.have.length(2);

    const uneven = { ...set({}), parts: set({}).parts.slice(0, 1) };
    const [wrong] = checkPiece(of, uneven, 'cm').filter(({ id }) => id === 'band-divides');
    expect(wrong!.message).to.match(/The band above the border crosses every 5 stitches: 30 and/);
    expect(writeDesign(of.charts, uneven, design.settings).checked).to.equal(false);
    const flat = { ...set({}), construction: 'flat' as const };
    const [never] = checkPiece(of, flat, 'cm').filter(({ id }) => id === 'band-needs-round');
    const mended = never!.fix!.steps.reduce(applyStep, { ...of, piece: flat }).piece!;
    expect(mended.border.bottom!.band).to.equal(null);
  });

  it('knits any charts in any piece that is sealed', () => {
    let sealed = 0;
    const anyPart = fc.record({
      kind: fc.constantFrom('ground', 'ground', 'panel', 'panel', 'filling', 'marker'),
      chart: fc.constantFrom('a', 'b'),
      n: fc.integer({ min: 1, max: 9 }),
      isMirrored: fc.boolean(),
      cloth: fc.constantFrom('reverse', 'moss', 'rib', 'garter', 'double-moss'),
    });
    fc.assert(
      fc.property(
        fc.tuple(anyUnbanded(), anyUnbanded()),
        fc.array(anyPart, { minLength: 1, maxLength: 6 }),
        anyStyle(),
        fc.record({
          construction: anySingleWay(),
          markers: fc.boolean(),
          kind: fc.constantFrom('rib', 'runs-on', 'hem', 'garter', null),
          changes: fc.constantFrom('even', 'ropes', 'none'),
          hand: fc.constantFrom('right', 'left-same-fabric'),
        }),
        ([a, b], parts, style, { construction, markers, kind, changes, hand }) => {
          const charts = [
            { ...a, id: 'a', name: 'Rope' },
            { ...b, id: 'b', name: 'Wave of two' },
          ];
          const border = kind && { kind, rows: 3, changes };
          const set = PieceSchema.parse({
            construction,
            markers,
            border: { bottom: border, top: border },
            parts: parts.map(({ kind: of, chart, n, isMirrored, cloth }, i) => ({
              id: `p${i}`,
              kind: of,
              ...(of === 'ground' && { stitches: n, cloth }),
              ...(of === 'filling' && { chart, repeats: 2, isMirrored }),
              ...(of === 'panel' && { chart, isMirrored }),
            })),
            sizes: [
              { id: 's', name: 'S' },
              { id: 'm', name: 'M', counts: Object.fromEntries(parts.map((p, i) => [`p${i}`, p.n + 1])) },
            ],
          });
          const settings = SettingsSchema.parse({ style, hand });
          try {
            if (checkPiece({ charts }, set, 'cm').some((f) => f.level === 'error')) return;
            if (knitAll({ ...design, charts }, set, settings)) sealed++;
          } catch (error) {
            if (!(error instanceof PieceFault)) throw error;
          }
        },
      ),
      { numRuns: 50 * THOROUGH },
    );
    expect(sealed).to.be.greaterThan(3 * THOROUGH);
  });
});

import { expect } from 'chai';
import fc from 'fast-check';
import {
  assemble,
  checkPiece,
  expandPiece,
  NO_STITCH,
  PieceFault,
  PieceSchema,
  printedOf,
  SettingsSchema,
  sheetOf,
  sheetText,
  sideOf,
  writeDesign,
  type Design,
  type Piece,
  type Settings,
} from '../src/index.js';
import { anyChart, anyStyle, anySingleWay, THOROUGH } from './arbitrary.js';
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
    const knitted = knitPiece(text, i, names);
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
        fc.tuple(anyChart(), anyChart()),
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
      { numRuns: 80 * THOROUGH },
    );
    expect(sealed).to.be.greaterThan(6 * THOROUGH);
  });
});

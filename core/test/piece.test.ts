import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyChange,
  assemble,
  bookOf,
  checkChart,
  changePart,
  checkPiece,
  expandPiece,
  fitPiece,
  headChange,
  heightOf,
  invertSteps,
  knitFabric,
  layOut,
  restingWidth,
  RIGHT_TO,
  lengthsOf,
  markersOf,
  ofSize,
  PieceFault,
  PieceSchema,
  proportionsOf,
  readDesign,
  SettingsSchema,
  sheetOf,
  sheetText,
  spanOf,
  withCount,
  withFit,
  writeAndProve,
  writeDesign,
  type Piece,
  type PieceWords,
  takesTurns,
  wayOf,
} from '../src/index.js';
import { settled } from '../src/fabric/settle.js';
import { applySteps } from '../src/chart/steps.js';
import { FORMAT } from '../src/chart/schema.js';
import { freshNeedle, workStitches } from '../src/needle/needle.js';
import { inSizes } from '../src/piece/in-sizes.js';
import { measuresText } from '../src/piece/words.js';
import { loopsWorked } from '../src/piece/yarn.js';
import { mirrorChart } from '../src/chart/edits.js';
import { writePiece } from '../src/sheet/write-design.js';
import { proveRowsText } from '../src/words/proof/prove.js';
import { PieceMisread, proveAssembled, provePanelRows, type PrintedChart } from '../src/piece/proof.js';
import { bodyLinesOf, tellingOf } from '../src/piece/told-rows.js';
import { chartsPrinted } from '../src/piece/standing.js';
import { ABBREVIATED } from '../src/words/manner.js';
import { rowBodyText, rowHeadText } from '../src/words/render.js';
import { definedCrossings } from '../src/words/reader/define.js';
import { readLines } from '../src/words/reader/pattern-lines.js';
import { anyUnbanded, anySingleWay, anyStyle, anyWay, THOROUGH } from './arbitrary.js';
import { diamond, design, piece, plain, rope, wave } from './pieces.js';

const settings = SettingsSchema.parse({});
const [small] = piece().sizes as [Piece['sizes'][number]];

/** The printed lines of a section that hold for one size, in that size's own numbers. */
const linesOf = ({ sections, sizes }: PieceWords, heading: string, size: number): string[] =>
  sections
    .find((s) => s.heading === heading)!
    .rows.filter((r) => r.sizes === null || r.sizes.includes(sizes[size]!.name))
    .map(({ head, words, sizes: held }) =>
      held ? `${head}: ${words}` : ofSize(`${head}: ${words}`, size, sizes.length),
    );

describe('a piece set out from its charts', () => {
  it('has the stitches of its parts on the needle, and each row works that of its panel', () => {
    const made = assemble(design, piece(), small);
    expect(made.laid.stitches).to.equal(1 + 7 + 8 + 12 + 8 + 7 + 1);
    expect(made.laid.parts.map((p) => p.before)).to.deep.equal([0, 1, 8, 16, 28, 36, 43]);
    expect(markersOf(made.laid, piece())).to.deep.equal([8, 16, 28, 36]);
    expect(checkChart(made.chart).filter((f) => f.level === 'error')).to.deep.equal([]);
    // The rows of each panel over and over, found by working its chart by itself and not by the piece.
    const passes = Math.ceil(made.body / 4);
    const ropes = expandPiece({ ...rope, up: { setup: 0, closing: 0, times: passes } });
    const mirrored = expandPiece({ ...mirrorChart(rope), up: { setup: 0, closing: 0, times: passes } });
    const diamonds = expandPiece({ ...diamond, up: { setup: 0, closing: 0, times: passes } });
    const body = expandPiece(made.chart).slice(made.below, made.below + made.body);
    expect(body).to.have.length(made.body);
    body.forEach(({ stitches, side }, i) => {
      const edge = side === 'RS' ? 'k' : 'p';
      const purls = Array<string>(7).fill('p');
      expect(stitches).to.deep.equal([
        edge,
        ...purls,
        ...ropes[i]!.stitches,
        ...diamonds[i]!.stitches,
        ...mirrored[i]!.stitches,
        ...purls,
        edge,
      ]);
    });
  });

  it('is put together in every cloth, edge and border so that no row loses a stitch', () => {
    const cloths = ['reverse', 'stocking', 'garter', 'moss', 'double-moss', 'rib', 'wide-rib'] as const;
    const borders = [...cloths, 'runs-on', 'hem'] as const;
    fc.assert(
      fc.property(
        fc.record({
          cloth: fc.constantFrom(...cloths),
          style: fc.constantFrom('stocking', 'garter', 'slipped'),
          kind: fc.constantFrom(...borders),
          changes: fc.constantFrom('none', 'even', 'ropes'),
          fold: fc.constantFrom('ridge', 'picot'),
          cord: fc.boolean(),
          rows: fc.integer({ min: 1, max: 9 }),
          gap: fc.integer({ min: 4, max: 15 }),
          starts: fc.integer({ min: 0, max: 3 }),
          firstRow: fc.constantFrom('RS', 'WS'),
          way: anySingleWay().map((id) => wayOf({ construction: id })),
        }),
        ({ cloth, style, gap, starts, firstRow, way, ...border }) => {
          const sides = !takesTurns(way) || firstRow === 'RS' ? 0 : 1;
          const made = assemble(
            design,
            PieceSchema.parse({
              construction: way.id,
              firstRow: way.sideOf(0, firstRow),
              gauge: { plain },
              parts: [
                ...(!way.hasEdges ? [] : [{ id: 'a', kind: 'selvage', style, stitches: 2 }]),
                { id: 'b', kind: 'ground', cloth, stitches: gap },
                { id: 'c', kind: 'panel', chart: 'rope', starts: 1 + 2 * starts + sides },
                { id: 'd', kind: 'filling', chart: 'wave', repeats: 3, starts: 1 + sides },
                ...(!way.hasEdges ? [] : [{ id: 'e', kind: 'selvage', style, stitches: 2 }]),
              ],
              border: { bottom: border, top: border },
              sizes: [{ id: 's', name: 'S', length: 300_000 }],
            }),
            { ...small, length: 300_000, counts: {} },
          );
          expect(checkChart(made.chart).filter((f) => f.level === 'error')).to.deep.equal([]);
          // Worked by hand from the cast-on, the needle is what each row wants.
          const book = bookOf(made.chart);
          let needle = freshNeedle(made.castOn);
          for (const { stitches } of expandPiece(made.chart)) {
            const work = workStitches(stitches, needle, book);
            expect(work.lacks).to.equal(0);
            needle = work.loops;
          }
          expect(needle.length).to.equal(made.laid.stitches - made.decreases);
          expect(made.laid.stitches - made.castOn).to.equal(made.increases);
        },
      ),
      { numRuns: 50 * THOROUGH },
    );
  });

  it('increases under its ropes where it is asked to, alike on both sides', () => {
    const made = assemble(design, piece(), small);
    // A rib of k2, p2 that begins and ends alike: 42 stitches below 44, one more in each of the outer ropes.
    expect([made.castOn, made.increases]).to.deep.equal([42, 2]);
    const row = made.chart.rows[made.below - 1]!;
    const book = bookOf(made.chart);
    const columns = row.flatMap((s, i) =>
      s === 'm1l' ? [row.slice(0, i).reduce((sum, other) => sum + spanOf(other, book), 0)] : [],
    );
    expect(columns).to.deep.equal([12, 31]);
    // The rib that runs on: a rope of 4 stands on 3 knits, and all purls go down into it.
    const on = assemble(design, piece({ border: { bottom: { kind: 'runs-on', rows: 6 } } }), small);
    expect(on.increases).to.equal(3);
    const [first] = expandPiece(on.chart);
    expect(first!.stitches.join('')).to.equal(
      'k' + 'p'.repeat(9) + 'kkk' + 'p'.repeat(6) + 'kkk' + 'p'.repeat(6) + 'kkk' + 'p'.repeat(9) + 'k',
    );
  });

  it('says in one sentence why it cannot be put together', () => {
    const withParts = (...parts: object[]) => piece({ parts });
    for (const [made, said] of [
      [withParts(), /no stitches yet/],
      [withParts({ id: 'x', kind: 'panel', chart: 'gone' }), /the design has no more/],
      [withParts({ id: 'x', kind: 'filling', chart: 'rope', repeats: 2 }), /no repeat across/],
      [piece({ construction: 'round' }), /no edges/],
      [
        withParts({ id: 'x', kind: 'ground', stitches: 600 }, { id: 'y', kind: 'panel', chart: 'rope' }),
        /608 stitches wide/,
      ],
      [piece({ border: { bottom: { kind: 'rib', rows: 4, changes: 'even', fewer: 30 } } }), /at most 21 can/],
    ] as const)
      expect(() => assemble(design, made, small), String(said)).to.throw(PieceFault, said);
  });

  it('counts a loop for every stitch of every row, and the cast-on', () => {
    const made = assemble(design, piece(), small);
    const book = bookOf(made.chart);
    const byHand = expandPiece(made.chart).reduce(
      (sum, { stitches }) => sum + stitches.reduce((n, s) => n + book.facts(s).makes, 0),
      made.castOn,
    );
    expect(loopsWorked(made)).to.equal(byHand);
    const weighed = { ...piece(), yarn: { swatch: null, grams: 0.01, metres: 200, margin: 0.1, pieces: 3 } };
    expect(writePiece(design, weighed, settings).sizes[0]!.grams).to.be.closeTo(byHand * 0.011, 1e-6);
    expect(writePiece(design, piece(), settings).sizes[0]!.grams).to.be.null;
    // A tenth of a gram is a fifth of a metre here; it is told with what it rests on.
    const set = { ...design, charts: [rope, diamond], piece: weighed };
    const text = sheetText(sheetOf(set, writeDesign(set.charts, set.piece, set.settings), true));
    const grams = Math.ceil((byHand * 0.011) / 5) * 5;
    const metres = Math.ceil((byHand * 0.022) / 5) * 5;
    expect(text).to.match(
      new RegExp(
        `Yarn: about ${grams} \\(\\d+\\) g, ${metres} \\(\\d+\\) m, from the weight of a swatch and 10 % more. For 3 pieces`,
      ),
    );
  });
});

describe('the words of a piece', () => {
  it('are told for all sizes at once, and each size has its own back, proved on its needle', () => {
    const words = writePiece(design, piece(), settings);
    expect(words).to.include({ checked: true });
    expect(words.sizes.map((s) => [s.name, s.castOn, s.stitches])).to.deep.equal([
      ['S', 42, 44],
      ['M', 46, 50],
    ]);
    const said = words.sections.find((s) => s.heading === 'Rows')!;
    expect(said.rows[0]!.words).to.equal(
      'k1, p7 (10), pm, work row 1 of Chart A over the next 8 sts, pm, work row 1 of Chart B over the next 12 sts, pm, work row 1 of Chart A mirrored over the next 8 sts, pm, p7 (10), k1. (44 (50) sts)',
    );
    expect(linesOf(words, 'Rows', 1).slice(1)).to.deep.equal([
      'Row 2 (WS): k11, sm, work row 2 of Chart A mirrored, sm, work row 2 of Chart B, sm, work row 2 of Chart A, sm, k11. (50 sts)',
      'Rows 3–144: continue as set, each panel by its next row (from the first of its repeat when its last is worked), all else as 2 rows below. (50 sts)',
    ]);
    expect(said.after).to.deep.equal([
      'After row 12 all panels stand as they did before row 1: they meet again every 12 rows.',
      'Work 124 (144) rows in all, ending with row 4 of Chart A, row 4 (6) of Chart B and row 4 of Chart A mirrored.',
    ]);
    const whole = writePiece(design, piece({ words: 'rows' }), settings);
    expect(whole.checked).to.be.true;
    // What is printed for the second size is what its own chart is written as.
    const own = writeAndProve(assemble(design, piece(), piece().sizes[1]!).chart, settings);
    expect(linesOf(whole, 'All sizes, every row', 1).slice(0, 2)).to.deep.equal(
      own.text.split('\n').slice(3, 5),
    );
    // A piece without panels tells its crossings in the same one key.
    expect(
      writeDesign([rope, diamond], piece({ words: 'rows' }), settings).key.map((e) => e.name),
    ).to.include('2/2 RC');
  });

  it('are refused by their proof once anything of them is changed', () => {
    const set = piece({ markers: true });
    const made = assemble(design, set, small);
    const { text, key } = (() => {
      const written = writeDesign(design.charts, set, settings);
      return { text: written.text, key: readLines(written.text, { isOwn: true }).pattern.key };
    })();
    const { defined } = definedCrossings(key, 'right');
    const printed = chartsPrinted(design.charts, set).map(({ chart, name }): PrintedChart => {
      const own = text.slice(text.indexOf(`${name}\n\n`) + name.length + 2).split(/\n\n(?=Chart|Key)/)[0]!;
      return { name, read: proveRowsText(`${own}\n`, chart, defined, settings, chart.id !== 'wave').rows };
    });
    const lines = bodyLinesOf(set, made, tellingOf(made, settings)).map((line) => ({
      head: rowHeadText(line, ABBREVIATED),
      words: rowBodyText(line, ABBREVIATED),
    }));
    const of = { charts: design.charts, piece: set, size: small, made };
    const prove = (changed: typeof lines) => provePanelRows(of, changed, printed, 'right');
    prove(lines);
    type Line = (typeof lines)[0];
    const spoiled: [number, (line: Line) => Line][] = [
      ...(
        [
          (w) => w.replace('row 1 of', 'row 3 of'),
          (w) => w.replace('p7', 'p6, k1'),
          (w) => w.replace('next 12 sts', 'next 11 sts'),
          (w) => w.replace('pm, work row 1 of Chart B', 'work row 1 of Chart B'),
          (w) => w.replace('Chart A over', 'Chart B over'),
          (w) => w.replace('. (', ', k1. ('),
          (w) => w.replace(', k1. (', '. ('),
          (w) => w.replace('pm', 'sm'),
          (w) => w.replace('44 sts', '45 sts'),
        ] as ((words: string) => string)[]
      ).map((spoil): [number, (line: Line) => Line] => [0, (l) => ({ ...l, words: spoil(l.words) })]),
      [1, (l) => ({ ...l, words: l.words.replace('sm, work row 2 of Chart B', 'work row 2 of Chart B') })],
      [1, (l) => ({ ...l, words: l.words.replace('work row 2 of Chart B', 'work row 4 of Chart B') })],
      [1, (l) => ({ ...l, head: 'Row 2 (RS)' })],
      [1, (l) => ({ ...l, head: 'Row 2' })],
      [1, (l) => ({ ...l, head: l.head.replace('Row', 'Round') })],
      [2, (l) => ({ ...l, words: l.words.replace('as 2 rows below', 'as the row below') })],
      [2, (l) => ({ ...l, head: l.head.replace('Rows 3', 'Rows 4') })],
      [2, (l) => ({ ...l, head: l.head.replace(/–\d+/, '–90') })],
    ];
    for (const [n, spoil] of spoiled) {
      const changed = lines.map((line, i) => (i === n ? spoil(line) : line));
      expect(changed[n]).not.to.deep.equal(lines[n]);
      expect(() => prove(changed), JSON.stringify(changed[n])).to.throw();
    }
    expect(() => prove(lines.slice(0, 2))).to.throw(PieceMisread, /end with row 2/);
  });

  it('are held against the document, not against what was put together of it', () => {
    const set = piece();
    const made = assemble(design, set, small);
    const of = { charts: design.charts, piece: set, size: small, made };
    expect(() => proveAssembled(of)).not.to.throw();
    // A slip of the layout or the assembly: each is seen, whatever the words say.
    const { chart, below } = made;
    const swapped = chart.rows.with(
      below + 1,
      chart.rows[below + 1]!.map((s) => (s === 'k' ? 'p' : s)),
    );
    const longer = { ...made, body: made.body + 1 };
    for (const slip of [
      { ...made, chart: { ...chart, rows: swapped } },
      { ...made, chart: { ...chart, rows: chart.rows.toReversed() } },
      { ...made, below: below + 2, above: made.above - 2 },
      {
        ...made,
        laid: {
          ...made.laid,
          parts: made.laid.parts.map((p) => ({ ...p, going: p.going && { ...p.going, begins: 2 } })),
        },
      },
      longer,
    ])
      expect(() => proveAssembled({ ...of, made: slip })).to.throw(PieceMisread);
    // And what is set otherwise than it was put together.
    const wider = changePart(set, set.parts.find((p) => p.kind === 'ground')!.id, { stitches: 11 });
    expect(() => proveAssembled({ ...of, piece: wider })).to.throw(PieceMisread);
    const turned = changePart(set, set.parts.find((p) => p.kind === 'panel')!.id, { isMirrored: true });
    expect(() => proveAssembled({ ...of, piece: turned })).to.throw(PieceMisread);
  });

  it('are proved for any charts in any piece, or it is said why it cannot be put together', () => {
    const anyPart = fc.record({
      kind: fc.constantFrom('ground', 'panel', 'filling', 'marker', 'selvage'),
      chart: fc.constantFrom('a', 'b'),
      n: fc.integer({ min: 0, max: 12 }),
      isMirrored: fc.boolean(),
      starts: fc.integer({ min: 1, max: 5 }),
      begins: fc.integer({ min: 1, max: 5 }),
      cloth: fc.constantFrom('reverse', 'moss', 'rib', 'garter'),
    });
    type PartOf = typeof anyPart extends fc.Arbitrary<infer P> ? P : never;
    const partOf = ({ kind, chart, n, isMirrored, starts, begins, cloth }: PartOf, i: number) => ({
      id: `p${i}`,
      kind,
      ...(kind === 'ground' && { stitches: n, cloth }),
      ...(kind === 'selvage' && { stitches: 2, style: 'slipped' }),
      ...(kind === 'filling' && { repeats: 2 }),
      ...((kind === 'panel' || kind === 'filling') && { chart, isMirrored, starts, begins }),
    });
    let proved = 0;
    fc.assert(
      fc.property(
        fc.tuple(anyUnbanded(), anyUnbanded()),
        fc.array(anyPart, { minLength: 1, maxLength: 7 }),
        anyStyle(),
        fc.record({
          construction: anyWay(),
          words: fc.constantFrom('panels', 'rows'),
          way: fc.constantFrom('whole', 'part', 'centred'),
          border: fc.constantFrom('rib', 'runs-on', 'hem', 'garter', null),
          changes: fc.constantFrom('even', 'ropes', 'none'),
          length: fc.constantFrom(null, 200_000, 340_000),
          hand: fc.constantFrom('right' as const, 'left-same-fabric' as const, 'left-same-words' as const),
        }),
        ([a, b], parts, style, { construction, words, way, border: kind, changes, length, hand }) => {
          // A name may hold what words hold too.
          const charts = [
            { ...a, id: 'a', name: 'A, b (1)' },
            { ...b, id: 'b' },
          ];
          const border = kind && { kind, rows: 3, changes, cord: true };
          const counts = Object.fromEntries(parts.map((p, i) => [`p${i}`, p.n + 1]));
          const set = PieceSchema.parse({
            construction,
            words,
            length: { way },
            border: { bottom: border, top: border },
            gauge: { plain },
            sizes: [
              { id: '1', name: 'S', length },
              { id: '2', name: 'M', length, counts },
            ],
            parts: parts.map(partOf),
          });
          try {
            const made = writePiece({ charts }, set, { ...settings, style, hand });
            const faults = checkPiece({ charts }, set, 'cm').filter((f) => f.level === 'error');
            // Nothing with an error is sealed; all else is.
            expect(made.checked, made.problems.join('\n')).to.equal(faults.length === 0);
            if (faults.length) return;
            expect(made.problems).to.deep.equal([]);
            proved++;
          } catch (error) {
            if (!(error instanceof PieceFault)) throw error;
          }
        },
      ),
      { numRuns: 60 * THOROUGH },
    );
    expect(proved).to.be.at.least(1);
  });

  it('stand on the sheet with sizes, measures and what they rest on, sealed with the charts', () => {
    const set = { ...design, piece: { ...piece(), needle: 4 }, charts: [rope, diamond] };
    const written = writeDesign(set.charts, set.piece, set.settings);
    expect(written.checked).to.be.true;
    const text = sheetText(sheetOf(set, written, true));
    for (const said of [
      'Sizes: S (M).',
      'The width is worked out where nothing was swatched, right to about 5 %',
      'Gauge: 20 sts and 28 rows = 10 cm in stocking stitch.',
      'Needle: 4 mm (US 6, UK 8), or the one that gives this gauge; a cable needle, 4 markers.',
      'Cast on 42 (46) sts.',
      'M1LP: lift the bar',
      'Every row of the piece was read back',
    ])
      expect(text).to.include(said);
    const open = writeDesign(set.charts, piece({ construction: 'round' }), set.settings);
    expect(open.checked).to.be.false;
    expect(open.problems[0]!.message).to.match(/^The piece: .*no edges/);
    // What is measured across a piece that is worked round is what is round it.
    const sizes = [
      { name: 'One', castOn: 1, width: 480_000, length: null },
    ] as unknown as PieceWords['sizes'];
    expect(measuresText({ sizes }, piece(), 'cm')).to.deep.equal(['Width 48 cm']);
    expect(measuresText({ sizes }, piece({ construction: 'round' }), 'cm')).to.deep.equal([
      'Circumference 48 cm',
    ]);
  });

  it('differ by size in numbers alone, or are told apart by name', () => {
    expect(inSizes(['k9, p2', 'k11, p2', 'k12, p2'])).to.equal('k9 (11, 12), p2');
    expect(inSizes(['k9', 'p9'])).to.be.null;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('k', 'p', ', [k', '] times, ', ' (', ' sts)'), fc.nat(300)), {
          minLength: 1,
          maxLength: 9,
        }),
        fc.integer({ min: 1, max: 5 }),
        fc.array(fc.nat(40), { minLength: 5, maxLength: 5 }),
        (parts, of, more) => {
          const texts = Array.from({ length: of }, (_, s) =>
            parts.map(([word, n], i) => `${word}${i % 2 ? n : n + more[s]!}`).join(''),
          );
          const all = inSizes(texts);
          // Either it cannot be printed for all, or every size has its own back to the letter.
          if (all !== null) texts.forEach((t, s) => expect(ofSize(all, s, of)).to.equal(t));
        },
      ),
    );
  });
});

describe('fitting a piece', () => {
  const fitted: Piece = PieceSchema.parse({
    gauge: { plain },
    parts: [
      { id: 'e1', kind: 'selvage', stitches: 1 },
      { id: 'g1', kind: 'ground', stitches: 6, least: 2, most: 14, pair: 'outer' },
      { id: 'p1', kind: 'panel', chart: 'rope', gauge: { stitches: { count: 26, over: 100_000 } } },
      { id: 'f', kind: 'filling', chart: 'wave', repeats: 4, most: 12 },
      {
        id: 'p2',
        kind: 'panel',
        chart: 'rope',
        isMirrored: true,
        gauge: { stitches: { count: 26, over: 100_000 } },
      },
      { id: 'g2', kind: 'ground', stitches: 6, least: 2, most: 14, pair: 'outer' },
      { id: 'e2', kind: 'selvage', stitches: 1 },
    ],
    sizes: [{ id: 's', name: 'S', measure: 300_000 }],
  });

  it('finds the widths that an exhaustive search finds, pairs kept equal', () => {
    for (let wish = 180_000; wish <= 420_000; wish += 17_300) {
      const size = { ...fitted.sizes[0]!, measure: wish };
      let nearest = Infinity;
      for (let gap = 2; gap <= 14; gap++)
        for (let repeats = 1; repeats <= 12; repeats++) {
          const { width } = layOut(design, fitted, { ...size, counts: { g1: gap, g2: gap, f: repeats } });
          nearest = Math.min(nearest, Math.abs(width! - wish));
        }
      const { ways } = fitPiece(design, fitted, size)!;
      const [best] = ways;
      expect(Math.abs(best!.off)).to.equal(nearest);
      expect(best!.counts.g1).to.equal(best!.counts.g2);
      // The size that takes it has the very width and cast-on that were told.
      const laid = layOut(design, fitted, withFit(fitted, size, best!));
      expect([laid.width, laid.stitches]).to.deep.equal([best!.width, best!.castOn]);
    }
  });

  it('comes to a length by whole repeats, part-way, or begun and ended alike', () => {
    for (const way of ['whole', 'part', 'centred'] as const) {
      const set = piece({ length: { way, lead: 'p2' } });
      const [size] = set.sizes as [Piece['sizes'][number]];
      const ways = lengthsOf(design, set, size)!;
      // Where whole repeats come nearest of all, to end part-way would be the same.
      const told = ways.find((w) => w.kind === way) ?? ways[0]!;
      const made = assemble(design, set, size);
      expect(made.way!.kind).to.equal(told.kind);
      expect(made.body).to.equal(told.rows);
      // The rows that lead to and from borders are reckoned with before it is known whether there will be any.
      const spared = Number(!made.increases) + Number(!made.decreases);
      expect(made.length! + (spared * 100_000) / 28).to.be.closeTo(told.length, 2);
    }
  });

  it('says what would change, and why there is no way', () => {
    const way = fitPiece(design, fitted, { ...fitted.sizes[0]!, measure: 400_000 })!.ways[0]!;
    for (const { part, was, now } of way.changes) {
      expect(way.counts[part]).to.equal(now);
      expect(was).to.equal(part === 'f' ? 4 : 6);
    }
    expect(way.changes).not.to.be.empty;
    expect(fitPiece(design, fitted, { ...fitted.sizes[0]!, measure: null })).to.be.null;
    const bare = { ...fitted, gauge: { plain: null, whole: null } };
    expect(fitPiece(design, bare, fitted.sizes[0]!)!.problem).to.match(/^Without a gauge/);
    const set = withCount(fitted, fitted.sizes[0]!, 'g2', 9);
    expect(set.counts).to.deep.equal({ g1: 9, g2: 9 });
  });

  it('takes a part to lie as its cloth is worked out to only where it has no swatch, and tells it', () => {
    const { parts, isEstimate } = layOut(design, piece(), small);
    expect(isEstimate).to.be.true;
    const wide = restingWidth(parts[2]!.chart!, proportionsOf(null, heightOf(piece().gauge.plain)))!;
    expect(wide).to.be.within(0.7, 0.95);
    expect(parts[2]).to.include({ gaugeFrom: 'estimate' });
    expect(parts[2]!.width).to.be.closeTo(8 * 5000 * wide, 1);
    const estimated = parts.reduce((sum, p) => sum + (p.gaugeFrom === 'estimate' ? p.width! : 0), 0);
    expect(layOut(design, piece(), small).give).to.be.closeTo(estimated * RIGHT_TO, 1);
    expect(checkPiece(design, piece(), 'cm').map((f) => f.id)).to.include('estimated-gauge');
    const whole = layOut(
      design,
      piece({ gauge: { plain, whole: { ...plain, stitches: { count: 24, over: 100_000 } } } }),
      small,
    );
    expect(whole.isEstimate).to.be.false;
    expect(whole.width).to.equal(Math.round((44 * 100_000) / 24));
  });

  it('tells the width that the cloth of the whole piece has, within what it says it is right to', () => {
    const { width } = layOut(design, piece(), small);
    const made = assemble(design, piece(), small);
    const body = { ...made.chart, rows: made.chart.rows.slice(made.below, made.below + 24) };
    const cloth = settled(knitFabric(body));
    const across = cloth.fabric.needles.slice(8, 18).map((needle) => {
      const [first, last] = [needle[0]!, needle.at(-1)!];
      return cloth.lie[3 * first]! - cloth.lie[3 * last]! + 1;
    });
    const mean = across.reduce((sum, n) => sum + n, 0) / across.length;
    expect((mean * 5000) / width!).to.be.within(1 - RIGHT_TO, 1 + RIGHT_TO);
  });

  it('leaves edge stitches that go into a seam out of the width, and says so', () => {
    const seamed = (is: boolean) =>
      piece({
        parts: piece().parts.map((part) => (part.kind === 'selvage' ? { ...part, seamed: is } : part)),
      });
    const [open, sewn] = [layOut(design, seamed(false), small), layOut(design, seamed(true), small)];
    expect(open.parts.some(({ part }) => part.kind === 'selvage')).to.equal(true);
    const edges = open.parts.filter(({ part }) => part.kind === 'selvage');
    expect(sewn.stitches).to.equal(open.stitches);
    expect(open.width! - sewn.width!).to.be.closeTo(
      edges.reduce((sum, p) => sum + p.width!, 0),
      1,
    );
  });
});

describe('what a piece has wrong with it', () => {
  it('names a panel that falls on the wrong side, and each mend puts it right', () => {
    const off = piece({ firstRow: 'WS' });
    const set = { ...design, piece: off };
    const clashes = checkPiece(set, off, 'cm').filter((f) => f.id === 'panel-side');
    expect(clashes.map((f) => f.part)).to.deep.equal(['p1', 'p2', 'p3']);
    for (const { part, fix, others = [] } of clashes) {
      expect(others).to.have.length(1);
      for (const { steps } of [fix!, ...others]) {
        const mended = applySteps(set, steps);
        const left = checkPiece(mended, mended.piece!, 'cm').filter((f) => f.id === 'panel-side');
        expect(left.map((f) => f.part)).not.to.include(part);
        expect(applySteps(mended, invertSteps(steps))).to.deep.equal(set);
      }
    }
    expect(checkPiece(design, piece(), 'cm').filter((f) => f.level === 'error')).to.deep.equal([]);
  });

  it('tells a width that was not met, a rib that does not come out, and an odd repeat', () => {
    const ids = (more: object, charts = design.charts) =>
      checkPiece({ charts }, piece(more), 'cm').map((f) => f.id);
    expect(ids({ sizes: [{ ...small, measure: 400_000 }] })).to.include('width-off');
    expect(ids({ border: { bottom: { kind: 'wide-rib', rows: 8, changes: 'none' } } })).to.include(
      'border-uneven',
    );
    const odd = design.charts.map((c) => (c.id === 'rope' ? { ...c, rows: c.rows.slice(0, 3) } : c));
    expect(ids({}, odd)).to.include('panel-odd-rows');
    expect(ids({ gauge: { plain: null } })).to.include('no-gauge');
  });
});

describe('the piece in the document', () => {
  it('is set, undone and joined with what someone else set of it', () => {
    const begun = { ...design, piece: piece() };
    const change = (to: Piece, id: string) => headChange(begun, { piece: to }, 'piece', id)!;
    const parts = change(
      { ...begun.piece, parts: begun.piece.parts.slice(1) },
      '00000000-0000-4000-8000-00000000000a',
    );
    expect(parts.steps.map((s) => s.kind)).to.deep.equal(['item']);
    const after = applyChange(begun, parts);
    expect(after.piece!.parts).to.have.length(6);
    expect(applySteps(after, invertSteps(parts.steps))).to.deep.equal(begun);
    const border = change(
      { ...begun.piece, border: { bottom: null, top: null } },
      '00000000-0000-4000-8000-00000000000b',
    );
    expect(applyChange(after, border).piece)
      .to.include({ firstRow: 'RS' })
      .and.deep.include({
        border: { bottom: null, top: null },
      });
    const broken = { ...begun.piece, parts: [...begun.piece.parts, begun.piece.parts[0]!] };
    expect(() => applyChange(begun, change(broken, '00000000-0000-4000-8000-00000000000c'))).to.throw(
      'Two parts have the same id.',
    );
  });

  it('comes to older documents as none, with its place on their sheet', () => {
    const { piece: _, ...old } = {
      ...design,
      format: 2,
      sheet: { ...design.sheet, order: ['notes', 'rows', 'key'] },
    };
    const read = readDesign(old);
    expect([read.format, read.piece]).to.deep.equal([FORMAT, null]);
    expect(read.sheet.order).to.deep.equal(['notes', 'piece', 'rows', 'key']);
    expect(readDesign({ ...design, piece: piece() }).piece).to.deep.equal(piece());
    expect(() => readDesign({ ...design, piece: { ...piece(), sizes: [] } })).to.throw();
    expect(wave.across).not.to.be.null;
  });
});

import { expect } from 'chai';
import {
  assemble,
  bookOf,
  ChartSchema,
  checkPiece,
  expandPiece,
  layOut,
  readPattern,
  SettingsSchema,
  sheetOf,
  sheetText,
  simpleCrossing,
  startDesign,
  writeDesign,
  type Chart,
  type Piece,
  type Stitch,
} from '../src/index.js';
import { freshNeedle, workStitches } from '../src/needle/needle.js';
import { mirrorChart } from '../src/chart/edits.js';
import { charted, design, diamond, piece, plain, rope } from './pieces.js';

/** What "proved" means for a piece: no error is sealed, and all that is worked is printed, once, and told in one key. */

const settings = SettingsSchema.parse({});
const written = (set: Piece, charts: readonly Chart[] = [rope, diamond], style: object = {}) =>
  writeDesign(charts, set, SettingsSchema.parse({ style }));
const sheet = (set: Piece, charts: readonly Chart[] = [rope, diamond], style: object = {}) => {
  const of = {
    ...startDesign('00000000-0000-4000-8000-0000000000aa', 'Cornice front', charts[0]!),
    charts: [...charts],
    piece: set,
    settings: SettingsSchema.parse({ style }),
  };
  return sheetText(sheetOf(of, writeDesign(of.charts, set, of.settings), true));
};

describe('the seal of a piece', () => {
  it('is not set while a panel falls on the wrong side, wherever it begins', () => {
    for (const starts of [1, 2, 3, 4, 5, 6])
      for (const firstRow of ['RS', 'WS'] as const) {
        const set = piece({
          firstRow,
          parts: piece().parts.map((p) => (p.kind === 'panel' ? { ...p, starts } : p)),
        });
        // The charts' first rows are right-side rows: they must fall on one (domain: a chart's rows have sides).
        const falls = (starts % 2 === 1) === (firstRow === 'RS');
        const made = written(set);
        expect(made.checked, `${firstRow} from row ${starts}`).to.equal(falls);
        expect(made.piece!.checked).to.equal(falls);
        expect(sheet(set).includes('Every row of the piece was read back')).to.equal(falls);
        if (!falls)
          expect(made.problems.map((p) => p.message).join()).to.match(/not of the side .* is charted for/);
      }
  });

  it('is not set on an odd repeat worked flat, and is in the round', () => {
    const odd = { ...rope, rows: rope.rows.slice(0, 3) };
    const long = { sizes: [{ id: 's', name: 'S', length: 400_000 }] };
    expect(written(piece(long), [odd, diamond]).checked).to.be.false;
    const oddRound = ChartSchema.parse({ ...odd, construction: 'round' });
    const round = piece({
      ...long,
      construction: 'round',
      parts: [
        { id: 'g', kind: 'ground', cloth: 'reverse', stitches: 4 },
        { id: 'p', kind: 'panel', chart: 'rope' },
      ],
      border: { bottom: null, top: null },
    });
    const made = written(round, [oddRound]);
    expect(made.problems).to.deep.equal([]);
    expect(made.checked).to.be.true;
  });

  it('is set only on what every chart of the design deserves as well', () => {
    const short = { ...diamond, rows: diamond.rows.map((row, r) => (r === 2 ? row.slice(1) : row)) };
    expect(written(piece({ parts: piece().parts.filter((p) => p.id !== 'p2') }), [rope, short]).checked).to.be
      .false;
  });
});

describe('what a piece works is printed', () => {
  it('with mirrored charts and their crossings, in panels and in whole rows', () => {
    for (const words of ['panels', 'rows'] as const) {
      const set = piece({ words });
      const made = written(set);
      expect(made.checked).to.be.true;
      expect(made.key.map((entry) => entry.name)).to.include.members(['2/2 LC', '2/2 RC']);
      const text = sheet(set);
      expect(text).to.include('Chart A mirrored\n');
      const mirrored = text.slice(text.lastIndexOf('Chart A mirrored\n'));
      expect(mirrored.slice(0, mirrored.indexOf('Row 4'))).to.include('2/2 RC');
    }
    // The rows told are those of the mirror image, found by mirroring the chart by itself.
    const images = expandPiece(mirrorChart(rope)).map(({ stitches }) => JSON.stringify(stitches));
    const text = written(piece()).text;
    const own = text.slice(text.indexOf('Chart A mirrored')).split(/\n\n(?=Chart B|Key)/)[0]!;
    const { chart } = readPattern(`Cast on 8 sts.\n${own.slice(own.indexOf('Row 1'))}`, {
      construction: 'flat',
      firstRow: 'RS',
      school: 'front-back',
    });
    expect(expandPiece(chart!).map(({ stitches }) => JSON.stringify(stitches))).to.deep.equal(images);
  });

  it('leaves out a mirror image that is the chart itself', () => {
    // 4 knits between 2 purls, never crossed: a mirror shows the same.
    const ladder = charted('Cast on 8 sts.\nRow 1 (RS): p2, k4, p2.\nRow 2: k2, p4, k2.', 'rope');
    expect(written(piece(), [ladder, diamond]).text).not.to.include('mirrored');
  });

  it('as the piece works it where the chart is charted the other way', () => {
    const round = ChartSchema.parse({ ...rope, construction: 'round' });
    const made = written(piece(), [round, diamond]);
    expect(made.checked).to.be.true;
    // In the round nothing is a wrong-side row; in this flat piece every other one is.
    expect(made.text).to.match(/Chart A\n[^]*Row 2 \(WS\)/);
  });
});

describe('the one key', () => {
  const words = (made: ReturnType<typeof written>) =>
    made.key.flatMap((entry) => entry.sides.map(({ word }) => word)).join();
  const slipped = piece({
    parts: [
      { id: 'right', kind: 'selvage', stitches: 1, style: 'slipped' },
      { id: 'g1', kind: 'ground', cloth: 'reverse', stitches: 5 },
      { id: 'p1', kind: 'panel', chart: 'rope' },
      { id: 'left', kind: 'selvage', stitches: 1, style: 'slipped' },
    ],
  });

  it('tells the slips of an edge, the markers placed and moved on, and slipping to the cable needle', () => {
    const names = written(slipped, [rope]).key.map((entry) => entry.name);
    expect(names).to.include.members(['sl', 'pm', 'sm', '2/2 LC']);
    expect(words(written(slipped, [rope]))).to.match(/wyi[bf]/);
    const bare = written(piece({ ...slipped, markers: false }), [rope]).key.map((entry) => entry.name);
    expect(bare).not.to.include.members(['pm']);
    const noCrossing = charted('Cast on 8 sts.\nRow 1 (RS): p2, k4, p2.\nRow 2: k2, p4, k2.', 'rope');
    expect(written(slipped, [noCrossing]).key.map((entry) => entry.name)).not.to.include('sl');
  });

  it('tells how the marker moves where rows of the round begin elsewhere', () => {
    const text = `Cast on 12 sts.
Round 1: *k4, p2; rep from * to end.
Round 2: *2/2 LC, p2; rep from * to end.`;
    const { chart } = readPattern(text, { construction: 'round', firstRow: 'RS', school: 'front-back' });
    const jogged = ChartSchema.parse({ ...chart, jogs: { 1: 1 } });
    const made = writeDesign([jogged], null, settings);
    expect(made.text).to.include('move the marker');
    expect(made.key.map((entry) => entry.name).join()).to.include('move the marker');
  });

  it('is the same on the page and in the copy: every name and every line of it', () => {
    for (const set of [slipped, piece(), piece({ words: 'rows' })]) {
      const made = written(set);
      const copy = sheet(set);
      const key = copy.slice(copy.lastIndexOf('\nKey\n'), copy.lastIndexOf('\nChecked'));
      for (const { sides } of made.key)
        for (const { word, steps } of sides) if (steps) expect(key).to.include(`${word}: ${steps}`);
      // And no line of the copy is without its entry.
      const lines = key.trim().split('\n').slice(1).filter(Boolean);
      expect(lines).not.to.be.empty;
      for (const line of lines)
        expect(
          made.key.some(({ name, sides }) =>
            [name, ...sides.map((s) => s.word)].includes(line.split(/:| \(/)[0]!),
          ),
          line,
        ).to.be.true;
      expect(new Set(made.key.map((e) => e.name)).size).to.equal(made.key.length);
    }
  });
});

describe('rows that present are written out where they do not', () => {
  /** A panel whose second row presents its first: begun on row 2, there is no such row below it. */
  const begun = (begins: number, starts: number, bottom: object | null) =>
    piece({
      firstRow: (begins + starts) % 2 === 0 ? 'RS' : 'WS',
      parts: [
        { id: 'g1', kind: 'ground', cloth: 'stocking', stitches: 5 },
        { id: 'p1', kind: 'panel', chart: 'rope', begins, starts },
        { id: 'g2', kind: 'ground', cloth: 'stocking', stitches: 5 },
      ],
      border: { bottom, top: null },
    });

  it('above a border of other cloth, above the cast-on, and nowhere else', () => {
    for (const bottom of [
      null,
      { kind: 'stocking', rows: 4, changes: 'none' },
      { kind: 'garter', rows: 5, changes: 'none' },
    ]) {
      const set = begun(2, 1, bottom);
      const made = written(set, [rope], { wsRows: 'presented' });
      expect(made.problems).to.deep.equal([]);
      expect(made.checked).to.be.true;
      // Row 2 of the panel is the first of it that is worked: it is to be told stitch by stitch.
      const own = made.text.slice(0, made.text.indexOf('Row 3'));
      expect(own, JSON.stringify(bottom)).to.include('k2, p4, k2');
    }
    const found = written(begun(1, 1, null), [rope], { wsRows: 'presented' });
    expect(found.checked).to.be.true;
    expect(found.text).to.match(/present/i);
  });
});

describe('a panel that is centred', () => {
  /** 13 stitches on its first row, 17 on its third and fourth. */
  const bud = charted(
    `Cast on 13 sts.
Row 1 (RS): k6, k-yo-k-yo-k, k6.
Row 2: p17.
Row 3: k17.
Row 4: p6, s3p2p, p6.`,
    'bud',
  );

  it('has the stitches and the width of the row it begins with', () => {
    expect(bud.rows).to.have.length(4);
    for (const length of [80_000, 100_000, 120_000, 140_000, 160_000]) {
      const set = piece({
        parts: [{ id: 'p', kind: 'panel', chart: 'bud', begins: 1 }],
        border: { bottom: null, top: null },
        length: { way: 'centred', lead: 'p' },
        sizes: [{ id: 's', name: 'S', length }],
      });
      const [size] = set.sizes as [Piece['sizes'][number]];
      const made = assemble({ charts: [bud] }, set, size);
      const [first] = expandPiece(made.chart);
      const takes = first!.stitches.reduce((n, s) => n + bookOf(made.chart).facts(s).takes, 0);
      expect(made.laid.stitches).to.equal(takes);
      expect(made.castOn).to.equal(takes);
      expect(layOut({ charts: [bud] }, set, size, made.below + made.above).stitches).to.equal(takes);
    }
  });
});

describe('heights and changes of borders', () => {
  it('count no row of changes where none is worked', () => {
    for (const rows of [3, 4, 7, 12])
      for (const changes of ['none', 'even', 'ropes'] as const) {
        const set = piece({ border: { bottom: { kind: 'rib', rows, changes }, top: null } });
        const [size] = set.sizes as [Piece['sizes'][number]];
        const made = assemble(design, set, size);
        expect(made.below).to.equal(rows + Number(made.increases > 0));
        expect(made.chart.rows.length).to.be.at.least(made.below);
        expect(made.length).to.equal(
          Math.round(((made.below + made.body + made.above) * 100_000) / plain.rows.count),
        );
      }
  });

  it('fall back to evenly spread where pairs cannot stand, and say so', () => {
    // All the stitches of a crossed row move, so no pair of them can be worked together in the row above (domain).
    const L = simpleCrossing('left', 2, 2);
    const wide = ChartSchema.parse({
      id: 'wide',
      width: 44,
      rows: [Array<Stitch>(44).fill('k'), Array<Stitch>(44).fill('p'), Array<Stitch>(11).fill(L)],
      part: 'panel',
    });
    const full = { ...wide, rows: [...wide.rows, wide.rows[1]!] };
    const set = piece({
      parts: [{ id: 'p', kind: 'panel', chart: 'wide' }],
      border: { bottom: { kind: 'wide-rib', rows: 6, changes: 'ropes', fewer: 16 }, top: null },
      sizes: [{ id: 's', name: 'S' }],
    });
    const [size] = set.sizes as [Piece['sizes'][number]];
    const made = assemble({ charts: [full] }, set, size);
    expect(made.increases).to.equal(16);
    let needle = freshNeedle(made.castOn);
    for (const { stitches } of expandPiece(made.chart)) {
      const work = workStitches(stitches, needle, bookOf(made.chart));
      expect(work.lacks).to.equal(0);
      needle = work.loops;
    }
    const told = checkPiece({ charts: [full] }, set, 'cm').filter((f) => f.id === 'changes-spread');
    expect(told.length > 0).to.equal(made.spread.length > 0);
    for (const { level, message } of told) {
      expect(level).to.equal('note');
      expect(message).to.match(/spread evenly over the row/);
    }
    expect(written(set, [full]).problems).to.deep.equal([]);
  });
});

describe('a sheet of a piece', () => {
  const full = piece({
    name: 'Front',
    fits: 'chest',
    needle: 4,
    sizes: [
      { id: 's', name: 'S', measure: 220_000, length: 500_000 },
      { id: 'm', name: 'M', measure: 250_000, length: 560_000, counts: { g1: 10, g2: 10 } },
    ],
  });

  it('casts on once, names the piece, counts its markers, and binds off what is left', () => {
    const text = sheet(full);
    expect(text.match(/Cast on /g)).to.have.length(1);
    expect(text).to.include('\nFront\n');
    const pm = /^Row 1 \(RS\): .*$/m.exec(text.slice(text.indexOf('\nRows\n')))![0].match(/\bpm\b/g)!.length;
    expect(text).to.include(`${pm} markers`);
    expect(text).to.match(/\nBind off\n\nBind off all \d+ \(\d+\) sts/);
    expect(text).not.to.match(/on a needle [A-Z]/);
  });

  it('speaks the terms of the country and the length of words that were chosen, everywhere', () => {
    const uk = sheet(full, [rope, diamond], { terms: 'UK' });
    expect(uk).not.to.match(/\b[Gg]auge\b|[Bb]ind off/);
    expect(uk).to.match(/Tension/);
    const long = sheet(full, [rope, diamond], { form: 'full' });
    expect(long).not.to.match(/\d sts\b/);
  });

  it('gives the plain increase row beside the placed one, in every size and in full words too', () => {
    for (const form of ['short', 'full'] as const) {
      const said = /In plain cloth, evenly spaced, this row would be, (.*)\./.exec(
        sheet(full, [rope, diamond], { form }),
      )![1]!;
      const sizes = said.split('; ');
      expect(sizes.map((one) => one.split(': ')[0])).to.deep.equal(['S', 'M']);
      // Counted by hand: what is knit is the cast-on, and what is made the difference.
      const counts = sizes.map((one) => {
        const drawn = one.replace(/\[(.*?)\] (\d+) times/g, (_, inner: string, n: string) =>
          Array<string>(Number(n)).fill(inner).join(', '),
        );
        const knit = [...drawn.matchAll(/(?:k|knit )(\d+)/g)].reduce((sum, [, n]) => sum + Number(n), 0);
        return [knit, knit + [...drawn.matchAll(/M1|make 1/g)].length];
      });
      expect(counts).to.deep.equal([
        [42, 44],
        [46, 50],
      ]);
    }
  });

  it('makes none of its stitches at the very side of a rope', () => {
    for (const changes of ['even', 'ropes'] as const) {
      const set = piece({ border: { bottom: { kind: 'wide-rib', rows: 8, changes }, top: null } });
      const { chart, below, increases } = assemble(design, set, set.sizes[1]!);
      expect(increases).to.be.greaterThan(0);
      const row = chart.rows[below - 1]!;
      const above = chart.rows[below]!.flatMap((s) =>
        typeof s === 'string' ? [s] : Array<Stitch>(4).fill('k'),
      );
      row.forEach((stitch, c) => {
        if (stitch !== 'm1l' && stitch !== 'm1lp') return;
        // A knit one made in the ground would lie beside a rope and widen it; inside the rope it is the rope's own.
        if (above[c] === 'p')
          expect([stitch, above[c - 1], above[c + 1]]).not.to.include.members(['m1l', 'k']);
      });
    }
  });
});

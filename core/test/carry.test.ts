import { expect } from 'chai';
import fc from 'fast-check';
import {
  betterAcross,
  betterUp,
  bookOf,
  carryUp,
  ChartSchema,
  checkChart,
  drawRope,
  EditError,
  expandPiece,
  insertRows,
  invertSteps,
  isCrossing,
  mirrorAlong,
  placeStitches,
  presentingRow,
  presentsBelow,
  ropeAt,
  setAcross,
  setMirror,
  setUp,
  simpleCrossing,
  startDesign,
  takeAcross,
  takeUp,
  workChart,
  type Chart,
  type Row,
  type Stitch,
  wayOf,
} from '../src/index.js';
import { applySteps } from '../src/chart/steps.js';
import { shownRepeat } from '../src/chart/smallest.js';
import { anyChart, anyEdit } from './arbitrary.js';
import { cloth } from './panels.js';

const times = (n: number, s: Stitch): Stitch[] => Array<Stitch>(n).fill(s);
const place = (chart: Chart, r: number, column: number, stitches: Stitch[]): Chart =>
  carryUp(chart, placeStitches(chart, r, column, stitches)).chart;

describe('faces carry up', () => {
  it('a run typed in row 1 is a rope to the top of the chart', () => {
    const chart = place(cloth(8, 6), 0, 2, times(4, 'k'));
    for (const row of chart.rows) expect(row).to.deep.equal(['p', 'p', ...times(4, 'k'), 'p', 'p']);
  });

  it('a travelling crossing moves the rope above it, and not below', () => {
    const rope = place(cloth(8, 6), 0, 2, times(2, 'k'));
    const chart = place(rope, 2, 2, [simpleCrossing('left', 2, 1, 'p')]);
    expect(chart.rows[1]).to.deep.equal(rope.rows[1]);
    for (const row of chart.rows.slice(3))
      expect(row).to.deep.equal([...times(3, 'p'), 'k', 'k', ...times(3, 'p')]);
  });

  it('stops at a deliberate texture, a crossing and a stitch through the back loop', () => {
    const texture = placeStitches(cloth(4, 6), 3, 1, ['k']).chart;
    const chart = place(texture, 0, 0, times(4, 'k'));
    // Row 4 set one knit against purls: it is a texture, and what presented it above stays with it.
    expect(chart.rows[3]).to.deep.equal(times(4, 'k'));
    const against = placeStitches(cloth(4, 6), 3, 1, ['ktbl']).chart;
    const twisted = place(against, 0, 1, ['k']);
    expect(twisted.rows[2]![1]).to.equal('k');
    expect(twisted.rows[3]![1]).to.equal('ktbl');
    expect(twisted.rows[4]![1]).to.equal('p');
    const moss = ChartSchema.parse({ width: 1, rows: [['p'], ['k'], ['p'], ['p']] });
    expect(place(moss, 0, 0, ['k']).rows).to.deep.equal([['k'], ['k'], ['p'], ['p']]);
  });

  it('a row put in presents the one below it', () => {
    const rope = place(cloth(6, 4), 0, 1, times(2, 'k'));
    const row = presentingRow(rope, 1);
    expect(row).to.deep.equal(rope.rows[1]);
    const more = insertRows(rope, 2, [row]);
    expect(carryUp(rope, more).chart.rows).to.deep.equal(more.chart.rows);
    expect(presentsBelow(rope, 1)).to.equal(true);
    expect(presentsBelow(rope, 0)).to.equal(false);
  });

  it('in the round follows the loops over the place where the round begins', () => {
    const rows: Row[] = [times(6, 'p'), times(6, 'p'), times(6, 'p')];
    const round = ChartSchema.parse({ width: 6, construction: 'round', jogs: { 1: 2 }, rows });
    const chart = place(round, 0, 0, ['k', 'k']);
    // The second round begins two stitches later: the rope is at its end.
    expect(chart.rows[1]).to.deep.equal([...times(4, 'p'), 'k', 'k']);
    expect(chart.rows[2]).to.deep.equal(['k', 'k', ...times(4, 'p')]);
  });

  it('never changes what did not present, leaves no cell against a face it took, and undo restores', () => {
    fc.assert(
      fc.property(anyChart(), fc.array(anyEdit, { minLength: 1, maxLength: 3 }), (start, acts) => {
        acts.reduce((chart, act) => {
          const plain = act(chart);
          const edit = carryUp(chart, plain);
          const design = startDesign('5c0ee000-0000-4000-8000-000000000009', 'x', chart);
          const after = applySteps(design, edit.steps);
          expect(after.charts[0]).to.deep.equal(edit.chart);
          expect(applySteps(after, invertSteps(edit.steps)).charts[0]).to.deep.equal(chart);
          const isInPlace = plain.steps.every((s) => s.kind === 'cells' || s.kind === 'set');
          edit.chart.rows.forEach((row, r) => {
            const set = plain.chart.rows[r]!;
            if (row === set) return;
            const [now, was] = [presenting(edit.chart, r), isInPlace ? presenting(chart, r) : null];
            row.forEach((s, i) => {
              if (s === set[i]) return;
              // Only plain cells that presented become other plain cells, and each shows the face that comes to it.
              expect([s, set[i]].every((c) => c === 'k' || c === 'p')).to.equal(true);
              expect(now[i]).to.equal(true);
              if (was && chart.rows[r]!.length === row.length) expect(was[i]).to.equal(true);
            });
          });
          return edit.chart;
        }, start);
      }),
      { numRuns: 300 },
    );
  });
});

/** Which cells of a row are plain and repeat the face of their loop, by looking loop by loop. */
function presenting(chart: Chart, r: number): boolean[] {
  const below = r > 0 ? workChart(chart)[r - 1]!.loops : [];
  const start = wayOf(chart).shifts === 'start' ? (chart.jogs[r] ?? 0) : 0;
  let taken = 0;
  return chart.rows[r]!.map((s) => {
    const at = (((taken + start) % below.length) + below.length) % below.length;
    taken += bookOf(chart).facts(s).takes;
    return (s === 'k' || s === 'p') && s === (below[at]?.face === 'purl' ? 'p' : 'k');
  });
}

describe('a line of symmetry', () => {
  const mirrored = (chart: Chart, r: number, column: number, stitches: Stitch[]) =>
    mirrorAlong(placeStitches(chart, r, column, stitches), chart.mirror).chart;

  it('sets on the other side what is set on one, lean and order mirrored', () => {
    const chart = setMirror(cloth(12, 4), { axis: 12 }).chart;
    const made = mirrored(chart, 1, 1, [simpleCrossing('left', 2, 1, 'p'), 'k']);
    expect(made.rows[1]).to.deep.equal([
      'p',
      simpleCrossing('left', 2, 1, 'p'),
      'k',
      'p',
      'p',
      'k',
      simpleCrossing('right', 2, 1, 'p'),
      'p',
    ]);
  });

  it('may stand in the middle of a column, and leaves what is set over it as it is', () => {
    const chart = setMirror(cloth(9, 2), { axis: 9 }).chart;
    expect(mirrored(chart, 0, 3, ['k']).rows[0]).to.deep.equal(['p', 'p', 'p', 'k', 'p', 'k', 'p', 'p', 'p']);
    const over = mirrored(chart, 0, 3, [simpleCrossing('left', 1, 1, 'k')]).rows[0]!;
    expect(over.filter(isCrossing)).to.have.length(1);
  });

  it('turned half round, a crossing leans as it did', () => {
    const chart = setMirror(cloth(8, 6), { axis: 8, turn: 6 }).chart;
    const made = mirrored(chart, 0, 0, [simpleCrossing('left', 2, 1, 'p')]);
    expect(made.rows[5]!.at(-1)).to.deep.equal(simpleCrossing('left', 2, 1, 'p'));
  });

  it('is refused where it stands beyond the chart, or a stitch has no image', () => {
    expect(() => setMirror(cloth(4, 4), { axis: 8 })).to.throw(EditError, 'beyond the 4 columns');
    expect(() => setMirror(cloth(4, 4), { axis: 4, turn: 9 })).to.throw(EditError, 'beyond the 4 rows');
    const chart = setMirror(cloth(8, 2), { axis: 8, turn: 2 }).chart;
    expect(() => mirrored(chart, 0, 0, ['yo'])).to.throw(EditError, 'no image on the other side');
  });
});

describe('the smallest true repeat', () => {
  const tiny = fc.constantFrom('a', 'b');

  it('is the one brute force finds', () => {
    fc.assert(
      fc.property(
        fc.array(tiny, { minLength: 2, maxLength: 14 }),
        fc.array(fc.boolean(), { minLength: 15 }),
        (list, cuts) => {
          const canCut = (at: number) => at === 0 || at === list.length || cuts[at]!;
          let most = 0;
          let shortest = 0;
          for (let n = 1; 2 * n <= list.length; n++)
            for (let at = 0; at + 2 * n <= list.length; at++)
              for (let t = 2; at + t * n <= list.length; t++) {
                const holds =
                  [at, at + n, at + t * n].every(canCut) &&
                  [...Array((t - 1) * n).keys()].every((i) => list[at + i] === list[at + i + n]);
                if (holds && t * n > most) [most, shortest] = [t * n, n];
              }
          const found = shownRepeat(list.length, (a, b) => list[a] === list[b], canCut);
          expect(found ? [found.times * found.length, found.length] : [0, 0]).to.deep.equal([most, shortest]);
        },
      ),
      { numRuns: 800 },
    );
  });

  it('is taken at a click, and the piece stays as it was', () => {
    const row = (s: Stitch): Row => ['k', ...[1, 2, 3].flatMap(() => [s, s, 'p'] as Stitch[]), 'k'];
    const rows = [row('k'), row('p'), row('k'), row('p'), row('k'), row('p')];
    const chart = setUp(
      setAcross(ChartSchema.parse({ width: 11, rows }), { before: 1, after: 1, times: 2, least: 1 }).chart,
      { setup: 0, closing: 0, times: 2 },
    ).chart;
    expect(checkChart(chart).filter((f) => f.id === 'repeat-longer-than-true')).to.have.length(2);
    const piece = expandPiece(chart).map((r) => r.stitches);
    const across = takeAcross(chart).chart;
    expect(across.across).to.deep.equal({ before: 1, after: 1, times: 6, least: 3 });
    expect(across.width).to.equal(5);
    const both = takeUp(across).chart;
    expect(both.up).to.deep.equal({ setup: 0, closing: 0, times: 6 });
    expect(both.rows).to.have.length(2);
    expect(expandPiece(both).map((r) => r.stitches)).to.deep.equal(piece);
    expect(() => takeUp(both)).to.throw(EditError, 'No smaller repeat up');
  });

  it('is seen where none is declared, and where another is', () => {
    const eight = (n: number): Row =>
      n % 8 < 4 ? times(4, 'k') : n % 8 === 6 ? times(4, 'ktbl') : times(4, 'p');
    const tall = ChartSchema.parse({ width: 4, rows: Array.from({ length: 16 }, (_, r) => eight(r)) });
    expect(betterUp(tall)).to.deep.equal({ before: 0, length: 8, times: 2, after: 0, isPart: false });
    // People say six rows and work eight.
    const six = setUp(tall, { setup: 0, closing: 10, times: 1 }).chart;
    expect(betterUp(six)).to.deep.include({ length: 8, times: 2, isPart: false });
    // Rows of a last pass of the six say nothing of the eight.
    const ended = setUp(tall, { setup: 0, closing: 10, times: 3, end: 4 }).chart;
    expect(takeUp(ended).chart.up).to.deep.equal({ setup: 0, closing: 0, times: 2 });
    expect(takeUp(ended).chart.rows).to.deep.equal(tall.rows.slice(0, 8));
    expect(betterAcross(tall)).to.deep.equal({ before: 0, length: 1, times: 4, after: 0, isPart: false });
  });
});

describe('a rope drawn with the hand', () => {
  const ground = () => cloth(10, 9);

  it('is carried there by crossings on right-side rows, purl under where the ground is purl', () => {
    const rope = ropeAt(ground(), 0, 2);
    expect(rope).to.deep.equal({ row: 0, column: 2, stitches: 2 });
    const { chart } = drawRope(ground(), rope, (r) => (r < 7 ? 2 + r : undefined));
    const crossing = simpleCrossing('left', 2, 2, 'p');
    expect(chart.rows[0]).to.deep.equal(['p', 'p', 'k', 'k', ...times(6, 'p')]);
    // Two columns in two rows: it moves as far as the hand did, on the next right-side row.
    expect(chart.rows[2]).to.deep.equal(['p', 'p', crossing, ...times(4, 'p')]);
    expect(chart.rows[4]).to.deep.equal([...times(4, 'p'), crossing, 'p', 'p']);
    expect(chart.rows[6]).to.deep.equal([...times(6, 'p'), crossing]);
    expect(chart.rows[8]).to.deep.equal([...times(8, 'p'), 'k', 'k']);
    expect(checkChart(chart).filter((f) => f.level === 'error')).to.have.length(0);
  });

  it('turns back the other way, one stitch at a time where the hand goes slowly', () => {
    const rope = ropeAt(ground(), 0, 6);
    const { chart } = drawRope(ground(), rope, (r) => 6 - Math.floor(r / 2));
    for (const r of [2, 4, 6, 8])
      expect(chart.rows[r]!.find(isCrossing), String(r)).to.deep.equal(simpleCrossing('right', 2, 1, 'p'));
  });

  it('goes on straight where a stitch is in the way, and stays on the chart', () => {
    const blocked = placeStitches(ground(), 2, 4, ['mb']).chart;
    const { chart } = drawRope(blocked, ropeAt(blocked, 0, 2), () => 30);
    expect(chart.rows[2]!.some(isCrossing)).to.equal(false);
    expect(chart.rows[7]).to.deep.equal([...times(6, 'p'), 'k', 'k', 'p', 'p']);
    expect(chart.rows[8]!.at(-1)).to.deep.equal(simpleCrossing('left', 2, 2, 'p'));
  });

  it('begins with the rope it is taken from, and not with a wide ground', () => {
    const rope = place(cloth(10, 4), 0, 3, times(3, 'k'));
    expect(ropeAt(rope, 1, 4)).to.deep.equal({ row: 1, column: 3, stitches: 3 });
    const wide = place(cloth(10, 4), 0, 0, times(10, 'k'));
    expect(() => ropeAt(wide, 0, 4)).to.throw(EditError, 'wider than a rope');
  });
});

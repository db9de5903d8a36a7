import { expect } from 'chai';
import {
  bookOf,
  ChartSchema,
  crossing,
  drawStitch,
  simpleCrossing,
  STITCH_KINDS,
  stitchBook,
  summarise,
  startDesign,
  workChart,
  type Stitch,
} from '../src/index.js';
import { cordCells } from '../src/ropes/strands.js';
import { drawCrossing } from '../src/drawing/cords.js';
import { loopOf } from '../src/needle/loop.js';

const P = (text: string): Stitch[] => [...text];

describe('the drawing of stitches', () => {
  it('has a mark of its own for every stitch, in both schools of plain cells', () => {
    for (const school of ['empty', 'bars'] as const) {
      const drawings = [...STITCH_KINDS.keys()].map((id) =>
        JSON.stringify(drawStitch(id, school, stitchBook())),
      );
      expect(new Set(drawings).size).to.equal(drawings.length);
    }
    expect(drawStitch('k', 'empty', stitchBook())).to.deep.equal([]);
  });

  it('paints the front group last, with a casing that interrupts what lies under it', () => {
    const shapes = drawCrossing(simpleCrossing('left', 2, 2));
    const first = (ink: string) => shapes.findIndex((s) => s.fill === ink);
    const casing = shapes.findIndex((s) => s.stroke === 'casing');
    expect(first('under')).to.be.lessThan(casing);
    expect(casing).to.be.lessThan(first('left'));
    expect(shapes.filter((s) => s.fill === 'left')).to.have.length(2);
  });

  it('shows purl stitches of a crossing by the purl mark and a centre group deepest', () => {
    const shapes = drawCrossing(crossing('right', ['k', 'k'], ['p'], ['k']));
    expect(shapes.filter((s) => s.fill === 'mark')).to.have.length(1);
    expect(shapes[0]).to.include({ fill: 'under' });
  });

  it('draws no two crossings alike', () => {
    const all = [
      simpleCrossing('left', 2, 2),
      simpleCrossing('right', 2, 2),
      simpleCrossing('left', 2, 2, 'p'),
      simpleCrossing('left', 3, 1),
      crossing('left', ['ktbl', 'k'], ['k', 'k']),
    ];
    expect(new Set(all.map((c) => JSON.stringify(drawCrossing(c)))).size).to.equal(all.length);
  });
});

describe('following the loops', () => {
  const L = simpleCrossing('left', 2, 1, 'p');
  const chart = ChartSchema.parse({ width: 6, rows: [P('pkkppk'), ['p', L, 'p', 'k'], P('ppkkpk')] });

  it('finds the cords: knit strands that are crossed, along their whole length', () => {
    expect(cordCells(chart).map((row) => [...row])).to.deep.equal([
      [0, 1, 1, 0, 0, 0],
      [0, 0, 0, 0, 0, 0],
      [0, 0, 1, 1, 0, 0],
    ]);
  });

  it('works the rows over live loops', () => {
    const works = workChart(chart);
    expect(works[1]).to.deep.include({ takes: 6, makes: 6, lacks: 0, from: [0, 3, 1, 2, 4, 5] });
    expect(works[1]!.loops.map(({ face }) => face[0]).join('')).to.equal('ppkkpk');
  });

  it('keeps the face of a slipped loop', () => {
    const slipped = ChartSchema.parse({ width: 2, rows: [P('kp'), ['slyb', 'slyf']] });
    expect(workChart(slipped)[1]!.loops).to.deep.equal([loopOf('knit', false, 1), loopOf('purl', false, 1)]);
  });

  it('works an edited row again and shares what did not change', () => {
    const before = workChart(chart);
    const after = workChart({ ...chart, rows: [chart.rows[0]!, P('pkkppk'), chart.rows[2]!] });
    expect(after[0]).to.equal(before[0]);
    expect(after[1]).not.to.equal(before[1]);
    expect(bookOf(chart)).to.equal(bookOf({ own: chart.own, construction: 'flat' }));
  });

  it('are told on a card of the workroom', () => {
    const card = summarise(startDesign('00000000-0000-4000-8000-000000000001', 'x', chart));
    expect(card).to.include({ columns: 6, rows: 3, castOn: 6, errors: 0 });
    expect(card.preview.rows).to.have.length(3);
  });
});

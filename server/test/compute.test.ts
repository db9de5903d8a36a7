import { expect } from 'chai';
import request from 'supertest';
import { testApp, type Api } from './support.js';

const L22 = { lean: 'left', front: ['k', 'k'], back: ['k', 'k'] };
const chart = {
  width: 8,
  rows: [[...'ppkkkkpp'], [...'ppkkkkpp'], ['p', 'p', L22, 'p', 'p'], [...'ppkkkkpp']],
  across: { before: 1, after: 1, times: 3 },
};

describe('the core over HTTP', () => {
  let api: Api;
  before(async () => {
    api = await testApp();
  });
  after(() => api.close());
  const post = (path: string, body: object) => request(api.app).post(`/api/${path}`).send(body);

  it('checks a chart: counts, cast-on, multiple, findings', async () => {
    const { body } = await post('check', { chart }).expect(200);
    expect(body.castOn).to.equal(20);
    expect(body.multiple).to.deep.equal({ of: 6, plus: 2 });
    expect(body.findings).to.deep.equal([]);
    expect(body.counts[1]).to.deep.equal({ row: 2, side: 'WS', takes: 20, makes: 20 });
  });

  it('spreads increases over a row, and says what one row cannot do', async () => {
    const { body } = await post('spread', { from: 20, to: 29 }).expect(200);
    expect(body).to.deep.include({ words: 'k2, M1, [k2, M1] 8 times, k2', kind: 'increase', by: 'between' });
    expect(body.positions).to.deep.equal([2, 4, 6, 8, 10, 12, 14, 16, 18]);
    expect(body).not.to.have.property('problem');
    const wide = await post('spread', { from: 10, to: 21 }).expect(200);
    expect(wide.body).to.deep.include({ words: '', positions: [] });
    expect(wide.body.problem).to.contain('two rows');
    for (const [wrong, path] of [
      [{ from: 0, to: 9 }, 'from'],
      [{ from: 9, to: 1e9 }, 'to'],
      [{ from: 9, to: 10, kind: 'grow' }, 'kind'],
    ] as const)
      expect((await post('spread', wrong).expect(400)).body.error.path).to.equal(path);
  });

  it('fits a piece to a width, and says when nothing comes near', async () => {
    const gauge = { count: 20, over: 10 };
    const filling = { kind: 'filling', of: 12, plus: 2 };
    const edge = { kind: 'fixed', stitches: 2 };
    const { body } = await post('fit', {
      parts: [edge, filling, { kind: 'gap', stitches: 6 }, edge],
      gauge,
      target: { width: 48 },
    }).expect(200);
    expect(body.isWhole).to.be.true;
    expect(body.solutions[0]).to.deep.equal({
      ...{ castOn: 96, width: 48, off: 0, repeats: [7], gaps: [6], uneven: 1, moved: 0 },
    });
    const inches = await post('fit', {
      parts: [filling],
      gauge: { count: 20, over: 4, unit: 'in' },
      target: { width: 19, unit: 'in', within: 0.1 },
    }).expect(200);
    expect(inches.body.solutions[0]).to.deep.include({ castOn: 98, repeats: [8], width: 19.6 });
    expect(inches.body.problem).to.equal(
      'Nothing comes within 0.1 in of 19 in; the nearest are 19½ in and 17¼ in.',
    );
    for (const [wrong, path] of [
      [{ parts: [filling], target: { width: 48 } }, 'parts.0.gauge'],
      [{ parts: [filling], gauge, target: { width: -1 } }, 'target.width'],
      [{ parts: [filling], gauge: { count: 900, over: 1 }, target: { width: 48 } }, 'gauge'],
      [{ parts: [{ ...filling, of: 0 }], gauge, target: { width: 48 } }, 'parts.0.of'],
      [{ parts: [{ ...filling, least: 4, most: 2 }], gauge, target: { width: 48 } }, 'parts.0.most'],
      [{ parts: [], gauge, target: { width: 48 } }, 'parts'],
      [{ parts: [filling], gauge, target: { width: 5000 } }, 'target.width'],
    ] as const)
      expect((await post('fit', wrong).expect(400)).body.error.path, JSON.stringify(wrong)).to.equal(path);
  });

  it('sets charts out in a piece, in words and numbers for each size', async () => {
    const cross = { lean: 'left', front: ['k', 'k'], back: ['k', 'k'] };
    const row = ['p', 'k', 'k', 'k', 'k', 'p'];
    const rope = { id: 'rope', name: 'Rope', width: 6, rows: [row, row, ['p', cross, 'p'], row] };
    const measured = { count: 20, over: 100_000 };
    const asked = {
      charts: [rope],
      piece: {
        parts: [
          { id: 'a', kind: 'ground', stitches: 8, pair: 'x' },
          { id: 'b', kind: 'panel', chart: 'rope', gauge: { stitches: measured } },
          { id: 'c', kind: 'ground', stitches: 8, pair: 'x' },
        ],
        gauge: { plain: { stitches: measured, rows: measured } },
        border: { bottom: { kind: 'rib', rows: 4, changes: 'none' } },
        sizes: [
          { id: 's', name: 'S', measure: 110_000 },
          { id: 'm', name: 'M', measure: 130_000, counts: { a: 10, c: 10 } },
        ],
      },
    };
    const { body } = await post('piece', asked).expect(200);
    expect(body.checked, body.problems.join()).to.be.true;
    expect(body.sizes.map((s: { castOn: number; width: number }) => [s.castOn, s.width])).to.deep.equal([
      [22, 110_000],
      [26, 130_000],
    ]);
    expect(body.sizes[0].parts.map((p: { from: number }) => p.from)).to.deep.equal([1, 9, 15]);
    expect(body.sizes[0].fit.ways[0]).to.include({ off: 0, castOn: 22 });
    expect(body.sections[0].before).to.deep.equal(['Cast on 22 (26) sts.']);
    expect(body.sections[2].rows[0].words).to.equal(
      'p8 (10), pm, work row 1 of Rope over the next 6 sts, pm, p8 (10). (22 (26) sts)',
    );
    expect(body.text)
      .to.match(/^Worked over 6 sts\.$/m)
      .and.match(/^Key$/m);
    const gone = await post('piece', { ...asked, charts: [{ ...rope, id: 'other' }] }).expect(200);
    expect(gone.body).to.deep.include({ checked: false, sections: [] });
    expect(gone.body.problems[0]).to.match(/has no more/);
    const sizes = Array.from({ length: 20 }, (_, i) => ({ id: `${i}`, name: `${i}`, counts: { a: 500 } }));
    await post('piece', { ...asked, piece: { ...asked.piece, sizes } }).expect(413);
    for (const [wrong, path] of [
      [{ sizes: [] }, 'piece.sizes'],
      [{ parts: [{ id: 'a', kind: 'ground', stitches: -1 }] }, 'piece.parts.0.stitches'],
      [{ gauge: { plain: { stitches: { count: 9000, over: 1000 } } } }, 'piece.gauge.plain.stitches.count'],
      [{ sizes: [{ id: 's', name: 'S', measure: 0 }] }, 'piece.sizes.0.measure'],
    ] as const)
      expect(
        (await post('piece', { ...asked, piece: { ...asked.piece, ...wrong } }).expect(400)).body.error.path,
      ).to.equal(path);
  });

  it('expands a chart into the piece as it is worked', async () => {
    const rows = [
      ['p', 'k', 'p'],
      ['p', 'yo', 'none'],
      ['p', 'k', 'p'],
      ['k', 'k', 'k'],
    ];
    const small = {
      width: 3,
      rows,
      across: { before: 1, after: 1, times: 2 },
      up: { setup: 1, closing: 1, times: 2 },
    };
    const { body } = await post('expand', { chart: small }).expect(200);
    const told = (b: { rows: { row: number; side: string; stitches: string[] }[] }) =>
      b.rows.map((r) => `${r.row} ${r.side} ${r.stitches.join('')}`);
    expect(told(body)).to.deep.equal([
      ...['1 RS pkkp', '2 WS pyoyo', '3 RS pkkp', '2 WS pyoyo', '3 RS pkkp', '4 WS kkkk'],
    ]);
    const once = await post('expand', { chart: small, times: 1, passes: 1 }).expect(200);
    expect(told(once.body)).to.deep.equal(['1 RS pkp', '2 WS pyo', '3 RS pkp', '4 WS kkk']);
    const across = { before: 3, after: 1, times: 2 };
    const cut = await post('expand', { chart: { ...chart, across } }).expect(400);
    expect(cut.body.error).to.deep.include({ path: 'chart.rows.2' });
    await post('expand', { chart, times: 501 }).expect(400);
    const tall = {
      ...chart,
      up: { setup: 0, closing: 0, times: 500 },
      across: { before: 1, after: 1, times: 400 },
    };
    await post('expand', { chart: tall }).expect(413);
  });

  it('finds what is wrong and offers the mend', async () => {
    const short = { ...chart, rows: [...chart.rows.slice(0, 3), [...'ppkkkkp']] };
    const { body } = await post('check', { chart: short }).expect(200);
    expect(body.findings[0]).to.deep.include({ id: 'row-short', level: 'error', row: 4, columns: [8, 8] });
    expect(body.findings[0].fix.steps).to.have.length(1);
  });

  it('writes a chart in a school and says that it was checked', async () => {
    const { body } = await post('write', {
      chart,
      school: 'total-hold',
      style: { wsRows: 'presented' },
    }).expect(200);
    expect(body).to.deep.include({ checked: true, castOn: 20, against: [1, 3, 4] });
    expect(body.rows[2]).to.deep.include({ row: 3, side: 'RS', count: 20 });
    expect(body.rows[2].text).to.equal('Row 3 (RS): p1, *p1, C4F, p1; rep from * to last st, p1. (20 sts)');
  });

  it('reads what it wrote back into the same rows', async () => {
    const written = await post('write', { chart, school: 'front-back' });
    const { body } = await post('read', {
      text: written.body.text,
      construction: 'flat',
      firstRow: 'RS',
    }).expect(200);
    expect(body.problems).to.deep.equal([]);
    expect(body.chart.rows.map((r: unknown[]) => r.length)).to.deep.equal(chart.rows.map((r) => r.length));
    expect(body.chart.across).to.include({ before: 1, after: 1, times: 3 });
  });

  it('says row by row what does not add up in a text', async () => {
    const { body } = await post('read', {
      text: 'Cast on 24.\nRow 1: k23.',
      construction: 'flat',
      firstRow: 'RS',
    }).expect(200);
    expect(body.problems[0]).to.deep.include({ id: 'row-leaves-stitches', level: 'error', row: 1 });
  });

  for (const [what, path, body, at] of [
    ['an unknown stitch', 'check', { chart: { ...chart, rows: [['k', 'wobble']] } }, 'chart.rows.0.1'],
    ['an unknown school', 'write', { chart, school: 'ours' }, 'school'],
    ['a chart without rows', 'check', { chart: { width: 3, rows: [] } }, 'chart.rows'],
    ['a text of nothing', 'read', { text: '', construction: 'flat' }, 'text'],
    ['an unknown construction', 'read', { text: 'Row 1: k1.', construction: 'sideways' }, 'construction'],
    ['a field nobody knows', 'check', { chart, colour: 1 }, ''],
  ] as const)
    it(`refuses ${what} with 400 and where it is wrong`, async () => {
      const answer = await post(path, body).expect(400);
      expect(answer.body.error.message).to.be.a('string');
      expect(answer.body.error.path ?? '').to.equal(at);
    });

  it('refuses a piece too large to prove at once with 413', async () => {
    const rows = Array.from({ length: 1000 }, () => Array(100).fill('k'));
    const { body } = await post('write', {
      chart: { width: 100, rows, across: { before: 0, after: 0, times: 500 } },
    }).expect(413);
    expect(body.error.path).to.equal('chart.across.times');
  });
});

describe('both sides of a cloth, over HTTP', () => {
  let api: Awaited<ReturnType<typeof testApp>>;
  before(async () => {
    api = await testApp();
  });
  after(() => api.close());
  const post = (path: string, body: object) => request(api.app).post(`/api/${path}`).send(body);

  it('turns a chart over, and back', async () => {
    const chart = {
      width: 4,
      rows: [['k', 'k', 'k', 'p'], [{ lean: 'left', front: ['k', 'k'], back: ['p', 'p'] }]],
    };
    const { body } = await post('turn', { chart }).expect(200);
    expect(body.chart.rows[0]).to.deep.equal(['k', 'p', 'p', 'p']);
    expect(body.chart.rows[1][0]).to.deep.include({ lean: 'left', front: ['k', 'k'], back: ['p', 'p'] });
    expect(body.chart.firstRow).to.equal('WS');
    const again = await post('turn', { chart: body.chart }).expect(200);
    expect(again.body.chart.rows[0]).to.deep.equal(chart.rows[0]);
    await post('turn', { chart: { width: 0, rows: [] } }).expect(400);
  });

  it('counts loops of double knitting, its pairs, and when its colours are home', async () => {
    const crossed = { lean: 'left', front: ['k', 'k'], back: ['p', 'p'] };
    const rows = Array.from({ length: 8 }, (_, r) =>
      r < 2 ? ['k', 'k', 'p', 'p'] : r === 2 ? [crossed] : ['p', 'p', 'k', 'k'],
    );
    const chart = { width: 4, construction: 'double', rows };
    const { body } = await post('check', { chart }).expect(200);
    expect(body).to.deep.include({ castOn: 8, pairs: 4, home: { repeats: 2, rows: 16 } });
    expect(body.counts[0]).to.deep.include({ takes: 8, makes: 8 });
    const flat = await post('check', { chart: { ...chart, construction: 'flat' } }).expect(200);
    expect(flat.body).to.deep.include({ castOn: 4 }).and.not.to.have.any.keys('pairs', 'home');
    const written = await post('write', { chart }).expect(200);
    expect([written.body.checked, written.body.castOn, written.body.pairs]).to.deep.equal([true, 8, 4]);
  });

  it('lists what an operator does for a chart, and runs any list', async () => {
    const rope = (r: number) => (r === 2 ? [L22] : ['k', 'k', 'k', 'k']);
    const rows = Array.from({ length: 6 }, (_, r) => ['p', ...rope(r), 'p']);
    const { body } = await post('machine', { chart: { width: 6, rows }, method: 'basic' }).expect(200);
    expect(body).to.deep.include({ checked: true, rows: 6, problems: [] });
    expect(body.actions).to.have.length(1);
    const list = { setup: body.setup, actions: body.actions, rows: body.rows };
    const run = await post('machine/run', list).expect(200);
    expect(run.body.chart.rows.length).to.equal(6);
    expect(run.body.grown).to.deep.equal([]);
    await post('machine/run', { ...list, setup: { back: ['M1'], front: [] } }).expect(400);
    await post('machine', { chart: { width: 6, rows }, method: 'by hand' }).expect(400);
  });
});

import { applyChange, type Change, type Design } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import {
  appOn,
  cardOf,
  someDesign,
  stitchChange,
  testApp,
  titleChange,
  heardAll,
  workers,
  onEither,
  type Api,
} from './support.js';

onEither('changes over HTTP', (open) => {
  let api: Api;
  let design: Design;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());
  beforeEach(async () => {
    design = someDesign();
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
  });
  const send = (base: number, ...changes: Change[]) =>
    request(api.app).post(`/api/designs/${design.id}/changes`).send({ base, changes });
  const opened = async () => (await request(api.app).get(`/api/designs/${design.id}`).expect(200)).body;

  it('are saved as what they are, and make the document', async () => {
    const [one, two, three] = [
      stitchChange(0, 'p', 'k'),
      stitchChange(1, 'p', 'mb'),
      titleChange(design, 'Now'),
    ];
    expect((await send(1, one, two).expect(200)).body).to.include({ version: 2 });
    expect((await send(2, three).expect(200)).body).to.include({ version: 3 });
    const { document, version } = await opened();
    expect(version).to.equal(3);
    expect(document).to.deep.equal(JSON.parse(JSON.stringify([one, two, three].reduce(applyChange, design))));
    // And so they do from what the database holds, with nothing remembered.
    const fresh = (await appOn(api.db)).app;
    expect((await request(fresh).get(`/api/designs/${design.id}`)).body.document).to.deep.equal(document);
  });

  it('are read back without the document being made or checked again', async () => {
    await send(1, stitchChange(0, 'p', 'k')).expect(200);
    const first = await opened();
    const { keeper } = workers;
    const run = keeper.run.bind(keeper);
    let asked = 0;
    keeper.run = (...job) => (asked++, run(...job));
    try {
      expect(await opened()).to.deep.equal(first);
      const tagged = request(api.app).get(`/api/designs/${design.id}`).set('If-None-Match', '"2"');
      await tagged.expect(304);
    } finally {
      keeper.run = run;
    }
    expect(asked).to.equal(0);
  });

  it('made for an older version are answered with what was saved since', async () => {
    const theirs = stitchChange(0, 'p', 'k');
    await send(1, theirs).expect(200);
    const { body } = await send(1, stitchChange(1, 'p', 'k')).expect(409);
    expect(body.error.message).to.contain('Nothing was overwritten');
    expect(body).to.deep.include({ version: 2 });
    expect(body.since.map((s: { version: number; changes: Change[] }) => s.changes)).to.deep.equal([
      [JSON.parse(JSON.stringify(theirs))],
    ]);
    const asked = await request(api.app).get(`/api/designs/${design.id}/changes?since=1`).expect(200);
    expect(asked.body.since).to.deep.equal(body.since);
    await request(api.app).get(`/api/designs/${design.id}/changes?since=none`).expect(400);
  });

  it('whose answer was lost are known again, with more after them or not', async () => {
    const [one, two] = [stitchChange(0, 'p', 'k'), stitchChange(1, 'p', 'k')];
    await send(1, one).expect(200);
    expect((await send(1, one).expect(200)).body).to.include({ version: 2 });
    expect((await send(1, one, two).expect(200)).body).to.include({ version: 3 });
    expect((await opened()).document.charts[0].rows.map((r: string[]) => r[0])).to.deep.equal([
      ...['k', 'k', 'p', 'p'],
    ]);
    // What another saved between is theirs: that is for the page to join.
    await send(3, stitchChange(2, 'p', 'k')).expect(200);
    await send(2, two, stitchChange(3, 'p', 'k')).expect(409);
  });

  it('let only one of three saves from the same version through', async () => {
    const saves = await Promise.all([0, 1, 2].map((row) => send(1, stitchChange(row, 'p', 'k'))));
    expect(saves.map((s) => s.status).sort()).to.deep.equal([200, 409, 409]);
  });

  it('that do not fit, or make no design, are refused and nothing is changed', async () => {
    const misfit = await send(1, stitchChange(0, 'k', 'p')).expect(400);
    expect(misfit.body.error).to.deep.include({ path: 'changes.0' });
    const wide: Change = {
      id: randomUUID(),
      label: '',
      steps: [
        {
          kind: 'set',
          path: ['charts', 'chart', 'across'],
          was: null,
          now: { before: 9, after: 9, times: 9999 },
        },
      ],
    };
    await send(1, wide).expect(400);
    await send(1).expect(400);
    await send(0, stitchChange(0, 'p', 'k')).expect(400);
    await send(2, stitchChange(0, 'p', 'k')).expect(409);
    expect(await opened()).to.deep.include({ version: 1 });
  });

  it('of a design that was taken out are answered with 404, and come again when it is put back', async () => {
    await request(api.app).delete(`/api/designs/${design.id}`).expect(204);
    await send(1, stitchChange(0, 'p', 'k')).expect(404);
    await request(api.app).post(`/api/designs/${design.id}/restore`).expect(204);
    await send(1, stitchChange(0, 'p', 'k')).expect(200);
  });

  it('show on the card of the design', async () => {
    await send(1, {
      ...stitchChange(0, 'p', 'k'),
      steps: [{ kind: 'cells', chart: 'chart', row: 0, column: 0, was: ['p'], now: [] }],
    });
    const card = await cardOf(api.app, design.id, 2);
    expect(card).to.deep.include({ version: 2, summaryVersion: 2 });
    expect(card.summary!.errors).to.equal(1);
  });

  it('are told to every page that listens', async () => {
    const heard: unknown[] = [];
    // That it was made is heard too, before or after.
    const stop = api.workroom.listen((h) => void (h !== 'missed' && h.kind !== 'made' && heard.push(h)));
    await send(1, stitchChange(0, 'p', 'k')).expect(200);
    await request(api.app).delete(`/api/designs/${design.id}`).expect(204);
    await heardAll(heard, 2);
    stop();
    expect(heard).to.deep.equal([
      { of: 'design', id: design.id, kind: 'saved', version: 2 },
      { of: 'design', id: design.id, kind: 'taken-out' },
    ]);
  });
});

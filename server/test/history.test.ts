import { expect } from 'chai';
import request from 'supertest';
import { thinned } from '../src/store/thinning.js';
import { appOn, someDesign, stitchChange, testApp, titleChange, onEither, type Api } from './support.js';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

describe('versions thinned by age', () => {
  const now = new Date('2026-11-25T12:30:00Z');
  const ago = (ms: number) => new Date(now.getTime() - ms);

  it('keep all of the last hour, then the last of each hour, day and week', () => {
    // One save every ten minutes for ten weeks, the newest last.
    const count = (70 * DAY) / (10 * MINUTE);
    const moments = Array.from({ length: count }, (_, i) => ({
      version: i + 1,
      savedAt: ago((count - 1 - i) * 10 * MINUTE),
    }));
    const versions = thinned(moments, now);
    const kept = moments.filter((m) => versions.has(m.version));
    const within = (from: number, to: number) =>
      kept.filter((m) => m.savedAt <= ago(from) && m.savedAt > ago(to)).length;
    expect(within(0, HOUR)).to.equal(6);
    expect(within(HOUR, DAY)).to.equal(24);
    expect(within(DAY, 28 * DAY)).to.equal(28);
    expect(within(28 * DAY, 70 * DAY)).to.be.within(6, 7);
    expect(kept.at(-1)!.version).to.equal(count);
  });

  it('keep what is named, and it stands for its hour', () => {
    const moments = [
      { version: 1, savedAt: ago(3 * HOUR), name: 'sent to the editor' },
      { version: 2, savedAt: ago(3 * HOUR - MINUTE) },
      { version: 3, savedAt: ago(3 * HOUR - 2 * MINUTE) },
    ];
    expect([...thinned(moments, now)].sort()).to.deep.equal([1, 3]);
  });
});

onEither('the history of a design', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());

  it('is listed with what was done, opened as it was, named, and outlives the hours', async () => {
    const design = someDesign('First');
    const at = `/api/designs/${design.id}`;
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    const save = (base: number, change: object) =>
      request(api.app)
        .post(`${at}/changes`)
        .send({ base, changes: [change] })
        .expect(200);
    await save(1, stitchChange(0, 'p', 'k'));
    await save(2, titleChange(design, 'Second'));
    const { body } = await request(api.app).get(`${at}/revisions`).expect(200);
    expect(body.revisions.map((m: { label: string | null }) => m.label)).to.deep.equal([
      'rename',
      'row 1',
      null,
    ]);
    const earlier = await request(api.app).get(`${at}/revisions/2`).expect(200);
    expect(earlier.body).to.deep.include({ version: 2 });
    expect(earlier.body.document.title).to.equal('First');
    expect(earlier.body.document.charts[0].rows[0][0]).to.equal('k');
    await request(api.app).get(`${at}/revisions/9`).expect(404);

    await request(api.app).put(`${at}/revisions/2`).send({ name: ' Swatched ' }).expect(204);
    await request(api.app).put(`${at}/revisions/9`).send({ name: 'x' }).expect(404);
    await request(api.app).put(`${at}/revisions/2`).send({ name: '' }).expect(400);

    // A day passes; the next save takes a snapshot of what was, and lets the small steps go.
    for (const table of ['changes', 'snapshots', 'documents'])
      await api.db.query(`update ${table} set saved_at = saved_at - interval '25 hours'`);
    const { workroom, app } = await appOn(api.db);
    await request(app)
      .post(`${at}/changes`)
      .send({ base: 3, changes: [stitchChange(1, 'p', 'k')] })
      .expect(200);
    const left = await workroom.designs.moments(design.id);
    expect(left.map((m) => [m.version, m.name])).to.deep.equal([
      [4, null],
      [3, null],
      [2, 'Swatched'],
    ]);
    for (const [version, title] of [
      [4, 'Second'],
      [3, 'Second'],
      [2, 'First'],
    ] as const) {
      const found = await request(app).get(`${at}/revisions/${version}`).expect(200);
      expect(found.body.document.title).to.equal(title);
    }
    await request(app).get(`${at}/revisions/1`).expect(404);
    // A page that was away so long joins the whole document instead.
    const stale = await request(app)
      .post(`${at}/changes`)
      .send({ base: 1, changes: [stitchChange(2, 'p', 'k')] })
      .expect(409);
    expect(stale.body).to.deep.include({ version: 4, since: null });
  });

  it('holds every version of the last hour, however many, from few snapshots', async () => {
    const design = someDesign('Busy');
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    const saves = 650;
    for (let base = 1; base <= saves; base++)
      await api.workroom.designs.save(
        design.id,
        'changes',
        Buffer.from(
          JSON.stringify({ base, changes: [stitchChange(0, base % 2 ? 'p' : 'k', base % 2 ? 'k' : 'p')] }),
        ),
      );
    expect(await api.workroom.designs.moments(design.id)).to.have.length(saves + 1);
    const rows = await api.db.query('select version from snapshots where document_id = $1', [design.id]);
    expect(rows).to.have.length.within(2, 3);
    for (const version of [2, 333, saves]) {
      const { document } = JSON.parse(
        (await api.workroom.designs.openEarlier(design.id, version)).plain.toString(),
      );
      expect(document.charts[0].rows[0][0]).to.equal(version % 2 ? 'p' : 'k');
    }
  });
});

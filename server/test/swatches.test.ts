import { gramsPerLoop, SWATCH, SwatchSchema, type Step, type Swatch, THE_STUDIO } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { DocumentStore, TooMany } from '../src/store/documents.js';
import { pack } from '../src/store/packing.js';
import { appOn, testApp, onEither, type Api } from './support.js';

const someSwatch = (name: string, more: object = {}): Swatch =>
  SwatchSchema.parse({
    id: randomUUID(),
    name,
    needle: 4,
    yarn: 'Moraine worsted',
    after: { stitches: [{ count: 26, over: 100_000 }], rows: [{ count: 31, over: 101_600 }] },
    ...more,
  });

const PNG = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(40, 7)]);
const JPEG = Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), Buffer.alloc(900, 1)]);

onEither('the swatch book', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());
  const make = (swatch: object, status = 201) =>
    request(api.app).post('/api/swatches').send({ document: swatch }).expect(status);
  const save = (id: string, base: number, steps: Step[], status = 200) =>
    request(api.app)
      .post(`/api/swatches/${id}/changes`)
      .send({ base, changes: [{ id: randomUUID(), label: 'measured', steps }] })
      .expect(status);
  const photo = (id: string, bytes: Buffer, status = 200) =>
    request(api.app).put(`/api/swatches/${id}/photo`).type('image/png').send(bytes).expect(status);
  const list = async (app = api.app) =>
    (await request(app).get('/api/swatches').expect(200)).body.swatches as {
      swatch: Swatch;
      version: number;
      savedAt: string;
      photoAt: string | null;
    }[];

  it('keeps swatches as they were measured, the newest first, and is there after a new start', async () => {
    expect(await list()).to.deep.equal([]);
    const [first, second] = [someSwatch('Cables'), someSwatch('Plain', { cloth: 'plain', weight: 4 })];
    await make(first);
    await make(second);
    const changed = { ...first, grams: 31.5, whole: { stitches: 40, rows: 50 } };
    const { body } = await save(first.id, 1, SWATCH.between(first, changed));
    const kept = await list((await appOn(api.db)).app);
    expect(kept.map(({ swatch }) => swatch)).to.deep.equal([second, changed]);
    expect(kept[1]).to.deep.include({ version: 2, savedAt: body.savedAt });
    expect(gramsPerLoop(kept[1]!.swatch)).to.equal(31.5 / 2000);
    await make(second, 409);
    await request(api.app).delete(`/api/swatches/${second.id}`).expect(204);
    await request(api.app).delete(`/api/swatches/${second.id}`).expect(404);
    expect(await list()).to.have.length(1);
    await save(second.id, 1, [{ kind: 'set', path: ['name'], was: 'Plain', now: 'x' }], 404);
  });

  it('lets nobody overwrite what another measured: who comes late is told what was saved since', async () => {
    const swatch = someSwatch('Two hands');
    await make(swatch);
    const mine: Step = { kind: 'set', path: ['grams'], was: null, now: 30 };
    await save(swatch.id, 1, [mine]);
    const late = await save(swatch.id, 1, [{ kind: 'set', path: ['notes'], was: '', now: 'soft' }], 409);
    expect(late.body.since[0].changes[0].steps).to.deep.equal([mine]);
    const put = (base: number, status: number) =>
      request(api.app)
        .put(`/api/swatches/${swatch.id}`)
        .send({ base, document: { ...swatch, needle: 5 } })
        .expect(status);
    await put(1, 409);
    await put(2, 200);
    const { body } = await request(api.app).get(`/api/swatches/${swatch.id}`).expect(200);
    expect(body).to.deep.include({ version: 3, document: { ...swatch, needle: 5 } });
    const { body: back } = await request(api.app).get(`/api/swatches/${swatch.id}/revisions`).expect(200);
    expect(back.revisions).to.have.length(3);
  });

  it('keeps a photo beside a swatch, told by its bytes and not by its name, out with the swatch and back with it', async () => {
    const swatch = someSwatch('Photographed');
    await photo(swatch.id, PNG, 404);
    await make(swatch);
    await request(api.app).get(`/api/swatches/${swatch.id}/photo`).expect(404);
    await photo(swatch.id, PNG);
    // Sent as a PNG, and none.
    await photo(swatch.id, JPEG);
    const got = await request(api.app).get(`/api/swatches/${swatch.id}/photo`).expect(200);
    expect(got.headers['content-type']).to.equal('image/jpeg');
    expect(got.headers['x-content-type-options']).to.equal('nosniff');
    expect(Buffer.compare(got.body as Buffer, JPEG)).to.equal(0);
    expect((await list()).find((s) => s.swatch.id === swatch.id)!.photoAt).to.be.a('string');
    for (const none of [
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'),
      Buffer.from('GIF89a...'),
      Buffer.from([0xff]),
    ])
      expect((await photo(swatch.id, none, 400)).body.error.message).to.contain('JPEG, PNG or WebP');
    await photo(swatch.id, Buffer.concat([PNG, Buffer.alloc(4 * 1024 * 1024)]), 413);
    // What was refused has not touched the one before.
    await request(api.app).get(`/api/swatches/${swatch.id}/photo`).expect('content-type', 'image/jpeg');
    await request(api.app).delete(`/api/swatches/${swatch.id}/photo`).expect(204);
    await request(api.app).get(`/api/swatches/${swatch.id}/photo`).expect(404);
    await photo(swatch.id, PNG);
    await request(api.app).delete(`/api/swatches/${swatch.id}`).expect(204);
    await request(api.app).get(`/api/swatches/${swatch.id}/photo`).expect(404);
    await photo(swatch.id, JPEG, 404);
    await request(api.app).post(`/api/swatches/${swatch.id}/restore`).expect(204);
    await request(api.app).get(`/api/swatches/${swatch.id}/photo`).expect('content-type', 'image/png');
  });

  for (const [what, wrong, path] of [
    ['no name', { name: ' ' }, 'name'],
    [
      'a reading of nothing',
      { after: { stitches: [{ count: 0, over: 100_000 }], rows: [] } },
      'after.stitches.0.count',
    ],
    [
      'a reading over nothing',
      { after: { stitches: [{ count: 9, over: -5 }], rows: [] } },
      'after.stitches.0.over',
    ],
    ['an absurd gauge', { before: { stitches: [], rows: [{ count: 900, over: 10_000 }] } }, 'before.rows.0'],
    ['a needle like a log', { needle: 400 }, 'needle'],
    ['a weight the trade has not', { weight: 8 }, 'weight'],
    ['a field nobody knows', { colour: 'red' }, undefined],
    ['another id', { id: randomUUID() }, 'document.id'],
  ] as const)
    it(`refuses ${what}, says where, and keeps what was`, async () => {
      const swatch = someSwatch('Kept');
      await make(swatch);
      const { body } = await request(api.app)
        .put(`/api/swatches/${swatch.id}`)
        .send({ base: 1, document: { ...swatch, ...wrong } })
        .expect(400);
      expect(body.error.path).to.equal(path);
      expect(body.error.message).to.match(/[.?]$|"colour"/);
      expect((await list())[0]!.swatch).to.deep.equal(swatch);
    });

  it('keeps no more than it has room for', async () => {
    const few = new DocumentStore(api.db, THE_STUDIO, 'swatch', (await list()).length + 1);
    const [fits, one] = [someSwatch('Fits'), someSwatch('One too many')];
    await few.create(fits.id, fits.name, pack(fits), JSON.stringify(fits));
    const refused = await few
      .create(one.id, one.name, pack(one), JSON.stringify(one))
      .catch((error: unknown) => error);
    expect(refused).to.be.instanceOf(TooMany);
    expect(await few.head(one.id)).to.equal(null);
  });
});

import { gramsPerLoop, SwatchSchema, type Swatch } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { appOn, testApp } from './support.js';

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

describe('the swatch book', () => {
  let api: Awaited<ReturnType<typeof testApp>>;
  before(async () => {
    api = await testApp();
  });
  after(() => api.db.close());
  const put = (swatch: object, id: string, status = 200) =>
    request(api.app).put(`/api/swatches/${id}`).send({ swatch }).expect(status);
  const photo = (id: string, bytes: Buffer, status = 200) =>
    request(api.app).put(`/api/swatches/${id}/photo`).type('image/png').send(bytes).expect(status);
  const list = async (app = api.app) =>
    (await request(app).get('/api/swatches').expect(200)).body.swatches as {
      swatch: Swatch;
      savedAt: string;
      photoAt: string | null;
    }[];

  it('keeps swatches as they were measured, the newest first, and is there after a new start', async () => {
    expect(await list()).to.deep.equal([]);
    const [first, second] = [someSwatch('Cables'), someSwatch('Plain', { cloth: 'plain', weight: 4 })];
    await put(first, first.id);
    await put(second, second.id);
    const changed = { ...first, grams: 31.5, whole: { stitches: 40, rows: 50 } };
    const { body } = await put(changed, first.id);
    const kept = await list(appOn(api.db).app);
    expect(kept.map(({ swatch }) => swatch)).to.deep.equal([second, changed]);
    expect(kept[1]!.savedAt).to.equal(body.savedAt);
    expect(gramsPerLoop(kept[1]!.swatch)).to.equal(31.5 / 2000);
    await request(api.app).delete(`/api/swatches/${second.id}`).expect(204);
    await request(api.app).delete(`/api/swatches/${second.id}`).expect(404);
    expect(await list()).to.have.length(1);
  });

  it('keeps a photo beside a swatch, told by its bytes and not by its name, and lets it go with the swatch', async () => {
    const swatch = someSwatch('Photographed');
    await photo(swatch.id, PNG, 404);
    await put(swatch, swatch.id);
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
    expect((await api.db.query('select 1 from swatch_photos')).rows).to.deep.equal([]);
  });

  for (const [what, wrong, path] of [
    ['no name', { name: ' ' }, 'swatch.name'],
    [
      'a reading of nothing',
      { after: { stitches: [{ count: 0, over: 100_000 }], rows: [] } },
      'swatch.after.stitches.0.count',
    ],
    [
      'a reading over nothing',
      { after: { stitches: [{ count: 9, over: -5 }], rows: [] } },
      'swatch.after.stitches.0.over',
    ],
    [
      'an absurd gauge',
      { before: { stitches: [], rows: [{ count: 900, over: 10_000 }] } },
      'swatch.before.rows.0',
    ],
    ['a needle like a log', { needle: 400 }, 'swatch.needle'],
    ['a weight the trade has not', { weight: 8 }, 'swatch.weight'],
    ['a field nobody knows', { colour: 'red' }, 'swatch'],
    ['another id', { id: randomUUID() }, 'swatch.id'],
  ] as const)
    it(`refuses ${what}, says where, and keeps what was`, async () => {
      const swatch = someSwatch('Kept');
      await put(swatch, swatch.id);
      const { body } = await put({ ...swatch, ...wrong }, swatch.id, 400);
      expect(body.error.path).to.equal(path);
      expect(body.error.message).to.match(/[.?]$|"colour"/);
      expect((await list())[0]!.swatch).to.deep.equal(swatch);
    });
});

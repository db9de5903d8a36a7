import { expect } from 'chai';
import request from 'supertest';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import { createApp } from '../src/app.js';
import { bareError } from '../src/errors.js';
import { BadSetting, readSettings } from '../src/settings.js';
import { pack } from '../src/store/packing.js';
import { cardOf, someDesign, testApp, workers, onEither, type Api } from './support.js';

onEither('designs over HTTP', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());
  const create = async (title?: string) => {
    const document = someDesign(title);
    await request(api.app).post('/api/designs').send({ document }).expect(201);
    return document;
  };

  it('are stored, listed and given back whole', async () => {
    const document = await create('Stored');
    const { body } = await request(api.app).get(`/api/designs/${document.id}`).expect(200);
    expect(body.document).to.deep.equal(JSON.parse(JSON.stringify(document)));
    expect(body.version).to.equal(1);
    const card = await cardOf(api.app, document.id, 1);
    expect(card).to.deep.include({ title: 'Stored', version: 1 });
    expect(card.summary).to.include({ columns: 8, rows: 4, errors: 0 });
  });

  it('are saved version by version, each old one kept', async () => {
    const document = await create();
    for (const [base, title] of [
      [1, 'second'],
      [2, 'third'],
    ] as const) {
      const { body } = await request(api.app)
        .put(`/api/designs/${document.id}`)
        .send({ base, document: { ...document, title } })
        .expect(200);
      expect(body.version).to.equal(base + 1);
    }
    const { body } = await request(api.app).get(`/api/designs/${document.id}/revisions`).expect(200);
    expect(body.revisions.map((r: { version: number }) => r.version)).to.deep.equal([3, 2, 1]);
    const first = await request(api.app).get(`/api/designs/${document.id}/revisions/1`).expect(200);
    expect(first.body.document.title).to.equal('Trial');
    await request(api.app).get(`/api/designs/${document.id}/revisions/9`).expect(404);
  });

  it('answer a stale save with 409 and what was saved since, and lose nothing', async () => {
    const document = await create();
    await request(api.app)
      .put(`/api/designs/${document.id}`)
      .send({ base: 1, document: { ...document, title: 'hers' } })
      .expect(200);
    const stale = await request(api.app)
      .put(`/api/designs/${document.id}`)
      .send({ base: 1, document: { ...document, title: 'his' } })
      .expect(409);
    expect(stale.body.error.message).to.contain('Nothing was overwritten');
    expect(stale.body.version).to.equal(2);
    expect(stale.body.since[0].changes[0].steps[0]).to.deep.include({ path: ['title'], now: 'hers' });
    const { body } = await request(api.app).get(`/api/designs/${document.id}`);
    expect(body.document.title).to.equal('hers');
  });

  it('let only one of two saves from the same version through', async () => {
    const document = await create();
    const saves = await Promise.all(
      ['one', 'two', 'three'].map((title) =>
        request(api.app)
          .put(`/api/designs/${document.id}`)
          .send({ base: 1, document: { ...document, title } }),
      ),
    );
    expect(saves.map((s) => s.status).sort()).to.deep.equal([200, 409, 409]);
  });

  it('are taken out and put back', async () => {
    const document = await create();
    await request(api.app).delete(`/api/designs/${document.id}`).expect(204);
    await request(api.app).get(`/api/designs/${document.id}`).expect(404);
    await request(api.app).put(`/api/designs/${document.id}`).send({ base: 1, document }).expect(404);
    await request(api.app).delete(`/api/designs/${document.id}`).expect(404);
    await request(api.app).post(`/api/designs/${document.id}/restore`).expect(204);
    await request(api.app).get(`/api/designs/${document.id}`).expect(200);
  });

  it('are not stored twice under one id', async () => {
    const document = await create();
    const { body } = await request(api.app).post('/api/designs').send({ document }).expect(409);
    expect(body).to.include({ version: 1 });
  });

  for (const [what, send, path] of [
    ['a document of another form', { document: { format: 1, id: 'x' } }, 'id'],
    ['a title with NUL in it', { document: { ...someDesign(), title: 'a\0b' } }, 'title'],
    ['notes with half a character', { document: { ...someDesign(), notes: 'a\ud83e' } }, 'notes'],
    ['no document', {}, 'document'],
    ['a field nobody knows', { document: someDesign(), extra: 1 }, ''],
  ] as const)
    it(`refuse ${what} with 400 and where it is wrong`, async () => {
      const { body } = await request(api.app).post('/api/designs').send(send).expect(400);
      expect(body.error.message).to.be.a('string').and.not.equal('');
      expect(body.error.path ?? '').to.equal(path);
    });

  it('refuse an id that is none, and a document under another id', async () => {
    await request(api.app).get('/api/designs/1%27%20or%201=1').expect(400);
    await request(api.app).get(`/api/designs/${randomUUID()}`).expect(404);
    await request(api.app).get(`/api/designs/${randomUUID()}/revisions/2147483648`).expect(400);
    const document = await create();
    const other = someDesign();
    const { body } = await request(api.app)
      .put(`/api/designs/${document.id}`)
      .send({ base: 1, document: other })
      .expect(400);
    expect(body.error.path).to.equal('document.id');
  });
});

describe('the server', () => {
  let api: Api;
  before(async () => {
    api = await testApp();
  });
  after(() => api.close());

  it('does not answer for a host it does not go by, nor for a page elsewhere', async () => {
    await request(api.app).get('/api/health').set('Host', 'elsewhere.example').expect(421);
    await request(api.app).get('/api/health').set('Host', 'localhost:5310').expect(200);
    await request(api.app).get('/api/health').set('Origin', 'http://elsewhere.example').expect(403);
    await request(api.app).get('/api/health').set('Origin', 'null').expect(403);
    // Another port of this machine is another site; a page of its own names the host it asks.
    const own = { Host: 'localhost:5310' };
    await request(api.app).get('/api/health').set(own).set('Origin', 'http://localhost:5310').expect(200);
    await request(api.app).get('/api/health').set(own).set('Origin', 'http://localhost:3000').expect(403);
    await request(api.app).get('/api/health').set(own).set('Sec-Fetch-Site', 'same-site').expect(403);
    await request(api.app).get('/api/health').set(own).set('Sec-Fetch-Site', 'same-origin').expect(200);
  });

  it('serves the page from a checkout below a dot folder', async () => {
    const folder = mkdtempSync(path.join(tmpdir(), '.cordelina-page-'));
    writeFileSync(path.join(folder, 'index.html'), '<!doctype html><title>Cordelina</title>');
    const { workroom } = api;
    const app = createApp({
      workroom,
      workers,
      log: pino({ level: 'silent' }),
      page: folder,
    });
    for (const place of ['/', `/designs/${randomUUID()}`])
      expect((await request(app).get(place).expect(200)).text).to.contain('<title>Cordelina');
    rmSync(folder, { recursive: true });
  });

  it('says in one sentence that a stored design is damaged, and serves the others', async () => {
    const [good, bad] = [someDesign('Good'), someDesign('Bad')];
    for (const design of [good, bad]) await api.store.create(design.id, design.title, pack(design));
    for (const spoil of ["document = 'nonsense'", "sum = encode(sha256('nonsense'), 'hex')"]) {
      await api.db.query(`update snapshots set ${spoil} where document_id = $1`, [bad.id]);
      const { body } = await request(api.app).get(`/api/designs/${bad.id}`).expect(500);
      expect(body.error.message).to.contain('cannot be read').and.contain('No other is affected');
    }
    await request(api.app).get(`/api/designs/${good.id}`).expect(200);
    await request(api.app).get('/api/designs').expect(200);
  });

  it('takes an empty setting as one not given, and says which makes no sense', () => {
    const read = (env: Record<string, string>) => readSettings(env, '/srv');
    const usual = {
      database: null,
      folder: '/srv/data',
      port: 5310,
      address: '127.0.0.1',
      hosts: [],
      backup: null,
    };
    expect(read({})).to.deep.equal(usual);
    expect(read({ PORT: '', HOST: ' ', CORDELINA_DATA: '', CORDELINA_HOSTS: '' })).to.deep.equal(usual);
    expect(read({ PORT: ' 80 ', CORDELINA_DATA: '/d', CORDELINA_HOSTS: 'A.example, b' })).to.deep.equal({
      ...{ database: null, folder: '/d', port: 80, address: '127.0.0.1', hosts: ['a.example', 'b'] },
      backup: null,
    });
    for (const PORT of ['x', '-1', '70000', '1.5']) expect(() => read({ PORT })).to.throw(BadSetting, PORT);
  });

  it('logs no document with an error', () => {
    const error = Object.assign(new Error('no'), { params: ['a whole document'], detail: 'secret' });
    expect(JSON.stringify(bareError(error))).not.to.match(/document|secret/);
  });

  it('sends a strict content policy and does not say what it is made of', async () => {
    const { headers } = await request(api.app).get('/api/health');
    expect(headers['content-security-policy'])
      .to.contain("default-src 'none'")
      .and.contain("script-src 'self'");
    expect(headers['permissions-policy']).to.contain('camera=()');
    expect(headers).not.to.have.property('x-powered-by');
  });

  it('answers what is too large with 413 and what is not JSON with 400', async () => {
    const large = JSON.stringify({ document: { notes: 'x'.repeat(51_000_000) } });
    const { body } = await request(api.app)
      .post('/api/designs')
      .set('content-type', 'application/json')
      .send(large)
      .expect(413);
    expect(body.error.message).to.contain('too large');
    await request(api.app)
      .post('/api/check')
      .set('content-type', 'application/json')
      .send('{"chart":')
      .expect(400);
    await request(api.app).post('/api/check').set('content-type', 'text/plain').send('hello').expect(400);
    await request(api.app).get('/api/nothing').expect(404);
  });
});

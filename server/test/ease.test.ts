import { DAYS_IN_BASKET, startChart, startDesign, SUMMARY_FORM } from '@cordelina/core';
import { expect } from 'chai';
import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { pino } from 'pino';
import semver from 'semver';
import request from 'supertest';
import { createApp } from '../src/app.js';
import { BadSetting, isLoopback, readSettings } from '../src/settings.js';
import { DatabaseAway } from '../src/store/db.js';
import { root } from './running.js';
import { cardOf, onEither, someDesign, testApp, titleChange, workers, type Api } from './support.js';

/** What is asked for over a real connection, with nothing unpacked. */
async function raw(
  app: Api['app'],
  at: string,
  headers: Record<string, string> = {},
): Promise<{ status: number; headers: http.IncomingHttpHeaders; body: Buffer }> {
  const server = app.listen(0, '127.0.0.1');
  await new Promise((r) => server.once('listening', r));
  const { port } = server.address() as AddressInfo;
  return new Promise((resolve, reject) => {
    http
      .get({ host: '127.0.0.1', port, path: at, headers }, (res) => {
        const chunks: Buffer[] = [];
        res.on('data', (chunk: Buffer) => chunks.push(chunk));
        res.on('end', () => {
          server.close();
          resolve({ status: res.statusCode!, headers: res.headers, body: Buffer.concat(chunks) });
        });
      })
      .on('error', reject);
  });
}

describe('a server that can be reached from elsewhere', () => {
  it('does not begin unless it is said that whoever comes may read and delete everything', () => {
    const read = (env: Record<string, string>) => () => readSettings(env, '/srv');
    for (const HOST of ['0.0.0.0', '::', '192.168.1.20', 'hut.example', '128.0.0.1'])
      expect(read({ HOST }), HOST).to.throw(BadSetting, /read, change and delete every design/);
    for (const CORDELINA_OPEN of ['', 'no', '1', 'true', 'YES'])
      expect(read({ HOST: '0.0.0.0', CORDELINA_OPEN })).to.throw(BadSetting, /CORDELINA_OPEN=yes/);
    expect(read({ HOST: '0.0.0.0', CORDELINA_OPEN: 'yes' })().address).to.equal('0.0.0.0');
    for (const HOST of ['', '127.0.0.1', '127.8.8.8', 'localhost', '::1'])
      expect(read({ HOST })).not.to.throw();
  });

  it('says so and ends, as a program', () => {
    const { status, stderr } = spawnSync(process.execPath, ['server/dist/main.js'], {
      cwd: root,
      env: { ...process.env, HOST: '0.0.0.0', PORT: '0', DATABASE_URL: '', CORDELINA_OPEN: '' },
      encoding: 'utf8',
      timeout: 60_000,
    });
    expect(status).to.equal(1);
    expect(stderr).to.contain('CORDELINA_OPEN=yes');
  });

  it('knows its own addresses, those of IPv4 within IPv6 too', () => {
    for (const own of ['127.0.0.1', '127.255.0.3', '::1', '::ffff:127.0.0.1', 'localhost'])
      expect(isLoopback(own), own).to.equal(true);
    for (const other of ['10.0.0.1', '::ffff:10.0.0.1', '0.0.0.0', '', 'localhost.example', '1127.0.0.1'])
      expect(isLoopback(other), other).to.equal(false);
  });
});

describe('what every answer has', () => {
  let api: Api;
  before(async () => {
    api = await testApp();
  });
  after(() => api.close());

  it('is an id, the one that was brought where it is a plain one', async () => {
    const given = await request(api.app).get('/api/health').set('X-Request-Id', 'proxy-7.a').expect(200);
    expect(given.headers['x-request-id']).to.equal('proxy-7.a');
    const odd = await request(api.app).get('/api/health').set('X-Request-Id', 'a b"c'.repeat(40));
    expect(odd.headers['x-request-id']).to.match(/^[0-9a-f-]{36}$/);
    const [one, other] = await Promise.all([1, 2].map(() => request(api.app).get('/api/nowhere')));
    expect(one!.headers['x-request-id']).not.to.equal(other!.headers['x-request-id']);
  });

  it('goes with it into the log, and nothing that was sent does', async () => {
    const lines: string[] = [];
    const log = pino({ level: 'info' }, { write: (line: string) => void lines.push(line) });
    const app = createApp({ workroom: api.workroom, workers, log });
    await request(app)
      .post('/api/check')
      .set({ 'X-Request-Id': 'one', Cookie: 'secret=1' })
      .send({ chart: { width: 'private' } })
      .expect(400);
    const told = lines.map(
      (line) => JSON.parse(line) as { req?: { id: string }; res?: { statusCode: number } },
    );
    expect(told.some(({ req, res }) => req?.id === 'one' && res?.statusCode === 400)).to.equal(true);
    expect(lines.join('')).not.to.match(/private|secret/);
  });

  it('is packed for whoever takes it packed, and the same unpacked', async () => {
    const design = someDesign('Packed '.repeat(12));
    const document = { ...design, notes: 'The same line again.\n'.repeat(400) };
    await request(api.app).post('/api/designs').send({ document }).expect(201);
    const at = `/api/designs/${design.id}`;
    const plain = await raw(api.app, at);
    const packed = await raw(api.app, at, { 'accept-encoding': 'gzip' });
    expect(plain.headers['content-encoding']).to.equal(undefined);
    expect(packed.headers['content-encoding']).to.equal('gzip');
    expect(packed.body.length).to.be.below(plain.body.length / 3);
    expect(gunzipSync(packed.body).equals(plain.body)).to.equal(true);
  });

  it('is 503 of the health where the database does not answer', async () => {
    const { workroom } = api;
    const away = Object.create(workroom) as typeof workroom;
    away.answers = () => Promise.reject(new DatabaseAway('gone'));
    const app = createApp({ workroom: away, workers, log: pino({ level: 'silent' }) });
    const { body } = await request(app).get('/api/health').expect(503);
    expect(body.error.message).to.contain('The database does not answer');
    await request(api.app).get('/api/health').expect(200, { ok: true });
  });
});

onEither('the basket', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());
  const basket = async () =>
    (
      (await request(api.app).get('/api/designs/basket').expect(200)).body as {
        basket: { id: string; title: string; takenOutAt: string }[];
      }
    ).basket;

  it('holds what was taken out, until it is put back or let go of for good', async () => {
    const [one, other] = [someDesign('One'), someDesign('Other')];
    for (const document of [one, other]) {
      await request(api.app).post('/api/designs').send({ document }).expect(201);
      await request(api.app).delete(`/api/designs/${document.id}`).expect(204);
    }
    expect((await basket()).map(({ title }) => title)).to.deep.equal(['Other', 'One']);
    await request(api.app).post(`/api/designs/${one.id}/restore`).expect(204);
    expect((await basket()).map(({ id }) => id)).to.deep.equal([other.id]);
    // Only what lies in it can be let go of.
    await request(api.app).delete(`/api/designs/basket/${one.id}`).expect(404);
    await request(api.app).delete(`/api/designs/basket/${other.id}`).expect(204);
    expect(await basket()).to.deep.equal([]);
    await request(api.app).post(`/api/designs/${other.id}/restore`).expect(404);
    // With all that was kept of it: the id is free again.
    await request(api.app).post('/api/designs').send({ document: other }).expect(201);
  });

  it('keeps things for thirty days, of every kind, and not longer', async () => {
    const design = someDesign('Old');
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    await request(api.app).delete(`/api/designs/${design.id}`).expect(204);
    const day = 86_400_000;
    await api.workroom.empty(new Date(Date.now() + (DAYS_IN_BASKET - 1) * day));
    expect((await basket()).some(({ id }) => id === design.id)).to.equal(true);
    await api.workroom.empty(new Date(Date.now() + (DAYS_IN_BASKET + 1) * day));
    expect(await basket()).to.deep.equal([]);
  });
});

onEither('a card by itself', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());

  it('is as the list has it, with the words a design is found by and without its picture', async () => {
    const chart = startChart({ columns: 8, rows: 4, construction: 'flat', ground: 'p' });
    const crossed = {
      ...chart,
      rows: chart.rows.map((row, r) =>
        r === 2 ? ['p', 'p', { lean: 'left', front: ['k', 'k'], back: ['k', 'k'] }, 'p', 'p'] : row,
      ),
    };
    const design = {
      ...startDesign(randomUUID(), 'Found', crossed as typeof chart),
      notes: 'For the wardens.',
      tags: ['winter', 'in work'],
    };
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    const listed = await cardOf(api.app, design.id, 1);
    const { body } = await request(api.app).get(`/api/designs/${design.id}/card`).expect(200);
    expect(body).to.deep.equal(listed);
    expect(body.summary).to.include({ form: SUMMARY_FORM }).and.not.to.have.property('preview');
    expect(body.summary.tags).to.deep.equal(['winter', 'in work']);
    expect(body.summary.stitches).to.include('2/2 LC').and.to.include('purl');
    expect(body.summary.said).to.contain('For the wardens.');
    await request(api.app).get(`/api/designs/${randomUUID()}/card`).expect(404);
  });

  it('that was worked out in an older form is worked out anew', async () => {
    const design = someDesign('Older');
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    await cardOf(api.app, design.id, 1);
    await api.db.query(`update documents set summary = summary - 'form' - 'stitches' where id = $1`, [
      design.id,
    ]);
    const { body } = await request(api.app).get(`/api/designs/${design.id}/card`).expect(200);
    expect(body.summary.form).to.equal(SUMMARY_FORM);
    const change = titleChange(design, 'Newer');
    await request(api.app)
      .post(`/api/designs/${design.id}/changes`)
      .send({ base: 1, changes: [change] })
      .expect(200);
    expect((await request(api.app).get(`/api/designs/${design.id}/card`)).body.title).to.equal('Newer');
  });
});

describe('what installs it', () => {
  const read = (file: string) => readFileSync(path.join(root, file), 'utf8');
  const manifest = (file: string) =>
    JSON.parse(read(file)) as {
      engines?: { node: string };
      dependencies?: Record<string, string>;
      devDependencies?: Record<string, string>;
    };

  it('names the versions of Node that all its tools run on', () => {
    const own = manifest('package.json').engines!.node;
    const lock = JSON.parse(read('package-lock.json')) as {
      packages: Record<string, { engines?: { node?: string }; optional?: boolean }>;
    };
    const direct = [
      'package.json',
      'core/package.json',
      'server/package.json',
      'web/package.json',
      'e2e/package.json',
    ]
      .map(manifest)
      .flatMap(({ dependencies = {}, devDependencies = {} }) =>
        Object.keys({ ...dependencies, ...devDependencies }),
      );
    const lowest = ['20.19.0', '22.13.0', '24.0.0'];
    for (const version of lowest) expect(semver.satisfies(version, own), version).to.equal(true);
    for (const version of ['18.20.0', '20.18.0', '21.0.0', '22.12.0', '23.0.0'])
      expect(semver.satisfies(version, own), version).to.equal(false);
    for (const name of direct) {
      const wants = lock.packages[`node_modules/${name}`]?.engines?.node;
      if (wants)
        for (const version of lowest)
          expect(semver.satisfies(version, wants), `${name} on ${version}`).to.equal(true);
    }
  });

  it('is a Dockerfile that copies what is there, runs what is built, and leaves the choice to whoever runs it', () => {
    const lines = read('Dockerfile')
      .split('\n')
      .filter((line) => line && !line.startsWith('#'));
    const text = lines.join('\n');
    expect(text).to.match(/^FROM node:22/m);
    expect(semver.satisfies('22.13.0', manifest('package.json').engines!.node)).to.equal(true);
    expect(text).to.contain('CMD ["node", "server/dist/main.js"]').and.to.contain('USER node');
    // What it listens with is what the program reads; that it may be reached is said by nobody but its owner.
    const env = Object.fromEntries([...text.matchAll(/\b([A-Z_]+)=(\S+)/g)].map((m) => [m[1]!, m[2]!]));
    expect(env).to.not.have.property('CORDELINA_OPEN');
    expect(() => readSettings(env, '/app')).to.throw(BadSetting);
    expect(readSettings({ ...env, CORDELINA_OPEN: 'yes' }, '/app')).to.include({
      folder: '/data',
      port: 5310,
    });
    for (const [, from] of text.matchAll(/^COPY --from=build \/app\/(\S+)/gm)) {
      const folder = from!.replace(/\/?(dist|node_modules)$/, '').replace(/package\.json$/, '') || '.';
      expect(() => readFileSync(path.join(root, folder, 'package.json')), from).not.to.throw();
    }
    // No stage runs what the workspace does not have.
    for (const [, script] of text.matchAll(/node (scripts\/\S+)/g))
      expect(() => read(script!)).not.to.throw();
  });
});

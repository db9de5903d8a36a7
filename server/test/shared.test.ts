import { demoDesigns } from '../src/demo/designs.js';
import { SwatchSchema, type Happening } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { connect, createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import request from 'supertest';
import { DatabaseAway, StoreTrouble } from '../src/store/db.js';
import { openServer } from '../src/store/postgres/server.js';
import { asMaster, freshDatabase } from './postgres.js';
import { noteChange, send, start, stop } from './running.js';
import { appOn, heardAll, someDesign, stitchChange, type Api } from './support.js';

/** Several programs on one PostgreSQL server: what one does the others know, and nobody's work is lost. */

/** A way to a database that can be shut and opened again. */
async function wayTo(url: string): Promise<{ url: string; shut: () => void; open: () => Promise<void> }> {
  const { port: far } = new URL(url);
  const sockets = new Set<Socket>();
  const make = () =>
    createServer((near) => {
      const socket = connect(Number(far), '127.0.0.1');
      for (const one of [near, socket]) {
        sockets.add(one);
        one
          .on('error', () => undefined)
          .on('close', () => (sockets.delete(one), near.destroy(), socket.destroy()));
      }
      near.pipe(socket).pipe(near);
    });
  let server: Server = make().listen(0, '127.0.0.1');
  await once(server, 'listening');
  const { port } = server.address() as AddressInfo;
  return {
    url: url.replace(`:${far}/`, `:${port}/`),
    shut: () => {
      server.close();
      for (const socket of sockets) socket.destroy();
    },
    open: async () => {
      server = make().listen(port, '127.0.0.1');
      await once(server, 'listening');
    },
  };
}

describe('two programs on one database', () => {
  let [one, two]: Api[] = [];
  let url = '';
  before(async () => {
    url = await freshDatabase();
    [one, two] = await Promise.all([appOn(await openServer(url)), appOn(await openServer(url))]);
  });
  after(() => Promise.all([one!.close(), two!.close()]));
  const apps = () => [one!.app, two!.app] as const;
  const made = async (title: string) => {
    const design = someDesign(title);
    await request(one!.app).post('/api/designs').send({ document: design }).expect(201);
    return design;
  };
  const save = (app: Api['app'], id: string, base: number, change: object) =>
    request(app)
      .post(`/api/designs/${id}/changes`)
      .send({ base, changes: [change] });
  /** Asked again until it is so: another program's word takes a moment. */
  const soon = async (is: () => Promise<boolean>) => {
    for (let tries = 0; !(await is()); tries++) {
      if (tries > 500) throw new Error('it never became so');
      await new Promise((r) => setTimeout(r, 10));
    }
  };

  it('both have what either saved, at once, and a late save is told what came before it, not that all is gone', async () => {
    const design = await made('Shared');
    const [first, second] = apps();
    for (const app of [first, second])
      expect((await request(app).get(`/api/designs/${design.id}`).expect(200)).body.version).to.equal(1);
    await save(first, design.id, 1, stitchChange(0, 'p', 'k')).expect(200);
    expect((await request(second).get(`/api/designs/${design.id}`)).body.version).to.equal(2);
    const { body } = await save(second, design.id, 1, stitchChange(1, 'p', 'k')).expect(409);
    expect(body.since).to.have.length(1);
    await save(second, design.id, 2, stitchChange(1, 'p', 'k')).expect(200);
    expect((await request(first).get(`/api/designs/${design.id}`)).body.version).to.equal(3);
    await request(second).delete(`/api/designs/${design.id}`).expect(204);
    await save(first, design.id, 3, stitchChange(2, 'p', 'k')).expect(404);
  });

  it('a save whose answer was lost is known again by the other', async () => {
    const design = await made('Answer lost');
    const change = stitchChange(0, 'p', 'k');
    await save(one!.app, design.id, 1, change).expect(200);
    expect((await save(two!.app, design.id, 1, change).expect(200)).body.version).to.equal(2);
  });

  it('both hear what happens, and both lists show it', async () => {
    const heard: Happening[] = [];
    const end = two!.workroom.listen((happening) => void (happening !== 'missed' && heard.push(happening)));
    await request(two!.app).get('/api/designs').expect(200);
    const design = await made('Heard');
    await save(one!.app, design.id, 1, stitchChange(0, 'p', 'k')).expect(200);
    await heardAll(heard, 2);
    end();
    expect(heard.map(({ id, kind, version }) => [id, kind, version])).to.deep.equal([
      [design.id, 'made', 1],
      [design.id, 'saved', 2],
    ]);
    const { body } = await request(two!.app).get('/api/designs').expect(200);
    expect(body.designs[0]).to.include({ id: design.id, version: 2 });
  });

  it('a photo that one puts in the other hears of', async () => {
    const swatch = SwatchSchema.parse({ id: randomUUID(), name: 'Photographed' });
    await request(one!.app).post('/api/swatches').send({ document: swatch }).expect(201);
    const heard: unknown[] = [];
    const end = two!.workroom.listen(
      (h) => void (h !== 'missed' && h.kind === 'photographed' && heard.push(h)),
    );
    const png = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(40, 7)]);
    await request(one!.app).put(`/api/swatches/${swatch.id}/photo`).type('image/png').send(png).expect(200);
    await heardAll(heard, 1);
    end();
    expect(heard).to.deep.equal([{ of: 'swatch', id: swatch.id, kind: 'photographed' }]);
  });

  it('what was missed while nothing was heard is caught up with', async () => {
    const design = await made('Missed');
    const ids = async (app: Api['app']) =>
      (await request(app).get('/api/designs')).body.designs.map((d: { id: string }) => d.id) as string[];
    await soon(async () => (await ids(two!.app)).includes(design.id));
    let missed = 0;
    const end = two!.workroom.listen((happening) => void (happening === 'missed' && missed++));
    await asMaster(
      `select pg_terminate_backend(pid) from pg_stat_activity where datname = $1 and query like 'listen%' or query = 'select 1'`,
      [new URL(url).pathname.slice(1)],
    );
    await request(one!.app).delete(`/api/designs/${design.id}`).expect(204);
    // While it hears nothing it asks the database; afterwards it has caught up.
    await soon(async () => !(await ids(two!.app)).includes(design.id));
    await soon(() => Promise.resolve(missed > 0));
    end();
    const again = await made('Heard again');
    await soon(async () => (await ids(two!.app)).includes(again.id));
  });

  it('many save one design through both: every save that was answered is there, in one order', async () => {
    const design = await made('Contended');
    const words: string[] = [];
    const writer = async (app: Api['app'], name: string) => {
      for (let n = 0; n < 12; n++)
        for (let saved = false; !saved;) {
          const { body: now } = await request(app).get(`/api/designs/${design.id}`).expect(200);
          const was = now.document.notes as string;
          const word = `${name}${n}`;
          const steps = [{ kind: 'set', path: ['notes'], was, now: `${was} ${word}` }];
          const change = { id: randomUUID(), label: 'notes', steps };
          const answer = await save(app, design.id, now.version, change);
          expect(answer.status).to.be.oneOf([200, 409]);
          saved = answer.status === 200;
          if (saved) words.push(word);
        }
    };
    await Promise.all([writer(one!.app, 'a'), writer(two!.app, 'b'), writer(two!.app, 'c')]);
    const { body } = await request(one!.app).get(`/api/designs/${design.id}`);
    expect(body.version).to.equal(37);
    expect((body.document.notes as string).trim().split(' ').sort()).to.deep.equal(words.sort());
  });
});

describe('a database on a server', () => {
  it('that is not up yet is waited for, and one that never comes is told in a sentence', async () => {
    const way = await wayTo(await freshDatabase());
    way.shut();
    const told: string[] = [];
    const opening = openServer(way.url, { waiting: (where) => told.push(where) });
    while (!told.length) await new Promise((r) => setTimeout(r, 10));
    await way.open();
    await (await opening).close();
    expect(told).to.deep.equal([new URL(way.url).host + new URL(way.url).pathname]);
    way.shut();
    const trouble = await openServer(way.url, { patience: 300 }).catch((error: unknown) => error);
    expect(trouble).to.be.instanceOf(StoreTrouble);
    expect((trouble as Error).message)
      .to.contain('does not answer')
      .and.not.contain('only for tests');
  });

  it('that does not let us in, or is not there, is told at once, without the password', async () => {
    const url = await freshDatabase();
    for (const [wrong, says] of [
      [url.replace('only%20for%20tests', 'guessed'), 'name and password'],
      [url.replace(/\/test_\d+$/, '/nowhere'), 'no such database'],
    ]) {
      const trouble = await openServer(wrong!).catch((error: unknown) => error);
      expect(trouble, says).to.be.instanceOf(StoreTrouble);
      expect((trouble as Error).message)
        .to.contain(says)
        .and.not.match(/guessed|only%20for/);
    }
  });

  it('that goes away is said with 503, nothing is taken for gone, and it is used again when it is back', async () => {
    const way = await wayTo(await freshDatabase());
    const api = await appOn(await openServer(way.url));
    const design = someDesign('Kept through');
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    way.shut();
    const change = { base: 1, changes: [stitchChange(0, 'p', 'k')] };
    const at = `/api/designs/${design.id}`;
    const { body } = await request(api.app).post(`${at}/changes`).send(change).expect(503);
    expect(body.error.message).to.contain('database does not answer');
    await request(api.app).get(at).expect(503);
    await way.open();
    await request(api.app).post(`${at}/changes`).send(change).expect(200);
    const asked = await api.db.query('select pg_sleep(0)').catch((error: unknown) => error);
    expect(asked).not.to.be.instanceOf(DatabaseAway);
    await api.close();
    way.shut();
  });

  it('is filled once, however many programs start on it together', async () => {
    const url = await freshDatabase({ empty: true });
    const servers = await Promise.all([start(url), start(url)]);
    try {
      for (const server of servers) {
        const { designs } = (await (await fetch(`${server.url}/designs`)).json()) as { designs: unknown[] };
        expect(designs).to.have.length(demoDesigns().length);
      }
    } finally {
      for (const server of servers) await stop(server);
    }
  });
});

describe('two servers on one database, one of them killed under load', function () {
  this.timeout(300_000);
  const KILLS = 3;

  it(`lose no answered save in ${KILLS} kills`, async () => {
    const url = await freshDatabase();
    const servers = [await start(url), await start(url)];
    const designs = Array.from({ length: 4 }, (_, i) => someDesign(`Loaded ${i}`));
    for (const document of designs)
      expect((await send(`${servers[0]!.url}/designs`, 'POST', { document })).status).to.equal(201);
    let stopped = false;
    /** Saves one design without a pause, through whichever server answers; what was answered is its newest version. */
    const answered = new Map<string, number>(designs.map(({ id }) => [id, 1]));
    const writer = async (id: string, turn: number) => {
      for (let n = turn; !stopped; n++) {
        const base = answered.get(id)!;
        const at = `${servers[n % 2]!.url}/designs/${id}`;
        // The same change, until it is answered: one whose answer was lost is known by its id.
        const body = { base, changes: [noteChange(base)] };
        for (let tries = n; !stopped; tries++) {
          const other = `${servers[tries % 2]!.url}/designs/${id}`;
          const answer = await send(`${tries === n ? at : other}/changes`, 'POST', body).catch(() => null);
          if (!answer || answer.status === 503) {
            await new Promise((r) => setTimeout(r, 20));
            continue;
          }
          if (answer.status !== 200) throw new Error(`a save was answered with ${answer.status}`);
          const saved = (await answer.json().catch(() => null)) as { version: number } | null;
          if (!saved) continue;
          expect(saved.version).to.equal(base + 1);
          answered.set(id, saved.version);
          break;
        }
      }
    };
    const writers = designs.map(({ id }, i) => writer(id, i));
    for (let kills = 0; kills < KILLS; kills++) {
      await new Promise((r) => setTimeout(r, 300 + Math.random() * 400));
      const victim = servers[kills % 2]!;
      victim.child.kill('SIGKILL');
      await victim.exited;
      servers[kills % 2] = await start(url);
    }
    stopped = true;
    await Promise.all(writers);
    for (const { id } of designs)
      for (const { url: at } of servers) {
        const stored = (await (await fetch(`${at}/designs/${id}`)).json()) as { version: number };
        // The last may have been saved and not answered.
        expect(stored.version - answered.get(id)!).to.be.oneOf([0, 1]);
        const { since } = (await (await fetch(`${at}/designs/${id}/changes?since=1`)).json()) as {
          since: { version: number }[];
        };
        expect(since.map(({ version }) => version)).to.deep.equal(
          Array.from({ length: stored.version - 1 }, (_, i) => i + 2),
        );
      }
    expect(Math.min(...answered.values())).to.be.greaterThan(KILLS);
    for (const server of servers) await stop(server);
  });
});

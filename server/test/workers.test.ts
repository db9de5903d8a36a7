import { simpleCrossing, startDesign, type Chart, type Stitch } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { pino } from 'pino';
import request from 'supertest';
import { createApp } from '../src/app.js';
import { ApiError, type Outcome } from '../src/work/faults.js';
import { WorkPool } from '../src/work/pool.js';
import { makeWorkers, type Workers } from '../src/work/workers.js';
import { someDesign, stitchChange, testApp, type Api } from './support.js';

/** The largest chart there may be, a crossing in every place. */
const largest = (): Chart => {
  const row: Stitch[] = Array.from({ length: 300 }, (_, i) => simpleCrossing(i % 2 ? 'left' : 'right', 1, 1));
  return {
    ...someDesign().charts[0]!,
    width: 600,
    rows: Array.from({ length: 1200 }, () => row),
  };
};

describe('computation in threads of its own', () => {
  let api: Api;
  let tight: Workers;
  before(async () => {
    api = await testApp();
    tight = makeWorkers({ deadline: 1500, threads: 1 });
    await Promise.all([tight.compute.start(), tight.keeper.start()]);
    await tight.compute
      .run('check', Buffer.from('{"chart":{"width":1,"rows":[["k"]]}}'))
      .catch(() => undefined);
  });
  after(async () => {
    await tight.close();
    await api.close();
  });

  const hard = { chart: { ...largest(), across: { before: 0, after: 0, times: 2, least: 1 } } };

  it('is stopped at its deadline with 503, and the others go on meanwhile', async () => {
    const app = createApp({ workroom: api.workroom, workers: tight, log: pino({ level: 'silent' }) });
    const server = app.listen(0);
    await once(server, 'listening');
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
    let answers = 0;
    const late = fetch(`${url}/write`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ chart: { ...hard.chart, across: null } }),
    });
    let done = false;
    void late.finally(() => (done = true));
    while (!done) {
      expect((await fetch(`${url}/designs`)).status).to.equal(200);
      answers++;
    }
    const answer = await late;
    expect(answer.status).to.equal(503);
    expect(answer.headers.get('retry-after')).to.equal('1');
    expect(((await answer.json()) as { error: { message: string } }).error.message).to.contain('1.5 seconds');
    expect(answers).to.be.greaterThan(2);
    // The thread that was stopped is replaced.
    for (let tries = 0; tries < 5; tries++) {
      const next = await request(server)
        .post('/api/check')
        .send({ chart: { width: 1, rows: [['k']] } });
      if (next.status === 200) break;
      expect(tries).to.be.lessThan(4);
    }
    server.close();
  });

  it('refuses sizes before anything is made of them', async () => {
    await request(api.app).post('/api/write').send(hard).expect(413);
    const rows = Array.from({ length: 1200 }, () => Array.from({ length: 600 }, () => ({})));
    const { body } = await request(api.app)
      .post('/api/check')
      .send({ chart: { width: 600, rows } })
      .expect(400);
    expect(body.error.path).to.match(/^chart\.rows\.0\.0/);
  });

  it('takes the largest legal chart: stored, changed, opened, checked', async () => {
    const design = { ...startDesign(randomUUID(), 'Largest', largest()) };
    const body = JSON.stringify({ document: design });
    expect(body.length).to.be.greaterThan(4_000_000);
    await request(api.app).post('/api/designs').type('json').send(body).expect(201);
    const change = stitchChange(0, design.charts[0]!.rows[0]![0]!, simpleCrossing('left', 1, 1));
    await request(api.app)
      .post(`/api/designs/${design.id}/changes`)
      .send({ base: 1, changes: [change] })
      .expect(200);
    const opened = await request(api.app).get(`/api/designs/${design.id}`).expect(200);
    expect(opened.body.document.charts[0].rows).to.have.length(1200);
    const checked = await request(api.app).post('/api/check').send({ chart: largest() }).expect(200);
    expect(checked.body.findings.length).to.be.within(1, 1001);
    expect(checked.body.findings.at(-1)).to.deep.include({ id: 'more-findings' });
  });

  it('bounds the bodies that are read at one time', async () => {
    const server = createApp({
      workroom: api.workroom,
      workers: tight,
      log: pino({ level: 'silent' }),
    }).listen(0);
    await once(server, 'listening');
    const { port } = server.address() as AddressInfo;
    const open = Array.from({ length: 6 }, () =>
      fetch(`http://127.0.0.1:${port}/api/check`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: new ReadableStream({ start: (c) => c.enqueue(new TextEncoder().encode('{')) }),
        duplex: 'half',
        signal: AbortSignal.timeout(4000),
      }).then(
        (r) => r.status,
        () => 0,
      ),
    );
    const answers = await Promise.all(open);
    expect(answers).to.include(503);
    expect(answers.filter((a) => a === 0)).to.have.length(4);
    server.closeAllConnections();
    server.close();
  });
});

describe('events', () => {
  it('tell a page that listens what was saved, and let go of it when it leaves', async () => {
    const api = await testApp();
    const server = api.app.listen(0);
    await once(server, 'listening');
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/api`;
    const design = someDesign();
    const away = new AbortController();
    const listening = await fetch(`${url}/events`, { signal: away.signal });
    expect(listening.headers.get('content-type')).to.contain('text/event-stream');
    const reader = listening.body!.getReader();
    await request(server).post('/api/designs').send({ document: design }).expect(201);
    let heard = '';
    while (!heard.includes('data:')) heard += new TextDecoder().decode((await reader.read()).value);
    expect(JSON.parse(/data: (.*)/.exec(heard)![1]!)).to.deep.equal({
      of: 'design',
      id: design.id,
      kind: 'made',
      version: 1,
    });
    away.abort();
    server.closeAllConnections();
    server.close();
    await api.close();
  });
});

/** Jobs of the tests' own, `greedy-jobs.mjs`. */
type GreedyJobs = {
  ready: (nothing: null) => Outcome<true>;
  takeAll: (nothing: null) => Outcome<number>;
  double: (n: number) => Outcome<number>;
  wait: (milliseconds: number) => Outcome<true>;
  rests: (after: number) => Outcome<number>;
};

describe('a thread that takes too much memory', () => {
  it('is ended with 413, and the next job is done by another', async () => {
    const file = new URL('./greedy-jobs.mjs', import.meta.url).href;
    const pool = new WorkPool<GreedyJobs>(file, {
      threads: 1,
      deadline: 60_000,
      patience: 60_000,
      memory: 128,
      queue: 4,
    });
    try {
      expect(await pool.run('double', 4)).to.equal(8);
      const refused = await pool.run('takeAll', null).catch((error: unknown) => error);
      expect(refused).to.be.instanceOf(ApiError).with.property('status', 413);
      expect((refused as ApiError).message).to.equal(
        'This takes more than 128 MB of memory and was stopped. Try a smaller one.',
      );
      expect(await pool.run('double', 21)).to.equal(42);
    } finally {
      await pool.close();
    }
  });
});

describe('a thread at rest', () => {
  it('goes on with what was left for later, as giving back what a large job took', async () => {
    const file = new URL('./greedy-jobs.mjs', import.meta.url).href;
    const limits = { threads: 1, deadline: 60_000, patience: 60_000, memory: 128, queue: 4 };
    const pool = new WorkPool<GreedyJobs>(file, limits);
    try {
      expect(await pool.run('rests', 20)).to.equal(0);
      // Nothing else is asked of it meanwhile: one that blocks while it waits would have done nothing by then.
      await new Promise((resolve) => setTimeout(resolve, 1500));
      expect(await pool.run('rests', 0)).to.equal(1);
    } finally {
      await pool.close();
    }
  });
});

describe('the deadline of a job', () => {
  const file = new URL('./greedy-jobs.mjs', import.meta.url).href;

  it('begins when a thread does: jobs that wait in line for longer are done none the less', async () => {
    const pool = new WorkPool<GreedyJobs>(file, {
      threads: 1,
      deadline: 1000,
      patience: 60_000,
      memory: 128,
      queue: 8,
    });
    try {
      expect(await Promise.all(Array.from({ length: 5 }, () => pool.run('wait', 400)))).to.deep.equal(
        Array(5).fill(true),
      );
      const late = await pool.run('wait', 20_000).catch((error: unknown) => error);
      expect((late as ApiError).message).to.contain('takes longer than 1 seconds');
      // The thread that was ended is followed by another, whose beginning is not counted.
      expect(await pool.run('wait', 1)).to.equal(true);
    } finally {
      await pool.close();
    }
  });

  it('does not have one wait without end for a thread', async () => {
    const pool = new WorkPool<GreedyJobs>(file, {
      threads: 1,
      deadline: 20_000,
      patience: 300,
      memory: 128,
      queue: 8,
    });
    try {
      await pool.start();
      const long = pool.run('wait', 1500);
      const waiting = await pool.run('double', 1).catch((error: unknown) => error);
      expect((waiting as ApiError).status).to.equal(503);
      expect((waiting as ApiError).message).to.contain('Too much is being worked out');
      expect(await long).to.equal(true);
    } finally {
      await pool.close();
    }
  });
});

/** The server against what it is made of: the same SQL, the same bytes, the same list while it is busy. */
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { spawn } from 'node:child_process';
import { simpleCrossing, type Chart, type Design, THE_STUDIO } from '@cordelina/core';
import { SAVE } from '../server/src/store/documents.js';
import { openFolder } from '../server/src/store/pglite/database.js';
import { freePort, noteChange, root, start, stop } from '../server/test/running.js';
import { someDesign } from '../server/test/someDesign.js';

/** Pages that save at one time. */
const PAGES = 8;

const agent = new Agent({ keepAlive: true, maxSockets: PAGES });

/** One request on a connection that stays open; its answer in full. */
async function ask(url: string, method = 'GET', body?: string): Promise<string> {
  const headers =
    body === undefined
      ? {}
      : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(body) };
  const sent = request(url, { method, agent, headers });
  sent.end(body);
  const [answer] = (await once(sent, 'response')) as [AsyncIterable<Buffer> & { statusCode: number }];
  const parts: Buffer[] = [];
  for await (const part of answer) parts.push(part);
  const text = Buffer.concat(parts).toString();
  if (answer.statusCode >= 300)
    throw new Error(`${method} ${url}: ${answer.statusCode} ${text.slice(0, 200)}`);
  return text;
}

/** Milliseconds of one, the median of many. */
async function each(times: number, work: (i: number) => Promise<unknown>): Promise<number> {
  const took: number[] = [];
  for (let i = 0; i < times; i++) {
    const began = performance.now();
    await work(i);
    took.push(performance.now() - began);
  }
  return took.sort((a, b) => a - b)[times >> 1]!;
}

const SAVES = 1500;
const READS = 3000;

/** Plain runs of the same statement on the same kind of folder, nothing around them. */
async function rawSaves(folder: string, design: Design): Promise<number> {
  const db = await openFolder(folder);
  await db.query(
    `insert into documents (studio_id, kind, id, version, title) values ($1, 'design', $2, 1, $3)`,
    [THE_STUDIO, design.id, design.title],
  );
  const took = await each(SAVES, (i) =>
    db.query(SAVE.text, [
      THE_STUDIO,
      'design',
      design.id,
      i + 1,
      design.title,
      [randomUUID()],
      'notes',
      JSON.stringify([noteChange(i + 1)]),
      null,
    ]),
  );
  await db.close();
  return took;
}

/** An Express that does nothing but send bytes. */
async function bareReads(bytes: string): Promise<number> {
  const port = await freePort();
  const script = `const bytes = Buffer.from(process.env.BYTES);
    (await import('express')).default().get('/', (_q, r) => { r.type('json').send(bytes); }).listen(${port}, '127.0.0.1', () => console.log('up'));`;
  const child = spawn(process.execPath, ['--input-type=module', '-e', script], {
    cwd: path.join(root, 'server'),
    env: { ...process.env, BYTES: bytes },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await once(child.stdout, 'data');
  const url = `http://127.0.0.1:${port}/`;
  await each(READS / 3, () => ask(url));
  const took = await each(READS, () => ask(url));
  child.kill();
  return took;
}

/** The computation that takes longest of those that are allowed: the largest piece written and proved. */
function worst(): string {
  const row = Array.from({ length: 300 }, (_, i) => simpleCrossing(i % 2 ? 'left' : 'right', 1, 1));
  const chart: Chart = {
    ...someDesign().charts[0]!,
    width: 600,
    rows: Array.from({ length: 1200 }, () => row),
  };
  return JSON.stringify({ chart });
}

export async function serverSpeed(): Promise<void> {
  const above = mkdtempSync(path.join(tmpdir(), 'cordelina-bench-'));
  const raw = await rawSaves(path.join(above, 'raw'), someDesign());
  const server = await start(path.join(above, 'served'));
  try {
    const designs = Array.from({ length: PAGES }, () => someDesign());
    for (const document of designs) await ask(`${server.url}/designs`, 'POST', JSON.stringify({ document }));
    const save = ({ id }: Design, base: number) =>
      ask(
        `${server.url}/designs/${id}/changes`,
        'POST',
        JSON.stringify({ base, changes: [noteChange(base)] }),
      );
    const [first, ...others] = designs as [Design, ...Design[]];
    const one = await each(SAVES, (i) => save(first, i + 1));
    const began = performance.now();
    await Promise.all(
      [first, ...others].map(async (design) => {
        const from = design === first ? SAVES : 0;
        for (let i = 1; i <= SAVES; i++) await save(design, from + i);
      }),
    );
    const saves = (performance.now() - began) / (SAVES * PAGES);
    console.log(
      `a save: SQL alone ${raw.toFixed(2)} ms; over HTTP ${saves.toFixed(2)} ms with ${PAGES} pages saving, answered in ${one.toFixed(2)} ms with one`,
    );
    console.log(`saves over HTTP / the same SQL (speed, at least 0.7): ${(raw / saves).toFixed(2)}`);
    const at = `${server.url}/designs/${first.id}`;

    const bytes = await ask(at);
    await each(READS / 3, () => ask(at));
    const reads = await each(READS, () => ask(at));
    const bare = await bareReads(bytes);
    console.log(
      `a read of ${bytes.length} bytes: bare ${bare.toFixed(3)} ms, a design ${reads.toFixed(3)} ms`,
    );
    console.log(`reads of a design / bare (speed, at least 0.5): ${(bare / reads).toFixed(2)}`);

    const list = () => ask(`${server.url}/designs`);
    await each(200, list);
    const alone = await each(400, list);
    const body = worst();
    let busy = true;
    const working = fetch(`${server.url}/write`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body,
    }).then(() => (busy = false));
    await new Promise((r) => setTimeout(r, 1500));
    const took: number[] = [];
    while (busy) took.push(await each(1, list));
    await working;
    const meanwhile = took.sort((a, b) => a - b)[took.length >> 1]!;
    console.log(
      `the list: alone ${alone.toFixed(2)} ms, while the worst computation runs ${meanwhile.toFixed(2)} ms (${took.length} times)`,
    );
    console.log(`the list while busy / alone (time, at most 1.5): ${(meanwhile / alone).toFixed(2)}`);
  } finally {
    await stop(server);
    agent.destroy();
    rmSync(above, { recursive: true, force: true });
  }
}

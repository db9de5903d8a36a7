import { expect } from 'chai';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fuzz } from './fuzz.js';
import { freePort, launch, root, start, stop, surviveKills } from './running.js';

/** The real program on a real folder, stopped in rude and in civil ways. `npm run soak` kills it 100 times, and
 * saves without end. */

const KILLS = 3;

describe('a data folder', function () {
  this.timeout(300_000);
  const folder = mkdtempSync(path.join(tmpdir(), 'cordelina-'));
  after(() => rmSync(folder, { recursive: true, force: true }));

  it(`keeps every answered save through ${KILLS} kills at random moments`, async () => {
    expect(await surviveKills(folder, KILLS)).to.be.greaterThan(KILLS / 2);
  });

  it('is served without a server error, whatever is asked', async () => {
    const server = await start(folder);
    const { failed, late, answers } = await fuzz(server.url, 1200, 7);
    await stop(server);
    expect(failed).to.deep.equal([]);
    expect(late.length, late.join('\n')).to.be.at.most(12);
    expect(Object.keys(answers)).to.include.members(['200', '201', '400', '404', '409']);
  });

  it('is not shared: a second server says so and stops, and the first goes on', async () => {
    const first = await start(folder);
    const second = launch(folder, await freePort());
    expect(await second.exited).to.equal(1);
    expect(second.said()).to.contain('Another Cordelina server is using the data folder');
    expect((await fetch(`${first.url}/designs`)).status).to.equal(200);
    expect(await stop(first)).to.equal(0);
    await fetch(`${first.url}/health`).then(
      () => expect.fail('the port is still held'),
      () => undefined,
    );
  });

  it('is let go by "npm start" on SIGTERM, with nothing left holding the port', async () => {
    const port = await freePort();
    const npm = spawn('npm', ['start', '--silent'], {
      cwd: root,
      env: { ...process.env, CORDELINA_DATA: folder, PORT: String(port) },
      stdio: ['ignore', 'pipe', 'inherit'],
      detached: true,
    });
    let said = '';
    npm.stdout.on('data', (d) => (said += String(d)));
    for (let tries = 0; tries < 900 && !said.includes('Cordelina is open at'); tries++)
      await new Promise((r) => setTimeout(r, 150));
    expect(said).to.contain(`http://localhost:${port}`);
    expect((await fetch(`http://127.0.0.1:${port}/`)).headers.get('content-type')).to.contain('text/html');
    const gone = once(npm, 'exit');
    npm.kill('SIGTERM');
    await gone;
    // npm may be gone a moment before what it started; the port and the folder must both be free soon after.
    let free = false;
    for (let tries = 0; tries < 40 && !free; tries++) {
      free = await fetch(`http://127.0.0.1:${port}/api/health`).then(
        () => false,
        () => true,
      );
      if (!free) await new Promise((r) => setTimeout(r, 150));
    }
    expect(free).to.be.true;
    expect(await stop(await start(folder))).to.equal(0);
  });

  it('of a newer program is refused and not touched', async () => {
    const mark = path.join(folder, 'schema.txt');
    const was = readFileSync(mark, 'utf8');
    writeFileSync(mark, '999\n');
    const refused = launch(folder, await freePort());
    expect(await refused.exited).to.equal(1);
    expect(refused.said()).to.contain('written by a newer Cordelina (schema 999');
    expect(readFileSync(mark, 'utf8')).to.equal('999\n');
    writeFileSync(mark, was);
  });
});

import { expect } from 'chai';
import { Archive, keepingOver, restored, restorePlanOf, type Ask } from '@cordelina/core';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import path from 'node:path';
import request from 'supertest';
import { backupName, layBackup } from '../src/workroom/backup.js';
import { readSettings } from '../src/settings.js';
import { onEither, someDesign, stitchChange, testApp, titleChange, type Api } from './support.js';

const PNG = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(40, 7)]);

const archiveOf = async ({ app }: Api): Promise<Archive> => {
  const { body } = await request(app)
    .get('/api/backup')
    .buffer()
    .parse((res, done) => {
      const parts: Buffer[] = [];
      res.on('data', (part: Buffer) => parts.push(part));
      res.on('end', () => done(null, Buffer.concat(parts)));
    })
    .expect(200)
    .expect('Content-Type', 'application/zip');
  return Archive.open(body as Buffer);
};
const askOf =
  ({ app }: Api): Ask =>
  async (method, at, body) => {
    const verb = method.toLowerCase() as 'get' | 'post' | 'put';
    const asked = request(app)[verb](at);
    if (body)
      asked
        .set('Content-Type', body.type)
        .send(typeof body.bytes === 'string' ? body.bytes : Buffer.from(body.bytes));
    const { status, text } = await asked;
    return { status, text: text ?? '' };
  };

onEither('a backup of a workroom', (open) => {
  let here: Api;
  before(async () => {
    here = await testApp(open);
  });
  after(() => here.close());

  it('holds everything, with named states and photos, and another workroom takes it', async () => {
    const design = someDesign('Kept');
    const at = `/api/designs/${design.id}`;
    await request(here.app).post('/api/designs').send({ document: design }).expect(201);
    await request(here.app).put(`${at}/revisions/1`).send({ name: 'as begun' }).expect(204);
    await request(here.app)
      .post(`${at}/changes`)
      .send({ base: 1, changes: [titleChange(design, 'Kept on')] })
      .expect(200);
    const swatch = { id: randomUUID(), name: 'First swatch' };
    await request(here.app).post('/api/swatches').send({ document: swatch }).expect(201);
    await request(here.app)
      .put(`/api/swatches/${swatch.id}/photo`)
      .set('Content-Type', 'image/png')
      .send(PNG)
      .expect(200);
    const gone = someDesign('Taken out');
    await request(here.app).post('/api/designs').send({ document: gone }).expect(201);
    await request(here.app).delete(`/api/designs/${gone.id}`).expect(204);

    const archive = await archiveOf(here);
    const { documents, left } = archive.manifest;
    expect(left).to.deep.equal([]);
    expect(documents.map(({ of }) => of).toSorted()).to.deep.equal(['design', 'studio', 'swatch']);

    const there = await testApp();
    try {
      const keeping = keepingOver(askOf(there));
      const plan = await restorePlanOf(archive, keeping);
      expect(plan.map(({ item, is }) => [item.of, is]).toSorted()).to.deep.equal([
        ['design', 'new'],
        ['studio', 'same'],
        ['swatch', 'new'],
      ]);
      expect(await restored(archive, plan, 'new', keeping, randomUUID)).to.deep.include({
        made: 2,
        left: [],
      });
      const { body } = await request(there.app).get(at).expect(200);
      expect(body.document.title).to.equal('Kept on');
      const { body: history } = await request(there.app).get(`${at}/revisions`).expect(200);
      expect((history.revisions as { name: string | null }[]).map(({ name }) => name)).to.include('as begun');
      const photo = await request(there.app).get(`/api/swatches/${swatch.id}/photo`).expect(200);
      expect(Buffer.compare(photo.body as Buffer, PNG)).to.equal(0);
      expect((await restorePlanOf(archive, keeping)).every(({ is }) => is === 'same')).to.equal(true);
      // One that lies in the basket comes back from there.
      await request(there.app).delete(at).expect(204);
      const again = await restorePlanOf(archive, keeping);
      await restored(archive, again, 'new', keeping, randomUUID);
      await request(there.app).get(at).expect(200);
    } finally {
      await there.close();
    }
  });

  it('is of one moment while people go on working', async () => {
    // Two designs that are always saved in step, the first first: a copy never has the second ahead of it.
    const pair = [someDesign('First of two'), someDesign('Second of two')] as const;
    for (const document of pair) await request(here.app).post('/api/designs').send({ document }).expect(201);
    let [isOver, saves] = [false, 0];
    const working = (async () => {
      for (let base = 1; !isOver; base++) {
        for (const { id } of pair)
          await request(here.app)
            .post(`/api/designs/${id}/changes`)
            .send({ base, changes: [base % 2 ? stitchChange(0, 'p', 'k') : stitchChange(0, 'k', 'p')] })
            .expect(200);
        saves++;
      }
    })();
    for (let i = 0; i < 6; i++) {
      const archive = await archiveOf(here);
      const [first, second] = pair.map(({ id }) => archive.manifest.documents.find((one) => one.id === id)!);
      expect(first!.version - second!.version).to.be.within(0, 1);
      for (const one of [first!, second!]) {
        // The document is that of the version which is told.
        const { rows } = archive.document<'design'>('design', one.file).charts[0]!;
        expect(rows[0]![0], `version ${one.version}`).to.equal(one.version % 2 ? 'p' : 'k');
      }
    }
    isOver = true;
    await working;
    expect(saves).to.be.greaterThan(2);
  });
});

describe('backups on a schedule', () => {
  it('are laid down whole, the oldest let go, and nothing else in the folder is touched', async () => {
    const api = await testApp();
    const folder = await mkdtemp(path.join(tmpdir(), 'cordelina-backups-'));
    try {
      await writeFile(path.join(folder, 'mine.zip'), 'mine');
      for (let day = 1; day <= 16; day++)
        await layBackup(api.workroom, folder, new Date(Date.UTC(2026, 0, day)));
      const names = (await readdir(folder)).toSorted();
      expect(names.length).to.equal(15);
      expect(names[0]).to.equal(backupName(new Date(Date.UTC(2026, 0, 3))));
      expect(names).to.include('mine.zip');
      expect(
        Archive.open(await readFile(path.join(folder, names[0]!))).manifest.documents.length,
      ).to.be.greaterThan(0);
    } finally {
      await rm(folder, { recursive: true });
      await api.close();
    }
  });

  it('are set by the environment', () => {
    const of = (env: Record<string, string>) => readSettings(env, '/root');
    expect(of({}).backup).to.equal(null);
    expect(of({ CORDELINA_BACKUP: 'copies' }).backup).to.deep.equal({ folder: '/root/copies', hours: 24 });
    expect(() => of({ CORDELINA_BACKUP: 'x', CORDELINA_BACKUP_HOURS: 'often' })).to.throw(
      /CORDELINA_BACKUP_HOURS/,
    );
  });
});

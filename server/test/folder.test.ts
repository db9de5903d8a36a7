import { SwatchSchema, THE_STUDIO } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import {
  cpSync,
  existsSync,
  fdatasyncSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  truncateSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { StoreTrouble, type Db } from '../src/store/db.js';
import { DocumentStore } from '../src/store/documents.js';
import { migrations } from '../src/store/migrate.js';
import { openFolder } from '../src/store/pglite/database.js';
import { fileTrouble } from '../src/store/pglite/folder.js';
import { FolderInUse, lockFolder } from '../src/store/pglite/lock.js';
import { pack } from '../src/store/packing.js';
import { appOn, someDesign } from './support.js';

const designsIn = (db: Db) => new DocumentStore(db, THE_STUDIO, 'design');

describe('the data folder', () => {
  const above = mkdtempSync(path.join(tmpdir(), 'cordelina-folder-'));
  after(() => rmSync(above, { recursive: true, force: true }));
  const design = someDesign('Precious');
  const good = path.join(above, 'good');

  before(async () => {
    let fresh = 0;
    const db = await openFolder(good, { seed: () => Promise.resolve(void fresh++) });
    expect(fresh).to.equal(1);
    await designsIn(db).create(design.id, design.title, pack(design));
    await db.close();
  });

  /** A copy of the good folder, spoiled. */
  const spoiled = (name: string, spoil: (folder: string) => void): string => {
    const folder = path.join(above, name);
    cpSync(good, folder, { recursive: true });
    spoil(folder);
    return folder;
  };
  const refusal = async (folder: string): Promise<string> => {
    const opened = await openFolder(folder).catch((error: unknown) => error as Error);
    if (!(opened instanceof Error)) {
      await opened.close();
      throw new Error('it was opened');
    }
    expect(opened, opened.stack).to.be.instanceOf(StoreTrouble);
    return opened.message;
  };
  const isHere = async (folder: string) => {
    const db = await openFolder(folder, { seed: () => Promise.reject(new Error('it is no new one')) });
    expect((await designsIn(db).list()).map((c) => c.id)).to.deep.equal([design.id]);
    await db.close();
  };

  it('has every save synced to the disk before it answers', async () => {
    let syncs = 0;
    const sync = (handle: number) => {
      fdatasyncSync(handle);
      syncs++;
    };
    const db = await openFolder(
      spoiled('synced', () => undefined),
      { sync },
    );
    const store = designsIn(db);
    for (let base = 1; base <= 3; base++) {
      const before = syncs;
      await store.save(design.id, base, { ids: [], label: '', changes: '[]', title: 'x', summary: null });
      expect(syncs).to.be.greaterThan(before);
    }
    await db.close();
  });

  for (const [what, spoil, says] of [
    [
      'without PG_VERSION',
      (f: string) => rmSync(path.join(f, 'postgres/PG_VERSION')),
      'PG_VERSION is missing',
    ],
    [
      'without its control file',
      (f: string) => rmSync(path.join(f, 'postgres/global/pg_control')),
      'not whole',
    ],
    [
      'with half a control file',
      (f: string) => truncateSync(path.join(f, 'postgres/global/pg_control'), 100),
      'cut off',
    ],
    [
      'without its log',
      (f: string) => rmSync(path.join(f, 'postgres/pg_wal'), { recursive: true }),
      'pg_wal is missing',
    ],
    [
      'whose database is gone',
      (f: string) => rmSync(path.join(f, 'postgres'), { recursive: true }),
      'is gone',
    ],
    [
      'whose database is an empty folder',
      (f: string) => {
        rmSync(path.join(f, 'postgres'), { recursive: true });
        mkdirSync(path.join(f, 'postgres'));
      },
      'is gone',
    ],
    [
      'copied by half',
      (f: string) => rmSync(path.join(f, 'postgres/base'), { recursive: true }),
      'base is missing',
    ],
    [
      'whose tables are missing',
      (f: string) => {
        const tables = path.join(f, 'postgres/base/5');
        for (const name of readdirSync(tables).filter((n) => /^\d{5}$/.test(n)))
          rmSync(path.join(tables, name));
      },
      'damaged',
    ],
    [
      'of another PostgreSQL',
      (f: string) => writeFileSync(path.join(f, 'postgres/PG_VERSION'), '14\n'),
      'PostgreSQL "14"',
    ],
  ] as const)
    it(`${what} is refused, with what to do, and nothing is laid into it`, async () => {
      const folder = spoiled(what.replaceAll(' ', '-'), spoil);
      const before = readdirSync(folder, { recursive: true }).length;
      const message = await refusal(folder);
      expect(message).to.contain(says).and.contain('Put a whole copy of the folder back');
      expect(readdirSync(folder, { recursive: true }).length).to.be.within(before - 2, before + 2);
      expect(await refusal(folder)).to.contain(says);
    });

  it('that holds other things is refused; one with only hidden files is not', async () => {
    const other = path.join(above, 'other');
    mkdirSync(other);
    writeFileSync(path.join(other, 'letters.txt'), 'dear');
    expect(await refusal(other)).to.contain('letters.txt');
    const file = path.join(other, 'letters.txt');
    expect(await refusal(file)).to.contain('is a file');
    expect(await refusal(path.join(file, 'below'))).to.contain('is a file');
    expect(readdirSync(other)).to.deep.equal(['letters.txt']);
  });

  it('that cannot be written to, or whose disk is full, is told in a sentence', () => {
    for (const [code, says] of [
      ['EACCES', 'cannot be written to'],
      ['EROFS', 'cannot be written to'],
      ['ENOSPC', 'is full'],
    ])
      expect((fileTrouble(Object.assign(new Error(code), { code }), '/data') as Error).message).to.contain(
        says,
      );
  });

  it('whose first start was cut off begins again, and what was seeded once is not seeded over', async () => {
    const folder = path.join(above, 'cut');
    mkdirSync(folder);
    writeFileSync(path.join(folder, '.hidden'), '');
    const seed = () => Promise.reject(new Error('cut off'));
    await openFolder(folder, { seed }).then(
      () => expect.fail('it should have failed'),
      () => undefined,
    );
    let seeded = 0;
    const again = () => Promise.resolve(void seeded++);
    for (let starts = 0; starts < 2; starts++) await (await openFolder(folder, { seed: again })).close();
    expect(seeded).to.equal(1);
    expect(existsSync(path.join(folder, 'unfinished'))).to.be.false;
  });

  it('of a program before opens and means the same: designs, swatches, photos and what the studio answered', async () => {
    const folder = path.join(above, 'before');
    const [first, ...later] = migrations().filter(({ number }) => number < 5);
    const db = await openFolder(folder);
    const swatch = SwatchSchema.parse({ id: randomUUID(), name: 'Plain', needle: 4 });
    const studio = { house: null, answers: { c5f: 'a' }, motifs: {} };
    const older = { ...design, title: 'Before' };
    await db.tx(async (tx) => {
      await tx.run('drop schema public cascade; create schema public');
      await tx.run(first!.sql);
      await tx.query(
        `insert into designs (id, version, title, document, summary) values ($1, 2, $2, $3, '{}')`,
        [design.id, design.title, JSON.stringify(design)],
      );
      await tx.query(
        `insert into revisions (design_id, version, document, saved_at) values ($1, 1, $2, now())`,
        [design.id, JSON.stringify(older)],
      );
      for (const { sql } of later) await tx.run(sql);
      await tx.query('insert into swatches (id, document) values ($1, $2)', [
        swatch.id,
        JSON.stringify(swatch),
      ]);
      await tx.query(`insert into swatch_photos (swatch_id, type, bytes) values ($1, 'image/png', $2)`, [
        swatch.id,
        Buffer.from([1, 2, 3]),
      ]);
      await tx.query('insert into studio (document) values ($1)', [JSON.stringify(studio)]);
      await tx.run(
        'create table schema_migrations (number integer primary key); insert into schema_migrations values (4)',
      );
    });
    await db.close();
    const { workroom, close } = await appOn(await openFolder(folder));
    const asStored = async (answer: Promise<{ answer: { plain: Buffer } }>) =>
      JSON.parse((await answer).answer.plain.toString()) as { version: number; document: unknown };
    expect(await asStored(workroom.designs.open(design.id))).to.deep.include({
      version: 2,
      document: JSON.parse(JSON.stringify(design)),
    });
    const earlier = JSON.parse((await workroom.designs.openEarlier(design.id, 1)).plain.toString());
    expect(earlier.document.title).to.equal('Before');
    expect(await asStored(workroom.swatches.open(swatch.id))).to.deep.include({
      version: 1,
      document: swatch,
    });
    expect((await workroom.swatches.store.list('made'))[0]!.summary).to.deep.equal(swatch);
    expect(Buffer.from((await workroom.photos.swatch.photo(swatch.id))!.bytes)).to.deep.equal(
      Buffer.from([1, 2, 3]),
    );
    expect(await asStored(workroom.studio.open(THE_STUDIO))).to.deep.include({
      version: 1,
      document: studio,
    });
    await close();
  });

  describe('is taken by one server alone', () => {
    const lost = () => undefined;

    it('also when the lock file is empty, "0" or of a server that is gone', async () => {
      const file = path.join(good, 'server.lock');
      for (const text of ['', '0', JSON.stringify({ token: 'x', place: 'elsewhere', pid: 1 })]) {
        writeFileSync(file, text);
        const unlock = await lockFolder(good, lost, 1000);
        expect(JSON.parse(readFileSync(file, 'utf8'))).to.deep.include({ pid: process.pid });
        unlock();
        expect(existsSync(file)).to.be.false;
      }
      await isHere(good);
    });

    it('also of two containers, which share the folder and nothing else', async () => {
      const file = path.join(good, 'server.lock');
      writeFileSync(file, JSON.stringify({ token: 'theirs', place: 'another container', pid: 7 }));
      const beat = setInterval(() => utimesSync(file, new Date(), new Date()), 500);
      expect(await refusal(good)).to.contain('Another Cordelina server is using');
      clearInterval(beat);
      expect(JSON.parse(readFileSync(file, 'utf8'))).to.deep.include({ token: 'theirs' });
      rmSync(file);
    });

    it('and knows when it is taken away or over', async () => {
      for (const change of [
        (file: string) => rmSync(file),
        (file: string) => writeFileSync(file, JSON.stringify({ token: 'x', place: 'y', pid: 1 })),
      ]) {
        let unlock: () => void = lost;
        const why = await new Promise<string>((resolve, reject) => {
          lockFolder(good, resolve).then((done) => {
            unlock = done;
            change(path.join(good, 'server.lock'));
          }, reject);
        });
        expect(why).to.match(/is gone|taken over/);
        unlock();
        rmSync(path.join(good, 'server.lock'), { force: true });
      }
    });

    it('within one machine at once', async () => {
      const unlock = await lockFolder(good, lost);
      const second = await lockFolder(good, lost).catch((error: unknown) => error);
      expect(second).to.be.instanceOf(FolderInUse);
      unlock();
    });
  });
});

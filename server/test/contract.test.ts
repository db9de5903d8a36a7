import {
  CardSchema,
  CheckRequest,
  HappeningSchema,
  KeptSwatchSchema,
  MomentSchema,
  PhotoSavedSchema,
  ReadRequest,
  RefusalSchema,
  SavedSchema,
  STUDIO,
  storedOf,
  SinceSchema,
  StoredSchema,
  SwatchListSchema,
  SwatchSchema,
  type Happening,
} from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import type { z } from 'zod';
import { someDesign, stitchChange, heardAll, testApp, onEither, type Api } from './support.js';

/** What is answered is what the contract says, to the field: nothing is left out, and nothing more is told than is said here. */
onEither('the contract of server and page', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());

  const design = { ...someDesign('Kept'), id: randomUUID() };
  const at = (path: string) => `/api${path}`;
  const strictly = <T>(schema: z.ZodType<T>, body: unknown, more: readonly string[] = []): T => {
    const parsed = schema.parse(body);
    const known = Object.keys(parsed as object);
    expect(Object.keys(body as object).filter((key) => !known.includes(key))).to.deep.equal(more);
    return parsed;
  };

  it('holds for designs: made, listed, opened, saved, joined, looked back on, named', async () => {
    const told: Happening[] = [];
    const end = api.workroom.listen((happening) => void (happening !== 'missed' && told.push(happening)));
    const made = await request(api.app).post(at('/designs')).send({ document: design }).expect(201);
    expect(strictly(SavedSchema, made.body, ['id']).version).to.equal(1);
    const list = await request(api.app).get(at('/designs')).expect(200);
    for (const card of list.body.designs) strictly(CardSchema, card);
    const open = await request(api.app)
      .get(at(`/designs/${design.id}`))
      .expect(200);
    expect(strictly(StoredSchema, open.body).document).to.deep.equal(design);
    const was = design.charts[0]!.rows[0]![0]!;
    const changes = [stitchChange(0, was, was === 'k' ? 'p' : 'k')];
    const save = (base: number) =>
      request(api.app)
        .post(at(`/designs/${design.id}/changes`))
        .send({ base, changes });
    expect(strictly(SavedSchema, (await save(1).expect(200)).body).version).to.equal(2);
    const since = await request(api.app)
      .get(at(`/designs/${design.id}/changes?since=1`))
      .expect(200);
    expect(strictly(SinceSchema, since.body).since![0]!.changes).to.deep.equal(changes);
    const other = [{ ...stitchChange(1, 'p', 'k'), id: randomUUID() }];
    const stale = await request(api.app)
      .post(at(`/designs/${design.id}/changes`))
      .send({ base: 1, changes: other })
      .expect(409);
    strictly(SinceSchema, stale.body, ['error']);
    strictly(RefusalSchema, { error: stale.body.error });
    await request(api.app)
      .put(at(`/designs/${design.id}/revisions/1`))
      .send({ name: 'First' })
      .expect(204);
    const back = await request(api.app)
      .get(at(`/designs/${design.id}/revisions`))
      .expect(200);
    for (const moment of back.body.revisions) strictly(MomentSchema, moment);
    await request(api.app)
      .delete(at(`/designs/${design.id}`))
      .expect(204);
    await request(api.app)
      .post(at(`/designs/${design.id}/restore`))
      .expect(204);
    await heardAll(told, 4);
    end();
    for (const happening of told) strictly(HappeningSchema, happening);
    expect(told.map(({ kind }) => kind)).to.deep.equal(['made', 'saved', 'taken-out', 'put-back']);
  });

  it('holds for the swatch book and the studio', async () => {
    const swatch = SwatchSchema.parse({ id: randomUUID(), name: 'Plain' });
    const made = await request(api.app).post(at('/swatches')).send({ document: swatch }).expect(201);
    strictly(SavedSchema, made.body, ['id']);
    const png = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(40, 7)]);
    const photo = await request(api.app)
      .put(at(`/swatches/${swatch.id}/photo`))
      .type('image/png')
      .send(png)
      .expect(200);
    strictly(PhotoSavedSchema, photo.body);
    const list = await request(api.app).get(at('/swatches')).expect(200);
    strictly(SwatchListSchema, list.body);
    for (const kept of list.body.swatches) strictly(KeptSwatchSchema, kept);
    strictly(storedOf(STUDIO), (await request(api.app).get(at('/studio')).expect(200)).body);
  });

  it('tells every refusal alike, with the place in the request', async () => {
    for (const [path, body, place] of [
      ['/check', { chart: { ...design.charts[0]!, width: 0 } }, 'chart.width'],
      ['/read', { text: 'k1', construction: 'sideways' }, 'construction'],
      ['/designs', { document: { ...design, title: '' } }, 'title'],
      ['/spread', { from: 0, to: 3 }, 'from'],
    ] as const) {
      const { body: refused } = await request(api.app).post(at(path)).send(body).expect(400);
      expect(strictly(RefusalSchema, refused).error.path, path).to.include(place);
    }
  });

  it('bounds what a request may name, at the very bound', () => {
    const read = (more: object) =>
      ReadRequest.safeParse({ text: 'Row 1: k1.', construction: 'flat', ...more }).success;
    expect([read({ size: 23 }), read({ size: 24 })]).to.deep.equal([true, false]);
    const asides = (n: number, long = 5) => read({ asides: Array<string>(n).fill('a'.repeat(long)) });
    expect([asides(200), asides(201), asides(1, 2000), asides(1, 2001)]).to.deep.equal([
      true,
      false,
      true,
      false,
    ]);
    expect([read({ text: 'k'.repeat(1_000_000) }), read({ text: 'k'.repeat(1_000_001) })]).to.deep.equal([
      true,
      false,
    ]);
    expect(CheckRequest.safeParse({ chart: design.charts[0], more: 1 }).success).to.be.false;
  });
});

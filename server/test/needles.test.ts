import {
  EDITION,
  KNITTING,
  KnittingSchema,
  NoteSchema,
  type Edition,
  type Knitting,
  type NeedlePlace,
  type Note,
} from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { someDesign } from './someDesign.js';
import { appOn, testApp, onEither, type Api } from './support.js';

const PNG = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(40, 7)]);
const place = (row: number, at: number, device = 'phone'): NeedlePlace => ({ row, group: 0, at, device });

onEither('what is at the needles', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());

  const design = someDesign('Vest');
  const edition: Edition = EDITION.read({
    id: randomUUID(),
    design: design.id,
    version: 1,
    at: 5,
    document: design,
  });
  const knitting = (): Knitting =>
    KnittingSchema.parse({
      id: randomUUID(),
      design: design.id,
      edition: edition.id,
      of: { chart: design.charts[0]!.id },
      name: 'Left mitten',
      knitter: 'Ina',
      begun: 5,
      place: place(0, 5),
    });
  const post = (at: string, document: object, status = 201) =>
    request(api.app).post(`/api/${at}`).send({ document }).expect(status);
  const move = (of: Knitting, base: number, from: NeedlePlace, to: NeedlePlace, status: number) =>
    request(api.app)
      .post(`/api/knittings/${of.id}/changes`)
      .send({
        base,
        changes: [
          {
            id: randomUUID(),
            label: 'at the needles',
            steps: KNITTING.between({ ...of, place: from }, { ...of, place: to }),
          },
        ],
      })
      .expect(status);

  it('keeps the pattern that someone began from as it was, whatever is asked of it', async () => {
    await post('editions', edition);
    const { body } = await request(api.app).get(`/api/editions/${edition.id}`).expect(200);
    expect(body.document).to.deep.equal(edition);
    const steps = [{ kind: 'set', path: ['document', 'title'], was: 'Vest', now: 'Other' }];
    const refused = await request(api.app)
      .post(`/api/editions/${edition.id}/changes`)
      .send({ base: 1, changes: [{ id: randomUUID(), label: 'x', steps }] })
      .expect(400);
    expect(refused.body.error.message).to.contain('stays as it was');
    await post('editions', { ...edition, id: randomUUID(), document: { ...design, charts: [] } }, 400);
  });

  it('keeps a place by the row, tells a late device what was saved since, and lists all of them', async () => {
    const one = knitting();
    await post('knittings', one);
    await move(one, 1, one.place, place(7, 10), 200);
    const late = await move(one, 1, one.place, place(3, 8, 'tablet'), 409);
    expect(late.body.since[0].changes[0].steps[0].now).to.deep.equal(place(7, 10));
    const { body } = await request(api.app).get('/api/knittings').expect(200);
    const listed = (body.documents as { document: Knitting; version: number }[]).find(
      (d) => d.document.id === one.id,
    )!;
    expect(listed.document.place).to.deep.equal(place(7, 10));
    expect(listed.version).to.equal(2);
    // It is there after a new start.
    const again = await request((await appOn(api.db)).app)
      .get(`/api/knittings/${one.id}`)
      .expect(200);
    expect(again.body.document.place).to.deep.equal(place(7, 10));
  });

  for (const [what, wrong] of [
    ['a row beyond any piece', { place: place(99_999, 5) }],
    ['a moment no calendar has', { place: place(1, 9e15) }],
    ['a place without a device', { place: { row: 1, group: 0, at: 5, device: ' ' } }],
    ['a job of nothing', { of: {} }],
    ['a job of two things', { of: { chart: 'a', size: 's' } }],
    ['a log of no row', { log: { '-1': 5 } }],
    ['nobody who knits', { knitter: '' }],
    ['a rest of no time', { rest: 0 }],
  ] as const)
    it(`refuses ${what}, and keeps what was`, async () => {
      const one = knitting();
      await post('knittings', one);
      await request(api.app)
        .put(`/api/knittings/${one.id}`)
        .send({ base: 1, document: { ...one, ...wrong } })
        .expect(400);
      const { body } = await request(api.app).get(`/api/knittings/${one.id}`).expect(200);
      expect(body.document).to.deep.equal(one);
    });

  it('keeps notes with their photos, and refuses what is none', async () => {
    const note: Note = NoteSchema.parse({
      id: randomUUID(),
      design: design.id,
      by: 'Ina',
      at: 9,
      where: 'Row 7',
      text: 'One stitch is left over.',
      count: { said: 24, found: 23 },
    });
    await post('notes', note);
    await request(api.app)
      .put(`/api/notes/${note.id}/photo`)
      .type('image/png')
      .send(Buffer.from('none'))
      .expect(400);
    await request(api.app).put(`/api/notes/${note.id}/photo`).type('image/png').send(PNG).expect(200);
    const { body } = await request(api.app).get('/api/notes').expect(200);
    expect(body.documents[0].photoAt).to.be.a('string');
    // A swatch of the same id would have a photo of its own.
    await request(api.app).get(`/api/swatches/${note.id}/photo`).expect(404);
    await post('notes', { ...note, id: randomUUID(), text: 'x'.repeat(3000) }, 400);
    await post('notes', { ...note, id: randomUUID(), state: 'lost' }, 400);
  });

  it('prints corrections under the sheet', async () => {
    const { body, headers } = await request(api.app)
      .post('/api/pdf')
      .send({ document: design, corrections: ['Row 7: end with p3.'] })
      .expect(200);
    expect(headers['content-type']).to.equal('application/pdf');
    expect((body as Buffer).length).to.be.greaterThan(1000);
    await request(api.app)
      .post('/api/pdf')
      .send({ document: design, corrections: [''] })
      .expect(400);
    await request(api.app)
      .post('/api/pdf')
      .send({ document: design, corrections: Array(201).fill('x') })
      .expect(400);
  });
});

import { randomUUID } from 'node:crypto';
import { houseOf, inHouse, SettingsSchema, type Step, type Studio } from '@cordelina/core';
import { expect } from 'chai';
import request from 'supertest';
import { someDesign } from './someDesign.js';
import { appOn, onEither, testApp, type Api } from './support.js';

interface Stored {
  document: Studio;
  version: number;
}

onEither('the studio', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());
  const stored = async (app = api.app) => (await request(app).get('/api/studio').expect(200)).body as Stored;
  const now = async () => (await stored()).document;
  const send = (base: number, steps: Step[]) =>
    request(api.app)
      .post('/api/studio/changes')
      .send({ base, changes: [{ id: randomUUID(), label: 'the studio', steps }] });
  /** A change of what there is now. */
  const change = async (path: string[], value: unknown, status = 200) => {
    const { document, version } = await stored();
    const was = path.reduce<unknown>(
      (bag, key) => (bag as Record<string, unknown> | undefined)?.[key],
      document,
    );
    return send(version, [{ kind: 'set', path, was, now: value }]).expect(status);
  };

  it('begins without a house style and without answers', async () => {
    expect(await stored()).to.deep.include({
      document: { house: null, answers: {}, motifs: {} },
      version: 1,
    });
  });

  it('keeps a house style, which a design is put in without losing what is its own', async () => {
    const design = {
      ...someDesign(),
      settings: SettingsSchema.parse({ school: 'total-hold', hand: 'left-same-fabric' }),
    };
    const house = houseOf(design);
    await change(['house'], house);
    expect(await now()).to.deep.equal({ house, answers: {}, motifs: {} });
    const other = someDesign('Other');
    const own = {
      ...other,
      settings: { ...other.settings, names: { x: 'Fold' } },
      sheet: { ...other.sheet, materials: 'Wool' },
    };
    const put = inHouse(own, house);
    expect(put.settings).to.include({ school: 'total-hold', hand: 'left-same-fabric' });
    expect(put.settings.names).to.deep.equal({ x: 'Fold' });
    expect(put.sheet.materials).to.equal('Wool');
    expect(inHouse(own, null)).to.equal(own);
  });

  it('keeps answers one by one, tells who comes late what was saved since, and is there after a new start', async () => {
    await change(['answers', 'c5f'], 'a');
    await change(['answers', 't4'], 'b');
    await change(['answers', 'c5f'], undefined);
    expect((await now()).answers).to.deep.equal({ t4: 'b' });
    const late = await send(1, [{ kind: 'set', path: ['answers', 'cr3'], now: 'c' }]).expect(409);
    expect(late.body.since).to.have.length(late.body.version - 1);
    const again = await stored((await appOn(api.db)).app);
    expect(again).to.deep.equal(await stored());
  });

  it('keeps motifs one by one, across designs, and no more than a studio has room for', async () => {
    const [one, two] = [randomUUID(), randomUUID()];
    const motif = {
      name: 'Little rope',
      rows: [['k', 'k'], [{ lean: 'left', front: ['k'], centre: [], back: ['k'] }]],
      own: [],
    };
    await change(['motifs', one], motif);
    await change(['motifs', two], { ...motif, name: 'Another' });
    await change(['motifs', one], undefined);
    expect((await now()).motifs).to.deep.equal({ [two]: { ...motif, name: 'Another' } });
    const { version } = await stored();
    const hundred = Array.from({ length: 100 }, (): Step => ({
      kind: 'set',
      path: ['motifs', randomUUID()],
      now: motif,
    }));
    const full = await send(version, hundred).expect(400);
    expect(full.body.error.message).to.contain('at most 100 motifs');
  });

  for (const [what, path, value] of [
    [
      'a motif whose rows are not equally wide',
      ['motifs', '00000000-0000-4000-8000-00000000000a'],
      { name: 'x', rows: [['k'], ['k', 'k']], own: [] },
    ],
    ['a field nobody knows', ['colour'], 'red'],
    ['a house style of another form', ['house'], { settings: { school: 'mine' }, sheet: {} }],
    ['a part of the house style by itself', ['house', 'settings'], {}],
    ['an answer that is no text', ['answers', 'c5f'], 3],
    [
      'what is written otherwise than it is kept',
      ['motifs', '00000000-0000-4000-8000-00000000000a'],
      { name: ' x ', rows: [['k']] },
    ],
  ] as const)
    it(`refuses ${what}, says which change, and nothing is changed`, async () => {
      const before = await stored();
      const { body } = await change([...path], value, 400);
      expect(body.error.path).to.equal('changes.0');
      expect(body.error.message).to.contain('does not fit the studio');
      expect(await stored()).to.deep.equal(before);
    });

  it('is one: it is neither made nor taken out', async () => {
    await request(api.app).post('/api/studio').send({ document: {} }).expect(404);
    await request(api.app).delete('/api/studio').expect(404);
  });
});

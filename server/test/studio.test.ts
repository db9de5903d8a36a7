import { randomUUID } from 'node:crypto';
import { houseOf, inHouse, SettingsSchema } from '@cordelina/core';
import { expect } from 'chai';
import request from 'supertest';
import { someDesign } from './someDesign.js';
import { appOn, testApp } from './support.js';

describe('the studio', () => {
  let api: Awaited<ReturnType<typeof testApp>>;
  before(async () => {
    api = await testApp();
  });
  after(() => api.db.close());
  const change = (patch: object, status = 200) =>
    request(api.app).patch('/api/studio').send(patch).expect(status);
  const now = async () => (await request(api.app).get('/api/studio').expect(200)).body as unknown;

  it('begins without a house style and without answers', async () => {
    expect(await now()).to.deep.equal({ house: null, answers: {}, motifs: {} });
  });

  it('keeps a house style, which a design is put in without losing what is its own', async () => {
    const design = {
      ...someDesign(),
      settings: SettingsSchema.parse({ school: 'total-hold', hand: 'left-same-fabric' }),
    };
    const house = houseOf(design);
    expect((await change({ house })).body).to.deep.equal({ house, answers: {}, motifs: {} });
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

  it('joins answers one by one, takes one away with null, and is there after a new start', async () => {
    await change({ answers: { c5f: 'a', t4: 'b' } });
    await change({ answers: { c5f: null, cr3: 'c' } });
    const { answers } = (await now()) as { answers: object };
    expect(answers).to.deep.equal({ t4: 'b', cr3: 'c' });
    const again = await request(appOn(api.db).app).get('/api/studio').expect(200);
    expect(again.body.answers).to.deep.equal(answers);
    await Promise.all(Array.from({ length: 20 }, (_, i) => change({ answers: { [`n${i}`]: 'x' } })));
    expect(Object.keys(((await now()) as { answers: object }).answers)).to.have.length(22);
  });

  it('keeps motifs one by one, across designs, and takes one away with null', async () => {
    const [one, two] = [randomUUID(), randomUUID()];
    const motif = {
      name: 'Little rope',
      rows: [['k', 'k'], [{ lean: 'left', front: ['k'], centre: [], back: ['k'] }]],
    };
    await change({ motifs: { [one]: motif } });
    await change({ motifs: { [two]: { ...motif, name: 'Another' } } });
    await change({ motifs: { [one]: null } });
    const { motifs } = (await now()) as { motifs: Record<string, object> };
    expect(motifs).to.deep.equal({ [two]: { ...motif, name: 'Another', own: [] } });
    const hundred = Object.fromEntries(Array.from({ length: 100 }, () => [randomUUID(), motif]));
    const full = await change({ motifs: hundred }, 413);
    expect(full.body.error.message).to.contain('at most 100 motifs');
    await change({ motifs: { [two]: null } });
  });

  for (const [what, patch, status, path] of [
    [
      'a motif whose rows are not equally wide',
      { motifs: { '00000000-0000-4000-8000-00000000000a': { name: 'x', rows: [['k'], ['k', 'k']] } } },
      400,
      'motifs.00000000-0000-4000-8000-00000000000a.rows',
    ],
    ['a field nobody knows', { colour: 'red' }, 400, ''],
    [
      'a house style of another form',
      { house: { settings: { school: 'mine' }, sheet: {} } },
      400,
      'house.settings.school',
    ],
    ['an answer that is no text', { answers: { c5f: 3 } }, 400, 'answers.c5f'],
    [
      'more answers than a studio keeps',
      { answers: Object.fromEntries(Array.from({ length: 1990 }, (_, i) => [`many${i}`, 'x'])) },
      413,
      'answers',
    ],
  ] as const)
    it(`refuses ${what} with ${status}, and nothing is changed`, async () => {
      const before = await now();
      const { body } = await change(patch, status);
      expect(body.error.path ?? '').to.equal(path);
      expect(await now()).to.deep.equal(before);
    });
});

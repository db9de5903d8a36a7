import { sealOf, startChart, startDesign, writeDesign } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import { onEither, stitchChange, testApp, type Api } from './support.js';

onEither('the seal of a design', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());

  it('is what proving that version comes to, sound or not', async () => {
    const ground = startChart({ columns: 12, rows: 4, construction: 'flat', ground: 'k' });
    const design = startDesign(randomUUID(), 'Sealed', ground);
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    const sealed = async (version: number | string, status = 200) =>
      (await request(api.app).get(`/api/designs/${design.id}/seal/${version}`).expect(status))
        .body as unknown;
    const first = sealOf(writeDesign(design.charts, null, design.settings));
    expect(first).to.deep.equal({ checked: true, against: [[1]], problem: null });
    expect(await sealed(1)).to.deep.equal(first);

    // A decrease that nothing gives back: what was sealed stays so, the new version is not.
    const changes = [stitchChange(2, 'k', 'k2tog')];
    await request(api.app).post(`/api/designs/${design.id}/changes`).send({ base: 1, changes }).expect(200);
    expect(await sealed(2)).to.deep.include({ checked: false });
    expect(((await sealed(2)) as { problem: string }).problem).to.match(/\w/);
    expect(await sealed(1)).to.deep.equal(first);

    for (const version of [3, 99]) await sealed(version, 404);
    for (const version of ['0', 'x', '1.5']) await sealed(version, 400);
  });

  it('is not given of a design that is not there', async () => {
    await request(api.app).get(`/api/designs/${randomUUID()}/seal/1`).expect(404);
  });
});

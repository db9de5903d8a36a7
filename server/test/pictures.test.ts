import { CARD_PICTURE, pictureAt, startChart, startDesign } from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import request from 'supertest';
import { cardOf, stitchChange, onEither, testApp, type Api } from './support.js';

onEither('the picture of a card', (open) => {
  let api: Api;
  before(async () => {
    api = await testApp(open);
  });
  after(() => api.close());

  /** The picture as it is sent: its pixels, and whether it may be kept. */
  const seen = async (address: string) => {
    const { body, headers } = await request(api.app).get(address).expect(200).expect('Content-Type', /avif/);
    const { data, info } = await sharp(body as Buffer)
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return {
      pixels: data,
      width: info.width,
      height: info.height,
      bytes: (body as Buffer).length,
      kept: headers['cache-control'] ?? '',
    };
  };

  it('shows the cloth of each version under an address of its own, which a browser may keep', async () => {
    const ground = startChart({ columns: 12, rows: 8, construction: 'flat', ground: 'k' });
    const design = startDesign(randomUUID(), 'Pictured', ground);
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    await cardOf(api.app, design.id, 1);
    const first = await seen(pictureAt(design.id, 1));
    expect([first.width, first.height]).to.deep.equal([2 * CARD_PICTURE.width, 2 * CARD_PICTURE.height]);
    // Hundreds of them make a list: each is small.
    expect(first.bytes).to.be.below(40_000);
    expect(first.kept).to.match(/immutable/);
    // Yarn nearly everywhere: it is cloth, and no empty board.
    const covered = first.pixels.filter((_, i) => i % 4 === 3).filter((a) => a > 128).length;
    expect(covered / (first.width * first.height)).to.be.above(0.8);

    const changes = [stitchChange(2, 'k', 'p')];
    const at = `/api/designs/${design.id}/changes`;
    await request(api.app).post(at).send({ base: 1, changes }).expect(200);
    await cardOf(api.app, design.id, 2);
    const second = await seen(pictureAt(design.id, 2));
    expect(second.pixels.equals(first.pixels)).to.equal(false);
    // The address of a version that is no more shows the newest, and is not to be kept.
    const old = await seen(pictureAt(design.id, 1));
    expect([old.pixels.equals(second.pixels), old.kept]).to.deep.equal([true, 'no-store']);
  });

  it('is not to be had of a design that is not there, or taken out', async () => {
    const id = randomUUID();
    await request(api.app).get(pictureAt(id, 1)).expect(404);
    const design = startDesign(
      id,
      'Gone',
      startChart({ columns: 4, rows: 4, construction: 'flat', ground: 'k' }),
    );
    await request(api.app).post('/api/designs').send({ document: design }).expect(201);
    await cardOf(api.app, id, 1);
    await seen(pictureAt(id, 1));
    await request(api.app).delete(`/api/designs/${id}`).expect(204);
    await request(api.app).get(pictureAt(id, 1)).expect(404);
  });
});

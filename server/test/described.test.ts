import Ajv from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { expect } from 'chai';
import { DESCRIBED, openApi, type Described } from '@cordelina/core';
import { readFileSync } from 'node:fs';
import request from 'supertest';
import type { z } from 'zod';
import { testApp, type Api } from './support.js';

/** The description of the interface held against the program: every example tried, every answer of the form that is told. */

const formOf = ({ answer }: Described): z.ZodType | null => (answer && 'safeParse' in answer ? answer : null);
const addressOf = ({ path, example }: Described): string =>
  `/api${path.replace(/\{(\w+)\}/g, (_, name: string) => example!.path![name]!)}${example!.query ? `?${example!.query}` : ''}`;

describe('the interface as it is described', () => {
  let api: Api;
  before(async () => {
    api = await testApp();
  });
  after(() => api.close());

  it('does what every example says, and answers in the form that is told', async () => {
    // What is made comes first, what takes it out last.
    const rank = ({ method, path }: Described) =>
      method === 'post' && !path.includes('{')
        ? 0
        : method === 'delete'
          ? 2
          : path.endsWith('/restore')
            ? 3
            : 1;
    const tried = DESCRIBED.filter(({ example }) => example).toSorted((a, b) => rank(a) - rank(b));
    expect(tried.length).to.be.greaterThan(30);
    for (const one of tried) {
      const at = addressOf(one);
      const asked = request(api.app)[one.method](at);
      const answer = await (one.example!.body === undefined
        ? asked
        : asked.send(one.example!.body as object));
      expect(answer.status, `${one.method} ${at}: ${answer.text?.slice(0, 300)}`).to.equal(one.status);
      const form = formOf(one);
      if (form) {
        const parsed = form.safeParse(answer.body);
        expect(parsed.error?.issues ?? [], `${one.method} ${at}`).to.deep.equal([]);
      } else if (one.answer) expect(answer.type, at).to.equal(one.answer.type);
    }
  });

  it('is OpenAPI whose schemas are sound, and take every example', () => {
    const document = JSON.parse(JSON.stringify(openApi('0'))) as {
      openapi: string;
      paths: Record<
        string,
        Record<
          string,
          {
            operationId: string;
            requestBody?: { content: Record<string, { schema: object; example?: unknown }> };
          }
        >
      >;
      components: object;
    };
    expect(document.openapi).to.match(/^3\.1/);
    const ids = Object.values(document.paths).flatMap((path) =>
      Object.values(path).map(({ operationId }) => operationId),
    );
    expect(new Set(ids).size, 'operation ids').to.equal(ids.length);
    const ajv = new Ajv({ strict: false });
    addFormats(ajv);
    ajv.addSchema({ $id: 'all', ...document });
    let tried = 0;
    for (const [path, methods] of Object.entries(document.paths))
      for (const [method, { requestBody }] of Object.entries(methods))
        for (const [type, { schema, example }] of Object.entries(requestBody?.content ?? {})) {
          if (type !== 'application/json') continue;
          const validate = ajv.compile(
            JSON.parse(JSON.stringify(schema).replaceAll('#/components', 'all#/components')) as object,
          );
          if (example === undefined) continue;
          // A document of an older format is taken too; the schema is that of the newest.
          const sent = JSON.parse(JSON.stringify(example).replaceAll('"format":1', '"format":8')) as unknown;
          expect(validate(sent), `${method} ${path}: ${JSON.stringify(validate.errors)}`).to.equal(true);
          tried++;
        }
    expect(tried).to.be.greaterThan(12);
  });

  it('tells of every route there is, and of no other', async () => {
    const told = new Set(DESCRIBED.map(({ method, path }) => `${method} ${path}`));
    // What the router answers at the addresses that are told: never that there is nothing there.
    for (const { method, path } of DESCRIBED) {
      const at = `/api${path.replace('{id}', '5c0ee000-0000-4000-8000-0000000000aa').replace('{version}', '1')}`;
      if (at.endsWith('/events')) continue;
      const { status, text } = await request(api.app)[method](at);
      expect(status === 404 && /There is nothing at/.test(text), `${method} ${at}`).to.equal(false);
    }
    expect(told.size).to.equal(DESCRIBED.length);
  });

  it('is a page to read, and the written description names every address', async () => {
    const page = await request(api.app).get('/api').expect(200).expect('Content-Type', /html/);
    const format = readFileSync(new URL('../../docs/format.md', import.meta.url), 'utf8');
    for (const { path } of DESCRIBED) expect(page.text, path).to.contain(`/api${path}`);
    // By hand in docs/format.md: the addresses of computation one by one, those of documents by their places.
    for (const { path, under } of DESCRIBED)
      if (under === 'Computation' || under === 'The workroom') expect(format, path).to.contain(`/api${path}`);
    for (const place of ['designs', 'swatches', 'editions', 'knittings', 'notes', 'studio'])
      expect(format).to.contain(`/api/${place}`);
  });
});

describe('a whole document that is sent as it is there', () => {
  it('saves nothing, and leaves nothing behind that cannot be read', async () => {
    const api = await testApp();
    const document = { id: '5c0ee000-0000-4000-8000-0000000000e5', name: 'As it is' };
    await request(api.app).post('/api/swatches').send({ document }).expect(201);
    const at = `/api/swatches/${document.id}`;
    const { body } = await request(api.app).put(at).send({ base: 1, document }).expect(200);
    expect(body.version).to.equal(1);
    const { body: since } = await request(api.app).get(`${at}/changes?since=1`).expect(200);
    expect(since).to.deep.include({ version: 1, since: [] });
    await api.close();
  });
});

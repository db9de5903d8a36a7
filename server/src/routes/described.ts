import { DESCRIBED, designSchema, escapedXml, openApi, TOKENS, type Described } from '@cordelina/core';
import { Router } from 'express';
import { readFileSync } from 'node:fs';

const { version } = JSON.parse(readFileSync(new URL('../../../package.json', import.meta.url), 'utf8')) as {
  version: string;
};

/** What can be asked of this server: as OpenAPI, as a schema of documents, and as a page to read. */
export function describedRoutes(): Router {
  const router = Router();
  // Made when it is first asked for, and the same from then on.
  const once = <T>(make: () => T): (() => T) => {
    let made: T | undefined;
    return () => (made ??= make());
  };
  const api = once(() => JSON.stringify(openApi(version)));
  const schema = once(() => JSON.stringify(designSchema()));
  const page = once(readable);
  router.get('/', (_req, res) => void res.type('html').send(page()));
  router.get('/openapi.json', (_req, res) => void res.type('json').send(api()));
  router.get('/design.schema.json', (_req, res) => void res.type('application/schema+json').send(schema()));
  return router;
}

const STYLE = `body{margin:0 auto;max-width:860px;padding:28px 20px 80px;background:${TOKENS.fleece};color:${TOKENS.peat};font:16px/1.5 'Source Sans 3','Segoe UI',sans-serif}
h1{margin:0}h2{margin:32px 0 6px;font-size:21px}a{color:${TOKENS.woad}}code,pre{font:14px/1.45 'Source Code Pro',ui-monospace,monospace}
details{border-top:1px solid ${TOKENS.rule};padding:8px 0}summary{cursor:pointer}summary b{display:inline-block;min-width:62px;font:600 14px ui-monospace,monospace}
pre{overflow:auto;white-space:pre-wrap;overflow-wrap:anywhere;padding:10px;background:${TOKENS.chalk};border:1px solid ${TOKENS.rule}}p{margin:4px 0 8px}`;

function exampleOf({ method, path, example }: Described): string {
  if (!example) return '';
  const at = path.replace(/\{(\w+)\}/g, (_, name: string) => example.path?.[name] ?? name);
  const body = example.body === undefined ? '' : `\n\n${JSON.stringify(example.body)}`;
  return `<pre>${escapedXml(`${method.toUpperCase()} /api${at}${example.query ? `?${example.query}` : ''}${body}`)}</pre>`;
}

function readable(): string {
  const parts = [...new Set(DESCRIBED.map(({ under }) => under))];
  const told = (one: Described) =>
    `<details><summary><b>${one.method.toUpperCase()}</b> <code>/api${escapedXml(one.path)}</code> ${escapedXml(one.does)}</summary>${one.about ? `<p>${escapedXml(one.about)}</p>` : ''}<p>Answers ${[one.status, ...(one.others ?? [])].join(', ')}.</p>${exampleOf(one)}</details>`;
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><title>Cordelina over HTTP</title><style>${STYLE}</style></head><body>
<h1>Cordelina over HTTP</h1>
<p>JSON in and out. A refusal is <code>{ "error": { "message", "path"? } }</code>. For programs: <a href="/api/openapi.json">OpenAPI</a>, and the <a href="/api/design.schema.json">schema of a design</a>.</p>
${parts
  .map(
    (under) =>
      `<h2>${escapedXml(under)}</h2>${DESCRIBED.filter((one) => one.under === under)
        .map(told)
        .join('')}`,
  )
  .join('\n')}
</body></html>`;
}

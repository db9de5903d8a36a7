import { z } from 'zod';
import { ChartSchema, DesignSchema } from '../chart/schema.js';
import { PieceSchema } from '../chart/piece-document.js';
import { DESCRIBED } from './described.js';
import { RefusalSchema } from './documents.js';
import { designSchema, schemaOf } from './json-schema.js';

/** The description of the interface as an OpenAPI document. */

const SHARED: readonly (readonly [string, z.ZodType])[] = [
  ['Chart', ChartSchema],
  ['Piece', PieceSchema],
  ['Refusal', RefusalSchema],
];

const TOLD: Readonly<Record<number, string>> = {
  200: 'As asked.',
  201: 'Laid down.',
  204: 'Done.',
  304: 'It is as it was when it was asked for last (If-None-Match).',
  400: 'The request makes no sense; it is said where.',
  404: 'There is none.',
  409: 'It has moved on, or is there already: nothing was written over.',
  413: 'Too large, or more than is worked at once.',
  503: 'Too much is asked just now, or the database does not answer; Retry-After says when to ask again.',
};

const isForm = (of: z.ZodType | { type: string }): of is { type: string } => !('safeParse' in of);
/** Forms of documents stand once, under their names. */
const NAMED = new Map<unknown, string>([[DesignSchema, 'Design']]);
const contentOf = (of: z.ZodType | { type: string }, example?: unknown): Record<string, unknown> =>
  isForm(of)
    ? { [of.type]: { schema: { type: 'string', format: 'binary' } } }
    : { 'application/json': { schema: schemaOf(of, NAMED), ...(example !== undefined && { example }) } };

/** The description as an OpenAPI 3.1 document. */
export function openApi(version: string): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const {
    method,
    path,
    under,
    does,
    about,
    body,
    status,
    answer,
    others = [],
    query = {},
    example,
  } of DESCRIBED) {
    const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: name === 'version' ? { type: 'integer', minimum: 1 } : { type: 'string', format: 'uuid' },
      ...(example?.path?.[name!] !== undefined && {
        example: name === 'version' ? Number(example.path[name]) : example.path[name!],
      }),
    }));
    const refusals = [
      ...new Set([...(body ? [400, 413] : []), ...others.filter((code) => code >= 400), 503]),
    ].toSorted();
    (paths[path] ??= {})[method] = {
      tags: [under],
      operationId: `${method}${path.replace(/[{}]/g, '').replace(/[^a-z]+([a-z]?)/gi, (_, next: string) => next.toUpperCase())}`,
      summary: does,
      ...(about && { description: about }),
      parameters: [
        ...inPath,
        ...Object.entries(query).map(([name, schema]) => ({
          name,
          in: 'query',
          required: true,
          schema: schemaOf(schema, NAMED),
        })),
      ],
      ...(body && { requestBody: { required: true, content: contentOf(body, example?.body) } }),
      responses: {
        [status]: { description: TOLD[status], ...(answer && { content: contentOf(answer) }) },
        ...(others.includes(304) && { 304: { description: TOLD[304] } }),
        ...Object.fromEntries(
          refusals.map((code) => [
            code,
            {
              description: TOLD[code],
              content: { 'application/json': { schema: { $ref: '#/components/schemas/Refusal' } } },
            },
          ]),
        ),
      },
    };
  }
  return {
    openapi: '3.1.0',
    info: {
      title: 'Cordelina',
      version,
      description:
        'A workroom for knitwear designers who chart cables. Errors are `{ error: { message, path? } }`; bodies are JSON, at most 48 MB.',
    },
    servers: [{ url: '/api' }],
    paths,
    components: {
      schemas: {
        Design: withoutHead(designSchema()),
        ...Object.fromEntries(SHARED.map(([name, schema]) => [name, schemaOf(schema, NAMED)])),
      },
    },
  };
}

/** A schema as one among others: what stands at the head of a document of its own is the whole's. */
const withoutHead = ({ $schema: _, $id: __, ...schema }: Record<string, unknown>): Record<string, unknown> =>
  JSON.parse(JSON.stringify(schema).replaceAll('#/$defs/', '#/components/schemas/Design/$defs/')) as Record<
    string,
    unknown
  >;

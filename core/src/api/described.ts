import { z } from 'zod';
import { BandSchema } from '../chart/bands.js';
import { DesignSchema } from '../chart/schema.js';
import { FLAT } from '../construction/index.js';
import type { KindName } from '../documents/index.js';
import { StudioSchema } from '../documents/studio-schema.js';
import { EditionHeadSchema, KnittingSchema, NoteSchema } from '../knitting/document.js';
import { FitSchema } from '../sizes/asked.js';
import { SwatchSchema } from '../sizes/swatch.js';
import {
  CheckRequest,
  ExpandRequest,
  MachineRequest,
  MachineRunRequest,
  PdfRequest,
  PieceRequest,
  ReadRequest,
  SpreadRequest,
  TurnRequest,
  WriteRequest,
} from './compute.js';
import { BasketSchema, CardSchema, SealSchema } from './designs.js';
import {
  ChangesRequest,
  MomentSchema,
  NameRequest,
  ReplaceRequest,
  SavedSchema,
  SinceSchema,
} from './documents.js';
import { PhotoSavedSchema } from './swatches.js';

/**
 * What a server answers, described once: the page at `/api`, the OpenAPI document and the tests that try every example read this
 * list, and the routes are held against it.
 */

export interface Described {
  method: 'get' | 'post' | 'put' | 'delete';
  /** As OpenAPI writes it, from `/api` on. */
  path: string;
  under: string;
  /** What it does, in one line; and what is to be known besides. */
  does: string;
  about?: string;
  /** What is sent, and in which form where that is no JSON. */
  body?: z.ZodType | { type: string };
  /** What comes back where all is well. */
  status: 200 | 201 | 204;
  answer?: z.ZodType | { type: string };
  /** Other answers, besides 400, 403, 413, 421 and 503, which any request may get. */
  others?: readonly number[];
  query?: Readonly<Record<string, z.ZodType>>;
  /** A request that can be tried: what is in its path, its query and its body. */
  example?: { path?: Readonly<Record<string, string>>; query?: string; body?: unknown };
}

const CHART = {
  width: 8,
  ground: 'p',
  rows: [
    ['p', 'p', 'k', 'k', 'k', 'k', 'p', 'p'],
    ['p', 'p', { lean: 'left', front: ['k', 'k'], back: ['k', 'k'] }, 'p', 'p'],
  ],
  firstRow: 'WS',
};
const EXAMPLE_ID = '5c0ee000-0000-4000-8000-0000000000e0';
const DOCUMENT = { format: 1, id: EXAMPLE_ID, title: 'An example', charts: [{ id: 'rope', ...CHART }] };

const Multiple = z.object({ of: z.int(), plus: z.int() });
const Told = z.object({
  id: z.string(),
  level: z.enum(['error', 'caution', 'note']),
  message: z.string(),
  row: z.int().optional(),
});
const Side = z.enum(['RS', 'WS']);
const any = z.unknown();

const compute = (
  path: string,
  does: string,
  body: z.ZodType,
  answer: Described['answer'],
  sent: unknown,
  about?: string,
): Described => ({
  method: 'post',
  path,
  under: 'Computation',
  does,
  about,
  body,
  status: 200,
  answer,
  example: { body: sent },
});

const COMPUTATION: readonly Described[] = [
  compute(
    '/read',
    'Reads a written pattern into a chart.',
    ReadRequest,
    z.object({
      chart: any.nullable(),
      problems: z.array(Told),
      questions: z.array(z.object({ word: z.string(), message: z.string() })),
      asides: z.array(z.object({ from: z.int(), to: z.int(), text: z.string(), why: z.string() })),
      names: z.record(z.string(), z.string()),
      sizes: any,
    }),
    {
      text: 'Cast on 8 sts.\nRow 1 (RS): p2, 2/2 LC, p2.\nRow 2 (WS): k2, p4, k2.',
      construction: FLAT.id,
      firstRow: 'RS',
    },
    'What a text leaves open is asked in `questions`; `answers` gives the `id` of one meaning for a word.',
  ),
  compute(
    '/check',
    'Counts a chart row by row, and finds what cannot be knitted or is usually a mistake.',
    CheckRequest,
    z.object({
      counts: z.array(z.object({ row: z.int(), side: Side, takes: z.int(), makes: z.int() })),
      castOn: z.int(),
      multiple: Multiple,
      findings: z.array(Told),
    }),
    { chart: CHART },
  ),
  compute(
    '/write',
    'Writes a chart, reads the words back, and works them on a needle.',
    WriteRequest,
    z.object({
      text: z.string(),
      rows: z.array(z.object({ row: z.int(), side: Side, text: z.string(), count: z.int() })),
      castOn: z.int(),
      multiple: Multiple,
      checked: z.boolean(),
      against: z.array(z.int()),
      problems: z.array(any),
    }),
    { chart: CHART, school: 'front-back' },
  ),
  compute(
    '/expand',
    'The piece as it is worked, repeats, shifts and plan carried out.',
    ExpandRequest,
    z.object({
      rows: z.array(
        z.object({
          row: z.int(),
          side: Side,
          stitches: z.array(any),
          start: z.int().optional(),
          band: BandSchema.optional(),
        }),
      ),
    }),
    { chart: CHART, times: 1, passes: 1 },
  ),
  compute('/turn', 'The chart as its other side shows the cloth.', TurnRequest, z.object({ chart: any }), {
    chart: CHART,
  }),
  compute(
    '/machine',
    'An operator’s list for two beds, run on simulated ones.',
    MachineRequest,
    z.object({
      setup: any,
      actions: z.array(any),
      rows: z.int(),
      checked: z.boolean(),
      problems: z.array(any),
    }),
    { chart: { ...CHART, firstRow: 'RS' }, method: 'embossed' },
  ),
  compute(
    '/machine/run',
    'Runs any list on two simulated beds.',
    MachineRunRequest,
    z.object({ back: any, front: any, grown: z.array(any), chart: any, problems: z.array(any) }),
    { setup: { back: ['L1', 'R1'], front: [] }, actions: [], rows: 2 },
  ),
  compute(
    '/spread',
    'One row that leads from one number of stitches to another, evenly.',
    SpreadRequest,
    z.object({ words: z.string(), positions: z.array(z.int()) }),
    { from: 20, to: 29 },
  ),
  compute(
    '/fit',
    'The stitches of parts that come nearest to a width.',
    FitSchema,
    z.object({
      solutions: z.array(z.object({ castOn: z.int(), width: z.number(), off: z.number() })),
      isWhole: z.boolean(),
      problem: z.string().optional(),
    }),
    {
      parts: [
        { kind: 'fixed', stitches: 2 },
        { kind: 'filling', of: 6, plus: 2 },
      ],
      gauge: { count: 24, over: 10 },
      target: { width: 48 },
    },
  ),
  compute(
    '/piece',
    'A piece in words and numbers, in all its sizes.',
    PieceRequest,
    z.object({
      sections: z.array(any),
      sizes: z.array(any),
      text: z.string(),
      findings: z.array(any),
      checked: z.boolean(),
      problems: z.array(z.string()),
    }),
    {
      charts: [{ id: 'rope', ...CHART }],
      piece: {
        parts: [
          { id: 'a', kind: 'ground', cloth: 'reverse', stitches: 4 },
          { id: 'b', kind: 'panel', chart: 'rope' },
        ],
        sizes: [{ id: 'one', name: 'One size' }],
      },
    },
  ),
  compute(
    '/pdf',
    'A design’s sheet as a PDF.',
    PdfRequest,
    { type: 'application/pdf' },
    { document: DOCUMENT },
    '`X-Pages` says how many pages; `X-Missing` which characters no font has.',
  ),
];

interface Place {
  of: KindName;
  at: string;
  document: z.ZodType;
  made?: unknown;
}

/** What may be asked of every kind of document that is kept in versions. */
function documents({ of, at, document, made }: Place): Described[] {
  const under = of === 'studio' ? 'The studio' : `${of[0]!.toUpperCase()}${of.slice(1)}s`;
  const place = of === 'studio' ? at : `${at}/{id}`;
  const known = made ? { id: (made as { id: string }).id } : null;
  const tried = (more: Described['example'] = {}): Pick<Described, 'example'> =>
    of === 'studio'
      ? { example: more }
      : known
        ? { example: { ...more, path: { ...known, ...more.path } } }
        : {};
  const stored = SavedSchema.extend({ document });
  const one = (
    method: Described['method'],
    path: string,
    does: string,
    more: Omit<Described, 'method' | 'path' | 'under' | 'does'>,
  ): Described => ({ method, path, under, does, ...more });
  const many: Described[] = [
    one('post', at, `Lays a new ${of} down.`, {
      body: z.object({ document }),
      status: 201,
      answer: SavedSchema.extend({ id: z.uuid() }),
      others: [409],
      ...(made ? { example: { body: { document: made } } } : {}),
    }),
  ];
  return [
    ...(of === 'studio' ? [] : many),
    one('get', place, `The ${of} as it stands.`, {
      status: 200,
      answer: stored,
      others: [304, 404],
      ...tried(),
    }),
    one('put', place, `Sets a whole ${of}, as one change.`, {
      body: ReplaceRequest.extend({ document }),
      status: 200,
      answer: SavedSchema,
      others: [404, 409],
      ...(made ? tried({ body: { base: 1, document: made } }) : {}),
    }),
    one('post', `${place}/changes`, 'Saves changes made for a version.', {
      body: ChangesRequest,
      status: 200,
      answer: SavedSchema,
      others: [404, 409],
      about: 'With 409 come the saves since, through which the changes are mapped.',
    }),
    one('get', `${place}/changes`, 'What was saved since a version.', {
      query: { since: z.int().min(1) },
      status: 200,
      answer: SinceSchema,
      others: [404],
      ...tried({ query: 'since=1' }),
    }),
    one('get', `${place}/revisions`, 'The versions that are kept.', {
      status: 200,
      answer: z.object({ revisions: z.array(MomentSchema) }),
      others: [404],
      ...tried(),
    }),
    one('get', `${place}/revisions/{version}`, 'It as it was at a version.', {
      status: 200,
      answer: stored,
      others: [404],
      ...tried({ path: { version: '1' } }),
    }),
    one('put', `${place}/revisions/{version}`, 'Names a version, which is then kept for good.', {
      body: NameRequest,
      status: 204,
      others: [404],
      ...(of === 'studio' ? {} : tried({ path: { version: '1' }, body: { name: 'as begun' } })),
    }),
    ...(of === 'studio'
      ? []
      : [
          one('delete', place, 'Takes it out: it can be put back for 30 days.', {
            status: 204,
            others: [404],
            ...tried(),
          }),
          one('post', `${place}/restore`, 'Puts back what was taken out.', {
            status: 204,
            others: [404],
            ...tried(),
          }),
        ]),
  ];
}

const photos = (at: string, under: string): Described[] => [
  {
    method: 'put',
    path: `${at}/{id}/photo`,
    under,
    does: 'Puts a photo to it: JPEG, PNG or WebP, at most 4 MB.',
    body: { type: 'image/png' },
    status: 200,
    answer: PhotoSavedSchema,
    others: [404],
  },
  {
    method: 'get',
    path: `${at}/{id}/photo`,
    under,
    does: 'Its photo.',
    status: 200,
    answer: { type: 'image/png' },
    others: [404],
  },
  {
    method: 'delete',
    path: `${at}/{id}/photo`,
    under,
    does: 'Takes its photo away.',
    status: 204,
    others: [404],
  },
];

const listed = (at: string, under: string, does: string, answer: z.ZodType): Described => ({
  method: 'get',
  path: at,
  under,
  does,
  status: 200,
  answer,
  example: {},
});
const Swatch = { id: '5c0ee000-0000-4000-8000-0000000000e1', name: 'An example' };

const LISTS: readonly Described[] = [
  listed(
    '/designs',
    'Designs',
    'All designs by their cards, the newest first.',
    z.object({ designs: z.array(CardSchema) }),
  ),
  {
    method: 'get',
    path: '/designs/{id}/seal/{version}',
    under: 'Designs',
    does: 'Whether the words of a version are proved, and against what.',
    status: 200,
    answer: SealSchema,
    others: [404],
    example: { path: { id: EXAMPLE_ID, version: '1' } },
  },
  {
    method: 'get',
    path: '/designs/{id}/card',
    under: 'Designs',
    does: 'One design’s card.',
    status: 200,
    answer: CardSchema,
    others: [404],
    example: { path: { id: EXAMPLE_ID } },
  },
  {
    method: 'get',
    path: '/designs/{id}/picture/{version}',
    under: 'Designs',
    does: 'The picture of its cloth.',
    status: 200,
    answer: { type: 'image/avif' },
    others: [404],
  },
  listed(
    '/designs/basket',
    'Designs',
    'What was taken out in the last 30 days.',
    z.object({ basket: z.array(BasketSchema) }),
  ),
  {
    method: 'delete',
    path: '/designs/basket/{id}',
    under: 'Designs',
    does: 'Lets one that was taken out go for good.',
    status: 204,
    others: [404],
  },
  listed('/swatches', 'Swatches', 'The swatch book, the newest first.', z.object({ swatches: z.array(any) })),
  listed('/knittings', 'Knittings', 'What is at the needles.', z.object({ documents: z.array(any) })),
  listed('/notes', 'Notes', 'What knitters noticed.', z.object({ documents: z.array(any) })),
];

/** All of them. Those of one kind are tried in this order: an example may need what one before it made. */
export const DESCRIBED: readonly Described[] = [
  ...COMPUTATION,
  ...documents({ of: 'design', at: '/designs', document: DesignSchema, made: DOCUMENT }),
  ...LISTS,
  ...documents({ of: 'swatch', at: '/swatches', document: SwatchSchema, made: Swatch }),
  ...photos('/swatches', 'Swatches'),
  ...documents({
    of: 'edition',
    at: '/editions',
    document: EditionHeadSchema.extend({ document: DesignSchema }),
  }),
  ...documents({ of: 'knitting', at: '/knittings', document: KnittingSchema }),
  ...documents({ of: 'note', at: '/notes', document: NoteSchema }),
  ...photos('/notes', 'Notes'),
  ...documents({ of: 'studio', at: '/studio', document: StudioSchema }),
  {
    method: 'get',
    path: '/backup',
    under: 'The workroom',
    does: 'Everything in it as one zip, as it stands at one moment.',
    status: 200,
    answer: { type: 'application/zip' },
    example: {},
  },
  {
    method: 'get',
    path: '/events',
    under: 'The workroom',
    does: 'What happens in it, as server-sent events.',
    status: 200,
    answer: { type: 'text/event-stream' },
  },
  {
    method: 'get',
    path: '/health',
    under: 'The workroom',
    does: 'Whether server and database answer.',
    status: 200,
    answer: z.object({ ok: z.literal(true) }),
    example: {},
  },
  {
    method: 'get',
    path: '/design.schema.json',
    under: 'The workroom',
    does: 'The form of a design’s document, as JSON Schema.',
    status: 200,
    answer: z.record(z.string(), any),
    example: {},
  },
  {
    method: 'get',
    path: '/openapi.json',
    under: 'The workroom',
    does: 'This description, as OpenAPI.',
    status: 200,
    answer: z.record(z.string(), any),
    example: {},
  },
];

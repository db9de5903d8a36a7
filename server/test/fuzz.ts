import { simpleCrossing, type Stitch } from '@cordelina/core';
import { randomUUID } from 'node:crypto';
import { someDesign } from './someDesign.js';

/** Requests no page would send, to every route: half right, spoiled, cut, outsized, of the wrong kind. */

type Random = () => number;

/** Mulberry32: the same requests for the same seed. */
function randomFrom(seed: number): Random {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const ODD: readonly unknown[] = [
  ...[
    null,
    true,
    -1,
    0,
    1.5,
    1e308,
    2 ** 31,
    2 ** 53,
    '',
    ' ',
    'k',
    '\0',
    '\ud800',
    '💚',
    '__proto__',
    'x'.repeat(5000),
  ],
  ...[[], {}, [[]], [null], { lean: 'left' }, { __proto__: 1 }, { front: [], back: [], lean: 'up' }],
];
const STITCHES: readonly Stitch[] = [
  'k',
  'p',
  'yo',
  'k2tog',
  'none',
  'cdd',
  'kyokyok',
  simpleCrossing('left', 2, 1),
];
const SCRAPS = [
  ...[
    'Row 1: ',
    'Rows 1-999999: ',
    'Row 2 (WS): ',
    'Rnd 3: ',
    'Cast on 99999999. ',
    '*',
    '; rep from * to end',
    '[',
    ']',
  ],
  ...[
    '(',
    ')',
    ' 999999999 times',
    'k1, ',
    'p2, ',
    'yo, ',
    '2/2 LC, ',
    '999999999/999999999 LC, ',
    'C999999999F, ',
  ],
  ...[
    'k2tog, ',
    'Band before round 2: over 9 sts, a multiple of 5 less 1.\n',
    'Band round 1: knit on 99999 sts, braid step to end. (10 sts)\n',
    'End of band: work the first st of round 2 together with the travelling st.\n',
    '[k1 A, p1 B] 99999 times, ',
    'move the marker on 2 sts, ',
    'move the marker back 99999 sts, ',
    'sl 2 to cable needle, hold in front, k2, k2 from cable needle, ',
    'Work rows 1–2 a total of 3 times, then rows 1–2 once',
    'work the stitches as they present.',
    ' to last 2 sts, ',
    '\n',
    '.',
    '-b/p',
    '{',
    '}',
    '\u0000',
    'ẞ',
    '≥',
  ],
];

export class Maker {
  constructor(private readonly random: Random) {}

  below(n: number): number {
    return Math.floor(this.random() * n);
  }

  one<T>(of: readonly T[]): T {
    return of[this.below(of.length)]!;
  }

  chart(): Record<string, unknown> {
    const width = 1 + this.below(12);
    const rows = Array.from({ length: 1 + this.below(8) }, () =>
      Array.from({ length: this.random() < 0.8 ? width : this.below(20) }, () => this.one(STITCHES)),
    );
    const across =
      this.random() < 0.5 ? { before: this.below(3), after: this.below(3), times: this.below(9) } : null;
    const up =
      this.random() < 0.4
        ? { setup: this.below(3), closing: this.below(3), times: 1 + this.below(5), end: 1 + this.below(6) }
        : null;
    const jogs = Object.fromEntries(
      Array.from({ length: this.below(3) }, () => [String(this.below(9)), this.below(9) - 4]),
    );
    const mirror = this.random() < 0.2 ? { axis: 1 + this.below(30) } : null;
    const bands = Object.fromEntries(
      Array.from({ length: this.below(3) }, () => [
        String(this.below(9)),
        { every: 1 + this.below(9), rounds: this.below(5) },
      ]),
    );
    const construction = this.one(['flat', 'round', 'double', 'double-round']);
    const bothFaces = this.random() < 0.2;
    return { width, rows, construction, bothFaces, across, up, jogs, bands, mirror };
  }

  needle(): string {
    return `${this.one(['L', 'R', 'l', ''])}${this.below(400)}`;
  }

  /** A list for two beds. */
  list(): Record<string, unknown> {
    const needles = (most: number) => Array.from({ length: this.below(most) }, () => this.needle());
    const action = () => ({
      counter: this.below(30),
      kind: this.one(['cable', 'move']),
      from: needles(6),
      to: needles(6),
      over: needles(4),
      out: needles(4),
    });
    return {
      setup: { back: needles(12), front: needles(30) },
      actions: Array.from({ length: this.below(20) }, action),
      rows: this.below(40),
    };
  }

  /** A piece to be fitted to a width. */
  piece(): Record<string, unknown> {
    const part = () =>
      this.one([
        { kind: 'fixed', stitches: this.below(30) },
        { kind: 'gap', stitches: this.below(30), pair: this.one(['a', 'b']) },
        { kind: 'gap', stitches: this.below(30), least: this.below(9), most: this.below(2000) },
        { kind: 'filling', of: 1 + this.below(30), plus: this.below(9) },
      ]);
    return {
      parts: Array.from({ length: 1 + this.below(20) }, part),
      gauge: { count: 1 + this.below(40), over: 1 + this.below(12), unit: this.one(['cm', 'in', 'mm']) },
      target: { width: this.below(300), unit: this.one(['cm', 'in', 'ell']) },
    };
  }

  /** Charts set out in a piece. */
  setOut(): Record<string, unknown> {
    const cloth = () => this.one(['reverse', 'garter', 'moss', 'wide-rib', 'felt']);
    const chart = () => ({
      chart: this.one(['a', 'b']),
      starts: 1 + this.below(9),
      begins: 1 + this.below(9),
    });
    const part = () =>
      this.one([
        { kind: 'selvage', stitches: 1 + this.below(9), style: this.one(['garter', 'slipped']) },
        { kind: 'ground', cloth: cloth(), stitches: this.below(40), pair: this.one(['x', null]) },
        { kind: 'panel', isMirrored: this.random() < 0.5, ...chart() },
        { kind: 'filling', repeats: 1 + this.below(12), ...chart() },
        { kind: 'marker' },
      ]);
    const border = () => ({
      kind: this.one(['rib', 'garter', 'runs-on', 'hem']),
      rows: 1 + this.below(20),
      changes: this.one(['none', 'even', 'ropes']),
      fewer: this.one([null, this.below(30)]),
      cord: this.random() < 0.5,
      join: this.one(['sewn', 'joined']),
      eyelets: this.one(['around', 'ends']),
      band: this.one([null, { every: 2 + this.below(9), rounds: 1 + this.below(3) }]),
    });
    const measured = { count: 1 + this.below(40), over: 100_000 };
    return {
      charts: ['a', 'b'].map((id) => ({
        ...this.chart(),
        id,
        jogs: {},
        bands: this.one([{}, { 0: { every: 3, rounds: 2 } }]),
        up: null,
        mirror: null,
        across: this.one([null, { before: 0, after: 0, times: 1 }]),
      })),
      piece: {
        construction: this.one(['flat', 'round', 'double']),
        parts: Array.from({ length: this.below(8) }, (_, i) => ({ id: `p${i}`, ...part() })),
        gauge: { plain: this.one([null, { stitches: measured, rows: measured, swatch: null }]) },
        border: { bottom: this.one([null, border()]), top: this.one([null, border()]) },
        length: { way: this.one(['whole', 'part', 'centred']) },
        sizes: Array.from({ length: 1 + this.below(3) }, (_, i) => ({
          id: `s${i}`,
          name: `S${i}`,
          measure: this.one([null, 1000 + this.below(1_000_000)]),
          length: this.one([null, 1000 + this.below(600_000)]),
          counts: { p1: this.below(50) },
        })),
        words: this.one(['panels', 'rows']),
      },
    };
  }

  text(): string {
    return Array.from({ length: 1 + this.below(40) }, () => this.one(SCRAPS)).join('');
  }

  /** A value with one thing in it spoiled. */
  spoiled(value: unknown): unknown {
    if (this.random() < 0.2 || typeof value !== 'object' || value === null) return this.one(ODD);
    const copy: Record<string, unknown> = { ...(value as Record<string, unknown>) };
    const keys = Object.keys(copy);
    if (!keys.length || this.random() < 0.1) return { ...copy, extra: this.one(ODD) };
    const key = this.one(keys);
    if (this.random() < 0.15) {
      const { [key]: _, ...rest } = copy;
      return Array.isArray(value) ? Object.values(rest) : rest;
    }
    copy[key] = this.spoiled(copy[key]);
    return Array.isArray(value) ? Object.values(copy) : copy;
  }
}

export interface Fuzzed {
  answers: Record<string, number>;
  /** The slowest answer, in milliseconds. */
  slowest: number;
  /** Requests over a second, and those answered with a server error: what was sent. */
  slow: string[];
  failed: string[];
  /** Requests stopped at the deadline. */
  late: string[];
  /** Connections that broke and were made again. */
  broken: number;
}

/** Sends so many requests, `together` at a time, made from a seed. */
export async function fuzz(url: string, requests: number, seed: number, together = 8): Promise<Fuzzed> {
  const random = randomFrom(seed);
  const make = new Maker(random);
  const answers: Record<string, number> = {};
  const slow: string[] = [];
  const failed: string[] = [];
  const late: string[] = [];
  let slowest = 0;
  let broken = 0;
  const design = { ...someDesign('Fuzzed'), id: randomUUID() };
  await fetch(`${url}/designs`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ document: design }),
  });

  const step = () => ({
    kind: make.one(['cells', 'rows', 'columns', 'set', 'charts']),
    chart: 'chart',
    row: make.below(5),
    column: make.below(9),
    was: [make.one(STITCHES)],
    now: [make.one(STITCHES)],
    ...(random() < 0.5 ? { done: 'in', at: make.below(5), high: 4, rows: [['k']], outside: [0, 0] } : {}),
    ...(random() < 0.3 ? { path: [make.one(['title', 'settings', 'charts', '__proto__']), 'chart'] } : {}),
    ...(random() < 0.1
      ? {
          path: [
            'charts',
            'chart',
            make.one(['jogs', 'bands']),
            make.one(['0', '3', '99999', '-1', '__proto__']),
          ],
          now: make.below(5),
        }
      : {}),
  });
  const body = (): [method: string, path: string, body: unknown] => {
    const id = random() < 0.8 ? design.id : make.one(['none', randomUUID(), '..%2f', '%00']);
    switch (make.below(23)) {
      case 0:
        return ['POST', '/read', { text: make.text(), construction: 'flat', firstRow: 'RS' }];
      case 1:
        return ['POST', '/check', { chart: make.chart() }];
      case 2:
        return [
          'POST',
          '/write',
          { chart: make.chart(), school: make.one(['front-back', 'spelled', 'none']) },
        ];
      case 3:
        return [
          'POST',
          '/designs',
          { document: { ...design, id: make.one([design.id, 'x', randomUUID()]) } },
        ];
      case 4:
        return ['PUT', `/designs/${id}`, { base: make.below(4), document: design }];
      case 5:
      case 6:
        return [
          'POST',
          `/designs/${id}/changes`,
          { base: 1 + make.below(3), changes: [{ id: randomUUID(), label: '', steps: [step()] }] },
        ];
      case 7:
        return [
          'GET',
          `/designs/${id}/revisions/${make.one(['1', '0', '2147483648', '-1', 'x', '1e9'])}`,
          undefined,
        ];
      case 8:
        return [
          'GET',
          `/designs/${id}/changes?since=${make.one(['1', '0', '', 'x', '99999999999', '1&since=2'])}`,
          undefined,
        ];
      case 20:
        return [
          'POST',
          '/machine',
          { chart: make.chart(), method: make.one(['basic', 'embossed', 'x']), every: make.below(8) },
        ];
      case 21:
        return ['POST', '/machine/run', make.list()];
      case 22:
        return ['POST', '/turn', { chart: make.chart() }];
      case 10:
        return ['POST', '/expand', { chart: make.chart(), times: 1 + make.below(600) }];
      case 11:
        return [
          'POST',
          '/spread',
          {
            from: 1 + make.below(2100),
            to: 1 + make.below(2100),
            ends: make.one(['whole', 'half', 'round', 'x']),
          },
        ];
      case 12:
        return ['POST', '/fit', make.piece()];
      case 13:
        return [
          'POST',
          '/studio/changes',
          {
            base: 1 + make.below(8),
            changes: [
              {
                id: randomUUID(),
                label: 'fuzzed',
                steps: [
                  {
                    kind: 'set',
                    path: ['motifs', make.one(['a', randomUUID(), design.id, '__proto__'])],
                    now: make.one([{ name: 'Fuzzed', rows: make.chart().rows, own: [] }, undefined, null]),
                  },
                ],
              },
            ],
          },
        ];
      case 15: {
        const reading = () => ({ count: 1 + make.below(40), over: 1000 * (1 + make.below(200)) });
        const after = { stitches: [reading(), reading()], rows: [reading()] };
        const document = { id, name: 'Fuzzed', after, needle: make.below(12) };
        return make.one<[string, string, object]>([
          ['POST', '/swatches', { document }],
          ['PUT', `/swatches/${id}`, { base: 1 + make.below(3), document }],
        ]);
      }
      case 16:
        return [
          make.one(['GET', 'DELETE', 'PUT']),
          make.one([`/swatches/${id}/photo`, `/swatches/${id}`, '/swatches']),
          undefined,
        ];
      case 18: {
        const place = { row: make.below(400), group: make.below(40), at: make.below(2e9), device: 'fuzz' };
        const of = make.one<object>([{ chart: 'chart' }, { size: 's' }, { chart: 'x', size: 'y' }]);
        const knitting = { id, design: design.id, edition: id, of, name: 'F', knitter: 'F', begun: 1, place };
        const note = { id, design: design.id, by: 'F', at: 1, where: 'row 1', row: make.below(2000) };
        const edition = { id, design: design.id, version: 1, at: 1, document: design };
        const [at, document] = make.one<[string, object]>([
          ['/knittings', knitting],
          ['/notes', note],
          ['/editions', edition],
        ]);
        const steps = [
          { kind: 'set', path: ['place'], was: place, now: { ...place, at: make.below(2e9) } },
          { kind: 'set', path: ['log', String(make.below(500))], now: make.below(2e9) },
        ];
        return make.one<[string, string, object | undefined]>([
          ['POST', at, { document }],
          ['PUT', `${at}/${id}`, { base: 1 + make.below(3), document }],
          ['POST', `${at}/${id}/changes`, { base: 1, changes: [{ id: randomUUID(), label: 'f', steps }] }],
          [make.one(['GET', 'DELETE']), make.one([`${at}/${id}`, at, `${at}/${id}/photo`]), undefined],
        ]);
      }
      case 14:
        return ['GET', '/studio', undefined];
      case 17:
        return ['POST', '/piece', make.setOut()];
      case 9:
        return ['PUT', `/designs/${id}/revisions/1`, { name: make.one(['', 'kept', null, 'x'.repeat(200)]) }];
      default:
        return [
          make.one(['GET', 'DELETE', 'PATCH']),
          make.one(['/designs', '/nothing', '/designs/%ff', '/events/x']),
          undefined,
        ];
    }
  };

  const ask = async () => {
    const [method, path, whole] = body();
    const spoiled = whole !== undefined && random() < 0.7 ? make.spoiled(whole) : whole;
    let sent = spoiled === undefined ? undefined : JSON.stringify(spoiled);
    if (sent && random() < 0.05) sent = sent.slice(0, make.below(sent.length));
    const type = random() < 0.97 ? 'application/json' : make.one(['text/plain', 'application/xml']);
    const init = { method, headers: sent === undefined ? undefined : { 'content-type': type }, body: sent };
    let began = performance.now();
    const response = await fetch(`${url}${path}`, init).catch(async (error: unknown) => {
      // A connection may be closed just as it is used again; a server that is gone is another matter.
      await fetch(`${url}/health`).catch(() => {
        throw new Error(`the server is gone after ${method} ${path} ${sent?.slice(0, 600) ?? ''}`, {
          cause: error,
        });
      });
      broken++;
      began = performance.now();
      return fetch(`${url}${path}`, init);
    });
    const answer = Buffer.from(await response.arrayBuffer()).toString('utf8');
    const took = performance.now() - began;
    answers[response.status] = (answers[response.status] ?? 0) + 1;
    slowest = Math.max(slowest, took);
    const told = `${method} ${path} ${sent?.slice(0, 600) ?? ''} (${response.status}, ${took.toFixed(0)} ms)`;
    if (took > 1000) slow.push(told);
    // One that the machine had no time for says so: under load that is no fault.
    if (response.status === 503 && /takes longer than|Too much is being worked out/.test(answer))
      late.push(told);
    else if (response.status >= 500) failed.push(told);
  };
  let left = requests;
  await Promise.all(
    Array.from({ length: together }, async () => {
      while (left-- > 0) await ask();
    }),
  );
  return { answers, slowest, slow, failed, late, broken };
}

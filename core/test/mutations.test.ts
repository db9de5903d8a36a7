import { expect } from 'chai';
import {
  ChartSchema,
  crossing,
  SettingsSchema,
  simpleCrossing,
  writeAndProve,
  type Chart,
  type Settings,
  type Stitch,
  StyleSchema,
} from '../src/index.js';
import { proveText } from '../src/words/proof/prove.js';
import { sampleOf, THOROUGH } from './arbitrary.js';

/** Single damage to a printed pattern: the seal must not outlive any of it. */

const P = (row: string): Stitch[] => [...row];
const settings = SettingsSchema.parse({ style: { spelled: 'first' } });
const centred = crossing('right', ['k', 'k'], ['k', 'k'], ['p']);

const patterns: [string, Chart, Settings][] = [
  [
    'flat, with a repeat each way, written out',
    ChartSchema.parse({
      width: 11,
      rows: [
        P('ppkkkkppkkk'),
        P('ppkkkkppkkk'),
        ['p', 'p', simpleCrossing('left', 2, 2), 'p', 'p', 'k', 'k', 'k'],
        P('ppkkkkppkkk'),
        P('ppkkkkppkkk'),
        P('ppkkkkppkkk'),
      ],
      across: { before: 2, after: 3, times: 4, least: 2 },
      up: { setup: 2, closing: 2, times: 3 },
    }),
    { ...settings, cableless: true },
  ],
  [
    'flat, condensed, counts where they change',
    ChartSchema.parse({
      width: 9,
      rows: [
        P('kkpkkkkpk'),
        P('kkpkkkkpk'),
        ['k', 'k', 'p', 'k2tog', 'none', 'm1l', 'k', 'p', 'k'],
        P('kkpk').concat('none', 'k', 'k', 'p', 'k'),
      ].map((row, r) => (r === 2 ? ['k', 'k', 'p', 'k2tog', 'none', 'k', 'k', 'p', 'k'] : row)),
    }),
    { ...settings, style: StyleSchema.parse({ wsRows: 'presented', counts: 'changes', spelled: 'first' }) },
  ],
  [
    'groups in brackets',
    ChartSchema.parse({
      width: 13,
      firstRow: 'WS',
      rows: [
        P('ppkkppkkppkkp'),
        ['p', 'ktbl', ...P('pp'), 'yo', 'k2tog', 'yo', 'ssk', 'slyf', 'slyf', 'm1lp', 'p2tog', 'k'],
      ],
    }),
    settings,
  ],
  [
    'in the round, counts that change inside the repeat',
    ChartSchema.parse({
      width: 7,
      construction: 'round',
      rows: [
        P('pkkpp').toSpliced(3, 0, 'none').concat('p'),
        ['p', 'k', 'k', 'yo', 'p', 'p', 'p'],
        ['p', 'slyb', 'k', 'ktbl', 'p', 'mb', 'p'],
        ['p', 'k', 'k2tog', 'none', 'p', 'p', 'p'],
      ],
      across: { before: 1, after: 1, times: 3, least: 1 },
    }),
    settings,
  ],
  [
    'centre groups on both sides, left-handed',
    ChartSchema.parse({
      width: 9,
      rows: [
        ['k', 'k', centred, 'k', 'k'],
        ['k', 'k', centred, 'k', 'k'],
        ['k', 'lli', 'ssk', ...P('kkkkkk')],
      ],
    }),
    { ...settings, hand: 'left-same-fabric' },
  ],
  [
    'twists by a method of the region, a name of her own, uneven crossings',
    ChartSchema.parse({
      width: 8,
      rows: [
        ['p', crossing('left', ['k'], ['ktbl']), simpleCrossing('right', 2, 1, 'p'), 'p', 'k'],
        ['p', crossing('left', ['ktbl'], ['k']), simpleCrossing('right', 2, 1, 'p'), 'p', 'k'],
      ],
    }),
    { ...settings, twist: 'second-first', names: { 'right:k.k//p': "Fell's gate" } },
  ],
  [
    'a row that begins its repeat later, and a last pass that is ended part-way',
    ChartSchema.parse({
      width: 9,
      rows: [
        P('kkkkkkkkk'),
        P('kkkkkkkkk'),
        ['k', simpleCrossing('left', 2, 2), simpleCrossing('left', 2, 2)],
        P('kkkkkkkkk'),
        ['k', 'k', 'k', simpleCrossing('right', 2, 2), 'k', 'k'],
        P('kkkkkkkkk'),
      ],
      across: { before: 1, after: 4, times: 2, least: 1 },
      up: { setup: 0, closing: 0, times: 3, end: 4 },
      jogs: { 4: 2 },
    }),
    settings,
  ],
  [
    'rounds that move their marker on and back',
    ChartSchema.parse({
      width: 4,
      construction: 'round',
      rows: [P('kkpp'), P('pkkp'), P('kkpp'), P('kppk'), P('kkpp')],
      across: { before: 0, after: 0, times: 3, least: 1 },
      jogs: { 1: 1, 3: -1 },
    }),
    settings,
  ],
];

/** Words that would make another pattern in each other's place. */
const SWAPS: [string, string][] = [
  ['RS', 'WS'],
  ['k', 'p'],
  ['knit', 'purl'],
  ['LC', 'RC'],
  ['RPC', 'LPC'],
  ['RPC', 'RC'],
  ['front', 'back'],
  ['behind', 'before'],
  ['left', 'right'],
  ['flat', 'in the round'],
  ['ssk', 'k2tog'],
  ['LLI', 'RLI'],
  ['wyib', 'wyif'],
  ['Row', 'Round'],
  ['rows', 'rounds'],
  ['twice', '3 times'],
  ['marker on', 'marker back'],
  ['once', 'twice'],
  ['sts', 'st'],
  ['repeats', 'repeat'],
  ['to end', 'to last st'],
  ['purlwise', 'knitwise'],
  ['cable needle', 'second cable needle'],
  ['slip', 'knit'],
  ['MB', 'yo'],
  ['tbl', ''],
];

/** Each place where a pattern stands in a text, replaced one at a time. */
function* each(text: string, what: RegExp, by: (found: string) => string): Generator<string> {
  for (const match of text.matchAll(what))
    yield text.slice(0, match.index) + by(match[0]) + text.slice(match.index + match[0].length);
}

function* eachLine(text: string, change: (lines: string[], i: number) => string[]): Generator<string> {
  const lines = text.split('\n');
  for (let i = 0; i < lines.length - 1; i++) yield change([...lines], i).join('\n');
}

const escape = (word: string) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

const KINDS: [string, (text: string) => Iterable<string>][] = [
  ['a number one too high', (t) => each(t, /\d+/g, (n) => String(Number(n) + 1))],
  ['a number one too low', (t) => each(t, /\d+/g, (n) => String(Number(n) - 1))],
  ['a number ten times too high', (t) => each(t, /\d+/g, (n) => `${n}0`)],
  ['a number left out', (t) => each(t, /\d+/g, () => '')],
  ['a word left out', (t) => each(t, /[A-Za-z]+/g, () => '')],
  ['a word doubled', (t) => each(t, /[A-Za-z]+/g, (word) => `${word} ${word}`)],
  ['a letter left out', (t) => each(t, /[A-Za-z](?=[a-z])/g, () => '')],
  ['a mark left out', (t) => each(t, /[[\](),;:.*–/]/g, () => '')],
  ['a mark doubled', (t) => each(t, /[[\](),;:*–/]/g, (mark) => mark + mark)],
  ['a bracket and its times left out', (t) => each(t, /\[[^[\]]*\] (?:\d+ times|twice)/g, () => '')],
  ['a stitch left out of a row', (t) => each(t, /, [kp]\d+(?=[,;.])/g, () => '')],
  ['a stitch put into a row', (t) => each(t, /, (?=[kp]\d)/g, () => ', k1, ')],
  [
    'two stitches of a row swapped',
    (t) => each(t, /([kp]\d+), ([kp]\d+)/g, (s) => s.split(', ').reverse().join(', ')),
  ],
  ['a count left out', (t) => each(t, / \(\d+ sts\)$/gm, () => '')],
  ['a count put where another is', (t) => each(t, /\(\d+ sts\)$/gm, () => '(1 st)')],
  ['a side left out', (t) => each(t, / \((?:RS|WS)\)/g, () => '')],
  ['a crossing spelled out left out', (t) => each(t, / \(sl [^)]*\)/g, () => '')],
  ['a line left out', (t) => eachLine(t, (lines, i) => lines.toSpliced(i, 1))],
  ['a line doubled', (t) => eachLine(t, (lines, i) => lines.toSpliced(i, 0, lines[i]!))],
  [
    'two lines swapped',
    (t) =>
      eachLine(t, (lines, i) =>
        lines.indexOf('Key') > i ? lines.toSpliced(i, 2, lines[i + 1]!, lines[i]!) : lines,
      ),
  ],
  [
    'two lines joined',
    (t) => eachLine(t, (lines, i) => lines.toSpliced(i, 2, `${lines[i]} ${lines[i + 1]}`)),
  ],
  ['a row added', (t) => eachLine(t, (lines, i) => lines.toSpliced(i, 0, 'Row 99 (RS): k9. (9 sts)'))],
  [
    'a line of prose added',
    (t) => eachLine(t, (lines, i) => lines.toSpliced(i, 0, 'Slip the first stitch of every row.')),
  ],
  [
    'a key line added',
    (t) => [
      `${t}yo: bring the yarn over the needle.\n`,
      `${t}4/4 LC: sl 4 to cable needle, hold in front, k4, k4 from cable needle.\n`,
    ],
  ],
  ['a second cast-on', (t) => eachLine(t, (lines, i) => lines.toSpliced(i, 0, 'Cast on 99 sts.'))],
  ['a second plan', (t) => eachLine(t, (lines, i) => lines.toSpliced(i, 0, 'Work rows 1–2.'))],
  ...SWAPS.map(([a, b]): [string, (text: string) => Iterable<string>] => [
    b ? `"${a}" and "${b}" for each other` : `"${a}" left out`,
    (t) => {
      const word = (w: string) => new RegExp(`(?<![a-z])${escape(w)}(?![a-z])`, 'g');
      return [...each(t, word(a), () => b), ...(b ? each(t, word(b), () => a) : [])];
    },
  ]),
];

/** Of very many places every few are damaged, others each time; `npm run soak` damages all. */
const MOST_PLACES = 40;
function sampled(damaged: readonly string[]): readonly string[] {
  const step = THOROUGH > 1 ? 1 : Math.ceil(damaged.length / MOST_PLACES);
  const first = sampleOf(step, damaged[0] ?? '');
  return damaged.filter((_, i) => i % step === first);
}

describe('a proved pattern with one thing damaged', () => {
  const proved = patterns.map(([what, chart, by]) => ({ what, chart, by, ...writeAndProve(chart, by) }));

  it('was proved before', () => {
    for (const { what, checked, problems } of proved)
      expect(checked, `${what}: ${problems[0]?.message}`).to.be.true;
    expect(KINDS.length).to.be.greaterThan(40);
  });

  for (const [kind, damage] of KINDS)
    it(`is refused: ${kind}`, () => {
      let tried = 0;
      for (const { what, chart, by, text } of proved)
        for (const damaged of sampled([...damage(text)])) {
          if (damaged === text) continue;
          tried++;
          const { checked } = proveText(damaged, chart, by);
          if (checked) {
            const at = [...damaged].findIndex((c, i) => c !== text[i]);
            expect.fail(`${what}: "${damaged.slice(Math.max(0, at - 30), at + 30)}" is still proved`);
          }
        }
      expect(tried, 'damaged texts').to.be.greaterThan(0);
    }).timeout(180_000 * THOROUGH);
});

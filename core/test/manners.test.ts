import { expect } from 'chai';
import {
  bookOf,
  crossing,
  NO_STITCH,
  readPattern,
  stitchId,
  takesOf,
  timesOf,
  type Chart,
  type School,
  type Worked,
} from '../src/index.js';
import { expandRow } from '../src/chart/frame.js';
import { type Reading } from '../src/words/read.js';
import { sampleOf, THOROUGH } from './arbitrary.js';
import type { Cell } from './manners/cloth.js';
import { print, type Printed } from './manners/print.js';
import WRITTEN from './written-patterns.json' with { type: 'json' };

/** What each row of a chart makes as it is worked, from the right as the right side looks. */
const rowsOf = (chart: Chart): string[] =>
  chart.rows.map((_, r) =>
    (expandRow(chart, r, timesOf(chart)) ?? [])
      .filter((s) => s !== NO_STITCH)
      .map(stitchId)
      .join(' '),
  );

const SAME: Record<string, string> = { kt: 'ktbl', pt: 'ptbl' };
const named = (
  cell: Cell | { lean: 'left' | 'right'; front: string[]; centre?: string[]; back: string[] },
) =>
  typeof cell === 'string'
    ? (SAME[cell] ?? cell)
    : stitchId(
        crossing(
          cell.lean,
          cell.front as Worked[],
          cell.back as Worked[],
          'centre' in cell ? ((cell.centre ?? []) as Worked[]) : [],
        ),
      );

const errorsOf = (reading: Reading) => reading.problems.filter((p) => p.level === 'error');

/** What a reading has otherwise than the pattern it was printed from; nothing where it is right. */
function differs(printed: Printed, { chart }: Reading): string[] {
  if (!chart) return ['no chart'];
  const out: string[] = [];
  const [read, wanted] = [rowsOf(chart), printed.rows.map((row) => row.map(named).join(' '))];
  if (read.length !== wanted.length) out.push(`${read.length} rows, not ${wanted.length}`);
  wanted.forEach((row, r) => {
    if (read[r] !== row) out.push(`row ${r + 1} is "${read[r] ?? ''}", not "${row}"`);
  });
  if (chart.construction !== printed.construction) out.push(`worked ${chart.construction}`);
  if (chart.firstRow !== printed.firstRow) out.push(`row 1 on the ${chart.firstRow}`);
  const up = chart.up && [chart.up.setup + 1, chart.rows.length - chart.up.closing, chart.up.times];
  const isOpen = printed.up?.[2] === 1 && up === null;
  if (!isOpen && JSON.stringify(up) !== JSON.stringify(printed.up))
    out.push(`repeated ${JSON.stringify(up)}`);
  if ((chart.up?.end ?? null) !== (printed.endsWith ?? null)) out.push(`ended with ${chart.up?.end}`);
  return out;
}

describe('patterns printed in a hundred manners (common practice, no source)', () => {
  const MANY = 250 * THOROUGH;

  it('are read as the cloth they were printed from, or refused at the place', () => {
    let refused = 0;
    const first = sampleOf(1e6, 'manners');
    for (let seed = first; seed < first + MANY; seed++) {
      const printed = print(seed);
      const { text, construction, size } = printed;
      const told = `seed ${seed}\n${text}\n[${printed.chosen.join('; ')}]`;
      const reading = readPattern(text, { construction, firstRow: 'RS', size });
      const errors = errorsOf(reading);
      if (errors.length || reading.questions.length) {
        refused++;
        for (const e of errors)
          expect(e.at ?? e.row, `${told}\n${e.message} is told without a place`).not.to.equal(undefined);
      } else expect(differs(printed, reading), told).to.deep.equal([]);
    }
    expect(refused / MANY, 'refused').to.be.below(0.03);
  }).timeout(120_000 * THOROUGH);

  it('tell a stitch too many or too few in the row it stands in', () => {
    let found = 0;
    for (let seed = 1; seed <= 3000; seed++) {
      const { text, construction, size, chosen } = print(seed);
      if (!chosen.includes('runs k2') || !chosen.includes('repeat whole')) continue;
      // One more of the last run of a row that is told by its number.
      const row = /^(?:Row|Rnd|Round) (\d+)(?: \((?:RS|WS)\))?:.*?([kp])(\d)(?=[.;,) ]*$)/im.exec(text);
      if (!row || /[*[(]/.test(row[0].slice(8)) || Number(row[3]) > 8) continue;
      const at = row.index + row[0].length - 1;
      const wrong = text.slice(0, at) + String(Number(row[3]) + 1) + text.slice(at + 1);
      const rows = errorsOf(readPattern(wrong, { construction, firstRow: 'RS', size })).map((e) => e.row);
      expect(rows.length, wrong).to.be.greaterThan(0);
      found++;
    }
    expect(found).to.be.greaterThan(5);
  });
});

/** A pattern of the collection, and what it must read as. */
interface Example {
  name: string;
  construction: 'flat' | 'round';
  firstRow: 'RS' | 'WS';
  school?: School;
  text: string;
  expect: {
    castOn?: number;
    rows?: number;
    multiple?: { of: number; plus: number | number[] };
    up?: { setup: number; closing: number; times?: number };
    construction?: string;
    firstRow?: string;
    cells?: Record<
      string,
      (string | { lean: 'left' | 'right'; front: string[]; centre: string[]; back: string[] })[]
    >;
    errors?: number[] | 'any';
    mayAlso?: number[];
    says?: string;
    tells?: string;
    asks?: string[];
    orAsks?: string[];
    orTells?: string;
    orNotes?: string;
  };
}

const EXAMPLES = WRITTEN as unknown as Example[];

/** What a chart has otherwise than an example says. */
function unlike(chart: Chart | null, wanted: Example['expect']): string[] {
  if (!chart) return ['no chart'];
  const out: string[] = [];
  const rows = rowsOf(chart);
  if (wanted.rows !== undefined && rows.length !== wanted.rows) out.push(`${rows.length} rows`);
  for (const [r, cells] of Object.entries(wanted.cells ?? {}))
    if (rows[Number(r) - 1] !== cells.map(named).join(' ')) out.push(`row ${r}: ${rows[Number(r) - 1]}`);
  const taken = (times: number) =>
    (expandRow(chart, 0, times) ?? []).reduce((n, s) => n + takesOf(s, bookOf(chart)), 0);
  if (wanted.castOn !== undefined && taken(timesOf(chart)) !== wanted.castOn) out.push('another cast-on');
  if (wanted.multiple) {
    const of = taken(2) - taken(1);
    const plus = [wanted.multiple.plus].flat().map((n) => n % wanted.multiple!.of);
    if (of !== wanted.multiple.of || !plus.includes(taken(1) % of)) out.push(`a multiple of ${of}`);
  }
  const { up } = wanted;
  if (up && (chart.up?.setup !== up.setup || chart.up.closing !== up.closing)) out.push('another repeat up');
  if (up?.times && chart.up?.times !== up.times) out.push(`repeated ${chart.up?.times} times`);
  if (wanted.construction && chart.construction !== wanted.construction) out.push(chart.construction);
  if (wanted.firstRow && chart.firstRow !== wanted.firstRow) out.push(chart.firstRow);
  return out;
}

/** Those that may as well be refused, and are: what they say is told, and by no other reading. */
const REFUSED = [
  // The stitches left out are not those the repeat ends with.
  'omitting the last stitches',
  'key for wrong-side rows',
  'border, increases in prose, then rows',
  '1/1 LPT without a key',
];

describe('written patterns of 1930 to 2025, made up and worked out by hand', () => {
  for (const { name, construction, firstRow, school, text, expect: wanted } of EXAMPLES)
    it(`reads ${name}`, () => {
      const reading = readPattern(text, { construction, firstRow, school });
      const errors = errorsOf(reading);
      const told = reading.problems.filter((p) => p.level !== 'note').map((p) => p.message);
      const asked = reading.questions.map((q) => q.word);
      if (wanted.asks) {
        // A name that no school has at all is told, with what to do.
        const words = [...asked, ...errors.map((p) => p.message.toLowerCase())].join('\n');
        for (const word of wanted.asks) expect(words).to.include(word.toLowerCase());
      } else if (wanted.errors) {
        const rows = errors.map((p) => p.row);
        if (wanted.errors === 'any') expect(errors).not.to.deep.equal([]);
        else {
          for (const row of wanted.errors) expect(rows).to.include(row);
          const others = rows.filter(
            (r) => r && ![...(wanted.errors as number[]), ...(wanted.mayAlso ?? [])].includes(r),
          );
          expect(others).to.deep.equal([]);
        }
        if (wanted.says)
          expect(errors.map((p) => p.message).join('\n')).to.match(new RegExp(wanted.says, 'i'));
      } else if (wanted.tells) expect(told.join('\n')).to.match(new RegExp(wanted.tells, 'i'));
      else if (REFUSED.includes(name)) {
        const isAsked = wanted.orAsks?.every((word) => asked.includes(word.toLowerCase())) ?? false;
        if (!isAsked)
          expect(errors.map((p) => p.message).join('\n')).to.match(new RegExp(wanted.orTells!, 'i'));
      } else {
        expect(errors.map((p) => p.message)).to.deep.equal([]);
        expect(unlike(reading.chart, wanted)).to.deep.equal([]);
      }
    });
});

describe('the public index', () => {
  it('has no name by which a promise of it would never end', async () => {
    const core: Record<string, unknown> = await import('../src/index.js');
    expect(Object.keys(core)).not.to.include('then');
  });
});

import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  checkChart,
  crossing,
  expandPiece,
  homeOf,
  placeStitches,
  readPattern,
  seenBehind,
  setUp,
  SettingsSchema,
  simpleCrossing,
  wayOf,
  reworked,
  writeAndProve,
  type Chart,
  type Stitch,
} from '../src/index.js';
import { proveText } from '../src/words/proof/prove.js';
import { anyChart, THOROUGH } from './arbitrary.js';

/** Double knitting in two yarns. What is custom here has no source; numbers are worked by hand. */

const settings = SettingsSchema.parse({});
const many = <T>(n: number, of: T): T[] => Array<T>(n).fill(of);
const AABB: Stitch[] = ['k', 'k', 'p', 'p'];
const BBAA: Stitch[] = ['p', 'p', 'k', 'k'];

/** Two ropes of 4 pairs, the first two A and the next two B, crossed 2/2 in row 3 of 8. */
const ridge = (over: Partial<Record<keyof Chart, unknown>> = {}): Chart =>
  ChartSchema.parse({
    width: 8,
    construction: 'double',
    rows: Array.from({ length: 8 }, (_, r) =>
      r < 2
        ? [...AABB, ...AABB]
        : r === 2
          ? many(2, crossing('left', ['k', 'k'], ['p', 'p']))
          : [...BBAA, ...BBAA],
    ),
    ...over,
  });

/** One loop as the hands make it. */
interface Loop {
  yarn: 'A' | 'B';
  knit: boolean;
}

/**
 * Works the words of a row by the letter, one loop after the other: yarns and all. It knows nothing of charts; a name is worked by the
 * steps that the key gives it.
 */
function work(words: string, key: ReadonlyMap<string, string>): Loop[] {
  const times = (text: string | undefined): number =>
    text === undefined ? 1 : text === 'twice' ? 2 : text === 'once' ? 1 : Number(/\d+/.exec(text)![0]);
  const out: Loop[] = [];
  let rest = words;
  const take = (pattern: RegExp): RegExpExecArray | null => {
    const found = pattern.exec(rest);
    if (found) rest = rest.slice(found[0].length);
    return found;
  };
  while (rest) {
    if (take(/^[,\s]+/)) continue;
    const loop = take(/^(?:(k|p)|(knit|purl) )1 ([AB])(?![A-Za-z])/);
    if (loop) {
      out.push({ yarn: loop[3] as 'A' | 'B', knit: (loop[1] ?? loop[2]!).startsWith('k') });
      continue;
    }
    if (rest.startsWith('[')) {
      let depth = 0;
      let end = 0;
      for (; end < rest.length; end++) {
        if (rest[end] === '[') depth++;
        if (rest[end] === ']' && --depth === 0) break;
      }
      const inner = rest.slice(1, end);
      rest = rest.slice(end + 1);
      const often = take(/^ (once|twice|\d+ times)/);
      for (let i = times(often?.[1]); i > 0; i--) out.push(...work(inner, key));
      continue;
    }
    const name = [...key.keys()].sort((a, b) => b.length - a.length).find((n) => rest.startsWith(n));
    if (!name) throw new Error(`"${rest.slice(0, 30)}" is told nowhere`);
    rest = rest.slice(name.length);
    out.push(
      ...work(
        key
          .get(name)!
          .replace(
            /sl(?:ip)? \d+ pairs? to (?:second )?cable needle, hold in (?:front|back)(?: (?:behind|before) the other)?, /g,
            '',
          )
          .replace(/ from (?:second )?cable needle/g, ''),
        key,
      ),
    );
  }
  return out;
}

describe('double knitting', () => {
  it('is written by pairs, with what is cast on in loops and in pairs', () => {
    const { text, checked } = writeAndProve(ridge(), settings);
    expect(checked).to.equal(true);
    expect(text).to.contain('Cast on 16 sts (8 pairs), A and B in turn.');
    expect(text).to.contain('twist the yarns once, B over A');
    expect(text).to.contain('Row 1 (side 1): [[k1 A, p1 B] twice, [k1 B, p1 A] twice] twice. (8 pairs)');
    expect(writeAndProve(ridge({ construction: 'double-round' }), settings).text).not.to.contain(
      'twist the yarns',
    );
  });

  it('has every loop in the yarn it shows, one of each in a pair, whoever reads the words by the letter', () => {
    for (const construction of ['double', 'double-round'] as const)
      fc.assert(
        fc.property(
          anyChart(),
          fc.constantFrom('short' as const, 'full' as const),
          fc.boolean(),
          (drawn, form, inLoops) => {
            const chart: Chart = { ...drawn, construction, jogs: {}, across: null };
            fc.pre(!checkChart(chart).some(({ level }) => level === 'error'));
            const by = {
              ...settings,
              style: {
                ...settings.style,
                form,
                equal: 'apart' as const,
                pairNames: inLoops ? ('loops' as const) : ('pairs' as const),
              },
            };
            const { rows, text, checked } = writeAndProve(chart, by);
            expect(checked, text).to.equal(true);
            const key = new Map(
              text
                .slice(text.indexOf('\nKey\n') + 5)
                .split('\n')
                .flatMap((line) => {
                  const told = /^(.*?)(?: \((side [12])\))?: (.*)\.$/.exec(line);
                  return told ? [[`${told[1]!} ${told[2] ?? ''}`, told[3]!] as const] : [];
                }),
            );
            const piece = expandPiece(chart);
            rows.forEach(({ words, side }, r) => {
              const own = new Map(
                [...key].flatMap(([name, steps]) => {
                  const [, word, of] = /^(.*) (side [12])?$/.exec(name)!;
                  return of && of !== (side === 'RS' ? 'side 1' : 'side 2') ? [] : [[word!, steps] as const];
                }),
              );
              const all = /^\[(.*)\] to end$/.exec(words);
              const loops = work(all ? many(chart.width, all[1]).join(', ') : words, own);
              expect(loops.length, `${words} of ${text}`).to.equal(2 * chart.width);
              const pairs = Array.from({ length: chart.width }, (_, i) => loops.slice(2 * i, 2 * i + 2));
              for (const [first, second] of pairs as [Loop, Loop][]) {
                expect([first.knit, second.knit]).to.deep.equal([true, false]);
                expect(first.yarn).not.to.equal(second.yarn);
              }
              // Which yarn shows on side 1: to the hands the first, from the right; on side 2 the other, from the left.
              const shown = pairs.map(([first]) => (side === 'RS') === (first!.yarn === 'A'));
              if (side === 'WS') shown.reverse();
              const faces = piece[r]!.stitches.flatMap((s) =>
                typeof s === 'string'
                  ? s === 'none'
                    ? []
                    : [s === 'k']
                  : (s.lean === 'left'
                      ? [...s.back, ...s.centre, ...s.front]
                      : [...s.front, ...s.centre, ...s.back]
                    ).map((w) => w === 'k'),
              );
              expect(shown).to.deep.equal(faces);
            });
          },
        ),
        { numRuns: 30 * THOROUGH },
      );
  });

  it('is read back, by its own words or by those of others who count loops or say nothing of the way', () => {
    const chart = ridge();
    const read = readPattern(writeAndProve(chart, settings).text, { construction: 'flat', firstRow: 'RS' });
    expect([read.chart?.construction, read.chart?.rows]).to.deep.equal(['double', chart.rows]);
    const others = `Cast on 4 pairs.
Row 1 (side 1): (k1 A, p1 B) 2 times, (k1 B, p1 A) twice.
Row 2 (side 2): [k1 A, p1 B] twice, [k1 B, p1 A] twice.`;
    const told = readPattern(others, { construction: 'flat', firstRow: 'RS' });
    expect(told.problems.filter(({ level }) => level === 'error')).to.deep.equal([]);
    expect([told.chart?.construction, told.chart?.rows]).to.deep.equal(['double', [AABB, AABB]]);
  });

  it('counts pairs or loops in the names of crossings, and asks where a text of others does not say which', () => {
    const chart = ridge();
    const by = { ...settings, style: { ...settings.style, pairNames: 'loops' as const } };
    const { text, checked } = writeAndProve(chart, by);
    expect(checked).to.equal(true);
    expect(text).to.match(/names of crossings count loops, two for each pair/);
    expect(text).to.match(/4\/4 LPC[^:]*: sl 2 pairs to cable needle/);
    const options = { construction: 'flat', firstRow: 'RS' } as const;
    expect(readPattern(text, options)).to.deep.include({ pairNames: 'loops', questions: [] });
    expect(readPattern(text, options).chart?.rows).to.deep.equal(chart.rows);
    // Words that would be proved by the other count are not sealed.
    const others = proveText(text, chart, settings);
    expect([others.checked, others.problems.map(({ id }) => id)]).to.deep.equal([false, ['names-differ']]);

    const rows = `Cast on 16 sts (8 pairs), A and B in turn.
Row 1 (side 1): [k1 A, p1 B] 8 times.
Row 2 (side 2): [k1 B, p1 A] 8 times.
Row 3 (side 1): [2/2 RC] twice.`;
    const read = (said: string) => readPattern(`Worked flat in double knitting.\n${said}${rows}`, options);
    const asked = read('').questions;
    expect(asked.map(({ word, meanings }) => [word, meanings.length])).to.deep.equal([['2/2 rc', 2]]);
    expect(read('Cable names count pairs, not stitches.\n').chart?.rows[2]).to.deep.equal(
      many(2, simpleCrossing('right', 2, 2)),
    );
    // Counted by loops two of them leave half the pairs unworked.
    const short = read('Numbers in the names of cables count loops.\n');
    expect(short.problems.some(({ level, row }) => level === 'error' && row === 3)).to.equal(true);
  });

  it('has its colours home after as many repeats as bring them back (worked by hand)', () => {
    // One 2/2 crossing in 8 rows exchanges them; two bring them back.
    expect(homeOf(ridge())).to.deep.equal({ repeats: 2, rows: 16 });
    const every4 = ridge().rows.map((row, r) =>
      r === 6 ? many(2, crossing('left', ['p', 'p'], ['k', 'k'])) : r === 7 ? [...AABB, ...AABB] : row,
    );
    expect(homeOf(ridge({ rows: every4 }))).to.deep.equal({ repeats: 1, rows: 8 });
    const ids = (chart: Chart) => checkChart(chart).map(({ id }) => id);
    expect(ids(setUp(ridge(), { setup: 0, closing: 0, times: 3 }).chart)).to.include('colours-home');
    expect(ids(setUp(ridge({ rows: every4 }), { setup: 0, closing: 0, times: 3 }).chart)).not.to.include(
      'colours-home',
    );
  });

  it('takes what is worked on whole pairs, and says of all else where it stands', () => {
    const yo = placeStitches(ridge(), 4, 3, ['ktbl']).chart;
    const found = checkChart(yo).find(({ id }) => id === 'not-in-pairs');
    expect([found?.level, found?.row, found?.columns]).to.deep.equal(['error', 5, [4, 4]]);
    expect(writeAndProve(yo, settings).checked).to.equal(false);
  });

  it('shows on side 2 the other colour in every pair', () => {
    const other = seenBehind(ridge());
    expect(other.rows[0]).to.deep.equal([...AABB, ...AABB]);
    expect(other.rows[2]).to.deep.equal(many(2, crossing('left', ['k', 'k'], ['p', 'p'])));
    expect(seenBehind(other)).to.deep.equal(ridge());
  });
});

describe('another way of working', () => {
  it('says what of a chart it has not, and where, before anything is done', () => {
    const flat = ChartSchema.parse({
      width: 6,
      across: { before: 0, after: 2, times: 1, least: 1 },
      jogs: { 1: 1 },
      rows: [
        ['k', 'ktbl', 'k', 'k', 'p', 'p'],
        ['k', 'mb', 'k', 'p', 'k', 'p'],
        ['k', 'k2tog', 'yo', 'k', simpleCrossing('left', 1, 1)],
      ],
    });
    const { edit, lost } = reworked(flat, { construction: 'double', firstRow: 'RS', ground: 'p' });
    expect(lost.map(({ what, rows }) => [what, rows])).to.deep.equal([
      ['Rows that begin elsewhere than the others', [2]],
      ['Stitches worked as knit through the back loop', [1]],
      ['Stitches worked as bobble', [2]],
      ['Stitches worked as knit 2 together', [3]],
      ['Stitches worked as yarn over', [3]],
    ]);
    expect(edit.chart.construction).to.equal('double');
    expect(edit.chart.rows[0]).to.deep.equal(['k', 'k', 'k', 'k', 'p', 'p']);
    const errors = checkChart(edit.chart).filter(({ level }) => level === 'error');
    expect(errors.map(({ row }) => row)).to.include(3);
    expect(reworked(flat, { ...flat }).lost).to.deep.equal([]);
    expect(wayOf(edit.chart).loops).to.equal(2);
  });
});

import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyChange,
  checkChart,
  ChartSchema,
  simpleCrossing,
  startDesign,
  crossing,
  type Chart,
  type Stitch,
} from '../src/index.js';
import { findingsOf, CHECKS } from '../src/checks/index.js';
import { USUAL_RULES } from '../src/chart/rules.js';
import { anyChart, anyWay, THOROUGH } from './arbitrary.js';

const P = (text: string): Stitch[] => [...text];
const L22 = simpleCrossing('left', 2, 2);
const chart = (over: Record<string, unknown>): Chart =>
  ChartSchema.parse({ width: 6, rows: [P('pkkkkp'), P('pkkkkp')], ...over });
const ids = (c: Chart) => checkChart(c).map((f) => `${f.id}@${f.row}`);

describe('the checks', () => {
  it('have nothing to say of a sound chart', () => {
    const sound = chart({
      rows: [P('pkkkkp'), P('pkkkkp'), ['p', L22, 'p'], P('pkkkkp')],
      up: { setup: 0, closing: 0, times: 3 },
    });
    expect(checkChart(sound)).to.deep.equal([]);
  });

  it('tell a row that is short, once, and mend it', () => {
    const short = chart({ rows: [P('pkkkkp'), P('pkkkk'), P('pkkkkp')] });
    const [finding, ...others] = checkChart(short);
    expect(others).to.deep.equal([]);
    expect(finding).to.deep.include({ id: 'row-short', level: 'error', row: 2, columns: [6, 6] });
    expect(finding!.message).to.equal(
      'Row 2 is 1 stitch short: it fills 5 of 6 columns. By the row below, k1 is missing at the beginning.',
    );
    const mended = applyChange(startDesign('', '', short), finding!.fix!).charts[0]!;
    expect(checkChart(mended)).to.deep.equal([]);
    expect(mended.rows[1]).to.deep.equal(P('pkkkkp'));
  });

  it('tell a row that is too long, and trim it', () => {
    const long = chart({ rows: [P('pkkkkp'), P('pkkkkppp')] });
    const [finding] = checkChart(long);
    expect(finding).to.include({ id: 'row-long', row: 2 });
    expect(checkChart(applyChange(startDesign('', '', long), finding!.fix!).charts[0]!)).to.deep.equal([]);
  });

  it('tell a crossing that reaches over the edge', () => {
    const over = checkChart(chart({ rows: [P('pkkkkp'), ['p', 'k', 'k', L22]] }));
    expect(over[0]).to.deep.include({ id: 'crossing-over-edge', row: 2, columns: [4, 6] });
  });

  it('hold the count law: each row takes what the row below leaves', () => {
    const lost = chart({ rows: [P('pkkkkp'), ['p', 'k2tog', 'k', 'k', 'p', 'none'], P('pkkkkp')] });
    expect(ids(lost)).to.deep.equal(['count-law@3']);
    expect(checkChart(lost)[0]!.message).to.equal(
      'Row 3 works 6 stitches, but row 2 leaves only 5: it wants 1 more.',
    );
    const gained = chart({ rows: [P('pkkkkp'), ['yo', 'k', 'k', 'k', 'k', 'none'], P('pkkkkp')] });
    expect(ids(gained)).to.deep.equal(['count-law@2', 'count-law@3']);
  });

  it('hold the count law for the repeat by itself', () => {
    const drift = chart({
      width: 7,
      rows: [P('pkkkkpp'), ['p', 'yo', 'k2tog', 'k', 'k', 'p', 'p'], P('pkkkkpp')].map((r) => [...r]),
      across: { before: 2, after: 2, times: 2 },
    });
    expect(ids(drift)).to.include('repeat-count@2');
  });

  // Gaps stand between loops, they do not carry them: the crossing takes the next loops, wherever they stand.
  it('let a crossing stand over a gap that a decrease left, and count its loops', () => {
    const gap = (last: Stitch[]) =>
      chart({ rows: [P('pkkkkp'), ['p', 'k2tog', 'none', 'k', 'k', 'p'], last], construction: 'round' });
    expect(ids(gap(['p', simpleCrossing('left', 2, 1), 'none', 'p']))).to.deep.equal([]);
    expect(ids(gap(['p', simpleCrossing('left', 2, 1), 'k', 'p']))).to.include('count-law@3');
  });

  it('tell a crossing over the repeat line, and a stitch that makes more', () => {
    const across = { before: 3, after: 1, times: 2 };
    const round = { construction: 'round', across };
    expect(ids(chart({ rows: [P('pkkkkp'), ['p', L22, 'p']], ...round }))).to.deep.equal([
      'crossing-over-repeat-line@2',
    ]);
    const spread = chart({ rows: [['p', 'k', 'kfb', 'k', 'p'], P('pkkkkp')], across });
    expect(ids(spread)).to.include('crossing-over-repeat-line@1');
  });

  it('tell an odd repeat of rows in flat work, and allow it in the round', () => {
    const odd = { rows: [P('pkkkkp'), P('pkpkkp'), P('pkkkkp')], up: { setup: 0, closing: 0, times: 2 } };
    expect(ids(chart(odd))).to.deep.equal(['odd-row-repeat@3']);
    expect(checkChart(chart({ ...odd, construction: 'round' }))).to.deep.equal([]);
  });

  it('tell a repeat that ends with other loops than it begins with', () => {
    const fewer = chart({
      width: 6,
      rows: [
        P('pkkkkp'),
        ['p', 'k2tog', 'none', 'k', 'k', 'p'],
        ['p', 'k', 'none', 'k', 'k', 'p'],
        ['p', 'k', 'none', 'k', 'k', 'p'],
      ],
      up: { setup: 0, closing: 0, times: 2 },
    });
    expect(checkChart(fewer).find((f) => f.id === 'needle-at-repeat')!.message).to.contain(
      'begins with 6 stitches and ends with 5',
    );
  });

  it('compare the faces of a repeat only where a row works by them', () => {
    const up = { setup: 1, closing: 0, times: 2 };
    // A garter ridge below a rope makes its own faces each time.
    expect(checkChart(chart({ rows: [P('pppppp'), P('pkkkkp'), P('pkkkkp')], up }))).to.deep.equal([]);
    const slipped: Stitch[] = ['p', 'slyb', 'k', 'k', 'k', 'p'];
    const slips = chart({ rows: [P('pkkkkp'), slipped, P('ppkkkp')], up });
    const [finding, ...others] = checkChart(slips);
    expect(others).to.deep.equal([]);
    expect(finding).to.deep.include({ id: 'needle-at-repeat', row: 2 });
    expect(finding!.message).to.contain('stitch 2 from the right is knit at first and purl when');
    expect(checkChart(chart({ rows: [P('pkkkkp'), slipped, P('pkkkkp')], up }))).to.deep.equal([]);
  });

  it('tell an increase with nothing to lift', () => {
    const wide = (rows: Stitch[][], over = {}) => ids(chart({ width: rows[0]!.length, rows, ...over }));
    const plain = P('pkkkkkk');
    const lifted: Stitch[] = ['p', 'lli', ...P('kkkkp')];
    const gap: Stitch[] = ['p', 'none', ...P('kkkkp')];
    expect(wide([['lli', ...P('pkkkkp')]])).to.deep.equal(['nothing-to-work-into@1']);
    expect(wide([lifted]), 'no row below').to.deep.equal(['nothing-to-work-into@1']);
    expect(wide([gap, lifted])).to.deep.equal([]);
    // A stitch that was only made in the row below has none under it.
    const made: Stitch[] = ['p', 'none', 'm1l', ...P('kkkkk')];
    const over: Stitch[] = ['p', 'none', 'rli', 'k', ...P('kkkk')];
    expect(wide([['p', 'none', 'none', ...P('kkkkk')], made, over].map((r) => r.slice(0, 8)))).to.include(
      'nothing-to-work-into@3',
    );
    // Over the repeat line it would lift from a yarn over.
    const across = { before: 1, after: 1, times: 2, least: 1 };
    const start: Stitch[] = ['p', 'none', 'k', 'k', 'none', 'p'];
    const line: Stitch[] = ['p', 'lli', 'k', 'k', 'yo', 'p'];
    expect(wide([start, line], { across })).to.include('nothing-to-work-into@2');
    expect(wide([start, line], { across: { ...across, times: 1 } })).not.to.include('nothing-to-work-into@2');
    // Flat, no bar lies beside the edge; in the round the last stitch lies beside the first.
    const edge: Stitch[][] = [
      ['none', ...P('kkkkkk')],
      ['m1l', ...P('kkkkkk')],
    ];
    expect(wide(edge)).to.deep.equal(['nothing-to-work-into@2']);
    expect(wide(edge, { construction: 'round' })).to.deep.equal([]);
    expect(wide([plain])).to.deep.equal([]);
  });

  it('follow a float over gaps and repeat lines, front and back apart (custom: at most five)', () => {
    const row = (text: string) => [...text].map((c) => ({ b: 'slyb', f: 'slyf', o: 'none' })[c] ?? c);
    const floats = (text: string, over = {}) => {
      const cells = row(text);
      const plain = cells.map((s) => (s === 'none' ? s : 'k'));
      const drawn = chart({ width: cells.length, rows: [plain, cells], construction: 'round', ...over });
      return checkChart(drawn)
        .filter((f) => f.id === 'long-float')
        .map((f) => [f.columns, /passes (\d+)/.exec(f.message)![1]]);
    };
    expect(floats('kbbbbbk')).to.deep.equal([]);
    expect(floats('kbbbbbbk')).to.deep.equal([[[2, 7], '6']]);
    expect(floats('kbbboobbbk')).to.deep.equal([[[2, 9], '6']]);
    expect(floats('kbbbfffk')).to.deep.equal([]);
    // Three slips at either end of the repeat meet over its line.
    const across = { before: 1, after: 1, times: 3 };
    expect(floats('kbbbkbbbk', { across })).to.deep.equal([[[2, 8], '6']]);
    expect(floats('kbbbkbbbk', { across: { ...across, times: 1 } })).to.deep.equal([]);
  });

  it('follow a long slip into the next pass of the rows (custom: at most four rows)', () => {
    const slip: Stitch[] = ['k', 'slyb', 'k'];
    const rows = [slip, slip, P('kkk'), P('kkk'), slip, slip, slip];
    const drawn = chart({ width: 3, rows, construction: 'round', up: { setup: 0, closing: 0, times: 2 } });
    const long = (c: Chart) =>
      checkChart(c)
        .filter((f) => f.id === 'long-slip')
        .map((f) => f.row);
    expect(long(drawn)).to.deep.equal([2]);
    expect(long({ ...drawn, up: null })).to.deep.equal([]);
  });

  it('count the stitches that are held, not the larger group (custom: at most four)', () => {
    const held = (lean: 'left' | 'right', front: number, back: number, row: number) => {
      const c = crossing(lean, Array(front).fill('k'), Array(back).fill('k'));
      const plain = P('k'.repeat(front + back + 2));
      const crossed: Stitch[] = ['k', c, 'k'];
      const drawn = chart({ width: plain.length, rows: row ? [plain, crossed] : [crossed, plain] });
      return checkChart(drawn).some((f) => f.id === 'wide-crossing');
    };
    expect([held('left', 5, 2, 0), held('left', 2, 5, 0)]).to.deep.equal([true, false]);
    expect([held('right', 5, 2, 0), held('right', 2, 5, 0)]).to.deep.equal([false, true]);
    // On a wrong-side row the other group is met first.
    expect([held('left', 5, 2, 1), held('left', 2, 5, 1)]).to.deep.equal([false, true]);
  });

  it('caution about what strains or hides (custom)', () => {
    const wide = crossing('left', Array(5).fill('k'), Array(5).fill('k'));
    const cautions = checkChart(
      ChartSchema.parse({
        width: 12,
        rows: [
          P('kkkkkkkkkkkk'),
          ['k', wide, 'k'],
          [simpleCrossing('right', 2, 2), ...P('kk'), ...Array<Stitch>(6).fill('slyb')],
        ],
      }),
    ).map((f) => `${f.level} ${f.id}@${f.row}`);
    expect(cautions).to.have.members([
      'caution wide-crossing@2',
      'caution wrong-side-crossing@2',
      'caution crossing-at-edge@3',
      'caution long-float@3',
      // All but two stitches crossed in the row below: these are ropes, and two of each five are taken.
      'caution rope-split@3',
    ]);
  });

  it('note a multiple that changes inside the repeat', () => {
    const grows = ChartSchema.parse({
      width: 4,
      rows: [
        ['k', 'k', 'none', 'k'],
        ['k', 'k', 'yo', 'k'],
        ['k', 'k', 'k', 'k'],
      ],
      across: { before: 1, after: 1, times: 3 },
    });
    const found = checkChart(grows);
    expect(found.map((f) => f.id)).to.deep.equal(['multiple-changes']);
    expect(found[0]!.message).to.contain('1 + 2 at the start, 2 + 2 before row 3');
  });
});

describe('the list of checks', () => {
  const GRAVITY = ['note', 'caution', 'error'];

  it('says of each what it tells, and how grave that is at most', () => {
    fc.assert(
      fc.property(anyChart(), (drawn) => {
        for (const { id, level } of checkChart(drawn)) {
          const own = CHECKS.filter(({ tells }) => id in tells);
          expect(own, id).not.to.deep.equal([]);
          expect(Math.max(...own.map((c) => GRAVITY.indexOf(c.level)))).to.be.at.least(
            GRAVITY.indexOf(level),
          );
        }
      }),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('says of each what it reads: what is remembered is what would be found anew', () => {
    const changes = fc.record(
      {
        ground: fc.constantFrom('k' as const, 'p' as const),
        part: fc.constantFrom('piece' as const, 'panel' as const),
        mirror: fc.constantFrom(null, { axis: 6 }, { axis: 7 }),
        construction: anyWay(),
        firstRow: fc.constantFrom('RS' as const, 'WS' as const),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(anyChart(), fc.array(changes, { minLength: 2, maxLength: 4 }), (drawn, all) => {
        let now: Chart = { ...drawn, jogs: {} };
        for (const change of all) {
          now = { ...now, ...change };
          const rules = { ...USUAL_RULES, mostCrossed: change.part === 'panel' ? 2 : 8 };
          // Rows that nothing was remembered of.
          const anew = { ...now, rows: now.rows.map((row) => [...row]) };
          expect(findingsOf(now, { rules })).to.deep.equal(findingsOf(anew, { rules }));
        }
      }),
      { numRuns: 60 * THOROUGH },
    );
  });
});

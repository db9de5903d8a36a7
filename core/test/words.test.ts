import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  checkChart,
  checkNames,
  crossingId,
  crossingsUsed,
  readPattern,
  sameStitch,
  SCHOOLS,
  SettingsSchema,
  simpleCrossing,
  writeAndProve,
  writeChart,
  type Chart,
  type Hand,
  type School,
  type Settings,
  type Stitch,
  rowFromWords,
  startChart,
  StyleSchema,
} from '../src/index.js';
import { proveText } from '../src/words/proof/prove.js';
import { type Style } from '../src/chart/schema.js';
import { fold } from '../src/words/fold.js';
import type { Item } from '../src/words/pattern.js';
import { itemsText } from '../src/words/render.js';
import { anyChart, anyStyle, THOROUGH } from './arbitrary.js';

const P = (text: string): Stitch[] => [...text];
const L22 = simpleCrossing('left', 2, 2);
const R21P = simpleCrossing('right', 2, 1, 'p');
const settings = SettingsSchema.parse({});
const spelledFirst: Settings = { ...settings, style: { ...settings.style, spelled: 'first' } };
const rowsOf = (chart: Chart, over = {}) =>
  writeChart(chart, { ...settings, ...over }).rows.map((r) => r.text);

describe('written rows', () => {
  // Hand-worked rows; the manner of writing is common practice, no source.
  const rope = ChartSchema.parse({
    width: 10,
    rows: [P('ppkkkkppkk'), P('ppkkkkppkk'), ['p', 'p', L22, ...P('ppkk')], P('ppkkkkppkk')],
    across: { before: 2, after: 2, times: 4 },
  });

  it('flat: right side from the right, wrong side from the left with knit and purl changed', () => {
    expect(rowsOf(rope)).to.deep.equal([
      'Row 1 (RS): p2, *k4, p2; rep from * to last 2 sts, k2. (28 sts)',
      'Row 2 and all WS rows: p2, *k2, p4; rep from * to last 2 sts, k2. (28 sts)',
      'Row 3 (RS): p2, *2/2 LC, p2; rep from * to last 2 sts, k2. (28 sts)',
      'Row 4 (WS): as row 2. (28 sts)',
    ]);
  });

  // The manners below: common practice, no source.
  const lines = (chart: Chart, style: Partial<Style>) =>
    writeChart(chart, { ...settings, style: StyleSchema.parse(style) })
      .text.split('\n\n')[1]!
      .split('\n');

  it('equal rows are joined, also at a distance', () => {
    const [ground, crossed] = [P('ppkkkkppkk'), ['p', 'p', L22, ...P('ppkk')]];
    const seed = P('kpkpkpkpkp');
    const tall = ChartSchema.parse({
      ...rope,
      rows: [ground, seed, crossed, ground, ground, ground, crossed, ground],
    });
    expect(lines(tall, { counts: 'changes' })).to.deep.equal([
      'Row 1 (RS): p2, *k4, p2; rep from * to last 2 sts, k2.',
      'Row 2 (WS): k1, p1, *[k1, p1] 3 times; rep from * to last 2 sts, k1, p1.',
      'Row 3 (RS): p2, *2/2 LC, p2; rep from * to last 2 sts, k2.',
      'Row 4 (WS): p2, *k2, p4; rep from * to last 2 sts, k2.',
      'Row 5 (RS): as row 1.',
      'Rows 6 and 8 (WS): as row 4.',
      'Row 7 (RS): as row 3.',
    ]);
  });

  it('may all be written out', () => {
    expect(lines(rope, { equal: 'apart', counts: 'changes' })[3]).to.equal(
      'Row 4 (WS): p2, *k2, p4; rep from * to last 2 sts, k2.',
    );
  });

  it('are spelled out in full, and in British terms where these differ', () => {
    const lace = ChartSchema.parse({
      width: 8,
      rows: [['k', 'yo', 'k2tog', 'none', 'ktbl', 'slyb', 'm1l', 'ssk'], P('kkkkkkk')],
    });
    expect(lines(lace, { form: 'full' })[0]).to.equal(
      'Row 1 (right side): knit 1, yarn over, knit 2 together, knit 1 through the back loop, slip 1 with yarn in back, make 1 left, slip slip knit. (7 stitches)',
    );
    expect(lines(lace, { terms: 'UK' })[0]).to.contain('k1, yrn, k2tog');
    const full = writeAndProve(rope, { ...settings, style: StyleSchema.parse({ form: 'full' }) });
    expect(full.checked).to.equal(true);
    expect(full.text).to.contain('Multiple of 6 stitches plus 4.\nCast on 28 stitches (4 repeats).');
    expect(full.text).to.contain('repeat from * to last 2 stitches, knit 2. (28 stitches)');
    // A word that says itself needs no key; a crossing does.
    expect(full.text.split('Key\n')[1]).to.equal(
      'slip: slip purlwise.\n2/2 LC: slip 2 to cable needle, hold in front, knit 2, knit 2 from cable needle.\n',
    );
  });

  it('in the round: every round is a right-side one', () => {
    const round = { ...rope, construction: 'round' as const };
    expect(rowsOf(round)[1]).to.equal('Round 2: as round 1. (28 sts)');
    expect(rowsOf(round)[2]).to.equal('Round 3: p2, *2/2 LC, p2; rep from * to last 2 sts, k2. (28 sts)');
  });

  it('give the multiple in lowest form, with the least count where the form alone allows fewer', () => {
    const line = (before: number, after: number, least: number) => {
      const row = [...P('p'.repeat(before)), ...P('kkkkkk'), ...P('p'.repeat(after))];
      const across = { before, after, times: 4, least };
      const drawn = ChartSchema.parse({ width: row.length, rows: [row], across });
      return /Multiple of [^.]*/.exec(writeChart(drawn, settings).text)![0];
    };
    expect(line(1, 1, 1)).to.equal('Multiple of 6 sts plus 2');
    expect(line(4, 4, 1)).to.equal('Multiple of 6 sts plus 2, at least 14');
    expect(line(1, 1, 2)).to.equal('Multiple of 6 sts plus 2, at least 14');
    expect(line(0, 0, 1)).to.equal('Multiple of 6 sts');
    expect(line(3, 3, 1)).to.equal('Multiple of 6 sts, at least 12');
  });

  it('tell the multiple, the cast-on and how rows follow each other', () => {
    const { text, castOn, multiple } = writeChart(
      { ...rope, up: { setup: 0, closing: 0, times: 6 } },
      settings,
    );
    expect(castOn).to.equal(28);
    expect(multiple).to.deep.equal({ of: 6, plus: 4 });
    expect(text).to.contain('Multiple of 6 sts plus 4.\nCast on 28 sts (4 repeats).');
    expect(text).to.contain('Work rows 1–4 a total of 6 times.');
    const parts = writeChart({ ...rope, up: { setup: 1, closing: 1, times: 6 } }, settings).text;
    expect(parts).to.contain('Work row 1 once, then rows 2–3 a total of 6 times, then row 4 once.');
  });

  it('say "to end" and "to last st" as the tail takes', () => {
    const to = (after: number) =>
      rowsOf(
        ChartSchema.parse({
          width: 3 + after,
          rows: [P('kpk'.padEnd(3 + after, 'k'))],
          across: { before: 1, after, times: 2 },
        }),
      )[0];
    expect(to(0)).to.equal('Row 1 (RS): k1, *p1, k1; rep from * to end. (5 sts)');
    expect(to(1)).to.contain('rep from * to last st, k1.');
  });

  it('condense wrong-side rows that only repeat the faces, and give counts where they change', () => {
    const style = StyleSchema.parse({ wsRows: 'presented', counts: 'changes' });
    expect(writeChart(rope, { ...settings, style }).text).to.contain(
      'Row 2 and all WS rows: work the stitches as they present. (28 sts)',
    );
    expect(rowsOf(rope, { style })[0]).to.equal('Row 1 (RS): p2, *k4, p2; rep from * to last 2 sts, k2.');
  });

  // Against every way there is to put a short line in brackets.
  it('are as short as brackets can make them, two deep at most', () => {
    const words: Item[] = ['k1', 'p1', 'k12', '2/1 RPC'].map((word) => ({
      type: 'word',
      word,
      spelled: null,
    }));
    const length = (items: readonly Item[]): number => itemsText(items).length;
    const shortest = (items: readonly Item[], depth: number): Item[] => {
      if (!items.length) return [];
      const ways = [[items[0]!, ...shortest(items.slice(1), depth)]];
      for (let n = 1; depth < 2 && 2 * n <= items.length; n++)
        for (let times = 2; times * n <= items.length; times++) {
          const group = items.slice(0, n);
          if (!items.slice(0, times * n).every((item, i) => item === group[i % n])) break;
          const rest = shortest(items.slice(times * n), depth);
          ways.push([{ type: 'group', items: shortest(group, depth + 1), times }, ...rest]);
        }
      return ways.sort((a, b) => length(a) - length(b))[0]!;
    };
    const flat = (items: readonly Item[]): Item[] =>
      items.flatMap((i) => (i.type === 'group' ? Array<Item[]>(i.times).fill(flat(i.items)).flat() : [i]));
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...words), { maxLength: 11 }), (items) => {
        const folded = fold(items);
        expect(flat(folded)).to.deep.equal(items);
        expect(length(folded)).to.equal(length(shortest(items, 0)));
      }),
      { numRuns: 300 },
    );
  });

  it('join runs and adjoining equal groups', () => {
    const said = (stitches: Stitch[]) =>
      rowsOf(ChartSchema.parse({ width: stitches.length, rows: [stitches] }))[0]!
        .slice(12, -1)
        .split('. ')[0];
    expect(said(P('kkp'))).to.equal('k2, p1');
    expect(said(P('ppkkppkkppkk'))).to.equal('[p2, k2] 3 times');
    expect(said(['yo', 'k2tog', 'yo', 'k2tog'])).to.equal('[yo, k2tog] twice');
    const two = ChartSchema.parse({ width: 9, rows: [[L22, L22, 'k']] });
    // No shorter in brackets, so without them.
    expect(rowsOf(two)[0]).to.equal('Row 1 (RS): 2/2 LC, 2/2 LC, k1. (9 sts)');
  });

  it('spell an uneven crossing out where it is first met', () => {
    const travelling = ChartSchema.parse({
      width: 5,
      rows: [['p', R21P, 'p'], P('pkkpp'), ['p', R21P, 'p']],
    });
    const rows = rowsOf(travelling, spelledFirst);
    expect(rows[0]).to.contain('2/1 RPC (sl 1 to cable needle, hold in back, k2, p1 from cable needle), p1');
    expect(rows[2]).to.equal('Row 3 (RS): p1, 2/1 RPC, p1. (5 sts)');
  });

  it('spell each crossing out behind its own name, whatever else the name begins', () => {
    const [a, b] = [simpleCrossing('left', 2, 1, 'p'), simpleCrossing('right', 2, 1, 'p')];
    const chart = ChartSchema.parse({ width: 7, rows: [[b, a, 'k'], P('kkpkkpk'), [b, a, 'k']] });
    const names = { [crossingId(a)]: 'Fell', [crossingId(b)]: "Fell's gate" };
    const { rows, checked } = writeAndProve(chart, { ...spelledFirst, names });
    expect(rows[0]!.words).to.equal(
      "Fell's gate (sl 1 to cable needle, hold in back, k2, p1 from cable needle), Fell (sl 2 to cable needle, hold in front, p1, k2 from cable needle), k1",
    );
    expect(rows[2]!.words).to.equal("Fell's gate, Fell, k1");
    expect(checked).to.be.true;
  });

  it('have a key of what is used and nothing else', () => {
    const { key, text } = writeChart(rope, settings);
    expect(key.map((e) => e.name)).to.deep.equal(['knit', 'purl', '2/2 LC', 'sl']);
    expect(text).to.match(
      /\nKey\nsl: slip purlwise\.\nk: knit\.\np: purl\.\n2\/2 LC: sl 2 to cable needle, hold in front, k2, k2 from cable needle\.\n$/,
    );
  });

  it('name the steps of a crossing on a wrong-side row', () => {
    const ws = ChartSchema.parse({ width: 6, rows: [P('pkkkkp'), ['p', L22, 'p']] });
    const { text, checked } = writeAndProve(ws, settings);
    expect(text).to.contain('2/2 LC (WS): sl 2 to cable needle, hold in front, p2, p2 from cable needle.');
    expect(checked).to.be.true;
  });

  it('tell a left-handed knitter of the same fabric to begin at the other end', () => {
    const rows = rowsOf(ChartSchema.parse({ width: 4, rows: [['k', 'k', 'k2tog', 'p']] }), {
      hand: 'left-same-fabric',
    });
    expect(rows[0]).to.equal('Row 1 (RS): p1, ssk, k2. (4 sts)');
  });

  it('say another way than the cable needle where the settings choose one', () => {
    const twist = ChartSchema.parse({ width: 4, rows: [['p', simpleCrossing('right', 1, 1), 'p']] });
    expect(writeChart(twist, { ...settings, twist: 'together' }).text).to.contain(
      '1/1 RC: knit 2 together but leave them on the needle, knit the first again, slip both off.',
    );
    expect(writeChart(twist, { ...settings, cableless: true }).text).to.contain(
      'with the right needle enter stitch 2 purlwise from the front, slide all 2 off, pinch the 1 loose in back',
    );
  });

  it('give the bobble of the size that is set', () => {
    const nub = ChartSchema.parse({ width: 3, rows: [['k', 'mb', 'k']] });
    expect(writeChart(nub, { ...settings, bobble: 3 }).text).to.contain(
      'MB: knit, yarn over, knit into the stitch, turn, purl 3, turn, knit 3 together.',
    );
  });
});

describe('rows worked as they present', () => {
  // With one repeat, row 4 shows what row 3 does; its own repeat begins a stitch earlier, so with two it does not.
  it('are those that present with every number of repeats', () => {
    const chart = ChartSchema.parse({
      width: 3,
      firstRow: 'WS',
      rows: [P('kkk'), P('kkk'), P('kkk'), P('kkp'), P('kkp')],
      across: { before: 1, after: 0, times: 1 },
      jogs: { 4: -1 },
    });
    const presented = { ...settings, style: StyleSchema.parse({ wsRows: 'presented' }) };
    expect(writeAndProve(chart, presented)).to.deep.include({ checked: true, problems: [] });
  });
});

describe('the proof', () => {
  it('works the whole plan: what presents on the first pass must on the second', () => {
    const slipped = ChartSchema.parse({
      width: 1,
      rows: [['slyb'], ['k'], ['p'], ['p']],
      up: { setup: 0, closing: 0, times: 3 },
    });
    const style = StyleSchema.parse({ wsRows: 'presented', counts: 'changes' });
    const { rows, checked, text } = writeAndProve(slipped, { ...settings, style });
    // Row 2 finds a knit loop on the first pass and a purl loop on the second: it is written out.
    expect(rows.map((r) => r.words)).to.deep.equal([
      'sl 1 wyib',
      'p1',
      'p1',
      'work the stitches as they present',
    ]);
    expect(checked).to.be.true;
    const damaged = text.replace('Row 2 (WS): p1', 'Row 2 (WS): work the stitches as they present');
    expect(damaged).not.to.equal(text);
    expect(proveText(damaged, slipped, settings).problems[0]).to.include({ row: 2, id: 'words-differ' });
    expect(writeAndProve({ ...slipped, up: null }, { ...settings, style }).rows[1]!.words).to.equal(
      'work the stitches as they present',
    );
  });

  const chart = ChartSchema.parse({
    width: 8,
    rows: [P('ppkkkkpp'), ['p', 'p', L22, 'p', 'p']],
    construction: 'round',
    across: { before: 1, after: 1, times: 3 },
  });

  it('works the words at the smallest number of repeats, the designer’s and one more', () => {
    expect(writeAndProve(chart, settings)).to.deep.include({
      checked: true,
      against: [1, 3, 4],
      problems: [],
    });
  });

  const { text } = writeChart(chart, settings);
  for (const [what, from, to] of [
    ['a stitch too many', 'p1, *p1, k4', 'p1, *p1, k5'],
    ['a wrong end of the repeat', 'to last st', 'to last 2 sts'],
    ['a knit for a purl', 'p1, *p1, k4', 'p1, *k1, k4'],
    ['a wrong count', '(20 sts)', '(21 sts)'],
    ['a crossing turned the wrong way', 'p1, *p1, 2/2 LC', 'p1, *p1, 2/2 RC'],
    ['a key that means something else', 'hold in front, k2', 'hold in back, k2'],
    ['a row left out', /Round 2.*\n/, ''],
    ['a line that is no row', 'Round 2: p1, *', 'Round 2: p1, **'],
  ] as const)
    it(`finds ${what}`, () => {
      const altered = text.replace(from, to);
      expect(altered).not.to.equal(text);
      const proof = proveText(altered, chart, settings);
      expect(proof.checked).to.be.false;
      expect(proof.problems.length).to.be.greaterThan(0);
    });

  it('is not misled by a stitch of the designer’s own that is worked with a cable needle', () => {
    const own = {
      id: 'own-tuck',
      name: 'tuck',
      takes: 2,
      makes: 3,
      span: 3,
      faces: ['knit', 'knit', 'knit'],
      marks: ['cross'],
      rs: 'tuck',
      ws: 'tuck',
      rsSteps: 'sl 1 to cable needle, hold in front, k1, yo, k1 from cable needle',
      wsSteps: 'sl 1 to cable needle, hold in back, p1, yo, p1 from cable needle',
    };
    const tucked = ChartSchema.parse({
      width: 5,
      rows: [['k', 'own-tuck', 'k'], P('kkkkk'), ['k', 'k2tog', 'none', 'k', 'k']],
      own: [own],
    });
    expect(writeAndProve(tucked, settings)).to.deep.include({ checked: true, problems: [] });
  });

  it('is never given to a chart with errors', () => {
    const broken = ChartSchema.parse({ width: 8, rows: [P('ppkkkkpp'), P('ppkkkkp')] });
    expect(writeAndProve(broken, settings)).to.include({ checked: false });
  });

  // The property the product promises: what is drawn and sound is written, read back and equal.
  it('holds for any sound chart, in every school, style and hand', () => {
    fc.assert(
      fc.property(
        anyChart(),
        fc.constantFrom<School>(...SCHOOLS),
        fc.constantFrom<Hand>('right', 'left-same-fabric', 'left-same-words'),
        anyStyle(),
        fc.boolean(),
        (drawn, school, hand, style, named) => {
          const own = crossingsUsed(drawn).map((c, i) => [crossingId(c), `Fold ${i + 1}`]);
          const names = named ? (Object.fromEntries(own) as Record<string, string>) : {};
          const by = {
            ...settings,
            school,
            hand,
            names,
            style,
          };
          const faults = [...checkChart(drawn), ...checkNames(drawn, by)].filter((f) => f.level === 'error');
          const { checked, problems } = writeAndProve(drawn, by);
          expect(checked, JSON.stringify(problems[0])).to.equal(faults.length === 0);
        },
      ),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('gives the chart back when the words are read as a pattern', () => {
    fc.assert(
      fc.property(anyChart(), (drawn) => {
        const { construction, firstRow } = drawn;
        const { text: written } = writeChart(drawn, settings);
        const { chart: read, problems } = readPattern(written, {
          construction,
          firstRow,
          school: 'front-back',
        });
        expect(problems.filter((p) => p.level !== 'note')).to.deep.equal([]);
        // The frame may be found smaller than it was drawn; where it is the same, so is every stitch.
        const again = writeChart(read!, settings);
        expect(again.castOn).to.equal(writeChart(drawn, settings).castOn);
        const isSame =
          read!.width === drawn.width &&
          read!.across?.before === drawn.across?.before &&
          JSON.stringify(read!.jogs) === JSON.stringify(drawn.jogs);
        if (isSame)
          read!.rows.forEach(
            (row, r) => expect(row.every((s, i) => sameStitch(s, drawn.rows[r]![i]!))).to.be.true,
          );
        expect(
          proveText(written, read!, settings).problems.filter((p) => p.id === 'words-differ'),
        ).to.deep.equal([]);
      }),
      { numRuns: 60 * THOROUGH },
    );
  });
});

describe('a crossing spelled out in a row’s words', () => {
  const chart = startChart({ columns: 8, rows: 2, construction: 'flat', ground: 'p' });
  const read = (text: string) => rowFromWords(chart, 0, text, settings);
  const row = ['p', 'p', simpleCrossing('left', 2, 2), 'p', 'p'];

  it('is read with brackets and without', () => {
    const steps = 'sl 2 to cable needle, hold in front, k2, k2 from cable needle';
    for (const text of [`p2, (${steps}), p2`, `p2, ${steps}, p2`, `p2, 2/2 LC (${steps}), p2`])
      expect(read(text), text).to.deep.equal(row);
  });

  it('a name that is not known is refused with advice that holds on the bench', () => {
    expect(() => read('p2, wiggle, p5')).to.throw(
      '"wiggle" is not a stitch or crossing known here. Name a crossing by its groups, such as 2/1 RPC',
    );
  });
});

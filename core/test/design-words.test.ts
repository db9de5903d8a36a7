import { expect } from 'chai';
import fc from 'fast-check';
import {
  checkChart,
  checkNames,
  EditError,
  moveChart,
  nameChart,
  putChart,
  invertSteps,
  chartName,
  pasteFrom,
  ownIn,
  SettingsSchema,
  simpleCrossing,
  startChart,
  startDesign,
  takeChart,
  ChartSchema,
  type Chart,
  type Stitch,
} from '../src/index.js';
import { proveDesignText, writeAndProveDesign } from '../src/words/proof/prove.js';
import { applySteps } from '../src/chart/steps.js';
import { anyChart } from './arbitrary.js';

const settings = SettingsSchema.parse({});
const k = (n: number): Stitch[] => Array<Stitch>(n).fill('k');

const rope = ChartSchema.parse({
  id: 'a',
  width: 6,
  rows: [
    ['p', ...k(4), 'p'],
    ['p', ...k(4), 'p'],
    ['p', simpleCrossing('left', 2, 2), 'p'],
    ['p', ...k(4), 'p'],
  ],
  up: { setup: 0, closing: 0, times: 3, end: 2 },
});
const lace = ChartSchema.parse({
  id: 'b',
  width: 4,
  construction: 'round',
  rows: [
    ['k2tog', 'none', 'yo', 'p'],
    ['k', 'none', 'k', 'p'],
  ],
});
const charts = [rope, lace];
const names = ['Back', 'Sleeve'];

describe('the words of several charts', () => {
  it('stand under their names, with one key for all, and are proved', () => {
    const { text, checked, problems } = writeAndProveDesign(charts, names, settings);
    expect(problems).to.deep.equal([]);
    expect(checked).to.equal(true);
    expect(text.startsWith('Back\n\nWorked flat.')).to.equal(true);
    expect(text).to.contain('\n\nSleeve\n\nWorked in the round.');
    expect(text.match(/^Key$/gm)).to.have.length(1);
    expect(text.match(/^p: purl\.$/gm)).to.have.length(1);
    expect(text).to.contain('2/2 LC: sl 2 to cable needle').and.to.contain('k2tog: knit 2 stitches together');
  });

  it('one chart alone has no heading', () => {
    const { text, checked } = writeAndProveDesign([rope], ['Back'], settings);
    expect(checked).to.equal(true);
    expect(text.startsWith('Worked flat.')).to.equal(true);
  });

  it('are refused with anything else in them', () => {
    const { text } = writeAndProveDesign(charts, names, settings);
    const damaged = {
      'another name': text.replace('Sleeve', 'Cuff'),
      'charts swapped': text.replace('Back', '#').replace('Sleeve', 'Back').replace('#', 'Sleeve'),
      'a key line dropped': text.replace(/^p: purl\.\n/m, ''),
      'a key line told twice': text.replace(/^p: purl\.$/m, 'p: purl.\np: purl.'),
      'a row of one in the other': text.replace('Round 2: k2, p1', 'Round 2: p1, k2'),
      'a line more between them': text.replace('\n\nSleeve', '\nWork with care.\n\nSleeve'),
      'a word of the key changed': text.replace('k2tog: knit 2', 'k2tog: knit 3'),
    };
    for (const [what, words] of Object.entries(damaged)) {
      expect(words, what).not.to.equal(text);
      expect(proveDesignText(words, charts, names, settings).checked, what).to.equal(false);
    }
  });

  it('hold for any sound charts together', () => {
    fc.assert(
      fc.property(fc.array(anyChart(), { minLength: 2, maxLength: 3 }), (some) => {
        const list = some.map((c, i) => ({ ...c, id: `c${i}` }));
        fc.pre(
          list.every((c, i) =>
            [...checkChart(c), ...checkNames(c, settings, list.slice(0, i))].every(
              (f) => f.level !== 'error',
            ),
          ),
        );
        const { checked, problems } = writeAndProveDesign(
          list,
          list.map((_, i) => `Chart ${i + 1}`),
          settings,
        );
        expect(checked, JSON.stringify(problems[0])).to.equal(true);
      }),
      { numRuns: 60 },
    );
  });

  it('two crossings of two charts may not share a name', () => {
    const five = (id: string, front: number, back: number): Chart =>
      ChartSchema.parse({ id, width: 5, rows: [[simpleCrossing('left', front, back)]] });
    const total = { ...settings, school: 'total-hold' as const };
    const { checked, problems } = writeAndProveDesign([five('a', 3, 2), five('b', 2, 3)], names, total);
    expect(checked).to.equal(false);
    expect(problems[0]!.message).to.contain('Sleeve: "C5F" names both a 3/2 left crossing of another chart');
  });
});

describe('the charts of a design', () => {
  const design = { ...startDesign('5c0ee000-0000-4000-8000-000000000009', 'x', rope) };
  const two = applySteps(design, putChart(design, 1, lace));

  it('are put in, named, ordered and taken out, and each is undone', () => {
    const steps = [
      putChart(two, 0, {
        ...startChart({ columns: 2, rows: 2, construction: 'flat', ground: 'p' }),
        id: 'c',
      }),
      moveChart(two, 'a', 1),
      nameChart(two.charts[1]!, 'Thumb'),
      takeChart(two, 'a'),
    ];
    const orders = ['c,a,b', 'b,a', 'a,b', 'b'];
    steps.forEach((s, i) => {
      const made = applySteps(two, s);
      expect(made.charts.map((c) => c.id).join()).to.equal(orders[i]);
      expect(applySteps(made, invertSteps(s))).to.deep.equal(two);
    });
  });

  it('are called by the letters of their places until they are named', () => {
    expect(two.charts.map((c) => chartName(two, c))).to.deep.equal(['Chart A', 'Chart B']);
    expect(chartName(two, { id: 'b', name: 'Thumb' })).to.equal('Thumb');
  });

  it('one stays, and there are not more than a design holds', () => {
    expect(() => takeChart(design, 'a')).to.throw(EditError, 'at least one chart');
    const full = { ...design, charts: Array.from({ length: 60 }, (_, i) => ({ ...rope, id: `c${i}` })) };
    expect(() => putChart(full, 0, lace)).to.throw(EditError, 'at most 60 charts');
  });

  it('take over the stitches of her own that copied rows use', () => {
    const own = {
      id: 'own-nupp',
      name: 'nupp',
      rs: 'nupp',
      ws: 'nupp',
      rsSteps: 'work a nupp',
      wsSteps: 'work a nupp',
      takes: 1,
      makes: 1,
      span: 1,
      faces: ['knit'],
      marks: ['dot'],
    };
    const from = ChartSchema.parse({ width: 2, rows: [['own-nupp', 'k']], own: [own] });
    const into = pasteFrom(rope, 0, 1, from.rows, ownIn(from.rows, from.own)).chart;
    expect(into.own.map((o) => o.id)).to.deep.equal(['own-nupp']);
    expect(into.rows[0]).to.deep.equal(['p', 'own-nupp', ...k(3), 'p']);
  });
});

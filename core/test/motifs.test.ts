import { expect } from 'chai';
import fc from 'fast-check';
import {
  checkChart,
  ChartSchema,
  EditError,
  layMotif,
  layOwnMotif,
  motifChart,
  motifFrom,
  MOTIFS,
  motifSize,
  MOTIF_LIMITS,
  ownMotifChart,
  plaitsOf,
  saidSchema,
  SettingsSchema,
  simpleCrossing,
  startChart,
  usualOf,
  writeAndProve,
  type MotifRule,
  type OwnStitch,
  type Said,
} from '../src/index.js';
import { OwnMotifSchema } from '../src/documents/studio-schema.js';
import { THOROUGH } from './arbitrary.js';

/** All that a motif may be told. */
const anySaid = ({ numbers, choices }: MotifRule): fc.Arbitrary<Said> =>
  fc.record({
    ...Object.fromEntries(
      Object.entries(numbers).map(([key, { least, most, step = 1 }]) => [
        key,
        fc.integer({ min: Math.ceil(least / step), max: Math.floor(most / step) }).map((n) => n * step),
      ]),
    ),
    ...Object.fromEntries(
      Object.entries(choices).map(([key, { options }]) => [
        key,
        fc.constantFrom(...options.map(([value]) => value)),
      ]),
    ),
  });

const settings = SettingsSchema.parse({});
const cautions = (chart: Parameters<typeof checkChart>[0]) =>
  checkChart(chart).filter((f) => f.level !== 'note');
const of = (id: string) => MOTIFS.find((m) => m.id === id)!;

describe('motifs', () => {
  for (const rule of MOTIFS)
    it(`${rule.name}: at every size sound, proved and without cautions`, () => {
      const { smallest, largest } = extremes(rule);
      const soundly = (said: Said) => {
        const chart = motifChart(rule, said, 3);
        expect(ChartSchema.parse(chart)).to.deep.equal(chart);
        expect(cautions(chart), JSON.stringify(said)).to.deep.equal([]);
        return chart;
      };
      for (const said of [usualOf(rule), smallest, largest])
        expect(writeAndProve(soundly(said), settings).checked, JSON.stringify(said)).to.equal(true);
      fc.assert(
        fc.property(anySaid(rule), (said) => void soundly(said)),
        { numRuns: 12 * THOROUGH },
      );
    });

  function extremes(rule: MotifRule): Record<'smallest' | 'largest', Said> {
    const by = (pick: 'least' | 'most', choice: 'first' | 'last'): Said => ({
      ...Object.fromEntries(Object.entries(rule.numbers).map(([key, n]) => [key, n[pick]])),
      ...Object.fromEntries(
        Object.entries(rule.choices).map(([key, { options }]) => [
          key,
          options.at(choice === 'first' ? 0 : -1)![0],
        ]),
      ),
    });
    return { smallest: by('least', 'first'), largest: by('most', 'last') };
  }

  // Over and under by construction: what the rule says of them, not what one example does.
  for (const id of [
    'rope',
    'plait',
    'horseshoe',
    'wishbone',
    'diamond',
    'lattice',
    'basket',
    'ring',
    'knot',
    'ribbed',
  ])
    it(`${id}: every rope goes over and under`, () => {
      fc.assert(
        fc.property(anySaid(of(id)), (said) => {
          for (const { alternates, cannot } of plaitsOf(motifChart(of(id), said, 3)))
            expect({ alternates, cannot }).to.deep.equal({ alternates: true, cannot: false });
        }),
        { numRuns: 10 * THOROUGH },
      );
    });

  it('say what they are a multiple of', () => {
    const size = (id: string, said: Said = {}) => motifSize(of(id).weave({ ...usualOf(of(id)), ...said }));
    expect(size('rope')).to.equal('8 stitches, 4 rows');
    expect(size('plait', { ropes: 5, stitches: 3, gutter: 1, rows: 6 })).to.equal('17 stitches, 12 rows');
    expect(size('honeycomb')).to.equal('a multiple of 8 stitches + 4, 8 rows');
    expect(size('basket')).to.equal('a multiple of 6 stitches, 8 rows');
  });

  it('refuse what they cannot be', () => {
    for (const said of [{ stitches: 0 }, { rows: 5 }, { rows: 4.5 }, { lean: 'up' }, { colour: 1 }])
      expect(saidSchema(of('rope')).safeParse(said).success, JSON.stringify(said)).to.equal(false);
  });

  describe('laid on a chart', () => {
    const cloth = startChart({ columns: 30, rows: 6, construction: 'flat', ground: 'p' });

    it('stand with their corner at the cursor, and rows are added where there are too few', () => {
      const laid = layMotif(cloth, 2, 4, of('rope'), usualOf(of('rope')), 2).chart;
      expect(laid.rows).to.have.length(10);
      expect(laid.rows[4]!.findIndex((s) => typeof s !== 'string')).to.equal(6);
      expect(cautions(laid)).to.deep.equal([]);
    });

    it('are refused where there is no room, on a wrong-side row, or where the ground is not clear', () => {
      const lay =
        (r: number, column: number, id = 'rope') =>
        () =>
          layMotif(cloth, r, column, of(id), usualOf(of(id)));
      expect(lay(0, 25)).to.throw(EditError, '8 columns wide; from column 26 there are 5');
      expect(lay(1, 0)).to.throw(EditError, 'row 2 is a wrong-side row');
      expect(lay(2, 15, 'ring')).to.throw(EditError, 'rows high');
    });

    it('open columns where they win stitches', () => {
      const tall = startChart({ columns: 30, rows: 40, construction: 'flat', ground: 'p' });
      const laid = layMotif(tall, 4, 15, of('ring'), usualOf(of('ring'))).chart;
      expect(laid.width).to.equal(34);
      expect(cautions(laid)).to.deep.equal([]);
    });
  });
});

describe('motifs of the studio’s own', () => {
  const own: OwnStitch = {
    id: 'own-tuft',
    name: 'tuft',
    takes: 1,
    makes: 1,
    span: 1,
    faces: ['knit'],
    marks: ['dot'],
    rs: 'tuft',
    ws: 'tuft',
    rsSteps: 'make a tuft',
    wsSteps: 'make a tuft',
  };
  const chart = ChartSchema.parse({
    width: 6,
    own: [own],
    rows: [
      ['p', 'k', 'k', 'k', 'k', 'p'],
      ['p', simpleCrossing('left', 2, 2), 'own-tuft'],
    ],
  });
  const block = { columns: { from: 1, to: 5 }, rows: { from: 0, to: 1 } };

  it('are kept from a selection with the stitches they use, and laid in another chart', () => {
    const motif = motifFrom(chart, block, '  Tufted rope ');
    expect(motif).to.deep.include({ name: 'Tufted rope', own: [own] });
    expect(OwnMotifSchema.parse(JSON.parse(JSON.stringify(motif)))).to.deep.equal(motif);
    expect(ownMotifChart(motif)).to.include({ width: 5, part: 'panel' });
    const cloth = startChart({ columns: 8, rows: 1, construction: 'flat', ground: 'p' });
    const laid = layOwnMotif(cloth, 0, 3, motif).chart;
    expect(laid.own.map((o) => o.id)).to.deep.equal(['own-tuft']);
    expect(laid.rows[1]!.at(-1)).to.equal('own-tuft');
    expect(() => layOwnMotif(cloth, 0, 4, motif)).to.throw(EditError, 'from column 5 there are 4');
  });

  it('are bounded, and hold only what a chart could', () => {
    const wide = startChart({
      columns: MOTIF_LIMITS.columns + 1,
      rows: 1,
      construction: 'flat',
      ground: 'p',
    });
    const all = { columns: { from: 0, to: MOTIF_LIMITS.columns }, rows: { from: 0, to: 0 } };
    expect(() => motifFrom(wide, all, 'Wide')).to.throw(EditError, 'columns wide');
    const uneven = { name: 'x', rows: [['k'], ['k', 'k']] };
    const unknown = { name: 'x', rows: [['own-nothing']] };
    for (const motif of [uneven, unknown, { name: ' ', rows: [['k']] }])
      expect(OwnMotifSchema.safeParse(motif).success).to.equal(false);
  });
});

import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  checkNames,
  crossingId,
  crossingsNamed,
  EditError,
  mirrorBlock,
  nameOf,
  schoolName,
  SCHOOLS,
  SettingsSchema,
  simpleCrossing,
  writeAndProve,
  type School,
} from '../src/index.js';
import { distinctName } from '../src/names/check-names.js';
import { anyCrossing } from './arbitrary.js';

// Examples of each school's names: common practice, no source.
const NAMES: [School, string, string, string][] = [
  // school, 2/2 knit left, 2/1 purl right, 3/1 knit left
  ['front-back', '2/2 LC', '2/1 RPC', '3/1 LC'],
  ['total-hold', 'C4F', 'T3B', 'C4F'],
  ['total-lean', 'C4L', 'T3R', 'C4L'],
  ['total-ground', 'C4F', 'C3R', 'C4F'],
  ['worked-order', '2/2 left cable', '2/1 right purl cable', '1/3 left cable'],
];

describe('names of crossings', () => {
  for (const [school, knit, purl, uneven] of NAMES)
    it(`in the ${school} school`, () => {
      expect(schoolName(simpleCrossing('left', 2, 2), school)).to.equal(knit);
      expect(schoolName(simpleCrossing('right', 2, 1, 'p'), school)).to.equal(purl);
      expect(schoolName(simpleCrossing('left', 3, 1), school)).to.equal(uneven);
    });

  it('front/back and worked order disagree on an unequal left crossing', () => {
    expect(crossingsNamed('1/3 LC', 'front-back')).to.deep.equal([simpleCrossing('left', 1, 3)]);
    expect(crossingsNamed('1/3 LC', 'worked-order')).to.deep.equal([simpleCrossing('left', 3, 1)]);
    expect(crossingsNamed('1/3 RC', 'worked-order')).to.deep.equal([simpleCrossing('right', 1, 3)]);
  });

  it('one school calls C4F and C4L the same crossing, another two', () => {
    expect(crossingsNamed('C4F', 'total-hold')).to.deep.equal(crossingsNamed('C4L', 'total-lean'));
    expect(crossingsNamed('C4L', 'total-ground')).to.deep.equal([simpleCrossing('left', 2, 2, 'p')]);
  });

  it('a total of odd size does not say how it is divided', () => {
    const ways = crossingsNamed('C5F', 'total-hold').map((c) => `${c.front.length}/${c.back.length}`);
    expect(ways).to.include.members(['3/2', '2/3']);
    expect(crossingsNamed('C4F', 'total-hold')).to.have.length(1);
  });

  it('counts the loops of pairs where it is told to: each number doubled, and an odd one names nothing', () => {
    expect(schoolName(simpleCrossing('left', 2, 1, 'p'), 'front-back', { each: 2 })).to.equal('4/2 LPC');
    expect(crossingsNamed('C4F', 'total-hold', { each: 2 })).to.deep.equal([simpleCrossing('left', 1, 1)]);
    expect(crossingsNamed('4/3 LC', 'front-back', { each: 2 })).to.deep.equal([]);
    fc.assert(
      fc.property(anyCrossing(), fc.constantFrom(...SCHOOLS), (c, school) => {
        const [told, doubled] = [schoolName(c, school), schoolName(c, school, { each: 2 })];
        if (told === null || doubled === null) {
          expect(doubled).to.equal(told);
          return;
        }
        expect(doubled.match(/\d+/g)?.map(Number)).to.deep.equal(
          told.match(/\d+/g)?.map((n) => 2 * Number(n)),
        );
        expect(crossingsNamed(doubled, school, { each: 2 })).to.deep.equal(crossingsNamed(told, school));
      }),
    );
  });

  it('may carry lean and hold at once, when they agree', () => {
    expect(crossingsNamed('CL4F', undefined)).to.deep.equal([simpleCrossing('left', 2, 2)]);
    expect(crossingsNamed('CR4B', 'total-hold')).to.deep.equal([simpleCrossing('right', 2, 2)]);
    expect(crossingsNamed('CL4B', undefined)).to.deep.equal([]);
  });

  it('is asked about when no school says what its letter means', () => {
    const ways = (name: string, school?: School) => crossingsNamed(name, school).map((c) => c.back.join(''));
    expect(ways('T2F')).to.deep.equal(['k', 'p']);
    expect(ways('T2F', 'total-hold')).to.deep.equal(['p']);
    expect(ways('C4L')).to.deep.equal(['kk', 'pp']);
    expect(ways('C4L', 'total-lean')).to.deep.equal(['kk']);
    expect(ways('Cr4R', 'total-lean')).to.deep.equal(['pp']);
  });

  it('is unknown when no school has it', () => {
    for (const name of ['C0F', 'wobble', '2/0 LC', '13/2 LC', '2/2 XC', '2/2 LC-k'])
      expect(crossingsNamed(name, 'front-back'), name).to.deep.equal([]);
  });

  it('leads back to the crossing in the two schools that count groups', () => {
    fc.assert(
      fc.property(anyCrossing(), fc.constantFrom<School>('front-back', 'worked-order'), (c, school) => {
        expect(crossingsNamed(schoolName(c, school)!, school).map(crossingId)).to.deep.equal([crossingId(c)]);
      }),
    );
  });

  const chart = ChartSchema.parse({
    width: 10,
    rows: [[simpleCrossing('left', 3, 2), simpleCrossing('left', 2, 3)]],
  });

  it('may not be shared by two crossings of one pattern', () => {
    expect(checkNames(chart, { school: 'front-back', names: {} })).to.deep.equal([]);
    const [finding] = checkNames(chart, { school: 'total-hold', names: {} });
    expect(finding).to.include({ id: 'same-name', level: 'error', row: 1 });
    expect(finding!.message).to.contain('C5F');
  });

  it("may be the designer's own, unless it is a stitch's", () => {
    const id = crossingId(simpleCrossing('left', 2, 3));
    const own = { school: 'total-hold' as const, names: { [id]: 'Fold' } };
    expect(nameOf(simpleCrossing('left', 2, 3), own)).to.equal('Fold');
    expect(checkNames(chart, own)).to.deep.equal([]);
    const taken = { school: 'total-hold' as const, names: { [id]: 'k2tog' } };
    expect(checkNames(chart, taken)[0]).to.include({ id: 'same-name' });
    for (const name of ['k3', 'P', 'sl 2 wyib', 'knit two over', 'Repeat'])
      expect(checkNames(chart, { school: 'total-hold', names: { [id]: name } })[0]?.message, name).to.contain(
        'what the rows themselves say',
      );
    expect(distinctName(simpleCrossing('left', 2, 3), { school: 'total-hold', names: {} })).to.equal(
      'C5F-2/3',
    );
  });

  it('say what the hands hold and work first, and the lean as the right side looks', () => {
    const c = simpleCrossing('left', 2, 1);
    const her = { hand: 'left-same-fabric' } as const;
    const named = (school: School, told: Parameters<typeof schoolName>[2]) => schoolName(c, school, told);
    expect(named('total-hold', {})).to.equal('C3F');
    // Her cable needle hangs in back where the fabric leans left.
    expect(named('total-hold', her)).to.equal('C3B');
    expect(named('total-lean', her)).to.equal('C3L');
    expect(named('front-back', her)).to.equal('2/1 LC');
    // Right-handed, the back group is worked first on the right side, and the front group on the wrong side.
    expect(named('worked-order', {})).to.equal('1/2 left cable');
    expect(named('worked-order', { side: 'WS' })).to.equal('2/1 left cable');
    expect(named('worked-order', her)).to.equal('2/1 left cable');
    for (const school of SCHOOLS)
      for (const told of [{}, { side: 'WS' } as const, her, { ...her, side: 'WS' } as const]) {
        const name = schoolName(c, school, told);
        if (name && school !== 'total-hold' && school !== 'total-lean' && school !== 'total-ground')
          expect(crossingsNamed(name, school, told), name).to.deep.equal([c]);
      }
  });

  it('are one name for two crossings where worked order differs by side', () => {
    const chart = ChartSchema.parse({
      width: 3,
      rows: [[simpleCrossing('left', 2, 1)], [simpleCrossing('left', 1, 2)]],
    });
    const [finding] = checkNames(chart, { school: 'worked-order', names: {} });
    expect(finding).to.include({ id: 'same-name', level: 'error' });
  });
});

describe('a stitch of the designer’s own that is not the same from both sides', () => {
  const own = (id: string, faces: string[], mirror?: string) => ({
    id,
    name: id.slice(4),
    takes: 1,
    makes: 2,
    span: 2,
    faces,
    marks: ['fork'],
    rs: id.slice(4),
    ws: `${id.slice(4)}w`,
    rsSteps: `${id} on the right side`,
    wsSteps: `${id} on the wrong side`,
    ...(mirror ? { mirror } : {}),
  });
  const drawn = (mirror?: string) =>
    ChartSchema.parse({
      width: 3,
      rows: [['k', 'own-fir']],
      own: [own('own-fir', ['knit', 'purl'], mirror), own('own-yew', ['purl', 'knit'], 'own-fir')],
    });
  const whole = { columns: { from: 0, to: 2 }, rows: { from: 0, to: 0 } };

  it('is mirrored as the stitch she says, and not at all before', () => {
    expect(() => mirrorBlock(drawn(), whole)).to.throw(EditError, 'which stitch is its mirror image');
    expect(mirrorBlock(drawn('own-yew'), whole).chart.rows[0]).to.deep.equal(['own-yew', 'k']);
  });

  it('is written for a left-handed knitter by the word of its mirror image', () => {
    const by = { ...SettingsSchema.parse({}), hand: 'left-same-fabric' as const };
    expect(writeAndProve(drawn(), by).problems[0]).to.include({ id: 'no-mirror-image' });
    const { text, checked } = writeAndProve(drawn('own-yew'), by);
    expect(checked).to.be.true;
    expect(text).to.contain('Row 1 (RS): yew, k1.').and.to.contain('yew: own-yew on the right side.');
  });
});

import { expect } from 'chai';
import fc from 'fast-check';
import {
  DocumentError,
  EMPTY_STUDIO,
  invertSteps,
  KINDS,
  startChart,
  startDesign,
  StepMisfit,
  stepsOf,
  STUDIO,
  SWATCH,
  SwatchSchema,
  type Change,
  type DocumentOf,
  EDITION,
  type Kind,
  type Knitting,
  KNITTING,
  KnittingSchema,
  type Note,
  NoteSchema,
  type KindName,
  type Step,
  type Studio,
  type Swatch,
} from '../src/index.js';

/** What saving, joining and undo ask of a kind of document holds for every kind there is. */

const plain = SwatchSchema.parse({ id: '00000000-0000-4000-8000-000000000001', name: 'Plain' });
const someDesign = startDesign(
  '00000000-0000-4000-8000-000000000002',
  'Some',
  startChart({ columns: 6, rows: 4, construction: 'flat', ground: 'p' }),
);

const reading = fc.record({ count: fc.integer({ min: 5, max: 40 }), over: fc.constant(100_000) });
const readings = fc.array(reading, { maxLength: 3 });
const swatches: fc.Arbitrary<Swatch> = fc
  .record({
    name: fc.constantFrom('Plain', 'Cabled', 'Rib'),
    of: fc.option(
      fc.record({ design: fc.constantFrom(plain.id, someDesign.id), chart: fc.constantFrom('a', 'b') }),
    ),
    needle: fc.option(fc.integer({ min: 2, max: 12 })),
    grams: fc.option(fc.integer({ min: 1, max: 90 })),
    before: fc.record({ stitches: readings, rows: readings }),
    after: fc.record({ stitches: readings, rows: readings }),
    notes: fc.constantFrom('', 'soft', 'dry'),
  })
  .map((fields) => SwatchSchema.parse({ ...fields, id: plain.id }));
const studios: fc.Arbitrary<Studio> = fc.record({
  house: fc.constant(null),
  answers: fc.dictionary(fc.constantFrom('c5f', 't4', 'cr3', '__proto__x'), fc.constantFrom('a', 'b', 'c')),
  motifs: fc.constant({}),
});
const designs = fc
  .record({ title: fc.constantFrom('Some', 'Other'), notes: fc.constantFrom('', 'x', 'y') })
  .map((head) => ({ ...someDesign, ...head }));

const ids = (n: number) => `00000000-0000-4000-8000-0000000000${n}`;
const edition = EDITION.read({ id: ids(20), design: someDesign.id, version: 3, at: 5, document: someDesign });
const place = fc.record({
  row: fc.integer({ min: 0, max: 400 }),
  group: fc.integer({ min: 0, max: 30 }),
  at: fc.integer({ min: 0, max: 2e12 }),
  device: fc.constantFrom('phone', 'tablet'),
});
const knittings: fc.Arbitrary<Knitting> = fc
  .record({
    place,
    log: fc.dictionary(fc.constantFrom('0', '7', '120'), fc.integer({ min: 0, max: 2e12 })),
    skeins: fc.dictionary(fc.constantFrom(ids(31), ids(32)), fc.constant({ lot: '4b', row: 3, at: 9 })),
    name: fc.constantFrom('left mitten', 'right mitten'),
    rest: fc.option(fc.integer({ min: 5, max: 90 })),
  })
  .map((fields) =>
    KnittingSchema.parse({
      ...fields,
      id: ids(30),
      design: someDesign.id,
      edition: edition.id,
      of: { chart: 'a' },
      knitter: 'Ina',
      begun: 1,
    }),
  );
const notes: fc.Arbitrary<Note> = fc
  .record({
    text: fc.constantFrom('', 'one short', 'holes'),
    state: fc.constantFrom('open', 'answered', 'closed'),
    answer: fc.constantFrom('', 'mended'),
    errata: fc.boolean(),
  })
  .map((fields) =>
    NoteSchema.parse({ ...fields, id: ids(40), design: someDesign.id, by: 'Ina', at: 1, where: 'row 7' }),
  );

type Document = DocumentOf[KindName];
/** Kinds of which something that was said later stands, so that joining has an order. */
const IN_ORDER: readonly KindName[] = ['studio', 'knitting', 'note'];
const OF: Readonly<Record<KindName, fc.Arbitrary<Document>>> = {
  design: designs,
  swatch: swatches,
  studio: studios,
  edition: fc.constant(edition),
  knitting: knittings,
  note: notes,
};
const change = (steps: readonly Step[], id = 'x'): Change => ({ id, label: '', steps });

for (const name of Object.keys(KINDS) as KindName[])
  describe(`a ${name} that is kept in versions`, () => {
    const kind = KINDS[name] as unknown as Kind<Document>;

    it('comes from one state to another by its steps, and back by their inverse', () => {
      fc.assert(
        fc.property(OF[name], OF[name], (was, now) => {
          const steps = kind.between(was, now);
          expect(kind.apply(was, steps)).to.deep.equal(now);
          expect(kind.apply(now, invertSteps(steps))).to.deep.equal(was);
        }),
      );
    });

    it('joins what two people did, whoever is first, or sets aside what cannot be had beside the other', () => {
      fc.assert(
        fc.property(OF[name], OF[name], OF[name], (base, mine, theirs) => {
          const [own, other] = [kind.between(base, mine), kind.between(base, theirs)];
          const { kept, aside, over } = kind.rebase(base, [change(own)], other);
          const joined = kind.apply(theirs, stepsOf(kept));
          // What leads from mine to the joined state is told too.
          expect(kind.apply(mine, over)).to.deep.equal(joined);
          if (!aside.length && !IN_ORDER.includes(name)) {
            const turned = kind.rebase(base, [change(other)], own);
            expect(turned.aside).to.deep.equal([]);
            expect(kind.apply(mine, stepsOf(turned.kept))).to.deep.equal(joined);
          }
          if (aside.length) expect(joined).to.deep.equal(theirs);
        }),
      );
    });

    it('names every place a step may touch', () => {
      fc.assert(
        fc.property(OF[name], OF[name], (was, now) => {
          for (const step of kind.between(was, now))
            for (const word of kind.placeOf(step, was)) expect(word).not.to.equal('');
        }),
      );
    });

    it('refuses what is no document of its kind, with where', () => {
      for (const wrong of [null, [], 'x', { id: 7 }, { ...plain, colour: 'red' }])
        expect(() => kind.read(wrong)).to.throw(DocumentError);
    });
  });

describe('a document of fields', () => {
  const set = (path: string[], was: unknown, now: unknown): Step => ({ kind: 'set', path, was, now });

  it('has two people who measured different things keep both, and two who measured one thing asked', () => {
    const mine = change([set(['grams'], null, 30), set(['needle'], null, 4)]);
    const apart = SWATCH.rebase(plain, [mine], [set(['notes'], '', 'soft')]);
    expect(apart.kept[0]!.steps).to.deep.equal(mine.steps);
    const both = SWATCH.rebase(plain, [mine], [set(['needle'], null, 5)]);
    expect([both.kept, both.aside]).to.deep.equal([[], [mine]]);
    // Measured alike it is measured once.
    const alike = SWATCH.rebase(plain, [mine], [set(['needle'], null, 4)]);
    expect(alike.kept[0]!.steps).to.deep.equal([set(['grams'], null, 30)]);
  });

  it('is never put together of two answers: which chart it is of is one of them', () => {
    const of = (design: string, chart: string) => ({ ...plain, of: { design, chart } });
    const [one, two] = [of(plain.id, 'a'), of(someDesign.id, 'b')];
    expect(SWATCH.between(one, two)).to.have.length(1);
    const { aside } = SWATCH.rebase(
      one,
      [change(SWATCH.between(one, of(plain.id, 'c')))],
      SWATCH.between(one, two),
    );
    expect(aside).to.have.length(1);
  });

  it('has the place of a knitter where her hand moved to last, whichever device is heard of first', () => {
    fc.assert(
      fc.property(knittings, place, place, (base, one, other) => {
        fc.pre(one.at !== other.at);
        const moved = (to: typeof one) => KNITTING.between(base, { ...base, place: to });
        const joined = (mine: typeof one, theirs: typeof one) => {
          const { kept, over } = KNITTING.rebase(base, [change(moved(mine))], moved(theirs));
          const there = KNITTING.apply({ ...base, place: theirs }, stepsOf(kept));
          expect(KNITTING.apply({ ...base, place: mine }, over)).to.deep.equal(there);
          return there.place;
        };
        const later = one.at > other.at ? one : other;
        expect(joined(one, other)).to.deep.equal(later);
        expect(joined(other, one)).to.deep.equal(later);
      }),
    );
  });

  it('changes nothing of a pattern that is knitted from', () => {
    const steps = [set(['document'], someDesign, { ...someDesign, title: 'Other' })];
    expect(() => EDITION.apply(edition, steps)).to.throw(StepMisfit, 'stays as it was');
    expect(EDITION.rebase(edition, [change(steps)], []).aside).to.have.length(1);
  });

  it('lets the later answer of the studio stand, over the one before it', () => {
    const { kept, aside } = STUDIO.rebase(
      EMPTY_STUDIO,
      [change([set(['answers', 'c5f'], undefined, 'mine')])],
      [set(['answers', 'c5f'], undefined, 'theirs'), set(['answers', 't4'], undefined, 'x')],
    );
    expect([kept[0]!.steps, aside]).to.deep.equal([[set(['answers', 'c5f'], 'theirs', 'mine')], []]);
  });

  for (const [what, step] of [
    ['its id', set(['id'], plain.id, someDesign.id)],
    ['a part of what is set as a whole', set(['of', 'chart'], undefined, 'a')],
    ['a whole of which the parts are set', set(['after'], plain.after, plain.after)],
    ['what it has not', set(['colour'], undefined, 'red')],
    ['what it may not hold', set(['needle'], null, 4000)],
    ['what it holds no more', set(['needle'], 3, 4)],
    ['stitches', { kind: 'cells', chart: 'x', row: 0, column: 0, was: ['k'], now: ['p'] }],
  ] as const)
    it(`refuses to set ${what}`, () => {
      expect(() => SWATCH.apply(plain, [step as Step])).to.throw(StepMisfit);
    });
});

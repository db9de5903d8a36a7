import { expect } from 'chai';
import fc from 'fast-check';
import {
  changeOf,
  ChangeSchema,
  EditError,
  headChange,
  insertColumns,
  insertRows,
  deleteRows,
  groundRow,
  mergeSteps,
  placeStitches,
  sameValue,
  setAcross,
  simpleCrossing,
  startChart,
  startDesign,
  stepsBetween,
  andThen,
  unchanged,
  withRow,
  workStitch,
  type Chart,
  type Change,
  type Design,
  type Edit,
  type Step,
  type Stitch,
} from '../src/index.js';
import { applySteps } from '../src/chart/steps.js';
import { rebase } from '../src/chart/rebase.js';
import { anyChart, anyEdit } from './arbitrary.js';
import { joined } from './joined.js';

const ID = '00000000-0000-4000-8000-000000000001';
const cloth = startChart({ columns: 12, rows: 6, construction: 'flat', ground: 'p' });
const design = startDesign(ID, 'test', cloth);
let made = 0;
const change = (edit: Edit): Change =>
  changeOf(edit, 'edit', `00000000-0000-4000-8000-${String(++made).padStart(12, '0')}`)!;

type Act = (c: Chart) => Edit;

/** Edits of all kinds: also ones that win and lose loops, leave rows short, and set single settings. */
const anything: fc.Arbitrary<Act> = fc.oneof(
  { weight: 4, arbitrary: anyEdit },
  {
    weight: 1,
    arbitrary: fc
      .tuple(fc.nat(40), fc.nat(40), fc.constantFrom<Stitch>('yo', 'k2tog', 'kfb', 'kyok', 'none'))
      .map(([x, y, s]): Act => (c) => {
        try {
          return workStitch(c, y % c.rows.length, x % c.width, s);
        } catch (error) {
          if (error instanceof EditError) return unchanged(c);
          throw error;
        }
      }),
  },
  {
    weight: 1,
    arbitrary: fc.nat(40).map((y): Act => (c) => {
      const r = y % c.rows.length;
      return c.rows[r]!.length > 1 ? withRow(c, r, c.rows[r]!.slice(1)) : unchanged(c);
    }),
  },
  {
    weight: 1,
    arbitrary: fc.nat(9).map(
      (n): Act =>
        (c) =>
          c.across ? setAcross(c, { ...c.across, times: c.across.least + n }) : unchanged(c),
    ),
  },
);

/** What one person did, as changes that follow each other. */
function worked(from: Design, acts: readonly Act[]): { changes: Change[]; to: Design } {
  const changes: Change[] = [];
  const to = acts.reduce((at, act) => {
    const edit = act(at.charts[0]!);
    if (!edit.steps.length) return at;
    changes.push(change(edit));
    return applySteps(at, edit.steps);
  }, from);
  return { changes, to };
}

const stepsOf = (changes: readonly Change[]): Step[] => changes.flatMap((c) => [...c.steps]);

describe("two people's edits", () => {
  it('joined in either order make the same document, or clash in either order', () => {
    let both = 0;
    fc.assert(
      fc.property(
        anyChart(),
        fc.array(anything, { minLength: 1, maxLength: 5 }),
        fc.array(anything, { minLength: 1, maxLength: 5 }),
        (chart, hers, his) => {
          const from = startDesign(ID, 'test', chart);
          const [a, b] = [worked(from, hers), worked(from, his)];
          if (joined(from, stepsOf(a.changes), stepsOf(b.changes))) both++;
        },
      ),
      { numRuns: 400 },
    );
    expect(both, 'many of them can be joined').to.be.greaterThan(170);
  });

  it('are rebased one by one: what can be kept is, and the view is led from the old state to the new', () => {
    fc.assert(
      fc.property(
        anyChart(),
        fc.array(anything, { minLength: 1, maxLength: 6 }),
        fc.array(anything, { minLength: 1, maxLength: 6 }),
        (chart, hers, his) => {
          const from = startDesign(ID, 'test', chart);
          const [mine, theirs] = [worked(from, hers), worked(from, his)];
          const { kept, aside, over } = rebase(from, mine.changes, stepsOf(theirs.changes));
          const view = applySteps(theirs.to, stepsOf(kept));
          expect(applySteps(mine.to, over)).to.deep.equal(view);
          expect(kept.length + aside.length).to.be.at.most(mine.changes.length);
          const ids = new Set([...kept, ...aside].map((c) => c.id));
          expect(ids.size).to.equal(kept.length + aside.length);
        },
      ),
      { numRuns: 300 },
    );
  });

  it('in other rows, or other cells of a row, are never set aside', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(5), fc.nat(5), fc.constantFrom<Stitch>('k', 'ktbl', 'mb')), {
          maxLength: 8,
        }),
        fc.array(fc.tuple(fc.nat(5), fc.nat(5), fc.constantFrom<Stitch>('k', 'ktbl', 'mb')), {
          maxLength: 8,
        }),
        (right, left) => {
          const hers = worked(
            design,
            right.map(
              ([r, c, s]): Act =>
                (t) =>
                  placeStitches(t, r, c, [s]),
            ),
          );
          const his = worked(
            design,
            left.map(
              ([r, c, s]): Act =>
                (t) =>
                  placeStitches(t, r, 6 + c, [s]),
            ),
          );
          expect(rebase(design, hers.changes, stepsOf(his.changes)).aside).to.deep.equal([]);
          const all = joined(design, stepsOf(hers.changes), stepsOf(his.changes))!;
          for (const [r, row] of all.charts[0]!.rows.entries()) {
            expect(row.slice(0, 6)).to.deep.equal(hers.to.charts[0]!.rows[r]!.slice(0, 6));
            expect(row.slice(6)).to.deep.equal(his.to.charts[0]!.rows[r]!.slice(6));
          }
        },
      ),
      { numRuns: 200 },
    );
  });

  const knit =
    (r: number): Act =>
    (c) =>
      placeStitches(c, r, 0, ['k']);
  const join = (a: Act, b: Act) => joined(design, a(cloth).steps, b(cloth).steps);

  it('land on their row when rows that look the same were put in below it', () => {
    const both = join((c) => insertRows(c, 2, [groundRow(c), groundRow(c)]), knit(3))!;
    expect(both.charts[0]!.rows.map((row) => row[0])).to.deep.equal(['p', 'p', 'p', 'p', 'p', 'k', 'p', 'p']);
  });

  it('move with columns and keep the repeat lines of both', () => {
    const framed = setAcross(cloth, { before: 2, after: 2, times: 3, least: 1 }).chart;
    const from = startDesign(ID, 'test', framed);
    const both = joined(
      from,
      insertColumns(framed, 1, 2).steps,
      andThen(placeStitches(framed, 0, 6, [simpleCrossing('left', 2, 2)]), (c) =>
        setAcross(c, { before: 4, after: 2, times: 5, least: 1 }),
      ).steps,
    )!;
    expect(both.charts[0]!.across).to.deep.equal({ before: 6, after: 2, times: 5, least: 1 });
    expect(both.charts[0]!.rows[0]!.slice(8, 9)).to.deep.equal([simpleCrossing('left', 2, 2)]);
    expect(both.charts[0]!.width).to.equal(14);
  });

  it('that put a row each into the set-up rows lengthen it by two', () => {
    const from = startDesign(ID, 'test', { ...cloth, up: { setup: 2, closing: 1, times: 4 } });
    const put: Act = (c) => insertRows(c, 1, [groundRow(c)]);
    const both = joined(from, put(from.charts[0]!).steps, put(from.charts[0]!).steps)!;
    expect(both.charts[0]!.up).to.deep.equal({ setup: 4, closing: 1, times: 4 });
  });

  it('that are the same are done once', () => {
    expect(join(knit(2), knit(2))).to.deep.equal(applySteps(design, knit(2)(cloth).steps));
    const gone = (c: Chart) => deleteRows(c, 1, 2);
    expect(join(gone, gone)!.charts[0]!.rows).to.have.length(4);
  });

  it('clash where one takes away what the other worked, or both set one thing otherwise', () => {
    expect(join((c) => deleteRows(c, 2, 1), knit(2))).to.equal(null);
    expect(join(knit(2), (c) => placeStitches(c, 2, 0, ['ktbl']))).to.equal(null);
    expect(
      join(
        (c) => placeStitches(c, 2, 1, [simpleCrossing('left', 2, 2)]),
        (c) => insertColumns(c, 3, 1),
      ),
    ).to.equal(null);
    const title = (t: string) => headChange(design, { title: t }, 'rename', ID)!.steps;
    expect(joined(design, title('hers'), title('his'))).to.equal(null);
  });

  it('of different settings, names and own stitches are all kept', () => {
    const set = (settings: object) =>
      headChange(design, { settings: { ...design.settings, ...settings } }, 'set', ID)!.steps;
    const both = joined(
      design,
      set({ names: { a: 'one' }, hand: 'left-same-words' }),
      set({ names: { b: 'two' } }),
    )!;
    expect(both.settings.names).to.deep.equal({ a: 'one', b: 'two' });
  });

  it('of which one clashes keep the others, also those made on top of it', () => {
    const mine = worked(design, [knit(0), (c) => placeStitches(c, 2, 4, ['ktbl']), knit(5)]);
    const theirs = placeStitches(cloth, 2, 4, ['mb']).steps;
    const { kept, aside } = rebase(design, mine.changes, theirs);
    expect(kept.map((c) => c.id)).to.deep.equal([mine.changes[0]!.id, mine.changes[2]!.id]);
    expect(aside.map((c) => c.id)).to.deep.equal([mine.changes[1]!.id]);
  });
});

describe('steps', () => {
  it('travel as JSON and come back the same', () => {
    fc.assert(
      fc.property(anyChart(), fc.array(anything, { minLength: 1, maxLength: 4 }), (chart, acts) => {
        const { changes, to } = worked(startDesign(ID, 'test', chart), acts);
        const read = changes.map((c) => ChangeSchema.parse(JSON.parse(JSON.stringify(c))));
        expect(read).to.deep.equal(changes);
        expect(applySteps(startDesign(ID, 'test', chart), stepsOf(read))).to.deep.equal(to);
      }),
      { numRuns: 200 },
    );
  });

  it('merged do the same with fewer', () => {
    const { changes, to } = worked(design, [
      (c) => placeStitches(c, 1, 0, ['k']),
      (c) => placeStitches(c, 1, 0, ['ktbl']),
      (c) => placeStitches(c, 1, 0, ['mb']),
    ]);
    const merged = mergeSteps(stepsOf(changes));
    expect(merged).to.have.length(1);
    expect(applySteps(design, merged)).to.deep.equal(to);
  });

  it('lead from any state to any other, as when an earlier one is taken back', () => {
    fc.assert(
      fc.property(anyChart(), fc.array(anything, { maxLength: 6 }), (chart, acts) => {
        const from = startDesign(ID, 'test', chart);
        const { to } = worked(from, acts);
        const steps = stepsBetween(to, from);
        expect(sameValue(steps.length ? applySteps(to, steps) : to, from)).to.equal(true);
      }),
      { numRuns: 200 },
    );
  });

  for (const [what, step] of [
    ['of an unknown kind', { kind: 'wish' }],
    ['far outside any chart', { kind: 'cells', chart: 'chart', row: 1e9, column: 0, was: [], now: [] }],
    ['with a path of its own making', { kind: 'set', path: [], now: 1 }],
    ['nested without end', { kind: 'set', path: ['notes'], now: [[[[[[[[1]]]]]]]] }],
    ['with more than it says', { kind: 'set', path: ['notes'], was: '', now: 'x', also: 1 }],
  ] as const)
    it(`${what} are refused`, () => {
      expect(ChangeSchema.safeParse({ id: ID, label: '', steps: [step] }).success).to.equal(false);
    });
});

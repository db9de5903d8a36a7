import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  crossing,
  listOf,
  runMachine,
  simpleCrossing,
  type Action,
  type Chart,
  type Stitch,
} from '../src/index.js';
import { THOROUGH } from './arbitrary.js';

/** Two beds. What is custom here has no source; lists are worked by hand. */

const many = <T>(n: number, of: T): T[] => Array<T>(n).fill(of);
const out1 = simpleCrossing('left', 1, 1, 'p');
const in1 = simpleCrossing('right', 1, 1, 'p');

/** Two strands that cross at the centre, go out two needles, and come home: 11 rows, the last of them the move home. */
function strands(): Chart {
  const at = (right: number, left: number): Stitch[] =>
    Array.from({ length: 8 }, (_, c) => (c === right || c === left ? 'k' : 'p'));
  const rows: Stitch[][] = [
    at(3, 4),
    at(3, 4),
    ['p', 'p', 'p', simpleCrossing('left', 1, 1), 'p', 'p', 'p'],
    at(3, 4),
    ['p', 'p', in1, out1, 'p', 'p'],
    at(2, 5),
    ['p', in1, 'p', 'p', out1, 'p'],
    at(1, 6),
    ['p', out1, 'p', 'p', in1, 'p'],
    at(2, 5),
    ['p', 'p', out1, in1, 'p', 'p'],
    at(3, 4),
  ];
  return ChartSchema.parse({ width: 8, rows });
}

describe('the operator’s list', () => {
  it('tells two strands that cross, part and come home by five actions (worked by hand)', () => {
    const { setup, actions, rows, checked, problems } = listOf(strands(), { method: 'basic' });
    expect(problems).to.deep.equal([]);
    expect(setup).to.deep.equal({ back: ['L1', 'R1'], front: ['L4', 'L3', 'L2', 'R2', 'R3', 'R4'] });
    expect(actions).to.deep.equal([
      { counter: 2, kind: 'cable', from: ['L1', 'R1'], to: ['R1', 'L1'], over: ['R1'], out: [] },
      { counter: 4, kind: 'move', from: ['L1', 'R1'], to: ['L2', 'R2'], out: ['L1', 'R1'] },
      { counter: 6, kind: 'move', from: ['L2', 'R2'], to: ['L3', 'R3'], out: ['L2', 'R2'] },
      { counter: 8, kind: 'move', from: ['L3', 'R3'], to: ['L2', 'R2'], out: ['L3', 'R3'] },
      { counter: 10, kind: 'move', from: ['L2', 'R2'], to: ['L1', 'R1'], out: ['L2', 'R2'] },
    ]);
    expect([rows, checked]).to.deep.equal([12, true]);
  });

  it('has the ground whole across the front bed where ropes are embossed', () => {
    const { setup, checked } = listOf(strands(), { method: 'embossed' });
    expect(setup.front).to.deep.equal(['L4', 'L3', 'L2', 'L1', 'R1', 'R2', 'R3', 'R4']);
    expect(checked).to.equal(true);
  });

  it('lets all cables lie one way, where that is wished', () => {
    const { actions, checked } = listOf(strands(), { method: 'basic', lean: 'right' });
    expect([actions[0]!.over, checked]).to.deep.equal([['L1'], true]);
  });

  it('says what two beds cannot do, and what would help', () => {
    const told = (rows: Stitch[][], by: object = {}) =>
      listOf(ChartSchema.parse({ width: rows[0]!.length, rows, ...by }), { method: 'basic' }).problems.map(
        ({ message }) => message,
      );
    const ground = (stitch: Stitch, span: number): Stitch[] => [
      'p',
      'p',
      stitch,
      ...many<Stitch>(8 - span, 'p'),
    ];
    const plain: Stitch[] = ['p', 'p', 'k', 'k', 'k', 'k', 'k', 'k', 'p', 'p'];
    const three = ['p', 'p', simpleCrossing('left', 3, 3), 'p', 'p'];
    expect(told([plain, three])[0]).to.contain('stretch the chart so that crossings stand 2 apart');
    expect(told([plain, plain, ground(simpleCrossing('left', 4, 4), 8)])[0]).to.contain('hard on needles');
    expect(told([plain, plain, ground(simpleCrossing('left', 3, 2, 'p'), 5)])[0]).to.contain('one at a time');
    expect(told([plain.with(0, 'mb')])[0]).to.contain('bobble');
    expect(told([plain, plain.with(3, 'p')])[0]).to.contain('texture');
    expect(told([many(4, 'p')])[0]).to.contain('no rope');
    expect(told([plain], { construction: 'round' })[0]).to.contain('two beds knit flat');
    expect(told([plain, plain, ground(crossing('left', ['k'], ['k'], ['k']), 3)])[0]).to.contain('middle');
  });

  it('makes the chart’s cloth on the beds, whatever ropes wander over the ground', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -1, max: 1 }), fc.integer({ min: -1, max: 1 })), {
          minLength: 1,
          maxLength: 12,
        }),
        fc.constantFrom('basic' as const, 'embossed' as const),
        fc.integer({ min: 1, max: 3 }),
        (steps, method, every) => {
          // A rope of two in each half of 20 columns, each going a needle on or staying at every turn.
          const at = [3, 15];
          const rows: Stitch[][] = [];
          const plain = () =>
            Array.from({ length: 20 }, (_, c): Stitch =>
              at.some((p) => c === p || c === p + 1) ? 'k' : 'p',
            );
          for (let i = 0; i < every; i++) rows.push(plain());
          for (const step of steps) {
            const row: Stitch[] = [];
            let column = 0;
            at.forEach((place, i) => {
              const [least, most] = i ? [11, 17] : [1, 7];
              const by = place + step[i]! < least || place + step[i]! > most ? 0 : step[i]!;
              const from = by < 0 ? place - 1 : place;
              row.push(
                ...many<Stitch>(from - column, 'p'),
                ...(by ? [simpleCrossing(by > 0 ? 'left' : 'right', 2, 1, 'p')] : (['k', 'k'] as Stitch[])),
              );
              column = from + (by ? 3 : 2);
              at[i] = place + by;
            });
            row.push(...many<Stitch>(20 - column, 'p'));
            rows.push(row);
            for (let i = 1; i < every; i++) rows.push(plain());
          }
          const chart = ChartSchema.parse({ width: 20, rows });
          const list = listOf(chart, { method, every });
          expect(list.problems).to.deep.equal([]);
          expect(list.checked).to.equal(true);
          for (const { counter } of list.actions) expect(counter % every).to.equal(0);
        },
      ),
      { numRuns: 100 * THOROUGH },
    );
  });
});

describe('the simulated beds', () => {
  const { setup, actions, rows } = listOf(strands(), { method: 'basic' });

  it('give the cloth of a list that says all, and the needles at its end', () => {
    const run = runMachine(setup, actions, rows);
    expect(run.chart?.rows).to.deep.equal(strands().rows);
    expect([run.back, run.grown]).to.deep.equal([['L1', 'R1'], []]);
  });

  it('grow a stitch on a needle that was forgotten in work', () => {
    const forgot = actions.map((a): Action => (a.counter === 4 ? { ...a, out: ['L1'] } : a));
    const run = runMachine(setup, forgot, rows);
    expect(run.grown[0]).to.deep.equal({ counter: 4, needle: 'R1' });
    expect(run.chart).to.equal(null);
  });

  it('stop at what cannot be done, and say where', () => {
    const empty = actions.map((a): Action => (a.counter === 6 ? { ...a, from: ['L1', 'R2'] } : a));
    expect(runMachine(setup, empty, rows).problems[0]).to.deep.equal({
      counter: 6,
      message: 'L1 of the back bed holds no stitch.',
    });
    const onOne: Action[] = [{ counter: 0, kind: 'move', from: ['L1'], to: ['R1'], out: ['L1'] }];
    expect(runMachine(setup, onOne, 4).problems[0]?.message).to.equal('Two stitches would hang on R1.');
    const late: Action[] = [{ ...actions[0]!, counter: 90 }];
    expect(runMachine(setup, late, 4).problems[0]?.message).to.contain('No row is knit after count 90');
    expect(runMachine({ back: [], front: [] }, [], 3).chart).to.equal(null);
  });
});

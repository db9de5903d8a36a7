import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  crossing,
  allOneWay,
  clothWanted,
  picturesOf,
  applyToChart,
  differenceOf,
  invertSteps,
  liesBothWays,
  listOf,
  listText,
  machineMends,
  Operator,
  readList,
  stretched,
  toldList,
  transferFrames,
  toolsOf,
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

describe('what lets two beds knit a chart', () => {
  const plain: Stitch[] = ['p', 'p', 'p', 'k', 'k', 'p', 'p', 'p'];
  const basic = { method: 'basic' } as const;

  it('stretched, crossings stand on rows the counter is read at', () => {
    const cross: Stitch[] = ['p', 'p', 'p', simpleCrossing('left', 1, 1), 'p', 'p', 'p'];
    const chart = ChartSchema.parse({ width: 8, rows: [plain, cross, plain, plain, cross, plain] });
    const [mend] = machineMends(chart, basic);
    expect(mend!.label).to.equal('Stretch to every second row');
    const made = applyToChart(chart, mend!.steps);
    const list = listOf(made, basic);
    expect([list.problems, list.checked]).to.deep.equal([[], true]);
    expect(list.actions.map(({ counter }) => counter)).to.deep.equal([2, 6]);
    expect(applyToChart(made, invertSteps(mend!.steps))).to.deep.equal(chart);
    expect(machineMends(made, basic)).to.deep.equal([]);
  });

  it('a rope that goes several needles at once goes one at a time', () => {
    const far: Stitch[] = [simpleCrossing('right', 2, 3, 'p'), 'p', 'p', 'p'];
    const home: Stitch[] = [simpleCrossing('left', 2, 3, 'p'), 'p', 'p', 'p'];
    const out: Stitch[] = ['k', 'k', 'p', 'p', 'p', 'p', 'p', 'p'];
    const chart = ChartSchema.parse({
      width: 8,
      rows: [plain, plain, far, out, home, plain],
      up: { setup: 2, closing: 0, times: 3 },
    });
    const made = stretched(chart, 2).chart;
    const list = listOf(made, basic);
    expect([list.problems, list.checked]).to.deep.equal([[], true]);
    expect(list.actions.slice(0, 3)).to.deep.equal([
      { counter: 2, kind: 'move', from: ['L3', 'L2'], to: ['L2', 'L1'], out: ['L3'] },
      { counter: 4, kind: 'move', from: ['L2', 'L1'], to: ['L1', 'R1'], out: ['L2'] },
      { counter: 6, kind: 'move', from: ['L1', 'R1'], to: ['R1', 'R2'], out: ['L1'] },
    ]);
    // Each pass begins as the first did.
    const { again } = toldList(list);
    expect([again!.times, again!.actions.length]).to.deep.equal([3, 6]);
  });

  it('of any rope that wanders, as far as it likes and when it likes, stretching makes a list', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -4, max: 4 }), fc.integer({ min: 0, max: 2 })), {
          minLength: 1,
          maxLength: 8,
        }),
        fc.integer({ min: 1, max: 4 }),
        fc.boolean(),
        (steps, every, repeats) => {
          let at = 5;
          const row = (): Stitch[] =>
            Array.from({ length: 14 }, (_, c): Stitch => (c === at || c === at + 1 ? 'k' : 'p'));
          const rows: Stitch[][] = [row()];
          for (const [step, rest] of [...steps, ...(repeats ? ([[0, 0]] as const) : [])]) {
            const by = Math.max(-at, Math.min(12 - at, step));
            if (by) {
              const from = Math.min(at, at + by);
              rows.push([
                ...many<Stitch>(from, 'p'),
                simpleCrossing(by > 0 ? 'left' : 'right', 2, Math.abs(by), 'p'),
                ...many<Stitch>(12 - from - Math.abs(by), 'p'),
              ]);
              at += by;
            }
            for (let i = 0; i < rest; i++) rows.push(row());
          }
          const made = stretched(ChartSchema.parse({ width: 14, rows }), every).chart;
          const list = listOf(made, { method: 'embossed', every });
          expect(list.problems).to.deep.equal([]);
          expect(list.checked).to.equal(true);
        },
      ),
      { numRuns: 60 * THOROUGH },
    );
  });

  it('cables are turned one way; a chart that cannot be stretched is left as it is', () => {
    const cross = (lean: 'left' | 'right'): Stitch[] => [
      'p',
      'p',
      'p',
      simpleCrossing(lean, 1, 1),
      'p',
      'p',
      'p',
    ];
    const chart = ChartSchema.parse({
      width: 8,
      rows: [plain, plain, cross('left'), plain, cross('right'), plain],
    });
    expect(liesBothWays(chart)).to.equal(true);
    const made = allOneWay(chart, 'left').chart;
    expect(liesBothWays(made)).to.equal(false);
    expect(made.rows[2]).to.equal(chart.rows[2]);
    const ended = ChartSchema.parse({
      width: 8,
      rows: [plain, cross('left'), plain, plain],
      up: { setup: 0, closing: 0, times: 2, end: 1 },
    });
    expect(() => stretched(ended, 2)).to.throw('part-way');
    expect(machineMends(ended, basic)).to.deep.equal([]);
    expect(
      machineMends(ChartSchema.parse({ width: 8, rows: [plain], construction: 'round' }), basic),
    ).to.deep.equal([]);
  });
});

describe('a list in words', () => {
  const list = listOf(strands(), { method: 'basic' });

  it('is read back as it was told, whatever the spaces and letters', () => {
    const text = listText(list);
    expect(text).to.include('2: cable L1 R1 to R1 L1, R1 over');
    expect(text).to.include('4: move L1 R1 to L2 R2, L1 R1 out');
    for (const printed of [text, text.toLowerCase(), text.replaceAll(' ', '  ').replaceAll('\n', '\n\n')])
      expect(readList(printed)).to.deep.equal({
        setup: list.setup,
        actions: list.actions,
        rows: list.rows,
        problems: [],
      });
  });

  it('tells the line that is not understood, and guesses nothing', () => {
    const told = (text: string) =>
      readList(text)
        .problems.map(({ line, message }) => `${line} ${message}`)
        .join(' ');
    expect(told('back: L1\nrows: 4\nshift the carriage')).to.match(
      /^3 "shift the carriage" is not understood/,
    );
    expect(told('back: L0 R1\nrows: 4')).to.match(/L0 is no needle/);
    expect(told('back: L1')).to.match(/rows are knit is not said/);
    expect(told('rows: 4\nrows: 5')).to.match(/said twice/);
    expect(told(`rows: 4\n${'x\n'.repeat(5000)}`)).to.match(/at most 4000 lines/);
    expect(readList('rows: 999999999').rows).to.equal(100_000);
  });

  it('names the tools (custom: up to three prongs)', () => {
    const cable = (f: number, b: number): Action => {
      const all = Array.from({ length: f + b }, (_, i) => `L${i + 1}`);
      return { counter: 2, kind: 'cable', from: all, to: all, over: all.slice(0, f), out: [] };
    };
    expect(toolsOf(cable(1, 1))).to.equal('two single');
    expect(toolsOf(cable(3, 3))).to.equal('two triple');
    expect(toolsOf(cable(3, 1))).to.equal('one triple, one single');
    expect(
      toolsOf({ counter: 2, kind: 'move', from: ['L2', 'L1', 'R1'], to: ['L3', 'L2', 'R2'], out: [] }),
    ).to.equal('one double, one single');
    expect(
      toolsOf({
        counter: 2,
        kind: 'move',
        from: ['L4', 'L3', 'L2', 'L1'],
        to: ['L5', 'L4', 'L3', 'L2'],
        out: [],
      }),
    ).to.equal('one double');
  });

  it('tells what is done over and over once', () => {
    const chart = ChartSchema.parse({ ...strands(), up: { setup: 0, closing: 0, times: 3 } });
    const three = listOf(chart, { method: 'basic' });
    expect(three.checked).to.equal(true);
    const { before, again, after } = toldList(three);
    expect([before, after]).to.deep.equal([[], []]);
    expect(again).to.include({ rows: 12, times: 3 });
    expect(again!.actions).to.have.length(5);
    expect(toldList(list).again).to.equal(null);
  });
});

describe('the needles about an action', () => {
  it('are those of the beds before and after it', () => {
    const list = listOf(strands(), { method: 'basic' });
    const [cable, out] = picturesOf(list, list.actions.slice(0, 2));
    expect(cable).to.deep.equal({
      from: 1,
      before: ['out', 'stitch', 'stitch', 'out'],
      after: ['out', 'stitch', 'stitch', 'out'],
    });
    expect(out!.before).to.deep.equal(['out', 'out', 'stitch', 'stitch', 'out', 'out']);
    expect(out!.after).to.deep.equal(['out', 'stitch', 'out', 'out', 'stitch', 'out']);
    const wrong = list.actions.map((a): Action => (a.counter === 4 ? { ...a, from: ['L9', 'R1'] } : a));
    expect(picturesOf({ ...list, actions: wrong }, wrong.slice(1, 3))).to.deep.equal([null, null]);
  });
});

describe('a transfer moment by moment', () => {
  it('loses no stitch: what is not on a needle is on a tool', () => {
    const list = listOf(strands(), { method: 'basic' });
    picturesOf(list, list.actions).forEach((pictured, i) => {
      const action = list.actions[i]!;
      const frames = transferFrames(action, pictured!);
      for (const { stands, lifted } of frames)
        expect(stands.filter((s) => s === 'stitch').length + lifted.length).to.equal(2);
      expect(frames[0]!.stands).to.deep.equal(pictured!.before);
      expect(frames.at(-1)!.stands).to.deep.equal(pictured!.after);
      expect(frames.at(-1)!.said.includes('out of work')).to.equal(action.out.length > 0);
    });
  });
});

describe('an operator at the beds', () => {
  it('goes on one thing at a time, and the cloth grows row by row', () => {
    const { setup, actions, rows } = listOf(strands(), { method: 'basic' });
    const operator = new Operator(setup, actions, rows);
    const seen: string[] = [];
    for (let done = operator.step(); done; done = operator.step()) {
      seen.push(done.what === 'row' ? 'row' : done.action.kind);
      expect(differenceOf(clothWanted(strands()), operator)).to.equal(null);
    }
    expect(seen.join(' ')).to.equal(
      'row row cable row row move row row move row row move row row move row row',
    );
    expect(operator.run.chart?.rows).to.deep.equal(strands().rows);
  });

  it('finds the first row that is another than the chart’s', () => {
    const list = listOf(strands(), { method: 'basic' });
    const first = (change: (a: Action) => Action | null, rows = list.rows) => {
      const operator = new Operator(
        list.setup,
        list.actions.flatMap((a) => change(a) ?? []),
        rows,
      );
      while (operator.step());
      return differenceOf(clothWanted(strands()), operator)?.message;
    };
    expect(first((a) => a)).to.equal(undefined);
    expect(first((a) => (a.counter === 2 ? { ...a, over: ['L1'] } : a))).to.match(
      /Row 3 differs at R1: .*to the left.*to the right/,
    );
    expect(first((a) => (a.counter === 4 ? { ...a, out: ['R1'] } : a))).to.match(
      /At count 4 needle L1 was in work/,
    );
    expect(first((a) => (a.counter === 6 ? null : a))).to.match(/Row 7 differs/);
    expect(first((a) => a, 11)).to.match(/ends after 11 rows; the chart has 12/);
    expect(first((a) => (a.counter === 4 ? { ...a, to: ['L3', 'R2'] } : a))).to.match(
      /At count 4: L1 would go further/,
    );
  });
});

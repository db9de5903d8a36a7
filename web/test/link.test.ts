import { startChart, withRow, type Chart } from '@cordelina/core';
import { expect } from 'chai';
import { expose } from 'comlink';
import { MessageChannel } from 'node:worker_threads';
import { HeldCharts, type Sent } from '../src/workers/held-charts.js';
import { Stopped, WorkerLink } from '../src/workers/link.js';

/** A worker of the tests: the same messages, in this very thread. */
function makeWorker() {
  const held = new HeldCharts();
  const api = {
    hold: (sent: readonly Sent[]) => held.take(sent).map((c) => c.rows.length),
    sentWhole: (sent: readonly Sent[]) => {
      held.take(sent);
      return sent.map((one) => 'chart' in one);
    },
    fail: (): number => {
      throw new Error('it went wrong in there');
    },
    never: () => new Promise<number>(() => undefined),
  };
  const { port1, port2 } = new MessageChannel();
  expose(api, port2 as never);
  const worker = {
    onerror: null as (() => void) | null,
    isOver: false,
    postMessage: port1.postMessage.bind(port1),
    addEventListener: port1.addEventListener.bind(port1),
    removeEventListener: port1.removeEventListener.bind(port1),
    start: () => port1.start(),
    terminate() {
      this.isOver = true;
      port1.close();
      port2.close();
    },
  };
  port1.start();
  return { api, worker };
}
type Api = ReturnType<typeof makeWorker>['api'];

describe('the link to a worker', () => {
  let made: ReturnType<typeof makeWorker>[] = [];
  let begun = 0;
  let link: WorkerLink<Api>;
  beforeEach(() => {
    made = [];
    begun = 0;
    link = new WorkerLink<Api>(
      () => {
        made.push(makeWorker());
        return made.at(-1)!.worker as unknown as Worker;
      },
      () => begun++,
    );
  });
  afterEach(() => link.close());

  const chart = startChart({ columns: 4, rows: 3, construction: 'flat', ground: 'p' });
  const edited = withRow(chart, 1, ['k', 'p', 'p', 'k']).chart;
  const hold = (charts: readonly Chart[]) => link.ask((worker) => worker.sentWhole(link.holding(charts)));

  it('begins when it is first asked, and once', async () => {
    expect(made).to.deep.equal([]);
    expect(await link.ask((w) => w.hold(link.holding([chart])))).to.deep.equal([3]);
    await link.ask((w) => w.hold(link.holding([chart])));
    expect([made.length, begun]).to.deep.equal([1, 1]);
  });

  it('sends a chart whole once, and then what changed of it', async () => {
    expect(await hold([chart])).to.deep.equal([true]);
    expect(await hold([edited])).to.deep.equal([false]);
    expect(await hold([edited, { ...chart, id: 'other' }])).to.deep.equal([false, true]);
  });

  it('asks in turn: of what waits only the last, once what is under way is answered', async () => {
    const asked: number[] = [];
    let answer: () => void = () => undefined;
    const first = link.next(async () => {
      asked.push(1);
      await new Promise<void>((done) => (answer = done));
      return 1;
    });
    await new Promise((r) => setImmediate(r));
    const inTurn = (n: number) =>
      link.next((w) => {
        asked.push(n);
        return w.hold(link.holding([chart]));
      });
    const second = inTurn(2).catch((e: unknown) => e);
    const third = inTurn(3);
    expect(asked).to.deep.equal([1]);
    answer();
    expect(await first).to.equal(1);
    expect(await second).to.be.instanceOf(Stopped);
    expect(await third).to.deep.equal([3]);
    expect(asked).to.deep.equal([1, 3]);
    // One that fails keeps no other from its turn.
    await link.next((w) => w.fail()).catch(() => undefined);
    expect(await inTurn(4)).to.deep.equal([3]);
  });

  it('sends all anew after the worker threw: what it holds then nobody knows', async () => {
    await hold([chart]);
    const error = await link.ask((w) => w.fail()).catch((e: unknown) => e);
    expect((error as Error).message).to.include('went wrong in there');
    expect(await hold([edited])).to.deep.equal([true]);
    expect(made).to.have.length(1);
  });

  it('gives up what is under way for what is asked in its place, and begins anew', async () => {
    await hold([chart]);
    const first = link.run((w) => w.never()).catch((e: unknown) => e);
    const second = link.run((w) => w.sentWhole(link.holding([edited])));
    expect(await first).to.be.instanceOf(Stopped);
    expect(await second).to.deep.equal([true]);
    expect([made.length, begun, made[0]!.worker.isOver]).to.deep.equal([2, 2, true]);
    // With nothing under way there is nothing to stop.
    await link.run((w) => w.hold(link.holding([edited])));
    expect(made).to.have.length(2);
  });

  it('ends all that is under way when the worker fails or is closed, and leaks none', async () => {
    const waiting = [1, 2].map(() => link.ask((w) => w.never()).catch((e: unknown) => e));
    made[0]!.worker.onerror!();
    for (const error of await Promise.all(waiting))
      expect((error as Error).message).to.equal('The worker failed.');
    expect(await hold([chart])).to.deep.equal([true]);
    const last = link.ask((w) => w.never()).catch((e: unknown) => e);
    // What an old worker says no more concerns the new one.
    made[0]!.worker.onerror!();
    link.close();
    expect(await last).to.be.instanceOf(Stopped);
    expect(made.map(({ worker }) => worker.isOver)).to.deep.equal([true, true]);
  });
});

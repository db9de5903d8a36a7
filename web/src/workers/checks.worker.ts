import {
  findingsIn,
  mendsIn,
  PieceSchema,
  SettingsSchema,
  type Chart,
  type Checked,
  type Mends,
} from '@cordelina/core';
import { expose } from 'comlink';
import { HeldCharts, type Sent } from './held-charts.js';

const held = new HeldCharts();

/** What was checked last. */
let last: { of: Checked; chart: Chart } | null = null;

/** So long mends are tried before whatever else was asked meanwhile gets its turn, in milliseconds. */
const TURN = 12;

const othersTurn = () => new Promise<void>((resolve) => setTimeout(resolve));

/** Checks the chart on the bench off the page's own thread, and tries the mends of what it finds. */
const checksWorker = {
  check(sent: readonly Sent[], id: string, given: Omit<Checked, 'charts'>) {
    const charts = held.take(sent);
    const chart = charts.find((c) => c.id === id);
    if (!chart) throw new Error('The chart to be checked is not among those that were sent.');
    const piece = given.piece && PieceSchema.parse(given.piece);
    last = { of: { charts, piece, settings: SettingsSchema.parse(given.settings) }, chart };
    return findingsIn(last.of, chart);
  },
  /** The mends of what was found last, one for one; null once something newer is to be checked. */
  async mends(): Promise<Mends[] | null> {
    const asked = last;
    if (!asked) return null;
    const tried: Mends[] = [];
    let since = performance.now();
    for (const mends of mendsIn(asked.of, asked.chart)) {
      tried.push(mends);
      if (performance.now() - since < TURN) continue;
      await othersTurn();
      if (last !== asked) return null;
      since = performance.now();
    }
    return tried;
  },
};

export type ChecksWorker = typeof checksWorker;
expose(checksWorker);

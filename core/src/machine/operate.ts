import type { Chart } from '../chart/schema.js';
import { startChart } from '../chart/start.js';
import { FLAT } from '../construction/index.js';
import type { Stitch } from '../stitches/book.js';
import { Beds, placesOf, type Action, type Crossed, type Grown, type Setup } from './beds.js';

/** What came of a list that was worked on the simulated beds. */
export interface Run {
  /** The needles that hold a loop at the end. */
  back: string[];
  front: string[];
  grown: Grown[];
  /** The cloth as its rows came off, from the right; null where it is none that a chart can show. */
  chart: { width: number; rows: Stitch[][] } | null;
  /** What could not be done, or does not come out, the first of it. */
  problems: { counter: number; message: string }[];
}

/** One thing the operator did: an action, or a row that was knit. */
export type Done = { what: 'action'; action: Action } | { what: 'row'; row: number };

/** An operator who works a list on the simulated beds, one thing after the other, and looks at the cloth that comes off. */
export class Operator {
  readonly beds: Beds;
  /** The cloth so far, rows from the bottom, each from the right. */
  readonly cloth: Stitch[][] = [];
  readonly problems: Run['problems'] = [];
  /** The place of the rightmost needle in work, and how many columns the cloth has. */
  readonly right: number;
  readonly width: number;
  #isChart: boolean;
  #waiting: Action[];
  #crossed: Crossed[] = [];

  constructor(
    readonly setup: Setup,
    private readonly actions: readonly Action[],
    readonly rows: number,
  ) {
    this.beds = new Beds(setup);
    const places = [...placesOf(setup.back), ...placesOf(setup.front)];
    this.right = Math.min(...places);
    this.width = places.length ? Math.max(...places) - this.right + 1 : 0;
    this.#isChart = places.length > 0;
    this.#waiting = actions.filter(({ counter }) => counter === 0);
    for (const { counter } of actions)
      if (!Number.isInteger(counter) || counter < 0 || counter >= rows)
        this.problems.push({ counter, message: `No row is knit after count ${counter}: ${rows} rows are.` });
  }

  get counter(): number {
    return this.beds.counter;
  }

  /** What is to be done next; null when all rows are knit, or something could not be done. */
  get next(): Done | null {
    if (this.problems.length || this.counter >= this.rows) return null;
    const [action] = this.#waiting;
    return action ? { what: 'action', action } : { what: 'row', row: this.counter };
  }

  /** Does it, and says what was done; null when there is nothing more. */
  step(): Done | null {
    const done = this.next;
    if (done?.what === 'action') this.act(this.#waiting.shift()!);
    else if (done) this.knit();
    return done;
  }

  private act(action: Action): void {
    try {
      this.#crossed.push(...this.beds.act(action));
    } catch (error) {
      this.problems.push({ counter: this.counter, message: (error as Error).message });
      this.#isChart = false;
    }
  }

  private knit(): void {
    const made = this.beds.knit();
    const row: Stitch[] = [];
    const end = this.right + this.width;
    for (let place = this.right; place < end;) {
      const cross = this.#crossed.find(({ from }) => from === place);
      if (cross) {
        row.push(cross.stitch);
        place += cross.stitch.front.length + cross.stitch.back.length;
        continue;
      }
      const shown = this.beds.shown(made.get(place) ?? []);
      if (!shown) this.#isChart = false;
      row.push(shown ?? 'p');
      place++;
    }
    if ([...made.keys()].some((place) => place < this.right || place >= end)) this.#isChart = false;
    this.cloth.push(row);
    this.#crossed = [];
    this.#waiting = this.actions.filter(({ counter }) => counter === this.counter);
  }

  /** The last rows of the cloth so far, as a chart; null while no row is knit. */
  clothShown(most: number): Chart | null {
    const rows = this.cloth.slice(-most);
    const plain = { columns: this.width, rows: 1, construction: FLAT.id, ground: 'p' } as const;
    return rows.length ? { ...startChart(plain), rows } : null;
  }

  /** What came of it so far. */
  get run(): Run {
    const { back, front, grown } = this.beds;
    const isChart = this.#isChart && !grown.length;
    return {
      back,
      front,
      grown,
      chart: isChart ? { width: this.width, rows: this.cloth } : null,
      problems: this.problems,
    };
  }
}

/** Works any list on the simulated beds, and reads the cloth off them. */
export function runMachine(setup: Setup, actions: readonly Action[], rows: number): Run {
  const operator = new Operator(setup, actions, rows);
  while (operator.step());
  return operator.run;
}

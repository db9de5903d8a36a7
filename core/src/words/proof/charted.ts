import type { Band } from '../../chart/bands.js';
import { bookOf, type Chart } from '../../chart/schema.js';
import { NO_STITCH } from '../../stitches/kinds.js';
import { spanOf, takesOf, type Stitch } from '../../stitches/book.js';
import type { Side } from '../../stitches/face.js';
import { provedWay, type ProvedWay } from './way.js';

/**
 * The piece a chart says, by the proof's own account. It reads the chart's repeats itself and shares no code with
 * `frame`, on purpose: a slip in the one must not be able to hide in the other. Rows count from 1.
 */
export class Charted {
  readonly height: number;
  readonly way: ProvedWay;
  private readonly sections: (Record<'right' | 'middle' | 'left', Stitch[]> | null)[];

  constructor(readonly chart: Chart) {
    this.height = chart.rows.length;
    this.way = provedWay(chart);
    const book = bookOf(chart);
    const right = chart.across ? chart.across.before : 0;
    const left = chart.across ? chart.across.after : 0;
    this.sections = chart.rows.map((row, r) => {
      const jog = chart.across ? (chart.jogs[r] ?? 0) : 0;
      const more = jog && this.way.before(jog, right + left === 0);
      const [from, to] = [right + more, chart.width - left + more];
      const cut = { right: [] as Stitch[], middle: [] as Stitch[], left: [] as Stitch[] };
      let column = 0;
      for (const stitch of row) {
        const end = column + spanOf(stitch, book);
        if ((column < from && end > from) || (column < to && end > to)) return null;
        if (stitch !== NO_STITCH) cut[column < from ? 'right' : column < to ? 'middle' : 'left'].push(stitch);
        column = end;
      }
      return cut;
    });
  }

  side(row: number): Side {
    return this.way.side(row, this.chart.firstRow);
  }

  /** How many stitches after the place where the cast-on was joined a round begins; 0 in flat work. */
  start(row: number): number {
    return this.way.start(this.chart.jogs[row - 1] ?? 0);
  }

  /** The stitches of a row from the right, its repeat so many times; null where a stitch lies across its lines. */
  row(row: number, times: number): Stitch[] | null {
    const cut = this.sections[row - 1];
    if (!cut) return null;
    const out = [...cut.right];
    // Without a repeat the whole row is its middle, and is worked once.
    for (let i = this.chart.across ? times : 1; i > 0; i--) for (const s of cut.middle) out.push(s);
    for (const s of cut.left) out.push(s);
    return out;
  }

  takes(row: number, times: number): number {
    const book = bookOf(this.chart);
    return (this.row(row, times) ?? this.chart.rows[row - 1]!).reduce((sum, s) => sum + takesOf(s, book), 0);
  }

  /** The bands, each under the row it stands before. */
  bands(): Map<number, Band> {
    return new Map(Object.entries(this.chart.bands).map(([r, band]) => [Number(r) + 1, band]));
  }

  /** The designer's number of repeats across; null where nothing repeats. */
  get times(): number | null {
    return this.chart.across?.times ?? null;
  }

  get least(): number {
    return this.chart.across?.least ?? 1;
  }

  /** The numbers of repeats a proof works: the smallest, the designer's, and one more. */
  get tried(): number[] {
    const { times, least } = this;
    return times === null ? [1] : [...new Set([least, times, times + 1])].sort((a, b) => a - b);
  }

  /** The stretches of rows, each worked so many times. */
  get stretches(): [from: number, to: number, times: number][] {
    const { up } = this.chart;
    if (!up) return [[1, this.height, 1]];
    const [begin, end] = [up.setup + 1, this.height - up.closing];
    const all: [number, number, number][] = [
      [1, begin - 1, 1],
      [begin, end, up.times],
      [begin, up.end ?? 0, 1],
      [end + 1, this.height, 1],
    ];
    return all.filter(([from, to]) => from <= to);
  }

  /**
   * The stretches that must be told, with the row that the last pass of an open one ends with: counted out; or the repeat as often
   * as is wished, which a panel's goes on as its piece does, and any other's to end with the row the designer ends it with.
   */
  plan(
    isPanel: boolean,
    isOpen: boolean,
  ): [from: number, to: number, times: number | null, ends: number | null][] {
    const { up } = this.chart;
    if (!up || (!isPanel && !isOpen))
      return this.stretches.map(([from, to, times]) => [from, to, isPanel ? null : times, null]);
    const last = this.height - up.closing;
    const all: [number, number, number | null, number | null][] = [
      [1, up.setup, 1, null],
      [up.setup + 1, last, null, isPanel ? null : (up.end ?? last)],
      [last + 1, this.height, 1, null],
    ];
    return all.filter(([from, to]) => from <= to);
  }
}

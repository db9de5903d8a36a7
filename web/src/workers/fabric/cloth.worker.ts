import {
  assemble,
  ChartSchema,
  fittingCloth,
  PieceFault,
  PieceSchema,
  dyed,
  seenBehind,
  smallPicture,
  unfold,
  widthsOf,
  type Chart,
  type FittedCloth,
  type Proportions,
  type Sample,
  type SmallPicture,
  type Dye,
} from '@cordelina/core';
import { expose, transfer } from 'comlink';
import { HeldCharts } from '../held-charts.js';
import type { Asked, ClothAs, ClothOf, Frame, Knitted, Told } from './asked.js';
import { bitmapOf } from './ClothPicture.js';
import { ClothSession, type Charted } from './ClothSession.js';

/** So many loops are drawn at once; a larger piece is drawn from its foot. About a kilobyte each is held. */
const MOST_LOOPS = 120_000;

const charts = new HeldCharts();
const session = new ClothSession();

/** The chart that is knitted, which chart of the design each of its cells stands for. @throws PieceFault */
function chartOf(of: ClothOf): Charted {
  const { chart, own, place } = drawnOf(of);
  if (!of.isTurned) return { chart, own, place };
  return { chart: seenBehind(chart), own, place: (row, column) => place(row, chart.width - 1 - column) };
}

function drawnOf(of: ClothOf): Charted {
  if (of.kind === 'chart') {
    const [chart] = charts.take([of.sent]);
    const drawn = unfold(chart!, of.times, of.passes);
    return {
      chart: drawn.chart,
      own: chart!,
      place: (row, column) => {
        const own = drawn.rowOf(Math.max(0, row));
        return [row < 0 ? -1 : own, drawn.columnOf(own, column)];
      },
    };
  }
  const piece = PieceSchema.parse(of.piece);
  const size = piece.sizes.find((s) => s.id === of.size) ?? piece.sizes[0]!;
  const { chart } = assemble({ charts: charts.take(of.sent) }, piece, size);
  return { chart: unfold(chart).chart, own: null, place: (row, column) => [row, column] };
}

/** The rows that have room. */
function cropped(chart: Chart): { chart: Chart; leftOut: number } {
  const most = Math.max(1, Math.floor(MOST_LOOPS / chart.width));
  const leftOut = Math.max(0, chart.rows.length - most);
  return { chart: leftOut ? { ...chart, rows: chart.rows.slice(0, most) } : chart, leftOut };
}

const sound = (samples: readonly Sample[]): Sample[] =>
  samples.map(({ chart, wide }) => ({ chart: ChartSchema.parse(chart), wide }));

/** Work that goes on a little at a time, so that what is asked meanwhile is heard; the one before is given up. */
class InTurns {
  private now = 0;

  async run<T>(work: Generator<void, T>): Promise<T | null> {
    const mine = ++this.now;
    for (let step = work.next(); mine === this.now; step = work.next()) {
      if (step.done) return step.value;
      await new Promise((done) => setTimeout(done));
    }
    return null;
  }

  stop(): void {
    this.now++;
  }
}

const fits = new InTurns();

const clothWorker = {
  listen(frame: Told['frame'], progress: Told['progress']): void {
    session.listen({
      frame: (made: Frame) => frame(transfer(made, [made.bitmap, made.loopAt.buffer])),
      progress,
    });
  },

  knit(of: ClothOf, as: ClothAs): Knitted {
    let charted: Charted;
    try {
      charted = chartOf(of);
    } catch (error) {
      if (!(error instanceof PieceFault)) throw error;
      session.clear();
      const none = new Int32Array();
      return { loops: 0, row: none, column: none, leftOut: 0, fault: error.message };
    }
    const { chart, leftOut } = cropped(charted.chart);
    const made = session.knit({ ...charted, chart }, as);
    const fault = made.loops ? null : 'This chart has no stitches: there is nothing to knit.';
    return transfer({ ...made, leftOut, fault }, [made.row.buffer, made.column.buffer]);
  },

  look: (asked: Asked): void => session.look(asked),
  stop: (): void => session.stop(),
  goOn: (): void => session.goOn(),
  lines: (loops: readonly number[]): [number, number][][] => session.lines(loops),
  png: (asked: Asked): Promise<Blob> => session.png(asked),
  svg: (asked: Asked): string | null => session.svg(asked),

  /** Fits yarn and hand to swatches; null where that was stopped. */
  fit: (samples: readonly Sample[], height: number): Promise<FittedCloth | null> =>
    fits.run(fittingCloth(sound(samples), height)),

  /** How wide swatches lie with what was fitted; null where that was stopped. */
  widths: (samples: readonly Sample[], proportions: Proportions): Promise<number[] | null> =>
    fits.run(widthsOf(sound(samples), proportions)),

  stopFitting: (): void => fits.stop(),

  /** A small picture of a chart's cloth at rest. */
  small(chart: Chart, size: { width: number; height: number }, dye: Dye, how: SmallPicture): ImageBitmap {
    const made = smallPicture(ChartSchema.parse(chart), size, dyed(dye), how);
    const bitmap = bitmapOf(made).transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },
};

export type ClothWorker = typeof clothWorker;
expose(clothWorker);

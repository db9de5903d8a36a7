import type { GroundCloth, Piece, PiecePart, Size } from '../chart/piece-document.js';
import type { Chart } from '../chart/schema.js';
import { wayOf } from '../construction/index.js';
import { CLOTH_KINDS } from '../sizes/cloths.js';
import { mirrorStitch, type Stitch, type StitchBook } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { Charted } from '../words/proof/charted.js';
import { provedWay, type ProvedWay } from '../words/proof/way.js';

/**
 * The rows between the borders that a piece says, by the proof's own account: read off the document, part by part, and shared with
 * neither layout nor assembly, so that a slip in these cannot hide. Only what the length decides is taken from there: how many rows
 * there are, and with which of its own each chart begins.
 */
export class ProvedBody {
  private readonly way: ProvedWay;
  private readonly charts: readonly (Charted | null)[];

  /**
   * @param begins the row (from 1) that each part's chart begins with
   * @param rows how many there are
   */
  constructor(
    charts: readonly Chart[],
    private readonly piece: Piece,
    private readonly size: Size,
    private readonly book: StitchBook,
    private readonly begins: readonly number[],
    private readonly rows: number,
  ) {
    this.way = provedWay(piece);
    this.charts = piece.parts.map((part) => {
      const chart = 'chart' in part ? charts.find((c) => c.id === part.chart) : undefined;
      return chart ? new Charted({ ...chart, construction: piece.construction }) : null;
    });
  }

  /** The side of a row; rows count from 1. */
  side(row: number): Side {
    return this.way.side(row, this.piece.firstRow);
  }

  /** The stitches of a row, from the right as the right side looks; gaps are none. Null where a stitch lies across a repeat's line. */
  row(row: number): Stitch[] | null {
    const all: Stitch[] = [];
    for (let i = 0; i < this.piece.parts.length; i++) {
      const own = this.part(i, row);
      if (!own) return null;
      all.push(...own);
    }
    return all;
  }

  private part(i: number, row: number): Stitch[] | null {
    const part = this.piece.parts[i]!;
    switch (part.kind) {
      case 'marker':
        return [];
      case 'ground':
        return this.cloth(part.cloth, this.size.counts[part.id] ?? part.stitches, row, i);
      case 'selvage':
        return this.edge(part, row, i);
      default:
        return this.chart(part, i, row);
    }
  }

  /** Stitches of a cloth; in the left half of the piece they are counted from its left. */
  private cloth(cloth: GroundCloth, stitches: number, row: number, i: number): Stitch[] {
    const side = this.side(row);
    const at = { n: row - 1, side, way: wayOf(this.piece) };
    const ridge: Stitch = this.way.ridge(row - 1, side) ? 'p' : 'k';
    const cells = Array.from({ length: stitches }, (_, c) =>
      cloth === 'garter' ? ridge : CLOTH_KINDS[cloth].cell(c, at),
    );
    return 2 * i > this.piece.parts.length - 1 ? cells.reverse() : cells;
  }

  private edge(
    { style, stitches }: Extract<PiecePart, { kind: 'selvage' }>,
    row: number,
    i: number,
  ): Stitch[] {
    if (style !== 'slipped') return this.cloth(style, stitches, row, i);
    const cells = this.cloth('stocking', stitches, row, i);
    // Slipped where the row begins: at the right of a right-side row, at the left of a wrong-side one.
    const isLeft = 2 * i > this.piece.parts.length - 1;
    if (isLeft === (this.side(row) === 'WS')) cells[isLeft ? stitches - 1 : 0] = 'slyb';
    return cells;
  }

  private chart(part: Extract<PiecePart, { chart: string }>, i: number, row: number): Stitch[] | null {
    const chart = this.charts[i]!;
    const times = part.kind === 'filling' ? (this.size.counts[part.id] ?? part.repeats) : (chart.times ?? 1);
    const own = chart.row(this.rowOf(part.starts, this.begins[i]!, chart, row), Math.max(1, times));
    if (!own) return null;
    const seen = part.isMirrored ? own.map((s) => mirrorStitch(s, this.book)).reverse() : own;
    return row < part.starts ? this.waiting(seen) : seen;
  }

  /** The row of a chart that is worked in a row of the piece; before it begins, the one it will begin with. */
  private rowOf(starts: number, begins: number, chart: Charted, row: number): number {
    const [setup, closing] = [chart.chart.up?.setup ?? 0, chart.chart.up?.closing ?? 0];
    const repeat = chart.height - setup - closing;
    if (row < starts) return begins;
    const left = this.rows - row;
    if (left < closing) return chart.height - left;
    const at = begins + row - starts;
    return at <= setup ? at : setup + 1 + ((at - setup - 1) % repeat);
  }

  /** Plain stitches that show the faces which stitches want to find below them. */
  private waiting(stitches: readonly Stitch[]): Stitch[] {
    return stitches.flatMap((stitch) => {
      const { takes, faces, continues } = this.book.facts(stitch);
      return Array.from({ length: takes }, (_, i): Stitch => {
        if (faces === 'below') return 'k';
        const goesOn = continues.indexOf(i);
        return faces[goesOn < 0 ? 0 : goesOn] === 'purl' ? 'p' : 'k';
      });
    });
  }
}

/** The rows of an assembled piece as they are worked, repeats carried out, by the proof's own account. */
export function* workedOut(chart: Chart): Generator<Stitch[]> {
  const own = new Charted(chart);
  for (const [from, to, times] of own.stretches)
    for (let pass = 0; pass < times; pass++)
      for (let row = from; row <= to; row++) yield own.row(row, 1) ?? [];
}

/** The rows, as they are worked out, that a band is worked before. */
export function bandsWorkedOut(chart: Chart): number[] {
  const own = new Charted(chart);
  const bands = own.bands();
  const found: number[] = [];
  let n = 0;
  for (const [from, to, times] of own.stretches)
    for (let pass = 0; pass < times; pass++)
      for (let row = from; row <= to; row++, n++) if (bands.has(row)) found.push(n);
  return found;
}

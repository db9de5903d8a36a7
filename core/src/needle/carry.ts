import { markerMoved, startOf } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { become, andThen, type Edit } from '../chart/edit.js';
import { bookOf, type Chart, type Row } from '../chart/schema.js';
import type { ColumnsStep, RowsStep } from '../chart/steps.js';
import { isCrossing, type Stitch, type StitchBook } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { castOnNeedle, fromStart, needleFrom, workChart, workRow } from './needle.js';
import type { Needle } from './loop.js';

/**
 * Faces carry up: a plain knit or purl cell that only repeats the face of its loop goes on doing so when an edit
 * below gives the loop another face. What was set against the face below, a crossing, and a stitch through the back
 * loop are the designer's own, and stop it.
 */

const faceCell = (needle: Needle, loop: number): Stitch => (needle[loop]?.face === 'purl' ? 'p' : 'k');

/** The needle as a row meets it. */
const metBy = (below: Needle, chart: Chart, r: number): Needle => needleFrom(below, startOf(chart, r));

/** Whether a row only repeats the faces below, its marker where it was: knit the knits and purl the purls. */
export function presents(chart: Chart, r: number, below: Needle): boolean {
  if (markerMoved(chart, r) !== 0) return false;
  const met = metBy(below, chart, r);
  let i = 0;
  for (const s of chart.rows[r]!) {
    if (s === NO_STITCH) continue;
    if (i >= met.length || s !== faceCell(met, i++)) return false;
  }
  return i === met.length;
}

/** Whether a row of the chart only repeats the faces of the row below it. The lowest has none below. */
export const presentsBelow = (chart: Chart, r: number): boolean =>
  r > 0 && presents(chart, r, workChart(chart)[r - 1]!.loops);

/** A row that repeats the faces of row `r` (from 0), its gaps where that one has its own. */
export function presentingRow(chart: Chart, r: number): Row {
  const book = bookOf(chart);
  const met = fromStart(workChart(chart)[r]!.loops, startOf(chart, r));
  let loop = 0;
  return chart.rows[r]!.flatMap((stitch): Stitch[] => {
    const { makes, span } = book.facts(stitch);
    const cells = Array.from({ length: makes }, () => faceCell(met, loop++));
    return [...cells, ...Array<Stitch>(Math.max(0, span - makes)).fill(NO_STITCH)];
  });
}

/** Where rows and columns of a chart stood before an edit; null for those it put in. */
interface Before {
  row: (r: number) => number | null;
  column: (c: number) => number | null;
}

function beforeEdit({ steps }: Edit): Before {
  const shifts = steps.filter((s): s is RowsStep | ColumnsStep => s.kind === 'rows' || s.kind === 'columns');
  const back = (kind: 'rows' | 'columns') => (place: number) => {
    let at: number | null = place;
    for (const step of [...shifts].reverse()) {
      if (step.kind !== kind || at === null) continue;
      const count = step.kind === 'rows' ? step.rows.length : step.count;
      if (step.done === 'out') at = at >= step.at ? at + count : at;
      else if (at >= step.at) at = at >= step.at + count ? at - count : null;
    }
    return at;
  };
  return { row: back('rows'), column: back('columns') };
}

/** The columns (from 0) of the plain cells of a row that only present, with the loops they take as the row meets them. */
function presenting(row: Row, met: Needle, book: StitchBook): Map<number, Stitch> {
  const found = new Map<number, Stitch>();
  const { starts } = rowFacts(row, book);
  let loop = 0;
  row.forEach((stitch, i) => {
    if ((stitch === 'k' || stitch === 'p') && loop < met.length && faceCell(met, loop) === stitch)
      found.set(starts[i]!, stitch);
    loop += book.facts(stitch).takes;
  });
  return found;
}

/** One row after the edit, its cells that only presented given the faces that now come to them. */
function followed(
  row: Row,
  met: Needle,
  presented: (column: number) => Stitch | undefined,
  isLaid: (column: number) => boolean,
  book: StitchBook,
): Row {
  const { starts } = rowFacts(row, book);
  let loop = 0;
  let changed = false;
  const cells = row.map((stitch, i) => {
    const { takes } = book.facts(stitch);
    const at = loop;
    loop += takes;
    if (isCrossing(stitch) || at >= met.length || presented(starts[i]!) !== stitch || isLaid(starts[i]!))
      return stitch;
    const now = faceCell(met, at);
    changed ||= now !== stitch;
    return now;
  });
  return changed ? cells : row;
}

/**
 * An edit with the faces it changes carried up, as one edit. Cells the edit itself set stay as they were set, also those that
 * it set as they were before, and so does whatever did not only present before it.
 */
export function carryUp(chart: Chart, edit: Edit): Edit {
  if (edit.chart === chart || edit.chart.id !== chart.id) return edit;
  const { chart: made } = edit;
  const [bookBefore, book] = [bookOf(chart), bookOf(made)];
  const works = workChart(chart);
  const before = beforeEdit(edit);
  const isSameShape = !edit.steps.some((s) => s.kind === 'rows' || s.kind === 'columns');
  const rows = [...made.rows];
  let below: Needle | null = null;
  for (let r = 0; r < rows.length; r++) {
    const row = rows[r]!;
    const was = before.row(r);
    const wasRow = was === null ? undefined : chart.rows[was];
    const wasBelow = was === null || was === 0 ? null : works[was - 1]!.loops;
    // Nothing that enters it has changed: it and its needle are as they were.
    if (isSameShape && row === wasRow && below === wasBelow && startOf(made, r) === startOf(chart, r)) {
      below = works[r]!.loops;
      continue;
    }
    if (below && wasRow && wasBelow) {
      const presented = presenting(wasRow, metBy(wasBelow, chart, was!), bookBefore);
      const asWas = (column: number) => {
        const old = before.column(column);
        return old === null ? undefined : presented.get(old);
      };
      const laid = edit.laid?.filter((l) => l.row === r) ?? [];
      const isLaid = (column: number) => laid.some((l) => column >= l.from && column < l.to);
      rows[r] = followed(row, metBy(below, made, r), asWas, isLaid, book);
    }
    below = workRow(rows[r]!, below ?? castOnNeedle(rows[r]!, book), book, startOf(made, r)).loops;
  }
  return andThen(edit, (c) => become(c, { ...c, rows }));
}

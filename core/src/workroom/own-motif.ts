import { FLAT } from '../construction/index.js';
import { EditError, andThen, unchanged, type Edit } from '../chart/edit.js';
import { copyBlock, ownIn, pasteFrom, type Block } from '../chart/edits.js';
import { spanOfAll } from '../chart/rows.js';
import { startChart } from '../chart/start.js';
import { type Chart } from '../chart/schema.js';
import { layRows } from '../ropes/motifs/index.js';
import { stitchBook } from '../stitches/book.js';
import { OwnMotifSchema, type OwnMotif } from '../documents/studio-schema.js';

/** A selected piece of a chart as a motif of the studio's own. @throws EditError where a motif cannot be so */
export function motifFrom(chart: Chart, block: Block, name: string): OwnMotif {
  const rows = copyBlock(chart, block);
  const motif = OwnMotifSchema.safeParse({ name, rows, own: ownIn(rows, chart.own) });
  if (!motif.success) throw new EditError(motif.error.issues[0]!.message);
  return motif.data;
}

/** A motif of the studio's own as a chart: a panel. */
export function ownMotifChart({ name, rows, own }: OwnMotif): Chart {
  const width = spanOfAll(rows[0]!, stitchBook(own));
  const cloth = startChart({ columns: width, rows: rows.length, construction: FLAT.id, ground: 'p' });
  return { ...cloth, name, part: 'panel', rows, own: [...own] };
}

/** One laid on a chart with its lower right corner at a cell. @throws EditError where it has no room */
export function layOwnMotif(chart: Chart, r: number, column: number, { name, rows, own }: OwnMotif): Edit {
  // The chart gets to know the stitches it uses; nothing of it is laid yet.
  const known = own.length ? pasteFrom(chart, r, column, [], own) : unchanged(chart);
  return andThen(known, (c) => layRows(c, r, column, rows, name));
}

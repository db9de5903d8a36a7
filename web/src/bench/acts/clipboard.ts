import {
  cellsOfRows,
  copyBlock,
  EditError,
  FileFault,
  fillCounted,
  MOTIF_LIMITS,
  motifFrom,
  ownIn,
  pasteFrom,
  rowsOfCells,
  sheetOfCsv,
  tabbed,
  unchanged,
  type Block,
  type Chart,
  type Row,
} from '@cordelina/core';
import { changeStudio, studioIn, withOne } from '../../desk/state/studio.js';
import { newId } from '../../sync/newId.js';
import { bench } from '../../desk/state/bench.js';
import { edit, onBench, work } from '../../desk/state/editing.js';
import { store, type AppDispatch } from '../../desk/state/index.js';
import { copyText } from '../../ui/copy.js';
import { now } from './here.js';

/** What was last copied, with the stitches of her own it uses; shared by all charts of this page. */
let held: { rows: readonly Row[]; own: Chart['own'] } | null = null;

/** The same as it went to the clipboard, for other programs; told again by it. */
let sharedText: string | null = null;
const plainly = (text: string): string => text.replace(/\r\n?/g, '\n').trim();

/** Lays what is held on the clipboard, as cells that a spreadsheet takes. Where the browser does not let it, it is held here alone. */
function share(chart: Chart): void {
  const settings = onBench(store.getState())?.document.settings;
  if (!held || !settings) return;
  const text = tabbed(cellsOfRows(held.rows, { ...chart, own: held.own }, settings));
  sharedText = plainly(text);
  void copyText(text);
}

/** The rows that a text of cells holds for a chart, or why it holds none. */
function cellsIn(text: string, chart: Chart): NonNullable<typeof held> | { problem: string } {
  const settings = onBench(store.getState())!.document.settings;
  try {
    const read = rowsOfCells(sheetOfCsv(text, '').cells, chart, settings);
    return 'problem' in read ? read : { rows: read.rows, own: chart.own };
  } catch (error) {
    if (error instanceof FileFault) return { problem: error.message };
    throw error;
  }
}

const copied = (chart: Chart, block: Block): NonNullable<typeof held> => {
  const rows = copyBlock(chart, block);
  return { rows, own: ownIn(rows, chart.own) };
};

/** What is copied, and kept as a motif. */
export function clipboard(dispatch: AppDispatch) {
  return {
    copy: () => {
      const { chart, block } = now();
      const isCopied = dispatch(
        edit('copy', (c) => {
          held = copied(chart, block);
          return unchanged(c);
        }),
      );
      if (!isCopied) return;
      share(chart);
      const [w, h] = [block.columns.to - block.columns.from + 1, block.rows.to - block.rows.from + 1];
      dispatch(bench.said({ text: `Copied ${w} × ${h}.`, tone: 'said' }));
    },
    cut: () => {
      const { chart, block } = now();
      dispatch(
        work('cut', (c) => {
          held = copied(chart, block);
          return fillCounted(c, block, c.ground);
        }),
      );
      share(chart);
    },
    /** What was copied here, or, where that is a text of something else, the cells that it holds. */
    paste: (text: string | null = null) => {
      const { block, chart } = now();
      const from =
        text === null || !text.trim() || plainly(text) === sharedText ? held : cellsIn(text, chart);
      if (from && 'problem' in from) return dispatch(bench.said({ text: from.problem, tone: 'refused' }));
      if (!from) return dispatch(bench.said({ text: 'Nothing has been copied yet.', tone: 'refused' }));
      return dispatch(
        work('paste', (c) => pasteFrom(c, block.rows.from, block.columns.from, from.rows, from.own)),
      );
    },
    /** Keeps the selection on the motif shelf, under a name. */
    keepMotif: (name: string) => {
      const { chart, block } = now();
      try {
        const motif = motifFrom(chart, block, name);
        if (Object.keys(studioIn(store.getState()).motifs).length >= MOTIF_LIMITS.motifs)
          throw new EditError(
            `The shelf holds ${MOTIF_LIMITS.motifs} motifs of your own. Take one off it first.`,
          );
        void dispatch(
          changeStudio(`motif ${motif.name}`, (studio) => ({
            ...studio,
            motifs: withOne(studio.motifs, newId(), motif),
          })),
        );
        dispatch(bench.said({ text: `“${motif.name}” stands on the motif shelf.`, tone: 'said' }));
      } catch (error) {
        if (!(error instanceof EditError)) throw error;
        dispatch(bench.said({ text: error.message, tone: 'refused' }));
      }
    },
  };
}

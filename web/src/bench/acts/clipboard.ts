import {
  copyBlock,
  EditError,
  fillCounted,
  MOTIF_LIMITS,
  motifFrom,
  ownIn,
  pasteFrom,
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

/** The same as it went to the clipboard for other programs, which tells it again; and whether it is still on its way there. */
let sharedText: string | null = null;
let isSharing = false;
const plainly = (text: string): string => text.replace(/\r\n?/g, '\n').trim();

/** What makes cells of stitches and reads them is fetched when something is copied or pasted first. */
const cells = () => import('./cells.js');

/** Lays what is held on the clipboard, as cells that a spreadsheet takes. Where the browser does not let it, it is held here alone. */
async function share(chart: Chart): Promise<void> {
  const settings = onBench(store.getState())?.document.settings;
  if (!held || !settings) return;
  isSharing = true;
  try {
    const text = (await cells()).cellsText(held.rows, { ...chart, own: held.own }, settings);
    sharedText = plainly(text);
    await copyText(text);
  } finally {
    isSharing = false;
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
      void share(chart);
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
      void share(chart);
    },
    /** What was copied here, or, where the clipboard holds something else, the cells that are in it. */
    paste: async (text: string | null = null) => {
      const { block, chart } = now();
      const refuse = (why: string) => dispatch(bench.said({ text: why, tone: 'refused' }));
      const isHeld = text === null || !text.trim() || isSharing || plainly(text) === sharedText;
      const settings = onBench(store.getState())!.document.settings;
      const from = isHeld ? held : (await cells()).rowsIn(text, chart, settings);
      if (!from) return refuse('Nothing has been copied yet.');
      if ('problem' in from) return refuse(from.problem);
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

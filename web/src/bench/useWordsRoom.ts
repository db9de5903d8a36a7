import { beyondOf, linesOf, type Chart, type Settings } from '@cordelina/core';
import { useMemo, type RefObject } from 'react';
import { usePaneSize } from '../ui/usePaneSize.js';
import { FINDINGS } from './Findings.js';
import { cellForWords, drawnColumns } from './geometry.js';
import { longestWords, useLetterWidth } from './RowWords.js';
import { STITCHES } from './StitchEdge.js';

/** Charts of more cells are not looked through for their longest row: they leave the words no room anyway. */
const MOST_CELLS = 6000;
/** What stands above and below chart and words: the toolbar, and the needle. */
const AROUND = 152;

/**
 * What the words of a chart's rows want of the bench: how long the longest is, and whether the edge with the stitches folds to give
 * them its room. It is looked at when a chart is laid down or the window is another size, not while it is worked on: nothing
 * moves under the hands.
 */
export function useWordsRoom(
  chart: Chart,
  settings: Settings,
  { narrow, edgeOpen }: { narrow: boolean; edgeOpen: boolean },
): { roomRef: RefObject<HTMLDivElement | null>; texts: readonly string[] | null; wantsFold: boolean } {
  const { ref: roomRef, size: room } = usePaneSize();
  const { id, width, jogs, construction } = chart;
  const rows = chart.rows.length;
  const { school, style, names } = settings;
  const texts = useMemo(
    () => (width * rows > MOST_CELLS ? null : longestWords(chart, settings)),
    // What is written in its cells is not looked at: see above.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [id, width, rows, school, style, names],
  );
  const letter = useLetterWidth();
  const wantsFold = useMemo(() => {
    if (narrow || !room.width || texts === null) return false;
    const columns = drawnColumns({ columns: width, beyond: beyondOf({ jogs, construction }) });
    const edges = STITCHES.open + (edgeOpen ? FINDINGS.open : FINDINGS.folded);
    const sheet = { width: room.width - edges, height: room.height - AROUND };
    const lines = linesOf(chart).count;
    return cellForWords({ columns, rows: lines, texts }, letter, sheet) === null;
    // Only when the sheet or the chart is another.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [narrow, room.width, room.height, texts, width, rows, letter]);
  return { roomRef, texts, wantsFold };
}

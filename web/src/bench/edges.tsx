import {
  wayOf,
  dictionOf,
  rowTitle,
  sideOf,
  sideSign,
  mannerOf,
  wordsOfRow,
  type Chart,
  type Settings,
  takesTurns,
} from '@cordelina/core';
import { useAppSelector } from '../desk/state/index.js';

/** The small things at the edges of the chart: what was said, the line to the words, the row's words on a phone. */

/** On a narrow screen, the words of the row at the cursor; a thumb pulls up the others. */
export function RowStrip({
  chart,
  settings,
  onPull,
}: {
  chart: Chart;
  settings: Settings;
  onPull: () => void;
}) {
  const row = useAppSelector((s) => s.bench.cursor.row);
  const side = sideOf(chart, row);
  return (
    <button
      type="button"
      title="The words of all rows"
      onClick={onPull}
      className="max-h-16 shrink-0 overflow-hidden border-t border-rule px-3 py-1.5 text-left text-[13px]"
    >
      <span className="mr-2 text-slate">
        {rowTitle(chart, row + 1)}
        {takesTurns(wayOf(chart)) ? ` (${sideSign(side, chart)})` : ''}
      </span>
      <span className="font-mono text-[12.5px]">
        {wordsOfRow(chart, row, dictionOf(chart, settings), mannerOf(settings.style, chart))}
      </span>
    </button>
  );
}

/** The line between chart and words, to be dragged; a double click gives the chart what it needs again. */
export function Divide({
  share,
  of,
  onShare,
}: {
  share: number;
  of: number;
  onShare: (share: number | null) => void;
}) {
  const within = (s: number) => Math.max(0.2, Math.min(0.85, s));
  return (
    <div
      role="separator"
      aria-orientation="vertical"
      aria-label="Between chart and words"
      // Before the pane has been measured there is no share of it.
      aria-valuenow={Math.round(within(Number.isFinite(share) ? share : 0.5) * 100)}
      tabIndex={-1}
      title="Drag to give chart or words more room; double click for what the chart needs"
      className="w-[5px] shrink-0 cursor-col-resize border-l border-rule hover:bg-wash"
      onDoubleClick={() => onShare(null)}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
        const left = e.currentTarget.parentElement!.getBoundingClientRect().left;
        onShare(within((e.clientX - left) / of));
      }}
    />
  );
}

/** The keys typed so far, or the answer to the last thing asked for. */
export function Said({
  typed,
  message,
}: {
  typed: string;
  message: { text: string; tone: 'said' | 'refused' } | null;
}) {
  if (!typed && !message) return null;
  return (
    <p
      role="status"
      data-testid="said"
      className={`absolute bottom-2 left-3 max-w-[70%] rounded-sm border bg-chalk px-2.5 py-1 text-[14px] shadow-sheet ${message?.tone === 'refused' && !typed ? 'border-madder text-madder' : 'border-slate/40'}`}
    >
      {typed ? <span className="font-mono font-semibold">{typed}</span> : message?.text}
    </p>
  );
}

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
      aria-valuemin={20}
      aria-valuemax={85}
      tabIndex={0}
      title="Drag, or use the arrow keys, to give chart or words more room; double click or Enter for what the chart needs"
      // The line is thin; what is taken hold of is not.
      className="group relative z-10 -mx-[11px] grid w-6 shrink-0 cursor-col-resize place-items-center outline-none"
      onKeyDown={(e) => {
        const by = { ArrowLeft: -0.02, ArrowRight: 0.02 }[e.key];
        if (by) onShare(within(share + by));
        else if (e.key === 'Home') onShare(within(0));
        else if (e.key === 'End') onShare(within(1));
        else if (e.key === 'Enter') onShare(null);
        else return;
        e.preventDefault();
      }}
      onDoubleClick={() => onShare(null)}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
        const left = e.currentTarget.parentElement!.getBoundingClientRect().left;
        onShare(within((e.clientX - left) / of));
      }}
    >
      <span
        aria-hidden
        className="h-full w-px bg-rule group-hover:w-1 group-hover:bg-slate/60 group-focus-visible:w-1 group-focus-visible:bg-woad"
      />
    </div>
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

import {
  constructionOf,
  passesOf,
  repeatColumns,
  repeatRows,
  repeatsAcross,
  timesOf,
  type Chart,
  type PlainSchool,
} from '@cordelina/core';
import {
  ClipboardPaste,
  Copy,
  FlipHorizontal2,
  Keyboard,
  MousePointer2,
  Redo2,
  Repeat,
  SquareDot,
  SquareMinus,
  Undo2,
  ZoomIn,
  ZoomOut,
} from 'lucide-react';
import { useAppSelector } from '../store/index.js';
import { onBench } from '../store/editing.js';
import { IconButton } from '../ui/Button.js';
import type { ChartCommands } from './useChartKeys.js';

/** What repeats, in a few words. */
export function repeatSummary(chart: Chart): string {
  const parts: string[] = [constructionOf(chart).worked];
  if (repeatsAcross(chart)) {
    const { start, end } = repeatColumns(chart);
    const edges = chart.width - (end - start);
    parts.push(`${end - start}${edges ? ` + ${edges}` : ''} columns, repeat × ${timesOf(chart)}`);
  }
  const rows = repeatRows(chart);
  if (rows) parts.push(`rows ${rows.first + 1}–${rows.last + 1} × ${passesOf(chart)}`);
  if (parts.length === 1) parts.push('no repeat set');
  return parts.join(' · ');
}

export function Toolbar({
  chart,
  commands,
  pointing,
  onPoint,
  onZoom,
  onSetup,
  onRopes,
  onHelp,
  plain,
  onPlain,
}: {
  chart: Chart;
  commands: ChartCommands;
  pointing: boolean;
  onPoint: () => void;
  onZoom: (by: number) => void;
  onSetup: () => void;
  onRopes: () => void;
  onHelp: () => void;
  plain: PlainSchool;
  onPlain: () => void;
}) {
  const canUndo = useAppSelector((s) => !!onBench(s)?.done.length);
  const canRedo = useAppSelector((s) => !!onBench(s)?.undone.length);
  const edge = 'h-8 rounded-sm px-2 text-[13px] whitespace-nowrap hover:bg-wash';
  return (
    <div
      role="toolbar"
      aria-label="Chart"
      className="flex h-10 shrink-0 items-center gap-0.5 border-b border-rule px-2"
    >
      <IconButton name="Undo" keys="Ctrl Z" disabled={!canUndo} onClick={commands.undo}>
        <Undo2 size={17} />
      </IconButton>
      <IconButton name="Redo" keys="Ctrl Y" disabled={!canRedo} onClick={commands.redo}>
        <Redo2 size={17} />
      </IconButton>
      <Divider />
      <IconButton name="Point and select" keys="Esc" pressed={pointing} onClick={onPoint}>
        <MousePointer2 size={17} />
      </IconButton>
      <IconButton name="Copy" keys="Ctrl C" onClick={commands.copy}>
        <Copy size={16} />
      </IconButton>
      <IconButton name="Paste" keys="Ctrl V" onClick={commands.paste}>
        <ClipboardPaste size={16} />
      </IconButton>
      <IconButton name="Mirror" keys="M" onClick={commands.mirror}>
        <FlipHorizontal2 size={17} />
      </IconButton>
      <Divider />
      <button type="button" className={edge} onClick={commands.insertRow} title="Insert a row above (Alt ↑)">
        + row
      </button>
      <button type="button" className={edge} onClick={commands.deleteRow} title="Delete the row (Alt ↓)">
        − row
      </button>
      <button
        type="button"
        className={edge}
        onClick={commands.insertColumn}
        title="Insert a column to the left (Alt ←)"
      >
        + column
      </button>
      <button
        type="button"
        className={edge}
        onClick={commands.deleteColumn}
        title="Delete the column (Alt →)"
      >
        − column
      </button>
      <Divider />
      <button
        type="button"
        className={`${edge} flex items-center gap-1.5`}
        onClick={onSetup}
        title="Repeat and construction"
      >
        <Repeat size={15} aria-hidden /> {repeatSummary(chart)}
      </button>
      <button type="button" className={edge} onClick={onRopes} title="Draw or convert a pair of closed ropes">
        closed ropes
      </button>
      <span className="ml-auto" />
      <IconButton
        name={
          plain === 'empty'
            ? 'Knit empty, purl a dot: change to bars'
            : 'Knit and purl as bars: change to empty and dot'
        }
        onClick={onPlain}
      >
        {plain === 'empty' ? <SquareDot size={17} /> : <SquareMinus size={17} />}
      </IconButton>
      <IconButton name="Smaller" keys="−" onClick={() => onZoom(-2)}>
        <ZoomOut size={17} />
      </IconButton>
      <IconButton name="Larger" keys="+" onClick={() => onZoom(2)}>
        <ZoomIn size={17} />
      </IconButton>
      <IconButton name="Keys" keys="?" onClick={onHelp}>
        <Keyboard size={17} />
      </IconButton>
    </div>
  );
}

const Divider = () => <span className="mx-1 h-5 w-px bg-rule" aria-hidden />;

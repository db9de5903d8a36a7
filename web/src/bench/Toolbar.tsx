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
import type { ReactNode } from 'react';
import type { Commands } from './commands.js';

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

const ICONS: Partial<Record<keyof Commands, ReactNode>> = {
  undo: <Undo2 size={17} />,
  redo: <Redo2 size={17} />,
  point: <MousePointer2 size={17} />,
  copy: <Copy size={16} />,
  paste: <ClipboardPaste size={16} />,
  mirror: <FlipHorizontal2 size={17} />,
  smaller: <ZoomOut size={17} />,
  larger: <ZoomIn size={17} />,
  help: <Keyboard size={17} />,
};

/** What the commands that change rows and columns are called on the toolbar. */
const WORDS: Partial<Record<keyof Commands, string>> = {
  insertRow: '+ row',
  deleteRow: '− row',
  insertColumn: '+ column',
  deleteColumn: '− column',
  ropes: 'closed ropes',
};

const edge = 'h-8 rounded-sm px-2 text-[13px] whitespace-nowrap hover:bg-wash';

export function Toolbar({
  chart,
  commands,
  pointing,
  plain,
}: {
  chart: Chart;
  commands: Commands;
  pointing: boolean;
  plain: PlainSchool;
}) {
  const canUndo = useAppSelector((s) => !!onBench(s)?.done.length);
  const canRedo = useAppSelector((s) => !!onBench(s)?.undone.length);
  const icon = (id: keyof Commands, more: { disabled?: boolean; pressed?: boolean } = {}) => {
    const { label, keys, run } = commands[id];
    return (
      <IconButton name={label} keys={keys[0]} onClick={run} {...more}>
        {ICONS[id]}
      </IconButton>
    );
  };
  const words = (id: keyof Commands) => {
    const { label, keys, run } = commands[id];
    return (
      <button type="button" className={edge} onClick={run} title={keys[0] ? `${label} (${keys[0]})` : label}>
        {WORDS[id]}
      </button>
    );
  };
  return (
    <div
      role="toolbar"
      aria-label="Chart"
      className="flex h-10 shrink-0 items-center gap-0.5 border-b border-rule px-2"
    >
      {icon('undo', { disabled: !canUndo })}
      {icon('redo', { disabled: !canRedo })}
      <Divider />
      {icon('point', { pressed: pointing })}
      {icon('copy')}
      {icon('paste')}
      {icon('mirror')}
      <Divider />
      {words('insertRow')}
      {words('deleteRow')}
      {words('insertColumn')}
      {words('deleteColumn')}
      <Divider />
      <button
        type="button"
        className={`${edge} flex items-center gap-1.5`}
        onClick={commands.setup.run}
        title={commands.setup.label}
      >
        <Repeat size={15} aria-hidden /> {repeatSummary(chart)}
      </button>
      {words('ropes')}
      <span className="ml-auto" />
      <IconButton
        name={
          plain === 'empty'
            ? 'Knit empty, purl a dot: change to bars'
            : 'Knit and purl as bars: change to empty and dot'
        }
        onClick={commands.plain.run}
      >
        {plain === 'empty' ? <SquareDot size={17} /> : <SquareMinus size={17} />}
      </IconButton>
      {icon('smaller')}
      {icon('larger')}
      {icon('help')}
    </div>
  );
}

const Divider = () => <span className="mx-1 h-5 w-px bg-rule" aria-hidden />;

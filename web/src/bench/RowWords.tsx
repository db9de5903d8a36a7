import {
  constructionOf,
  countsOf,
  dictionOf,
  mannerOf,
  rowFromWords,
  sideOf,
  withRow,
  wordsOfRow,
  type Chart,
  type Finding,
  type Settings,
  type Unfolded,
} from '@cordelina/core';
import { memo, useMemo, useRef, useState } from 'react';
import { bench } from '../store/bench.js';
import { edit } from '../store/editing.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { rowTop, visibleWindow, type Layout } from './geometry.js';

/** Below this height a row's words would not be legible; only those at the cursor are shown then. */
const LEGIBLE = 15;
const THIN_LINE = 18;
/** From this height on a row's words may take two lines. */
const TWO_LINES = 31;

/**
 * Each row's words and count, on the very line of the row, in one stop of the Tab key. A click goes to the row; a double click or F2 opens
 * the words for writing, and what is written becomes the row.
 */
export function RowWords({
  chart,
  view,
  settings,
  layout,
  findings,
  onWheel,
  onWritten,
}: {
  chart: Chart;
  view: Unfolded;
  settings: Settings;
  layout: Layout;
  findings: readonly Finding[];
  onWheel: (dy: number) => void;
  /** Called when a row has been written, or left as it was. */
  onWritten: () => void;
}) {
  const dispatch = useAppDispatch();
  const cursor = useAppSelector((s) => s.bench.cursor);
  const [writing, setWriting] = useState<number | null>(null);
  const acts = useMemo<LineActs>(
    () => ({
      go: (row) => dispatch(bench.wentTo(row)),
      open: setWriting,
      close: (row, words, written) => {
        setWriting(null);
        onWritten();
        if (written === null || written === words) return;
        dispatch(
          edit(`write row ${row + 1}`, (c) => withRow(c, row, rowFromWords(c, row, written, settings))),
        );
      },
    }),
    [dispatch, onWritten, settings],
  );
  const diction = dictionOf(chart, settings);
  const manner = mannerOf(settings.style);
  const window = visibleWindow(layout);
  const thin = layout.cell < LEGIBLE;
  const rows: number[] = [];
  if (window)
    for (let drawn = window.rows.from; drawn <= window.rows.to; drawn++) {
      const r = view.rowOf(drawn);
      if (!view.isCopy(drawn) && (!thin || Math.abs(r - cursor.row) <= 1)) rows.push(r);
    }
  const troubled = new Map<number, Finding['level']>();
  for (const f of findings) if (f.row && !troubled.has(f.row)) troubled.set(f.row, f.level);

  return (
    <div
      className="relative h-full overflow-hidden"
      aria-label="Words beside the rows"
      role="list"
      onWheel={(e) => onWheel(e.deltaY)}
    >
      {rows.map((r) => {
        const top = thin
          ? rowTop(layout, view.drawnRow(cursor.row)) +
            (layout.cell - THIN_LINE) / 2 -
            (r - cursor.row) * THIN_LINE
          : rowTop(layout, view.drawnRow(r));
        const { makes, takes } = countsOf(chart, r);
        return (
          <RowLine
            key={r}
            row={r}
            top={top}
            height={thin ? THIN_LINE : layout.cell}
            side={constructionOf(chart).hasEdges ? sideOf(chart, r) : ''}
            words={wordsOfRow(chart, r, diction, manner)}
            takes={takes}
            makes={makes}
            trouble={troubled.get(r + 1)}
            isHere={r === cursor.row}
            isWriting={writing === r}
            acts={acts}
          />
        );
      })}
    </div>
  );
}

/** What can be done with a row's words. */
interface LineActs {
  go: (row: number) => void;
  open: (row: number) => void;
  close: (row: number, words: string, written: string | null) => void;
}

/** One row's words and count. Most stay as they are while another row is worked. */
const RowLine = memo(function RowLine({
  row,
  top,
  height,
  side,
  words,
  takes,
  makes,
  trouble,
  isHere,
  isWriting,
  acts,
}: {
  row: number;
  top: number;
  height: number;
  side: string;
  words: string;
  takes: number;
  makes: number;
  trouble: Finding['level'] | undefined;
  isHere: boolean;
  isWriting: boolean;
  acts: LineActs;
}) {
  return (
    <div
      role="listitem"
      data-row={row + 1}
      style={{ top, height }}
      className={`absolute right-0 left-0 flex items-center gap-2 pr-2 pl-2 ${isHere ? 'z-10 bg-peat/5' : ''}`}
    >
      <span className="w-[52px] shrink-0 text-[12.5px] whitespace-nowrap text-slate">
        <span className="inline-block w-6 text-right text-peat">{row + 1}</span> {side}
      </span>
      {isWriting ? (
        <WordsInput initial={words} onDone={(text) => acts.close(row, words, text)} />
      ) : (
        <button
          type="button"
          title={`${words}\nDouble click to write this row.`}
          onClick={() => acts.go(row)}
          onDoubleClick={() => acts.open(row)}
          tabIndex={isHere ? 0 : -1}
          onKeyDown={(e) => {
            const by = e.key === 'ArrowUp' ? 1 : e.key === 'ArrowDown' ? -1 : 0;
            if (by) {
              e.preventDefault();
              acts.go(row + by);
              const list = e.currentTarget.closest('[role="list"]');
              list?.querySelector<HTMLElement>(`[data-row="${row + by + 1}"] button`)?.focus();
            } else if (e.key === 'F2' || e.key === 'Enter') {
              e.preventDefault();
              acts.open(row);
            }
          }}
          className="h-full min-w-0 flex-1 text-left font-mono text-[12.5px] leading-tight"
        >
          <span
            className={
              isHere
                ? 'line-clamp-6 rounded-sm bg-chalk px-1 py-0.5 shadow-sheet -ml-1'
                : height >= TWO_LINES
                  ? 'line-clamp-2'
                  : 'block truncate'
            }
          >
            {words}
          </span>
        </button>
      )}
      <Count takes={takes} makes={makes} trouble={trouble} />
    </div>
  );
});

/** The loops after the row, where they change with what they were, and whether the row comes out. */
function Count({
  takes,
  makes,
  trouble,
}: {
  takes: number;
  makes: number;
  trouble: Finding['level'] | undefined;
}) {
  const bad = trouble === 'error';
  return (
    <span
      className={`shrink-0 text-[12.5px] whitespace-nowrap ${bad ? 'font-semibold text-madder' : 'text-slate'}`}
    >
      {takes === makes ? makes : `${takes} → ${makes}`}
      <span
        className={`ml-1 inline-block w-3.5 text-center ${bad ? '' : trouble === 'caution' ? 'text-weld' : 'text-lichen'}`}
      >
        <span aria-hidden>{bad ? '✗' : trouble === 'caution' ? '!' : '✓'}</span>
        <span className="sr-only">
          {bad ? 'does not come out' : trouble === 'caution' ? 'has a caution' : 'comes out'}
        </span>
      </span>
    </span>
  );
}

function WordsInput({ initial, onDone }: { initial: string; onDone: (text: string | null) => void }) {
  const [text, setText] = useState(initial);
  const done = useRef(false);
  const finish = (value: string | null) => {
    if (done.current) return;
    done.current = true;
    onDone(value);
  };
  return (
    <input
      autoFocus
      aria-label="Words of the row"
      value={text}
      spellCheck={false}
      onChange={(e) => setText(e.target.value)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') finish(text);
        if (e.key === 'Escape') finish(null);
      }}
      onBlur={() => finish(text)}
      className="h-full min-w-0 flex-1 rounded-sm border border-woad bg-chalk px-1 font-mono text-[12.5px] outline-none"
    />
  );
}

import {
  type Band,
  wayOf,
  countsOf,
  isCrossed,
  dictionOf,
  mannerOf,
  sideOf,
  sideSign,
  wordsOfRow,
  type Chart,
  type Finding,
  type Settings,
  type Unfolded,
  unmeant,
  takesTurns,
} from '@cordelina/core';
import { lazy, memo, Suspense, useEffect, useMemo, useState, type CSSProperties } from 'react';
import { bench } from '../desk/state/bench.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { draftsByRow } from './row-drafts.js';
import { RowNote, useRowNotes } from './RowNotes.js';
import { lineTop, rowTop, visibleWindow, widthOfWords, WORDS, type Layout } from './geometry.js';

/** What reads words is fetched when some are written, or wait to be. */
const Writing = lazy(async () => ({ default: (await import('./RowWriting.js')).Writing }));
const Unfinished = lazy(async () => ({ default: (await import('./RowWriting.js')).Unfinished }));

/** Below this height a row's words would not be legible; only those at the cursor are shown then. */
const LEGIBLE = 15;
const THIN_LINE = 18;

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
  const design = useAppSelector((s) => s.bench.id);
  const all = useAppSelector((s) => s.drafts);
  const [writing, setWriting] = useState<number | null>(null);
  const diction = dictionOf(chart, settings);
  const manner = mannerOf(settings.style, chart);
  const wordsAt = (r: number) => wordsOfRow(chart, r, diction, manner);
  const unfinished = draftsByRow(all, design, chart, settings);
  // They hold while the chart changes: a row's line is drawn again only when it is another.
  const acts = useMemo<LineActs>(() => {
    const end = () => {
      setWriting(null);
      dispatch(bench.wrote(null));
      onWritten();
    };
    return {
      go: (row) => dispatch(bench.wentTo(row)),
      open: setWriting,
      close: end,
    };
  }, [dispatch, onWritten]);
  const window = visibleWindow(layout);
  const thin = layout.cell < LEGIBLE;
  const rows: number[] = [];
  if (window)
    for (let drawn = window.rows.from; drawn <= window.rows.to; drawn++) {
      const r = view.rowOf(drawn);
      if (!view.isCopy(drawn) && (!thin || Math.abs(r - cursor.row) <= 1)) rows.push(r);
    }
  const bands =
    thin || !window
      ? []
      : layout.lines.bands.filter(({ row }) => row >= window.rows.from && row <= window.rows.to + 1);
  const notes = useRowNotes(chart.id);
  const troubled = new Map<number, Finding['level']>();
  for (const f of unmeant(findings)) if (f.row && !troubled.has(f.row)) troubled.set(f.row, f.level);

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
            lines={thin ? 1 : layout.wordLines}
            side={takesTurns(wayOf(chart)) ? sideSign(sideOf(chart, r), chart) : ''}
            words={wordsAt(r)}
            draft={unfinished.get(r)?.text ?? null}
            takes={takes}
            makes={makes}
            trouble={troubled.get(r + 1)}
            noted={notes.get(r)}
            isHere={r === cursor.row}
            isWriting={writing === r}
            acts={acts}
          />
        );
      })}
      {bands.map(({ row: drawn, line, band }) => {
        const r = view.rowOf(drawn);
        return (
          !view.isCopy(drawn) && (
            <BandLine
              key={`band ${r}`}
              row={r}
              band={band}
              over={countsOf(chart, r).takes}
              top={lineTop(layout, line)}
              height={layout.cell}
              isWrong={unmeant(findings).some((f) => f.id.startsWith('band-') && f.row === r + 1)}
            />
          )
        );
      })}
    </div>
  );
}

/** The face of the words: every letter of it is as wide. Its size is that of `WORDS`. */
const WORDS_FACE = 'font-mono text-[12.5px]';

let measured = 0;
/** A letter of the face against its size. */
const LETTER = 0.6;

/** How wide a letter of the words is on this screen, in pixels: some round it to whole ones. */
function letterWidth(): number {
  if (measured) return measured;
  const many = 100;
  const probe = document.createElement('span');
  probe.className = `${WORDS_FACE} invisible absolute whitespace-pre`;
  probe.textContent = '0'.repeat(many);
  document.body.append(probe);
  const { width } = probe.getBoundingClientRect();
  probe.remove();
  // Before the face has come it is that of another.
  if (document.fonts.check(`${WORDS.font}px "Source Code Pro Variable"`)) measured = width / many;
  return width / many;
}

/** The same for what is laid out by it: measured once the face has come, and as it is drawn before. */
export function useLetterWidth(): number {
  const [width, setWidth] = useState(measured || WORDS.font * LETTER);
  useEffect(() => {
    let isOver = false;
    void document.fonts
      .load(`${WORDS.font}px "Source Code Pro Variable"`)
      .then(() => !isOver && setWidth(letterWidth()));
    return () => void (isOver = true);
  }, []);
  return width;
}

const MOST_LONG = 12;

/** The words of the rows that have the longest, the longest first. */
export function longestWords(chart: Chart, settings: Settings): string[] {
  const diction = dictionOf(chart, settings);
  const manner = mannerOf(settings.style, chart);
  return chart.rows
    .map((_, r) => wordsOfRow(chart, r, diction, manner))
    .sort((a, b) => b.length - a.length)
    .slice(0, MOST_LONG);
}

/** How wide the words of all rows must be to be read whole, in pixels. */
export const wordsWidth = (chart: Chart, settings: Settings): number =>
  widthOfWords(longestWords(chart, settings), 1, letterWidth());

/** A band on its own line: what it is, what it is worked over and whether it comes out; a click sets it. */
function BandLine({
  row,
  band,
  over,
  top,
  height,
  isWrong,
}: {
  row: number;
  band: Band;
  over: number;
  top: number;
  height: number;
  isWrong: boolean;
}) {
  const dispatch = useAppDispatch();
  return (
    <div
      role="listitem"
      data-band={row + 1}
      style={{ top, height }}
      className="absolute right-0 left-0 flex items-center gap-2 pr-2 pl-2"
    >
      <span className="w-[52px] shrink-0 text-right text-[12.5px] text-slate">band</span>
      <button
        type="button"
        title={`The band before round ${row + 1}: click to set it.`}
        onClick={() => {
          dispatch(bench.wentTo(row));
          dispatch(bench.banded(row));
        }}
        className="h-full min-w-0 flex-1 truncate text-left text-[13px] hover:underline"
      >
        {isCrossed(band)
          ? `${band.rounds} rounds of braid steps, crossing every ${band.every}`
          : 'one round of braid steps'}
      </button>
      <span
        className={`shrink-0 text-[12.5px] whitespace-nowrap ${isWrong ? 'font-semibold text-madder' : 'text-slate'}`}
      >
        {over} → {over + 1} → {over}
        <span className={`ml-1 inline-block w-3.5 text-center ${isWrong ? '' : 'text-lichen'}`}>
          <span aria-hidden>{isWrong ? '✗' : '✓'}</span>
          <span className="sr-only">{isWrong ? 'does not come out' : 'comes out'}</span>
        </span>
      </span>
    </div>
  );
}

/** What can be done with a row's words. */
interface LineActs {
  go: (row: number) => void;
  open: (row: number) => void;
  close: () => void;
}

/** One row's words and count. Most stay as they are while another row is worked. */
const RowLine = memo(function RowLine({
  row,
  top,
  height,
  lines,
  side,
  words,
  draft,
  takes,
  makes,
  trouble,
  noted,
  isHere,
  isWriting,
  acts,
}: {
  row: number;
  top: number;
  height: number;
  /** In how many lines the words may stand. */
  lines: number;
  side: string;
  words: string;
  /** Words that do not come out yet. */
  draft: string | null;
  takes: number;
  makes: number;
  trouble: Finding['level'] | undefined;
  /** What knitters noticed in it. */
  noted: string | undefined;
  isHere: boolean;
  isWriting: boolean;
  acts: LineActs;
}) {
  return (
    <div
      role="listitem"
      data-row={row + 1}
      style={{ top, height }}
      className={`absolute right-0 left-0 flex items-center gap-2 pr-2 pl-2 ${lines > 1 ? 'border-b border-rule' : ''} ${isWriting ? 'z-20' : isHere ? 'z-10 bg-peat/5' : ''}`}
    >
      <span className="w-[52px] shrink-0 text-[12.5px] whitespace-nowrap text-slate">
        <span className="inline-block w-6 text-right text-peat">{row + 1}</span> {side}
      </span>
      {isWriting ? (
        <Suspense fallback={<span className={`flex-1 ${WORDS_FACE}`}>{draft ?? words}</span>}>
          <Writing row={row} initial={draft ?? words} onEnd={acts.close} />
        </Suspense>
      ) : (
        <button
          type="button"
          title={`${draft ?? words}\nDouble click to ${draft === null ? 'write this row' : 'go on writing'}.`}
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
          className={`h-full min-h-0 min-w-0 flex-1 text-left leading-tight ${WORDS_FACE}`}
        >
          <span
            // The row in hand is read whole at the needle, and covers none of its neighbours.
            className={lines > 1 ? 'line-clamp-(--lines)' : 'block truncate'}
            style={
              lines > 1
                ? ({
                    '--lines': lines,
                    fontSize: WORDS.small,
                    lineHeight: `${WORDS.line}px`,
                  } as CSSProperties)
                : undefined
            }
          >
            {draft === null ? (
              words
            ) : (
              <span className="border-b-2 border-dashed border-madder text-madder">
                <span className="sr-only">unfinished: </span>
                <Suspense fallback={draft}>
                  <Unfinished row={row} text={draft} />
                </Suspense>
              </span>
            )}
          </span>
        </button>
      )}
      {noted !== undefined && <RowNote row={row} said={noted} />}
      {draft === null || isWriting ? (
        <Count takes={takes} makes={makes} trouble={trouble} />
      ) : (
        <span className="shrink-0 text-[12.5px] font-semibold whitespace-nowrap text-madder">unfinished</span>
      )}
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

import {
  bookOf,
  crossing,
  EditError,
  indexAt,
  isCrossing,
  placeStitches,
  rowFacts,
  stitchUse,
  type Chart,
  type Row,
  type Stitch,
} from '@cordelina/core';
import { FlipHorizontal } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Button } from '../ui/Button.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';

/** The edge that `ChartPicture` leaves for marks of rows. */
const EDGE = 6;
const MOST_OFFERED = 8;

/**
 * The chart that was read, to be corrected where it is not what was meant: a cell is pointed at or gone to by the
 * arrows, and what is set there is written into the words.
 */
export function CorrectChart({
  chart,
  cell,
  shown,
  isWaiting,
  onCorrect,
  children,
}: {
  chart: Chart;
  /** The size of its cells in the picture, and how many rows that shows. */
  cell: number;
  shown: number;
  isWaiting: boolean;
  /** Writes a row into the words; the answer says why it could not be done. */
  onCorrect: (r: number, row: Row) => Promise<string | null>;
  children: ReactNode;
}) {
  const [at, setAt] = useState<{ row: number; column: number } | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const book = bookOf(chart);
  const here = at && at.row < shown && at.column < chart.width ? at : null;
  const row = here && chart.rows[here.row]!;
  const i = here && row ? indexAt(row, here.column, book) : -1;
  const stitch = row && i >= 0 ? row[i]! : null;
  const offered = [
    ...new Set<Stitch>(['k', 'p', ...stitchUse(chart).map(({ stitch: s }) => s)].filter((s) => s !== 'none')),
  ].slice(0, MOST_OFFERED);
  const set = async (column: number, s: Stitch) => {
    if (!here) return;
    setRefused(null);
    try {
      const edit = placeStitches(chart, here.row, column, [s]);
      if (edit.steps.length) setRefused(await onCorrect(here.row, edit.chart.rows[here.row]!));
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      setRefused(error.message);
    }
  };
  const go = (rows: number, columns: number) => {
    const from = here ?? { row: 0, column: 0 };
    setAt({
      row: Math.max(0, Math.min(shown - 1, from.row + (here ? rows : 0))),
      column: Math.max(0, Math.min(chart.width - 1, from.column + (here ? columns : 0))),
    });
  };
  const KEYS: Record<string, () => void> = {
    ArrowUp: () => go(1, 0),
    ArrowDown: () => go(-1, 0),
    ArrowLeft: () => go(0, 1),
    ArrowRight: () => go(0, -1),
    k: () => void (here && set(here.column, 'k')),
    p: () => void (here && set(here.column, 'p')),
  };
  return (
    <div>
      <div
        role="application"
        tabIndex={0}
        aria-label={
          here
            ? `Row ${here.row + 1}, column ${here.column + 1}. K or P sets a stitch.`
            : 'The chart as it was read. Arrows go to a cell.'
        }
        className="relative w-fit cursor-cell outline-offset-2"
        onClick={(e) => {
          const box = e.currentTarget.getBoundingClientRect();
          const column = chart.width - 1 - Math.floor((e.clientX - box.left - EDGE) / cell);
          const r = shown - 1 - Math.floor((e.clientY - box.top) / cell);
          if (column >= 0 && column < chart.width && r >= 0 && r < shown) setAt({ row: r, column });
          setRefused(null);
        }}
        onKeyDown={(e) => {
          const run = e.ctrlKey || e.metaKey || e.altKey ? undefined : KEYS[e.key];
          if (!run) return;
          e.preventDefault();
          run();
        }}
      >
        {children}
        {here && (
          <span
            aria-hidden
            className="pointer-events-none absolute border-2 border-peat"
            style={{
              left: EDGE + (chart.width - 1 - here.column) * cell,
              top: (shown - 1 - here.row) * cell,
              width: cell + 1,
              height: cell + 1,
            }}
          />
        )}
      </div>
      <div className="mt-2 flex min-h-9 flex-wrap items-center gap-2 text-[13px]">
        {here ? (
          <>
            <span className="text-slate">
              Row {here.row + 1}, column {here.column + 1}:
            </span>
            {offered.map((s, n) => (
              <Button
                key={n}
                disabled={isWaiting}
                className="px-1.5"
                aria-label={isCrossing(s) ? `Set crossing ${n + 1}` : `Set ${book.kind(s)?.name ?? s}`}
                onClick={() => void set(here.column, s)}
              >
                <StitchDrawing stitch={s} chart={chart} plain="empty" height={18} most={60} />
              </Button>
            ))}
            {stitch && isCrossing(stitch) && (
              <Button
                disabled={isWaiting}
                onClick={() =>
                  void set(
                    rowFacts(row!, book).starts[i]!,
                    crossing(
                      stitch.lean === 'left' ? 'right' : 'left',
                      stitch.front,
                      stitch.back,
                      stitch.centre,
                    ),
                  )
                }
              >
                <FlipHorizontal size={15} aria-hidden /> Lean it the other way
              </Button>
            )}
          </>
        ) : (
          <span className="text-slate">
            Not what was meant? Point at a cell: what is set there is written into the words.
          </span>
        )}
      </div>
      <p role="status" className="text-[13px] text-madder empty:hidden">
        {refused}
      </p>
    </div>
  );
}

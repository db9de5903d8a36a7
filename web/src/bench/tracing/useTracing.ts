import {
  andThen,
  counted,
  insertColumns,
  insertRows,
  groundRow,
  tracedRow,
  tracingLayer,
  unchanged,
  type Chart,
  type Guess,
  type Layer,
} from '@cordelina/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { bench, selectionOf } from '../../desk/state/bench.js';
import { editOwn, ownChart } from '../../desk/state/editing.js';
import { habits } from '../../desk/state/habits.js';
import { store, useAppDispatch, useAppSelector } from '../../desk/state/index.js';
import { Stopped } from '../../workers/link.js';
import { forgetTracing, keepTracing, keptTracing } from './kept-tracings.js';
import { closePicture, guessRows, laySheet, type Sheet } from './reader.js';
import {
  doubts,
  guessedChart,
  guessedRow,
  pictured,
  takenOf,
  withShown,
  withTaken,
  type Tracing,
} from './tracing.js';

/** What is guessed is shown so many rows about the cursor: more is not on any screen. */
const SHOWN_ROWS = 60;

const NONE: ReadonlyMap<number, readonly Guess[]> = new Map();

/** What stands of the row at the cursor. */
export interface RowTold {
  /** As the chart counts it, from 1. */
  row: number;
  guessed: number;
  unsure: number;
  open: number;
  isTaken: boolean;
}

/** Tracing of a picture under the chart on the bench. */
export interface TracingHere {
  tracing: Tracing;
  /** Its ink, to be seen through the chart; null until it is there. */
  sheet: Sheet | null;
  /** The chart as it would be were the guesses right; null where there are none. */
  guessed: Chart | null;
  layer: Layer;
  here: RowTold | null;
  rowsTaken: number;
  problem: string | null;
}

/** What may be done with it. */
export interface TracingActs {
  /** Lays a picture under the chart, which is made larger where that is wished. */
  lay: (tracing: Omit<Tracing, 'design' | 'chart' | 'touched'>, grow: boolean) => void;
  change: (patch: Partial<Pick<Tracing, 'opacity' | 'isSeen'>>) => void;
  /** What the chart has where the selection is, or in the row at the cursor, is what the picture shows there. */
  show: () => void;
  /** The row at the cursor becomes what is guessed of it. */
  take: () => void;
  putAway: () => void;
}

/** The picture that is traced under a chart, what is guessed of it, and what may be done; nothing guessed is in the design before it is taken. */
export function useTracing(design: string, chart: Chart): { traced: TracingHere | null; acts: TracingActs } {
  const dispatch = useAppDispatch();
  const [tracing, setTracing] = useState<Tracing | null>(null);
  const [sheet, setSheet] = useState<{ of: Tracing['picture']; grid: string; sheet: Sheet } | null>(null);
  const [guesses, setGuesses] = useState(NONE);
  const [problem, setProblem] = useState<string | null>(null);
  const cursor = useAppSelector((s) => s.bench.cursor);
  const { id, own } = chart;

  const now = useRef(tracing);
  const become = useCallback((next: Tracing) => {
    const touched = { ...next, touched: Date.now() };
    now.current = touched;
    setTracing(touched);
    void keepTracing(touched).then((isKept) =>
      setProblem(isKept ? null : 'This browser does not keep the picture: it is gone when the page is left.'),
    );
  }, []);

  // What was traced under this chart before lies there again.
  useEffect(() => {
    let isOver = false;
    // Until that is known nothing lies here: what is done meanwhile is not done to the picture of another chart.
    now.current = null;
    void keptTracing(design, id).then((kept) => {
      if (isOver) return;
      now.current = kept;
      setTracing(kept);
      setGuesses(NONE);
    });
    return () => void (isOver = true);
  }, [design, id]);
  useEffect(() => closePicture, []);

  const isHere = tracing?.design === design && tracing.chart === id;
  const picture = isHere ? tracing.picture : null;
  const place = isHere ? JSON.stringify([tracing.corners, tracing.grid]) : '';
  useEffect(() => {
    const laid = now.current;
    if (!picture || !laid) return;
    let isOver = false;
    laySheet(picture, laid.corners, laid.grid).then(
      (got) => {
        if (isOver) return;
        if (got) setSheet({ of: picture, grid: place, sheet: got });
        else setProblem('The picture cannot be opened any more: put it away and lay it again.');
      },
      (error: unknown) => {
        if (isOver || error instanceof Stopped) return;
        console.error('A picture could not be laid.', error);
        setProblem('The picture could not be squared up: put it away and lay it again.');
      },
    );
    return () => void (isOver = true);
  }, [picture, place]);
  const laid = sheet && sheet.of === picture && sheet.grid === place ? sheet.sheet : null;

  const shown = isHere ? tracing.shown : null;
  useEffect(() => {
    const { current } = now;
    if (!laid || !shown || !current) return;
    let isOver = false;
    guessRows(shown, own, current.grid, setGuesses, () => isOver).catch((error: unknown) => {
      if (isOver || error instanceof Stopped) return;
      console.error('A picture could not be read.', error);
      setProblem(
        'The cells could not be guessed: set them by hand, or put the picture away and lay it again.',
      );
    });
    return () => void (isOver = true);
  }, [laid, shown, own]);

  const traced = useMemo<TracingHere | null>(() => {
    if (!isHere) return null;
    const near = Array.from({ length: tracing.grid.rows }, (_, r) => r).filter(
      (r) => Math.abs(r + tracing.at.row - cursor.row) <= SHOWN_ROWS && guesses.has(r),
    );
    const rows = near.map((r) => guessedRow(tracing, chart, guesses.get(r)!, r));
    const at = pictured(tracing, cursor.row);
    const own = at === null ? null : (guesses.get(at) ?? []);
    return {
      tracing,
      sheet: tracing.isSeen ? laid : null,
      guessed: rows.some((row) => row.guesses.some(({ stitch }) => stitch !== null))
        ? guessedChart(chart, rows)
        : null,
      // Before anything was shown nothing is asked.
      layer: tracingLayer(tracing.shown.length ? rows : []),
      here: own && {
        row: cursor.row + 1,
        guessed: own.filter(({ stitch }) => stitch !== null).length,
        ...doubts(own),
        isTaken: at !== null && takenOf(tracing, chart, at)?.open === 0,
      },
      rowsTaken: tracing.taken.filter(({ row }) => takenOf(tracing, chart, row)?.open === 0).length,
      problem,
    };
  }, [isHere, tracing, laid, guesses, chart, cursor.row, problem]);

  // What is done reads how things stand when it is done.
  const latest = useRef({ guesses });
  useEffect(() => {
    latest.current = { guesses };
  });
  const acts = useMemo<TracingActs>(() => {
    const say = (text: string, tone: 'said' | 'refused' = 'said') => dispatch(bench.said({ text, tone }));
    const nothing = () =>
      say('No picture lies under this chart: “Trace a picture of a chart” lays one.', 'refused');
    return {
      lay: (given, grow) => {
        const { at, grid } = given;
        const [columns, rows] = [at.column + grid.columns, at.row + grid.rows];
        if (
          grow &&
          !dispatch(
            editOwn('make the chart as large as the picture', (c) => {
              const wider = columns > c.width ? insertColumns(c, c.width, columns - c.width) : unchanged(c);
              return andThen(wider, (now) =>
                rows > now.rows.length
                  ? insertRows(
                      now,
                      now.rows.length,
                      Array.from({ length: rows - now.rows.length }, () => groundRow(now)),
                    )
                  : unchanged(now),
              );
            }),
          )
        )
          return;
        setGuesses(NONE);
        dispatch(habits.changed({ traces: true }));
        become({ ...given, design, chart: id, touched: 0 });
      },
      change: (patch) => {
        if (now.current) become({ ...now.current, ...patch });
      },
      show: () => {
        const chart = ownChart(store.getState());
        const { cursor, anchor } = store.getState().bench;
        if (!now.current || !chart) return void nothing();
        const isRow = anchor === null;
        const block = isRow
          ? { columns: { from: 0, to: chart.width - 1 }, rows: { from: cursor.row, to: cursor.row } }
          : selectionOf({ cursor, anchor });
        const { tracing: next, many } = withShown(now.current, chart, block);
        if (!many) return void say('The picture does not reach there.', 'refused');
        const at = pictured(next, cursor.row);
        const is = JSON.stringify(chart.rows[cursor.row]);
        become(isRow && at !== null ? withTaken(next, { row: at, was: is, now: is, open: 0 }) : next);
        say(
          isRow
            ? `Row ${cursor.row + 1} is right: the picture’s other rows are guessed by it.`
            : `${counted(many, 'stitch', 'stitches')} shown: the other cells of the picture are guessed by them.`,
        );
      },
      take: () => {
        const chart = ownChart(store.getState());
        const { row } = store.getState().bench.cursor;
        const { current } = now;
        if (!current || !chart) return void nothing();
        const at = pictured(current, row);
        const own = at === null ? undefined : latest.current.guesses.get(at);
        if (at === null || !own) return void say('The picture does not reach this row.', 'refused');
        if (!own.some(({ stitch }) => stitch !== null))
          return void say(
            'Nothing is guessed of this row yet: chart some of it, then show that it is right.',
            'refused',
          );
        const guesses = own.map((guess) => ({ ...guess, column: guess.column + current.at.column }));
        const was = JSON.stringify(chart.rows[row]);
        if (!dispatch(editOwn(`trace row ${row + 1}`, (c) => tracedRow(c, row, guesses)))) return;
        const { open, unsure } = doubts(own);
        const taken = JSON.stringify(ownChart(store.getState())!.rows[row]);
        become(withTaken(current, { row: at, was, now: taken, open }));
        if (open) {
          say(
            `Row ${row + 1}: ${counted(open, 'cell')} like nothing that was shown. Set ${open === 1 ? 'it' : 'them'} by hand, then show that the row is right.`,
          );
          return;
        }
        if (row + 1 < chart.rows.length) dispatch(bench.wentTo(row + 1));
        say(
          `Row ${row + 1} taken${unsure ? `, ${counted(unsure, 'stitch', 'stitches')} of it not sure: look at ${unsure === 1 ? 'it' : 'them'}` : ''}.`,
        );
      },
      putAway: () => {
        setTracing(null);
        now.current = null;
        setGuesses(NONE);
        closePicture();
        void forgetTracing(design, id);
      },
    };
  }, [dispatch, become, design, id]);
  return { traced, acts };
}

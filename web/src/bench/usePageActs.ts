import { bothCount, type Design } from '@cordelina/core';
import { useEffect, useMemo, useRef } from 'react';
import { bench, selectionOf } from '../desk/state/bench.js';
import { chartOnBench, editHead, onBench, ownChart } from '../desk/state/editing.js';
import { followsIn, habits, withFollowing } from '../desk/state/habits.js';
import { store, useAppDispatch } from '../desk/state/index.js';
import { copyPicture } from '../ui/copy.js';
import { saveFile } from '../ui/save-file.js';
import type { ChartActs } from './acts/index.js';
import type { BenchDialog } from './BenchDialogs.js';
import { isClothShown } from './ClothPanel.js';
import type { PageActs } from './commands.js';
import { followRope } from './follow.js';
import { MOST_CHART } from './geometry.js';
import { wordsWidth } from './RowWords.js';
import type { TracingActs } from './tracing/useTracing.js';

/** Dots to an inch of a chart that is saved as a picture, where it does not grow too large by them. */
const DOTS = 300;

/** However long the words, the chart keeps this share of the width. */
const LEAST_SHARE = 0.25;

interface Page {
  settings: Design['settings'];
  acts: ChartActs;
  tracing: Pick<TracingActs, 'show' | 'take'>;
  /** The edge with the stitches is folded. */
  isFolded: boolean;
  /** Width of chart and words together, in pixels. */
  sheet: number;
  onZoom: (by: number) => void;
  open: (dialog: BenchDialog) => void;
  openFindings: (open: boolean) => void;
}

/** What can be commanded of the page around the chart. */
export function usePageActs({
  settings,
  acts,
  tracing,
  isFolded,
  sheet,
  onZoom,
  open,
  openFindings,
}: Page): PageActs {
  const dispatch = useAppDispatch();
  const width = useRef(sheet);
  useEffect(() => {
    width.current = sheet;
  }, [sheet]);
  return useMemo<PageActs>(
    () => ({
      point: () => dispatch(bench.tookUp(null)),
      setup: () => {
        // What is set of a chart is told of its own side.
        dispatch(bench.turnedOver(false));
        open('setup');
      },
      turnOver: () => {
        const { bench: at } = store.getState();
        const chart = ownChart(store.getState());
        if (!chart || !bothCount(chart))
          return dispatch(
            bench.said({
              text: 'One side of this chart counts: set that both do under “Repeat and construction”.',
              tone: 'refused',
            }),
          );
        dispatch(bench.turnedOver(!at.isBehind));
        return dispatch(bench.said({ text: `Side ${at.isBehind ? 1 : 2}.`, tone: 'said' }));
      },
      ropes: () => open('ropes'),
      plain: () =>
        dispatch(
          editHead('plain cells', {
            settings: { ...settings, plain: settings.plain === 'empty' ? 'bars' : 'empty' },
          }),
        ),
      zoom: onZoom,
      seek: () => open('palette'),
      follows: () => {
        const { habits: now, bench: at } = store.getState();
        if (!at.id) return;
        const changed = withFollowing(now, at.id);
        dispatch(habits.changed(changed));
        dispatch(
          bench.said({
            text: followsIn(changed, at.id)
              ? 'Faces carry up in this design again.'
              : 'In this design faces no longer carry up: each cell stays as it is set.',
            tone: 'said',
          }),
        );
      },
      fold: () => dispatch(habits.changed({ folded: !isFolded })),
      widen: () => {
        const { share: now } = store.getState().habits;
        const chart = chartOnBench(store.getState())!;
        const wanted = 1 - wordsWidth(chart, settings) / width.current;
        const next = Math.max(LEAST_SHARE, Math.min(MOST_CHART, wanted));
        dispatch(habits.changed({ share: now !== null && Math.abs(now - next) < 0.01 ? null : next }));
      },
      skips: () => dispatch(habits.changed({ skips: !store.getState().habits.skips })),
      whole: () => dispatch(habits.changed({ whole: !store.getState().habits.whole })),
      roping: () => dispatch(bench.ropes(!store.getState().bench.roping)),
      motifs: () => open('motifs'),
      keepMotif: () => {
        if (acts.hasSelection()) open('keeping');
        else dispatch(bench.said({ text: 'Select what is to be kept as a motif first.', tone: 'refused' }));
      },
      tellApart: () => {
        const on = !store.getState().habits.apart;
        dispatch(habits.changed({ apart: on }));
        // What they do is told at the edge.
        if (on) openFindings(true);
      },
      cloth: () => dispatch(habits.changed({ cloth: !isClothShown(store.getState().habits.cloth) })),
      trace: () => {
        dispatch(bench.turnedOver(false));
        open('tracing');
      },
      traceShow: tracing.show,
      traceTake: tracing.take,
      print: () => window.print(),
      save: async (as) => {
        const state = store.getState();
        const design = onBench(state)?.document;
        const chart = chartOnBench(state);
        if (!design || !chart) return;
        const [{ svgOf, pngOf }, { chartDrawing }] = await Promise.all([
          import('../ui/picture-file.js'),
          import('../desk/files/chart-drawing.js'),
        ]);
        const within = acts.hasSelection() ? selectionOf(state.bench) : undefined;
        const asked = chartDrawing(design, chart, {
          part: within && { ...within, again: { right: 0, left: 0 } },
        });
        const title = `${design.title} ${chart.name} chart`;
        const tell = (text: string, tone: 'said' | 'refused' = 'said') =>
          dispatch(bench.said({ text, tone }));
        if (as === 'svg') {
          saveFile(svgOf(asked), title, 'svg');
          return tell('The chart is saved as a drawing.');
        }
        const made = await pngOf(asked, DOTS);
        if (!made)
          return tell('This browser cannot paint so large a picture: save it as a drawing.', 'refused');
        if (as === 'copied')
          return (await copyPicture(made.file))
            ? tell('The chart is copied as a picture.')
            : tell('This browser copies no pictures: save it as one.', 'refused');
        saveFile(made.file, title, 'png');
        return tell(`The chart is saved as a picture, ${made.dots} dots to an inch.`);
      },
      follow: (way) => dispatch(followRope(way)),
      mirrorLine: () => {
        const now = chartOnBench(store.getState())!;
        acts.symmetry(now.mirror ? null : { axis: now.width });
      },
    }),
    [acts, tracing, dispatch, isFolded, onZoom, open, openFindings, settings],
  );
}

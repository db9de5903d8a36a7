import { useMemo } from 'react';
import type { MenuLines } from '../ui/Menu.js';
import type { Command } from '../desk/commands/command.js';
import type { ChartActs } from './acts/index.js';

/** What can be commanded of the page around the chart. */
export interface PageActs {
  point: () => void;
  setup: () => void;
  ropes: () => void;
  plain: () => void;
  zoom: (by: number) => void;
  seek: () => void;
  follows: () => void;
  fold: () => void;
  widen: () => void;
  skips: () => void;
  whole: () => void;
  mirrorLine: () => void;
  roping: () => void;
  /** Ropes in colours of their own, and followed to the next crossing. */
  motifs: () => void;
  keepMotif: () => void;
  tellApart: () => void;
  turnOver: () => void;
  cloth: () => void;
  follow: (way: 1 | -1) => void;
  /** A picture of a chart is laid under this one, and what it shows is taken row by row. */
  trace: () => void;
  traceShow: () => void;
  traceTake: () => void;
  print: () => void;
  /** The chart, or what is selected, as a file. */
  save: (as: 'svg' | 'png' | 'copied') => unknown;
}

/** All commands of the bench. */
export function useCommands(chart: ChartActs, page: PageActs) {
  return useMemo(() => {
    const all = {
      undo: { label: 'Undo', keys: ['Ctrl Z'], group: 'Change the chart', run: chart.undo },
      redo: { label: 'Redo', keys: ['Ctrl Y', 'Ctrl Shift Z'], group: 'Change the chart', run: chart.redo },
      print: {
        label: 'Print this chart, or the selection',
        keys: ['Ctrl P'],
        group: 'Look at the chart',
        run: page.print,
      },
      trace: {
        label: 'Trace a picture of a chart …',
        note: 'a photo, scan or PDF page is laid under this chart',
        keys: [],
        group: 'Trace a picture',
        run: page.trace,
      },
      traceShow: {
        label: 'This is right: the picture shows it so',
        note: 'the row, or what is selected, is right: the rest of the picture is guessed by it',
        keys: ['Alt Y'],
        group: 'Trace a picture',
        run: page.traceShow,
      },
      traceTake: {
        label: 'Take the row that is guessed',
        keys: ['Alt T'],
        group: 'Trace a picture',
        run: page.traceTake,
      },
      drawing: {
        label: 'Save the chart as a drawing (SVG)',
        keys: [],
        group: 'Look at the chart',
        run: () => page.save('svg'),
      },
      picture: {
        label: 'Save the chart as a picture (PNG)',
        keys: [],
        group: 'Look at the chart',
        run: () => page.save('png'),
      },
      copyPicture: {
        label: 'Copy the chart as a picture',
        keys: [],
        group: 'Look at the chart',
        run: () => page.save('copied'),
      },
      point: {
        label: 'Point and select',
        note: 'let go: the keys typed, the selection, the stitch in hand',
        keys: ['Esc'],
        group: 'Work stitches',
        run: page.point,
      },
      clear: {
        label: 'Clear to ground',
        note: 'clear to ground; an increase or decrease goes with its columns',
        keys: ['Delete', 'Backspace'],
        group: 'Work stitches',
        run: chart.clear,
      },
      grab: {
        label: 'Take the stitch at the cursor in hand',
        keys: ['G'],
        group: 'Work stitches',
        run: chart.grab,
      },
      seek: { label: 'Seek any stitch by its word', keys: ['/'], group: 'Work stitches', run: page.seek },
      again: {
        label: 'Set the last row’s entry here',
        note: 'the last row’s entry again in this row; from the cursor, where it is not at the edge',
        keys: ['D'],
        group: 'Work stitches',
        run: chart.again,
      },
      againMirrored: {
        label: 'Set the last row’s entry here, mirrored',
        note: 'the same, mirrored',
        keys: ['Alt D'],
        group: 'Work stitches',
        run: chart.againMirrored,
      },
      follows: {
        label: 'Faces carry up',
        note: 'faces carry up, or cells are set alone',
        keys: ['F'],
        group: 'Work stitches',
        run: page.follows,
      },
      roping: {
        label: 'Draw a rope with the hand',
        note: 'draw a rope: drag it up and sideways on the chart',
        keys: ['W'],
        group: 'Work stitches',
        run: page.roping,
      },
      mirrorLine: {
        label: 'Mirror as you go',
        note: 'mirror as you go, about the middle of the chart; on or off',
        keys: ['A'],
        group: 'Work stitches',
        run: page.mirrorLine,
      },
      skips: {
        label: 'Go past wrong-side rows that only present',
        keys: [],
        group: 'Work stitches',
        run: page.skips,
      },
      selectAll: {
        label: 'Select everything',
        keys: ['Ctrl A'],
        group: 'Move and select',
        run: chart.selectAll,
      },
      copy: { label: 'Copy', keys: ['Ctrl C'], group: 'Change the chart', run: chart.copy },
      cut: { label: 'Cut', keys: ['Ctrl X'], group: 'Change the chart', run: chart.cut },
      paste: {
        label: 'Paste',
        note: 'paste at the cursor',
        keys: ['Ctrl V'],
        group: 'Change the chart',
        run: chart.paste,
      },
      flip: {
        label: 'Swap over and under',
        note: 'crossing at the cursor: swap over and under',
        keys: ['O'],
        group: 'Change the chart',
        run: chart.flip,
      },
      turn: {
        label: 'Turn the lean',
        note: 'crossing at the cursor: turn its lean',
        keys: ['L'],
        group: 'Change the chart',
        run: chart.turn,
      },
      mirror: {
        label: 'Mirror',
        note: 'mirror the selection, or the crossing at the cursor',
        keys: ['M'],
        group: 'Change the chart',
        run: chart.mirror,
      },
      slip: {
        label: 'Slip the rope below',
        note: 'slip its front stitches one row further down',
        keys: ['S'],
        group: 'Change the chart',
        run: chart.slip,
      },
      repeat: {
        label: 'Repeat the selected columns',
        note: 'the selected columns repeat; without a selection, type the repeat: 8 + 2',
        keys: ['R'],
        group: 'Change the chart',
        run: () => (chart.hasSelection() ? chart.repeatSelection() : page.setup()),
      },
      repeatUp: {
        label: 'Repeat the selected rows',
        keys: ['Alt R'],
        group: 'Change the chart',
        run: chart.repeatRows,
      },
      later: {
        label: 'Begin the row’s repeat a stitch later',
        note: 'the row’s repeat, or the round, begins a stitch later',
        keys: ['['],
        group: 'Change the chart',
        run: () => chart.jog(1),
      },
      earlier: {
        label: 'Begin the row’s repeat a stitch earlier',
        note: 'a stitch earlier',
        keys: [']'],
        group: 'Change the chart',
        run: () => chart.jog(-1),
      },
      straighten: {
        label: 'Begin the row where the others do',
        keys: [],
        group: 'Change the chart',
        run: chart.straighten,
      },
      insertRow: {
        label: 'Insert a row above',
        keys: ['Alt ↑'],
        group: 'Change the chart',
        run: chart.insertRow,
      },
      deleteRow: {
        label: 'Delete the row',
        keys: ['Alt ↓'],
        group: 'Change the chart',
        run: chart.deleteRow,
      },
      insertColumn: {
        label: 'Insert a column to the left',
        keys: ['Alt ←'],
        group: 'Change the chart',
        run: chart.insertColumn,
      },
      deleteColumn: {
        label: 'Delete the column',
        keys: ['Alt →'],
        group: 'Change the chart',
        run: chart.deleteColumn,
      },
      band: {
        label: 'Put a band below the row',
        note: 'a band of stitches that lie sideways below the row at the cursor, or what it is set to',
        keys: ['Q'],
        group: 'Change the chart',
        run: chart.band,
      },
      setup: { label: 'Repeat and construction', keys: [], group: 'Change the chart', run: page.setup },
      motifs: {
        label: 'Motif shelf',
        note: 'the motif shelf: traditional ropes to measure, and your own',
        keys: ['H'],
        group: 'Change the chart',
        run: page.motifs,
      },
      keepMotif: {
        label: 'Keep the selection as a motif',
        keys: [],
        group: 'Change the chart',
        run: page.keepMotif,
      },
      ropes: {
        label: 'Draw or convert a pair of closed ropes',
        keys: [],
        group: 'Change the chart',
        run: page.ropes,
      },
      fold: {
        label: 'Fold the stitches',
        note: 'the stitches folded to pictures, or open',
        keys: ['B'],
        group: 'See',
        run: page.fold,
      },
      widen: {
        label: 'Words of all rows whole',
        note: 'the words of all rows as wide as the longest, or as the chart leaves room',
        keys: ['E'],
        group: 'See',
        run: page.widen,
      },
      whole: {
        label: 'Show the whole width',
        note: 'the whole width and the next rows, or the repeat once',
        keys: ['N'],
        group: 'See',
        run: page.whole,
      },
      tellApart: {
        label: 'Tell the ropes apart',
        note: 'tell the ropes apart: colours, letters, what each does; on or off',
        keys: ['V'],
        group: 'See',
        run: page.tellApart,
      },
      turnOver: {
        label: 'Look at the other side',
        note: 'the other side of the chart, where both count; either is worked on',
        keys: ['J'],
        group: 'See',
        run: page.turnOver,
      },
      rib: {
        label: 'Rib the selection',
        note: 'k1, p1 over the selected columns; crossings in it move whole ribs',
        keys: [],
        group: 'Change the chart',
        run: chart.rib,
      },
      cloth: {
        label: 'Show the cloth',
        note: 'the cloth beside the chart, following each edit; on or off',
        keys: ['U'],
        group: 'See',
        run: page.cloth,
      },
      followUp: {
        label: 'Follow the rope up',
        note: 'follow the rope at the cursor to its next crossing',
        keys: ['Ctrl ↑'],
        group: 'Move and select',
        run: () => page.follow(1),
      },
      followDown: {
        label: 'Follow the rope down',
        note: 'and down',
        keys: ['Ctrl ↓'],
        group: 'Move and select',
        run: () => page.follow(-1),
      },
      larger: { label: 'Larger', keys: ['+', '='], group: 'See', run: () => page.zoom(2) },
      smaller: { label: 'Smaller', keys: ['−', '-'], group: 'See', run: () => page.zoom(-2) },
      plain: { label: 'Change how knit and purl are drawn', keys: [], group: 'See', run: page.plain },
    } as const satisfies Record<string, Omit<Command, 'id' | 'atStage'>>;
    type Id = keyof typeof all;
    const commands = {} as Record<Id, Command>;
    for (const id of Object.keys(all) as Id[]) commands[id] = { id, atStage: true, ...all[id] };
    return commands;
  }, [chart, page]);
}

export type Commands = ReturnType<typeof useCommands>;

/** What can be done at a place of the chart: the commands of the keys. */
export function placeLines(commands: Commands, holds: boolean): MenuLines {
  const line = (id: keyof Commands) => {
    const { label, keys, run } = commands[id];
    return { label, keys: keys[0], run };
  };
  return [
    [line('grab'), ...(holds ? [line('point')] : []), line('clear')],
    [line('copy'), line('cut'), line('paste'), line('keepMotif')],
    [line('mirror'), line('flip'), line('turn'), line('slip'), line('rib')],
    [line('insertRow'), line('deleteRow'), line('insertColumn'), line('deleteColumn'), line('band')],
    [line('repeat'), line('repeatUp'), line('later'), line('earlier'), line('straighten')],
  ];
}

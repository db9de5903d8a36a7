import {
  cellsWorked,
  clothWanted,
  liesBothWays,
  listOf,
  machineMends,
  MOST_CELLS,
  NotRepeatable,
  picturesOf,
  toldActions,
  toldList,
  type Chart,
  type Fix,
  type Method,
  type OperatorsList,
  type Pictured,
  type Stitch,
  type ToldList,
} from '@cordelina/core';
import { expose } from 'comlink';

/** A chart on two beds: its list, what of it is told once, the needles about each told action, and what would mend it. */
export interface Listed {
  list: OperatorsList;
  told: ToldList;
  pictures: (Pictured | null)[];
  mends: Fix[];
  bothWays: boolean;
  /** The cloth the beds are to make, rows from the bottom. */
  wanted: Stitch[][];
}

const machineWorker = {
  /** @throws Error with one sentence where the chart is too large, or cannot be cut at its repeat */
  list(chart: Chart, method: Method): Listed {
    if (cellsWorked(chart) > MOST_CELLS)
      throw new Error(`With all its repeats this chart has more than ${MOST_CELLS} cells: give it fewer.`);
    try {
      const list = listOf(chart, method);
      const told = toldList(list);
      return {
        list,
        told,
        pictures: picturesOf(list, toldActions(told)),
        mends: machineMends(chart, method),
        bothWays: liesBothWays(chart),
        wanted: list.problems.length ? [] : clothWanted(chart, method.lean),
      };
    } catch (error) {
      if (!(error instanceof NotRepeatable)) throw error;
      throw new Error(error.message, { cause: error });
    }
  },
};

export type MachineWorker = typeof machineWorker;
expose(machineWorker);

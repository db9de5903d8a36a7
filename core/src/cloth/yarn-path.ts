import { drawYarn, type Line, type YarnAs } from './draw-yarn.js';
import { finished } from '../in-turns.js';
import type { Fabric } from '../fabric/fabric.js';
import { keepOver } from './keep-over.js';
import { lieAgainst } from './lie-against.js';
import type { Positions } from '../fabric/springs.js';

/**
 * The way of the yarn through the fabric: for each loop the points its yarn passes, foot, head and foot again. Between
 * loops the yarn goes on: flat work is one line from its cast-on to its last loop, in the round each round is a line of
 * its own, and a cast-off chain is the last one. x goes right, y up, z towards the eye, as the right side looks.
 */
export interface YarnPaths {
  /** x, y and z of each point, in widths of a plain stitch. */
  readonly points: Float32Array;
  /** The loop each point belongs to: what makes none, as an edge or a chain, belongs to the loop it lies at. */
  readonly loop: Int32Array;
  /** Of a point at a loop's head the loop that is drawn through it (−1 for others), and of each loop its face: so a stitch is found as it is read. */
  readonly through: Int32Array;
  readonly face: Int8Array;
  /** Where each line of yarn begins among the points; the last entry is where the last one ends. */
  readonly lines: Int32Array;
  /** How far it is round, in the round; 0 in flat work. */
  readonly around: number;
  /** Of each loop whether it lies in yarn B; null where there is one yarn. */
  readonly second: Uint8Array | null;
}

/** The way of the yarn where the loops lie so, each lying against the others; `loosely` as each loop by itself has it, which is quick. */
export function yarnPaths(
  fabric: Fabric,
  lie: Positions,
  { loosely = false, ...as }: YarnAs & { loosely?: boolean } = {},
): YarnPaths {
  if (!loosely) return finished(pressing(fabric, lie, as));
  const { line, around } = drawYarn(fabric, lie, as);
  return pathsOf(fabric, line, around);
}

/** The same a little at a time, so that something else can be done between. */
export function* pressing(fabric: Fabric, lie: Positions, as: YarnAs = {}): Generator<void, YarnPaths> {
  const { line, around } = drawYarn(fabric, lie, as);
  yield* lieAgainst({ ...line, around });
  return pathsOf(fabric, line, around);
}

function pathsOf(fabric: Fabric, line: Line, around: number): YarnPaths {
  keepOver(fabric, line);
  return {
    points: line.points.slice(0, 3 * line.count),
    loop: line.loop.slice(0, line.count),
    through: line.through.slice(0, line.count),
    face: fabric.face,
    lines: Int32Array.from(line.lines),
    around,
    second: fabric.second,
  };
}

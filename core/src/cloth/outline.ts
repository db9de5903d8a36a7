import type { Fabric } from '../fabric/fabric.js';
import { pixelOf, radiusOf, type View } from './raster.js';
import type { Rgb, Yarn } from '../drawing/yarns.js';
import type { YarnPaths } from './yarn-path.js';

/** The points of the yarn that makes some loops, as lines: x and y in stitch widths. */
export function linesOfLoops(paths: YarnPaths, loops: ReadonlySet<number>): [number, number][][] {
  const { points, loop, lines } = paths;
  const found: [number, number][][] = [];
  for (let l = 0; l + 1 < lines.length; l++) {
    let line: [number, number][] = [];
    for (let i = lines[l]!; i < lines[l + 1]!; i++) {
      if (loops.has(loop[i]!)) line.push([points[3 * i]!, points[3 * i + 1]!]);
      else if (line.length) {
        found.push(line);
        line = [];
      }
    }
    if (line.length) found.push(line);
  }
  return found;
}

/** So many loops are drawn as lines at most: more make a file that few programs open. */
export const MOST_IN_LINES = 6000;

/** Yarn passes from one depth to another in steps of this, in stitch widths: each is a line of its own. */
const BAND = 0.09;

interface Stretch {
  depth: number;
  path: string;
  loop: number;
  /** Whether it lies in yarn B. */
  isSecond: boolean;
}

/** Which row made each loop (from 0; −1 for the cast-on), and the column it stands in. */
export type PlacesOfLoops = Pick<Fabric, 'row' | 'column'>;

/** Stretches by the row of their loops, and within it by column. */
function byStitch(
  list: readonly Stretch[],
  { row, column }: PlacesOfLoops,
): Map<number, Map<number, string>> {
  const rows = new Map<number, Map<number, string>>();
  for (const { loop, path } of list) {
    const at = rows.get(row[loop]!) ?? new Map<number, string>();
    rows.set(row[loop]!, at.set(column[loop]!, (at.get(column[loop]!) ?? '') + path));
  }
  return new Map([...rows].sort(([a], [b]) => a - b));
}

const hex = (c: Rgb, k: number): string =>
  `#${c
    .map((v) =>
      Math.round(Math.max(0, Math.min(255, v * k)))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

/**
 * The cloth as lines: each stretch of yarn with a dark edge, those behind first, so that what lies over hides what lies
 * under it. For print and for other programs; shade is told by depth alone. What lies at one depth is a group, in it each row, in
 * that each stitch: a row is found by `data-row`, counted from 1, in every depth it lies at.
 */
export function clothSvg(paths: YarnPaths, view: View, yarn: Yarn, places: PlacesOfLoops): string {
  const { points, lines, loop, second } = paths;
  const turn = view.side === 'RS' ? 1 : -1;
  const stretches: Stretch[] = [];
  const [w, h] = [view.width, view.height];
  const round = (n: number) => Math.round(n * 100) / 100;
  for (let l = 0; l + 1 < lines.length; l++) {
    const [from, to] = [lines[l]!, lines[l + 1]!];
    const at = (i: number) => {
      const k = Math.max(from, Math.min(to - 1, i));
      const { x, y } = pixelOf(view, points[3 * k]!, points[3 * k + 1]!);
      return { x, y, z: turn * points[3 * k + 2]! };
    };
    for (let i = from; i + 1 < to; i++) {
      const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
      if (
        Math.max(b.x, c.x) < 0 ||
        Math.min(b.x, c.x) > w ||
        Math.max(b.y, c.y) < 0 ||
        Math.min(b.y, c.y) > h
      )
        continue;
      // Catmull and Rom's curve as Bézier's.
      const path = `M${round(b.x)} ${round(b.y)}C${round(b.x + (c.x - a.x) / 6)} ${round(b.y + (c.y - a.y) / 6)} ${round(c.x - (d.x - b.x) / 6)} ${round(c.y - (d.y - b.y) / 6)} ${round(c.x)} ${round(c.y)}`;
      stretches.push({
        depth: Math.round((b.z + c.z) / 2 / BAND) * BAND,
        path,
        loop: loop[i + 1]!,
        isSecond: second?.[loop[i + 1]!] === 1,
      });
    }
  }
  stretches.sort((p, q) => p.depth - q.depth);
  const [deep, high] = [stretches[0]?.depth ?? 0, stretches.at(-1)?.depth ?? 1];
  const thick = 2 * radiusOf(view);
  const layers = new Map<string, { depth: number; isSecond: boolean; list: Stretch[] }>();
  for (const stretch of stretches) {
    const { depth, isSecond } = stretch;
    const key = `${depth} ${isSecond}`;
    const layer = layers.get(key) ?? { depth, isSecond, list: [] };
    layer.list.push(stretch);
    layers.set(key, layer);
  }
  const body = [...layers.values()].map(({ depth, isSecond, list }, lying) => {
    const { colour } = isSecond && yarn.second ? yarn.second : yarn;
    const light = 0.55 + (0.45 * (depth - deep)) / (high - deep || 1);
    const rows = byStitch(list, places);
    const drawn = (what: string, stroke: string, width: number): string => {
      const inside = [...rows].map(([row, stitches]) => {
        const name = row < 0 ? 'cast-on' : `row-${row + 1}`;
        const each = [...stitches].map(
          ([column, d]) => `<path id="${what}-${lying + 1}-${name}-stitch-${column + 1}" d="${d}"/>`,
        );
        return `<g id="${what}-${lying + 1}-${name}" data-row="${row + 1}">${each.join('')}</g>`;
      });
      return `<g stroke="${stroke}" stroke-width="${round(width)}">${inside.join('')}</g>`;
    };
    return `<g id="lying-${lying + 1}">${
      drawn('edge', hex(colour, 0.3), thick) +
      drawn('yarn', hex(colour, light), thick * 0.82) +
      drawn('light', hex(colour, Math.min(1.12, light + 0.16)), thick * 0.34)
    }</g>`;
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${w} ${h}" width="${w}" height="${h}" fill="none" stroke-linecap="round">${body.join('')}</svg>`;
}

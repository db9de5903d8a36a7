import {
  checkChart,
  ChartSchema,
  simpleCrossing,
  startChart,
  type Chart,
  type Finding,
  type Stitch,
} from '../src/index.js';

/** Panels of ropes for the tests of what is found in them. */

export const [L, R] = [simpleCrossing('left', 2, 2), simpleCrossing('right', 2, 2)];
export const k = (n: number) => Array<Stitch>(n).fill('k');
export const p = (n: number) => Array<Stitch>(n).fill('p');
export const chart = (rows: Stitch[][], over: Record<string, unknown> = {}): Chart => {
  const width = rows[0]!.reduce<number>(
    (sum, s) => sum + (typeof s === 'string' ? 1 : s.front.length + s.centre.length + s.back.length),
    0,
  );
  return ChartSchema.parse({ width, rows, ...over });
};

/** Panels between purls, each crossing once in so many rows, where the letters say; at '.' a panel rests. */
/** A cloth of purl ground, flat. */
export const cloth = (columns: number, rows: number): Chart =>
  startChart({ columns, rows, construction: 'flat', ground: 'p' });
export const panels = (gap: number, ...leans: string[]): Stitch[][] =>
  [...leans[0]!].flatMap((_, i) => {
    const cross = leans.flatMap((lean) => [
      ...p(2),
      ...(lean[i] === 'L' ? [L] : lean[i] === 'R' ? [R] : k(4)),
    ]);
    const plain = leans.flatMap(() => [...p(2), ...k(4)]);
    return [plain, plain, [...cross], ...Array<Stitch[]>(gap - 3).fill(plain)].map((r) => [...r, ...p(2)]);
  });
export const put = (rows: Stitch[][], r: number, row: Stitch[]) => rows.with(r, row);

export const found = (c: Chart, id: string): Finding[] => checkChart(c).filter((f) => f.id === id);
export const places = (c: Chart, id: string) =>
  found(c, id).map((f) => `${f.row}:${f.columns?.join('-') ?? ''}`);

export const twist = (leans: string) => chart(panels(4, leans));
export const plain8 = [...p(2), ...k(4), ...p(2)];

/** Two ropes beside each other, with so many purls between them. */
export function narrow(purls: number): Chart {
  const row = (a: Stitch[], b: Stitch[]) => [...p(2), ...a, ...p(purls), ...b, ...p(2)];
  return chart([0, 1].flatMap(() => [row(k(4), k(4)), row(k(4), k(4)), row([L], [R]), row(k(4), k(4))]));
}

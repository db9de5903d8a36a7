import fc from 'fast-check';
import {
  castOnOf,
  ChartSchema,
  copyBlock,
  crossing,
  deleteColumns,
  deleteRows,
  EditError,
  groundRow,
  hasSetting,
  inRib,
  isCrossing,
  insertColumns,
  insertRows,
  mirrorBlock,
  placeStitches,
  setAcross,
  setBand,
  setJog,
  setUp,
  spanOf,
  startOf,
  stitchBook,
  unchanged,
  allWays,
  wayOf,
  type WayId,
  type Chart,
  type Crossing,
  type Edit,
  type Stitch,
  type Worked,
} from '../src/index.js';
import { pasteRows } from '../src/chart/edits.js';
import { type Style } from '../src/chart/schema.js';
import './inside-out.js';

/** `npm run soak` tries so many times as much as `npm test`, which must not take long. */
const { process } = globalThis as { process?: { env: Record<string, string | undefined> } };
export const THOROUGH = Number(process?.env.CORDELINA_THOROUGH ?? 1);

/**
 * What is sampled in a run is sampled from this number, which the run tells: with `CORDELINA_SEED` it is sampled again. A test that
 * takes samples of its own takes them by `sampleOf`.
 */
export const SEED = Number(process?.env.CORDELINA_SEED ?? Math.floor(Math.random() * 2 ** 31));
fc.configureGlobal({ seed: SEED });
(globalThis as unknown as { console: { log: (text: string) => void } }).console.log(
  `Samples of CORDELINA_SEED=${SEED}`,
);

/** A number below another, the same for the same seed and the same use. */
export function sampleOf(most: number, use: string): number {
  let state = SEED;
  for (const c of use) state = Math.imul(state ^ c.charCodeAt(0), 0x9e3779b1) >>> 0;
  return state % Math.max(1, Math.floor(most));
}

/** Charts for property tests: every row fills its sections, so that only what a test changes can be wrong. */

const worked = fc.constantFrom<Worked>('k', 'p', 'ktbl', 'ptbl');
const lean = fc.constantFrom<'left' | 'right'>('left', 'right');

export const anyCrossing = (most = 4): fc.Arbitrary<Crossing> =>
  fc
    .tuple(
      lean,
      fc.array(worked, { minLength: 1, maxLength: most }),
      fc.array(worked, { minLength: 1, maxLength: most }),
      fc.array(worked, { maxLength: 2 }),
    )
    .chain(([l, front, back, centre]) => {
      const made = crossing(l, front, back, centre);
      return fc.constantFrom(made, made, made, inRib(made));
    });

const plain = fc.constantFrom<Stitch>('k', 'k', 'k', 'p', 'p', 'ktbl', 'slyb', 'mb');
const stitch = fc.oneof({ weight: 4, arbitrary: plain }, { weight: 1, arbitrary: anyCrossing() });

/** Exactly `width` columns of stitches: what does not fit any more is left out for a knit stitch. */
const run = (width: number): fc.Arbitrary<Stitch[]> =>
  fc.array(stitch, { minLength: width, maxLength: width }).map((stitches) => {
    const out: Stitch[] = [];
    let left = width;
    for (const s of stitches) {
      if (!left) break;
      const span = spanOf(s, stitchBook());
      out.push(span <= left ? s : 'k');
      left -= span <= left ? span : 1;
    }
    return out;
  });

const sizes = fc.record({
  before: fc.integer({ min: 0, max: 5 }),
  repeat: fc.integer({ min: 1, max: 12 }),
  after: fc.integer({ min: 0, max: 5 }),
  height: fc.integer({ min: 1, max: 7 }),
  times: fc.integer({ min: 1, max: 4 }),
});

/** Shifts a row may have: flat, of its repeat's lines; in the round, of the place where it begins. */
function shiftsOf(
  construction: Chart['construction'],
  repeats: boolean,
  { before, repeat, after }: { before: number; repeat: number; after: number },
): { min: number; max: number } {
  const within = (n: number) => Math.min(n, repeat - 1);
  if (wayOf({ construction }).shifts === 'repeat')
    return repeats ? { min: -within(before), max: within(after) } : { min: 0, max: 0 };
  const half = (n: number) => Math.min(n, Math.floor((repeat - 1) / 2));
  if (repeats && before + after > 0) return { min: -half(after), max: half(before) };
  const whole = repeats ? repeat : before + repeat + after;
  return { min: -Math.floor((whole - 1) / 2), max: Math.floor(whole / 2) };
}

/** Any way of working there is, and the one that only the tests have. */
export const anyWay = (): fc.Arbitrary<WayId> => fc.constantFrom(...allWays().map(({ id }) => id as WayId));

/** One whose cells are single loops, on which any stitch can be worked. */
export const anySingleWay = (): fc.Arbitrary<WayId> =>
  fc.constantFrom(...allWays().flatMap(({ id, loops }) => (loops === 1 ? [id as WayId] : [])));

/** A stitch as pairs of loops can be worked. */
const onPairs = (stitch: Stitch): Stitch => {
  const plainly = (worked: Worked): Worked => (worked.startsWith('k') ? 'k' : 'p');
  if (isCrossing(stitch))
    return crossing(
      stitch.lean,
      stitch.front.map(plainly),
      stitch.back.map(plainly),
      stitch.centre.map(plainly),
    );
  return stitch === 'p' ? 'p' : 'k';
};

export const anyChart = (): fc.Arbitrary<Chart> =>
  fc
    .record({
      size: sizes,
      construction: anyWay(),
      firstRow: fc.constantFrom('RS', 'WS'),
      repeats: fc.boolean(),
      jogged: fc.boolean(),
      bothFaces: fc.boolean(),
    })
    .chain(({ size, construction, firstRow, repeats, jogged, bothFaces }) => {
      const { before, repeat, after, height, times } = size;
      const shifts = jogged ? shiftsOf(construction, repeats, size) : { min: 0, max: 0 };
      const row = fc
        .oneof({ weight: 2, arbitrary: fc.constant(0) }, { weight: 1, arbitrary: fc.integer(shifts) })
        .chain((jog) => {
          const step = !repeats
            ? 0
            : wayOf({ construction }).shifts === 'repeat'
              ? jog
              : before + after > 0
                ? -jog
                : 0;
          return fc.record({
            jog: fc.constant(jog),
            parts: fc.tuple(run(before + step), run(repeat), run(after - step)),
          });
        });
      const banded = fc.array(fc.nat({ max: 60 }), { minLength: height, maxLength: height });
      return fc
        .tuple(fc.array(row, { minLength: height, maxLength: height }), banded)
        .map(([rows, seeds]) => {
          const chart = ChartSchema.parse({
            width: before + repeat + after,
            construction,
            firstRow,
            bothFaces: bothFaces && hasSetting(construction, 'bothFaces'),
            rows: rows.map(({ parts }) => {
              const row = parts.flat();
              return wayOf({ construction }).loops === 2 ? row.map(onPairs) : row;
            }),
            across: repeats ? { before, after, times, least: 1 } : null,
            jogs: Object.fromEntries(rows.flatMap(({ jog }, r) => (jog ? [[String(r), jog]] : []))),
          });
          return { ...chart, bands: bandsFor(chart, seeds) };
        });
    });

/** Any chart without bands: such may stand in a piece, and has the rows of its fabric. */
export const anyUnbanded = (): fc.Arbitrary<Chart> => anyChart().map((chart) => ({ ...chart, bands: {} }));

/** Bands that a chart can have, before few of its rows: by a number for each row, none where it is large. */
function bandsFor(chart: Chart, seeds: readonly number[]): Chart['bands'] {
  if (!wayOf(chart).takesBands) return {};
  return Object.fromEntries(
    seeds.flatMap((seed, r) => {
      const rounds = 1 + (seed % 3);
      const [first] = chart.rows[r]!;
      const isLevel = startOf(chart, r) === (r ? startOf(chart, r - 1) : 0);
      const over = castOnOf(chart);
      const every = Array.from({ length: over }, (_, k) => k + 2).filter((k) => (over + 1) % k === 0);
      if (seed > 12 || !isLevel || (first !== 'k' && first !== 'p')) return [];
      // Of one round nothing says how often it would cross.
      return [[String(r), { rounds, every: rounds > 1 ? every[seed % every.length]! : 5 }]];
    }),
  );
}

const unit = fc.double({ min: 0, max: 0.999, noNaN: true });
const place = (n: number, most: number) => Math.min(Math.floor(n * most), most - 1);

/** Any edit that keeps every row's loops equal to its columns, at any place; a refused one does nothing. */
export const anyEdit: fc.Arbitrary<(c: Chart) => Edit> = fc
  .tuple(
    unit,
    unit,
    fc.oneof(anyCrossing(), fc.constantFrom<Stitch>('k', 'p', 'ktbl', 'mb')),
    fc.integer({ min: 0, max: 12 }),
  )
  .map(([x, y, stitch, kind]) => (c: Chart) => {
    const [column, row] = [place(x, c.width), place(y, c.rows.length)];
    const block = { columns: { from: 0, to: column }, rows: { from: row, to: c.rows.length - 1 } };
    try {
      switch (kind) {
        case 0:
          return insertRows(c, row, [groundRow(c)]);
        case 1:
          return deleteRows(c, row, 1);
        case 2:
          return insertColumns(c, column, 2);
        case 3:
          return deleteColumns(c, column, 1);
        case 4:
          return mirrorBlock(c, block);
        case 5:
          return pasteRows(c, row, column, copyBlock(c, block));
        case 6:
          return setAcross(c, { before: column, after: 0, times: 2 + row, least: 1 });
        case 7:
          return setUp(c, { setup: row, closing: 0, times: 1 + column });
        case 8:
          return setUp(c, { setup: 0, closing: 0, times: 2, end: 1 + row });
        case 9:
          return setJog(c, row, (column % 7) - 3);
        case 10:
          return setBand(c, row, column % 3 ? { every: 2 + (column % 5), rounds: 1 + (row % 3) } : null);
        default:
          return placeStitches(c, row, column, [stitch]);
      }
    } catch (error) {
      if (error instanceof EditError) return unchanged(c);
      throw error;
    }
  });

/** Any manner of writing. */
export const anyStyle = (): fc.Arbitrary<Style> =>
  fc.record({
    wsRows: fc.constantFrom('written' as const, 'presented' as const),
    counts: fc.constantFrom('every' as const, 'changes' as const),
    spelled: fc.constantFrom('key' as const, 'first' as const),
    equal: fc.constantFrom('joined' as const, 'apart' as const),
    form: fc.constantFrom('short' as const, 'full' as const),
    terms: fc.constantFrom('US' as const, 'UK' as const),
    length: fc.constantFrom('counted' as const, 'counted' as const, 'open' as const),
    pairNames: fc.constantFrom('pairs' as const, 'loops' as const),
  });

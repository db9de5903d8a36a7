import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  checkChart,
  checkNames,
  crossingSize,
  EditError,
  expandPiece,
  isCrossing,
  layoutRows,
  readPattern,
  SCHOOLS,
  setUp,
  SettingsSchema,
  stitchBook,
  takesOf,
  workedAfter,
  crossingOrder,
  writeAndProve,
  type Chart,
  type Hand,
  sideOf,
  type School,
  type Side,
  type Stitch,
} from '../src/index.js';
import { anyChart, anyCrossing, anyStyle, anyWay, THOROUGH } from './arbitrary.js';
import { knitPrinted, showsKnit, type KnittedRow } from './simulator.js';

/** What a chart's stitch must come out as, in the words of the craft and not of the program. */
interface Meant {
  takes: number;
  /** Faces from the right: k smooth, p not. */
  faces: string;
  /** Of a decrease: which of the loops taken lies on top on its smooth side, from the right. */
  top?: number;
  madeOf?: string | RegExp;
  twisted?: boolean;
}

const K = { takes: 1, faces: 'k' };
const P = { takes: 1, faces: 'p' };
const MEANT: Record<string, Meant> = {
  k: K,
  p: P,
  ktbl: { ...K, twisted: true },
  ptbl: { ...P, twisted: true },
  mb: { ...K, madeOf: 'bobble' },
  yo: { takes: 0, faces: 'k', madeOf: 'yarn' },
  m1l: { takes: 0, faces: 'k', madeOf: 'bar, leaning left' },
  m1r: { takes: 0, faces: 'k', madeOf: 'bar, leaning right' },
  m1lp: { takes: 0, faces: 'p', madeOf: 'bar, leaning left' },
  m1rp: { takes: 0, faces: 'p', madeOf: 'bar, leaning right' },
  lli: { takes: 0, faces: 'k', madeOf: 'lifted right' },
  rli: { takes: 0, faces: 'k', madeOf: 'lifted left' },
  kfb: { takes: 1, faces: 'kp' },
  kfbr: { takes: 1, faces: 'pk' },
  kyok: { takes: 1, faces: 'kkk' },
  kyokyok: { takes: 1, faces: 'kkkkk' },
  k2tog: { takes: 2, faces: 'k', top: 1 },
  ssk: { takes: 2, faces: 'k', top: 0 },
  // The smooth side of a purled decrease is the wrong side: it leans there as its name says.
  p2tog: { takes: 2, faces: 'p', top: 0 },
  ssp: { takes: 2, faces: 'p', top: 1 },
  k3tog: { takes: 3, faces: 'k', top: 2 },
  sssk: { takes: 3, faces: 'k', top: 0 },
  p3tog: { takes: 3, faces: 'p', top: 0 },
  sssp: { takes: 3, faces: 'p', top: 2 },
  cdd: { takes: 3, faces: 'k', top: 1 },
  cddp: { takes: 3, faces: 'p', top: 1 },
  k5tog: { takes: 5, faces: 'k', top: 2 },
  p5tog: { takes: 5, faces: 'p', top: 2 },
};

/** Holds one knitted row against the stitches the chart says for it. */
function expectRow(
  { row, side, loops, below }: KnittedRow,
  stitches: readonly Stitch[],
  fromLeft: boolean,
): void {
  let at = 0;
  let taken = 0;
  const next = () => loops[at++]!;
  const where = (s: Stitch) => `row ${row}, ${typeof s === 'string' ? s : 'crossing'} at loop ${taken + 1}`;
  for (const s of stitches) {
    if (isCrossing(s)) {
      const n = crossingSize(s);
      const made = Array.from({ length: n }, next);
      expect(
        made.map((l) => below.indexOf(l.through[0]!) - taken),
        where(s),
      ).to.deep.equal(crossingOrder(s));
      expect(
        made.map((l) => (showsKnit(l, side) ? 'k' : 'p') + (l.twisted ? 'tbl' : '')),
        where(s),
      ).to.deep.equal(workedAfter(s));
      // Depth as the right side looks: front over centre and back, and the centre under both.
      const depths = made.map((l) => (side === 'RS' ? l.depth : -l.depth));
      const [b, c, f] = [s.back.length, s.centre.length, s.front.length];
      const groups =
        s.lean === 'left'
          ? { back: depths.slice(0, b), centre: depths.slice(b, b + c), front: depths.slice(b + c) }
          : { front: depths.slice(0, f), centre: depths.slice(f, f + c), back: depths.slice(f + c) };
      expect(Math.min(...groups.front), where(s)).to.be.greaterThan(
        Math.max(...groups.back, ...groups.centre),
      );
      if (c) expect(Math.max(...groups.centre), where(s)).to.be.lessThan(Math.min(...groups.back));
      taken += n;
      continue;
    }
    if (s === 'slyb' || s === 'slyf') {
      const loop = next();
      const float = (s === 'slyb') === (side === 'RS') ? 'back' : 'front';
      expect([below.indexOf(loop.through[0]!), loop.madeOf], where(s)).to.deep.equal([
        taken,
        `slipped, yarn in ${float}`,
      ]);
      taken++;
      continue;
    }
    const { takes, faces, top, madeOf, twisted } = MEANT[s]!;
    const from = below.slice(taken, taken + takes);
    for (const face of faces) {
      const loop = next();
      // A yarn over shows no face of its own.
      if (s !== 'yo') expect(showsKnit(loop, side) ? 'k' : 'p', where(s)).to.equal(face);
      const same = loop.through.length === from.length && from.every((l) => loop.through.includes(l));
      expect(same, `${where(s)} is drawn through its loops`).to.be.true;
      expect(loop.twisted, where(s)).to.equal(twisted ?? false);
      if (top !== undefined) expect(from.indexOf(loop.top!), where(s)).to.equal(top);
      if (madeOf === undefined) continue;
      const before = (side === 'RS') !== fromLeft ? 'right' : 'left';
      const after = before === 'right' ? 'left' : 'right';
      const found = loop.madeOf
        .replace('lifted, neighbour before', `lifted ${before}`)
        .replace('lifted, neighbour after', `lifted ${after}`);
      expect(found, where(s)).to.equal(madeOf);
    }
    taken += takes;
  }
  expect([at, taken], `row ${row}`).to.deep.equal([loops.length, below.length]);
}

const KINDS = Object.keys(MEANT);
const stitch = fc.oneof(
  { weight: 5, arbitrary: fc.constantFrom<Stitch>('k', 'p') },
  { weight: 3, arbitrary: fc.constantFrom<Stitch>(...KINDS, 'slyb', 'slyf') },
  { weight: 1, arbitrary: anyCrossing(3) },
);

/** Charts whose rows win and lose loops as they like: stitches are taken as long as loops are left for them. */
const changing: fc.Arbitrary<Chart> = fc
  .record({
    castOn: fc.integer({ min: 2, max: 12 }),
    picks: fc.array(fc.array(stitch, { minLength: 24, maxLength: 24 }), { minLength: 1, maxLength: 6 }),
    construction: anyWay(),
    firstRow: fc.constantFrom('RS', 'WS'),
  })
  .map(({ castOn, picks, construction, firstRow }) => {
    const book = stitchBook();
    let live = castOn;
    const rows = picks.map((pick) => {
      const row: Stitch[] = [];
      let left = live;
      for (const s of pick) {
        if (!left || row.length > 16) break;
        if (takesOf(s, book) > left) continue;
        row.push(s);
        left -= takesOf(s, book);
      }
      row.push(...Array<Stitch>(left).fill('k'));
      live = row.reduce((sum, s) => sum + book.facts(s).makes, 0);
      return row;
    });
    const laid = layoutRows(rows, book);
    return ChartSchema.parse({ construction, firstRow, width: laid.width, rows: laid.rows });
  });

/** Steady charts with a repeat across, and rows that are worked again. */
const repeating: fc.Arbitrary<Chart> = fc
  .tuple(
    anyChart(),
    fc.integer({ min: 0, max: 3 }),
    fc.integer({ min: 0, max: 3 }),
    fc.integer({ min: 1, max: 3 }),
    fc.integer({ min: 0, max: 4 }),
  )
  .map(([chart, setup, closing, times, end]) => {
    try {
      return setUp(chart, { setup, closing, times, ...(end ? { end: setup + end } : {}) }).chart;
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      return chart;
    }
  });

const RUNS = 120 * THOROUGH;
const SLIPS = 120 * THOROUGH;

describe('a literal knitter who follows the printed words', () => {
  for (const [what, charts] of [
    ['rows that win and lose stitches', changing],
    ['repeats across and up', repeating],
  ] as const)
    it(`knits the chart: ${what}`, () => {
      let knitted = 0;
      fc.assert(
        fc.property(
          charts,
          fc.constantFrom<School>(...SCHOOLS),
          fc.constantFrom<Hand>('right', 'left-same-fabric', 'left-same-words'),
          anyStyle(),
          (chart, school, hand, style) => {
            const by = SettingsSchema.parse({ school, hand, style: { ...style, length: 'counted' } });
            const faults = [...checkChart(chart), ...checkNames(chart, by)].filter(
              (f) => f.level === 'error',
            );
            fc.pre(!faults.length);
            const { text, checked, problems } = writeAndProve(chart, by);
            expect(checked, problems[0]?.message).to.be.true;
            const piece = expandPiece(chart);
            const rows = knitPrinted(text);
            expect(rows.map((r) => [r.row, r.start])).to.deep.equal(piece.map((r) => [r.row, r.start ?? 0]));
            rows.forEach((row, i) => expectRow(row, piece[i]!.stitches, hand === 'left-same-fabric'));
            knitted++;
          },
        ),
        { numRuns: RUNS, maxSkipsPerRun: 20 },
      );
      expect(knitted).to.be.at.least(RUNS);
    }).timeout(180_000 * THOROUGH);
});

/** One word of a pattern changed as a slip of the pen would. */
const slip = fc.record({
  kind: fc.constantFrom('number', 'word', 'item', 'line', 'mark'),
  at: fc.double({ min: 0, max: 0.999, noNaN: true }),
  by: fc.constantFrom(1, -1, 10),
});
const SWAPPED: Record<string, string> = {
  k: 'p',
  p: 'k',
  LC: 'RC',
  RC: 'LC',
  front: 'back',
  back: 'front',
  twice: 'once',
  ssk: 'k2tog',
  k2tog: 'ssk',
};

function slipped(text: string, { kind, at, by }: { kind: string; at: number; by: number }): string {
  const pick = (what: RegExp): RegExpMatchArray | undefined => {
    const found = [...text.matchAll(what)];
    return found[Math.floor(at * found.length)];
  };
  const put = (match: RegExpMatchArray | undefined, words: string) =>
    match ? text.slice(0, match.index) + words + text.slice(match.index! + match[0].length) : text;
  if (kind === 'number') {
    const match = pick(/\d+/g);
    return put(match, String(Math.max(0, Number(match?.[0]) + by)));
  }
  if (kind === 'word') {
    const match = pick(/(?<![A-Za-z])(?:k2tog|ssk|[kp](?=\d)|LC|RC|front|back|twice)(?![A-Za-z])/g);
    return put(match, SWAPPED[match?.[0] ?? ''] ?? '');
  }
  if (kind === 'item') return put(pick(/, [^,;.()\n]+(?=[,;.])/g), '');
  if (kind === 'mark') return put(pick(/[[\](),;:*.]/g), '');
  const lines = text.split('\n');
  return lines.toSpliced(Math.floor(at * lines.length), 1).join('\n');
}

/** Whether the literal knitter can follow a text at all; what it knits, or null. */
function knitOrNot(text: string, from: Side): KnittedRow[] | null {
  try {
    return knitPrinted(text, from);
  } catch {
    return null;
  }
}

describe('patterns read from their words', () => {
  it('make what the chart they were written from makes, in every school, hand and manner', () => {
    fc.assert(
      fc.property(
        fc.oneof(changing, repeating),
        fc.constantFrom<School>(...SCHOOLS),
        fc.constantFrom<Hand>('right', 'left-same-fabric', 'left-same-words'),
        anyStyle(),
        (chart, school, hand, style) => {
          const by = SettingsSchema.parse({ school, hand, style: { ...style, length: 'counted' } });
          fc.pre(![...checkChart(chart), ...checkNames(chart, by)].some((f) => f.level === 'error'));
          const { text } = writeAndProve(chart, by);
          const { construction, firstRow } = chart;
          const { chart: read, problems } = readPattern(text, { construction, firstRow });
          expect(
            problems.filter((p) => p.level !== 'note').map((p) => p.message),
            text,
          ).to.deep.equal([]);
          const piece = (c: Chart) => expandPiece(c).map((r) => r.stitches);
          expect(piece(read!), text).to.deep.equal(piece(chart));
        },
      ),
      { numRuns: 80 * THOROUGH, maxSkipsPerRun: 30 },
    );
  }).timeout(120_000 * THOROUGH);

  it('with a slip of the pen are refused, or make what the literal knitter makes of the same words', () => {
    let [charted, refused] = [0, 0];
    fc.assert(
      fc.property(
        fc.oneof(changing, repeating),
        fc.constantFrom<School>(...SCHOOLS),
        slip,
        (chart, school, by) => {
          const settings = SettingsSchema.parse({ school, style: { wsRows: 'written', counts: 'every' } });
          fc.pre(![...checkChart(chart), ...checkNames(chart, settings)].some((f) => f.level === 'error'));
          const printed = writeAndProve(chart, settings).text;
          const text = slipped(printed, by);
          const { construction, firstRow } = chart;
          const { chart: read, problems, asides } = readPattern(text, { construction, firstRow });
          // How a bobble is worked is the designer's own.
          if (asides.some((a) => a.why.includes('how the bobble is worked') && !printed.includes(a.text)))
            return;
          if (!read || problems.some((p) => p.level !== 'note')) {
            refused++;
            return;
          }
          const knitted = knitOrNot(text, sideOf(chart, 0));
          if (!knitted) return;
          const piece = expandPiece(read);
          expect(
            knitted.map((r) => r.row),
            text,
          ).to.deep.equal(piece.map((r) => r.row));
          knitted.forEach((row, i) => expectRow(row, piece[i]!.stitches, false));
          charted++;
        },
      ),
      { numRuns: SLIPS, maxSkipsPerRun: 30 },
    );
    // Both came about often enough to say something.
    expect(Math.min(charted, refused)).to.be.greaterThan(SLIPS / 6);
  }).timeout(120_000 * THOROUGH);
});

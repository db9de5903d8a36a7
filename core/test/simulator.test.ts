import { expect } from 'chai';
import fc from 'fast-check';
import {
  checkChart,
  checkNames,
  expandPiece,
  readPattern,
  SCHOOLS,
  SettingsSchema,
  writeAndProve,
  type Chart,
  type Hand,
  sideOf,
  type School,
  type Side,
} from '../src/index.js';
import { changing, repeating } from './any-rows.js';
import { anyStyle, THOROUGH } from './arbitrary.js';
import { expectRow } from './knitted.js';
import { knitPrinted, type KnittedRow } from './simulator.js';

const RUNS = 80 * THOROUGH;
const SLIPS = 70 * THOROUGH;

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
      { numRuns: 50 * THOROUGH, maxSkipsPerRun: 30 },
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
          // Rows in an order that no chart repeats are drawn out, and told so: they are numbered anew then.
          const isDrawnOut = problems.some(({ id }) => id === 'plan-drawn-out');
          expect(
            knitted.map(({ row }, i) => (isDrawnOut ? i + 1 : row)),
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

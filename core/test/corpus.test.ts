import { expect } from 'chai';
import {
  crossing,
  NO_STITCH,
  readPattern,
  readPatterns,
  timesOf,
  type Chart,
  type Stitch,
  type Worked,
} from '../src/index.js';
import { expandRow } from '../src/chart/frame.js';
import { AGAIN, ASKED, CROSSINGS, HEADS, STITCHES, WRONG, type Sample } from './corpus.js';

/** The stitches that a hand-written row of the corpus names. */
function stitches(row: string): Stitch[] {
  return row
    .trim()
    .split(/\s+/)
    .flatMap((token): Stitch[] => {
      const run = /^(k|p|kt|pt)(\d+)$/.exec(token);
      if (run) {
        const kind = { k: 'k', p: 'p', kt: 'ktbl', pt: 'ptbl' }[run[1]!]!;
        return Array<Stitch>(Number(run[2])).fill(kind);
      }
      const crossed = /^([LR])(\w+)\/(\w+)(?:\/(\w+))?$/.exec(token);
      if (!crossed) return [token];
      const group = (text: string): Worked[] => {
        const sized = /^(\d+)(p?)$/.exec(text);
        return sized ? Array<Worked>(Number(sized[1])).fill(sized[2] ? 'p' : 'k') : ([...text] as Worked[]);
      };
      const [, lean, front, second, third] = crossed as unknown as [string, string, string, string, string?];
      const groups = third ? [group(front), group(third), group(second)] : [group(front), group(second), []];
      return [crossing(lean === 'L' ? 'left' : 'right', groups[0]!, groups[1]!, groups[2])];
    });
}

const rowsOf = (chart: Chart): Stitch[][] =>
  chart.rows.map((_, r) => (expandRow(chart, r, timesOf(chart)) ?? []).filter((s) => s !== NO_STITCH));

function check({ text, rows, up, round, firstRow }: Sample): void {
  const { chart, problems } = readPattern(text, { construction: round ? 'round' : 'flat', firstRow: 'RS' });
  expect(problems.filter((p) => p.level !== 'note').map((p) => p.message)).to.deep.equal([]);
  expect(rowsOf(chart!)).to.deep.equal(rows.split('|').map(stitches));
  expect(chart!.firstRow).to.equal(firstRow ?? 'RS');
  const said = chart!.up && [chart!.up.setup + 1, chart!.rows.length - chart!.up.closing, chart!.up.times];
  expect(said).to.deep.equal(up ?? null);
}

const short = (text: string) => text.replace(/\s+/g, ' ').slice(0, 90);

for (const [what, samples] of [
  ['heads of rows', HEADS],
  ['rows that speak of others', AGAIN],
  ['stitches, repeats and counts', STITCHES],
  ['crossings', CROSSINGS],
] as const)
  describe(`written patterns: ${what} (common practice, no source)`, () => {
    for (const sample of samples) it(`reads "${short(sample.text)}"`, () => check(sample));
  });

const read = (text: string, answers?: Record<string, string>) =>
  readPattern(text, { construction: 'flat', firstRow: 'RS', answers });

describe('written patterns with a fault (common practice, no source)', () => {
  for (const [text, row, id, says] of WRONG)
    it(`tells of "${short(text)}"`, () => {
      const problems = read(text).problems.filter((p) => p.level === 'error');
      // One fault makes one problem.
      expect(problems.map((p) => [p.id, p.row])).to.deep.equal([[id, row]]);
      expect(problems[0]!.message).to.contain(says);
    });

  it('points at the very words', () => {
    const at = (text: string) => {
      const span = read(text).problems[0]!.at!;
      return text.slice(span.from, span.to);
    };
    expect(at('Cast on 6.\nRow 1: k2, wobble,\n k3.')).to.equal('wobble');
    expect(at('Cast on 6.\nRow 1: k4.\nRow 2: k2, p9.')).to.equal('Row 1: k4.');
    expect(at('Cast on 4.\nRow 1: k4.\nRow 2: k2, p9.')).to.equal('p9');
    expect(at('Row 1: k2, (p2, k1.')).to.equal('(p2, k1.');
  });

  it('leaves aside what says nothing of the rows, and says so', () => {
    const { asides, problems } = read(
      'A rope for cold hands\n\nThe wool is from the valley.\nCast on 4 sts in grey.\nRow 1: k2, p2.\n\nKey\nk: knit.\nyo: bring the yarn over the needle.',
    );
    expect(problems).to.deep.equal([]);
    expect(asides.map((a) => [a.text, a.why])).to.deep.equal([
      ['A rope for cold hands', 'it says nothing of the rows'],
      ['The wool is from the valley.', 'it says nothing of the rows'],
      ['in grey', 'it says nothing of the rows'],
      ['k: knit.', 'it says what the trade does'],
      ['yo: bring the yarn over the needle.', 'the rows do not use it'],
    ]);
  });
});

describe('names that may mean two things (common practice, no source)', () => {
  for (const [name, meanings] of ASKED)
    it(`asks what ${name} is, once, and takes the answer`, () => {
      const text = `Row 1: k2, ${name}, k2.\nRow 2: p${20}.`;
      const { chart, questions } = read(text);
      expect(chart).to.equal(null);
      expect(questions.map((q) => q.meanings.length)).to.deep.equal([meanings]);
      const [{ word, meanings: ways }] = questions as [(typeof questions)[0]];
      const only = `Row 1: k2, ${name}, k2.`;
      for (const { id, stitch } of ways) {
        const answered = read(only, { [word]: id });
        if (stitch === 'below') expect(answered.problems[0]!.message).to.contain('stitch of your own');
        else expect(answered.chart!.rows[0]!.slice(2, -2)).to.deep.equal([stitch]);
      }
    });

  it('asks of which side a key without one speaks, where wrong-side rows use it', () => {
    const text = 'Row 1: k8.\nRow 2: C4F, p4.\nC4F: sl 2 to cn, hold in front, k2, k2 from cn.';
    const [{ word, meanings }] = read(text).questions as [ReturnType<typeof read>['questions'][0]];
    const crossed = meanings.map(({ id }) => read(text, { [word]: id }).chart!.rows[1]!.at(-1));
    expect(crossed).to.deep.equal([
      crossing('left', ['k', 'k'], ['k', 'k']),
      crossing('left', ['p', 'p'], ['p', 'p']),
    ]);
  });
});

describe('texts of several patterns', () => {
  it('are read one by one, under their titles, with the key they share', () => {
    const text =
      'Cuff\n\nCast on 8.\nRow 1: C4F, k4.\nRow 2: p8.\n\nThumb\n\nCast on 4.\nRow 1: k1, wobble, k2.\n\nKey\nC4F: sl 2 to cn, hold in front, k2, k2 from cn.\nwobble: k1.';
    const read = readPatterns(text, { construction: 'flat', firstRow: 'RS' });
    expect(read.map((s) => [s.title, s.reading.problems.length])).to.deep.equal([
      ['Cuff', 0],
      ['Thumb', 0],
    ]);
    expect(read.map((s) => s.reading.chart!.rows[0])).to.deep.equal([
      [crossing('left', ['k', 'k'], ['k', 'k']), 'k', 'k', 'k', 'k'],
      ['k', 'k', 'k', 'k'],
    ]);
    const faulty = readPatterns(text.replace('k1, wobble', 'k1, wubble'), {
      construction: 'flat',
      firstRow: 'RS',
    });
    const at = faulty[1]!.reading.problems[0]!.at!;
    expect(text.slice(at.from, at.to).length).to.equal(6);
    expect(text.replace('k1, wobble', 'k1, wubble').slice(at.from, at.to)).to.equal('wubble');
  });
});

import { expect } from 'chai';
import { spread } from '../src/index.js';
import { gapsBetween, MOST_ON_NEEDLE } from '../src/sizes/evenly.js';
import { type SpreadRow, type SpreadWish } from '../src/sizes/spread.js';

/** A row that must be possible. */
function row(from: number, to: number, more: Partial<SpreadWish> = {}): SpreadRow {
  const found = spread({ from, to, ...more });
  if ('problem' in found) throw new Error(found.problem);
  return found;
}

const problem = (from: number, to: number, more: Partial<SpreadWish> = {}) => {
  const found = spread({ from, to, ...more });
  return 'problem' in found ? found.problem : null;
};

/** Works a line by hand, with nothing of the reader: what it takes and makes. */
function byHand(words: string): { takes: number; makes: number } {
  let text = words;
  for (let inner = /\[([^[\]]*)\] (?:(\d+) times|twice)/; inner.test(text);)
    text = text.replace(inner, (_, group: string, n?: string) =>
      Array<string>(n === undefined ? 2 : Number(n))
        .fill(group)
        .join(', '),
    );
  let [takes, makes] = [0, 0];
  for (const word of text.split(', ')) {
    const [t, m] =
      word === 'M1'
        ? [0, 1]
        : word === 'kfb'
          ? [1, 2]
          : word === 'k2tog'
            ? [2, 1]
            : [+word.slice(1), +word.slice(1)];
    takes += t!;
    makes += m!;
  }
  return { takes, makes };
}

describe('changes of count spread over a row', () => {
  it('are written as the handbooks do: 20 to 29', () => {
    // Common form of knitting handbooks, from memory.
    expect(row(20, 29).words).to.equal('k2, M1, [k2, M1] 8 times, k2');
    expect(row(20, 29).positions).to.deep.equal([2, 4, 6, 8, 10, 12, 14, 16, 18]);
    expect(row(24, 30, { ends: 'round' }).words).to.equal('[k4, M1] 6 times');
    expect(row(20, 25, { ends: 'half' }).words).to.equal('k2, M1, [k4, M1] 4 times, k2');
    expect(row(26, 20).words).to.equal('k2, k2tog, [k2, k2tog] 5 times, k2');
    expect(row(40, 41).words).to.equal('k20, M1, k20');
    expect(row(20, 20).words).to.equal('k20');
  });

  it('lead from 59 to 88 and back', () => {
    const [there, back] = [row(59, 88), row(88, 59)];
    expect(byHand(there.words)).to.deep.equal({ takes: 59, makes: 88 });
    expect(byHand(back.words)).to.deep.equal({ takes: 88, makes: 59 });
    expect([there.positions.length, back.positions.length]).to.deep.equal([29, 29]);
  });

  it('add up by hand for every pair of counts', () => {
    for (let from = 1; from <= 20; from++)
      for (let to = Math.ceil(from / 2); to <= 2 * from; to++)
        for (const ends of ['whole', 'half', 'round'] as const)
          expect(byHand(row(from, to, { ends }).words), `${from} ${to} ${ends}`).to.deep.equal({
            takes: from,
            makes: to,
          });
  });

  it('are as even as any spacing: no other comes nearer to equal gaps', () => {
    // Against every way to set the changes, for rows of up to 12 stitches; ways already further off are not gone on with.
    const far = (gaps: readonly number[], plain: number, of: number): number => {
      let at = 0;
      return Math.max(...gaps.map((gap, i) => Math.abs((at += gap) - (plain * (i + 1)) / of)));
    };
    function* every(plain: number, of: number, within: number, gaps: number[] = []): Iterable<number[]> {
      if (gaps.length && far(gaps, plain, of) > within + 1e-9) return;
      const left = plain - gaps.reduce((a, b) => a + b, 0);
      if (gaps.length === of - 1) yield [...gaps, left];
      else for (let n = 0; n <= left; n++) yield* every(plain, of, within, [...gaps, n]);
    }
    const wide = (gaps: readonly number[]) => Math.max(...gaps) - Math.min(...gaps);
    const isSymmetrical = (gaps: readonly number[]) => gaps.every((gap, i) => gap === gaps.at(-1 - i));
    for (let plain = 1; plain <= 12; plain++)
      for (let changes = 1; changes < plain; changes++) {
        const of = changes + 1;
        const gaps = gapsBetween(plain, changes, 'whole');
        const off = far(gaps, plain, of);
        expect(wide(gaps), `${plain} ${changes}`).to.equal(plain % of ? 1 : 0);
        for (const other of every(plain, of, off))
          expect(far(other, plain, of), other.join()).to.be.at.least(off - 1e-9);
        let canBeSymmetrical = false;
        for (const other of every(plain, of, 1))
          canBeSymmetrical ||= wide(other) <= 1 && isSymmetrical(other);
        expect(isSymmetrical(gaps), `${plain} ${changes}`).to.equal(canBeSymmetrical);
      }
  });

  it('leave gaps that differ by at most one, on every number of stitches; half as much at seamed ends', () => {
    for (let plain = 1; plain <= 80; plain++)
      for (let changes = 1; changes <= plain; changes++) {
        for (const ends of ['whole', 'round'] as const) {
          const gaps = gapsBetween(plain, changes, ends);
          const counted = ends === 'round' ? gaps.slice(0, -1) : gaps;
          expect(Math.max(...counted) - Math.min(...counted), `${plain} ${changes} ${ends}`).to.be.at.most(1);
          if (ends === 'round') expect(gaps.at(-1)).to.equal(0);
        }
        const [first, ...inner] = gapsBetween(plain, changes, 'half');
        const last = inner.pop()!;
        expect(Math.abs(first! - last)).to.be.at.most(1);
        if (inner.length) expect(Math.max(...inner) - Math.min(...inner)).to.be.at.most(1);
        for (const end of [first!, last]) expect(Math.abs(end - plain / changes / 2)).to.be.at.most(0.5);
      }
  });

  it('say what one row cannot do, and what could', () => {
    expect(problem(10, 21)).to.contain('two rows, to at most 20');
    expect(problem(10, 4)).to.contain('two rows, to 5 or more');
    expect(problem(10, 20, { by: 'between' })).to.contain('at most 9 stitches can be made');
    expect(row(10, 20)).to.deep.include({ by: 'into', words: 'kfb, [kfb] 9 times' });
    expect(row(10, 20).note).to.contain('room to make 9 stitches');
    expect(row(10, 20, { ends: 'round' })).to.deep.include({ by: 'between', words: '[k1, M1] 10 times' });
    expect(problem(20, 29, { kind: 'decrease' })).to.contain('is an increase');
    expect(problem(29, 20, { kind: 'increase' })).to.contain('is a decrease');
    for (const n of [0, -3, 1.5, NaN, MOST_ON_NEEDLE + 1]) {
      expect(problem(n, 20)).to.contain('counted from 1');
      expect(problem(20, n)).to.contain('counted from 1');
    }
    expect(byHand(row(MOST_ON_NEEDLE - 700, MOST_ON_NEEDLE).words)).to.deep.equal({
      takes: 1300,
      makes: 2000,
    });
  });
});

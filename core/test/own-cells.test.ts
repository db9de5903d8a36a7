import { expect } from 'chai';
import fc from 'fast-check';
import {
  carryUp,
  ChartSchema,
  checkChart,
  insertRows,
  layMotif,
  MOTIFS,
  motifChart,
  placeStitches,
  simpleCrossing,
  writeAndProve,
  SettingsSchema,
  type Chart,
  type Row,
  type Stitch,
} from '../src/index.js';
import { asItStands } from '../src/piece/standing.js';
import { mirrorChart, pasteRows } from '../src/chart/edits.js';
import { chart, cloth, found, k, p } from './panels.js';
import { piece, rope } from './pieces.js';

/** What is pasted, laid or written is the designer's own: nothing that follows an edit changes it. */

const face = fc.constantFrom<Stitch>('k', 'p');

describe('rows that are pasted', () => {
  it('stand as they were copied, whatever lies below them, and the rows above follow the last of them', () => {
    const copied: Row[] = [k(6), p(6), [...k(3), ...p(3)]];
    const { chart: after } = carryUp(cloth(6, 6), pasteRows(cloth(6, 6), 1, 0, copied));
    expect(after.rows.slice(0, 4)).to.deep.equal([p(6), ...copied]);
    for (const row of after.rows.slice(4)) expect(row).to.deep.equal(copied[2]);
  });

  it('stand so for any rows, at any place, on any cloth', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(face, { minLength: 5, maxLength: 5 }), { minLength: 8, maxLength: 8 }),
        fc.array(fc.array(face, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 4 }),
        fc.nat(4),
        fc.nat(2),
        (below, copied, r, column) => {
          const begun = ChartSchema.parse({ width: 5, rows: below });
          const { chart: after } = carryUp(begun, pasteRows(begun, r, column, copied));
          copied.forEach((row, i) => expect(after.rows[r + i]!.slice(column, column + 3)).to.deep.equal(row));
          // Below the place nothing changes.
          expect(after.rows.slice(0, r)).to.deep.equal(begun.rows.slice(0, r));
        },
      ),
    );
  });

  it('make the very words they made where they were copied', () => {
    const copied: Row[] = [k(6), k(6), p(6), p(6)];
    const alone = ChartSchema.parse({ width: 6, rows: copied });
    const { chart: after } = carryUp(cloth(6, 4), pasteRows(cloth(6, 4), 0, 0, copied));
    const words = (c: Chart) => writeAndProve(c, SettingsSchema.parse({})).text;
    expect(words(after)).to.equal(words(alone));
  });
});

describe('motifs that are laid', () => {
  it('stand as on the shelf, over any ground', () => {
    for (const rule of MOTIFS) {
      const motif = motifChart(rule, {} as never, 1);
      if (motif.own.length) continue;
      const ground = cloth(motif.width + 4, motif.rows.length + 4);
      const { chart: after } = carryUp(ground, layMotif(ground, 2, 2, rule, {}));
      if (!motif.rows.every((row) => row.every((stitch) => stitch !== 'none'))) continue;
      motif.rows.forEach((row, r) =>
        expect(after.rows[r + 2], `${rule.name}, row ${r + 1}`).to.include.members([...row]),
      );
    }
  });
});

describe('cells that follow', () => {
  it('do so still, beside those that are set alone', () => {
    const one = carryUp(cloth(4, 4), placeStitches(cloth(4, 4), 0, 0, ['k'])).chart;
    expect(one.rows.map((row) => row[0])).to.deep.equal(['k', 'k', 'k', 'k']);
    // A row put in moves what was pasted with it.
    const { chart: put } = carryUp(one, insertRows(one, 2, [[...k(1), ...p(3)]]));
    expect(put.rows.map((row) => row[0])).to.deep.equal(Array(5).fill('k'));
  });
});

describe('a crossing at the edge', () => {
  const edge = chart([k(4), k(4), [simpleCrossing('left', 2, 2)], k(4)], { id: 'edge', part: 'piece' });
  const between = (...ids: ('ground' | 'panel')[]) =>
    piece({
      parts: ids.map((kind, i) =>
        kind === 'ground' ? { id: `g${i}`, kind, stitches: 4 } : { id: `p${i}`, kind, chart: 'edge' },
      ),
    });

  it('is one of the piece where the chart stands at its edge, and none between grounds', () => {
    expect(found(edge, 'crossing-at-edge')).not.to.be.empty;
    expect(found(asItStands(edge, between('ground', 'panel', 'ground')), 'crossing-at-edge')).to.be.empty;
    expect(found(asItStands(edge, between('panel', 'ground')), 'crossing-at-edge')).not.to.be.empty;
    expect(found(asItStands(edge, null), 'crossing-at-edge')).not.to.be.empty;
    expect(asItStands(rope, piece())).to.equal(rope);
  });
});

describe('a round that begins elsewhere, in the mirror', () => {
  it('is a sound chart again, and mirrored twice the one it was', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 2 }),
        fc.integer({ min: 1, max: 2 }),
        fc.nat(3),
        (shift, row, before) => {
          const c = ChartSchema.parse({
            width: 4 + before,
            construction: 'round',
            rows: [0, 1, 2].map(() => [...p(before), ...k(2), ...p(2)]),
            jogs: { [row]: shift },
          });
          const mirrored = mirrorChart(c);
          expect(ChartSchema.safeParse(mirrored).success).to.be.true;
          const errors = (of: Chart) => checkChart(of).filter((f) => f.level === 'error').length;
          expect(errors(mirrored)).to.equal(errors(c));
          expect(mirrorChart(mirrored).rows).to.deep.equal(c.rows);
        },
      ),
    );
  });
});

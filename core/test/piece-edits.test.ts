import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChartSchema,
  changeBounds,
  changePart,
  changePiece,
  changeSize,
  copyPart,
  EditError,
  fitSizes,
  invertSteps,
  layOut,
  mirrorPart,
  movePart,
  pairWithMirror,
  panelOfAnother,
  PIECE_LIMITS,
  pieceSteps,
  printOf,
  putPart,
  putSizes,
  simpleCrossing,
  startChart,
  startDesign,
  startPart,
  startPiece,
  takeOutPart,
  takeOutSize,
  type Chart,
  type Design,
  type Piece,
  wayOf,
} from '../src/index.js';
import { applySteps } from '../src/chart/steps.js';
import { anyWay } from './arbitrary.js';

const left = simpleCrossing('left', 2, 2);
const rope = (over: object = {}): Chart =>
  ChartSchema.parse({
    id: 'rope',
    name: 'Rope',
    width: 8,
    rows: [
      ['p', 'p', left, 'p', 'p'],
      ['p', 'p', 'k', 'k', 'k', 'k', 'p', 'p'],
    ],
    ...over,
  });
const ID = '00000000-0000-4000-8000-000000000001';
const design = (...charts: Chart[]): Design => ({ ...startDesign(ID, 'Col scarf', charts[0]!), charts });
const ids = () => {
  let n = 0;
  return () => `p${n++}`;
};
const told = (piece: Piece) =>
  piece.parts.map((p) => `${p.id}:${p.kind}${'stitches' in p ? ` ${p.stitches}` : ''}`);
const started = () => startPiece(design(rope({ part: 'panel' })), ids());

describe('a piece that is begun', () => {
  it('has edges, ground and panels with gaps between them, alike on both sides', () => {
    expect(told(started())).to.deep.equal([
      'p1:selvage 1',
      'p2:ground 6',
      'p0:panel',
      'p3:ground 6',
      'p4:selvage 1',
    ]);
    const two = startPiece(design(rope({ part: 'panel' }), rope({ id: 'b', part: 'panel' })), ids());
    expect(two.parts.map((p) => p.kind)).to.deep.equal([
      'selvage',
      'ground',
      'panel',
      'ground',
      'panel',
      'ground',
      'selvage',
    ]);
    // A chart drawn as a whole piece has its own edges and ground; what repeats across fills.
    expect(told(startPiece(design(rope()), ids()))).to.deep.equal(['p0:panel']);
    const across = { before: 2, after: 2, times: 3, least: 2 };
    expect(startPiece(design(rope({ across })), ids()).parts[0]).to.deep.include({
      kind: 'filling',
      repeats: 3,
      least: 2,
    });
  });

  it('is worked as its first chart is, and has edges only where its way has any', () => {
    fc.assert(
      fc.property(anyWay(), (construction) => {
        const piece = startPiece(design(rope({ construction, part: 'panel' })), ids());
        expect(piece.construction).to.equal(construction);
        expect(piece.parts.some((p) => p.kind === 'selvage')).to.equal(wayOf({ construction }).hasEdges);
        expect(() => layOut(design(rope({ construction })), piece, piece.sizes[0]!)).not.to.throw();
      }),
    );
  });
});

describe('an edit of a piece', () => {
  it('puts a part in after another, copies it, mirrors it, moves it, takes it out', () => {
    const piece = started();
    const gap = startPart('x', { kind: 'ground', stitches: 3 });
    const order = (p: Piece) => p.parts.map(({ id }) => id).join(' ');
    expect(order(putPart(piece, gap, 'p2'))).to.equal('p1 p2 x p0 p3 p4');
    expect(order(putPart(piece, gap, null))).to.equal('p1 p2 p0 p3 p4 x');
    expect(order(copyPart(piece, 'p0', 'y'))).to.equal('p1 p2 p0 y p3 p4');
    expect(order(movePart(piece, 'p1', 2))).to.equal('p2 p0 p1 p3 p4');
    expect(order(movePart(piece, 'p1', -1))).to.equal('p1 p2 p0 p3 p4');
    expect(order(movePart(piece, 'p4', 9))).to.equal('p1 p2 p0 p3 p4');
    expect(order(takeOutPart(piece, 'p0'))).to.equal('p1 p2 p3 p4');
    const mirrored = mirrorPart(
      putPart(piece, startPart('z', { kind: 'panel', chart: 'rope' }), 'p1'),
      'z',
      'm',
    );
    expect(order(mirrored)).to.equal('p1 z p2 p0 p3 m p4');
    expect(mirrored.parts[5]).to.deep.include({ kind: 'panel', isMirrored: true });
  });

  it('lets parts of a pair share one number and its bounds, and lets each have its own again', () => {
    const piece = started();
    const bounded = changeBounds(piece, 'p2', { least: 2, most: 9 });
    for (const i of [1, 3]) expect(bounded.parts[i]).to.deep.include({ least: 2, most: 9, pair: 'sides' });
    const alone = pairWithMirror(bounded, 'p2', null);
    for (const i of [1, 3]) expect(alone.parts[i]).to.deep.include({ pair: null });
    const own = changeBounds(alone, 'p2', { most: 5 });
    expect([own.parts[1], own.parts[3]].map((p) => p && 'most' in p && p.most)).to.deep.equal([5, 9]);
    const again = pairWithMirror(own, 'p3', 'ends');
    for (const i of [1, 3]) expect(again.parts[i]).to.deep.include({ pair: 'ends' });
    // What has no number of its kind in its mirror place is paired with nothing.
    const odd = pairWithMirror(takeOutPart(own, 'p4'), 'p2', 'odd');
    expect(odd.parts.filter((p) => 'pair' in p && p.pair === 'odd').map((p) => p.id)).to.deep.equal(['p2']);
  });

  it('lets go of what was kept for a part that is taken out: its counts, and that it leads', () => {
    const lead = changePiece(started(), { length: { way: 'whole', lead: 'p0' } });
    const counted = changeSize(lead, 'one', { counts: { p2: 4, p3: 5 } });
    const without = takeOutPart(takeOutPart(counted, 'p0'), 'p2');
    expect(without.length.lead).to.be.null;
    expect(without.sizes[0]!.counts).to.deep.equal({ p3: 5 });
  });

  it('puts sizes in like the last one, numbers those of one name, and replaces the one that stands for none', () => {
    const next = ids();
    const piece = putSizes(
      started(),
      [
        { name: 'S', measure: 800_000 },
        { name: 'M', measure: 900_000 },
      ],
      next,
    );
    expect(piece.sizes.map((s) => [s.id, s.name, s.measure])).to.deep.equal([
      ['p0', 'S', 800_000],
      ['p1', 'M', 900_000],
    ]);
    const more = putSizes(changeSize(piece, 'p1', { ease: 50_000 }), [{ name: 'M' }, { name: 'M' }], next);
    expect(more.sizes.map((s) => s.name)).to.deep.equal(['S', 'M', 'M 2', 'M 3']);
    expect(more.sizes[3]!.ease).to.equal(50_000);
    const many = putSizes(
      more,
      Array.from({ length: 40 }, (_, i) => ({ name: `T${i}` })),
      next,
    );
    expect(many.sizes).to.have.length(PIECE_LIMITS.sizes);
    expect(takeOutSize(piece, 'p0').sizes.map((s) => s.name)).to.deep.equal(['M']);
    expect(() => takeOutSize(takeOutSize(piece, 'p0'), 'p1')).to.throw(EditError, 'one size at least');
  });

  it('is refused where what it is of is there no more, or no room is left', () => {
    const piece = started();
    for (const edit of [
      () => changePart(piece, 'gone', { stitches: 3 }),
      () => takeOutPart(piece, 'gone'),
      () => putPart(piece, startPart('x', { kind: 'marker' }), 'gone'),
      () => changeSize(piece, 'gone', { ease: 0 }),
    ])
      expect(edit).to.throw(EditError, 'no longer in the piece');
    let full = piece;
    const fill = () => {
      for (let i = 0; i <= PIECE_LIMITS.parts; i++) full = copyPart(full, 'p2', `c${i}`);
    };
    expect(fill).to.throw(EditError, `at most ${PIECE_LIMITS.parts} parts`);
  });

  it('makes steps that lead there and back, and that say only what changed', () => {
    const piece = started();
    const set = { ...design(rope({ part: 'panel' })), piece };
    for (const [edit, steps] of [
      [(p: Piece) => changePart(p, 'p2', { stitches: 8 }), 1],
      [(p: Piece) => movePart(p, 'p1', 2), 1],
      [(p: Piece) => copyPart(p, 'p0', 'y'), 1],
      [(p: Piece) => takeOutPart(p, 'p4'), 1],
      [(p: Piece) => changePiece(p, { markers: false, needle: 4 }), 2],
      [(p: Piece) => putSizes(p, [{ name: 'S', measure: 800_000 }], ids()), 2],
    ] as const) {
      const made = pieceSteps(piece, edit(piece));
      expect(made).to.have.length(steps);
      const after = applySteps(set, made);
      expect(after.piece).to.deep.equal(edit(piece));
      expect(applySteps(after, invertSteps(made))).to.deep.equal(set);
    }
    expect(pieceSteps(piece, fitSizes(set, piece))).to.deep.equal([]);
    const bare = { ...set, piece: null };
    expect(applySteps(bare, pieceSteps(null, piece)).piece).to.deep.equal(piece);
  });

  it('copies a panel of another design in, with where it came from, as one change', () => {
    const set = { ...design(rope({ part: 'panel' })), piece: started() };
    const other = rope({ id: 'chart', name: '' });
    const steps = panelOfAnother(set, { id: ID, title: 'Scree mittens' }, other, 'p0', {
      part: 'q',
      chart: 'copy',
    });
    const after = applySteps(set, steps);
    expect(after.charts.map((c) => [c.id, c.name, c.part])).to.deep.equal([
      ['rope', 'Rope', 'panel'],
      ['copy', 'Scree mittens', 'panel'],
    ]);
    expect(after.piece!.parts[3]).to.deep.include({
      id: 'q',
      chart: 'copy',
      from: { design: ID, chart: 'chart', print: printOf(other) },
    });
    const cloth = startChart({ columns: 4, rows: 2, construction: 'flat', ground: 'p' });
    const full = { ...set, charts: Array.from({ length: 60 }, (_, i) => ({ ...cloth, id: `c${i}` })) };
    expect(() =>
      panelOfAnother(full, { id: ID, title: 'x' }, other, null, { part: 'q', chart: 'copy' }),
    ).to.throw(EditError);
  });
});

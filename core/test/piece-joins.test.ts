import { expect } from 'chai';
import fc from 'fast-check';
import {
  ChangeSchema,
  headChange,
  invertSteps,
  PieceSchema,
  startChart,
  startDesign,
  StepMisfit,
  stepsBetween,
  type Design,
  type Piece,
  type PiecePart,
  type Size,
  type Step,
} from '../src/index.js';
import { applySteps } from '../src/chart/steps.js';
import { PartSchema, SizeSchema } from '../src/chart/piece-document.js';
import { THOROUGH } from './arbitrary.js';
import { joined } from './joined.js';

const ID = '00000000-0000-4000-8000-000000000001';
const cloth = startChart({ columns: 12, rows: 6, construction: 'flat', ground: 'p' });

const ground = (id: string, stitches = 4): PiecePart => PartSchema.parse({ id, kind: 'ground', stitches });
const size = (id: string): Size => SizeSchema.parse({ id, name: id });
const set = (parts: readonly PiecePart[]): Design => ({
  ...startDesign(ID, 'test', cloth),
  piece: PieceSchema.parse({ parts, sizes: [size('S'), size('M'), size('L')] }),
});
const five = set(['a', 'b', 'c', 'd', 'e'].map((id) => ground(id)));

type Act = (piece: Piece, who: string) => Piece;

const at = <T>(list: readonly T[], n: number): number => n % Math.max(1, list.length);
const moved = <T>(list: readonly T[], from: number, to: number): T[] =>
  list.toSpliced(from, 1).toSpliced(to, 0, list[from]!);

let made = 0;
/** Anything one may do to the parts and sizes of a piece. */
const anyAct: fc.Arbitrary<Act> = fc
  .tuple(fc.nat(7), fc.nat(9), fc.nat(9))
  .map(([kind, x, y]): Act => (piece, who) => {
    const { parts, sizes } = piece;
    const [i, j] = [at(parts, x), at(parts, y)];
    const put = (one: Partial<Piece>): Piece => ({ ...piece, ...one });
    switch (kind) {
      case 0:
        return put({ parts: parts.toSpliced(i, 0, ground(`${who}${made++}`)) });
      case 1:
        return put({ parts: parts.toSpliced(i, 1) });
      case 2:
        return parts.length ? put({ parts: moved(parts, i, j) }) : piece;
      case 3:
        return parts.length
          ? put({ parts: parts.with(i, { ...parts[i]!, stitches: y + 1 } as PiecePart) })
          : piece;
      case 4:
        return put({ sizes: sizes.toSpliced(at(sizes, x), 0, size(`${who}${made++}`)) });
      case 5:
        return sizes.length > 1 ? put({ sizes: sizes.toSpliced(at(sizes, x), 1) }) : piece;
      case 6: {
        const s = at(sizes, x);
        const counts = { ...sizes[s]!.counts, ...(parts[j] && { [parts[j].id]: x + 1 }) };
        return put({ sizes: sizes.with(s, { ...sizes[s]!, ease: 1000 * y, counts }) });
      }
      default:
        return put({
          gauge: {
            ...piece.gauge,
            plain: { stitches: { count: 20 + x, over: 100_000 }, rows: null, swatch: null },
          },
        });
    }
  });
const anyActs = fc.array(anyAct, { minLength: 1, maxLength: 5 });

/** What one person does, as the steps of each act. */
function steps(from: Design, acts: readonly Act[], who: string): Step[] {
  let design = from;
  return acts.flatMap((act) => {
    const change = headChange(design, { piece: act(design.piece!, who) }, 'set out', ID);
    if (!change) return [];
    design = applySteps(design, change.steps);
    return [...change.steps];
  });
}

describe('two people who set out at once', () => {
  it('are joined in either order to the same piece, or clash in either order', () => {
    let both = 0;
    fc.assert(
      fc.property(anyActs, anyActs, (a, b) => {
        if (joined(five, steps(five, a, 'x'), steps(five, b, 'y'))) both++;
      }),
      { numRuns: 400 * THOROUGH },
    );
    expect(both).to.be.greaterThan(150 * THOROUGH);
  });

  const after = (act: (piece: Piece) => Piece): Step[] => steps(five, [act], '');
  const both = (one: (piece: Piece) => Piece, other: (piece: Piece) => Piece): Piece | null =>
    joined(five, after(one), after(other))?.piece ?? null;
  const ids = (piece: Piece | null) => piece?.parts.map((p) => p.id).join('');

  it('both keep their work: parts put in, taken out, changed and moved beside each other', () => {
    const widen = (id: string, stitches: number) => (piece: Piece) => ({
      ...piece,
      parts: piece.parts.map((p) => (p.id === id ? ({ ...p, stitches } as PiecePart) : p)),
    });
    const two = both(widen('b', 9), widen('d', 7))!;
    expect(two.parts.map((p) => p.kind === 'ground' && p.stitches)).to.deep.equal([4, 9, 4, 7, 4]);
    const put = (id: string, place: number) => (piece: Piece) => ({
      ...piece,
      parts: piece.parts.toSpliced(place, 0, ground(id)),
    });
    expect(ids(both(put('x', 2), put('y', 2)))).to.equal('abxycde');
    expect(ids(both(put('x', 5), put('y', 0)))).to.equal('yabcdex');
    const out = (place: number) => (piece: Piece) => ({ ...piece, parts: piece.parts.toSpliced(place, 1) });
    expect(ids(both(out(1), put('x', 2)))).to.equal('axcde');
    expect(ids(both(out(1), out(2)))).to.equal('ade');
    expect(ids(both(out(1), out(1)))).to.equal('acde');
    const turn = (piece: Piece) => ({ ...piece, parts: [...piece.parts].reverse() });
    expect(ids(both(turn, put('x', 2)))).to.equal('edcbxa');
    expect(ids(both(turn, out(4)))).to.equal('dcba');
    expect(both(turn, widen('c', 9))!.parts[2]).to.deep.include({ id: 'c', stitches: 9 });
  });

  it('clash where one takes out what the other changes, or both put all in another order', () => {
    const gone = (piece: Piece) => ({ ...piece, parts: piece.parts.slice(1) });
    const wide = (piece: Piece) => ({ ...piece, parts: [ground('a', 9), ...piece.parts.slice(1)] });
    expect(both(gone, wide)).to.be.null;
    const turn = (piece: Piece) => ({ ...piece, parts: [...piece.parts].reverse() });
    const shift = (piece: Piece) => ({ ...piece, parts: [...piece.parts.slice(1), piece.parts[0]!] });
    expect(both(turn, shift)).to.be.null;
    expect(both(turn, turn)).not.to.be.null;
  });
});

describe('the steps of a piece', () => {
  it('lead from any piece to any other and back, and travel as JSON', () => {
    fc.assert(
      fc.property(anyActs, anyActs, (a, b) => {
        const one = applySteps(five, steps(five, a, 'x'));
        const two = applySteps(five, steps(five, b, 'y'));
        const way = stepsBetween(one, two);
        expect(applySteps(one, way)).to.deep.equal(two);
        expect(applySteps(two, invertSteps(way))).to.deep.equal(one);
        if (!way.length) return;
        const change = { id: ID, label: 'set out', steps: way };
        expect(ChangeSchema.parse(JSON.parse(JSON.stringify(change)))).to.deep.equal(change);
      }),
      { numRuns: 200 * THOROUGH },
    );
  });

  it('say only what changed: one part that grows is one setting', () => {
    const wide = { ...five.piece!, parts: five.piece!.parts.with(2, ground('c', 9)) };
    expect(headChange(five, { piece: wide }, 'wider', ID)!.steps).to.deep.equal([
      { kind: 'set', path: ['piece', 'parts', 'c', 'stitches'], was: 4, now: 9 },
    ]);
  });

  it('are refused where the piece is not what they were made for', () => {
    const refused = (step: Step) => expect(() => applySteps(five, [step])).to.throw(StepMisfit);
    refused({ kind: 'item', of: 'parts', done: 'in', after: 'z', item: ground('x') });
    refused({ kind: 'item', of: 'parts', done: 'in', after: 'a', item: ground('b') });
    refused({ kind: 'item', of: 'parts', done: 'out', after: 'a', item: ground('b', 5) });
    refused({ kind: 'item', of: 'parts', done: 'out', after: null, item: ground('b') });
    refused({ kind: 'order', of: 'parts', was: ['a'], now: ['a'] });
    refused({ kind: 'order', of: 'sizes', was: ['S', 'M', 'L'], now: ['S', 'M', 'M'] });
    refused({ kind: 'set', path: ['piece', 'parts', 'z', 'stitches'], was: 4, now: 5 });
    refused({ kind: 'set', path: ['piece', 'parts', 'a', 'stitches'], was: 4, now: 5000 });
    // A size of the parts is none.
    refused({ kind: 'item', of: 'parts', done: 'in', after: null, item: size('x') });
    const bare = startDesign(ID, 'bare', cloth);
    expect(() => applySteps(bare, [{ kind: 'order', of: 'parts', was: ['a'], now: ['a'] }])).to.throw(
      StepMisfit,
    );
  });
});

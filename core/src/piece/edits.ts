import type { z } from 'zod';
import { printOf, putChart } from '../chart/charts.js';
import { EditError } from '../chart/edit.js';
import { setSteps } from '../chart/differences.js';
import { leastOf, repeatsAcross, timesOf } from '../chart/frame.js';
import {
  PartSchema,
  PIECE_LIMITS,
  PieceSchema,
  type Piece,
  type PiecePart,
  type Size,
} from '../chart/piece-document.js';
import type { Chart, Design } from '../chart/schema.js';
import type { Step } from '../chart/steps.js';
import { wayOf } from '../construction/index.js';

/**
 * Edits of a piece. Each gives the piece as it is after it, and `pieceSteps` what leads there: parts and sizes come, go and change
 * places by their ids and are set field by field, so that two people who set out at once both keep their work.
 */

/** The steps from a piece to another; null is a design that has none. */
export const pieceSteps = (was: Piece | null, now: Piece | null): Step[] =>
  setSteps([], { piece: was }, { piece: now });

/** What may be set of the piece as a whole. */
export type PieceFields = Partial<Omit<Piece, 'parts' | 'sizes'>>;

export const changePiece = (piece: Piece, fields: PieceFields): Piece => ({ ...piece, ...fields });

/** A part of the piece. @throws EditError where it has it no more */
function placeOf(piece: Piece, id: string): number {
  const at = piece.parts.findIndex((p) => p.id === id);
  if (at < 0) throw new EditError('That part is no longer in the piece.');
  return at;
}

/** A piece with other parts: what was kept for one that is there no more is let go of. */
function withParts(piece: Piece, parts: readonly PiecePart[]): Piece {
  if (parts.length > PIECE_LIMITS.parts)
    throw new EditError(`A piece has at most ${PIECE_LIMITS.parts} parts.`);
  const ids = new Set(parts.map((p) => p.id));
  const { lead } = piece.length;
  const sizes = piece.sizes.map((size): Size => {
    const kept = Object.entries(size.counts).filter(([id]) => ids.has(id));
    return kept.length === Object.keys(size.counts).length
      ? size
      : { ...size, counts: Object.fromEntries(kept) };
  });
  const length = lead === null || ids.has(lead) ? piece.length : { ...piece.length, lead: null };
  return { ...piece, parts, sizes, length };
}

type WithoutId<P> = P extends unknown ? Omit<P, 'id'> : never;
/** What is told of a new part; all else is as a new one of its kind has it. */
export type NewPart = WithoutId<z.input<typeof PartSchema>>;

export const startPart = (id: string, part: NewPart): PiecePart => PartSchema.parse({ id, ...part });

/** Puts a part in right after another, or as the first; null puts it last. @throws EditError where there is no room */
export function putPart(piece: Piece, part: PiecePart, after: string | null): Piece {
  const at = after === null ? piece.parts.length : placeOf(piece, after) + 1;
  return withParts(piece, piece.parts.toSpliced(at, 0, part));
}

/** The id of the part that `panelOfAnother` puts in, and of the chart it copies. */
interface CopiedAs {
  part: string;
  chart: string;
}

/**
 * A chart of another design copied into this one, and a panel of it put into the piece; it remembers where it came from.
 *
 * @throws EditError where there is no room
 */
export function panelOfAnother(
  design: Design,
  from: Pick<Design, 'id' | 'title'>,
  chart: Chart,
  after: string | null,
  as: CopiedAs,
): Step[] {
  const name = chart.name || from.title.slice(0, 80);
  const copy: Chart = { ...chart, id: as.chart, name, part: 'panel' };
  const part = startPart(as.part, {
    kind: 'panel',
    chart: copy.id,
    from: { design: from.id, chart: chart.id, print: printOf(chart) },
  });
  const { piece, charts } = design;
  return [
    ...putChart(design, charts.length, copy),
    ...(piece ? pieceSteps(piece, putPart(piece, part, after)) : []),
  ];
}

/** A part once more, right after itself, under an id of its own. */
export const copyPart = (piece: Piece, id: string, copy: string): Piece =>
  putPart(piece, { ...piece.parts[placeOf(piece, id)]!, id: copy }, id);

/**
 * A part once more in the place beyond the middle that mirrors its own: the chart of a panel as a mirror shows it, and one
 * number shared with a ground or a filling.
 */
export function mirrorPart(piece: Piece, id: string, copy: string): Piece {
  const at = placeOf(piece, id);
  const part = piece.parts[at]!;
  const image: PiecePart = {
    ...part,
    id: copy,
    ...('isMirrored' in part ? { isMirrored: !part.isMirrored } : {}),
  } as PiecePart;
  return withParts(piece, piece.parts.toSpliced(piece.parts.length - at, 0, image));
}

/** Changes what is told of a part. @throws EditError where the piece has it no more */
export function changePart(piece: Piece, id: string, fields: object): Piece {
  const at = placeOf(piece, id);
  return withParts(piece, piece.parts.with(at, { ...piece.parts[at]!, ...fields } as PiecePart));
}

/** Whether two parts of a kind share one number: those of one pair. */
const shareNumber = (a: PiecePart, b: PiecePart): boolean =>
  a.id === b.id || (a.kind === b.kind && 'pair' in a && 'pair' in b && a.pair !== null && a.pair === b.pair);

/** Bounds of a number are those of all parts that share it. */
export function changeBounds(
  piece: Piece,
  id: string,
  bounds: { least?: number | null; most?: number | null },
): Piece {
  const part = piece.parts[placeOf(piece, id)]!;
  return withParts(
    piece,
    piece.parts.map((p) => (shareNumber(p, part) ? ({ ...p, ...bounds } as PiecePart) : p)),
  );
}

/**
 * Lets a part share its number with the one of its kind in its mirror place, as the pair of that name; null lets all that share it
 * have their own again.
 */
export function pairWithMirror(piece: Piece, id: string, pair: string | null): Piece {
  const at = placeOf(piece, id);
  const part = piece.parts[at]!;
  const other = piece.parts[piece.parts.length - 1 - at];
  const isMeant = (p: PiecePart) =>
    p.id === id || (pair === null ? shareNumber(p, part) : p.id === other?.id && p.kind === part.kind);
  return withParts(
    piece,
    piece.parts.map((p) => (isMeant(p) && 'pair' in p ? { ...p, pair } : p)),
  );
}

export const takeOutPart = (piece: Piece, id: string): Piece =>
  withParts(piece, piece.parts.toSpliced(placeOf(piece, id), 1));

/** Moves a part so many places to the left as the right side looks, or (negative) to the right; at an end it stays. */
export function movePart(piece: Piece, id: string, by: number): Piece {
  const at = placeOf(piece, id);
  const to = Math.max(0, Math.min(piece.parts.length - 1, at + by));
  return withParts(piece, piece.parts.toSpliced(at, 1).toSpliced(to, 0, piece.parts[at]!));
}

/** A size of the piece. @throws EditError where it has it no more */
function sizePlace(piece: Piece, id: string): number {
  const at = piece.sizes.findIndex((s) => s.id === id);
  if (at < 0) throw new EditError('That size is no longer in the piece.');
  return at;
}

export function changeSize(piece: Piece, id: string, fields: Partial<Size>): Piece {
  const at = sizePlace(piece, id);
  return { ...piece, sizes: piece.sizes.with(at, { ...piece.sizes[at]!, ...fields }) };
}

/**
 * Puts sizes in behind those there are, each like the last of them but for what is told of it; they take the place of the one that
 * stands for none yet. Of two that would go by one name the later is numbered; what is beyond the most is left out.
 *
 * @param newId gives an id that no other size has
 */
export function putSizes(
  piece: Piece,
  more: readonly (Pick<Size, 'name'> & Partial<Size>)[],
  newId: () => string,
): Piece {
  const last = piece.sizes.at(-1)!;
  const there = piece.sizes.length === 1 && last.measure === null ? [] : piece.sizes;
  const taken = new Set(there.map((s) => s.name));
  const made = more.map((one): Size => {
    let { name } = one;
    for (let n = 2; taken.has(name); n++) name = `${one.name} ${n}`;
    taken.add(name);
    return { ...last, ...one, id: newId(), name };
  });
  return { ...piece, sizes: [...there, ...made].slice(0, PIECE_LIMITS.sizes) };
}

/** @throws EditError for the last: a piece is worked in one size at least */
export function takeOutSize(piece: Piece, id: string): Piece {
  const at = sizePlace(piece, id);
  if (piece.sizes.length === 1) throw new EditError('A piece is worked in one size at least.');
  return { ...piece, sizes: piece.sizes.toSpliced(at, 1) };
}

/**
 * A piece of all charts of a design: edges, ground, panels with gaps between; one that is a whole piece already has its own
 * edges and ground.
 *
 * @param newId gives an id that no other part has
 */
export function startPiece({ charts }: Pick<Design, 'charts'>, newId: () => string): Piece {
  const [first] = charts as [Chart];
  const { construction, firstRow } = first;
  const ground = (stitches: number, pair: string | null = null) =>
    ({ id: newId(), kind: 'ground', stitches, pair }) as const;
  const edge = () => ({ id: newId(), kind: 'selvage', stitches: 1, style: 'garter' }) as const;
  const chartPart = (c: Chart) =>
    repeatsAcross(c) && c.part === 'piece'
      ? { id: newId(), kind: 'filling', chart: c.id, repeats: timesOf(c), least: leastOf(c) }
      : { id: newId(), kind: 'panel', chart: c.id };
  const panels = charts.flatMap((c, i) => [...(i ? [ground(2)] : []), chartPart(c)]);
  const isWhole = charts.length === 1 && first.part === 'piece';
  const edges = wayOf(first).hasEdges && !isWhole ? [edge] : [];
  const sides = isWhole ? [] : [() => ground(6, 'sides')];
  const right = [...edges, ...sides].map((make) => make());
  const left = [...sides, ...edges].map((make) => make());
  return PieceSchema.parse({ construction, firstRow, parts: [...right, ...panels, ...left] });
}

import { isCrossed, type Band } from '../chart/bands.js';
import { Lately } from '../remember.js';
import { CASING, OUTLINE, path, type Shape } from './shape.js';

/**
 * A band as it lies between two rounds, one line high: strands that run along the round and cross every so many stitches, from
 * the right, always the same way, as those of a rope; or one strand of stitches that lie on their sides.
 */

const THICK = 0.16;
const [UPPER, LOWER] = [0.27, 0.73];
/** How far to either side of its middle a crossing reaches, in columns. */
const REACH = 0.9;

interface Piece {
  from: number;
  to: number;
  /** Heights of its middle at both ends. */
  at: number;
  goes: number;
}

/** One edge of a piece, from its right end to its left. */
const edge = ({ from, to, at, goes }: Piece, dy: number): (string | number)[] => {
  const bend = (from - to) / 2;
  return ['C', from - bend, at + dy, to + bend, goes + dy, to, goes + dy];
};

/** Pieces that follow each other, as one strand to be filled. */
function strandPath(pieces: readonly Piece[]): string {
  const first = pieces[0]!;
  const back = [...pieces].reverse();
  return path(
    ...['M', first.from, first.at - THICK],
    ...pieces.flatMap((piece) => edge(piece, -THICK)),
    ...['L', back[0]!.to, back[0]!.goes + THICK],
    ...back.flatMap(({ from, to, at, goes }) => edge({ from: to, to: from, at: goes, goes: at }, THICK)),
    'Z',
  );
}

const edgesPath = (pieces: readonly Piece[]): string =>
  path(
    ...[-THICK, THICK].flatMap((dy) => [
      ...['M', pieces[0]!.from, pieces[0]!.at + dy],
      ...pieces.flatMap((piece) => edge(piece, dy)),
    ]),
  );

const drawn = new Lately<readonly Shape[]>();

/** The shapes of a band over so many columns, in cells from its upper left corner. */
export const drawLyingBand = (columns: number, band: Band): readonly Shape[] =>
  drawn.of(`${columns} ${isCrossed(band) ? band.every : 0}`, () =>
    isCrossed(band) ? crossed(columns, band.every) : lying(columns),
  );

/** One strand of stitches on their sides. */
function lying(columns: number): Shape[] {
  const strand = [{ from: columns, to: 0, at: 0.5, goes: 0.5 }];
  const stitches = Array.from({ length: columns }, (_, c) => [
    ...['M', c + 0.7, 0.5 - THICK, 'L', c + 0.3, 0.5, 'L', c + 0.7, 0.5 + THICK],
  ]).flat();
  return [
    { d: strandPath(strand), fill: 'rope' },
    { d: edgesPath(strand), stroke: 'outline', width: OUTLINE },
    { d: path(...stitches), stroke: 'outline', width: 0.04 },
  ];
}

function crossed(columns: number, every: number): Shape[] {
  // The first stretch has the travelling stitch among its loops.
  const middles: number[] = [];
  for (let c = every - 1; c < columns; c += every) middles.push(columns - c);
  const reach = Math.min(REACH, every / 2.2);
  const heights: [number, number] = [UPPER, LOWER];
  const strands = heights.map((begins): Piece[] => {
    let at = begins;
    let from = columns;
    const pieces: Piece[] = [];
    for (const middle of middles) {
      const goes = at === UPPER ? LOWER : UPPER;
      const [right, left] = [Math.min(columns, middle + reach), Math.max(0, middle - reach)];
      if (from > right) pieces.push({ from, to: right, at, goes: at });
      pieces.push({ from: Math.min(from, right), to: left, at, goes });
      [at, from] = [goes, left];
    }
    if (from > 0) pieces.push({ from, to: 0, at, goes: at });
    return pieces;
  });
  const plain = strands.flatMap((pieces): Shape[] => [
    { d: strandPath(pieces), fill: 'rope' },
    { d: edgesPath(pieces), stroke: 'outline', width: OUTLINE },
  ]);
  // What rises passes over, whichever strand it is.
  const over = strands.flat().filter(({ at, goes }) => at > goes);
  return [
    ...plain,
    ...over.flatMap((piece): Shape[] => [
      { d: edgesPath([piece]), stroke: 'casing', width: CASING },
      { d: strandPath([piece]), fill: 'rope' },
      { d: edgesPath([piece]), stroke: 'outline', width: OUTLINE },
    ]),
  ];
}

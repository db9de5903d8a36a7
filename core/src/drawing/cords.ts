import { crossingOrder, crossingSize, stitchesBefore, type Crossing } from '../stitches/crossing.js';
import { faceOf, type Worked } from '../stitches/face.js';
import { CASING, circle, OUTLINE, path, ropeInk, type Ink, type PlainSchool, type Shape } from './shape.js';

/** Half the width of a cord, in cells; a purl stitch is a thin strand of the ground that passes. */
const CORD = 0.33;
const STRAND = 0.13;
const THIN_OUTLINE = 0.04;
/** Where along the cell's height the S leaves the upright. */
const BEND = 0.38;

interface Strip {
  /** Middle of the strip at the bottom and at the top, in cells from the left. */
  bottom: number;
  top: number;
  worked: Worked;
  /** The ink of its rope, where ropes are told apart. */
  ink?: Ink;
}

/** One edge of a strip: an S from bottom to top that begins and ends upright, so that rows join. */
function edge(from: number, to: number): (string | number)[] {
  return ['C', from, 1 - BEND, to, BEND, to, 0];
}

const knitStrip = ({ worked }: Strip) => faceOf(worked) === 'knit';

/** Half the width of a strip. */
const halfOf = (b: Strip): number => (knitStrip(b) ? CORD : STRAND);

/** The whole strip, to be filled. */
function stripPath(strip: Strip): string {
  const { bottom, top } = strip;
  const half = halfOf(strip);
  return path(
    'M',
    bottom - half,
    1,
    ...edge(bottom - half, top - half),
    'L',
    top + half,
    0,
    ...['C', top + half, BEND, bottom + half, 1 - BEND, bottom + half, 1],
    'Z',
  );
}

/** Its two edges, to be stroked: open at both ends, so that cords run on from row to row. */
function stripEdges(strip: Strip): string {
  const { bottom, top } = strip;
  const half = halfOf(strip);
  const side = (dx: number) => ['M', bottom + dx, 1, ...edge(bottom + dx, top + dx)];
  return path(...side(-half), ...side(half));
}

/** The marks on a strip: the school's purl mark where the stitch comes to lie, a tie across a twisted stitch. */
function stripMarks({ bottom, top, worked }: Strip, plain: PlainSchool): Shape[] {
  const marks: Shape[] = [];
  if (faceOf(worked) === 'purl')
    marks.push(
      plain === 'empty'
        ? { d: circle(top, 0.24, 0.095), fill: 'mark' }
        : { d: path('M', top - 0.2, 0.24, 'L', top + 0.2, 0.24), stroke: 'mark', width: 0.095 },
    );
  if (worked === 'ktbl' || worked === 'ptbl')
    marks.push({
      d: path('M', top - 0.26, 0.08, 'L', top + 0.26, 0.2, 'M', bottom - 0.26, 0.8, 'L', bottom + 0.26, 0.92),
      stroke: 'mark',
      width: 0.07,
    });
  return marks;
}

function drawStrips(strips: readonly Strip[], fill: Ink, over: boolean, plain: PlainSchool): Shape[] {
  const cords = strips.filter(knitStrip);
  const strands = strips.filter((b) => !knitStrip(b));
  const halo = (b: Strip): Shape => ({ d: stripEdges(b), stroke: 'casing', width: CASING });
  return [
    ...(over ? strips.map(halo) : []),
    ...strands.map((b): Shape => ({ d: stripPath(b), fill: 'strand' })),
    ...strands.map((b): Shape => ({ d: stripEdges(b), stroke: 'outline', width: THIN_OUTLINE })),
    ...cords.map((b): Shape => ({ d: stripPath(b), fill: b.ink ?? fill })),
    ...cords.map((b): Shape => ({ d: stripEdges(b), stroke: 'outline', width: OUTLINE })),
    ...strips.flatMap((b) => stripMarks(b, plain)),
  ];
}

/**
 * A crossing as cords, one row high. What lies deepest comes first: the centre, then the back group, then the
 * front group in one smooth S with a casing that interrupts what passes under it. `feet` are the columns, from the
 * crossing's right end, that its loops stand in below where a gap lies between them: its cords slant from there. `ropes`
 * are the ropes of its loops from the right above it, where these are told apart by colour (-1 for none).
 */
export function drawCrossing(
  c: Crossing,
  plain: PlainSchool = 'empty',
  feet?: readonly number[],
  ropes?: readonly number[],
): Shape[] {
  const n = crossingSize(c);
  const order = crossingOrder(c);
  const before = stitchesBefore(c);
  const strips = { front: [] as Strip[], centre: [] as Strip[], back: [] as Strip[] };
  order.forEach((from, to) => {
    const { group, worked } = before[from]!;
    const rope = ropes?.[to] ?? -1;
    const strip: Strip = { bottom: n - (feet?.[from] ?? from) - 0.5, top: n - to - 0.5, worked };
    strips[group].push(rope < 0 ? strip : { ...strip, ink: ropeInk(rope) });
  });
  return [
    ...drawStrips(strips.centre, 'under', false, plain),
    ...drawStrips(strips.back, 'under', c.centre.length > 0, plain),
    ...drawStrips(strips.front, c.lean, true, plain),
  ];
}

/** A piece of cord for a knit stitch of a rope between its crossings; it slants where its loop stands beside it below. */
export function drawCord(foot = 0, rope = -1): Shape[] {
  const strip: Strip = { bottom: 0.5 - foot, top: 0.5, worked: 'k' };
  return [
    { d: stripPath(strip), fill: rope < 0 ? 'rope' : ropeInk(rope) },
    { d: stripEdges(strip), stroke: 'outline', width: OUTLINE },
  ];
}

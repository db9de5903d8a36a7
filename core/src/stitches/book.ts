import { z } from 'zod';
import { ofEach } from '../remember.js';
import { boundedText, boundedTitle } from '../values.js';
import {
  behindCrossing,
  crossingFaces,
  crossingId,
  crossingOrder,
  crossingSize,
  mirrorCrossing,
  workedAfter,
  type Crossing,
} from './crossing.js';
import { isTwisted, type Face } from './face.js';
import { NO_STITCH, STITCH_KINDS, type StitchKind } from './kinds.js';

/** What stands in a row: the id of a stitch kind, or a crossing. */
export type Stitch = string | Crossing;

export const isCrossing = (stitch: Stitch): stitch is Crossing => typeof stitch !== 'string';

const word = z
  .string()
  .trim()
  .min(1)
  .max(24)
  .regex(
    /^[A-Za-z][A-Za-z0-9/+-]*( [A-Za-z0-9/+-]+)*$/,
    'A word begins with a letter and holds letters, figures, single spaces and / + - only.',
  );

/** Marks a designer may compose her own stitch's symbol from. */
export const OWN_MARKS = [
  'dot',
  'bar',
  'level',
  'rise',
  'fall',
  'ring',
  'wedge',
  'fork',
  'cross',
  'loop',
] as const;
export type OwnMark = (typeof OWN_MARKS)[number];

/** A stitch of the designer's own: checked and written like the ones in the table. */
export const OwnStitchSchema = z
  .object({
    id: z.string().regex(/^own-[a-z0-9-]{1,40}$/),
    name: boundedTitle(60),
    takes: z.int().min(0).max(12),
    makes: z.int().min(0).max(12),
    span: z.int().min(1).max(12),
    faces: z.array(z.enum(['knit', 'purl'])).max(12),
    marks: z.array(z.enum(OWN_MARKS)).min(1).max(3),
    rs: word,
    ws: word,
    rsSteps: boundedText(0, 300),
    wsSteps: boundedText(0, 300),
    /** Which stitch of her own is its mirror image, where it is not the same from both sides. */
    mirror: z
      .string()
      .regex(/^own-[a-z0-9-]{1,40}$/)
      .optional(),
  })
  .superRefine((own, ctx) => {
    if (own.faces.length !== own.makes)
      ctx.addIssue({
        code: 'custom',
        path: ['faces'],
        message: `It makes ${own.makes} loops, so it needs ${own.makes} faces.`,
      });
    if (own.takes + own.makes === 0)
      ctx.addIssue({
        code: 'custom',
        path: ['takes'],
        message: 'A stitch takes or makes at least one loop.',
      });
    if (own.span < own.makes)
      ctx.addIssue({
        code: 'custom',
        path: ['span'],
        message: `It makes ${own.makes} loops, so it covers at least ${own.makes} columns.`,
      });
  });

export type OwnStitch = z.infer<typeof OwnStitchSchema>;

/** Looks up any stitch: the table's kinds, the designer's own, and crossings. */
export interface StitchBook {
  /** The kind of an id, or undefined when no such stitch is known. */
  kind(id: string): StitchKind | undefined;
  /** All that counting and knitting need of a stitch, found once for each stitch. */
  facts(stitch: Stitch): StitchFacts;
  own: readonly OwnStitch[];
}

function ownKind(own: OwnStitch): StitchKind {
  // A line of the key is one line, however she broke hers.
  const line = (text: string) => text.replace(/\s+/g, ' ').trim();
  const [rsSteps, wsSteps] = [line(own.rsSteps), line(own.wsSteps)];
  return { ...own, rsSteps, wsSteps, group: 'own', mirror: own.mirror ?? own.id };
}

const NONE: readonly OwnStitch[] = [];

/** The book of a chart's own stitches; the same list gives the same book, so facts can be remembered by it. */
export function stitchBook(own: readonly OwnStitch[] = NONE): StitchBook {
  return bookOfList(own.length ? own : NONE);
}

const bookOfList = ofEach((own: readonly OwnStitch[]): StitchBook => {
  const kinds = new Map(own.map((o) => [o.id, ownKind(o)]));
  const ofKinds = new Map<string, StitchFacts>();
  // Crossings come and go; a book must not hold on to every one it was ever asked about.
  const ofCrossing = ofEach((crossing: Crossing) => findFacts(crossing, book));
  const book: StitchBook = {
    own,
    kind: (id) => STITCH_KINDS.get(id) ?? kinds.get(id),
    facts(stitch) {
      if (isCrossing(stitch)) return ofCrossing(stitch);
      let found = ofKinds.get(stitch);
      if (!found) {
        found = findFacts(stitch, book);
        // What is no stitch is not remembered: there may be any number of such words.
        if (book.kind(stitch)) ofKinds.set(stitch, found);
      }
      return found;
    },
  };
  return book;
});

const UNKNOWN: StitchKind = {
  id: '',
  name: 'unknown stitch',
  group: 'own',
  takes: 1,
  makes: 1,
  span: 1,
  faces: ['knit'],
  rs: '?',
  ws: '?',
  rsSteps: '',
  wsSteps: '',
  mirror: '',
};

/** The kind of a stitch that is not a crossing; an unknown id counts as one plain stitch. */
export function kindOf(id: string, book: StitchBook): StitchKind {
  return book.kind(id) ?? UNKNOWN;
}

/** What counting and knitting need of a stitch. */
export interface StitchFacts {
  takes: number;
  makes: number;
  span: number;
  faces: readonly Face[] | 'below';
  /** Which of the loops made are worked through the back. */
  twisted: readonly number[];
  continues: readonly number[];
  /** Whether every loop it takes is one it makes, in its place: nothing moves along the needle. */
  isStraight: boolean;
}

const NONE_TWISTED: readonly number[] = [];

function findFacts(stitch: Stitch, book: StitchBook): StitchFacts {
  if (isCrossing(stitch)) {
    const size = crossingSize(stitch);
    return {
      takes: size,
      makes: size,
      span: size,
      faces: crossingFaces(stitch),
      twisted: workedAfter(stitch).flatMap((w, i) => (isTwisted(w) ? [i] : [])),
      continues: crossingOrder(stitch),
      isStraight: false,
    };
  }
  const kind = kindOf(stitch, book);
  const { takes, makes, span, faces } = kind;
  const continues = continued(kind);
  return {
    takes,
    makes,
    span,
    faces,
    twisted: kind.twists ? [0] : NONE_TWISTED,
    continues,
    isStraight: takes === makes && continues.every((from, i) => from === i),
  };
}

/** The loop on top of a decrease is the leftmost where it leans right, the rightmost where it leans left, else the middle one. */
function continued({ takes, makes, group, lean }: StitchKind): number[] {
  if (group === 'decrease') return [lean ? (lean === 'left' ? 0 : takes - 1) : Math.floor(takes / 2)];
  return Array.from({ length: makes }, (_, i) => (i < takes ? i : -1));
}

export function takesOf(stitch: Stitch, book: StitchBook): number {
  return book.facts(stitch).takes;
}

export function makesOf(stitch: Stitch, book: StitchBook): number {
  return book.facts(stitch).makes;
}

/** Columns the stitch covers in the grid. */
export function spanOf(stitch: Stitch, book: StitchBook): number {
  return book.facts(stitch).span;
}

/**
 * For each loop made, from the right, which of the taken loops it continues (0 is the rightmost), or -1
 * for a new loop. A decrease continues the loop that lies on top.
 */
export function continuesOf(stitch: Stitch, book: StitchBook): readonly number[] {
  return book.facts(stitch).continues;
}

export function sameStitch(a: Stitch, b: Stitch): boolean {
  return a === b || (isCrossing(a) && isCrossing(b) && crossingId(a) === crossingId(b));
}

/** A text that is equal for equal stitches and only for them. */
export function stitchId(stitch: Stitch): string {
  return isCrossing(stitch) ? crossingId(stitch) : stitch;
}

/** Marks of a symbol that lean; each is the mirror image of the other. */
const LEANING: readonly OwnMark[] = ['rise', 'fall'];

/** Whether a stitch looks the same in a mirror: its faces from both ends, and its marks. */
function isEven({ faces, marks }: OwnStitch): boolean {
  const leaning = LEANING.filter((mark) => marks.includes(mark));
  return faces.every((face, i) => face === faces[faces.length - 1 - i]) && leaning.length !== 1;
}

/** Whether a stitch has a mirror image: only a designer's own may lack one, until she says which it is. */
export function hasMirror(stitch: Stitch, book: StitchBook): boolean {
  const own = book.own.find((o) => o.id === stitch);
  return !own || isEven(own) || book.own.some((o) => o.id === own.mirror);
}

/**
 * What the other side of the cloth shows of a stitch: knit and purl change places, a crossing keeps its lean and shows what lay
 * behind. What no stitch of the table looks like from behind (a bobble, a yarn over, three out of one) stands for itself; one of the
 * designer's own is told anew with its words exchanged (`ownBehind`).
 */
export function behindStitch(stitch: Stitch): Stitch {
  return isCrossing(stitch) ? behindCrossing(stitch) : (BEHIND.get(stitch) ?? stitch);
}

/** By the words: what is worked on one side as another is on the other is what that one looks like from behind. */
const BEHIND: ReadonlyMap<string, string> = new Map([
  ...[...STITCH_KINDS.values()].flatMap(({ id, rs, ws }) => {
    const other = [...STITCH_KINDS.values()].find((o) => o.rs === ws && o.ws === rs);
    return other && rs !== ws ? [[id, other.id] as const] : [];
  }),
  // Lifted out of its other neighbour, seen from there.
  ['lli', 'rli'],
  ['rli', 'lli'],
]);

/** A stitch of her own as the other side of the cloth has it. */
export const ownBehind = (own: OwnStitch): OwnStitch => ({
  ...own,
  faces: [...own.faces].reverse().map((face) => (face === 'knit' ? 'purl' : 'knit')),
  rs: own.ws,
  ws: own.rs,
  rsSteps: own.wsSteps,
  wsSteps: own.rsSteps,
});

/** Whether a stitch can be worked on pairs of loops: knit or purl, which say the yarn that shows, or whole pairs that change places. */
export const isOfPairs = (stitch: Stitch): boolean =>
  isCrossing(stitch)
    ? ![...stitch.front, ...stitch.centre, ...stitch.back].some(isTwisted)
    : stitch === 'k' || stitch === 'p' || stitch === NO_STITCH;

/** Whether a stitch shows on one face only, so that the other has something else there. */
export const isOneFaced = (stitch: Stitch): boolean =>
  stitch === 'mb' ||
  (!isCrossing(stitch) &&
    STITCH_KINDS.get(stitch)?.group === 'increase' &&
    !BEHIND.has(stitch) &&
    stitch !== 'yo');

/** A stitch as a mirror shows it; as it is where it has no mirror image. */
export function mirrorStitch(stitch: Stitch, book: StitchBook): Stitch {
  return isCrossing(stitch) ? mirrorCrossing(stitch) : (book.kind(stitch)?.mirror ?? stitch);
}

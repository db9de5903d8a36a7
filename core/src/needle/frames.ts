import type { Face } from '../stitches/face.js';
import { Braid } from './braid.js';
import { loopOf, type Loop } from './loop.js';

/** A loop in a picture of the hands: how it presents to the knitter, its yarn, and what it is called. */
export interface ShownLoop {
  /** Equal in pictures that follow each other for the same loop, and for one drawn through it. */
  id: string;
  label: string;
  face: Face;
  yarn: 'A' | 'B';
  /** It has just been worked. */
  isNew: boolean;
}

/** The loops on both needles at one moment, those nearest to the tips first, and what is done there. */
export interface HandFrame {
  said: string;
  left: ShownLoop[];
  right: ShownLoop[];
  /** What cable needles hold, before the other needles or behind them. */
  held?: { loops: ShownLoop[]; hold: 'front' | 'back' }[];
}

const shown = (id: string, label: string, loop: Loop, isNew = false): ShownLoop => ({
  id,
  label,
  face: loop.face,
  yarn: loop.yarn ? 'B' : 'A',
  isNew,
});

/** Stitches in the picture of a braid step. */
const STITCHES = 3;

/** One braid step, moment by moment, as the needle of a band has its loops. */
export function braidStepFrames(): HandFrame[] {
  const braid = new Braid(STITCHES);
  braid.do('cast-on');
  const knit = loopOf('knit');
  const loops = (names: readonly (number | 'travelling')[], fresh: readonly (number | 'travelling')[] = []) =>
    names.map((name) =>
      shown(String(name), name === 'travelling' ? '~' : String(name + 1), knit, fresh.includes(name)),
    );
  const before = braid.order();
  const [travelling, second] = before.waiting as ['travelling', number];
  const worked = (...names: (number | 'travelling')[]) => [
    ...loops([...names].reverse(), names.slice(-1)),
    ...loops([...before.worked].reverse()),
  ];
  braid.do('step');
  const after = braid.order();
  return [
    {
      said: 'The travelling stitch (~) waits first.',
      left: loops(before.waiting),
      right: loops(before.worked),
    },
    {
      said: 'Knit the second stitch through its back loop from behind, and leave it on.',
      left: loops(before.waiting),
      right: worked(second),
    },
    { said: 'Knit the first.', left: loops(before.waiting), right: worked(second, travelling) },
    { said: 'Let both go.', left: loops(before.waiting.slice(2)), right: worked(second, travelling) },
    {
      said: 'Slip the stitch worked last back: it lies along one stitch more.',
      left: loops(after.waiting),
      right: loops([...after.worked].reverse()),
    },
  ];
}

/** A pair that shows A and one that shows B, worked one after the other on side 1. */
export function pairFrames(): HandFrame[] {
  const pairs = (['A', 'B'] as const).flatMap((front, p) => {
    const back = front === 'A' ? 'B' : 'A';
    return [
      { id: `${p} front`, yarn: front, face: 'knit' as Face },
      { id: `${p} back`, yarn: back, face: 'purl' as Face },
    ];
  });
  const loopsOf = (some: typeof pairs, fresh = -1) =>
    some.map(({ id, yarn, face }, i) =>
      shown(id, '', loopOf(face, false, 0, 0, yarn === 'B' ? 1 : 0), i === fresh),
    );
  const SAID = [
    'Both yarns lie in back.',
    'Knit the first loop of the pair with the yarn it shows.',
    'Both yarns to the front; purl the other loop with the other yarn.',
    'The next pair shows the other yarn: both yarns to the back, knit it with that.',
    'Both to the front, purl with the first yarn. Two fabrics, back to back.',
  ];
  return SAID.map((said, n) => ({
    said,
    left: loopsOf(pairs.slice(n)),
    right: loopsOf(pairs.slice(0, n).reverse(), n ? 0 : -1),
  }));
}

import { z } from 'zod';
import { FLAT } from './flat.js';
import { ROUND } from './round.js';
import type { Way } from './way.js';

const YARNS =
  'A pair is one stitch in each of the yarns A and B, worked one after the other with both yarns in back for the knit and both in front for the purl.';
/** Twisted at the edge, they lock the two fabrics. */
const EDGES = 'At the beginning of every row twist the yarns once, B over A.';

const TRAINS = [
  'Hold both yarns together. Before each knit both lie in back, before each purl both lie in front: a yarn on the wrong side of a loop ties the two fabrics together.',
  'A crossing moves whole pairs. Slip all their loops to the cable needle; off it they spring apart, knit ones to the front and purl ones to the back, so pinch close if you work without one.',
  'Each loop is worked again in its own colour: the colours of a rope trade places where it crosses.',
] as const;

/**
 * Double knitting in two yarns: two fabrics back to back, worked at once. A cell is a pair of loops, one of yarn A and one of yarn B,
 * one knit towards the knitter's side and one purled. What a pair shows on side 1 it shows exchanged on side 2, as a knit shows as a
 * purl: so a knit cell is a pair that shows A on side 1, a purl cell one that shows B, and all that holds of faces holds of colours
 * (common practice, no source).
 */
const DOUBLED = {
  loops: 2,
  takesBands: false,
  // The loops of a pair wait one behind the other on one needle.
  beds: 1,
  checks: ['not-in-pairs', 'colours-home'],
  // What is said of purl ground and of single stitches.
  without: [
    'odd-group',
    'one-faced',
    'odd-ribbed-group',
    'rope-purled',
    'ground-over-rope',
    'ground-changes',
    'narrow-gutter',
    'dense-cloth',
    'long-slip',
    'crossing-at-edge',
  ],
} as const;

/** Back and forth, sides 1 and 2 in turn. */
export const DOUBLE = {
  ...FLAT,
  ...DOUBLED,
  id: 'double',
  name: 'double knitting, back and forth',
  worked: 'flat in double knitting',
  called: ['double knitting', 'in double knitting', 'double knit', 'double-knit', 'flat in double knit'],
  settings: z.object({ firstRow: FLAT.settings.shape.firstRow }),
  says: [YARNS, EDGES],
  trains: TRAINS,
  checks: [...DOUBLED.checks, 'odd-row-repeat'],
} as const satisfies Way;

/** Round and round: side 1 always, outside. */
export const DOUBLE_ROUND = {
  ...ROUND,
  ...DOUBLED,
  id: 'double-round',
  name: 'double knitting, in the round',
  worked: 'in the round in double knitting',
  called: ['double knitting in the round', 'in the round in double knit'],
  settings: z.object({}),
  says: [YARNS],
  trains: TRAINS,
  checks: [...DOUBLED.checks, 'round-start'],
} as const satisfies Way;

import { allWays, type WayId } from '../../construction/index.js';
import type { Chart } from '../../chart/schema.js';
import type { Side } from '../../stitches/face.js';
import type { Rest } from '../pattern.js';

/**
 * What the proof knows of each way of working, by its own account and on purpose: a slip in `construction` must not be able to
 * hide here. Rows count from 1. A way that stands in the list there and not here proves nothing.
 */
export interface ProvedWay {
  /** What its rows must be called. */
  calls: 'row' | 'round';
  /** The side of a row. */
  side: (row: number, first: Side) => Side;
  /** Whether its sides may have numbers, where both faces count. */
  hasNumbers: boolean;
  /** How many loops a cell of the chart is. */
  loops: 1 | 2;
  /** Whether rows must say their side. */
  saysSide: boolean;
  /** How many stitches more stand before the repeat in a row that is shifted so far, where stitches stand beside the repeat or none do. */
  before: (jog: number, isAllRepeat: boolean) => number;
  /** How many stitches after the place where the cast-on was joined such a row begins. */
  start: (jog: number) => number;
  /** Whether garter stitch shows its purl side in a row, by its number in the cloth (from 0) and its side. */
  ridge: (n: number, side: Side) => boolean;
  /** Whether two rows may share one line, told with the first of them. */
  alike: (a: number, b: number, first: Side) => boolean;
  /** Whether "and all ..." says that kind of a row. */
  rest: (rest: Rest, row: number, first: Side) => boolean;
}

const flatSide: ProvedWay['side'] = (row, first) => (row % 2 === 1 ? first : first === 'RS' ? 'WS' : 'RS');

const FLAT: ProvedWay = {
  calls: 'row',
  side: flatSide,
  hasNumbers: true,
  loops: 1,
  saysSide: true,
  before: (jog) => jog,
  start: () => 0,
  ridge: (_, side) => side === 'WS',
  alike: (a, b, first) => flatSide(a, first) === flatSide(b, first),
  rest: (rest, row, first) => 'side' in rest && rest.side === flatSide(row, first),
};

const ROUND: ProvedWay = {
  calls: 'round',
  side: () => 'RS',
  hasNumbers: true,
  loops: 1,
  saysSide: false,
  before: (jog, isAllRepeat) => (isAllRepeat ? 0 : -jog),
  start: (jog) => jog,
  ridge: (n) => n % 2 === 1,
  alike: (a, b) => a % 2 === b % 2,
  rest: (rest, row) => 'parity' in rest && rest.parity === row % 2,
};

/** In pairs: the sides have numbers of themselves, and no word says that both count. */
const IN_PAIRS = { hasNumbers: false, loops: 2 } as const;

const WAYS = new Map<string, ProvedWay>([
  ['flat', FLAT],
  ['round', ROUND],
  ['double', { ...FLAT, ...IN_PAIRS }],
  ['double-round', { ...ROUND, ...IN_PAIRS }],
]);

/** Takes the proof's account of a way that is tried before it is put in the list. */
export const addProvedWay = (id: WayId, way: ProvedWay): void => void WAYS.set(id, way);

/** Ways that could be chosen and not proved; none. */
export const unprovedWays = (): string[] => allWays().flatMap(({ id }) => (WAYS.has(id) ? [] : [id]));

export function provedWay({ construction }: Pick<Chart, 'construction'>): ProvedWay {
  const way = WAYS.get(construction);
  if (!way) throw new Error(`The proof knows nothing of work called ${construction}.`);
  return way;
}

import type { Style } from '../chart/schema.js';
import type { Hand } from '../construction/index.js';
import type { Alike, Way, WayId } from '../construction/index.js';
import type { BandItem } from '../needle/braid.js';
import type { Lean, Side, Worked } from '../stitches/face.js';
import type { TwistWay } from '../stitches/twist.js';

/**
 * A written pattern as a tree. The writer makes it of a chart, `render` sets it as text, the grammar reads a text
 * back into it, and the proof holds the one that was read against the chart.
 */
export interface Pattern {
  head: Head;
  multiple: Multiple | null;
  castOn: CastOn | null;
  rows: RowLine[];
  /** Bands between its rounds, from the bottom. */
  bands: BandLine[];
  plan: Planned[] | null;
  key: KeyLine[];
}

/** A band before a row: its rounds, or that it is as an earlier one. */
export interface BandLine {
  before: number;
  body: { as: number } | BandTold;
}

export interface BandTold {
  /** The stitches it is worked over. */
  over: number;
  /** With one stitch more they are a multiple of this, where its strands cross. */
  multiple: number | null;
  /** What each of its rounds works, and the loops on the needle after it. */
  rounds: { items: readonly BandItem[]; count: number }[];
}

/** The lines of the rows in the order they are printed: a band stands before the line of its row, or the next there is. */
export function linesInOrder({ rows, bands }: Pick<Pattern, 'rows' | 'bands'>): (RowLine | BandLine)[] {
  const waiting = [...bands];
  const lines = rows.flatMap((line): (RowLine | BandLine)[] => {
    const [row = 0] = line.numbers;
    const before = waiting.filter((band) => band.before <= row);
    waiting.splice(0, before.length);
    return [...before, line];
  });
  return [...lines, ...waiting];
}

export const isBandLine = (line: RowLine | BandLine): line is BandLine => 'before' in line;

/** How it is worked, and by whom; null where a text does not say. */
export interface Head {
  construction: WayId | null;
  /** Both of its faces count, and its sides are told by number. */
  bothFaces: boolean;
  /** What the numbers in names of crossings count where stitches are pairs; null where they are not, or nothing says it. */
  names: Style['pairNames'] | null;
  hand: Hand;
}

/** "Multiple of 6 sts plus 2, at least 14; of 8 plus 2 after row 5." */
export interface Multiple {
  of: number;
  plus: number;
  /** The fewest stitches it may be worked on, where the form alone would allow fewer. */
  least: number | null;
  /** The multiple as it is after a row that changes it. */
  changes: { of: number; plus: number; after: number }[];
}

export interface CastOn {
  stitches: number;
  /** How many repeats they are, by the multiple in lowest form; null without a repeat. */
  repeats: number | null;
  /** Whether these are not cast on: it is a panel, worked over so many stitches of a piece. */
  isPanel?: boolean;
}

/** Rows that are worked so often before those after them; as often as is wished where `times` is null, to end with row `ends`. */
export interface Planned {
  from: number;
  to: number;
  times: number | null;
  ends?: number;
}

/** One line of written rows. */
export interface RowLine {
  /** Null where a text gives a bare number. */
  kind: Way['row'] | null;
  /** The numbers it is written under; none where it has a name instead, or only stands for others. */
  numbers: number[];
  /** "set-up", "next", "inc": a row without a number, which follows the one before it. */
  named?: string;
  /**
   * "and all WS rows", "and all even rounds": the line also holds for those not written elsewhere. A parity of
   * null is that of the row itself ("and every alternate row").
   */
  rest: Rest | null;
  side: Side | null;
  body: Body;
  /** Stitches the needle holds after the row. */
  count: number | null;
  /** How many stitches more, or (negative) fewer, a text says that the needle holds after it. */
  changed?: number;
}

/** The rows a line also holds for: those of a side, or of a parity, but for some. */
export type Rest = (Alike | { parity: null }) & { but?: number[] };

/**
 * What a row says: as other rows in turn (with some words put for others), as the stitches present, one cloth all over,
 * one stitch in turn from row to row, a rib or moss that goes on as it is begun, or its words. What it says may not
 * have been understood.
 */
export type Body =
  | { type: 'as'; rows: number[]; swaps?: { from: string; to: string }[] }
  | { type: 'turns'; words: ('k' | 'p')[] }
  | { type: 'rib'; items: Item[]; goesOn?: boolean }
  | { type: 'moss'; goesOn?: boolean }
  | { type: 'unread' }
  | { type: 'presented' }
  | { type: 'cloth'; cloth: 'stocking' | 'reverse' | 'garter' }
  | AsSet
  | { type: 'items'; items: Item[] };

/**
 * Rows of a piece that go on as they are set: each panel by its next row, all else as so many rows below; the rule is told where it
 * is first gone by.
 */
export interface AsSet {
  type: 'asSet';
  rule: { every: number; hasPanels: boolean } | null;
}

/** A panel of a piece, worked by a row of its chart: over so many stitches, and leaving so many, where that is told. */
export interface PanelItem {
  type: 'panel';
  name: string;
  row: number;
  over: number | null;
  after: number | null;
}

/**
 * What stands in a row, in working order. A marker is that of the round, moved on by so many stitches or (negative)
 * back; `present` works so many stitches, or all before the last ones, as they present; what is `aside` works none, but
 * may place, slip or remove a marker of the knitter's own.
 */
export type Item =
  | { type: 'word'; word: string; spelled: Move[] | null }
  | { type: 'spelled'; moves: Move[] }
  | { type: 'group'; items: Item[]; times: number }
  | { type: 'star'; items: Item[]; until: Until }
  | { type: 'rest'; word: 'k' | 'p'; last: number; toMarker?: boolean }
  | { type: 'marker'; by: number }
  | { type: 'present'; n: number | null; last: number }
  | PanelItem
  | { type: 'aside'; text: string; mark?: 'place' | 'slip' | 'remove' };

/**
 * Where a repeat ends: before the last stitches (of the row, or before the next marker), after so many more times, or
 * where the words after it fit.
 */
export type Until = { last: number; marker?: true } | { more: number } | { tail: true };

/**
 * One thing the hands do in a crossing. Cable needle 2 holds a centre group; where both are held on one side,
 * `depth` says whether it lies behind the other or before it, as the knitter sees them.
 */
export type Move =
  | { slip: number; needle: 1 | 2; hold: 'front' | 'back'; depth: 'behind' | 'before' | null }
  | { work: readonly Worked[]; from: 'left' | 1 | 2 };

/** One line of the key; a side is named where the word is worked otherwise on the other. */
export interface KeyLine {
  word: string;
  side: Side | null;
  steps: Steps;
  /** Another way than the cable needle. */
  loose: Loose | null;
}

/** What the hands do: a crossing by its moves, or two stitches that change places on the needle itself; anything else in words. */
export type Steps = { type: 'moves'; moves: Move[] } | Twist | { type: 'words'; text: string };

/** A crossing without a cable needle. */
export type Loose = Reorder | Twist;

/** The loops are put in order on the needle they wait on, and worked from there. Places count from 1. */
export interface Reorder {
  type: 'reorder';
  /** The needle that enters them: the right one, or a left-handed knitter's left one. */
  needle: Lean;
  enter: { from: number; to: number };
  way: 'behind' | 'front';
  /** How many slide off in all. */
  slide: number;
  /** How many hang loose, and where they are pinched. */
  pinch: number;
  hold: 'front' | 'back';
  first: readonly Worked[];
  second: readonly Worked[];
}

/** Two stitches that change places on the needle itself. */
export interface Twist extends TwistWay {
  type: 'twist';
  work: 'k' | 'p';
}

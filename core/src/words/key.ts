import { sideOf, wayOf } from '../construction/index.js';
import { stitchUse } from '../chart/edits.js';
import { markerMoved } from '../chart/frame.js';
import type { Chart, Settings } from '../chart/schema.js';
import type { Hand } from '../construction/index.js';
import { nameOf } from '../names/schools.js';
import { isCrossing, kindOf, makesOf, stitchId, takesOf, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { cableMoves, looseOf, twistBy } from './moves.js';
import type { Crossing } from '../stitches/crossing.js';
import type { KeyLine, Move, Steps } from './pattern.js';
import { keyWordText, mannerOf, saysItself, withoutNumber, type Manner } from './manner.js';
import { looseText, stepsText } from './render.js';
import { kindSteps, beginsRight, wordOf, type Diction } from './vocabulary.js';

/** One entry of the key: a symbol's stitch, what it is called and worked as on the sides it is written on. */
export interface KeyEntry {
  /** Null for a word that is no stitch of a chart: what the steps of others say, markers. */
  stitch: Stitch | null;
  name: string;
  takes: number;
  makes: number;
  sides: { side: Side; word: string; steps: string; loose?: string }[];
}

export type KeySettings = Pick<Settings, 'twist' | 'cableless' | 'bobble'>;

/** The stitches that the written rows work, by side; rows worked as they present name none. */
export type Used = Record<Side, ReadonlyMap<string, Stitch>>;

const WORK = { k: 'knit', p: 'purl' } as const;

/**
 * How to work a bobble of so many loops; its size is a setting. It is told in words that need no key of their
 * own: so many loops out of one stitch, a row over them, and all of them into one.
 */
function bobbleSteps(size: number, side: Side): string {
  const [a, b] = side === 'RS' ? [WORK.k, WORK.p] : [WORK.p, WORK.k];
  const into = Array.from({ length: size }, (_, i) => (i % 2 === 0 ? a : 'yarn over')).join(', ');
  return `${into} into the stitch, turn, ${b} ${size}, turn, ${a} ${size} together`;
}

function stepsOf(stitch: Stitch, side: Side, settings: KeySettings, diction: Diction): Steps {
  if (isCrossing(stitch))
    return (
      twistBy(settings.twist, stitch, side, diction.hand) ?? {
        type: 'moves',
        moves: cableMoves(stitch, side, diction.hand),
      }
    );
  if (stitch === 'mb') return { type: 'words', text: bobbleSteps(settings.bobble, side) };
  return { type: 'words', text: kindSteps(kindOf(stitch, diction.book), side, diction) };
}

/** What a chart brings to the key: the stitches its rows write out, by side, and the words they are written with. */
export interface KeyPart {
  chart: Chart;
  used: Used;
  diction: Diction;
  /** Marks of the knitter's own that stand in them, and words of bands. */
  marks?: readonly MarkWord[];
}

/** What is written of markers and of bands, which no stitch of a chart stands for, and what it tells the hands. */
export const MARK_WORDS = {
  pm: 'place a marker',
  sm: 'slip the marker',
  'knit on':
    'knit into the first stitch and leave it on the needle, put the new loop beside it: it is the travelling stitch',
  'braid step':
    'knit the second stitch through its back loop from behind and leave it on the needle, knit the first, let both go, slip the stitch worked last back to the left needle',
  'draw under':
    'take the travelling stitch off, draw it once under the lying stitch of the band round below, put it back',
} as const;
export type MarkWord = keyof typeof MARK_WORDS;

interface KeyStitch {
  stitch: Stitch;
  count: number;
  /** The charts that have it, the first of which says what it is. */
  parts: KeyPart[];
}

/** Stitches in the order a key tells them: knit, purl, others, crossings, the gap; most used first. */
function ordered(parts: readonly KeyPart[]): KeyStitch[] {
  const rank = (s: Stitch) => (s === 'k' ? 0 : s === 'p' ? 1 : isCrossing(s) ? 3 : s === NO_STITCH ? 4 : 2);
  const known = new Map<string, KeyStitch>();
  for (const part of parts)
    for (const { stitch, count } of stitchUse(part.chart)) {
      const own = part.chart.own.find((o) => o.id === stitch);
      const id = own ? JSON.stringify(own) : stitchId(stitch);
      const entry = known.get(id) ?? { stitch, count: 0, parts: [] };
      entry.count += count;
      entry.parts.push(part);
      known.set(id, entry);
    }
  return [...known.values()].sort((x, y) => rank(x.stitch) - rank(y.stitch) || y.count - x.count);
}

const SIDES: readonly Side[] = ['RS', 'WS'];

/** What the steps of a key say besides the words of the rows: "k", "sl", "k tbl". */
function wordsOfSteps(lines: readonly KeyLine[], spelled: readonly Move[][]): KeyLine[] {
  const words = new Map<string, string>();
  const look = (moves: readonly Move[]) => {
    for (const move of moves)
      if ('slip' in move) words.set('sl', 'slip purlwise');
      else
        for (const w of move.work)
          words.set(
            w.length > 1 ? `${w[0]} tbl` : w,
            `${WORK[w[0] as 'k' | 'p']}${w.length > 1 ? ' through the back loop' : ''}`,
          );
  };
  for (const { steps, loose } of lines) {
    if (steps.type === 'moves') look(steps.moves);
    if (loose?.type === 'reorder') look([loose.first, loose.second].map((work) => ({ work, from: 'left' })));
  }
  spelled.forEach(look);
  return [...words]
    .filter(([word]) => !lines.some((line) => line.word === word))
    .map(([word, text]) => ({ word, side: null, steps: { type: 'words', text }, loose: null }));
}

const MOVES_OF_MARKER = {
  on: 'slip that many stitches purlwise, yarn in back, and place the marker after them; the round begins there',
  back: 'slip that many of the stitches worked last back unworked, and place the marker before them; the round begins there',
} as const;

/** How the marker of the round is moved, each way that it is. */
function markerLines(parts: readonly KeyPart[], hand: Hand): KeyLine[] {
  const charts = parts.map(({ chart }) => chart);
  const ways = new Set(
    charts.flatMap((chart) =>
      chart.rows.flatMap((_, r): (keyof typeof MOVES_OF_MARKER)[] => {
        const moved = markerMoved(chart, r);
        return moved
          ? [beginsRight(sideOf(chart, r), { way: wayOf(chart), hand }) === moved > 0 ? 'on' : 'back']
          : [];
      }),
    ),
  );
  return [...ways].sort().map((way) => ({
    word: `move the marker ${way}`,
    side: null,
    steps: { type: 'words', text: MOVES_OF_MARKER[way] },
    loose: null,
  }));
}

/**
 * The key as lines, one a word: every word the rows of the charts use, and those that the steps use besides. A side is
 * named where the same word is worked in two ways, and always for a crossing on the WS, whose steps look like another's.
 */
export function keyOf(
  parts: readonly KeyPart[],
  settings: KeySettings & Pick<Settings, 'hand' | 'style'>,
): { lines: KeyLine[]; entries: KeyEntry[] } {
  type Way = { side: Side; line: KeyLine; isCrossing: boolean };
  const byWord = new Map<string, Way[]>();
  const spelled: Move[][] = [];
  const { hand } = settings;
  const manner = mannerOf(settings.style);
  const entries = ordered(parts).map(({ stitch, parts: having }): KeyEntry => {
    const { diction } = having[0]!;
    const sides = SIDES.filter(
      (side) => stitch !== NO_STITCH && having.some(({ used }) => used[side].has(stitchId(stitch))),
    );
    return {
      stitch,
      name: isCrossing(stitch)
        ? (nameOf(stitch, diction.naming) ??
          `${stitch.front.length} over ${stitch.back.length}, leaning ${stitch.lean}`)
        : kindOf(stitch, diction.book).name,
      takes: takesOf(stitch, diction.book),
      makes: makesOf(stitch, diction.book),
      sides: sides.map((side) => {
        const word = wordOf(stitch, side, diction);
        const steps = stepsOf(stitch, side, settings, diction);
        const loose = steps.type === 'moves' ? looseOf(stitch as Crossing, side, settings, hand) : null;
        if (word === null) spelled.push(cableMoves(stitch as Crossing, side, hand));
        else {
          const line = { word: withoutNumber(word), side: null, steps, loose };
          const known = byWord.get(line.word) ?? [];
          if (!known.some((way) => stepsText(way.line.steps) === stepsText(steps)))
            known.push({ side, line, isCrossing: isCrossing(stitch) });
          byWord.set(line.word, known);
        }
        return {
          side,
          word: word === null ? `(${stepsText(steps, manner)})` : keyWordText(withoutNumber(word), manner),
          steps: stepsText(steps, manner),
          loose: loose ? looseText(loose, manner) : undefined,
        };
      }),
    };
  });
  const lines = [...byWord.values()].flatMap((ways) =>
    ways.map(({ side, line, isCrossing: crosses }): KeyLine => {
      const marked = ways.length > 1 || (crosses && side === 'WS');
      return marked ? { ...line, side } : line;
    }),
  );
  const isTold = ({ word, steps }: KeyLine) => !saysItself(word, stepsText(steps), manner);
  // What no symbol stands for, is told after those that have one.
  const [inSteps, besides] = [
    wordsOfSteps(lines, spelled),
    [...markLines(parts), ...markerLines(parts, hand)],
  ];
  return {
    lines: [...inSteps, ...lines, ...besides].filter(isTold),
    entries: [...entries, ...[...inSteps, ...besides].filter(isTold).map((line) => wordEntry(line, manner))],
  };
}

/** A word without a symbol as an entry. */
const wordEntry = ({ word, steps }: KeyLine, manner: Manner): KeyEntry => ({
  stitch: null,
  name: keyWordText(word, manner),
  takes: 0,
  makes: 0,
  sides: [{ side: 'RS', word: keyWordText(word, manner), steps: stepsText(steps, manner) }],
});

const markLines = (parts: readonly KeyPart[]): KeyLine[] =>
  [...new Set(parts.flatMap(({ marks = [] }) => marks))].map((word) => ({
    word,
    side: null,
    steps: { type: 'words', text: MARK_WORDS[word] },
    loose: null,
  }));

/** One line of an entry as every sheet tells it: its side where that must be said, its word, and what is done. */
export interface KeyTold {
  side: Side | null;
  /** Null where it says no more than the name of the entry. */
  word: string | null;
  /** Null where it is told among the abbreviations. */
  steps: string | null;
  loose: string | null;
}

/** What an entry tells, on page, in print and in copies alike; `isBrief` where abbreviations tell what no crossing is. */
export const keyTold = ({ stitch, name, sides }: KeyEntry, isBrief: boolean): KeyTold[] =>
  sides.map(({ side, word, steps, loose }) => ({
    side: sides.length > 1 || side === 'WS' ? side : null,
    word: word.startsWith('(') || word === name ? null : word,
    steps: isBrief && typeof stitch === 'string' ? null : steps,
    loose: loose ?? null,
  }));

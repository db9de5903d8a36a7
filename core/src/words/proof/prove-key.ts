import type { Settings } from '../../chart/schema.js';
import type { Hand } from '../../construction/index.js';
import { schoolName } from '../../names/schools.js';
import { isCrossing, kindOf, sameStitch, stitchBook, type Stitch } from '../../stitches/book.js';
import { crossingId, sameCrossing, type Crossing } from '../../stitches/crossing.js';
import { isTwisted, type Side } from '../../stitches/face.js';
import type { BandItem, BraidMove } from '../../needle/braid.js';
import type { Item, KeyLine, Move, Pattern } from '../pattern.js';
import { mannerOf, saysItself, withoutNumber } from '../manner.js';
import { itemsText } from '../render.js';
import { stepsIn } from '../reader/hands.js';
import { crossingOfLoose } from '../reader/loose.js';
import { crossingOfMoves, plainWord, stitchesNamed, WordProblem, type Lexicon } from '../reader/lexicon.js';
import type { Charted } from './charted.js';
import type { Problems } from './problems.js';

type KeySettings = Pick<Settings, 'cableless' | 'bobble' | 'twist' | 'twistNames' | 'style'>;

/** The words of a pattern that its key must tell: those of the rows with what they name, and those of the steps. */
interface Uses {
  /** By word in lower case, without the number of its run: what it names on each side it is used on, in each chart. */
  rows: Map<string, Map<Side, Named[]>>;
  steps: Set<string>;
}

interface Named {
  stitch: Stitch;
  lexicon: Lexicon;
}

/** The written rows of a chart, which the key is told for. */
export interface ProvedRows {
  rows: Pattern['rows'];
  /** The bands between them. */
  bands?: Pattern['bands'];
  piece: Pick<Charted, 'side'>;
  lexicon: Lexicon;
}

function useMoves(moves: readonly Move[], { steps }: Uses): void {
  for (const move of moves)
    if ('slip' in move) steps.add('sl');
    else for (const w of move.work) steps.add(isTwisted(w) ? `${w[0]} tbl` : w);
}

/** Whether a crossing is spelled out where it is first met: an uneven one, and one the designer named. */
function mustBeSpelled(
  c: Crossing,
  name: string,
  side: Side,
  { school, hand, each }: Lexicon,
  naming: Pick<KeySettings, 'twist' | 'twistNames'>,
): boolean {
  const isUneven = c.front.length !== c.back.length || c.centre.length > 0;
  return (
    isUneven ||
    (school !== undefined && schoolName(c, school, { ...naming, side, hand, each: each?.[0] }) !== name)
  );
}

interface Reading {
  row: number;
  side: Side;
  lexicon: Lexicon;
  uses: Uses;
  /** Crossings met so far. */
  met: Set<string>;
  /** Whether the key tells a name without a cable needle on a side: there it is not spelled out. */
  isTwist: (name: string, side: Side) => boolean;
  naming: Pick<KeySettings, 'twist' | 'twistNames'>;
  /** Whether they are spelled out where they are first met. */
  isSpelled: boolean;
  problems: Problems;
}

const MARKS = new Set(['pm', 'sm']);

/** Takes in what a word of a row uses, in working order. */
function useWord(item: Extract<Item, { type: 'word' }>, reading: Reading): void {
  const { row, side, lexicon, uses, met, isTwist, problems } = reading;
  const name = item.word.toLowerCase();
  const isNamed = lexicon.defined.has(name);
  if (item.spelled) useMoves(item.spelled, uses);
  const plain = isNamed ? null : plainWord(item.word, side, lexicon.book);
  if (plain && plain.printed !== item.word)
    problems.tell('word-form', `Row ${row}: "${item.word}" is not how "${plain.printed}" is written.`, row);
  const stitch =
    item.spelled && !isNamed
      ? crossingOfMoves(item.spelled, side, lexicon.hand)
      : stitchesNamed(item.word, side, lexicon)[0];
  if (stitch === undefined) return;
  const base = plain?.base ?? name;
  const sides = uses.rows.get(base) ?? new Map<Side, Named[]>();
  const others = sides.get(side) ?? [];
  const isKnown = others.some((o) => sameStitch(o.stitch, stitch) && o.lexicon.book === lexicon.book);
  uses.rows.set(base, sides.set(side, isKnown ? others : [...others, { stitch, lexicon }]));
  if (!isCrossing(stitch) || isTwist(name, side)) return;
  const wanted =
    reading.isSpelled &&
    mustBeSpelled(stitch, item.word, side, lexicon, reading.naming) &&
    !met.has(crossingId(stitch));
  if (wanted !== (item.spelled !== null))
    problems.tell(
      'spelling-differs',
      `Row ${row}: "${item.word}" is ${wanted ? 'not spelled out where it is first met' : 'spelled out again'}.`,
      row,
    );
  met.add(crossingId(stitch));
}

const BAND_STEPS: Readonly<Partial<Record<BraidMove, string>>> = {
  'cast-on': 'knit on',
  step: 'braid step',
  draw: 'draw under',
  place: 'pm',
  slip: 'sm',
};

function useBand(items: readonly BandItem[], uses: Uses): void {
  for (const item of items) {
    if ('star' in item) useBand(item.star, uses);
    else if (BAND_STEPS[item.move]) uses.steps.add(BAND_STEPS[item.move]!);
  }
}

function useItems(items: readonly Item[], reading: Reading): void {
  for (const item of items) {
    if (item.type === 'group' || item.type === 'star') useItems(item.items, reading);
    else if (item.type === 'spelled') useMoves(item.moves, reading.uses);
    else if (item.type === 'word') useWord(item, reading);
    else if (item.type === 'marker') reading.uses.steps.add(`move the marker ${item.by > 0 ? 'on' : 'back'}`);
    else if (item.type === 'aside' && MARKS.has(item.text)) reading.uses.steps.add(item.text);
    // One stitch all along: "knit", or "k to end" where the marker is moved before.
    else if (item.type === 'rest' && item.last === 0 && items.every((i) => i === item || i.type === 'marker'))
      useWord({ type: 'word', word: `${item.word}1`, spelled: null }, reading);
    else
      reading.problems.tell(
        'word-form',
        `Row ${reading.row} says "${itemsText([item])}", where stitches are counted out.`,
        reading.row,
      );
  }
}

function usesOf(
  parts: readonly ProvedRows[],
  key: readonly KeyLine[],
  { style, twist, twistNames }: KeySettings,
  problems: Problems,
): Uses {
  const uses: Uses = { rows: new Map(), steps: new Set() };
  const twists = key.filter(({ steps }) => steps.type === 'twist');
  const isTwist: Reading['isTwist'] = (name, side) =>
    twists.some((l) => l.word.toLowerCase() === name && (l.side ?? side) === side);
  for (const { rows: lines, bands = [], piece, lexicon } of parts) {
    for (const { body } of bands)
      if (!('as' in body)) for (const { items } of body.rounds) useBand(items, uses);
    // Each chart spells its crossings out where it first has them.
    const met = new Set<string>();
    for (const { body, numbers } of lines) {
      const [row] = numbers;
      if (row === undefined) continue;
      const side = piece.side(row);
      if (body.type === 'items')
        useItems(body.items, {
          row,
          side,
          lexicon,
          uses,
          met,
          isTwist,
          naming: { twist, twistNames },
          isSpelled: style.spelled === 'first',
          problems,
        });
    }
  }
  for (const { steps, loose } of key) {
    if (steps.type === 'moves') useMoves(steps.moves, uses);
    if (loose?.type === 'reorder')
      useMoves([{ work: [...loose.first, ...loose.second], from: 'left' }], uses);
  }
  return uses;
}

/** Whether a bobble's steps are those of its size: loops out of one stitch, a row over them, all into one. */
function isBobble(text: string, size: number, side: Side): boolean {
  const told = /^([a-z, ]+) into the stitch, turn, (knit|purl) (\d+), turn, (knit|purl) (\d+) together$/.exec(
    text,
  );
  if (!told) return false;
  const [, into, back, n, again, all] = told as unknown as [string, string, string, string, string, string];
  const ahead = side === 'RS' ? 'knit' : 'purl';
  const loops = into.split(', ');
  return (
    loops.length === size &&
    loops.every((loop, i) => loop === (i % 2 ? 'yarn over' : ahead)) &&
    back === (ahead === 'knit' ? 'purl' : 'knit') &&
    again === ahead &&
    Number(n) === size &&
    Number(all) === size
  );
}

const MOST_LOOSE = 3;

/** Whether a line tells a crossing rightly on a side: its moves, and the way without a cable needle. */
function tellsCrossing(line: KeyLine, c: Crossing, side: Side, hand: Hand, settings: KeySettings): boolean {
  const { loose, steps } = line;
  if (steps.type === 'words') return false;
  if (steps.type === 'twist') {
    // Told without a cable needle only where that is how the design works it.
    const made = settings.twist === 'cable' || loose ? null : crossingOfLoose(steps, side, hand);
    return made !== null && sameCrossing(made, c);
  }
  const isSmall = !c.centre.length && Math.max(c.front.length, c.back.length) <= MOST_LOOSE;
  if (!loose && settings.cableless && isSmall) return false;
  if (loose) {
    const made = crossingOfLoose(loose, side, hand);
    if (!made || !sameCrossing(made, c)) return false;
  }
  return sameCrossing(crossingOfMoves(steps.moves, side, hand), c);
}

/** Whether a line tells a stitch in words as the trade's table, or the designer, does. */
function tellsStitch(line: KeyLine, side: Side, lexicon: Lexicon, settings: KeySettings): boolean {
  if (line.steps.type !== 'words' || line.loose) return false;
  const { text } = line.steps;
  const word = plainWord(line.word, side, lexicon.book);
  if (!word) return false;
  if (word.id === 'mb') return isBobble(text, settings.bobble, side);
  return text === stepsIn(lexicon.hand, kindOf(word.id, lexicon.book), side, lexicon.book);
}

const STEP_WORDS: Readonly<Record<string, string>> = {
  'knit on':
    'knit into the first stitch and leave it on the needle, put the new loop beside it: it is the travelling stitch',
  'braid step':
    'knit the second stitch through its back loop from behind and leave it on the needle, knit the first, let both go, slip the stitch worked last back to the left needle',
  'draw under':
    'take the travelling stitch off, draw it once under the lying stitch of the band round below, put it back',
  pm: 'place a marker',
  sm: 'slip the marker',
  sl: 'slip purlwise',
  k: 'knit',
  p: 'purl',
  'k tbl': 'knit through the back loop',
  'p tbl': 'purl through the back loop',
  'move the marker on':
    'slip that many stitches purlwise, yarn in back, and place the marker after them; the round begins there',
  'move the marker back':
    'slip that many of the stitches worked last back unworked, and place the marker before them; the round begins there',
};

/** The steps of the trade's plain words, which hold on either side. */
const TRADE_STEPS = new Map(
  ['k', 'p', 'ktbl', 'ptbl'].map((id) => {
    const { rs, rsSteps } = kindOf(id, stitchBook());
    return [withoutNumber(rs), rsSteps];
  }),
);

/**
 * The key against the rows: every word they use is told once for each side it is used on, each as the stitch or
 * crossing it stands for is worked there, so are the words of the steps, and nothing else is told.
 */
export function proveKey(
  key: readonly KeyLine[],
  parts: readonly ProvedRows[],
  settings: KeySettings,
  problems: Problems,
): void {
  let uses: Uses;
  try {
    uses = usesOf(parts, key, settings, problems);
  } catch (error) {
    if (!(error instanceof WordProblem)) throw error;
    problems.tell(error.id, error.message);
    return;
  }
  const told = new Set<string>();
  const lines = new Map<string, number>();
  for (const { word } of key) lines.set(word.toLowerCase(), (lines.get(word.toLowerCase()) ?? 0) + 1);
  for (const line of key) {
    const word = line.word.toLowerCase();
    const sides = uses.rows.get(word);
    const named = sides && [...sides.values()].flat();
    const crosses = named?.some(({ stitch }) => isCrossing(stitch)) ?? false;
    const wrong = (why: string) => problems.tell('key-differs', `Key, "${line.word}": ${why}`);
    // Where nothing is said, a crossing is told as on the RS; the same steps may hold for the other side too.
    const used = [...(sides?.keys() ?? [])];
    const isRsOnly = crosses && !(lines.get(word) === 1 && sides!.has('RS'));
    const holds: Side[] = line.side ? [line.side] : isRsOnly ? ['RS'] : used;
    const inSteps = uses.steps.has(word);
    if (!holds.some((side) => sides?.has(side)) && !(inSteps && !line.side)) {
      wrong('the rows do not use it so.');
      continue;
    }
    if (inSteps && !crosses && !(line.steps.type === 'words' && line.steps.text === STEP_WORDS[word]))
      wrong('the steps of the key use it otherwise.');
    if (!line.side && lines.get(word)! > 1) wrong('it is told in two ways, and does not say for which side.');
    if (inSteps) told.add(`steps ${word}`);
    for (const side of holds) {
      const meant = sides?.get(side);
      if (!meant) continue;
      if (told.has(`${side} ${word}`)) wrong('it is told twice.');
      told.add(`${side} ${word}`);
      try {
        const right = meant.every(({ stitch, lexicon }) =>
          isCrossing(stitch)
            ? tellsCrossing(line, stitch, side, lexicon.hand, settings)
            : tellsStitch(line, side, lexicon, settings),
        );
        if (!right) wrong('it does not tell the stitch as the chart shows it.');
      } catch (error) {
        if (!(error instanceof WordProblem)) throw error;
        wrong(error.message);
      }
    }
  }
  const missing = [...uses.rows].flatMap(([word, sides]) =>
    [...sides.keys()].filter((side) => !told.has(`${side} ${word}`)).map(() => word),
  );
  missing.push(...[...uses.steps].filter((word) => !told.has(`steps ${word}`)));
  // Spelled out, a word may say all that its steps would.
  const manner = mannerOf(settings.style);
  const needsTelling = (word: string) => !saysItself(word, TRADE_STEPS.get(word) ?? '', manner);
  for (const word of new Set(missing.filter(needsTelling)))
    problems.tell('key-missing', `The key does not tell "${word}".`);
}

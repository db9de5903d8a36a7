import { counted } from '../values.js';
import { wayOf } from '../construction/index.js';
import { remembered } from '../remember.js';
import { isTwisted, type Worked } from '../stitches/face.js';
import { bandText, type PrintedLine } from './bands.js';
import { isBandLine, linesInOrder } from './pattern.js';
import type {
  AsSet,
  Body,
  CastOn,
  Head,
  Item,
  KeyLine,
  Loose,
  Move,
  Multiple,
  Pattern,
  Planned,
  RowLine,
  Steps,
  Until,
} from './pattern.js';
import {
  ABBREVIATED,
  mannerOf,
  pairText,
  timesText,
  keyWordText,
  sidedText,
  sideText,
  stitchesText,
  wordText,
  type Manner,
} from './manner.js';

/** A pattern's tree set as text in a manner, and each part of it by itself. The grammar reads all of it back. */

/** A group as it is written: `k2`, `[k1, p1]` where its stitches differ, `[k1, p1] twice` where it is a rib. */
function workText(work: readonly Worked[], manner: Manner): string {
  const runs: { worked: Worked; n: number }[] = [];
  for (const worked of work) {
    const last = runs.at(-1);
    if (last?.worked === worked) last.n++;
    else runs.push({ worked, n: 1 });
  }
  const textOf = ({ worked, n }: (typeof runs)[number]) =>
    wordText(`${worked[0]}${n}${isTwisted(worked) ? ' tbl' : ''}`, manner);
  // Within brackets, pairs that are told by brackets themselves stand one by one.
  const isOne = runs.length === 1 || manner.stitches === 'single';
  const parts = isOne
    ? runs.map(textOf)
    : runs.flatMap(({ worked, n }) => Array.from({ length: n }, () => textOf({ worked, n: 1 })));
  if (parts.length === 1) return parts[0]!;
  const isRib = parts.length > 2 && parts.length % 2 === 0 && parts.every((part, i) => part === parts[i % 2]);
  return isRib ? `[${parts[0]}, ${parts[1]}] ${timesText(parts.length / 2)}` : `[${parts.join(', ')}]`;
}

const NEEDLE = { 1: 'cable needle', 2: 'second cable needle' } as const;

function moveText(move: Move, manner: Manner): string {
  if ('slip' in move) {
    const depth = move.depth ? ` ${move.depth} the other` : '';
    const pairs = manner.stitches === 'pairs' ? ` ${move.slip === 1 ? 'pair' : 'pairs'}` : '';
    return `${wordText(`sl ${move.slip}`, manner)}${pairs} to ${NEEDLE[move.needle]}, hold in ${move.hold}${depth}`;
  }
  return workText(move.work, manner) + (move.from === 'left' ? '' : ` from ${NEEDLE[move.from]}`);
}

/** The steps in words: "sl 2 to cable needle, hold in front, k2, k2 from cable needle". */
export const movesText = (moves: readonly Move[], manner: Manner = ABBREVIATED): string =>
  moves.map((move) => moveText(move, manner)).join(', ');

function untilText(until: Until, manner: Manner): string {
  if ('tail' in until) return ', ending';
  if ('more' in until) return ` ${until.more === 1 ? 'once' : `${until.more} times`} more`;
  if (until.last === 0) return ' to end';
  return ` to last ${until.last === 1 ? stitchesText(1, manner).slice(2) : stitchesText(until.last, manner)}`;
}

function itemText(item: Item, manner: Manner): string {
  switch (item.type) {
    case 'word':
      return item.spelled ? `${item.word} (${movesText(item.spelled, manner)})` : wordText(item.word, manner);
    case 'spelled':
      return `(${movesText(item.moves, manner)})`;
    case 'group':
      return `[${itemsText(item.items, manner)}] ${timesText(item.times)}`;
    case 'star': {
      const rep = manner.form === 'full' ? 'repeat' : 'rep';
      return `*${itemsText(item.items, manner)}; ${rep} from *${untilText(item.until, manner)}`;
    }
    case 'marker':
      return `move the marker ${item.by > 0 ? 'on' : 'back'} ${stitchesText(Math.abs(item.by), manner)}`;
    case 'present':
      return item.n === null
        ? `work the stitches as they present${untilText({ last: item.last }, manner)}`
        : `work ${stitchesText(item.n, manner)} as they present`;
    case 'aside':
      return item.text;
    case 'panel': {
      const over = item.over === null ? '' : ` over the next ${stitchesText(item.over, manner)}`;
      return `work row ${item.row} of ${item.name}${over}${item.after === null ? '' : ` (${item.after} after it)`}`;
    }
    case 'rest':
      return `${restWord(item.word, manner)}${untilText({ last: item.last }, manner)}`;
  }
}

/** What is worked all the way. */
const restWord = (word: 'k' | 'p', manner: Manner): string =>
  manner.stitches === 'pairs' ? `[${pairText(word, manner)}]` : keyWordText(word, manner);

const VERBS = { k: 'knit', p: 'purl' } as const;

const joined = remembered((items: readonly Item[], manner: Manner) => {
  const [first] = items;
  // One stitch all along is told by its verb.
  if (manner.stitches === 'single' && items.length === 1 && first?.type === 'rest' && first.last === 0)
    return VERBS[first.word];
  return items.map((item) => itemText(item, manner)).join(', ');
});

/** Items as one phrase: `k1, *2/2 LC, p2; rep from * to last 3 sts, k3`. */
export const itemsText = (items: readonly Item[], manner: Manner = ABBREVIATED): string =>
  joined(items, manner);

/** A piece of a row's words: an item with the places of itself and of those around it, or what stands between items. */
export interface WordPiece {
  text: string;
  path: readonly number[] | null;
}

/** The words of a row in pieces: joined they are `itemsText`. */
export function wordPieces(
  items: readonly Item[],
  manner: Manner,
  path: readonly number[] = [],
): WordPiece[] {
  const [first] = items;
  const isVerb = !path.length && items.length === 1 && first?.type === 'rest';
  if (isVerb) return [{ text: itemsText(items, manner), path: [0] }];
  const between = (text: string): WordPiece => ({ text, path: null });
  return items.flatMap((item, i): WordPiece[] => {
    const own = [...path, i];
    const comma = i ? [between(', ')] : [];
    if (item.type !== 'group' && item.type !== 'star')
      return [...comma, { text: itemText(item, manner), path: own }];
    const whole = itemText(item, manner);
    const opens = whole.slice(0, 1);
    const inner = itemsText(item.items, manner);
    return [
      ...comma,
      between(opens),
      ...wordPieces(item.items, manner, own),
      between(whole.slice(opens.length + inner.length)),
    ];
  });
}

const CLOTHS = { stocking: 'stocking stitch', reverse: 'reverse stocking stitch', garter: 'garter stitch' };

/** "Continue as set", with the rule where it is first gone by. */
function asSetText({ rule }: AsSet, row: NonNullable<RowLine['kind']>): string {
  if (!rule) return 'continue as set';
  const below = rule.every === 1 ? `as the ${row} below` : `as ${rule.every} ${row}s below`;
  return rule.hasPanels
    ? `continue as set, each panel by its next row (from the first of its repeat when its last is worked), all else ${below}`
    : `continue as set, ${below}`;
}

function bodyText(body: Body, kind: RowLine['kind'], manner: Manner): string {
  switch (body.type) {
    case 'as':
      return [
        `as ${kind ?? 'row'}${body.rows.length > 1 ? 's' : ''} ${numbersText(body.rows)}`,
        ...(body.swaps ?? []).map(({ from, to }, i) => `${i ? 'and' : 'but'} ${to} instead of ${from}`),
      ].join(', ');
    case 'turns':
      return `beginning with a ${VERBS[body.words[0]!]} row, stocking stitch`;
    case 'rib':
      return `${itemsText(body.items, manner)} rib`;
    case 'moss':
      return 'moss stitch';
    case 'unread':
      return '…';
    case 'presented':
      return 'work the stitches as they present';
    case 'cloth':
      return CLOTHS[body.cloth];
    case 'asSet':
      return asSetText(body, kind ?? 'row');
    case 'items':
      return itemsText(body.items, manner);
  }
}

const stretchText = (numbers: readonly number[]): string =>
  numbers.length > 1 ? `${numbers[0]!}–${numbers.at(-1)!}` : `${numbers[0]!}`;

/** Row numbers as they are written: "Rows 4 and 8", "Rows 1–3". */
function numbersText(numbers: readonly number[]): string {
  const [first, last] = [numbers[0]!, numbers.at(-1)!];
  if (numbers.length > 2 && last - first === numbers.length - 1) return `${first}–${last}`;
  return numbers.length > 1 ? `${numbers.slice(0, -1).join(', ')} and ${last}` : `${first}`;
}

function restText({ rest, kind }: RowLine, manner: Manner): string {
  if (!rest) return '';
  const which =
    'side' in rest
      ? sidedText(rest.side, manner)
      : rest.parity === null
        ? 'alternate'
        : rest.parity === 0
          ? 'even'
          : 'odd';
  const but = rest.but?.length ? ` but ${numbersText(rest.but)}` : '';
  return ` and all ${which} ${kind}s${but}`;
}

export const rowHeadText = (line: RowLine, manner: Manner): string => {
  const word = line.kind === 'round' ? 'Round' : 'Row';
  const side = line.side ? ` (${sideText(line.side, manner)})` : '';
  const rest = restText(line, manner);
  if (!line.numbers.length) return `${line.named ?? 'All'}${rest} ${word.toLowerCase()}${side}`;
  const { numbers, body } = line;
  // Rows that go on as set are told as a stretch, however short.
  const told = body.type === 'asSet' ? stretchText(numbers) : numbersText(numbers);
  return `${word}${numbers.length > 1 ? 's' : ''} ${told}${rest}${side}`;
};

/** What a row says, without its number and count. */
export const rowWordsText = ({ body, kind }: Pick<RowLine, 'body' | 'kind'>, manner: Manner): string =>
  bodyText(body, kind, manner);

/** What a row says, and its count. */
export const rowBodyText = (line: RowLine, manner: Manner): string =>
  `${rowWordsText(line, manner)}.${line.count === null ? '' : ` (${stitchesText(line.count, manner)})`}`;

export const rowText = (line: RowLine, manner: Manner): string =>
  `${rowHeadText(line, manner)}: ${rowBodyText(line, manner)}`;

const plusText = (plus: number): string => (plus ? ` plus ${plus}` : '');

/** "Multiple of 6 sts plus 2, at least 14; of 8 plus 2 after row 5". */
export function multipleText(
  { of, plus, least, changes }: Multiple,
  row: RowLine['kind'],
  manner: Manner,
): string {
  const form = `Multiple of ${stitchesText(of, manner)}${plusText(plus)}${least === null ? '' : `, at least ${least}`}`;
  return [form, ...changes.map((c) => `of ${c.of}${plusText(c.plus)} after ${row} ${c.after}`)].join('; ');
}

export function castOnText({ stitches, repeats, isPanel }: CastOn, manner: Manner): string {
  const of = repeats === null ? '' : ` (${counted(repeats, 'repeat')})`;
  if (manner.stitches === 'pairs' && !isPanel) {
    const sts = counted(2 * stitches, manner.form === 'full' ? 'stitch' : 'st');
    const many = repeats === null ? '' : `, ${counted(repeats, 'repeat')}`;
    return `Cast on ${sts} (${stitchesText(stitches, manner)}${many}), A and B in turn`;
  }
  return `${isPanel ? 'Worked over' : 'Cast on'} ${stitchesText(stitches, manner)}${of}`;
}

/** How a cloth comes off the needle: all its stitches, as they are told, in some way. */
export const bindOffText = (stitches: string, way: string, { terms }: Manner): string =>
  `${terms === 'UK' ? 'Cast off' : 'Bind off'} all ${stitches}${way}`;

/** How the rows of a piece follow each other, as one sentence. */
export function planText(plan: readonly Planned[], row: RowLine['kind']): string {
  const span = ({ from, to }: Planned) => (from === to ? `${row} ${from}` : `${row}s ${from}–${to}`);
  if (plan.length === 1 && plan[0]!.times === 1) return `Work ${span(plan[0]!)}`;
  const often = ({ times, ends }: Planned) => {
    if (times === null)
      return ends === undefined
        ? 'over and over'
        : `over and over to the length wished, ending with ${row} ${ends}`;
    return times > 2 ? `a total of ${times} times` : timesText(times);
  };
  return `Work ${plan.map((stretch) => `${span(stretch)} ${often(stretch)}`).join(', then ')}`;
}

/** Who works it, where it is not a right-handed knitter. */
export const HAND_TEXT = {
  right: null,
  'left-same-fabric':
    'For a left-handed knitter, the same fabric: right-side rows are read from the left. In names left and right are as the right side looks; front, back, needles and legs are as the knitter sees them.',
  'left-same-words':
    'For a left-handed knitter, right-handed words as they stand: the fabric is the mirror image of the chart.',
} as const;

export const stepsText = (steps: Steps, manner: Manner = ABBREVIATED): string =>
  steps.type === 'moves'
    ? movesText(steps.moves, manner)
    : steps.type === 'twist'
      ? looseText(steps, manner)
      : steps.text;

const WORK = { k: 'knit', p: 'purl' } as const;

/** A crossing without a cable needle, in words. */
export function looseText(loose: Loose, manner: Manner = ABBREVIATED): string {
  if (loose.type === 'twist') {
    const work = WORK[loose.work];
    if (loose.way === 'together')
      return `${work} 2 together${loose.back === 'both' ? ' through the back loops' : ''} but leave them on the needle, ${work} the first again, slip both off`;
    if (loose.way === 'in-front')
      return loose.back === 'both'
        ? `${work} the second stitch through its back loop in front of the first, ${work} the first through its back loop, slip both off`
        : `${work} the second stitch in front of the first, ${work} the first, slip both off`;
    return `${work} the second stitch through its back loop from behind, ${work} the first through ${loose.back === 'both' ? 'its back loop' : 'the front'}, slip both off`;
  }
  const { needle, enter, way, slide, pinch, hold, first, second } = loose;
  const other = needle === 'right' ? 'left' : 'right';
  const which = enter.from === enter.to ? `stitch ${enter.to}` : `stitches ${enter.from}–${enter.to}`;
  const from = way === 'behind' ? 'from behind' : 'from the front';
  return `with the ${needle} needle enter ${which} purlwise ${from}, slide all ${slide} off, pinch the ${pinch} loose in ${hold} and catch them with the ${other} needle, put the others back beside them, ${workText(first, manner)}, ${workText(second, manner)}`;
}

export function keyLineText({ word, side, steps, loose }: KeyLine, manner: Manner): string {
  const without = loose ? ` Without a cable needle: ${looseText(loose, manner)}.` : '';
  const where = side ? ` (${sideText(side, manner)})` : '';
  return `${keyWordText(word, manner)}${where}: ${stepsText(steps, manner)}.${without}`;
}

/** What numbers and letters in the names of crossings of pairs stand for. */
const NAMES_COUNT: Readonly<Record<NonNullable<Head['names']>, string>> = {
  pairs: 'pairs',
  loops: 'loops, two for each pair',
};
const namesText = (names: NonNullable<Head['names']>): string =>
  `Numbers in the names of crossings count ${NAMES_COUNT[names]}; in them k is a pair that shows A on side 1, and p, or P, one that shows B.`;

/** What is said of a way of working besides its name. */
const saysOf = ({ construction, names }: Head): readonly string[] => [
  ...(construction ? wayOf({ construction }).says : []),
  ...(names ? [namesText(names)] : []),
];

/** How it is worked and on how many stitches, and for whose hands, in lines. */
export function constructionLines({ head, multiple }: Pattern, manner: Manner): string[] {
  return [workedText({ head, multiple }, manner), HAND_TEXT[head.hand] ?? '', ...saysOf(head)].filter(
    Boolean,
  );
}

function workedText({ head, multiple }: Pick<Pattern, 'head' | 'multiple'>, manner: Manner): string {
  const construction = head.construction && wayOf({ construction: head.construction });
  const worked = [
    construction && `Worked ${construction.worked}${head.bothFaces ? ', both sides count' : ''}.`,
    multiple && `${multipleText(multiple, construction?.row ?? 'row', manner)}.`,
  ];
  return worked.filter((part) => part !== null).join(' ');
}

/** What stands above the rows, in lines: how it is worked and on how many stitches, the cast-on, and for whose hands. */
function aboutLines(pattern: Pattern, manner: Manner): string[] {
  const { head, castOn } = pattern;
  return [
    workedText(pattern, manner),
    castOn ? `${castOnText(castOn, manner)}.` : '',
    HAND_TEXT[head.hand] ?? '',
    ...saysOf(head),
  ].filter(Boolean);
}

/** How the rows follow each other, in lines. */
export function planLines({ plan, head }: Pattern): string[] {
  const row = head.construction ? wayOf({ construction: head.construction }).row : 'row';
  return plan ? [`${planText(plan, row)}.`] : [];
}

/** What stands under each other, a blank line between. */
const blocksText = (blocks: readonly (readonly string[])[]): string =>
  `${blocks
    .filter((lines) => lines.length)
    .map((lines) => lines.join('\n'))
    .join('\n\n')}\n`;

function rowBlocks(pattern: Pattern, style: Manner): string[][] {
  const manner = mannerOf(style, pattern.head);
  const rows = printedLines(pattern, manner).map(({ head, words }) => `${head}: ${words}`);
  return [aboutLines(pattern, manner), rows, planLines(pattern)];
}

/** The rows of a pattern, and the bands between them, as they are printed. */
export const printedLines = (pattern: Pick<Pattern, 'rows' | 'bands'>, manner: Manner): PrintedLine[] =>
  linesInOrder(pattern).flatMap((line) =>
    isBandLine(line)
      ? bandText(line, manner)
      : [{ head: rowHeadText(line, manner), words: rowBodyText(line, manner) }],
  );

const keyBlock = (key: readonly KeyLine[], manner: Manner): string[] =>
  key.length ? ['Key', ...key.map((line) => keyLineText(line, manner))] : [];

/** The whole pattern as plain text. */
export const patternText = (pattern: Pattern, manner: Manner = ABBREVIATED): string =>
  blocksText([...rowBlocks(pattern, manner), keyBlock(pattern.key, mannerOf(manner, pattern.head))]);

/** The name of a chart as a line of its own. */
export const headingOf = (name: string): string => name.replace(/\s+/g, ' ').trim();

/** The charts of a design as plain text, each under its name, and one key for all. */
export const designText = (
  names: readonly string[],
  patterns: readonly Pattern[],
  key: readonly KeyLine[],
  manner: Manner = ABBREVIATED,
): string =>
  blocksText([
    ...patterns.flatMap((pattern, i) => [[headingOf(names[i]!)], ...rowBlocks(pattern, manner)]),
    keyBlock(key, mannerOf(manner, { bothFaces: patterns.every(({ head }) => head.bothFaces) })),
  ]);

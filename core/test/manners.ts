/**
 * A printer of knitting patterns in the manners of a hundred years, made for the tests: it begins with a cloth and words
 * it by choosing each dimension at random. It shares nothing with the writer of the program; what its text must read as
 * is the cloth. A manner is added by adding to a dimension. Common practice, no source.
 */

/** A stitch as the right side looks: a word, or a crossing. */
export type Cell = string | Cross;
export interface Cross {
  lean: 'left' | 'right';
  front: string[];
  back: string[];
}

/** A printed pattern and what it must read as. */
export interface Printed {
  text: string;
  construction: 'flat' | 'round';
  firstRow: 'RS' | 'WS';
  size?: number;
  castOn: number;
  rows: Cell[][];
  /** How often its rows are worked in all, where that is said: from row, to row, times. */
  up: [from: number, to: number, times: number] | null;
  /** The row that the last pass ends with, where it is not its last. */
  endsWith?: number;
  /** What was chosen, to be told of a text that is not read. */
  chosen: string[];
}

/** Numbers that follow from a seed, the same on every machine. */
class Dice {
  constructor(private seed: number) {}
  next(): number {
    this.seed = (this.seed + 0x6d2b79f5) | 0;
    let t = Math.imul(this.seed ^ (this.seed >>> 15), 1 | this.seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  below = (n: number): number => Math.floor(this.next() * n);
  of = <T>(all: readonly T[]): T => all[this.below(all.length)]!;
  chance = (p: number): boolean => this.next() < p;
}

// ---- the cloth ---------------------------------------------------------------------------------------------------

const many = (n: number, cell: Cell): Cell[] => Array.from({ length: n }, () => cell);
const cross = (lean: 'left' | 'right', front: number, back: number, purl = false): Cross => ({
  lean,
  front: Array<string>(front).fill('k'),
  back: Array<string>(back).fill(purl ? 'p' : 'k'),
});
const takes = (cell: Cell): number =>
  typeof cell !== 'string'
    ? cell.front.length + cell.back.length
    : (({ yo: 0, m1l: 0, m1r: 0, m1lp: 0, k2tog: 2, ssk: 2, p2tog: 2, kfb: 1 } as Record<string, number>)[
        cell
      ] ?? 1);
const makes = (cell: Cell): number => (typeof cell !== 'string' ? takes(cell) : cell === 'kfb' ? 2 : 1);
const sum = (row: readonly Cell[], of: (cell: Cell) => number) => row.reduce((n, c) => n + of(c), 0);

/** What the right side shows above a row that is only followed as it presents. */
const above = (row: readonly Cell[]): Cell[] =>
  row.flatMap((cell) =>
    typeof cell !== 'string'
      ? cell.lean === 'left'
        ? [...cell.back, ...cell.front]
        : [...cell.front, ...cell.back]
      : many(makes(cell), /^(?:p|m1lp|p2tog)$/.test(cell) ? 'p' : cell === 'mb' || cell === 'kt' ? 'k' : 'k'),
  );

/** A cloth in parts: what stands before the repeat, the repeat, how often, and after it; each row a list of cells. */
interface Cloth {
  before: Cell[][];
  unit: Cell[][];
  times: number;
  after: Cell[][];
}

const wholeRow = ({ before, unit, times, after }: Cloth, r: number): Cell[] => [
  ...before[r]!,
  ...Array.from({ length: times }, () => unit[r]!).flat(),
  ...after[r]!,
];

/** A rope of so many stitches, crossed on some of its rows. */
function rope(dice: Dice, rows: number, isRound: boolean): Cell[][] {
  const half = dice.of([1, 2, 2, 2, 3, 3]);
  const lean = dice.of(['left', 'right'] as const);
  const at = dice.of([0, 2]);
  const isInTurn = dice.chance(0.3);
  const other = lean === 'left' ? 'right' : 'left';
  return Array.from({ length: rows }, (_, r) =>
    r % 4 === at && (isRound || r % 2 === 0)
      ? [cross(isInTurn && r >= 4 ? other : lean, half, half)]
      : many(2 * half, 'k'),
  );
}

/** Two strands that travel over purl ground, out and home again. */
function travelling(): Cell[][] {
  const L = cross('left', 2, 1, true);
  const R = cross('right', 2, 1, true);
  const out: Cell[] = [L, R];
  const home: Cell[] = [R, L];
  const [wide, narrow]: [Cell[], Cell[]] = [
    ['k', 'k', 'p', 'p', 'k', 'k'],
    ['p', 'k', 'k', 'k', 'k', 'p'],
  ];
  return [
    wide,
    wide,
    home.length ? ([R, L].reverse().length ? [L, R].reverse() : []) : [],
    narrow,
    narrow,
    narrow,
    out,
    wide,
  ].map((row) => (row.length ? row : wide));
}

function ground(dice: Dice, rows: number): Cell[][] {
  const n = dice.of([1, 2, 2, 3]);
  return Array.from({ length: rows }, () => many(n, 'p'));
}

const beside = (...parts: Cell[][][]): Cell[][] => parts[0]!.map((_, r) => parts.flatMap((p) => p[r]!));

function clothOf(dice: Dice, isRound: boolean): Cloth {
  const rows = dice.of([4, 4, 6, 8]);
  const none = Array.from({ length: rows }, (): Cell[] => []);
  const edge = (n: number, c: Cell): Cell[][] => Array.from({ length: rows }, () => many(n, c));
  const kind = dice.of(['panel', 'repeat', 'repeat', 'counts', 'bobble', 'twisted', 'travel']);
  const g = ground(dice, rows);
  if (kind === 'repeat') {
    const n = g[0]!.length;
    const unit = beside(edge(n, 'p'), rope(dice, rows, isRound));
    const e = isRound ? 0 : dice.of([0, 0, 1, 2]);
    return {
      before: e ? edge(e, 'k') : none,
      unit,
      times: dice.of([2, 3, 4]),
      after: isRound ? none : beside(edge(n, 'p'), e ? edge(e, 'k') : none),
    };
  }
  const only = (unit: Cell[][]): Cloth => ({ before: none, unit, times: 1, after: none });
  if (kind === 'counts') {
    // One loop more, and one fewer further up.
    const gain = dice.of(['yo', 'm1l', 'm1r', 'kfb']);
    const drop = dice.of(['k2tog', 'ssk']);
    const rest = Array.from({ length: rows }, (_, r): Cell[] =>
      r === 0
        ? gain === 'kfb'
          ? ['k', 'kfb', 'k', 'k']
          : ['k', gain, 'k', 'k', 'k']
        : r < rows - 2
          ? many(5, 'k')
          : r === rows - 2
            ? ['k', drop, 'k', 'k']
            : many(4, 'k'),
    );
    return only(beside(g, rest, g));
  }
  if (kind === 'bobble')
    return only(
      beside(
        g,
        Array.from({ length: rows }, (_, r) => (r === 2 ? ['k', 'mb', 'k'] : many(3, 'k'))),
        g,
        rope(dice, rows, isRound),
        g,
      ),
    );
  if (kind === 'twisted')
    return only(
      beside(
        g,
        Array.from({ length: rows }, () => ['kt', 'p', 'kt']),
        g,
        rope(dice, rows, isRound),
        g,
      ),
    );
  if (kind === 'travel') {
    const t = travelling().slice(0, rows === 8 ? 8 : 8);
    const eight = Array.from({ length: 8 }, () => many(2, 'p'));
    return { before: t.map(() => []), unit: beside(eight, t, eight), times: 1, after: t.map(() => []) };
  }
  return only(
    beside(g, rope(dice, rows, isRound), g, dice.chance(0.5) ? rope(dice, rows, isRound) : none, g),
  );
}

// ---- words -------------------------------------------------------------------------------------------------------

const NUMBERS = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const ORDINALS = ['', 'First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth', 'Seventh', 'Eighth'];
const ordinal = (n: number) =>
  `${n}${n % 10 === 1 && n !== 11 ? 'st' : n % 10 === 2 && n !== 12 ? 'nd' : n % 10 === 3 && n !== 13 ? 'rd' : 'th'}`;
const OFTEN = ['', 'once', 'twice', '3 times', '4 times', '5 times', '6 times'];

/** How one pattern is worded throughout. */
interface Manner {
  separator: string;
  run: (stitch: 'k' | 'p', n: number) => string;
  crossed: (c: Cross) => string;
  /** Words of other stitches. */
  word: Record<string, string>;
  isUpper: boolean;
}

/** Worked on the wrong side, what the right side shows. */
const behind = (cell: string): string =>
  (({ k: 'p', p: 'k', kt: 'pt', pt: 'kt' }) as Record<string, string>)[cell] ?? cell;

/** The words of cells in working order, runs joined. */
function worded(cells: readonly Cell[], manner: Manner): string[] {
  const out: string[] = [];
  for (let i = 0; i < cells.length;) {
    const cell = cells[i]!;
    if (typeof cell !== 'string') {
      out.push(manner.crossed(cell));
      i++;
      continue;
    }
    let n = 1;
    while (cells[i + n] === cell) n++;
    if (cell === 'k' || cell === 'p') out.push(manner.run(cell, n));
    else if (cell === 'kt' || cell === 'pt') out.push(manner.word[cell]!.replaceAll('#', String(n)));
    else for (let j = 0; j < n; j++) out.push(manner.word[cell] ?? cell);
    i += n;
  }
  return out;
}

const order = (cells: readonly Cell[], isWs: boolean): Cell[] =>
  isWs ? [...cells].reverse().map((c) => (typeof c === 'string' ? behind(c) : c)) : [...cells];

/** Names of crossings and how a key tells them, by school. */
interface School {
  name: string;
  crossed: (c: Cross) => string;
}
const total = (c: Cross) => c.front.length + c.back.length;
const purled = (c: Cross) => c.back[0] === 'p';
const held = (c: Cross) => (c.lean === 'left' ? 'F' : 'B');
const SCHOOLS: readonly School[] = [
  {
    name: 'total-hold',
    crossed: (c) => `${purled(c) ? 'T' : 'C'}${total(c)}${held(c)}`,
  },
  {
    name: 'front-back',
    crossed: (c) =>
      `${c.front.length}/${c.back.length} ${c.lean === 'left' ? 'L' : 'R'}${purled(c) ? 'P' : ''}C`,
  },
  {
    name: 'spaced',
    crossed: (c) => `${purled(c) ? 'T' : 'C'} ${total(c)} ${held(c)}`,
  },
  {
    name: 'lean',
    crossed: (c) => `${purled(c) ? 'Cr' : 'C'}${total(c)}${c.lean === 'left' ? 'L' : 'R'}`,
  },
  {
    name: 'own',
    crossed: (c) =>
      `${c.lean === 'left' ? 'Left' : 'Right'} ${purled(c) ? 'travel' : ['cord', 'rope', 'braid'][c.front.length - 1]!}`,
  },
];

/** The steps of a crossing, on a right-side row. */
function steps(c: Cross, dice: Dice): string {
  const first = c.lean === 'left' ? c.front : c.back;
  const second = c.lean === 'left' ? c.back : c.front;
  const hold = c.lean === 'left' ? 'front' : 'back';
  const n = first.length;
  const does = (stitch: string) => (stitch === 'k' ? 'k' : 'p');
  const long = (stitch: string) => (stitch === 'k' ? 'knit' : 'purl');
  return dice.of([
    () =>
      `sl ${n} to cn, hold in ${hold}, ${does(second[0]!)}${second.length}, ${does(first[0]!)}${n} from cn`,
    () =>
      `slip next ${n} sts onto a cable needle and hold at ${hold} of work, ${does(second[0]!)}${second.length}, then ${does(first[0]!)}${n} from cable needle`,
    () =>
      `slip the next ${n} ${n === 1 ? 'stitch' : 'stitches'} onto cable needle and leave at ${hold}, ${long(second[0]!)} ${second.length}, ${long(first[0]!)} ${n} from cable needle`,
    () =>
      `Sl ${n} st${n === 1 ? '' : 's'} to cn and hold in ${hold}; ${does(second[0]!)}${second.length}; ${does(first[0]!)}${n} from cn`,
    () =>
      `place next ${n} st${n === 1 ? '' : 's'} on cn at ${hold} of work, ${does(second[0]!)}${second.length}, ${does(first[0]!)}${n} from cn`,
    () =>
      `slip ${NUMBERS[n]!} ${n === 1 ? 'stitch' : 'stitches'} to spare needle and hold in ${hold}, ${long(second[0]!)} ${NUMBERS[second.length]!}, ${long(first[0]!)} ${NUMBERS[n]!} from spare needle`,
  ])();
}

/** The key of a pattern's crossings, in one of the forms keys have. */
function keyOf(found: readonly Cross[], manner: Manner, dice: Dice, chosen: string[]): string {
  const form = dice.of([
    'lines',
    'equals',
    'dash',
    'heading',
    'gloss',
    'longDash',
    'under',
    'paragraph',
    'toWork',
    'table',
    'bullets',
    'like',
    'pair',
  ]);
  chosen.push(`key ${form}`);
  const long = (c: Cross) => `cable ${total(c)} ${c.lean === 'left' ? 'front' : 'back'}`;
  const line = (c: Cross, by: string) => `${manner.crossed(c)}${by}${steps(c, dice)}.`;
  const lines = (by: string) => found.map((c) => line(c, by)).join('\n');
  switch (form) {
    case 'equals':
      return lines(' = ');
    case 'dash':
      return lines(' – ');
    case 'heading':
      return `${dice.of(['Abbreviations', 'Special abbreviations', 'Key', 'KEY:', 'Glossary', 'Special stitches:'])}\n${lines(': ')}`;
    case 'gloss':
      return found.map((c) => `${manner.crossed(c)} (${long(c)}): ${steps(c, dice)}.`).join('\n');
    case 'longDash':
      return found.map((c) => `${manner.crossed(c)} - ${long(c)}: ${steps(c, dice)}.`).join('\n');
    case 'under':
      return found.map((c) => `${manner.crossed(c)}\n${steps(c, dice)}.`).join('\n\n');
    case 'paragraph':
      return found.map((c) => `${manner.crossed(c)} = ${steps(c, dice)}`).join('; ') + '.';
    case 'toWork':
      return found.map((c) => `To work ${manner.crossed(c)}, ${steps(c, dice)}.`).join('\n');
    case 'table':
      return found.map((c) => `${manner.crossed(c)}\t${steps(c, dice)}`).join('\n');
    case 'bullets':
      return found.map((c) => `• ${manner.crossed(c)}: ${steps(c, dice)}`).join('\n');
    case 'like':
    case 'pair': {
      const [a, b] = found;
      const isPair =
        found.length === 2 && a!.lean !== b!.lean && !purled(a!) && !purled(b!) && total(a!) === total(b!);
      if (!isPair) return lines(': ');
      const n = a!.front.length;
      const [h, g] = a!.lean === 'left' ? ['front', 'back'] : ['back', 'front'];
      return form === 'like'
        ? `${line(a!, ': ')}\n${manner.crossed(b!)}: as ${manner.crossed(a!)}, but hold in ${g}.`
        : `${manner.crossed(a!)} [${manner.crossed(b!)}]: slip next ${n} sts onto cn and hold at ${h} [${g}], k${n}, then k${n} from cn.`;
    }
    default:
      return lines(': ');
  }
}

const isEqual = (a: Cell, b: Cell): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Joins the words of a row. */
const joined = (words: readonly string[], { separator }: Manner) => words.join(separator);

/** The words of a cloth's row, its repeat told in one of the forms repeats have. */
function rowWords(cloth: Cloth, r: number, isWs: boolean, manner: Manner, dice: Dice, form: string): string {
  const { times } = cloth;
  const whole = () => worded(order(wholeRow(cloth, r), isWs), manner);
  if (times === 1 || form === 'whole') {
    const words = whole();
    return oneVerb(words, dice, manner) ?? joined(words, manner);
  }
  const [first, unit, last] = (
    isWs ? [cloth.after, cloth.unit, cloth.before] : [cloth.before, cloth.unit, cloth.after]
  ).map((part) => worded(order(part[r]!, isWs), manner)) as [string[], string[], string[]];
  const left = sum((isWs ? cloth.before : cloth.after)[r]!, takes);
  const body = joined(unit, manner);
  const tail = last.length ? `${manner.separator}${joined(last, manner)}` : '';
  const head = first.length ? `${joined(first, manner)}${manner.separator}` : '';
  const to =
    left === 0
      ? dice.of(['to end', 'across', 'to end of row'])
      : left === 1
        ? 'to last st'
        : `to last ${left} sts`;
  switch (form) {
    case 'star':
      return `${head}*${body}; rep from * ${to}${tail}`;
    case 'starComma':
      return `${head}*${body}, repeat from * ${to}${tail}`;
    case 'starStop':
      return `${head}* ${body}. Rep from * ${to}${tail}`;
    case 'starEnd':
      return last.length
        ? `${head}*${body}; rep from *, ending ${joined(last, manner)}`
        : `${head}*${body}; rep from * ${to}`;
    case 'more':
      return `${head}*${body}; rep from * ${times === 2 ? 'once more' : `${OFTEN[times - 1]!} more`}${tail}`;
    case 'starTotal':
      return `${head}*${body}; rep from * for a total of ${times} times${tail}`;
    case 'stars':
      return `${head}*${body}* ${OFTEN[times]!}${tail}`;
    case 'brackets':
      return `${head}(${body}) ${OFTEN[times]!}${tail}`;
    case 'square':
      return `${head}[${body}] ${dice.of([OFTEN[times]!, `x ${times}`, `a total of ${times} times`, `${times} times in all`])}${tail}`;
    case 'bracketsTo':
      return `${head}[${body}] ${to}${tail}`;
    default:
      return joined(whole(), manner);
  }
}

/** A row of one stitch told by its verb. */
function oneVerb(whole: readonly string[], dice: Dice, manner: Manner): string | null {
  if (whole.length !== 1) return null;
  const isKnit = whole[0] === manner.run('k', Number(/\d+/.exec(whole[0]!)?.[0] ?? 0));
  const isPurl = whole[0] === manner.run('p', Number(/\d+/.exec(whole[0]!)?.[0] ?? 0));
  if (!isKnit && !isPurl) return null;
  return dice.of(
    isKnit
      ? ['Knit', 'K to end', 'Knit across', 'K all sts', 'knit all stitches']
      : ['Purl', 'P to end', 'purl across', 'P all sts', 'Purl to end of row'],
  );
}

// ---- the page ----------------------------------------------------------------------------------------------------

const HEADS: readonly [string, (n: number, side: string, isFirst: boolean) => string][] = [
  ['Row n (side):', (n, side, isFirst) => `Row ${n}${isFirst ? ` (${side})` : ''}:`],
  ['Row n (side): all', (n, side) => `Row ${n} (${side}):`],
  ['Row n [side]', (n, side, isFirst) => `Row ${n}${isFirst ? ` [${side}]` : ''}:`],
  ['nth row:', (n, side, isFirst) => `${ordinal(n)} row${isFirst ? ` (${side})` : ''}:`],
  [
    'nth row.',
    (n, side, isFirst) =>
      `${ordinal(n)} row${isFirst ? ` (${side === 'RS' ? 'right side' : 'wrong side'})` : ''}.`,
  ],
  ['First row:', (n) => `${n < ORDINALS.length ? ORDINALS[n]! : ordinal(n)} row:`],
  ['ROW n:', (n, side, isFirst) => `ROW ${n}${isFirst ? ` (${side})` : ''}:`],
  ['Row n –', (n, side, isFirst) => `Row ${n}${isFirst ? ` (${side})` : ''} –`],
  ['Row n.', (n) => `Row ${n}.`],
  ['Rn:', (n) => `R${n}:`],
  ['n:', (n) => `${n}:`],
  ['n.', (n) => `${n}.`],
  ['n)', (n) => `${n})`],
  ['**Row n:**', (n, side, isFirst) => `**Row ${n}${isFirst ? ` (${side})` : ''}:**`],
  ['- Row n:', (n) => `- Row ${n}:`],
  ['Row n: (side)', (n, side) => `Row ${n}: (${side})`],
  ['Row n newline', (n, side) => `Row ${n} (${side})\n`],
  ['Row n, side:', (n, side) => `Row ${n}, ${side}:`],
  ['| Row n |', (n, side, isFirst) => `| Row ${n}${isFirst ? ` (${side})` : ''} |`],
  ['Row n tab', (n) => `Row ${n}\t`],
  ['Row #n', (n) => `Row #${n}:`],
  ['Row n (pattern row)', (n, side, isFirst) => `Row ${n}${isFirst ? ` (${side}, set-up row)` : ''}:`],
  ['Row word', (n) => (n <= 10 ? `Row ${NUMBERS[n]!}:` : `Row ${n}:`)],
];
const ROUND_HEADS: typeof HEADS = [
  ['Rnd n:', (n) => `Rnd ${n}:`],
  ['Round n:', (n) => `Round ${n}:`],
  ['nth round:', (n) => `${ordinal(n)} round:`],
  ['RND n –', (n) => `RND ${n} –`],
  ['nth rnd.', (n) => `${ordinal(n)} rnd.`],
  ['Rnd n (rs)', (n) => `Rnd ${n} –`],
];

const CAST_ONS: readonly ((n: number) => string)[] = [
  (n) => `Cast on ${n} sts.`,
  (n) => `CO ${n} sts`,
  (n) => `Cast on ${n} stitches loosely.`,
  (n) => `CO${n}`,
  (n) => `Cast-on: ${n} sts`,
  (n) => `Using 4 mm needles, cast on ${n} sts.`,
  (n) => `With size 7 needles and grey yarn, CO ${n} sts.`,
  (n) => `Begin by casting on ${n} sts.`,
  (n) => `${n} sts are cast on.`,
  (n) => `Cast on ${n} sts using the long-tail method.`,
  (n) => `With MC, cast on ${n} sts and work as follows:`,
  (n) => `Cast on ${n} sts for the back.`,
];
const FLAT_ONLY = ['Do not join.', 'Work back and forth in rows.', 'Worked flat.', 'Work flat.'];
const JOINS = [
  'Join to work in the round, being careful not to twist.',
  'Place marker and join in the round.',
  'Pm and join to work in the round, taking care not to twist the stitches.',
  'Worked in the round.',
  'Join for working in the round, place marker for beginning of round.',
];
const BEFORE = [
  'Moorland cable',
  'A small swatch of ropes',
  'ROPE PANEL',
  'Materials: 2 balls of aran wool, 4.5 mm needles, cable needle, stitch markers.',
  'Yarn: 100 g worsted (200 m)',
  'Needles: 1 pair 5 mm (US 8) needles',
  'Gauge: 20 sts and 28 rows = 10 cm in stocking stitch.',
  'Tension: 22 stitches and 30 rows to 4 inches over pattern on 4 mm needles',
  'Finished size: 20 cm wide and 150 cm long.',
  'This scarf is warm and easy to make.',
  'I made it for my grandmother, and you will love it.',
  'Happy knitting!',
  'Page 3 of 8',
  '© 1998 The Valley Workshop. All rights reserved.',
  'Check your gauge before you begin.',
  'If you work in the round, omit the edge stitches.',
  'Back',
  'Instructions',
  'Pattern',
];
const AFTER = [
  'Cast off in pattern.',
  'Bind off all sts loosely.',
  'Weave in ends. Block to measurements.',
  'Fasten off.',
  'Wash by hand in lukewarm water and dry flat.',
  'Sew the side seams.',
  'Enjoy your new scarf!',
  'www.example.org/patterns',
  'Cast off.',
];

const GLOSSARY =
  'Abbreviations\nk: knit\np: purl\nst(s): stitch(es)\nRS: right side\nWS: wrong side\nrep: repeat\ncn: cable needle\nbeg = beginning\ntbl: through the back loop';

/** Prints a pattern of the manners that a seed chooses. */
export function print(seed: number): Printed {
  const dice = new Dice(seed);
  const chosen: string[] = [];
  const choose = <T>(what: string, all: readonly T[], name: (one: T) => string = String): T => {
    const one = dice.of(all);
    chosen.push(`${what} ${name(one)}`);
    return one;
  };
  const isRound = dice.chance(0.2);
  const cloth = clothOf(dice, isRound);
  const rows = cloth.unit.map((_, r) => wholeRow(cloth, r));
  const firstRow =
    !isRound &&
    dice.chance(0.06) &&
    !hasCrossing(rows[1] ?? []) &&
    !rows.some((row, r) => r % 2 === 0 && hasOdd(row))
      ? 'WS'
      : 'RS';
  const isWs = (r: number) => !isRound && (r % 2 === 0) === (firstRow === 'WS');
  const castOn = sum(rows[0]!, takes);

  // Words
  const isStops = dice.chance(0.12);
  const isUpper = dice.chance(0.4);
  const caseOf = (s: string) => (isUpper ? s.toUpperCase() : s);
  const runForm = isStops
    ? choose('runs', ['K. 2', 'K.2', 'K. two'])
    : choose('runs', ['k2', 'k2', 'k2', 'k 2', 'knit 2', 'knit two', 'k2 sts', '2k']);
  const run = (s: 'k' | 'p', n: number): string => {
    const verb = s === 'k' ? 'knit' : 'purl';
    switch (runForm) {
      case 'K. 2':
        return `${s.toUpperCase()}. ${n}`;
      case 'K.2':
        return `${s.toUpperCase()}.${n}`;
      case 'K. two':
        return `${s.toUpperCase()}. ${n}`;
      case 'k 2':
        return `${caseOf(s)} ${n}`;
      case 'knit 2':
        return `${verb} ${n}`;
      case 'knit two':
        return `${verb} ${NUMBERS[n] ?? n}`;
      case 'k2 sts':
        return `${caseOf(s)}${n} st${n === 1 ? '' : 's'}`;
      case '2k':
        return `${n}${s}`;
      default:
        return `${caseOf(s)}${n}`;
    }
  };
  const school = choose('school', SCHOOLS, (s) => s.name);
  const separator =
    runForm === 'k2'
      ? choose('separator', [', ', ', ', ', ', '; ', ' ', '. ', ','])
      : runForm.startsWith('K.')
        ? ', '
        : choose('separator', [', ', ', ', '; ']);
  /** Where the crossings are told: in a key, in brackets at their first use, or in the rows themselves. */
  const told =
    separator === ', ' && school.name !== 'own'
      ? choose('told', ['key', 'key', 'key', 'in brackets once', 'steps in the row'])
      : 'key';
  const spelledOut = new Set<string>();
  const twoOf = (a: string[], ...b: string[]) => dice.of([...a, ...b]);
  const manner: Manner = {
    separator,
    isUpper,
    run,
    crossed: (c) => {
      if (told === 'steps in the row') return steps(c, dice);
      const name = school.crossed(c);
      if (told !== 'in brackets once' || spelledOut.has(name)) return name;
      spelledOut.add(name);
      return `${name} (${steps(c, dice)})`;
    },
    word: {
      yo: twoOf(['yo', 'yo'], 'yfwd', 'yarn over', 'yrn', 'yon', 'YO', 'wool forward'),
      m1l: twoOf(['M1L'], 'm1l', 'make 1 left'),
      m1r: twoOf(['M1R'], 'm1r', 'make 1 right'),
      kfb: twoOf(['kfb'], 'inc in next st', 'Kfb', 'knit into front and back of next st'),
      k2tog: twoOf(['k2tog'], 'K2tog', 'k 2 tog', 'knit 2 together', 'K2 tog'),
      ssk: twoOf(
        ['ssk'],
        'SSK',
        'skp',
        'sl 1, k1, psso',
        'slip, slip, knit'.replace(/, /g, ' '),
        'k2tog tbl',
      ),
      mb: twoOf(['MB'], 'mb', 'make bobble'),
      kt: twoOf(['k# tbl'], 'k#tbl', 'K#-tbl', 'knit # through the back loop'),
      pt: twoOf(['p# tbl'], 'p#tbl', 'P#-tbl', 'purl # through the back loop'),
    },
  };

  // Heads, rows and what they say of each other
  const head = choose('head', isRound ? ROUND_HEADS : HEADS, ([name]) => name)[1];
  const form = choose('repeat', [
    'star',
    'star',
    'starComma',
    'starStop',
    'starEnd',
    'more',
    'starTotal',
    'stars',
    'brackets',
    'square',
    'bracketsTo',
    'whole',
  ]);
  const counted = choose('counts', [
    'none',
    'none',
    'all',
    'dash',
    'square',
    'changed',
    'total',
    'there',
    'head',
  ]);
  const followed = choose('followed', [
    'out',
    'out',
    'as',
    'all',
    'presented',
    'alt',
    'pairs',
    'halves',
    'work n',
  ]);
  const presentWords = choose('presented', [
    'work the stitches as they present',
    'knit the knits and purl the purls',
    'K the knit sts and p the purl sts as they appear',
    'work sts as they appear',
    'Purl the purls and knit the knits',
    'K over k and p over p',
    'work as set',
    'Knit all knit sts and purl all purl sts',
  ]);
  const isTable = head(1, 'RS', true).startsWith('|');
  const end = isTable ? ' |' : separator === ',' || dice.chance(0.15) ? '' : '.';
  const presents = (r: number) =>
    r > 0 &&
    rows[r]!.length > 0 &&
    JSON.stringify(rows[r]) === JSON.stringify(above(rows[r - 1]!)) &&
    !rows[r]!.includes('kt') &&
    !rows[r - 1]!.includes('kfb');
  const lines: string[] = [];
  const headOf = (r: number) => {
    const text = head(r + 1, isWs(r) ? 'WS' : 'RS', r === 0);
    return text.endsWith('\n') ? text : `${text} `;
  };
  const countOf = (r: number): string => {
    const n = sum(rows[r]!, makes);
    const by = n - sum(rows[r]!, takes);
    switch (counted) {
      case 'all':
        return ` (${n} sts)`;
      case 'dash':
        return `– ${n} sts.`;
      case 'square':
        return ` [${n} sts]`;
      case 'total':
        return ` ${n} sts total.`;
      case 'there':
        return ` There are ${n} sts on the needle.`;
      case 'changed':
        return by === 0
          ? ''
          : ` (${Math.abs(by)} st${Math.abs(by) === 1 ? '' : 's'} ${by > 0 ? dice.of(["inc'd", 'increased']) : dice.of(["dec'd", 'decreased'])})`;
      default:
        return '';
    }
  };
  const said = rows.map((_, r) => rowWords(cloth, r, isWs(r), manner, dice, form));
  const equal = (a: number, b: number) => JSON.stringify(rows[a]) === JSON.stringify(rows[b]);
  const canCount = counted !== 'none' && !isTable;
  const evens = rows.map((_, r) => r).filter((r) => r % 2 === 1);
  const evensAlike = evens.length > 1 && evens.every((r) => equal(r, evens[0]!));
  const evensPresent = evens.every((r) => presents(r));
  const isNumbered = !/^\d|^- |^\||^\*\*|^Row \d+\t|^Row #|^R\d/.test(head(1, 'RS', true));
  const skip = new Set<number>();
  rows.forEach((row, r) => {
    if (skip.has(r)) return;
    const tail = `${counted === 'dash' && canCount ? ' ' : end}${canCount ? countOf(r) : ''}`;
    const stop = end === '' && canCount && counted !== 'none' ? '' : '';
    const words = said[r]!;
    if (
      followed === 'all' &&
      r === 1 &&
      isNumbered &&
      !/: \(/.test(headOf(1)) &&
      (evensAlike || evensPresent)
    ) {
      const which = isRound
        ? dice.of(['all even-numbered rnds', 'every even round'])
        : dice.of([
            `all ${isWs(1) ? 'WS' : 'RS'} rows`,
            `all following ${isWs(1) ? 'WS' : 'RS'} rows`,
            'every alt row',
            'all even rows',
          ]);
      const body = evensPresent && dice.chance(0.6) ? presentWords : words;
      if (evensAlike || body === presentWords) {
        lines.push(`${headOf(r).replace(/[ ]*([:.–-])?\s*$/, '')} and ${which}: ${body}.`);
        evens.forEach((e) => skip.add(e));
        chosen.push(`all: ${which}`);
        return;
      }
    }
    if (
      followed === 'alt' &&
      r === 1 &&
      !isRound &&
      evensAlike &&
      head(2, 'WS', false).startsWith('2nd row')
    ) {
      lines.push(`2nd and every alt row: ${words}.`);
      evens.forEach((e) => skip.add(e));
      return;
    }
    // Rows that only present, told by how many there are.
    if (followed === 'work n' && isNumbered && counted === 'none' && r > 0 && presents(r)) {
      let n_ = 1;
      while (r + n_ < rows.length && presents(r + n_)) n_++;
      if (r + n_ < rows.length) {
        const w = isRound ? 'round' : 'row';
        lines.push(
          dice.of([
            `Work ${n_} ${w}${n_ === 1 ? '' : 's'}.`,
            `Work ${NUMBERS[n_]!} ${w}${n_ === 1 ? '' : 's'} straight.`,
            `Work ${n_} ${w}${n_ === 1 ? '' : 's'} in pattern.`,
            `Work ${n_} ${w}${n_ === 1 ? '' : 's'} even.`,
          ]),
        );
        for (let i = 0; i < n_; i++) skip.add(r + i);
        chosen.push('work n rows');
        return;
      }
    }
    if (followed === 'presented' && presents(r)) {
      lines.push(`${headOf(r)}${presentWords}${tail}${stop}`);
      return;
    }
    // The second half of the rows as the first.
    const half = rows.length / 2;
    if (followed === 'halves' && isNumbered && r === half && half % (isRound ? 1 : 2) === 0) {
      const same = rows.slice(half).every((_o, i) => equal(i, half + i));
      const [a, b, n] = [half + 1, rows.length, half];
      const w = isRound ? 'Rnds' : 'Rows';
      if (same) {
        lines.push(
          dice.of([
            `${w} ${a}–${b}: as ${w.toLowerCase()} 1–${n}.`,
            `${w} ${a}-${b}: Rep ${w.toLowerCase()} 1-${n}.`,
            `${ordinal(a)}–${ordinal(b)} ${w.toLowerCase()}: As 1st–${ordinal(n)} ${w.toLowerCase()}.`,
            `${ordinal(a)} to ${ordinal(b)} ${w.toLowerCase()}: as 1st to ${ordinal(n)} ${w.toLowerCase()}.`,
            `${w} ${a} to ${b}: Repeat ${w.toLowerCase()} 1 to ${n} once.`,
            `${w.slice(0, -1)} ${a}: repeat ${w.toLowerCase()} 1–${n}.`,
          ]),
        );
        rows.forEach((_o, i) => i >= half && skip.add(i));
        chosen.push('halves same');
        return;
      }
    }
    // As another row, but for a crossing that leans the other way.
    if (followed === 'as' && isNumbered && told === 'key' && canSwap(row, manner)) {
      const like = rows.findIndex((o, i) => i < r && isWs(i) === isWs(r) && swapsOf(o, row).length === 1);
      const [swap] = like < 0 ? [] : swapsOf(rows[like]!, row);
      if (swap && counted !== 'head') {
        const [from, to] = swap.map((c) => school.crossed(c)) as [string, string];
        const w = isRound ? 'rnd' : 'row';
        lines.push(
          `${headOf(r)}${dice.of([`as ${w} ${like + 1}, but ${to} instead of ${from}`, `As ${w} ${like + 1}, replacing ${from} with ${to}`, `as ${w} ${like + 1}, working ${to} in place of ${from}`])}.`,
        );
        chosen.push('swap');
        return;
      }
    }
    const earlier = rows.findIndex((_o, o) => o < r && equal(o, r) && isWs(o) === isWs(r));
    if (followed === 'as' && earlier >= 0 && counted !== 'head') {
      const what = isRound ? 'rnd' : 'row';
      lines.push(
        `${headOf(r)}${dice.of([`as ${what} ${earlier + 1}`, `As ${ordinal(earlier + 1)} ${what}`, `Rep ${what} ${earlier + 1}`, `work as ${what} ${earlier + 1}`, `same as ${what} ${earlier + 1}`])}${tail}`,
      );
      return;
    }
    if (followed === 'pairs' && isNumbered && !head(1, 'RS', true).includes('row') && !isRound) {
      const again = rows.flatMap((_o, o) =>
        o > r && !skip.has(o) && equal(o, r) && isWs(o) === isWs(r) ? [o] : [],
      );
      if (again.length && head(1, 'RS', false) === 'Row 1:') {
        again.forEach((o) => skip.add(o));
        const all = [r, ...again].map((o) => o + 1);
        lines.push(
          `Rows ${all.slice(0, -1).join(', ')} ${dice.of(['and', '&'])} ${all.at(-1)!}${r === 0 ? ` (${isWs(0) ? 'WS' : 'RS'})` : ''}: ${words}${tail}`,
        );
        return;
      }
    }
    const headText =
      counted === 'head' && isNumbered && !headOf(r).endsWith('\n')
        ? headOf(r).replace(/([:.–])\s*$/, `(${sum(row, makes)} sts)$1 `)
        : headOf(r);
    lines.push(`${headText}${words}${tail}`);
  });

  // Rows that stand before the first, and behind the last, without a number
  const unnumbered =
    isNumbered && counted !== 'head' && !isTable
      ? choose('unnumbered', ['none', 'none', 'none', 'none', 'before', 'set-up', 'closing'])
      : 'none';
  let lead: Cell[][] = [];
  const leadLines: string[] = [];
  if (unnumbered === 'before' && firstRow === 'RS') {
    const [said_, made] = plainRows(dice, castOn, isRound, chosen);
    lead = made;
    leadLines.push(said_);
  }
  const closing: Cell[][] = [];
  const setup: Cell[] | null =
    unnumbered === 'set-up' && firstRow === 'RS' && !isRound ? above(rows.at(-1)!) : null;
  const setupMakes = setup && sum(setup, makes) === castOn ? setup : null;

  // The plan
  let up: Printed['up'] = null;
  let end_: number | null = null;
  const n = rows.length;
  const home =
    sum(rows.at(-1)!, makes) === castOn &&
    (isRound || n % 2 === 0) &&
    !(leadLines.length && /^\d/.test(lines[0] ?? ''));
  const what = isRound ? 'rnd' : 'row';
  if (home && dice.chance(0.55)) {
    const times = dice.of([2, 3, 4]);
    const more = OFTEN[times - 1]!;
    const plan = choose(
      'plan',
      [
        ['rep more', `Rep ${what}s 1–${n} ${more} more.`, times],
        ['repeat these', `Repeat these ${n} ${what}s ${times === 2 ? 'once' : more} more.`, times],
        ['total', `Work ${what}s 1–${n} a total of ${times} times.`, times],
        ['for a total', `Rep ${what}s 1–${n} for a total of ${times} times.`, times],
        ['last n', `Rep last ${n} ${what}s ${more} more.`, times],
        ['the n', `Rep the ${n} ${what}s ${NUMBERS[times]!} times more.`, times + 1],
        ['until rows', `Rep these ${n} ${what}s until ${n * times} ${what}s have been worked.`, times],
        ['twice', `Work ${what}s 1–${n} ${OFTEN[times]!}.`, times],
        ['form', `These ${n} ${what}s form the pattern.`, 1],
        ['throughout', `Rep ${what}s 1–${n} throughout.`, 1],
        ['length', `Rep ${what}s 1 to ${n} until piece measures 20 cm from cast-on edge.`, 1],
        ['ordinal', `Rep 1st–${ordinal(n)} ${what}s ${more} more.`, times],
        ['form and rep', `Last ${n} ${what}s form the patt. Rep them ${more} more.`, times],
        ['from first', `Rep from 1st ${what}.`, 1],
        ['more times', `Repeat ${what}s 1-${n} ${times} more times.`, times + 1],
        ['desired', `Continue to repeat ${what}s 1–${n} until desired length.`, 1],
        ['as often', `Repeat ${what}s 1–${n} as many times as desired.`, 1],
        [
          'two more',
          `Repeat ${what}s 1 through ${n} ${NUMBERS[times]!} more times, ending with ${isRound ? 'a rnd' : 'row'} ${n}.`,
          times + 1,
        ],
        ['over and over', `Rep these ${n} ${what}s ${times} times in all.`, times],
      ] as const,
      ([name]) => name,
    );
    lines.push(plan[1]);
    up = [1, n, plan[2]];
    // What is "last", or the whole, would count the rows before these too.
    if (
      (lead.length || setupMakes) &&
      /form|length|throughout|desired|these|last n|the n|until|over|first/.test(plan[0])
    ) {
      lines.pop();
      up = null;
    }
  }
  if (
    up === null && unnumbered === 'closing' && !isRound && n % 2 === 1 + 0 * n
      ? false
      : up === null && unnumbered === 'closing' && !isRound
  ) {
    // Behind "all WS rows" it must say its side.
    const isOpen = skip.size > 0 && followed !== 'pairs';
    const next = isWs(0) === false && n % 2 === 0;
    if (next && isOpen) {
      closing.push(many(sum(rows.at(-1)!, makes), 'k'));
      lines.push(dice.of(['Last row (RS): Knit.', 'Next row (RS): knit all sts.']));
    } else if (next) {
      closing.push(many(sum(rows.at(-1)!, makes), 'k'));
      lines.push(
        dice.of([
          'Next row: Knit.',
          'Last row (RS): Knit.',
          'Final row: K to end.',
          'Following row: Knit.',
          'Knit 1 row.',
          'Next row (RS): knit all sts.',
          'Last row: k across.',
        ]),
      );
    }
  }
  if (setupMakes)
    lines.unshift(
      `${dice.of(['Set-up row', 'Foundation row', 'Preparation row', 'Setup row'])} (WS): ${joined(worded(order(setupMakes, true), manner), manner)}.`,
    );
  if (
    up &&
    home &&
    n % 2 === 0 &&
    dice.chance(0.25) &&
    /^(?:Rep|Repeat) (?:rows|rnds) 1[–-]\d+ (?:once|twice|\d times|[a-z]+ times) more\.$/.test(lines.at(-1)!)
  ) {
    const part = dice.of([1, 2].filter((i) => i < n));
    const w = isRound ? 'rnd' : 'row';
    lines[lines.length - 1] = lines
      .at(-1)!
      .replace(
        /\.$/,
        part === 1
          ? `, then ${w} 1 once.`
          : dice.of([`, then ${w}s 1 and 2 once.`, `, then work ${w}s 1–2 once more.`]),
      );
    end_ = part;
    chosen.push('then part');
  }
  const leads = [...lead, ...(setupMakes ? [setupMakes] : [])];
  if (up) up = [up[0] + leads.length, up[1] + leads.length, up[2]];

  // Around it
  const crosses = [
    ...new Map(
      rows.flat().flatMap((c) => (typeof c === 'string' ? [] : [[JSON.stringify(c), c] as const])),
    ).values(),
  ];
  const isSure = (c: Cross) =>
    c.front.length === c.back.length && !purled(c) && total(c) !== 2
      ? ['total-hold', 'front-back', 'spaced'].includes(school.name)
      : school.name === 'front-back' && c.front.length === c.back.length;
  const names = crosses.map((c) => school.crossed(c).toLowerCase());
  const isTold = told !== 'key';
  const needsKey = !isTold && (crosses.some((c) => !isSure(c)) || new Set(names).size < names.length);
  const key =
    needsKey || dice.chance(0.3) ? keyOf(crosses, { ...manner, crossed: school.crossed }, dice, chosen) : '';
  const castOnText = choose('cast on', CAST_ONS, (f) => f(0))(castOn);
  const isSized = !isRound && dice.chance(0.06) && /^(?:Cast on|CO) \d+ s/.test(castOnText);
  const top: string[] = [];
  let text_ = (t: string) => t;
  const before = Array.from({ length: dice.below(4) }, () => dice.of(BEFORE)).filter(
    (line) => !(isRound && /^If you work/.test(line)),
  );
  top.push(...before.filter((b, i) => before.indexOf(b) === i));
  if (dice.chance(0.15)) top.push(GLOSSARY);
  const isKeyFirst = dice.chance(0.5);
  if (key && isKeyFirst) top.push(key);
  let begins = castOnText;
  if (isSized)
    text_ = (t) => t.replace(/to last (\d+) sts/g, (_, m: string) => `to last ${m} (${m}, ${m}) sts`);
  if (isSized) begins = begins.replace(String(castOn), `${castOn} (${castOn + 6}, ${castOn + 12})`);
  if (isRound && begins.endsWith(':')) begins = begins.replace(/ and work.*/, '.');
  if (isRound) begins += `${/[.:]$/.test(begins) ? ' ' : '. '}${dice.of(JOINS)}`;
  else if (dice.chance(0.12) && !/:$/.test(begins))
    begins += `${/\.$/.test(begins) ? ' ' : '. '}${dice.of(FLAT_ONLY)}`;
  top.push(begins);
  const bottom = [
    ...(key && !isKeyFirst ? [key] : []),
    ...Array.from({ length: dice.below(3) }, () => dice.of(AFTER)),
  ];
  // A finishing line belongs behind the rows, before a key that follows them.
  const gap = dice.of(['\n', '\n\n']);
  let text = [...top, ...leadLines, text_(lines.join('\n')), ...bottom].join(
    gap === '\n' && !key ? '\n' : '\n\n',
  );
  if (isTable) text = text.replace(/^\| Row 1/m, '| Row | Instructions |\n|-----|-----|\n| Row 1');
  const ends = choose('ends', ['\n', '\n', '\r\n', 'wrapped', 'nbsp', 'scanned', 'hyphens', 'trailing']);
  if (isStops)
    text = text.replace(/\b(rep|patt|foll|alt|beg) /g, '$1. ').replace(/(\d) sts(?=[ ,;)])/g, '$1 sts.');
  if (ends === '\r\n') text = text.replaceAll('\n', '\r\n');
  if (ends === 'trailing') text = text.replaceAll('\n', '  \n') + '\n';
  if (ends === 'nbsp') text = text.replace(/(\d) sts/g, '$1\u00a0sts');
  if (ends === 'wrapped' && !isTable && separator.startsWith(',')) text = wrap(text, 46);
  if (ends === 'scanned' && runForm === 'k2')
    text = text.replace(/\b([kpKP])1\b(?=[,;. ])/g, '$1l').replace(/\b([kp])10\b/g, '$11O');
  if (ends === 'hyphens' && !isTable)
    text = text.replace(/rep from/g, 're-\npeat from').replace(/repeat from/g, 'repeat from');
  return {
    text,
    construction: isRound ? 'round' : 'flat',
    firstRow: setupMakes ? 'WS' : firstRow,
    ...(isSized ? { size: 0 } : {}),
    castOn,
    rows: [...leads, ...rows, ...closing],
    up,
    ...(end_ === null ? {} : { endsWith: end_ + leads.length }),
    chosen,
  };
}

/** The crossings that differ between two rows which are alike otherwise: of the one, and of the other. */
function swapsOf(a: readonly Cell[], b: readonly Cell[]): [Cross, Cross][] {
  if (a.length !== b.length) return [];
  const found = new Map<string, [Cross, Cross]>();
  const from = new Set<string>();
  for (const [i, cell] of a.entries()) {
    const other = b[i]!;
    if (typeof cell !== 'string') from.add(JSON.stringify(cell));
    if (isEqual(cell, other)) continue;
    if (typeof cell === 'string' || typeof other === 'string' || total(cell) !== total(other)) return [];
    found.set(JSON.stringify([cell, other]), [cell, other]);
  }
  // Every such crossing of the row is replaced, or it would not be told so.
  const swaps = [...found.values()];
  return swaps.length === 1 && !a.some((c, i) => isEqual(c, swaps[0]![0]) && isEqual(b[i]!, c)) ? swaps : [];
}
const canSwap = (row: readonly Cell[], _manner: Manner) => hasCrossing(row);

/** Rows of one cloth that are told by its name and their number. */
function plainRows(dice: Dice, stitches: number, isRound: boolean, chosen: string[]): [string, Cell[][]] {
  const n = dice.of([2, 4]);
  const what = isRound ? 'rounds' : 'rows';
  const turn = (r: number, a: Cell, b: Cell) => (r % 2 === 0 ? a : b);
  const all = (cell: (r: number, i: number) => Cell) =>
    Array.from({ length: n }, (_, r) => Array.from({ length: stitches }, (_o, i) => cell(r, i)));
  const kinds: { name: string; words: string[]; rows: Cell[][] }[] = [
    {
      name: 'knit n rows',
      words: [`Knit ${n} ${what}.`, `K ${n} ${what}.`, `Knit ${NUMBERS[n]!} ${what}.`],
      rows: all((r) => (isRound ? 'k' : turn(r, 'k', 'p'))),
    },
    {
      name: 'moss',
      words: [`Work ${n} ${what} in moss st.`, `${n} ${what} in seed stitch.`],
      rows: mossRows(n, stitches),
    },
  ];
  if (!isRound)
    kinds.push(
      {
        name: 'garter',
        words: [
          `Work ${n} rows in garter st.`,
          `${n} rows in garter stitch.`,
          `Work in garter st for ${n} rows.`,
        ],
        rows: all((r) => turn(r, 'k', 'p')),
      },
      {
        name: 'st st',
        words: [
          `Work ${n} rows in st st.`,
          `Beg with a k row, work ${n} rows in st st.`,
          `Work ${n} rows in stocking stitch, beginning with a knit row.`,
          `Starting with a k row, work ${n} rows stockinette st.`,
        ],
        rows: all(() => 'k'),
      },
      {
        name: 'knit, purl',
        words: ['Knit 1 row. Purl 1 row.', 'Knit one row, purl one row.'],
        rows: [many(stitches, 'k'), many(stitches, 'k')],
      },
    );
  if (stitches % 2 === 0)
    kinds.push({
      name: 'rib',
      words: [
        `Work ${n} ${what} in k1, p1 rib.`,
        `${n} ${what} of k1, p1 rib.`,
        `Work in k1, p1 rib for ${n} ${what}.`,
      ],
      rows: all((_r, i) => (i % 2 ? 'p' : 'k')),
    });
  const { name, words, rows } = dice.of(kinds);
  chosen.push(`before ${name}`);
  return [dice.of(words), rows];
}

/** Moss: each stitch the other of what it presents. The first row begins with a knit stitch. */
const mossRows = (n: number, stitches: number): Cell[][] =>
  Array.from({ length: n }, (_, r) =>
    Array.from({ length: stitches }, (_o, i) => ((i + r) % 2 === 0 ? 'k' : 'p')),
  );

const hasCrossing = (row: readonly Cell[]) => row.some((c) => typeof c !== 'string');
const hasOdd = (row: readonly Cell[]) => row.some((c) => typeof c !== 'string' || !/^(?:k|p|kt|pt)$/.test(c));

/** Lines broken behind a comma where they grow too long. */
function wrap(text: string, most: number): string {
  return text
    .split('\n')
    .map((line) => {
      if (!/^(?:row|rnd|round|\d+(?:st|nd|rd|th) r)/i.test(line)) return line;
      let out = '';
      let length = 0;
      for (const word of line.split(' ')) {
        if (length + word.length > most) {
          out += `\n${word}`;
          length = word.length;
        } else {
          out += (out ? ' ' : '') + word;
          length += word.length + 1;
        }
      }
      return out;
    })
    .join('\n');
}

export { isEqual, sum, takes };

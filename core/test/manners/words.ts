import { many, sum, takes, wholeRow, type Cell, type Cloth, type Cross, type Dice } from './cloth.js';

/** The words of rows and keys, in the forms that patterns have. */

export const NUMBERS = [
  'zero',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
];
export const ORDINALS = ['', 'First', 'Second', 'Third', 'Fourth', 'Fifth', 'Sixth', 'Seventh', 'Eighth'];
export const ordinal = (n: number) =>
  `${n}${n % 10 === 1 && n !== 11 ? 'st' : n % 10 === 2 && n !== 12 ? 'nd' : n % 10 === 3 && n !== 13 ? 'rd' : 'th'}`;
export const OFTEN = ['', 'once', 'twice', '3 times', '4 times', '5 times', '6 times'];

/** How one pattern is worded throughout. */
export interface Manner {
  separator: string;
  run: (stitch: 'k' | 'p', n: number) => string;
  crossed: (c: Cross) => string;
  /** Words of other stitches. */
  word: Record<string, string>;
}

/** Worked on the wrong side, what the right side shows. */
const behind = (cell: string): string =>
  (({ k: 'p', p: 'k', kt: 'pt', pt: 'kt' }) as Record<string, string>)[cell] ?? cell;

/** The words of cells in working order, runs joined. */
export function worded(cells: readonly Cell[], manner: Manner): string[] {
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

export const order = (cells: readonly Cell[], isWs: boolean): Cell[] =>
  isWs ? [...cells].reverse().map((c) => (typeof c === 'string' ? behind(c) : c)) : [...cells];

/** Names of crossings and how a key tells them, by school. */
export interface School {
  name: string;
  crossed: (c: Cross) => string;
}
export const total = (c: Cross) => c.front.length + c.back.length;
export const purled = (c: Cross) => c.back[0] === 'p';
const held = (c: Cross) => (c.lean === 'left' ? 'F' : 'B');
export const SCHOOLS: readonly School[] = [
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
export function steps(c: Cross, dice: Dice): string {
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
export function keyOf(found: readonly Cross[], manner: Manner, dice: Dice, chosen: string[]): string {
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

export const isEqual = (a: Cell, b: Cell): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Joins the words of a row. */
export const joined = (words: readonly string[], { separator }: Manner) => words.join(separator);

/** The forms in which a repeat across is told. */
export const REPEATS = [
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
];

/** The words of a cloth's row, its repeat told in one of the forms repeats have. */
export function rowWords(
  cloth: Cloth,
  r: number,
  isWs: boolean,
  manner: Manner,
  dice: Dice,
  form: string,
): string {
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

/** The crossings that differ between two rows which are alike otherwise: of the one, and of the other. */
export function swapsOf(a: readonly Cell[], b: readonly Cell[]): [Cross, Cross][] {
  if (a.length !== b.length) return [];
  const found = new Map<string, [Cross, Cross]>();
  for (const [i, cell] of a.entries()) {
    const other = b[i]!;
    if (isEqual(cell, other)) continue;
    if (typeof cell === 'string' || typeof other === 'string' || total(cell) !== total(other)) return [];
    found.set(JSON.stringify([cell, other]), [cell, other]);
  }
  // Every such crossing of the row is replaced, or it would not be told so.
  const swaps = [...found.values()];
  return swaps.length === 1 && !a.some((c, i) => isEqual(c, swaps[0]![0]) && isEqual(b[i]!, c)) ? swaps : [];
}

/** Rows of one cloth that are told by its name and their number. */
export function plainRows(
  dice: Dice,
  stitches: number,
  isRound: boolean,
  chosen: string[],
): [string, Cell[][]] {
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

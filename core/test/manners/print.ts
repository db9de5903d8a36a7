import {
  above,
  clothOf,
  Dice,
  hasCrossing,
  hasOdd,
  makes,
  many,
  sum,
  takes,
  wholeRow,
  type Cell,
  type Cloth,
  type Cross,
} from './cloth.js';
import {
  AFTER,
  BEFORE,
  CAST_ONS,
  COUNTS,
  ENDS,
  FLAT_ONLY,
  GLOSSARY,
  HEADS,
  JOINS,
  LEAFLET_RUNS,
  plansOf,
  PRESENTED,
  ROUND_HEADS,
  RUNS,
  STITCH_WORDS,
} from './dimensions.js';
import {
  isEqual,
  joined,
  keyOf,
  NUMBERS,
  order,
  ordinal,
  plainRows,
  purled,
  REPEATS,
  rowWords,
  SCHOOLS,
  steps,
  swapsOf,
  total,
  worded,
  type Manner,
  type School,
} from './words.js';

/**
 * A printer of knitting patterns in the manners of a hundred years, made for the tests: it begins with a cloth and words
 * it by choosing each dimension at random. It shares nothing with the writer of the program; what its text must read as
 * is the cloth. A manner is added by adding to a dimension. Common practice, no source.
 */

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

/** A pattern being printed: what was chosen for it, and the lines of its rows so far. */
class Sheet {
  readonly chosen: string[] = [];
  readonly lines: string[] = [];
  /** Rows that another line tells too. */
  readonly told = new Set<number>();
  readonly rows: Cell[][];
  readonly castOn: number;
  readonly firstRow: 'RS' | 'WS';
  /** "row", "rnd". */
  readonly what: string;
  readonly school: School;
  /** Where its crossings are told: in a key, in brackets at their first use, or in the rows themselves. */
  readonly where: string;
  readonly manner: Manner;
  readonly head: (n: number, side: string, isFirst: boolean) => string;
  readonly counted: string;
  readonly followed: string;
  readonly presented: string;
  readonly words: string[];
  readonly isStops: boolean;
  readonly runs: string;

  constructor(
    readonly dice: Dice,
    readonly cloth: Cloth,
    readonly isRound: boolean,
  ) {
    this.rows = cloth.unit.map((_, r) => wholeRow(cloth, r));
    this.castOn = sum(this.rows[0]!, takes);
    this.what = isRound ? 'rnd' : 'row';
    // Only what is plain on right-side rows can be turned round without crossings on the wrong side.
    const isPlain = !this.rows.some((row, r) => (r % 2 ? hasCrossing(row) : hasOdd(row)));
    this.firstRow = !isRound && dice.chance(0.06) && isPlain ? 'WS' : 'RS';
    this.isStops = dice.chance(0.12);
    const isUpper = dice.chance(0.4);
    const runs = this.isStops ? LEAFLET_RUNS : { ...RUNS };
    this.runs = this.choose('runs', [...Object.keys(runs), ...(this.isStops ? [] : ['k2', 'k2'])]);
    const run = runs[this.runs]!;
    this.school = this.choose('school', SCHOOLS, ({ name }) => name);
    const separator = this.choose('separator', this.separators());
    this.where =
      separator === ', ' && this.school.name !== 'own'
        ? this.choose('crossings', ['key', 'key', 'key', 'in brackets once', 'in the row'])
        : 'key';
    this.manner = {
      separator,
      run: (s, n) => (isUpper && /^k ?2/.test(this.runs) ? run(s, n).replace(s, s.toUpperCase()) : run(s, n)),
      crossed: this.crossed(),
      word: Object.fromEntries(Object.entries(STITCH_WORDS).map(([id, all]) => [id, dice.of(all)])),
    };
    this.head = this.choose('head', isRound ? ROUND_HEADS : HEADS, ([name]) => name)[1];
    const form = this.choose('repeat', REPEATS);
    this.counted = this.choose('counts', ['none', ...Object.keys(COUNTS)]);
    this.followed = this.choose('followed', ['out', 'out', ...Object.keys(FOLLOWED)]);
    this.presented = this.choose('presented', PRESENTED);
    this.words = this.rows.map((_, r) => rowWords(cloth, r, this.isWs(r), this.manner, dice, form));
  }

  choose<T>(what: string, all: readonly T[], name: (one: T) => string = String): T {
    const one = this.dice.of(all);
    this.chosen.push(`${what} ${name(one)}`);
    return one;
  }

  private separators(): string[] {
    if (this.isStops) return [', '];
    return this.runs === 'k2' ? [', ', ', ', ', ', '; ', ' ', '. ', ','] : [', ', ', ', '; '];
  }

  private crossed(): Manner['crossed'] {
    const { school, where, dice } = this;
    const spelled = new Set<string>();
    return (c) => {
      if (where === 'in the row') return steps(c, dice);
      const name = school.crossed(c);
      if (where === 'key' || spelled.has(name)) return name;
      spelled.add(name);
      return `${name} (${steps(c, dice)})`;
    };
  }

  isWs = (r: number): boolean => !this.isRound && (r % 2 === 0) === (this.firstRow === 'WS');
  side = (r: number): string => (this.isWs(r) ? 'WS' : 'RS');
  equal = (a: number, b: number): boolean => isEqualRow(this.rows[a]!, this.rows[b]!);
  /** Whether a row only presents; what a twist or a bar presents, its words do not say. */
  presents = (r: number): boolean =>
    r > 0 &&
    isEqualRow(this.rows[r]!, above(this.rows[r - 1]!)) &&
    !this.rows[r]!.includes('kt') &&
    !this.rows[r - 1]!.includes('kfb');

  get first(): string {
    return this.head(1, 'RS', true);
  }
  get isTable(): boolean {
    return this.first.startsWith('|');
  }
  /** Whether its rows are headed by a word and a number, so that others can be told among them. */
  get isNumbered(): boolean {
    return !/^\d|^- |^\||^\*\*|^Row \d+\t|^Row #|^R\d/.test(this.first);
  }

  headOf(r: number): string {
    const text = this.head(r + 1, this.side(r), r === 0);
    return text.endsWith('\n') ? text : `${text} `;
  }

  private readonly end = () => (this.isTable ? ' |' : this.manner.separator === ',' ? '' : '.');
  /** What stands behind the words of a row. */
  tail(r: number): string {
    if (this.isTable) return this.end();
    const count = COUNTS[this.counted]!(this.rows[r]!);
    return this.counted === 'dash' ? ` ${count}` : `${this.end()}${count}`;
  }

  tell(line: string, ...others: readonly number[]): true {
    this.lines.push(line);
    for (const r of others) this.told.add(r);
    return true;
  }

  /** Tells every row, in the way of this pattern, or by its words. */
  tellRows(): void {
    for (const r of this.rows.keys())
      if (!this.told.has(r) && !FOLLOWED[this.followed]?.(this, r))
        this.tell(`${this.headCounted(r)}${this.words[r]!}${this.tail(r)}`);
  }

  private headCounted(r: number): string {
    const head = this.headOf(r);
    const counts = this.counted === 'head' && this.isNumbered && !head.endsWith('\n');
    return counts ? head.replace(/([:.–])\s*$/, `(${sum(this.rows[r]!, makes)} sts)$1 `) : head;
  }
}

const isEqualRow = (a: readonly Cell[], b: readonly Cell[]): boolean =>
  a.length === b.length && a.every((c, i) => isEqual(c, b[i]!));

/** How a row may be told by others, where it can be; each says whether it told it. */
const FOLLOWED: Readonly<Record<string, (sheet: Sheet, r: number) => boolean>> = {
  /** Row 2 and all WS rows: … */
  all(s, r) {
    if (r !== 1 || !s.isNumbered || /: \(/.test(s.headOf(1))) return false;
    const evens = [...s.rows.keys()].filter((e) => e % 2 === 1);
    const present = evens.every((e) => s.presents(e)) && s.dice.chance(0.7);
    if (!present && !(evens.length > 1 && evens.every((e) => s.equal(e, 1)))) return false;
    const sided = [
      `all ${s.side(1)} rows`,
      `all following ${s.side(1)} rows`,
      'every alt row',
      'all even rows',
    ];
    const which = s.dice.of(s.isRound ? ['all even-numbered rnds', 'every even round'] : sided);
    const head = s.headOf(1).replace(/[ ]*[:.–-]?\s*$/, '');
    return s.tell(`${head} and ${which}: ${present ? s.presented : s.words[1]!}.`, ...evens);
  },
  presented: (s, r) => s.presents(r) && s.tell(`${s.headOf(r)}${s.presented}${s.tail(r)}`),
  /** 3rd row: as 1st row; or as it, but for a crossing that leans the other way. */
  as(s, r) {
    if (s.counted === 'head') return false;
    const before = [...s.rows.keys()].filter((o) => o < r && s.isWs(o) === s.isWs(r));
    const like = before.find((o) => s.equal(o, r));
    const [w, head, tail] = [s.what, s.headOf(r), s.tail(r)];
    if (like !== undefined) {
      const n = like + 1;
      const as = [
        `as ${w} ${n}`,
        `As ${ordinal(n)} ${w}`,
        `Rep ${w} ${n}`,
        `work as ${w} ${n}`,
        `same as ${w} ${n}`,
      ];
      return s.tell(`${head}${s.dice.of(as)}${tail}`);
    }
    const other = before.find((o) => swapsOf(s.rows[o]!, s.rows[r]!).length === 1);
    if (other === undefined || !s.isNumbered || s.where !== 'key') return false;
    const [from, to] = swapsOf(s.rows[other]!, s.rows[r]!)[0]!.map((c) => s.school.crossed(c)) as [
      string,
      string,
    ];
    const n = other + 1;
    s.chosen.push('but another crossing');
    return s.tell(
      `${head}${s.dice.of([`as ${w} ${n}, but ${to} instead of ${from}`, `As ${w} ${n}, replacing ${from} with ${to}`, `as ${w} ${n}, working ${to} in place of ${from}`])}.`,
    );
  },
  /** Rows 1, 5 and 7 (RS): … */
  pairs(s, r) {
    if (s.head(1, 'RS', false) !== 'Row 1:') return false;
    const again = [...s.rows.keys()].filter(
      (o) => o > r && !s.told.has(o) && s.equal(o, r) && s.isWs(o) === s.isWs(r),
    );
    if (!again.length) return false;
    const all = [r, ...again].map((o) => o + 1);
    const side = r === 0 ? ` (${s.side(0)})` : '';
    const numbers = `${all.slice(0, -1).join(', ')} ${s.dice.of(['and', '&'])} ${all.at(-1)!}`;
    return s.tell(`Rows ${numbers}${side}: ${s.words[r]!}${s.tail(r)}`, ...again);
  },
  /** 5th to 8th rows: as 1st to 4th */
  halves(s, r) {
    const n = s.rows.length / 2;
    const upper = [...s.rows.keys()].slice(n);
    if (r !== n || !s.isNumbered || (!s.isRound && n % 2) || !upper.every((o) => s.equal(o - n, o)))
      return false;
    const [a, b, w] = [n + 1, 2 * n, `${s.what}s`];
    const W = `${w[0]!.toUpperCase()}${w.slice(1)}`;
    return s.tell(
      s.dice.of([
        `${W} ${a}–${b}: as ${w} 1–${n}.`,
        `${W} ${a}-${b}: Rep ${w} 1-${n}.`,
        `${ordinal(a)}–${ordinal(b)} ${w}: As 1st–${ordinal(n)} ${w}.`,
        `${ordinal(a)} to ${ordinal(b)} ${w}: as 1st to ${ordinal(n)} ${w}.`,
        `${W} ${a} to ${b}: Repeat ${w} 1 to ${n} once.`,
        `${W.slice(0, -1)} ${a}: repeat ${w} 1–${n}.`,
      ]),
      ...upper,
    );
  },
  /** Work 3 rows straight. */
  'work n'(s, r) {
    if (!s.isNumbered || s.counted !== 'none') return false;
    let n = 0;
    while (r + n < s.rows.length && s.presents(r + n)) n++;
    // A row behind them shows by its number how many they were.
    if (!n || r + n >= s.rows.length) return false;
    const rows = `${s.isRound ? 'round' : 'row'}${n === 1 ? '' : 's'}`;
    return s.tell(
      s.dice.of([
        `Work ${n} ${rows}.`,
        `Work ${NUMBERS[n]!} ${rows} straight.`,
        `Work ${n} ${rows} in pattern.`,
        `Work ${n} ${rows} even.`,
      ]),
      ...Array.from({ length: n }, (_, i) => r + i),
    );
  },
};

/** Rows without a number, before those with one and behind them. */
interface Unnumbered {
  lead: Cell[][];
  leadLines: string[];
  closing: Cell[][];
  firstRow: 'RS' | 'WS';
}

/** Puts rows without a number around the others, where the pattern has some. */
function unnumberedOf(s: Sheet): Unnumbered {
  const none: Unnumbered = { lead: [], leadLines: [], closing: [], firstRow: s.firstRow };
  if (!s.isNumbered || s.counted === 'head' || s.firstRow === 'WS') return none;
  const kind = s.choose('unnumbered', ['none', 'none', 'none', 'none', 'before', 'set-up', 'closing']);
  const last = s.rows.at(-1)!;
  if (kind === 'before') {
    const [said, made] = plainRows(s.dice, s.castOn, s.isRound, s.chosen);
    return { ...none, lead: made, leadLines: [said] };
  }
  if (s.isRound) return none;
  if (kind === 'set-up' && sum(above(last), makes) === s.castOn) {
    const row = above(last);
    const name = s.dice.of(['Set-up row', 'Foundation row', 'Preparation row', 'Setup row']);
    s.lines.unshift(`${name} (WS): ${joined(worded(order(row, true), s.manner), s.manner)}.`);
    return { ...none, lead: [row], firstRow: 'WS' };
  }
  if (kind === 'closing') {
    const plain = [
      'Next row: Knit.',
      'Final row: K to end.',
      'Following row: Knit.',
      'Knit 1 row.',
      'Last row: k across.',
    ];
    const sided = ['Last row (RS): Knit.', 'Next row (RS): knit all sts.'];
    // Behind a line for all wrong-side rows it must say its side.
    s.lines.push(s.dice.of(s.told.size && s.followed === 'all' ? sided : [...plain, ...sided]));
    return { ...none, closing: [many(sum(last, makes), 'k')] };
  }
  return none;
}

/** Says how often the rows are worked, perhaps with the first of them once more; the answer is what it comes to. */
function tellPlan(s: Sheet, hasLead: boolean): { times: number; endsWith: number | null } | null {
  const n = s.rows.length;
  const comesHome = sum(s.rows.at(-1)!, makes) === s.castOn && (s.isRound || n % 2 === 0);
  if (!comesHome || s.dice.chance(0.45)) return null;
  const plans = Object.entries(plansOf(s.what, n, s.dice.of([2, 3, 4])));
  const [name, { text, times }] = s.choose(
    'plan',
    plans.filter(([, plan]) => !hasLead || !plan.isOfAll),
    ([plan]) => plan,
  );
  const mayGoOn = ['rep more', 'more times'].includes(name) && s.dice.chance(0.3);
  if (!mayGoOn) {
    s.lines.push(text);
    return { times, endsWith: null };
  }
  const w = s.what;
  const endsWith = s.dice.of([1, 2]);
  const part =
    endsWith === 1
      ? `then ${w} 1 once`
      : s.dice.of([`then ${w}s 1 and 2 once`, `then work ${w}s 1–2 once more`]);
  s.chosen.push('then a part');
  s.lines.push(text.replace(/\.$/, `, ${part}.`));
  return { times, endsWith };
}

/** The key of the crossings, where the pattern needs one or has one nevertheless. */
function keyFor(s: Sheet): string {
  const crosses = [
    ...new Map(
      s.rows.flat().flatMap((c) => (typeof c === 'string' ? [] : [[JSON.stringify(c), c] as const])),
    ).values(),
  ];
  const isEqualHalves = (c: Cross) => c.front.length === c.back.length;
  const isSure = (c: Cross) =>
    isEqualHalves(c) &&
    (s.school.name === 'front-back' ||
      (['total-hold', 'spaced'].includes(s.school.name) && !purled(c) && total(c) > 2));
  const names = crosses.map((c) => s.school.crossed(c).toLowerCase());
  const isOpen = crosses.some((c) => !isSure(c)) || new Set(names).size < names.length;
  const isWanted = s.where === 'key' && isOpen;
  return isWanted || s.dice.chance(0.3)
    ? keyOf(crosses, { ...s.manner, crossed: s.school.crossed }, s.dice, s.chosen)
    : '';
}

/** What is cast on, for one size or three, and how it is joined or not. */
function castOnOf(s: Sheet): { text: string; isSized: boolean } {
  const said = s.choose('cast on', CAST_ONS, (f) => f(0))(s.castOn);
  const isSized = !s.isRound && s.dice.chance(0.06) && /^(?:Cast on|CO) \d+ s/.test(said);
  const text = isSized
    ? said.replace(`${s.castOn}`, `${s.castOn} (${s.castOn + 6}, ${s.castOn + 12})`)
    : said;
  const and = (more: string) =>
    `${text.replace(/ and work as follows:$/, '').replace(/([^.:])$/, '$1.')} ${more}`;
  if (s.isRound) return { text: and(s.dice.of(JOINS)), isSized };
  return { text: s.dice.chance(0.12) && !text.endsWith(':') ? and(s.dice.of(FLAT_ONLY)) : text, isSized };
}

/** Prints a pattern of the manners that a seed chooses. */
export function print(seed: number): Printed {
  const dice = new Dice(seed);
  const isRound = dice.chance(0.2);
  const s = new Sheet(dice, clothOf(dice, isRound), isRound);
  s.tellRows();
  const { lead, leadLines, closing, firstRow } = unnumberedOf(s);
  const plan = closing.length ? null : tellPlan(s, lead.length > 0);
  const key = keyFor(s);
  const { text: begins, isSized } = castOnOf(s);
  const isKeyFirst = dice.chance(0.5);
  const some = (all: readonly string[], most: number) => [
    ...new Set(Array.from({ length: dice.below(most + 1) }, () => dice.of(all))),
  ];
  const before = some(BEFORE, 3).filter((line) => !isRound || !line.startsWith('If you work in the round'));
  const lines = s.lines.join('\n');
  const pieces = [
    ...before,
    ...(dice.chance(0.15) ? [GLOSSARY] : []),
    ...(isKeyFirst ? [key] : []),
    begins,
    ...leadLines,
    isSized ? lines.replace(/to last (\d+) sts/g, 'to last $1 ($1, $1) sts') : lines,
    ...(isKeyFirst ? [] : [key]),
    ...some(AFTER, 2),
  ];
  // A line of a key is set apart from the rows.
  const text = pieces.filter(Boolean).join(key || dice.chance(0.5) ? '\n\n' : '\n');
  const isWrapped = s.isTable || !s.manner.separator.startsWith(',');
  const ends = s.choose(
    'ends',
    Object.keys(ENDS).filter(
      (name) =>
        !(name === 'wrapped' && isWrapped) &&
        !(name === 'hyphens' && s.isTable) &&
        !(name === 'scanned' && s.runs !== 'k2'),
    ),
  );
  return {
    text: ENDS[ends]!(onPage(text, s)),
    construction: isRound ? 'round' : 'flat',
    firstRow,
    ...(isSized ? { size: 0 } : {}),
    castOn: s.castOn,
    rows: [...lead, ...s.rows, ...closing],
    up: plan && [lead.length + 1, lead.length + s.rows.length, plan.times],
    ...(plan?.endsWith ? { endsWith: plan.endsWith + lead.length } : {}),
    chosen: s.chosen,
  };
}

/** A text as its page has it: the head of a table, the stops of a leaflet. */
function onPage(text: string, s: Sheet): string {
  const tabled = s.isTable
    ? text.replace(/^\| Row 1/m, '| Row | Instructions |\n|-----|-----|\n| Row 1')
    : text;
  return s.isStops
    ? tabled.replace(/\b(rep|patt|foll|alt|beg) /g, '$1. ').replace(/(\d) sts(?=[ ,;)])/g, '$1 sts.')
    : tabled;
}

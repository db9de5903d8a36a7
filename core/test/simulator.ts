/**
 * A literal knitter: it reads a printed pattern by a reader of its own and does, loop by loop, what the key says.
 * It knows nothing of charts, and shares no code with the program. Facts of the hands (which loop of a decrease lies
 * on top, how a make-one leans) are common practice, from memory.
 */

export interface Loop {
  /** Loops this one was drawn through, in the order the knitter met them. */
  through: Loop[];
  /** Of several loops drawn through, the one that lies on top on the smooth side. */
  top: Loop | null;
  /** As the knitter of the row sees it. */
  smooth: boolean;
  twisted: boolean;
  /** How deep it passed in a crossing, as the knitter saw it: higher is nearer to her; 0 outside a crossing. */
  depth: number;
  /** What a loop out of nothing was drawn out of. */
  madeOf: string;
}

export interface Hands {
  /** Whether right-side rows are met from their left end. */
  fromLeft: boolean;
}

type Side = 'RS' | 'WS';

export interface Pattern {
  hands: Hands;
  castOn: number;
  rows: Map<number, { side: Side; body: string; count: number | null }>;
  plan: number[];
  key: Map<string, { RS?: string; WS?: string }>;
}

const number = (text: string | undefined): number => Number(text ?? 1);

/** "Row 2 and all WS rows: …", "Rows 4, 8 and 12 (wrong side): …" */
const ROW =
  /^(?:Row|Round)s? ([\d, –and]*\d)(?: and all (WS|RS|wrong-side|right-side|side-1|side-2|even|odd) (?:row|round)s(?: but ([\d, –and]*\d))?)?(?: \((RS|WS|right side|wrong side|side [12])\))?: (.*?)\.(?: \((\d+) (?:sts?|stitch(?:es)?)\))?$/;

const sideOf = (text: string): Side => (/^w|2$/i.test(text) ? 'WS' : 'RS');

/** "4, 8 and 12", "1–3" */
const numbersIn = (text: string): number[] =>
  text.split(/, | and /).flatMap((part) => {
    const [from, to] = part.split('–').map(Number) as [number, number?];
    return Array.from({ length: (to ?? from) - from + 1 }, (_, i) => from + i);
  });

/** Reads the printed pattern. */
export function readPrinted(printed: string, from?: Side): Pattern {
  // A pair of two yarns is one thing to this knitter, knit where A shows to her: the loops are counted by another.
  const pairs = (front: string, back: string, how: 'k' | 'p', text: string) =>
    text.replace(
      new RegExp(`\\[?(k|knit )1 ${front}, (?:p|purl )1 ${back}(?:\\](?= to ))?`, 'g'),
      (all: string, word: string) => {
        const short = word === 'k';
        if (all.endsWith(']')) return short ? how : how === 'k' ? 'knit' : 'purl';
        const run = short ? `${how}1` : `${how === 'k' ? 'knit' : 'purl'} 1`;
        return all.startsWith('[') ? `[${run}` : run;
      },
    );
  const text = pairs('B', 'A', 'p', pairs('A', 'B', 'k', printed))
    .replace(
      /Cast on \d+ (?:stitches|sts?) \((\d+) pairs?(?:, (\d+ repeats?))?\), A and B in turn/g,
      'Cast on $1 sts',
    )
    .replace(/(\d+) pairs?\b(?= to )/g, '$1')
    .replace(/(\d+) pairs?\b/g, '$1 sts')
    .replace(/last pair\b/g, 'last st');
  const lines = text.split('\n');
  const isRound = lines.some((line) => /^(?:Worked in the round|Rounds? \d)/.test(line));
  // The way that only the tests have: its rounds are all seen from inside.
  const seen: Side = lines.some((line) => line.startsWith('Worked in the round inside out'))
    ? 'WS'
    : (from ?? 'RS');
  const pattern: Pattern = {
    hands: { fromLeft: lines.some((l) => l.startsWith('For a left-handed knitter, the same fabric')) },
    castOn: number(/Cast on (\d+)/.exec(text)?.[1]),
    rows: new Map(),
    plan: [],
    key: new Map(),
  };
  type Said = { side: Side; body: string; count: number | null };
  const rest: { holds: (row: number) => boolean; said: Said }[] = [];
  for (const line of lines) {
    const row = ROW.exec(line);
    if (row) {
      const side: Side = isRound ? seen : sideOf(row[2] ?? row[4]!);
      const said = { side, body: row[5]!, count: row[6] ? Number(row[6]) : null };
      const numbers = numbersIn(row[1]!);
      for (const n of numbers) pattern.rows.set(n, said);
      // Every other row from the one that is named, but for those told apart.
      const but = row[3] ? numbersIn(row[3]) : [];
      if (row[2]) rest.push({ said, holds: (n) => n % 2 === numbers[0]! % 2 && !but.includes(n) });
    }
    if (/^Work (row|round)/.test(line))
      for (const part of line.slice(5, -1).split(', then ')) {
        const [, from, to] = /(\d+)(?:–(\d+))?/.exec(part)!;
        const times = / twice$/.test(part) ? 2 : number(/a total of (\d+) times/.exec(part)?.[1]);
        for (let t = 0; t < times; t++)
          for (let r = Number(from); r <= Number(to ?? from); r++) pattern.plan.push(r);
      }
  }
  // Where nothing says how the rows follow each other, each is worked once.
  if (!pattern.plan.length)
    for (let r = 1; r <= Math.max(0, ...pattern.rows.keys()); r++) pattern.plan.push(r);
  for (const r of pattern.plan) {
    const like = pattern.rows.has(r) ? null : rest.find(({ holds }) => holds(r));
    if (like) pattern.rows.set(r, like.said);
  }
  const key = lines.slice(lines.indexOf('Key') + 1);
  for (const line of key) {
    const told =
      /^(.*?)(?: \((RS|WS|right side|wrong side|side [12])\))?: (.*?)\.(?: Without a cable needle: .*)?$/.exec(
        line,
      );
    if (!told) continue;
    const entry = pattern.key.get(told[1]!) ?? {};
    const side = told[2] && sideOf(told[2]);
    if (side !== 'WS') entry.RS = told[3];
    if (side !== 'RS') entry.WS ??= told[3];
    if (side === 'WS') entry.WS = told[3];
    pattern.key.set(told[1]!, entry);
  }
  return pattern;
}

/** Splits at marks that stand outside all brackets. */
function split(text: string, mark: RegExp): string[] {
  const out = [''];
  let depth = 0;
  for (const c of text) {
    if ('[('.includes(c)) depth++;
    if ('])'.includes(c)) depth--;
    if (depth === 0 && mark.test(c)) out.push('');
    else out[out.length - 1] += c;
  }
  return out.map((part) => part.trim()).filter(Boolean);
}

/** One row being worked. Lists are in working order. */
export class Row {
  readonly done: Loop[] = [];
  private last: Loop | null = null;

  constructor(
    private waiting: Loop[],
    private readonly side: Side,
    private readonly pattern: Pattern,
  ) {}

  private take(from = this.waiting): Loop {
    const loop = from.shift();
    if (!loop) throw new Error('no loop is left');
    return loop;
  }

  private make(through: Loop[], smooth: boolean, more: Partial<Loop> = {}): Loop {
    const loop = { through, top: null, smooth, twisted: false, depth: 0, madeOf: '', ...more };
    this.done.push(loop);
    return (this.last = loop);
  }

  get left(): number {
    return this.waiting.length;
  }

  /** What is still on the needle it waits on, in working order. */
  get unworked(): readonly Loop[] {
    return this.waiting;
  }

  /** Works the words of a row. */
  words(body: string): void {
    if (body === 'work the stitches as they present') {
      // A loop that was smooth when the other side was worked shows its back now.
      while (this.left) {
        const below = this.take();
        this.make([below], !below.smooth);
      }
      return;
    }
    // One word for the whole row, or for what is left of it.
    const along = /^(?:(knit|purl)|(k|p|knit|purl) to end)$/.exec(body);
    if (along) {
      const smooth = (along[1] ?? along[2])!.startsWith('k');
      while (this.left) this.make([this.take()], smooth);
      return;
    }
    const star = /^(.*?)\*(.*); rep(?:eat)? from \* to (?:last (\d* ?)(?:stitch(?:es)?|sts?)|end)(.*)$/.exec(
      body,
    );
    if (!star) return this.items(body);
    this.items(star[1]!);
    const stop = /from \* to end/.test(body) ? 0 : number(star[3]?.trim() || '1');
    do this.items(star[2]!);
    while (this.left > stop);
    this.items(star[4]!);
  }

  private items(text: string): void {
    for (const item of split(text, /,/)) {
      const group = /^\[(.*)\] (?:(\d+) times|twice)$/.exec(item);
      if (group) for (let i = number(group[2] ?? '2'); i > 0; i--) this.items(group[1]!);
      else if (item.startsWith('(')) this.steps(item.slice(1, -1));
      else this.word(item.replace(/ \(sl(ip)? .*\)$/, ''));
    }
  }

  private word(word: string): void {
    const steps = (name: string) => this.pattern.key.get(name)?.[this.side];
    const whole = steps(word);
    if (whole !== undefined) return this.steps(whole);
    const n = /\d+/.exec(word);
    const base = word.replace(/ ?\d+/, '').trim();
    // Spelled out, a word may need no key.
    const itself = /^(knit|purl)( through the back loop)?$/.test(base) ? base : undefined;
    const one = steps(base) ?? steps(word.replace(/\d+/, '').replace('  ', ' ')) ?? itself;
    if (one === undefined || !n) throw new Error(`"${word}" is not in the key`);
    for (let i = Number(n[0]); i > 0; i--) this.steps(one);
  }

  /** Does what one line of the key says. */
  private steps(text: string): void {
    if (/^sl(ip)? \d+ to cable needle/.test(text)) return this.cross(text);
    const smooth = !/\bpurl\b/.test(text);
    const n = number(/\d+/.exec(text)?.[0]);
    const through = () => Array.from({ length: n }, () => this.take());
    if (text === 'knit' || text === 'purl') this.make([this.take()], smooth);
    else if (/^(knit|purl) through the back loop$/.test(text))
      this.make([this.take()], smooth, { twisted: true });
    else if (text.startsWith('slip purlwise with')) {
      const below = this.take();
      // Not worked: as it was, seen from the side it is on now.
      this.make([below], below.smooth === (this.was(below) === this.side), {
        twisted: below.twisted,
        madeOf: `slipped, yarn in ${text.split(' ').at(-1)}`,
      });
    } else if (/^(knit|purl) \d stitches together$/.test(text)) {
      const taken = through();
      this.make(taken, smooth, { top: smooth ? taken.at(-1)! : taken[0]! });
    } else if (
      /^slip \d stitches knitwise one at a time, (return them, purl|knit) them together/.test(text)
    ) {
      const taken = through();
      this.make(taken, smooth, { top: smooth ? taken[0]! : taken.at(-1)! });
    } else if (/pass the \d slipped stitches over$/.test(text)) {
      // Slipped together, the last of them comes to lie on top of the others and of what is worked.
      const slipped = through();
      const worked = Array.from({ length: number(/(?:knit|purl) (\d)/.exec(text)?.[1]) }, () => this.take());
      this.make([...slipped, ...worked], smooth, { top: slipped.at(-1)! });
    } else if (text === 'bring the yarn over the needle') this.make([], true, { madeOf: 'yarn' });
    else if (text.startsWith('lift the bar')) {
      const left = text.includes('from front to back') && text.includes('through the back loop');
      const right = text.includes('from back to front') && text.includes('through the front loop');
      if (left === right) throw new Error(`this bar is not closed: ${text}`);
      this.make([], smooth, {
        madeOf: `bar, leaning ${left !== this.pattern.hands.fromLeft ? 'left' : 'right'}`,
      });
    } else if (text.includes(' leg of the stitch ')) this.lift(text, smooth);
    else if (text.endsWith('into the front and then the back of the stitch')) {
      const below = this.take();
      // The second is worked through the back; its bar lies before it on the smooth side, and shows as a bump.
      this.make([below], smooth);
      this.make([below], !smooth);
    } else if (/into the same stitch$/.test(text)) {
      const below = this.take();
      for (const part of text.replace(' into the same stitch', '').split(', '))
        if (part === 'yarn over') this.make([below], smooth);
        else this.make([below], part === 'knit');
    } else if (text.includes('into the stitch, turn'))
      this.make([this.take()], /knit \d together$/.test(text), { madeOf: 'bobble' });
    else throw new Error(`"${text}" cannot be done`);
  }

  /** The side a loop was worked on is the one it is smooth or not on. */
  private was(loop: Loop): Side {
    return sideOfLoop.get(loop) ?? this.side;
  }

  private lift(text: string, smooth: boolean): void {
    const leg = /(left|right) leg/.exec(text)![1]!;
    const needle = /(left|right) needle/.exec(text)![1]!;
    const { fromLeft } = this.pattern.hands;
    const isNext = text.includes('below the next stitch');
    const neighbour = isNext ? this.waiting[0] : this.last?.through.at(-1);
    // Right-handed rows go leftwards: what was worked lies to the right, and its near leg is the left one.
    const near = isNext === !fromLeft ? 'right' : 'left';
    const holds = fromLeft ? 'right' : 'left';
    if (leg !== near) throw new Error(`the ${leg} leg is the far one`);
    if (needle !== holds) throw new Error(`the loops wait on the ${holds} needle, not the ${needle}`);
    if (!neighbour?.through.length) throw new Error('nothing lies below to lift');
    this.make([], smooth, { madeOf: `lifted, neighbour ${isNext ? 'after' : 'before'}` });
  }

  /** A crossing with cable needles, which hang nearer to the knitter or further from her. */
  private cross(text: string): void {
    const needles = new Map<string, { loops: Loop[]; depth: number }>();
    for (const step of split(text, /,/)) {
      const slip = /^sl(?:ip)? (\d+) to ((?:second )?cable needle)$/.exec(step);
      const hold = /^hold in (front|back)(?: (behind|before) the other)?$/.exec(step);
      if (slip)
        needles.set(slip[2]!, {
          loops: Array.from({ length: Number(slip[1]) }, () => this.take()),
          depth: 0,
        });
      else if (hold) {
        const [needle, other] = [...needles.values()].reverse();
        const out = hold[1] === 'front' ? 2 : -2;
        // Beside a needle on the other side it says no more than the side.
        const isBeside = other !== undefined && Math.sign(other.depth) === Math.sign(out);
        const beyond = !isBeside ? 0 : hold[2] === 'behind' ? -1 : hold[2] === 'before' ? 1 : 0;
        needle!.depth = beyond && other ? other.depth + beyond : out;
      } else {
        const work = /^(.*?)(?: from ((?:second )?cable needle))?$/.exec(step)!;
        const held = work[2] ? needles.get(work[2]) : undefined;
        if (work[2] && !held) throw new Error(`no ${work[2]} holds anything`);
        const [, inner, often = ''] = /^\[(.*)\](?: (twice|\d+ times))?$/.exec(work[1]!) ?? ['', work[1]!];
        const runs = split(inner!, /,/);
        const times = often === 'twice' ? 2 : Number(/\d+/.exec(often)?.[0] ?? 1);
        for (const run of Array.from({ length: times }, () => runs).flat()) {
          const [, how, n, tbl] = /^(k|p|knit |purl )(\d+)( tbl| through the back loop)?$/.exec(run)!;
          for (let i = Number(n); i > 0; i--)
            this.make([this.take(held?.loops)], how!.startsWith('k'), {
              twisted: !!tbl,
              depth: held?.depth ?? 0,
            });
        }
      }
    }
    for (const { loops } of needles.values())
      if (loops.length) throw new Error('a cable needle is not empty');
  }
}

export const sideOfLoop = new WeakMap<Loop, Side>();

export interface KnittedRow {
  row: number;
  /** How many stitches after the place where the cast-on was joined a round begins, leftwards as the right side looks. */
  start: number;
  side: Side;
  /** From the right, as the right side looks; each with what it was drawn through put likewise. */
  loops: Loop[];
  below: Loop[];
}

/** A loop that was only cast on. */
export const bare = (): Loop => ({
  through: [],
  top: null,
  smooth: true,
  twisted: false,
  depth: 0,
  madeOf: 'cast on',
});

/** Knits a printed pattern through its whole plan; `from` is the side of its rounds where a text may have lost it. @throws Error where the words cannot be followed */
export function knitPrinted(text: string, from?: Side): KnittedRow[] {
  const pattern = readPrinted(text, from);
  const { fromLeft } = pattern.hands;
  let needle = Array.from({ length: pattern.castOn }, bare);
  let start = 0;
  return pattern.plan.map((r) => {
    let said = pattern.rows.get(r);
    const { side } = said ?? { side: 'RS' as Side };
    const count = said?.count;
    const as = /^as (?:row|round) (\d+)$/.exec(said?.body ?? '');
    if (as) said = pattern.rows.get(Number(as[1]));
    if (!said) throw new Error(`row ${r} is not written`);
    const turns = (side === 'RS') === fromLeft;
    // The marker goes on in the way the round is worked, or back; the needle is told from where it stands.
    const marker = /^move the marker (on|back) (\d+) (?:sts?|stitch(?:es)?)(?:, |$)/.exec(said.body);
    if (marker) {
      const by = Number(marker[2]) * ((marker[1] === 'on') === turns ? -1 : 1);
      const n = needle.length;
      needle = needle.map((_, i) => needle[(((i + by) % n) + n) % n]!);
      start += by;
    }
    const row = new Row(turns ? [...needle].reverse() : [...needle], side, pattern);
    row.words(said.body.slice(marker?.[0].length ?? 0));
    if (row.left) throw new Error(`row ${r} leaves ${row.left} stitches`);
    for (const loop of row.done) sideOfLoop.set(loop, side);
    const below = needle;
    needle = turns ? [...row.done].reverse() : row.done;
    if (
      count &&
      said === pattern.rows.get(r) &&
      pattern.plan.length === pattern.rows.size &&
      count !== needle.length
    )
      throw new Error(`row ${r} says ${count} stitches, the needle holds ${needle.length}`);
    return { row: r, start, side, loops: needle, below };
  });
}

/** Whether a loop shows a knit stitch on the right side. */
export const showsKnit = (loop: Loop, side: Side): boolean => loop.smooth === (side === 'RS');

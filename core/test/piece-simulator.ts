import { BandKnitter, bandsPrinted } from './band-simulator.js';
import { bare, readPrinted, Row, sideOfLoop, type KnittedRow, type Loop, type Pattern } from './simulator.js';

/**
 * The literal knitter with a whole piece before her: she has the printed sheet and the size she knits, and nothing else. She takes
 * her own number out of each "96 (104, 112)", places and slips her markers on the needle, works a panel by the printed row of its
 * chart, and goes on as set by what she has worked herself.
 */

/** What stands on her needle, from the right: loops, and her markers. */
type OnNeedle = Loop | 'marker';

/** What she worked in a stretch of a row, from the right. */
type Worked =
  | { kind: 'words'; words: string }
  | { kind: 'panel'; name: string; row: number; over?: number; leaves?: number }
  | { kind: 'mark'; isNew?: boolean };

const COUNT = / \((\d+) (?:sts?|stitch(?:es)?)\)$/;

/** The text of one size, of `of`, told by its place. */
function ofHerSize(text: string, size: number, of: number): string {
  const others = Array(of - 1)
    .fill(String.raw`\d+`)
    .join(', ');
  return of < 2
    ? text
    : text.replace(
        new RegExp(String.raw`(\d+) \((${others})\)`, 'g'),
        (_, first: string, rest: string) => [first, ...rest.split(', ')][size]!,
      );
}

/** A sheet in her hands: the parts of the piece and the charts, each under its heading. */
class Sheet {
  readonly hands: Pattern['hands'];
  readonly key: Pattern['key'];
  private readonly blocks: string[];

  constructor(text: string, size: number, names: readonly string[]) {
    // A row that is told for some sizes stands under their names.
    const mine = text.split('\n').flatMap((line) => {
      const [head] = /^(?:[A-Z][a-z]+ )?(?:Row|Round|row|round)s? [^:]*(?=: )/.exec(line) ?? [];
      const parts = head?.split(', ') ?? [];
      // Rows may be listed too: the sizes are what stands last.
      const first = parts.findLastIndex((part) => !names.includes(part)) + 1;
      const sizes = parts.slice(first);
      if (!head || first < 1 || !sizes.length) return [line];
      return sizes.includes(names[size]!) ? [parts.slice(0, first).join(', ') + line.slice(head.length)] : [];
    });
    const own = ofHerSize(mine.join('\n'), size, names.length);
    this.blocks = own.split('\n\n');
    const pattern = readPrinted(`${own.slice(own.indexOf('\nKey\n') + 1).replace('Key\n\n', 'Key\n')}`);
    this.key = pattern.key;
    this.hands = { fromLeft: own.includes('For a left-handed knitter, the same fabric') };
  }

  /** The sections of the piece in the order they are worked, each with its heading. */
  sections(charts: readonly string[]): { heading: string; text: string }[] {
    const isHeading = (b: string) => HEADINGS.includes(b) || b === 'Key' || charts.includes(b);
    return this.blocks.flatMap((heading, i) => {
      if (!HEADINGS.includes(heading)) return [];
      const end = this.blocks.findIndex((b, k) => k > i && isHeading(b));
      return [{ heading, text: this.blocks.slice(i + 1, end).join('\n') }];
    });
  }

  pattern(text: string): Pattern {
    return { ...readPrinted(text), hands: this.hands, key: this.key };
  }
}

const HEADINGS = [
  'Cast-on',
  'Border',
  'Hem',
  'Casing',
  'Rows',
  'Rounds',
  'Upper border',
  'Bind off',
  'Cast off',
];

/** The printed rows of a chart, and the row that follows another in them. */
class Chart {
  private readonly again: { from: number; to: number } | null;

  constructor(
    private readonly pattern: Pattern,
    text: string,
  ) {
    const told = /rows? (\d+)(?:–(\d+))? over and over|rounds? (\d+)(?:–(\d+))? over and over/.exec(text);
    const [from, to] = told ? [told[1] ?? told[3]!, told[2] ?? told[4]] : [];
    this.again = from === undefined ? null : { from: Number(from), to: Number(to ?? from) };
  }

  body(row: number): string {
    const said = this.pattern.rows.get(row);
    if (!said) throw new Error(`row ${row} of a chart is not printed`);
    const as = /^as (?:row|round) (\d+)$/.exec(said.body);
    return as ? this.body(Number(as[1])) : said.body;
  }

  after(row: number): number {
    return this.again?.to === row ? this.again.from : row + 1;
  }
}

class Knitter {
  needle: OnNeedle[];
  readonly rows: KnittedRow[] = [];
  /** Bands worked between them. */
  bands = 0;
  private readonly worked: Worked[][] = [];

  constructor(
    private readonly sheet: Sheet,
    private readonly charts: ReadonlyMap<string, Chart>,
    castOn: number,
    /** The side of every round; null where rows are worked back and forth. */
    private readonly seen: 'RS' | 'WS' | null,
  ) {
    this.needle = Array.from({ length: castOn }, bare);
  }

  private get loops(): Loop[] {
    return this.needle.filter((one) => one !== 'marker');
  }

  /** Works a row; what is told of it is put in working order. */
  private work(worked: readonly Worked[], side: 'RS' | 'WS'): void {
    const turns = (side === 'RS') === this.sheet.hands.fromLeft;
    const waiting = turns ? [...this.needle].reverse() : [...this.needle];
    const done: OnNeedle[] = [];
    const pattern = this.sheet.pattern('');
    const take = (many: number) => {
      const taken = waiting.splice(0, many);
      if (taken.length < many || taken.includes('marker'))
        throw new Error('a marker hangs where stitches should be');
      return taken as Loop[];
    };
    const toMarker = () => {
      const at = waiting.indexOf('marker');
      return at < 0 ? waiting.length : at;
    };
    const kept: Worked[] = [];
    for (const part of worked) {
      kept.push(part);
      if (part.kind === 'mark') {
        if (!part.isNew && waiting.shift() !== 'marker')
          throw new Error('no marker hangs there to be slipped');
        done.push('marker');
        continue;
      }
      // A panel without a number of stitches goes to the next marker; words take what they take.
      const row = new Row(
        take(part.kind === 'panel' ? (part.over ?? toMarker()) : toMarker()),
        side,
        pattern,
      );
      row.words(part.kind === 'panel' ? this.charts.get(part.name)!.body(part.row) : part.words);
      if (part.kind === 'panel') kept[kept.length - 1] = { ...part, leaves: row.done.length };
      if (part.kind === 'panel' && row.left)
        throw new Error(`row ${part.row} of ${part.name} leaves stitches`);
      for (const loop of row.done) sideOfLoop.set(loop, side);
      done.push(...row.done);
      waiting.unshift(...row.unworked);
    }
    if (waiting.length) throw new Error(`${waiting.length} are left at the end of the row`);
    const below = this.loops;
    this.needle = turns ? done.reverse() : done;
    this.worked.push(turns ? kept.reverse() : kept);
    this.rows.push({ row: this.rows.length + 1, start: 0, side, loops: this.loops, below });
  }

  /** A band that stands before the first row of a section. */
  band(text: string): void {
    for (const [before, { over, rounds }] of bandsPrinted(text)) {
      if (before !== 1 || over !== this.loops.length)
        throw new Error(
          `a band before row ${before} over ${over} stitches, and ${this.loops.length} are there`,
        );
      const { loops, markers } = new BandKnitter(over).work(rounds);
      if (loops.length !== over + 1 || markers) throw new Error('a band does not come out');
      this.bands++;
    }
  }

  /** A section whose rows are told by themselves. */
  plain(text: string): void {
    const told = text.replace(
      /^(?:Increase|Decrease) (row|round)/gm,
      (_, word: string) => word[0]!.toUpperCase() + word.slice(1),
    );
    const pattern = this.sheet.pattern(told);
    for (const r of pattern.plan) {
      const said = pattern.rows.get(r);
      if (!said) throw new Error(`row ${r} of a border is not told`);
      const as = /^as (?:row|round) (\d+)$/.exec(said.body);
      this.work(
        [{ kind: 'words', words: as ? pattern.rows.get(Number(as[1]))!.body : said.body }],
        this.seen ?? said.side,
      );
      if (said.count !== null && said.count !== this.loops.length)
        throw new Error(`row ${r} says ${said.count} stitches, the needle holds ${this.loops.length}`);
    }
    this.worked.length = 0;
  }

  /** The rows of the panels. `first` is the side of row 1 where words do not say sides. */
  body(text: string): void {
    const names = [...this.charts.keys()].sort((a, b) => b.length - a.length);
    let every = 0;
    let number = 0;
    let last: 'RS' | 'WS' = 'WS';
    for (const line of text.split('\n')) {
      const head = /^(?:Row|Round)s? (\d+)(?:–(\d+))?(?: \((RS|WS|right side|wrong side)\))?: (.*?)\.?$/.exec(
        line,
      );
      if (!head) continue;
      const words = head[4]!.replace(COUNT, '').replace(/\.$/, '');
      const count = COUNT.exec(line)?.[1];
      if (Number(head[1]) !== ++number) throw new Error(`row ${head[1]!} does not follow row ${number - 1}`);
      const to = Number(head[2] ?? head[1]);
      for (; number <= to; number++) {
        const own = head[3] && (/^[rR]/.test(head[3]) ? 'RS' : 'WS');
        const side: 'RS' | 'WS' =
          this.seen ?? (own as 'RS' | 'WS' | undefined) ?? (last === 'RS' ? 'WS' : 'RS');
        if (words.startsWith('continue as set')) {
          const rule = /as (\d+) (?:row|round)s below|as the (?:row|round) below/.exec(words);
          if (rule) every = Number(rule[1] ?? 1);
          this.asSet(every, side);
        } else this.work(this.told(words, names), side);
        last = side;
        if (count && Number(count) !== this.loops.length)
          throw new Error(`row ${number} says ${count} stitches, the needle holds ${this.loops.length}`);
      }
      number = to;
    }
    this.needle = this.loops;
  }

  private told(words: string, names: readonly string[]): Worked[] {
    const out: Worked[] = [];
    let rest = words;
    while (rest) {
      const mark = /^(pm|sm|place a marker|slip the marker)(?:, |$)/.exec(rest);
      const panel = /^work row (\d+) of /.exec(rest);
      const name = panel && names.find((n) => rest.startsWith(n, panel[0].length));
      if (mark) {
        out.push({ kind: 'mark', isNew: mark[1]!.startsWith('p') });
        rest = rest.slice(mark[0].length);
      } else if (panel && name !== undefined) {
        const after = rest.slice(panel[0].length + name!.length);
        const tail = /^(?: over the next (\d+) (?:sts?|stitch(?:es)?))?(?: \(\d+ after it\))?(?:, |$)/.exec(
          after,
        )!;
        out.push({
          kind: 'panel',
          name: name!,
          row: Number(panel[1]),
          ...(tail[1] ? { over: Number(tail[1]) } : {}),
        });
        rest = after.slice(tail[0].length);
      } else {
        const next = rest.search(/, (?=(?:pm|sm|place a marker|slip the marker)(?:, |$)|work row \d+ of )/);
        out.push({ kind: 'words', words: next < 0 ? rest : rest.slice(0, next) });
        rest = next < 0 ? '' : rest.slice(next + 2);
      }
    }
    return out;
  }

  private asSet(every: number, side: 'RS' | 'WS'): void {
    const [below, like] = [this.worked.at(-1)!, this.worked.at(-every)!];
    const row = below.map((part, i): Worked => {
      const other = like[i]!;
      if (part.kind === 'panel')
        return { ...part, row: this.charts.get(part.name)!.after(part.row), over: part.leaves! };
      return part.kind === 'mark' ? { kind: 'mark' } : other;
    });
    const turns = (side === 'RS') === this.sheet.hands.fromLeft;
    this.work(turns ? [...row].reverse() : row, side);
  }
}

/**
 * Knits a piece as its sheet is printed, in the size of that place.
 *
 * @param names of its sizes, in their order, and of the charts; and the side of its rounds, if it is worked in rounds
 * @throws Error where the words cannot be followed
 */
export function knitPiece(
  text: string,
  size: number,
  names: { sizes: readonly string[]; charts: readonly string[]; seen: 'RS' | 'WS' },
): { rows: KnittedRow[]; bands: number } {
  const sheet = new Sheet(text, size, names.sizes);
  const charts = new Map(
    names.charts.map((name) => {
      const own = chartText(text, name, names.charts);
      return [name, new Chart(sheet.pattern(own), own)];
    }),
  );
  const sections = sheet.sections(names.charts);
  const castOn = Number(/Cast on (\d+)/.exec(sections[0]!.text)?.[1]);
  const isRound = sections.some(({ heading }) => heading === 'Rounds');
  const knitter = new Knitter(sheet, charts, castOn, isRound ? names.seen : null);
  for (const { heading, text: own } of sections.slice(1, -1)) {
    knitter.band(own);
    if (heading === 'Rows' || heading === 'Rounds') knitter.body(own);
    else knitter.plain(own);
  }
  return { rows: knitter.rows, bands: knitter.bands };
}

/** The rows of a chart on the sheet: under its name, where rows follow. */
function chartText(text: string, name: string, names: readonly string[]): string {
  const blocks = text.split('\n\n');
  const at = blocks.findIndex(
    (b, i) => b === name && blocks.slice(i + 1, i + 4).some((next) => /^(?:Row|Round) 1\b/m.test(next)),
  );
  const end = blocks.findIndex(
    (b, i) => i > at && (names.includes(b) || b === 'Key' || HEADINGS.includes(b)),
  );
  return blocks.slice(at + 1, end).join('\n');
}

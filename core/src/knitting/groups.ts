import { expandRow } from '../chart/frame.js';
import { spanOfAll, takesOfAll } from '../chart/rows.js';
import { bandRounds, type BandItem } from '../needle/braid.js';
import { rowParts } from '../piece/told-rows.js';
import { memory } from '../remember.js';
import { makesOf, spanOf, takesOf, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Item } from '../words/pattern.js';
import { mannerOf, type Manner } from '../words/manner.js';
import { itemsText, wordPieces, type WordPiece } from '../words/render.js';
import { beginsRight, wordOf } from '../words/vocabulary.js';
import { phrase, wordsOf } from '../words/write.js';
import { bandItemsText } from '../words/bands.js';
import { JobFault, type Job } from './job.js';

/**
 * A row as the hands go through it: the groups of its words one after the other, every repeat carried out. What is lit at the
 * needles is one of them.
 */

/** Where in the words of the row a group stands: the places of its item and of those around it. */
export type Path = readonly number[];

export interface Group {
  /** Its words: "k3", "2/2 LC", "slip marker". */
  text: string;
  /** The same spelled out, to be read aloud: "knit 3". */
  said: string;
  path: Path;
  /** Its stitches as the hands meet them; none where only a marker is seen to. */
  stitches: readonly Stitch[];
  /** Loops it takes off the left needle, and makes on the right one; and those taken and made in the row before it. */
  takes: number;
  makes: number;
  taken: number;
  made: number;
  /** The first column it is drawn in, and the one after its last, from the right of the row with its repeats carried out. */
  from: number;
  to: number;
  /** Which time round, of how many, it is of the nearest repeat it stands in; null outside. */
  turn: { nth: number; of: number } | null;
  /** Whether a marker is placed or passed here. */
  isMark: boolean;
}

/** A row in the hands. */
export interface RowInHands {
  side: Side;
  /** Whether these hands begin it at its right end, as the right side looks. */
  beginsRight: boolean;
  /** Its words as a tree: items are lit in it by their path. */
  items: readonly Item[];
  /** The same in pieces, each group's path among them: joined they are its words. */
  pieces: readonly WordPiece[];
  groups: readonly Group[];
  /** The loops that wait for it, and those on the needle after it. */
  takes: number;
  makes: number;
  /** Loops between the markers of the knitter's own after the row, in working order: their sum is `makes`. One where there are none. */
  stretches: readonly number[];
}

const spoken = ({ chart, manner }: Job): Manner => mannerOf({ form: 'full', terms: manner.terms }, chart);

const LEANS: Readonly<Record<string, string>> = { L: 'left', R: 'right', F: 'front', B: 'back' };

/** An item as it is read aloud: no letters that stand for words, no strokes. */
function saidText(item: Item, job: Job): string {
  const text = itemsText([item], spoken(job));
  return item.type === 'aside'
    ? item.text === 'pm'
      ? 'place marker'
      : 'slip marker'
    : text
        .replace(
          /\b(\d+)\/(\d+)(?:\/(\d+))?\s*([LR])(P?)C\b/g,
          (_, a: string, b: string, c: string | undefined, lean: string, p: string) =>
            `${[a, b, c].filter(Boolean).join(' over ')}, cross ${LEANS[lean]!}${p ? ', purl behind' : ''}`,
        )
        .replace(
          /\b(C|T|Cr)(\d+)([LRFB])\b/g,
          (_, __, n: string, way: string) => `cross ${n} ${LEANS[way]!}`,
        );
}

/** Groups as they are found, one after the other in working order. */
class Walk {
  readonly groups: Group[] = [];
  private at = 0;
  private taken = 0;
  private made = 0;
  private columns = 0;
  private readonly total: number;

  constructor(
    private readonly job: Job,
    private readonly side: Side,
    private readonly order: readonly Stitch[],
    /** For each of them, the first column it is drawn in. */
    private readonly starts: readonly number[],
  ) {
    this.total = takesOfAll(order, job.diction.book);
  }

  /** Loops that wait still. */
  get left(): number {
    return this.total - this.taken;
  }

  get isAtEnd(): boolean {
    return this.at === this.order.length;
  }

  all(items: readonly Item[], path: Path = [], turn: Group['turn'] = null): void {
    items.forEach((item, i) => this.item(item, [...path, i], turn));
  }

  private item(item: Item, path: Path, turn: Group['turn']): void {
    switch (item.type) {
      case 'group':
        for (let nth = 1; nth <= item.times; nth++) this.all(item.items, path, { nth, of: item.times });
        return;
      case 'star':
        return this.star(item, path);
      case 'rest':
        return this.put(item, path, turn, this.order.length - this.at);
      case 'marker':
      case 'aside':
        return this.put(item, path, turn, 0, true);
      case 'spelled':
        return this.put(item, path, turn, 1);
      case 'word':
        return this.put(item, path, turn, this.countOf(item.word));
      default:
        throw new Error(`A writer's row has no ${item.type}.`);
    }
  }

  private star(item: Extract<Item, { type: 'star' }>, path: Path): void {
    const last = 'last' in item.until ? item.until.last : 0;
    const from = this.groups.length;
    let nth = 0;
    do this.all(item.items, path, { nth: ++nth, of: 0 });
    while (this.left > last);
    for (const group of this.groups.slice(from)) if (group.turn?.of === 0) group.turn.of = nth;
  }

  /** How many stitches a word is: a counted one says so. */
  private countOf(word: string): number {
    const first = this.order[this.at];
    const base = first === undefined ? null : wordOf(first, this.side, this.job.diction);
    const place = base?.indexOf('#') ?? -1;
    if (!base || place < 0) return 1;
    return Number(word.slice(place, word.length - (base.length - place - 1)));
  }

  private put(item: Item, path: Path, turn: Group['turn'], n: number, isMark = false): void {
    const { book } = this.job.diction;
    const stitches = this.order.slice(this.at, this.at + n);
    if (stitches.length !== n) throw new Error('The words of a row say more than it has.');
    const [takes, makes] = stitches.reduce(
      ([t, m], s) => [t + takesOf(s, book), m + makesOf(s, book)],
      [0, 0],
    );
    const ends = stitches.flatMap((s, i) => {
      const start = this.starts[this.at + i]!;
      return [start, start + spanOf(s, book)];
    });
    const [from, to] = n ? [Math.min(...ends), Math.max(...ends)] : [this.columns, this.columns];
    this.groups.push({
      text: itemsText([item], this.job.manner),
      said: saidText(item, this.job),
      path,
      stitches,
      takes,
      makes,
      taken: this.taken,
      made: this.made,
      from,
      to,
      turn: turn && { ...turn },
      isMark,
    });
    this.at += n;
    this.taken += takes;
    this.made += makes;
    // Where a marker stands: at the end of what was worked last.
    if (n) this.columns = beginsRight(this.side, this.job.diction) ? to : from;
  }
}

/** The stitches of a row, from the right, cut where markers of the knitter's own stand. */
function segmentsOf(job: Job, n: number, stitches: readonly Stitch[]): (readonly Stitch[])[] {
  const number = bodyRow(job, n);
  if (number === null) return [stitches];
  const { piece, made } = job.of!;
  const segments: Stitch[][] = [[]];
  for (const part of rowParts(piece, made, number))
    if (part.kind === 'mark') segments.push([]);
    else segments.at(-1)!.push(...part.stitches);
  return segments;
}

/** The row of a piece's parts, from 1, that a row of its job works; null in a border, and where there is no piece. */
function bodyRow({ of, rows }: Job, n: number): number | null {
  if (!of) return null;
  const number = rows[n]!.worked - of.made.below + 1;
  return number >= 1 && number <= of.made.body ? number : null;
}

const remember = memory<RowInHands>();

/**
 * A row of a job (from 0) in the knitter's hands.
 *
 * @throws JobFault where a stitch lies across a line of the repeat, so that it cannot be worked so often
 */
export const rowInHands = (job: Job, n: number): RowInHands =>
  remember(job, [n], () => (job.rows[n]!.band === null ? chartRow(job, n) : bandRow(job, n)));

function chartRow(job: Job, n: number): RowInHands {
  const { chart, times, diction } = job;
  const { row: r, side } = job.rows[n]!;
  const whole = expandRow(chart, r, times);
  if (!whole)
    throw new JobFault(`Row ${r + 1} cannot be cut at its repeat lines: a stitch lies across one of them.`);
  const rightFirst = beginsRight(side, diction);
  const columns = starts(whole, job);
  const worked = whole.map((_, i) => i).filter((i) => whole[i] !== NO_STITCH);
  const order = rightFirst ? worked : worked.reverse();
  const segments = segmentsOf(
    job,
    n,
    whole.filter((s) => s !== NO_STITCH),
  );
  const mark: Item = bodyRow(job, n) === 1 ? PLACED : PASSED;
  const items: readonly Item[] =
    segments.length === 1
      ? wordsOf(chart, r, diction)
      : (rightFirst ? segments : segments.reverse()).flatMap((segment, i) => [
          ...(i ? [mark] : []),
          ...phrase(segment, side, diction),
        ]);
  const walk = new Walk(
    job,
    side,
    order.map((i) => whole[i]!),
    order.map((i) => columns[i]!),
  );
  walk.all(items);
  if (!walk.isAtEnd) throw new Error(`The words of row ${r + 1} leave stitches unworked.`);
  return inHands(job, side, items, walk.groups);
}

/** The columns in which the stitches of a row begin, from the right. */
function starts(stitches: readonly Stitch[], { diction: { book } }: Job): number[] {
  let at = 0;
  return stitches.map((stitch) => {
    const start = at;
    at += spanOfAll([stitch], book);
    return start;
  });
}

const PLACED: Item = { type: 'aside', text: 'pm', mark: 'place' };
const PASSED: Item = { type: 'aside', text: 'sm', mark: 'slip' };

function inHands(job: Job, side: Side, items: readonly Item[], groups: readonly Group[]): RowInHands {
  const stretches = [0];
  for (const { isMark, text, makes } of groups)
    if (isMark && (text === 'pm' || text === 'sm')) stretches.push(0);
    else stretches[stretches.length - 1]! += makes;
  const last = groups.at(-1);
  return {
    side,
    beginsRight: beginsRight(side, job.diction),
    items,
    pieces: items.length ? wordPieces(items, job.manner) : [],
    groups,
    takes: last ? last.taken + last.takes : 0,
    makes: last ? last.made + last.makes : 0,
    stretches,
  };
}

/** A round of a band: its moves, each run of one as a group. They are no stitches of a chart. */
function bandRow(job: Job, n: number): RowInHands {
  const { chart, times, manner } = job;
  const { row, band, side } = job.rows[n]!;
  const over = takesOfAll(expandRow(chart, row, times) ?? chart.rows[row]!, job.diction.book);
  const groups: Group[] = [];
  let at = 0;
  const put = (item: Exclude<BandItem, { star: unknown }>, path: Path, turn: Group['turn']) => {
    const steps = item.move !== 'step' ? 0 : item.times === 'end' ? over - at : item.times;
    const knitsOn = item.move === 'cast-on' ? 1 : 0;
    groups.push({
      text: bandItemsText([item], manner),
      said: bandItemsText([item], spoken(job)),
      path,
      stitches: [],
      takes: steps,
      makes: steps + knitsOn,
      taken: at,
      made: at,
      from: 0,
      to: 0,
      turn,
      isMark: steps === 0 && !knitsOn,
    });
    at += steps;
  };
  const items = bandRounds(chart.bands[row]!)[band!]!;
  items.forEach((item, i) => {
    if (!('star' in item)) return put(item, [i], null);
    const steps = item.star.reduce(
      (sum, inner) => sum + ('star' in inner || inner.move !== 'step' ? 0 : Number(inner.times)),
      0,
    );
    const of = Math.round((over - at) / steps);
    for (let nth = 1; nth <= of; nth++)
      item.star.forEach((inner, k) => {
        if (!('star' in inner)) put(inner, [i, k], { nth, of });
      });
  });
  const pieces = bandPieces(items, manner);
  return { ...inHands(job, side, [], groups), pieces, takes: over, makes: over + 1, stretches: [over + 1] };
}

/** What is told of a round of a band in pieces, as the words of a row are. */
function bandPieces(items: readonly BandItem[], manner: Manner, path: Path = []): WordPiece[] {
  const between = (text: string): WordPiece => ({ text, path: null });
  return items.flatMap((item, i) => {
    const own = [...path, i];
    const comma = i ? [between(', ')] : [];
    const whole = bandItemsText([item], manner);
    if (!('star' in item)) return [...comma, { text: whole, path: own }];
    const inner = bandItemsText(item.star, manner);
    const opens = whole.indexOf(inner);
    return [
      ...comma,
      between(whole.slice(0, opens)),
      ...bandPieces(item.star, manner, own),
      between(whole.slice(opens + inner.length)),
    ];
  });
}

/**
 * A literal knitter of bands: it reads the printed lines of a band by a reader of its own and works them with loops as objects,
 * on a left and a right needle. It shares no code with the program. How a lateral braid is worked is common practice, no source.
 */

/** A loop on the needle: the stitch of the round below it stands over, or the one that was cast on and travels along. */
export interface BandLoop {
  readonly stands: number | 'travelling';
  /** The strands of the travelling loop it lies under, by the round of the band, in their order. */
  readonly under: number[];
}

type OnNeedle = BandLoop | 'marker';

/** What was seen of a band: what lies on the needle after each round, and where the travelling loop passed under which strand. */
export interface BandSeen {
  counts: number[];
  loops: BandLoop[];
  /** The round, the stitch before it and the one behind it, where the travelling loop was drawn under. */
  passes: { round: number; after: number | null; before: number | null }[];
  markers: number;
}

/** "5 times", "twice" at the end of a move. */
const timesOf = (text: string): [string, number | 'end'] => {
  const end = / to end$/.exec(text);
  if (end) return [text.slice(0, end.index), 'end'];
  const many = / (?:(\d+) times|(twice)|(once))$/.exec(text);
  return many ? [text.slice(0, many.index), many[1] ? Number(many[1]) : many[2] ? 2 : 1] : [text, 1];
};

export class BandKnitter {
  private left: OnNeedle[];
  private right: OnNeedle[] = [];
  private round = 1;
  private readonly seen: BandSeen = { counts: [], loops: [], passes: [], markers: 0 };

  constructor(stitches: number) {
    this.left = Array.from({ length: stitches }, (_, i): BandLoop => ({ stands: i, under: [] }));
  }

  /** The lines behind "Band round 1:", in their order. */
  work(lines: readonly string[]): BandSeen {
    for (const line of lines) {
      const [, words, count] = /^(.*)\. \((\d+) (?:sts?|stitch(?:es)?)\)$/.exec(line)!;
      this.words(words!);
      if (this.waiting.length !== 1 || this.waiting[0]!.stands !== 'travelling')
        throw new Error(`${this.waiting.length} loops wait at the end of round ${this.round}`);
      this.left = [...this.left, ...this.right];
      this.right = [];
      const loops = this.left.filter((l) => l !== 'marker');
      if (loops.length !== Number(count)) throw new Error(`${loops.length} loops, ${count} told`);
      this.seen.counts.push(loops.length);
      this.round++;
    }
    const loops = this.left.filter((l) => l !== 'marker');
    return { ...this.seen, loops, markers: this.left.length - loops.length };
  }

  private get waiting(): BandLoop[] {
    return this.left.filter((l) => l !== 'marker');
  }

  private words(text: string): void {
    const star = /^(.*?)(?:, )?\*(.*); (?:rep|repeat) from \* to end$/.exec(text);
    const phrase = (words: string) =>
      words
        .split(', ')
        .filter(Boolean)
        .forEach((word) => this.move(word));
    if (!star) return phrase(text);
    phrase(star[1]!);
    while (this.waiting.length > 1) phrase(star[2]!);
  }

  private move(word: string): void {
    const [move, times] = timesOf(word);
    if (times === 'end') while (this.waiting.length > 1) this.once(move);
    else for (let i = 0; i < times; i++) this.once(move);
  }

  private once(move: string): void {
    const [first, second] = this.left;
    switch (move) {
      case 'knit on 1 st':
      case 'knit on 1 stitch':
        this.left.unshift({ stands: 'travelling', under: [] });
        return;
      case 'braid step': {
        if (!first || first === 'marker' || first.stands !== 'travelling') throw new Error('nothing travels');
        if (!second || second === 'marker') throw new Error('a marker, or nothing, stands next');
        // The second is knit first and lies on the right needle; the first follows it, and is slipped back.
        this.right.push({ stands: second.stands, under: [...second.under, this.round] });
        this.left.splice(0, 2, { stands: first.stands, under: first.under });
        return;
      }
      case 'draw under': {
        const place = (l: OnNeedle | undefined) =>
          l && l !== 'marker' && l.stands !== 'travelling' ? l.stands : null;
        const before = this.right.filter((l) => l !== 'marker').at(-1);
        this.seen.passes.push({ round: this.round, after: place(before), before: place(this.waiting[1]) });
        return;
      }
      case 'pm':
        this.right.push('marker');
        return;
      case 'sm':
      case 'remove marker':
        if (second !== 'marker') throw new Error('no marker stands behind the travelling loop');
        this.left.splice(1, 1);
        if (move === 'sm') this.right.push('marker');
        return;
      default:
        throw new Error(`"${move}" is not known`);
    }
  }
}

/** The bands that a printed pattern tells, by the round they stand before: what each is worked over, and the words of its rounds. */
export function bandsPrinted(text: string): Map<number, { over: number; rounds: string[] }> {
  const bands = new Map<number, { over: number; rounds: string[] }>();
  let open: { over: number; rounds: string[] } | null = null;
  for (const line of text.split('\n')) {
    const head =
      /^Band before round (\d+): (?:over (\d+) (?:sts|stitches|st|stitch)\b|as before round (\d+))/.exec(
        line,
      );
    const round = /^Band round (\d+): (.*)$/.exec(line);
    if (head?.[3]) bands.set(Number(head[1]), bands.get(Number(head[3]))!);
    else if (head) {
      open = { over: Number(head[2]), rounds: [] };
      bands.set(Number(head[1]), open);
    } else if (round) {
      if (open!.rounds.push(round[2]!) !== Number(round[1])) throw new Error(`round ${round[1]} out of turn`);
    } else if (/^End of band: /.test(line)) open = null;
  }
  return bands;
}

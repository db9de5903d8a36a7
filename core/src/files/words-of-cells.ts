import type { Chart, Settings } from '../chart/schema.js';
import { rowUse } from '../chart/rows.js';
import { crossingsNamed, nameOf, namingOf, type NameSettings } from '../names/schools.js';
import { isCrossing, kindOf, stitchBook, type Stitch } from '../stitches/book.js';
import { crossingId, type Crossing } from '../stitches/crossing.js';
import { NO_STITCH, STITCH_KINDS } from '../stitches/kinds.js';

/** What stands in a cell for a stitch. */

/** There is no stitch here; and: this cell is the stitch's at its left. */
export const GAP = 'x';
export const GOES_ON = '<';

const plainly = (word: string): string => word.replace('#', '').replace(/\s+/g, ' ').trim();

/** The words of all kinds there are: as on a right-side row, where no other has the same. */
const KIND_WORDS: ReadonlyMap<string, string> = (() => {
  const words = new Map<string, string>([[NO_STITCH, GAP]]);
  for (const { id, rs } of STITCH_KINDS.values()) {
    if (id === NO_STITCH) continue;
    const word = plainly(rs);
    words.set(id, [...words.values()].includes(word) ? id : word);
  }
  return words;
})();

const KIND_OF_WORD = new Map([...KIND_WORDS].map(([id, word]) => [word.toLowerCase(), id]));

/** A word that is no other's: with a number behind it where need be. */
function distinct(word: string, taken: ReadonlySet<string>): string {
  let own = word;
  for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${word} (${n})`;
  return own;
}

/** The words of one design's cells. */
export class CellWords {
  private readonly crossings = new Map<string, { word: string; crossing: Crossing }>();
  private readonly taken = new Set([...KIND_WORDS.values(), GOES_ON].map((word) => word.toLowerCase()));

  constructor(charts: readonly Chart[], settings: Settings) {
    // Her own stitches come first: what they are called she said herself.
    for (const { own } of charts) for (const { rs } of own) this.taken.add(plainly(rs).toLowerCase());
    for (const chart of charts)
      for (const row of chart.rows)
        for (const stitch of rowUse(row).keys())
          if (isCrossing(stitch)) this.meet(stitch, namingOf(settings, chart));
  }

  private meet(crossing: Crossing, naming: ReturnType<typeof namingOf>): void {
    const id = crossingId(crossing);
    if (this.crossings.has(id)) return;
    const name = nameOf(crossing, naming) ?? nameOf(crossing, { ...naming, school: 'front-back' })!;
    const word = distinct(name, this.taken);
    this.taken.add(word.toLowerCase());
    this.crossings.set(id, { word, crossing });
  }

  /** Her own stitches of a chart, each with its word. */
  ownOf({ own }: Chart): { word: string; own: Chart['own'][number] }[] {
    const taken = new Set([...KIND_WORDS.values(), GOES_ON].map((word) => word.toLowerCase()));
    return own.map((one) => {
      const word = distinct(plainly(one.rs), taken);
      taken.add(word.toLowerCase());
      return { word, own: one };
    });
  }

  /** What finds the word of a stitch in a chart. */
  in(chart: Chart): (stitch: Stitch) => string {
    const own = new Map(this.ownOf(chart).map(({ word, own: { id } }) => [id, word]));
    return (stitch) =>
      isCrossing(stitch)
        ? this.crossings.get(crossingId(stitch))!.word
        : (own.get(stitch) ?? KIND_WORDS.get(stitch) ?? stitch);
  }

  /** The crossings, each with its word, in the order they are met. */
  get key(): readonly { word: string; crossing: Crossing }[] {
    return [...this.crossings.values()];
  }
}

/** What a word of the table is called in words, for the key. */
export const kindTold = (id: string): string => kindOf(id, stitchBook()).name;

/** The kinds of the table that charts use, each with its word. */
export function kindsUsed(charts: readonly Chart[]): { word: string; id: string }[] {
  const used = new Set<string>();
  for (const { rows } of charts)
    for (const row of rows)
      for (const stitch of rowUse(row).keys()) if (!isCrossing(stitch)) used.add(stitch);
  return [...KIND_WORDS].flatMap(([id, word]) => (used.has(id) ? [{ id, word }] : []));
}

/** What stands for a stitch in the cells of one chart that is read. */
export interface Lexicon {
  /** By word, in lower case: what the key and the chart itself say. */
  said: ReadonlyMap<string, Stitch>;
  /** How names that are not in the key are understood. */
  naming: NameSettings;
  chart: Pick<Chart, 'construction'>;
}

/** The stitch of a word, or why there is none. */
export function stitchOfWord(
  word: string,
  { said, naming, chart }: Lexicon,
): { stitch: Stitch } | { problem: string } {
  const lower = word.toLowerCase();
  const known = said.get(lower) ?? KIND_OF_WORD.get(lower) ?? (STITCH_KINDS.has(lower) ? lower : undefined);
  if (known !== undefined) return { stitch: known };
  const { school, ...told } = namingOf(naming, chart);
  const meant = crossingsNamed(word, school, told);
  if (meant.length === 1) return { stitch: meant[0]! };
  if (meant.length > 1)
    return {
      problem: `"${word}" may mean ${meant.length} crossings. Say in the key which: its lean, and the stitches of its groups.`,
    };
  return { problem: `"${word.slice(0, 40)}" is no stitch that is known here, and the key does not tell it.` };
}

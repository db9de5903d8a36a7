import { crossingId, crossingSize, type Crossing } from '../stitches/crossing.js';
import { isCrossing } from '../stitches/book.js';
import { STITCH_KINDS } from '../stitches/kinds.js';
import { rowUse } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import type { Finding } from '../checks/finding.js';
import { nameOf, type Naming } from './schools.js';

/** The crossings a chart uses, each once, in the order they are met. */
export function crossingsUsed(chart: Chart): Crossing[] {
  const used = new Map<string, Crossing>();
  for (const row of chart.rows)
    for (const s of rowUse(row).keys()) if (isCrossing(s)) used.set(crossingId(s), s);
  return [...used.values()];
}

const division = (c: Crossing) =>
  [c.front, c.centre, c.back]
    .filter((g) => g.length)
    .map((g) => g.length)
    .join('/');

/** A name that tells a crossing from another of the same name: the division of its stitches is added. */
export function distinctName(c: Crossing, naming: Naming): string {
  return `${nameOf(c, naming) ?? `C${crossingSize(c)}`}-${division(c)}`;
}

/** Words a row is built with, which no crossing may be called by. */
const ROW_WORDS = /^(knit|purl|slip|as|work|rep|repeat|to|across|twice|once|times)\b/i;

/** Whether a name would be read as a counted stitch, such as k3, or as the row's own words. */
function readsAsRow(name: string, words: Iterable<string>): boolean {
  if (ROW_WORDS.test(name)) return true;
  for (const word of words)
    if (
      word.includes('#') &&
      new RegExp(`^${word.replace(/ /g, ' ?').replace('#', '\\d*')}$`, 'i').test(name)
    )
      return true;
  return false;
}

/** Two different crossings of one pattern never share a name, and no crossing takes the word of a stitch. */
export function checkNames(chart: Chart, naming: Naming): Finding[] {
  const found: Finding[] = [];
  const taken = new Map<string, string>();
  for (const kind of [...STITCH_KINDS.values(), ...chart.own.map((o) => bookOf(chart).kind(o.id)!)])
    for (const word of [kind.rs, kind.ws])
      if (word) taken.set(word.toLowerCase(), `the stitch "${kind.name}"`);
  const stitchWords = [...taken.keys()];
  for (const c of crossingsUsed(chart)) {
    const name = nameOf(c, naming);
    if (name === null) continue;
    const key = name.toLowerCase();
    const other =
      taken.get(key) ?? (readsAsRow(name, stitchWords) ? 'what the rows themselves say' : undefined);
    if (other)
      found.push({
        id: 'same-name',
        level: 'error',
        row:
          chart.rows.findIndex((row) => row.some((s) => isCrossing(s) && crossingId(s) === crossingId(c))) +
          1,
        message: `"${name}" names both ${other} and a ${division(c)} ${c.lean} crossing. Give one of them a name of its own, such as "${distinctName(c, naming)}".`,
      });
    else taken.set(key, `a ${division(c)} ${c.lean} crossing`);
  }
  return found;
}

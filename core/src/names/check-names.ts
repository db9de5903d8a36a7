import { sideOf } from '../construction/index.js';
import { crossingId, crossingSize, sameCrossing, type Crossing } from '../stitches/crossing.js';
import { hasMirror, isCrossing, type Stitch } from '../stitches/book.js';
import type { Side } from '../stitches/face.js';
import { STITCH_KINDS } from '../stitches/kinds.js';
import { rowUse } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import type { Finding } from '../checks/finding.js';
import { nameOf, namingOf, type NameSettings, type Naming } from './schools.js';

/** The crossings a chart uses, each once, in the order they are met. */
export function crossingsUsed(chart: Chart): Crossing[] {
  const used = new Map<string, Crossing>();
  const add = (_: number, s: Stitch) => {
    if (isCrossing(s)) used.set(crossingId(s), s);
  };
  for (const row of chart.rows) rowUse(row).forEach(add);
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

/** Where each crossing is first worked, and on which sides. Rows count from 1. */
function crossingsBySide(chart: Chart): { c: Crossing; row: number; sides: Set<Side> }[] {
  const used = new Map<string, { c: Crossing; row: number; sides: Set<Side> }>();
  chart.rows.forEach((row, r) => {
    for (const s of rowUse(row).keys()) {
      if (!isCrossing(s)) continue;
      const known = used.get(crossingId(s)) ?? { c: s, row: r + 1, sides: new Set() };
      known.sides.add(sideOf(chart, r));
      used.set(crossingId(s), known);
    }
  });
  return [...used.values()];
}

/**
 * Two different crossings of one pattern never share a name, and no crossing takes the word of a stitch. A school
 * that counts what is worked first gives a crossing another name on the wrong side, so each side is asked. Charts of one
 * design share their names: what those before this one use is taken.
 */
export function checkNames(chart: Chart, settings: NameSettings, before: readonly Chart[] = []): Finding[] {
  const naming = namingOf(settings, chart);
  const book = bookOf(chart);
  const found: Finding[] = [];
  const taken = new Map<string, { what: string; c?: Crossing }>();
  for (const kind of [...STITCH_KINDS.values(), ...chart.own.map((o) => book.kind(o.id)!)])
    for (const word of [kind.rs, kind.ws])
      if (word) taken.set(word.toLowerCase(), { what: `the stitch "${kind.name}"` });
  const stitchWords = [...taken.keys()];
  for (const other of before)
    for (const { c, sides } of crossingsBySide(other))
      for (const side of sides) {
        const name = nameOf(c, namingOf(settings, other), side)?.toLowerCase();
        if (name !== undefined && !taken.has(name))
          taken.set(name, { what: `a ${division(c)} ${c.lean} crossing of another chart`, c });
      }
  for (const { c, row, sides } of crossingsBySide(chart))
    for (const side of sides) {
      const name = nameOf(c, naming, side);
      if (name === null) continue;
      const key = name.toLowerCase();
      const other = taken.get(key);
      if (other?.c && sameCrossing(other.c, c)) continue;
      const what =
        other?.what ?? (readsAsRow(name, stitchWords) ? 'what the rows themselves say' : undefined);
      if (!what) {
        taken.set(key, { what: `a ${division(c)} ${c.lean} crossing`, c });
        continue;
      }
      found.push({
        id: 'same-name',
        level: 'error',
        row,
        message: `"${name}" names both ${what} and a ${division(c)} ${c.lean} crossing. Give one of them a name of its own, such as "${distinctName(c, naming)}".`,
      });
      break;
    }
  return naming.hand === 'left-same-fabric' ? [...found, ...withoutMirror(chart)] : found;
}

/** A left-handed knitter works the mirror image of each stitch: a designer's own uneven one must name it. */
function withoutMirror(chart: Chart): Finding[] {
  const book = bookOf(chart);
  return chart.own.flatMap((own): Finding[] => {
    if (hasMirror(own.id, book)) return [];
    const r = chart.rows.findIndex((row) => rowUse(row).has(own.id));
    return r < 0
      ? []
      : [
          {
            id: 'no-mirror-image',
            level: 'error',
            row: r + 1,
            message: `Left-handed words need the mirror image of "${own.name}", which is not the same from both sides. Say in its description which stitch that is.`,
          },
        ];
  });
}

import {
  allWays,
  answeredIn,
  designOf,
  readPatterns,
  SCHOOLS,
  takenFrom,
  withoutEnding,
  type Design,
  type School,
  type SectionRead,
  type WayId,
} from '@cordelina/core';
import { randomUUID } from 'node:crypto';
import { Misuse } from './usage.js';

/** Written patterns: how they are read where they do not say, and what comes of them. */

export interface Manner {
  school: School | null;
  way: WayId;
  first: 'RS' | 'WS';
}

/** @throws Misuse where an option names nothing there is */
export function mannerOf(options: { school?: string; way?: string; first?: string }): Manner {
  const { school = null, way = 'flat', first = 'RS' } = options;
  if (school !== null && !SCHOOLS.includes(school as School))
    throw new Misuse(`--school is one of ${SCHOOLS.join(', ')}.`);
  const ways = allWays().map(({ id }) => id);
  if (!ways.includes(way)) throw new Misuse(`--way is one of ${ways.join(', ')}.`);
  if (first !== 'RS' && first !== 'WS') throw new Misuse('--first is RS or WS.');
  return { school: school as School | null, way: way as WayId, first };
}

export const sectionsOf = (text: string, { school, way, first }: Manner): SectionRead[] =>
  readPatterns(text, { construction: way, firstRow: first, ...(school && { school }) });

/** A design of what was read; null where any of its patterns gives no chart: a text is taken whole or not. */
export function designOfSections(
  name: string,
  sections: readonly SectionRead[],
  { school }: Manner,
): Design | null {
  if (!sections.length || sections.some(({ reading }) => !reading.chart)) return null;
  const taken = takenFrom(sections, answeredIn(sections, {}), school ?? 'front-back', randomUUID);
  const title = sections[0]!.title?.trim() || withoutEnding(name) || 'Pattern';
  return designOf(title, taken, school, null, randomUUID);
}

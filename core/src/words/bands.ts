import { bandsOf, divides, isCrossed } from '../chart/bands.js';
import { countsOf } from '../chart/frame.js';
import type { Chart } from '../chart/schema.js';
import { wayOf } from '../construction/index.js';
import { bandRounds, type BandItem, type BraidMove } from '../needle/braid.js';
import { sameValue } from '../values.js';
import type { Manner } from './manner.js';
import { stitchesText, timesText } from './manner.js';
import type { MarkWord } from './key.js';
import type { BandLine, BandTold } from './pattern.js';

/** The bands of a chart that can be worked, as lines of its pattern; one that is as an earlier one says so. */
export function bandLines(chart: Chart): BandLine[] {
  const told: { before: number; body: BandTold }[] = [];
  if (!wayOf(chart).takesBands) return [];
  return bandsOf(chart).flatMap(({ row, band }): BandLine[] => {
    const before = row + 1;
    const over = countsOf(chart, row).takes;
    if (!divides(over, band)) return [];
    const rounds = bandRounds(band).map((items) => ({ items, count: over + 1 }));
    const body = { over, multiple: isCrossed(band) ? band.every : null, rounds };
    const same = told.find((one) => sameValue(one.body, body));
    if (same) return [{ before, body: { as: same.before } }];
    told.push({ before, body });
    return [{ before, body }];
  });
}

const MOVES: Readonly<Record<BraidMove, string>> = {
  'cast-on': 'knit on',
  step: 'braid step',
  draw: 'draw under',
  place: 'pm',
  slip: 'sm',
  remove: 'remove marker',
};

/** What is told of a round of a band, as text. */
export const bandItemsText = (items: readonly BandItem[], manner: Manner): string =>
  items
    .map((item) => {
      if ('star' in item)
        return `*${bandItemsText(item.star, manner)}; ${manner.form === 'full' ? 'repeat' : 'rep'} from * to end`;
      const move =
        item.move === 'cast-on' ? `${MOVES[item.move]} ${stitchesText(1, manner)}` : MOVES[item.move];
      if (item.times === 'end') return `${move} to end`;
      return item.times === 1 ? move : `${move} ${timesText(item.times)}`;
    })
    .join(', ');

/** A line as it is printed: its head, and what follows it. */
export interface PrintedLine {
  head: string;
  words: string;
}

/** A band in lines: what it is worked over, each of its rounds, and what becomes of its travelling stitch. */
export function bandText({ before, body }: BandLine, manner: Manner): PrintedLine[] {
  const head = `Band before round ${before}`;
  if ('as' in body) return [{ head, words: `as before round ${body.as}.` }];
  const of = body.multiple === null ? '' : `, a multiple of ${body.multiple} less 1`;
  return [
    { head, words: `over ${stitchesText(body.over, manner)}${of}.` },
    ...body.rounds.map(({ items, count }, i) => ({
      head: `Band round ${i + 1}`,
      words: `${bandItemsText(items, manner)}. (${stitchesText(count, manner)})`,
    })),
    {
      head: 'End of band',
      words: `work the first ${stitchesText(1, manner).slice(2)} of round ${before} together with the travelling ${stitchesText(1, manner).slice(2)}.`,
    },
  ];
}

const WORD_OF: Readonly<Partial<Record<BraidMove, MarkWord>>> = {
  'cast-on': 'knit on',
  step: 'braid step',
  draw: 'draw under',
  place: 'pm',
  slip: 'sm',
};

function wordsIn(items: readonly BandItem[]): MarkWord[] {
  return items.flatMap((item) => ('star' in item ? wordsIn(item.star) : (WORD_OF[item.move] ?? [])));
}

/** The words that the key must tell of the bands of a pattern, in the order they are first met. */
export const bandWords = (bands: readonly BandLine[]): MarkWord[] => [
  ...new Set(
    bands.flatMap(({ body }) => ('as' in body ? [] : body.rounds.flatMap(({ items }) => wordsIn(items)))),
  ),
];

/** The most markers that a band of a chart places in its round. */
export const markersOfBands = (chart: Chart): number =>
  Math.max(
    0,
    ...bandsOf(chart).map(({ row, band }) =>
      isCrossed(band) ? Math.floor((countsOf(chart, row).takes + 1) / band.every) - 1 : 0,
    ),
  );

import {
  BandSchema,
  isCrossed,
  MOST_BAND_ROUNDS,
  USUAL_BAND,
  type Band,
  type Bands,
} from '../../chart/bands.js';
import type { Chart } from '../../chart/schema.js';
import { wayOf } from '../../construction/index.js';
import { Braid, BraidFault, workBand } from '../../needle/braid.js';
import { counted, sameValue } from '../../values.js';
import type { BandLine, BandTold } from '../pattern.js';
import type { Order } from './order.js';
import type { PatternLines, Problem } from './pattern-lines.js';

/** A band that does not come out, in a sentence. */
class BandProblem extends Error {}

/** What the rounds of a band are, worked on its needle as they are told. @throws BandProblem */
function bandTold({ over, multiple, rounds }: BandTold): Band {
  if (!rounds.length || rounds.length > MOST_BAND_ROUNDS)
    throw new BandProblem(`a band has 1 to ${MOST_BAND_ROUNDS} rounds; ${rounds.length} are told.`);
  const braid = new Braid(over);
  rounds.forEach(({ items, count }, i) => {
    const which = `round ${i + 1} of the band`;
    try {
      braid.workRound(items);
    } catch (error) {
      if (!(error instanceof BraidFault)) throw error;
      throw new BandProblem(`${which}: ${error.message}`);
    }
    if (count !== braid.loops)
      throw new BandProblem(`${which} says ${count} stitches; the needle holds ${braid.loops}.`);
  });
  if (braid.marked) throw new BandProblem(`${counted(braid.marked, 'marker')} left in the round.`);
  // The second crossing of a round lies a stretch behind its first, the travelling stitch counted.
  const every = multiple ?? (rounds.length > 1 ? (braid.crossings[1]?.at ?? 0) + 1 : USUAL_BAND.every);
  const band = BandSchema.safeParse({ every, rounds: rounds.length });
  const wanted =
    band.success && (over + 1) % every === 0 && isCrossed(band.data) ? workBand(over, band.data) : null;
  if (!band.success || (isCrossed(band.data) && !sameValue(wanted?.crossings, braid.crossings)))
    throw new BandProblem('its strands do not cross every so many stitches alike in all its rounds.');
  return band.data;
}

/** The bands that a text tells, each before its row, and what of them does not come out. `needles` are the stitches before each row. */
export function bandsRead(
  { pattern, bandAt }: PatternLines,
  order: Order,
  needles: readonly number[],
  chart: Chart,
): { bands: Bands; problems: Problem[] } {
  const bands: Record<string, Band> = {};
  const problems: Problem[] = [];
  const told = new Map<number, BandTold>();
  const read = (line: BandLine) => {
    const { before, body } = line;
    const place = order.placeOf(before);
    if (place === null || place > chart.rows.length)
      throw new BandProblem('that round is not among the rows of the text.');
    const own = 'as' in body ? told.get(body.as) : body;
    if (!own) throw new BandProblem(`no band is told before round ${'as' in body ? body.as : before}.`);
    told.set(before, own);
    if (place - 1 in bands) throw new BandProblem('a band is told there already.');
    const band = bandTold(own);
    const holds = needles[place - 1];
    if (holds !== undefined && holds !== own.over)
      throw new BandProblem(`it is worked over ${own.over} stitches; the needle holds ${holds}.`);
    if (!wayOf(chart).takesBands)
      throw new BandProblem(`a band goes on from round to round, and this is worked ${wayOf(chart).worked}.`);
    bands[place - 1] = band;
  };
  for (const line of pattern.bands) {
    try {
      read(line);
    } catch (error) {
      if (!(error instanceof BandProblem)) throw error;
      problems.push({
        id: 'band-differs',
        level: 'error',
        row: order.placeOf(line.before) ?? undefined,
        message: `Band before round ${line.before}: ${error.message}`,
        at: bandAt(line),
      });
    }
  }
  return { bands, problems };
}

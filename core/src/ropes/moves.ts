import { rowFacts, type PlacedCrossing, type Run } from '../chart/rows.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { sameFaces } from '../needle/loop.js';
import { workChart, type RowWork } from '../needle/needle.js';
import { rowByRow, sameInputs } from '../remember.js';

/** What a worked row does that ropes are followed by. A stitch worked otherwise that shows the same changes nothing of it. */
export interface Moves extends Pick<RowWork, 'takes' | 'lacks' | 'from' | 'loops'> {
  /** Its crossings from the right. */
  crossings: readonly PlacedCrossing[];
  /** The loops after the row, from the right as it is worked, at which ropes end. */
  ends: readonly number[];
}

const NONE: readonly number[] = [];

const changes = ({ facts: { takes, makes } }: Run): boolean => takes > 0 && takes !== makes;

/** Ropes end where they are decreased into the ground, and begin anew where stitches are worked into one. */
function endsOf(runs: readonly Run[]): readonly number[] {
  if (!runs.some(changes)) return NONE;
  const ends: number[] = [];
  let loop = 0;
  for (const run of runs) {
    const { takes, makes, faces } = run.facts;
    const isEnd = changes(run) && (makes > takes || faces === 'below' || faces.includes('purl'));
    const next = loop + run.times * makes;
    if (isEnd) for (; loop < next; loop++) ends.push(loop);
    loop = next;
  }
  return ends;
}

const sameCrossings = (a: readonly PlacedCrossing[], b: readonly PlacedCrossing[]): boolean =>
  a.length === b.length &&
  a.every((one, i) => {
    const other = b[i]!;
    return one.crossing === other.crossing && one.column === other.column && one.loop === other.loop;
  });

const sameMoves = (a: Moves, b: Moves): boolean =>
  a.takes === b.takes &&
  a.lacks === b.lacks &&
  sameFaces(a.loops, b.loops) &&
  (a.from === b.from || sameInputs(a.from, b.from)) &&
  sameCrossings(a.crossings, b.crossings) &&
  sameInputs(a.ends, b.ends);

const movesAlong = rowByRow<RowWork, Moves>(sameMoves);

/** What each row of a chart does to its ropes: the very same list while none does anything else. */
export function movesOf(chart: Chart): readonly Moves[] {
  const book = bookOf(chart);
  return movesAlong(workChart(chart), [book], ({ element: { takes, lacks, from, loops }, r }) => {
    const { crossings, runs } = rowFacts(chart.rows[r]!, book);
    return { takes, lacks, from, loops, crossings, ends: endsOf(runs) };
  });
}

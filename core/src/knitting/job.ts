import { bandsOf, divides } from '../chart/bands.js';
import { chartName } from '../chart/charts.js';
import { countsOf, endOf, passesOf, repeatRows, timesOf, workedRows } from '../chart/frame.js';
import type { Piece } from '../chart/piece-document.js';
import type { Chart, Design } from '../chart/schema.js';
import { rowTitle, sideOf, wayOf } from '../construction/index.js';
import { bandRounds } from '../needle/braid.js';
import { assemble, type Assembled } from '../piece/assemble.js';
import { borderHeading } from '../piece/border.js';
import { panelRowAt } from '../piece/up.js';
import type { Side } from '../stitches/face.js';
import { mannerOf, type Manner } from '../words/manner.js';
import { dictionOf, type Diction } from '../words/vocabulary.js';
import type { WordSettings } from '../words/write.js';
import { MOST_JOB_ROWS } from './document.js';

/** What someone knits: one chart, or a piece in one of its sizes. Counts of repeats are the design's own where none is given. */
export type JobOf = { chart: string } | { size: string };

/** A row in the order it is worked. */
export interface JobRow {
  /** How many rows, without those of bands, are worked before it. */
  worked: number;
  /** Its row of the job's chart, from 0. */
  row: number;
  side: Side;
  /** Which pass of the repeat up it is of, from 1, and how many there are; 1 of 1 outside the repeat. */
  pass: number;
  passes: number;
  /** The round, from 0, of the band that is worked before that row; null for the row itself. */
  band: number | null;
}

/** What is knitted, as one chart whose rows are worked one after the other. */
export interface Job {
  chart: Chart;
  /** The piece it is of, put together; null where it is of a chart by itself. */
  of: { piece: Piece; made: Assembled } | null;
  /** The chart's name, or the size's. */
  name: string;
  /** How often the repeat across is worked. */
  times: number;
  castOn: number;
  rows: readonly JobRow[];
  settings: WordSettings;
  diction: Diction;
  manner: Manner;
}

/** What cannot be knitted: the message is for the knitter. */
export class JobFault extends Error {}

/**
 * A job of a design, for its settings' hands.
 *
 * @throws JobFault where the design has no such chart or size, or it is too long; PieceFault where the piece cannot be put together
 */
export function jobOf(design: Pick<Design, 'charts' | 'piece'>, of: JobOf, settings: WordSettings): Job {
  const found = 'size' in of ? pieceIn(design, of.size) : chartIn(design, of.chart);
  const { chart } = found;
  const times = timesOf(chart);
  const rows = rowsOf(chart);
  return {
    ...found,
    times,
    castOn: countsOf(chart, 0, times).takes,
    rows,
    settings,
    diction: dictionOf(chart, settings),
    manner: mannerOf(settings.style, chart),
  };
}

function chartIn(design: Pick<Design, 'charts'>, id: string): Pick<Job, 'chart' | 'of' | 'name'> {
  const chart = design.charts.find((c) => c.id === id);
  if (!chart) throw new JobFault('This design has no such chart any more.');
  return { chart, of: null, name: chartName(design, chart) };
}

function pieceIn(design: Pick<Design, 'charts' | 'piece'>, id: string): Pick<Job, 'chart' | 'of' | 'name'> {
  const size = design.piece?.sizes.find((s) => s.id === id);
  if (!design.piece || !size) throw new JobFault('This design has no such size any more.');
  const made = assemble(design, design.piece, size);
  return { chart: made.chart, of: { piece: design.piece, made }, name: size.name };
}

function rowsOf(chart: Chart): JobRow[] {
  const repeat = repeatRows(chart);
  const isRepeated = (row: number) => repeat !== null && row >= repeat.first && row <= repeat.last;
  const passes = passesOf(chart);
  const worked = [...workedRows(chart)];
  // A pass that is ended part-way is one more.
  const most = passes + (endOf(chart) ? 1 : 0);
  const bands = wayOf(chart).takesBands ? new Map(bandsOf(chart).map(({ row, band }) => [row, band])) : null;
  const rows: JobRow[] = [];
  worked.forEach(({ row, pass }, n) => {
    const one = { worked: n, row, side: sideOf(chart, row), pass, passes: isRepeated(row) ? most : 1 };
    const band = bands?.get(row);
    if (band && divides(countsOf(chart, row).takes, band))
      bandRounds(band).forEach((_, round) => rows.push({ ...one, band: round }));
    rows.push({ ...one, band: null });
  });
  if (rows.length > MOST_JOB_ROWS)
    throw new JobFault(`That is ${rows.length} rows; up to ${MOST_JOB_ROWS} are kept count of.`);
  return rows;
}

/** Under what a row stands on the sheet. */
export interface RowTitle {
  /** The part of the piece that counts its rows by itself, as its heading is; null for the rows of the parts, or where all is one. */
  section: string | null;
  /** "Row 7", by its number there. */
  text: string;
  number: number;
  /** Of a round of a band: which, from 1. */
  band: number | null;
  /** The row, from 1, of every panel that it works. */
  panels: readonly { name: string; row: number }[];
}

/** Under what a row of the job (from 0) stands on the sheet. */
export function titleOf({ chart, of, rows }: Job, n: number): RowTitle {
  const { row, worked, band } = rows[n]!;
  const told = (section: string | null, number: number, panels: RowTitle['panels'] = []): RowTitle => ({
    section,
    text:
      band === null
        ? rowTitle(chart, number)
        : `Band round ${band + 1}, before ${rowTitle(chart, number).toLowerCase()}`,
    number,
    band: band === null ? null : band + 1,
    panels,
  });
  if (!of) return told(null, row + 1);
  const { made, piece } = of;
  const { below, body } = made;
  const { bottom, top } = piece.border;
  const n1 = worked - below + 1;
  const panels =
    n1 < 1 || n1 > body
      ? []
      : made.laid.parts.flatMap(({ going, name, chart: own }) => {
          const at = own && going && panelRowAt(going, n1, body);
          return at ? [{ name, row: at }] : [];
        });
  // A piece that is told from edge to edge is told by the rows of its own chart.
  if (piece.words === 'rows') return told(null, row + 1, panels);
  if (worked < below) return told(bottom ? borderHeading(bottom, 'bottom') : null, worked + 1);
  if (n1 > body) return told(top ? borderHeading(top, 'top') : null, n1 - body);
  return told(null, n1, panels);
}

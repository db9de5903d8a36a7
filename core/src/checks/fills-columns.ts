import { spanOfAll, rowFacts } from '../chart/rows.js';
import { withRow } from '../chart/edits.js';
import type { Chart, Row } from '../chart/schema.js';
import { isCrossing, spanOf, type Stitch, type StitchBook } from '../stitches/book.js';
import { startOf } from '../chart/frame.js';
import { sideOf } from '../construction/index.js';
import type { Needle } from '../needle/loop.js';
import { stitchesBefore } from '../stitches/crossing.js';
import { faceOf, type Face, type Side } from '../stitches/face.js';
import { rowCheck, type Mend } from './finding.js';
import { counted } from '../values.js';

/** The row without what lies beyond the width; null when a stitch lies across the edge. */
function trimmed(row: Row, width: number, book: StitchBook): Row | null {
  const kept: Stitch[] = [];
  for (const s of row) {
    if (spanOfAll(kept, book) >= width) break;
    kept.push(s);
  }
  return spanOfAll(kept, book) === width ? kept : null;
}

/** A loop of a row: the face it wants to find, and whether a stitch ends before it, so that another may stand there. */
interface Wanted {
  face: Face;
  isFree: boolean;
}

/** What a row wants to find on the needle, from the right; null where stitches come or go in it, and no loop answers another. */
function wantedBy(row: Row, book: StitchBook): Wanted[] | null {
  const wanted: Wanted[] = [];
  for (const stitch of row) {
    const { takes, makes, span, faces } = book.facts(stitch);
    if (takes !== makes || takes !== span) return null;
    const before = isCrossing(stitch) ? stitchesBefore(stitch).map(({ worked }) => faceOf(worked)) : faces;
    for (let i = 0; i < takes; i++)
      wanted.push({ face: before === 'below' ? 'knit' : before[i]!, isFree: i === 0 });
  }
  return wanted;
}

/** A place in a row where so many columns are missing, or are too many; `fit` is how many loops then find what they want. */
interface Departs {
  at: number;
  fit: number;
}

/** Where a row departs from what presents below it: the places at which it then fits best, from the best. */
function departures(wanted: readonly Wanted[], below: Needle, by: number): Departs[] {
  const n = below.length;
  const alike = (i: number, k: number) => (wanted[i] && below[k] && wanted[i].face === below[k].face ? 1 : 0);
  // Up to a place loops stand where they do; from there on so many further.
  const [short, long] = [Math.max(0, by), Math.max(0, -by)];
  const after: number[] = Array<number>(wanted.length + 1).fill(0);
  for (let i = wanted.length - 1; i >= 0; i--) after[i] = after[i + 1]! + alike(i, i + short - long);
  const found: Departs[] = [];
  let before = 0;
  for (let at = 0; at <= wanted.length - long; at++) {
    const isFree = (i: number) => i >= wanted.length || wanted[i]!.isFree;
    if (isFree(at) && isFree(at + long) && at + short <= n)
      found.push({ at, fit: before + after[at + long]! });
    before += alike(at, at);
  }
  // Of places as good the one furthest on: after a run and not in it.
  return found.sort((a, b) => b.fit - a.fit || b.at - a.at);
}

/** "k2, p3": stitches as the hands of a row work them, in their order. */
function runsText(faces: readonly Face[], side: Side): string {
  const order = side === 'RS' ? faces : [...faces].reverse();
  const runs: { word: string; n: number }[] = [];
  for (const face of order) {
    const word = (face === 'knit') === (side === 'RS') ? 'k' : 'p';
    if (runs.at(-1)?.word === word) runs.at(-1)!.n++;
    else runs.push({ word, n: 1 });
  }
  return runs.map(({ word, n }) => `${word}${n}`).join(', ');
}

/** The run of loops right before a place in working order, as words; null where the row begins there. */
function runBefore(wanted: readonly Wanted[], from: number, to: number, side: Side): string | null {
  const faces = wanted.map(({ face }) => face);
  const part = side === 'RS' ? faces.slice(0, from) : faces.slice(to).reverse();
  const last = part.at(-1);
  if (!last) return null;
  let n = 1;
  while (part.at(-1 - n) === last) n++;
  return `${(last === 'knit') === (side === 'RS') ? 'k' : 'p'}${n}`;
}

const CELL: Readonly<Record<Face, Stitch>> = { knit: 'k', purl: 'p' };

/** Every row fills exactly the chart's columns; a crossing never reaches over the chart's edge. */
export const fillsColumns = rowCheck(
  {
    tells: {
      'row-short': 'Rows too short',
      'row-long': 'Rows too long',
      'crossing-over-edge': 'Crossing over the edge',
    },
    level: 'error',
    reads: ['ground'],
  },
  ({ chart, book, works }, r) => {
    const row = chart.rows[r]!;
    const { span, starts } = rowFacts(row, book);
    const { width } = chart;
    if (span === width) return [];
    const side = sideOf(chart, r);
    const below = r > 0 ? works[r - 1]!.loops : null;
    const wanted = below?.length === width && !startOf(chart, r) ? wantedBy(row, book) : null;
    const [place] = wanted ? departures(wanted, below!, width - span) : [];
    // Where most of a row is otherwise than what presents, it says nothing of where it departs.
    const departs = place && 4 * place.fit >= 3 * Math.min(width, span) ? place.at : null;
    if (span < width) {
      const short = width - span;
      const filled = [...row, ...Array<Stitch>(short).fill(chart.ground)];
      const faces = departs === null ? [] : below!.slice(departs, departs + short).map(({ face }) => face);
      const told = departs === null ? null : `${runsText(faces, side)} is missing`;
      const before = departs === null ? null : runBefore(wanted!, departs, departs, side);
      const where = before === null ? 'at the beginning' : `after ${before}`;
      return [
        {
          id: 'row-short',
          level: 'error',
          row: r + 1,
          columns: departs === null ? [span + 1, width] : [departs + 1, departs + short],
          message: `Row ${r + 1} is ${counted(short, 'stitch')} short: it fills ${span} of ${width} columns.${told ? ` By the row below, ${told} ${where}.` : ''}`,
          mend: [
            ...(departs === null
              ? []
              : [
                  {
                    label: `Put in ${runsText(faces, side)} ${where}`,
                    edit: (c: Chart) => withRow(c, r, putIn(c.rows[r]!, departs, faces, book)),
                  },
                ]),
            {
              label: `Fill row ${r + 1} with ${counted(short, chart.ground === 'k' ? 'knit stitch' : 'purl stitch')}`,
              edit: (c: Chart) => withRow(c, r, filled),
            },
          ],
        },
      ];
    }
    const last = row.findIndex((s, i) => starts[i]! + spanOf(s, book) > width);
    const start = starts[last]!;
    const surplus = span - width;
    const outOfPlace: Mend[] =
      departs === null
        ? []
        : [
            {
              label: `Take out ${runsText(
                wanted!.slice(departs, departs + surplus).map(({ face }) => face),
                side,
              )} in ${surplus === 1 ? `column ${departs + 1}` : `columns ${departs + 1}–${departs + surplus}`}`,
              edit: (c) => withRow(c, r, takeOut(c.rows[r]!, departs, surplus, book)),
            },
          ];
    if (isCrossing(row[last]!) && start < width)
      return [
        {
          id: 'crossing-over-edge',
          level: 'error',
          row: r + 1,
          columns: [start + 1, width],
          message: `Row ${r + 1}: the crossing from column ${start + 1} reaches ${counted(start + spanOf(row[last], book) - width, 'stitch')} over the edge of the chart.`,
          mend: outOfPlace,
        },
      ];
    const cut = trimmed(row, width, book);
    return [
      {
        id: 'row-long',
        level: 'error',
        row: r + 1,
        columns: departs === null ? [1, width] : [departs + 1, Math.min(width, departs + surplus)],
        message: `Row ${r + 1} is ${counted(surplus, 'stitch')} too long: it fills ${span} columns where the chart has ${width}.${departs === null ? '' : ` By the row below, ${surplus === 1 ? 'one' : 'those'} from column ${departs + 1} on ${surplus === 1 ? 'is' : 'are'} too many.`}`,
        mend: [
          ...outOfPlace,
          ...(cut
            ? [{ label: `Trim row ${r + 1} to ${width} columns`, edit: (c: Chart) => withRow(c, r, cut) }]
            : []),
        ],
      },
    ];
  },
);

/** A row with plain stitches put in at a column where one stitch ends and another begins. */
function putIn(row: Row, column: number, faces: readonly Face[], book: StitchBook): Stitch[] {
  const at = row.findIndex((_, i) => rowFacts(row, book).starts[i]! >= column);
  const place = at < 0 ? row.length : at;
  return [...row.slice(0, place), ...faces.map((face) => CELL[face]), ...row.slice(place)];
}

/** A row without the stitches that stand wholly in so many columns. */
const takeOut = (row: Row, column: number, count: number, book: StitchBook): Stitch[] =>
  row.filter((_, i) => {
    const start = rowFacts(row, book).starts[i]!;
    return start < column || start >= column + count;
  });

import { wayOf } from '../construction/index.js';
import { isCrossing, isOfPairs, kindOf, type Stitch } from '../stitches/book.js';
import { crossing } from '../stitches/crossing.js';
import { faceOf, type Worked } from '../stitches/face.js';
import { andThen, become, type Edit } from './edit.js';
import { setConstruction } from './edits.js';
import { bandsOf, hasBands } from './bands.js';
import { hasJogs, jogOf } from './frame.js';
import { bookOf, type Chart } from './schema.js';

/** Something of a chart that another way of working does not have, with the rows (from 1) it is in. */
export interface Lost {
  what: string;
  /** What comes of it. */
  becomes: string;
  rows: readonly number[];
}

/** What a change of the way of working makes of a chart, and what of it is not carried over. */
export interface Carried {
  edit: Edit;
  lost: readonly Lost[];
}

const plainly = (worked: Worked): Worked => (faceOf(worked) === 'knit' ? 'k' : 'p');

/** A stitch as pairs can be worked that fill its columns; null where it wins or loses loops. */
function onPairs(stitch: Stitch, chart: Chart): Stitch | null {
  if (isOfPairs(stitch)) return stitch;
  if (isCrossing(stitch))
    return crossing(
      stitch.lean,
      stitch.front.map(plainly),
      stitch.back.map(plainly),
      stitch.centre.map(plainly),
    );
  const { takes, makes, span, faces } = kindOf(stitch, bookOf(chart));
  if (takes !== 1 || makes !== 1 || span !== 1) return null;
  return faces[0] === 'purl' ? 'p' : 'k';
}

type How = Parameters<typeof setConstruction>[1];

/** A chart worked in another way: as much of it as that has, and what it has not. Nothing of it is done yet. */
export function reworked(chart: Chart, how: How): Carried {
  const lost: Lost[] = [];
  const isOther = how.construction !== chart.construction;
  if (isOther && hasJogs(chart))
    lost.push({
      what: 'Rows that begin elsewhere than the others',
      becomes: 'begin where the others do',
      rows: chart.rows.flatMap((_, r) => (jogOf(chart, r) ? [r + 1] : [])),
    });
  if (isOther && hasBands(chart) && !wayOf(how).takesBands)
    lost.push({
      what: 'Bands between rounds',
      becomes: 'are taken out',
      rows: bandsOf(chart).map(({ row }) => row + 1),
    });
  if (wayOf(how).loops === 1 || wayOf(chart).loops === 2) return { edit: setConstruction(chart, how), lost };

  const found = new Map<string, { becomes: string; rows: Set<number> }>();
  const rows = chart.rows.map((row, r) => {
    if (row.every(isOfPairs)) return row;
    return row.map((stitch) => {
      if (isOfPairs(stitch)) return stitch;
      const made = onPairs(stitch, chart);
      const what = isCrossing(stitch) ? 'crossing through the back loop' : kindOf(stitch, bookOf(chart)).name;
      const becomes = made ? 'become plain pairs' : 'stay in the chart as errors, to be mended';
      const one = found.get(what) ?? { becomes, rows: new Set() };
      one.rows.add(r + 1);
      found.set(what, one);
      return made ?? stitch;
    });
  });
  for (const [what, { becomes, rows: places }] of found)
    lost.push({ what: `Stitches worked as ${what}`, becomes, rows: [...places] });
  const edit = andThen(setConstruction(chart, how), (c) => become(c, { ...c, rows }));
  return { edit, lost };
}

import { become, type Edit } from '../chart/edit.js';
import type { Chart } from '../chart/schema.js';
import type { Hand } from '../construction/index.js';
import { sideOf } from '../construction/index.js';
import { isCrossing, type Stitch } from '../stitches/book.js';
import { faceOf } from '../stitches/face.js';
import type { TwistMethod } from '../stitches/twist.js';
import { twistBySide } from './moves.js';

/** Whether it is a two-stitch twist of knit stitches, twisted or not. */
const isTwist = (s: Stitch) =>
  isCrossing(s) &&
  !s.centre.length &&
  s.front.length === 1 &&
  s.back.length === 1 &&
  faceOf(s.front[0]!) === 'knit' &&
  faceOf(s.back[0]!) === 'knit';

/** The chart with its two-stitch twists as a method makes them: stitches worked through the back loop shown twisted. */
export function showTwists(chart: Chart, method: TwistMethod, hand: Hand): Edit {
  const rows = chart.rows.map((row, r) => {
    if (!row.some(isTwist)) return row;
    const shown = row.map((s) =>
      isCrossing(s) && isTwist(s) ? twistBySide(method, s.lean, sideOf(chart, r), hand) : s,
    );
    return shown.every((s, i) => s === row[i]) ? row : shown;
  });
  return become(chart, { ...chart, rows });
}

import { interlacesOf } from '../ropes/roped.js';
import { crossingSize } from '../stitches/crossing.js';
import { addColumn } from './crossing-at-edge.js';
import { ropesCheck, type Found } from './finding.js';

/** With fewer than two purls beside it, a rope does not stand out from its neighbour (custom). */
const TO_STAND_OUT = 2;
/** Single stitches that twist stand close by custom: what is meant are ropes. */
const LEAST_ROPE = 2;
/** More crossings than a row holds: a meeting's row and place as one number. */
const MOST_IN_ROW = 1024;

/**
 * Ropes that never meet stand at least two purls apart. Those that do meet come as close as they must; so it is asked
 * only of ropes of different interlaces, where the one crosses.
 */
export const narrowGutter = ropesCheck(
  { tells: { 'narrow-gutter': 'Ropes too close' }, level: 'caution', reads: ['rules'] },
  ({ roped, rules }) => {
    if (rules.purlsBeside < TO_STAND_OUT) return [];
    const { interlaceOf, crossingOf, meetings } = interlacesOf(roped);
    if (!meetings.some((m) => m.right?.met || m.left?.met)) return [];
    const together = new Map(
      meetings.map((m, i) => [m.row * MOST_IN_ROW + m.index, interlaceOf[crossingOf[i]!]]),
    );
    const found = new Map<number, Found>();
    meetings.forEach((meeting, i) => {
      const { crossing, column } = meeting;
      if (crossing.front.length < LEAST_ROPE) return;
      for (const side of ['right', 'left'] as const) {
        const met = meeting[side]?.met;
        if (!met || together.get(met.row * MOST_IN_ROW + met.index) === interlaceOf[crossingOf[i]!]) continue;
        const row = roped.rowOf(meeting.row);
        const gap = roped.columnOf(row, side === 'right' ? column - 1 : column + crossingSize(crossing));
        if (found.has(gap)) continue;
        found.set(gap, {
          id: 'narrow-gutter',
          level: 'caution',
          row: row + 1,
          columns: [gap + 1, gap + 1],
          message: `Column ${gap + 1}: a single purl parts two ropes; with fewer than ${TO_STAND_OUT} they do not stand out from each other.`,
          mend: { label: `Add a purl beside column ${gap + 1}`, edit: (c) => addColumn(c, gap, 'p') },
        });
      }
    });
    return [...found.values()];
  },
);

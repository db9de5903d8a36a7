import { rowFacts, rowUse } from '../chart/rows.js';
import { isCrossing, kindOf } from '../stitches/book.js';
import { NO_STITCH } from '../stitches/kinds.js';
import type { Check, Finding } from './finding.js';

/** A lifted increase needs the neighbour whose leg it lifts. */
export const toWorkInto: Check = ({ chart, book }) =>
  chart.rows.flatMap((row, r) => {
    const lifts = [...rowUse(row).keys()].some((s) => !isCrossing(s) && kindOf(s, book).leansOn);
    if (!lifts) return [];
    return row.flatMap((stitch, i): Finding[] => {
      if (isCrossing(stitch)) return [];
      const { leansOn, name } = kindOf(stitch, book);
      if (!leansOn) return [];
      const side = leansOn === 'right' ? row.slice(0, i).reverse() : row.slice(i + 1);
      const neighbour = side.find((s) => s !== NO_STITCH);
      const hasLoop = neighbour !== undefined && (isCrossing(neighbour) || kindOf(neighbour, book).takes > 0);
      if (hasLoop) return [];
      const column = rowFacts(row, book).starts[i]! + 1;
      return [
        {
          id: 'nothing-to-work-into',
          level: 'error',
          row: r + 1,
          columns: [column, column],
          message: `Row ${r + 1}: the ${name} in column ${column} has no stitch on its ${leansOn} to lift.`,
        },
      ];
    });
  });

import { rowFacts, sectionsOf, takesOfAll } from '../chart/rows.js';
import { makesOf } from '../stitches/book.js';
import { counted, type Check, type Finding } from './finding.js';

/**
 * The count law: each row takes as many loops as the row below leaves. It must hold for the whole row and for
 * the repeat by itself, or the row could not be worked with one repeat more.
 */
export const countLaw: Check = ({ chart, book, works }) => {
  const found: Finding[] = [];
  // A row that does not fill its columns is told once, by its own check, and not again as counts that miss.
  const fits = chart.rows.map((row) => rowFacts(row, book).span === chart.width);
  for (let r = 1; r < chart.rows.length; r++) {
    if (!fits[r] || !fits[r - 1]) continue;
    const { lacks, takes } = works[r]!;
    const live = works[r - 1]!.makes;
    if (lacks !== 0) {
      found.push({
        id: 'count-law',
        level: 'error',
        row: r + 1,
        message:
          lacks > 0
            ? `Row ${r + 1} works ${counted(takes, 'stitch')}, but row ${r} leaves only ${live}: it wants ${lacks} more.`
            : `Row ${r + 1} works ${takes} of the ${counted(live, 'stitch')} row ${r} leaves: ${-lacks} would stay on the needle.`,
      });
      continue;
    }
    if (!chart.across) continue;
    const here = sectionsOf(chart.rows[r]!, chart);
    const below = sectionsOf(chart.rows[r - 1]!, chart);
    if (!here || !below) continue;
    const taken = takesOfAll(here.repeat, book);
    const made = below.repeat.reduce((sum, s) => sum + makesOf(s, book), 0);
    if (taken !== made)
      found.push({
        id: 'repeat-count',
        level: 'error',
        row: r + 1,
        columns: [chart.across.before + 1, chart.width - chart.across.after],
        message: `Row ${r + 1}: the repeat takes ${counted(taken, 'stitch')}, but the repeat of row ${r} leaves ${made}; with more repeats the counts drift apart.`,
      });
  }
  return found;
};

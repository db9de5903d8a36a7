import { repeatColumns, repeatCounts, repeatsAcross } from '../chart/frame.js';
import { rowFacts } from '../chart/rows.js';
import { rowCheck } from './finding.js';
import { counted } from '../values.js';

/**
 * The count law: each row takes as many loops as the row below leaves. It must hold for the whole row and for
 * the repeat by itself, or the row could not be worked with one repeat more.
 */
export const countLaw = rowCheck(
  {
    tells: { 'count-law': 'Stitches that do not come out', 'repeat-count': 'Repeat wins or loses stitches' },
    level: 'error',
  },
  ({ chart, book, works }, r) => {
    // A row that does not fill its columns is told once, by its own check, and not again as counts that miss.
    const fits = (row: number) => rowFacts(chart.rows[row]!, book).span === chart.width;
    if (r === 0 || !fits(r) || !fits(r - 1)) return [];
    const { lacks, takes } = works[r]!;
    const live = works[r - 1]!.makes;
    if (lacks !== 0)
      return [
        {
          id: 'count-law',
          level: 'error',
          row: r + 1,
          message:
            lacks > 0
              ? `Row ${r + 1} works ${counted(takes, 'stitch')}, but row ${r} leaves only ${live}: it wants ${lacks} more.`
              : `Row ${r + 1} works ${takes} of the ${counted(live, 'stitch')} row ${r} leaves: ${-lacks} would stay on the needle.`,
        },
      ];
    if (!repeatsAcross(chart)) return [];
    const [here, below] = [repeatCounts(chart, r), repeatCounts(chart, r - 1)];
    if (!here || !below || here.takes === below.makes) return [];
    const { start, end } = repeatColumns(chart);
    return [
      {
        id: 'repeat-count',
        level: 'error',
        row: r + 1,
        columns: [start + 1, end],
        message: `Row ${r + 1}: the repeat takes ${counted(here.takes, 'stitch')}, but the repeat of row ${r} leaves ${below.makes}; with more repeats the counts drift apart.`,
      },
    ];
  },
);

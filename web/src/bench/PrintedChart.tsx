import { castOnOf, PRINT_INKS, styleOf, wayOf, type Chart, type Design } from '@cordelina/core';
import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';
import { selectionOf } from '../desk/state/bench.js';
import { useAppSelector } from '../desk/state/index.js';
import { ChartBlocks } from '../ui/ChartBlocks.js';
import { pageRule } from '../ui/page-rule.js';

/** What of a chart is printed or saved: what is selected, or all of it. */
export const useChosenPart = () => {
  const { cursor, anchor } = useAppSelector((s) => s.bench);
  return anchor && (anchor.row !== cursor.row || anchor.column !== cursor.column)
    ? selectionOf({ cursor, anchor })
    : null;
};

/** The chart on the bench as it goes on paper, by itself: nothing of the room is printed. It is drawn when a print begins. */
export function PrintedChart({ design, chart }: { design: Design; chart: Chart }) {
  const [prints, setPrints] = useState(false);
  const chosen = useChosenPart();
  useEffect(() => {
    const begin = () => flushSync(() => setPrints(true));
    const end = () => setPrints(false);
    window.addEventListener('beforeprint', begin);
    window.addEventListener('afterprint', end);
    return () => {
      window.removeEventListener('beforeprint', begin);
      window.removeEventListener('afterprint', end);
    };
  }, []);
  if (!prints) return null;
  const { settings, sheet, title } = design;
  const of = chart.name && chart.name !== title ? `${title}: ${chart.name}` : title;
  return (
    <article className="hidden bg-white font-print text-[15px] print:block" data-testid="printed-chart">
      <style>{pageRule(sheet.page, title)}</style>
      <h1 className="text-[1.6em] font-semibold">{of}</h1>
      <p className="mb-3 text-[0.93em]">
        {chosen
          ? `Rows ${chosen.rows.from + 1} to ${chosen.rows.to + 1}, columns ${chosen.columns.from + 1} to ${chosen.columns.to + 1} of ${chart.width}.`
          : `${chart.width} columns, ${chart.rows.length} rows, ${wayOf(chart).worked}; cast on ${castOnOf(chart)}.`}
      </p>
      <ChartBlocks
        chart={chart}
        manner={{ ...styleOf(settings), grid: true, inks: PRINT_INKS }}
        label={`Chart of ${of}`}
        page={sheet.page}
        cell={sheet.large ? 23 : 18}
        within={chosen ?? undefined}
      />
    </article>
  );
}

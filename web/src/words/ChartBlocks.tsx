import { chartParts, type Chart, type RowSpan, type SheetSettings } from '@cordelina/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { ChartSvg } from '../ui/ChartSvg.js';
import type { Manner } from '../ui/paint.js';

/** Charts of no more cells are drawn at once; larger ones block by block as they come into view. */
const DRAWN_AT_ONCE = 6000;

/** The greatest height of a block on a page: what is left beside its margins and a heading. */
const TALLEST: Record<SheetSettings['page'], string> = { A4: '250mm', Letter: '232mm' };

/** The chart on the sheet. */
export function ChartBlocks({
  chart,
  manner,
  label,
  page,
  cell,
}: {
  chart: Chart;
  manner: Manner;
  label: string;
  page: SheetSettings['page'];
  cell: number;
}) {
  const height = chart.rows.length;
  const blocks = useMemo(() => chartParts(height), [height]);
  return (
    <div className="grid gap-4">
      {blocks.map((rows) => (
        <Block
          key={rows.from}
          chart={chart}
          manner={manner}
          rows={rows}
          label={`${label}: ${chart.width} columns, rows ${rows.from + 1} to ${rows.to + 1}`}
          cell={cell}
          tallest={TALLEST[page]}
          atOnce={chart.width * height <= DRAWN_AT_ONCE}
        />
      ))}
    </div>
  );
}

function Block({
  atOnce,
  ...drawing
}: {
  atOnce: boolean;
  chart: Chart;
  manner: Manner;
  rows: RowSpan;
  label: string;
  cell: number;
  tallest: string;
}) {
  const ref = useRef<HTMLDivElement>(null);
  const [near, setNear] = useState(atOnce);
  useEffect(() => {
    if (near || !ref.current) return;
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), {
      rootMargin: '400px',
    });
    observer.observe(ref.current);
    // A print wants all of it, before the print begins.
    const drawNow = () => flushSync(() => setNear(true));
    window.addEventListener('beforeprint', drawNow);
    return () => {
      observer.disconnect();
      window.removeEventListener('beforeprint', drawNow);
    };
  }, [near]);
  const { from, to } = drawing.rows;
  return (
    <div
      ref={ref}
      className="break-inside-avoid"
      style={near ? undefined : { minHeight: (to - from + 2) * drawing.cell }}
    >
      {near && <ChartSvg {...drawing} />}
    </div>
  );
}

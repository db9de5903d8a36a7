import type { Chart } from '@cordelina/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { ChartSvg } from '../ui/ChartSvg.js';
import type { Manner } from '../ui/paint.js';

const MOST_ROWS = 50;
/** Charts of no more cells are drawn at once; larger ones block by block as they come into view. */
const DRAWN_AT_ONCE = 6000;
const CELL = 18;

/** A tall chart in blocks that each fit a printed page, the uppermost first. */
function rowBlocks(height: number): { from: number; to: number }[] {
  const size = Math.ceil(height / Math.ceil(height / MOST_ROWS));
  const blocks = Math.ceil(height / size);
  return Array.from({ length: blocks }, (_, i) => ({
    from: i * size,
    to: Math.min(height, (i + 1) * size) - 1,
  })).reverse();
}

/** The chart on the sheet. */
export function ChartBlocks({ chart, manner, title }: { chart: Chart; manner: Manner; title: string }) {
  const height = chart.rows.length;
  const blocks = useMemo(() => rowBlocks(height), [height]);
  return (
    <div className="grid gap-4">
      {blocks.map((rows) => (
        <Block
          key={rows.from}
          chart={chart}
          manner={manner}
          rows={rows}
          label={`Chart of ${title}: ${chart.width} columns, rows ${rows.from + 1} to ${rows.to + 1}`}
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
  rows: { from: number; to: number };
  label: string;
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
      style={near ? undefined : { minHeight: (to - from + 2) * CELL }}
    >
      {near && <ChartSvg {...drawing} />}
    </div>
  );
}

import {
  columnsIn,
  PAGE_MARGIN,
  PAGES,
  partName,
  partsOf,
  planOf,
  type Chart,
  type Part,
  type SheetSettings,
  type Within,
} from '@cordelina/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { ChartSvg, PictureSvg } from './ChartSvg.js';
import type { Manner } from './paint.js';

/** Charts of no more cells are drawn at once; larger ones block by block as they come into view. */
const DRAWN_AT_ONCE = 6000;

/** The greatest height of a block on a page: what is left beside its margins and a heading. */
const TALLEST: Record<SheetSettings['page'], string> = { A4: '250mm', Letter: '232mm' };

/** The chart on paper; one that is larger than a page in parts, with a plan of them. */
export function ChartBlocks({
  chart,
  manner,
  label,
  page,
  cell,
  share = 1,
  within,
}: {
  chart: Chart;
  manner: Manner;
  label: string;
  page: SheetSettings['page'];
  cell: number;
  /** The share of the page's width it has. */
  share?: number;
  /** What is shown of it; all of it unless told otherwise. */
  within?: Within;
}) {
  const height = chart.rows.length;
  const parts = useMemo(
    () => partsOf(chart, columnsIn(share * (PAGES[page].width - 2 * PAGE_MARGIN)), within),
    [chart, page, share, within],
  );
  return (
    <div className="grid gap-4">
      {parts.length > 1 && <Plan chart={chart} parts={parts} label={label} />}
      {parts.map((part, i) => {
        const name = parts.length > 1 ? partName(part, i, parts.length) : null;
        return (
          <div key={name} className="break-inside-avoid">
            {name && <p className="mb-1 text-[0.93em] font-semibold">{name}</p>}
            <Block
              chart={chart}
              manner={manner}
              part={part}
              label={
                name
                  ? `${label}, ${name.toLowerCase()}`
                  : `${label}: ${chart.width} columns, rows 1 to ${height}`
              }
              cell={cell}
              tallest={TALLEST[page]}
              atOnce={chart.width * height <= DRAWN_AT_ONCE}
            />
          </div>
        );
      })}
    </div>
  );
}

/** Where each part of a chart lies on it. */
function Plan({ chart, parts, label }: { chart: Chart; parts: readonly Part[]; label: string }) {
  const picture = planOf(chart, parts);
  return (
    <figure className="break-inside-avoid">
      <PictureSvg
        picture={picture}
        label={`Plan of the ${parts.length} parts of ${label.toLowerCase()}`}
        style={{ width: `${picture.box.width * 0.8}em`, maxWidth: '100%' }}
        className="drawing font-sans"
      />
      <figcaption className="mt-1 text-[0.93em] italic">
        The chart goes on from part to part; columns on shaded paper are shown by the part before as well.
      </figcaption>
    </figure>
  );
}

function Block({
  atOnce,
  ...drawing
}: {
  atOnce: boolean;
  chart: Chart;
  manner: Manner;
  part: Part;
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
  const { from, to } = drawing.part.rows;
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

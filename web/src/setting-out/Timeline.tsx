import { lengthText, panelRowAt, sideOf, TOKENS, type Laid, type Settings } from '@cordelina/core';
import { scaleLinear } from 'd3-scale';
import { useState } from 'react';
import { NumberField } from '../ui/NumberField.js';
import type { Survey } from '../workers/piece.worker.js';

const LEFT = 132;
const LANE = 22;
const TOP = 26;
const WIDTH = 860;

/** How the panels go up: a lane for each, a stroke where it begins anew, and lines where all of them do. */
export function Timeline({ laid, survey, units }: { laid: Laid; survey: Survey; units: Settings['units'] }) {
  const { made } = survey;
  const [at, setAt] = useState(1);
  if (!made)
    return (
      <p className="text-[14px] text-slate">
        Once the piece can be put together, its panels are shown going up here.
      </p>
    );
  const lanes = laid.parts.flatMap((of) => (of.going ? [{ of, going: of.going }] : []));
  if (!lanes.length)
    return <p className="text-[14px] text-slate">No panel yet: put one in, and see its rows going up.</p>;
  const { from, every } = made.meet;
  const last = made.body;
  const x = scaleLinear()
    .domain([1, last + 1])
    .range([LEFT, WIDTH - 8]);
  const high = TOP + lanes.length * LANE + 40;
  const meets: number[] = [];
  if (every !== null)
    for (let row = from; row <= last + 1 && meets.length < 400; row += every) meets.push(row);
  const rowHigh = made.length === null ? null : made.length / (made.below + made.body + made.above);
  const told =
    lanes.length < 2
      ? null
      : every === null
        ? 'They meet again past any piece.'
        : `They meet again every ${every} rows${rowHigh ? `, ${lengthText(rowHigh * every, units)}` : ''}: ${
            meets.length > 1 ? `at row ${meets[1]}` : `past row ${last}, the last`
          }.`;
  const row = Math.min(at, last);
  const here = lanes
    .map(({ of, going }) => {
      const r = panelRowAt(going, row, last);
      return r === null ? `${of.name} not begun` : `${of.name} row ${r}`;
    })
    .join(', ');
  return (
    <figure>
      <figcaption className="text-[14px]">
        {last} rows of the panels
        {rowHigh ? `, ${lengthText(rowHigh * last, units)}` : ''}
        {made.below + made.above > 0 ? `, and ${made.below + made.above} of borders` : ''}. {told}
      </figcaption>
      {/* On a phone it keeps a size that is read, and scrolls by itself. */}
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Going up, row by row">
        <svg
          viewBox={`0 0 ${WIDTH} ${high}`}
          className="charted mt-1 w-full max-w-[1000px] min-w-[680px] font-sans"
          role="img"
          aria-label={`Panels going up. ${told ?? ''}`}
        >
          {meets.map((row, i) => (
            <g key={row}>
              <line
                x1={x(row)}
                x2={x(row)}
                y1={TOP - 6}
                y2={high - 34}
                stroke={TOKENS.peat}
                strokeWidth={1.5}
                strokeDasharray="4 2"
              />
              {(i === 0 || x(row) - x(meets[i - 1]!) > 30) && (
                <text
                  x={x(row)}
                  y={TOP - 10}
                  textAnchor="middle"
                  className="fill-peat font-semibold text-[11.5px]"
                >
                  {row}
                </text>
              )}
            </g>
          ))}
          {lanes.map(({ of, going }, lane) => {
            const y = TOP + lane * LANE;
            const { setup, repeat, closing } = going.rows;
            const begins: number[] = [];
            const first = going.start + Math.max(0, setup - (going.begins - 1));
            for (
              let row = first - Math.max(0, going.begins - 1 - setup);
              row <= last - closing && begins.length < 900;
              row += repeat
            )
              if (row >= going.start) begins.push(row);
            const isThin = x(repeat + 1) - x(1) < 4;
            return (
              <g key={of.part.id}>
                <text x={LEFT - 8} y={y + 14} textAnchor="end" className="fill-peat text-[12.5px]">
                  {of.name.length > 20 ? `${of.name.slice(0, 19)}…` : of.name}
                </text>
                <rect
                  x={x(going.start)}
                  y={y + 3}
                  width={Math.max(0, x(last + 1) - x(going.start))}
                  height={LANE - 7}
                  fill={TOKENS.wash}
                  stroke={TOKENS.slate}
                  strokeWidth={0.75}
                />
                {setup > 0 && going.begins <= setup && (
                  <rect
                    x={x(going.start)}
                    y={y + 3}
                    width={x(first) - x(going.start)}
                    height={LANE - 7}
                    fill={TOKENS.rule}
                  />
                )}
                {closing > 0 && (
                  <rect
                    x={x(last + 1 - closing)}
                    y={y + 3}
                    width={x(last + 1) - x(last + 1 - closing)}
                    height={LANE - 7}
                    fill={TOKENS.rule}
                  />
                )}
                {!isThin &&
                  begins.map((row) => (
                    <line
                      key={row}
                      x1={x(row)}
                      x2={x(row)}
                      y1={y + 3}
                      y2={y + LANE - 4}
                      stroke={TOKENS.peat}
                    />
                  ))}
                <text
                  x={WIDTH - 12}
                  y={y + 14}
                  textAnchor="end"
                  className="fill-peat text-[11.5px]"
                  paintOrder="stroke"
                  stroke={TOKENS.wash}
                  strokeWidth={3}
                >
                  {repeat} rows
                </text>
              </g>
            );
          })}
          <line
            x1={x(row + 0.5)}
            x2={x(row + 0.5)}
            y1={TOP - 2}
            y2={high - 34}
            stroke={TOKENS.woad}
            strokeWidth={2}
          />
          <line x1={LEFT} x2={WIDTH - 8} y1={high - 32} y2={high - 32} stroke={TOKENS.slate} />
          {x.ticks(10).map((row) => (
            <g key={row}>
              <line x1={x(row)} x2={x(row)} y1={high - 32} y2={high - 27} stroke={TOKENS.slate} />
              <text x={x(row)} y={high - 15} textAnchor="middle" className="fill-slate text-[11.5px]">
                {row}
              </text>
              {rowHigh && (
                <text x={x(row)} y={high - 2} textAnchor="middle" className="fill-slate text-[11px]">
                  {lengthText(rowHigh * (row - 1 + made.below), units)}
                </text>
              )}
            </g>
          ))}
          <text x={LEFT - 8} y={high - 15} textAnchor="end" className="fill-slate text-[11.5px]">
            row
          </text>
        </svg>
      </div>
      <div className="mt-1 flex max-w-[1000px] items-center gap-3 text-[14px]">
        <NumberField label="Row" value={row} most={last} onChange={setAt} />
        <input
          type="range"
          aria-label="Row of the piece"
          aria-valuetext={`Row ${row}: ${here}`}
          min={1}
          max={last}
          value={row}
          onChange={(e) => setAt(Number(e.target.value))}
          className="flex-1 accent-[var(--woad)]"
        />
        <output className="min-w-0 basis-1/2" data-testid="row-here">
          {sideOf(
            { construction: made.chart.construction, firstRow: sideOf(made.chart, made.below) },
            row - 1,
          )}
          : {here}
        </output>
      </div>
    </figure>
  );
}

import { countOver, gaugeIn, OVER, TOKENS } from '@cordelina/core';
import { extent } from 'd3-array';
import { scaleBand, scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { OVER_TEXT, percent, type SwatchFacts, type Unit } from './swatch-facts.js';

const SIZE = { width: 400, height: 208 };
const EDGE = { left: 40, right: 14, top: 10, bottom: 34 };

interface PlotProps {
  facts: readonly SwatchFacts[];
  chosen: string | null;
  onChoose: (id: string) => void;
}

/** Stitches by needle: hollow as it came off the needle, full as it was washed, a line from one to the other. */
export function GaugePlot({ facts, unit, chosen, onChoose }: PlotProps & { unit: Unit }) {
  const points = facts.flatMap(({ swatch }) => {
    const read = (state: 'before' | 'after') => {
      const measured = gaugeIn(swatch, state, 'stitches');
      return measured && countOver(measured.gauge, OVER[unit]);
    };
    const [before, after] = [read('before'), read('after')];
    return swatch.needle === null || (before === null && after === null)
      ? []
      : [{ swatch, needle: swatch.needle, before, after }];
  });
  if (!points.length) return <Empty>Measure a swatch, and name its needle.</Empty>;
  const [thin, thick] = extent(points, (p) => p.needle) as [number, number];
  const [few, many] = extent(points.flatMap((p) => [p.before, p.after].filter((n) => n !== null))) as [
    number,
    number,
  ];
  const x = scaleLinear()
    .domain([thin - 0.5, thick + 0.5])
    .range([EDGE.left, SIZE.width - EDGE.right]);
  const y = scaleLinear()
    .domain([few - 1, many + 1])
    .nice(4)
    .range([SIZE.height - EDGE.bottom, EDGE.top]);
  const path = line();
  return (
    <Plot label={`Stitches in ${OVER_TEXT[unit]} by needle, before and after washing`}>
      {y.ticks(4).map((n) => (
        <g key={n}>
          <line x1={EDGE.left} x2={SIZE.width - EDGE.right} y1={y(n)} y2={y(n)} stroke={TOKENS.rule} />
          <text x={EDGE.left - 6} y={y(n) + 4} textAnchor="end" className="fill-slate text-[12px]">
            {n}
          </text>
        </g>
      ))}
      {[...new Set(points.map((p) => p.needle))].map((mm) => (
        <text
          key={mm}
          x={x(mm)}
          y={SIZE.height - EDGE.bottom + 17}
          textAnchor="middle"
          className="fill-slate text-[12px]"
        >
          {mm} mm
        </text>
      ))}
      {points.map(({ swatch, needle, before, after }) => {
        const isChosen = swatch.id === chosen;
        return (
          <g key={swatch.id} onClick={() => onChoose(swatch.id)} className="cursor-pointer">
            <title>{swatch.name}</title>
            {before !== null && after !== null && (
              <path
                d={
                  path([
                    [x(needle), y(before)],
                    [x(needle), y(after)],
                  ]) ?? ''
                }
                stroke={TOKENS.slate}
                strokeWidth={1.5}
              />
            )}
            {before !== null && (
              <circle
                cx={x(needle)}
                cy={y(before)}
                r={4}
                fill={TOKENS.chalk}
                stroke={TOKENS.peat}
                strokeWidth={1.5}
              />
            )}
            {after !== null &&
              (swatch.cloth === 'plain' ? (
                <rect x={x(needle) - 4.5} y={y(after) - 4.5} width={9} height={9} fill={TOKENS.peat} />
              ) : (
                <circle cx={x(needle)} cy={y(after)} r={5} fill={TOKENS.peat} />
              ))}
            {isChosen && (
              <>
                <circle
                  cx={x(needle)}
                  cy={y(after ?? before!)}
                  r={9}
                  fill="none"
                  stroke={TOKENS.woad}
                  strokeWidth={2}
                />
                <text
                  x={x(needle) + (x(needle) > SIZE.width * 0.6 ? -14 : 14)}
                  y={y(after ?? before!) + 4}
                  textAnchor={x(needle) > SIZE.width * 0.6 ? 'end' : 'start'}
                  className="fill-peat text-[12.5px]"
                >
                  {swatch.name}
                </text>
              </>
            )}
          </g>
        );
      })}
      <text x={EDGE.left} y={SIZE.height - 3} className="fill-slate text-[12px]">
        ● cabled ■ plain, washed ○ off the needle
      </text>
    </Plot>
  );
}

const BAR = 24;

/** How much narrower each cabled swatch is than plain cloth of its yarn and needle. */
export function DrawInPlot({ facts, chosen, onChoose }: PlotProps) {
  const drawn = facts
    .filter((f): f is SwatchFacts & { drawIn: number } => f.drawIn !== undefined)
    .sort((a, b) => b.drawIn - a.drawIn)
    .slice(0, 7);
  if (!drawn.length)
    return (
      <Empty>
        Measure a plain swatch beside a cabled one, of the same yarn and needle: what the ropes draw in is
        read off the two.
      </Empty>
    );
  const x = scaleLinear()
    .domain([Math.min(0, ...drawn.map((f) => f.drawIn)), Math.max(0.3, ...drawn.map((f) => f.drawIn))])
    .range([132, SIZE.width - 50]);
  const y = scaleBand()
    .domain(drawn.map((f) => f.swatch.id))
    .range([EDGE.top, EDGE.top + drawn.length * BAR])
    .padding(0.3);
  return (
    <Plot label="Draw-in of cabled against plain cloth">
      {drawn.map(({ swatch, drawIn }) => (
        <g key={swatch.id} onClick={() => onChoose(swatch.id)} className="cursor-pointer">
          <title>{swatch.name}</title>
          <text
            x={124}
            y={y(swatch.id)! + y.bandwidth() - 3}
            textAnchor="end"
            className="fill-peat text-[13px]"
          >
            {swatch.name.length > 19 ? `${swatch.name.slice(0, 18)}…` : swatch.name}
          </text>
          <rect
            x={Math.min(x(0), x(drawIn))}
            y={y(swatch.id)}
            width={Math.abs(x(drawIn) - x(0))}
            height={y.bandwidth()}
            fill={swatch.id === chosen ? TOKENS.woad : TOKENS.slate}
          />
          <text
            x={Math.max(x(0), x(drawIn)) + 6}
            y={y(swatch.id)! + y.bandwidth() - 3}
            className="fill-peat text-[13px]"
          >
            {percent(drawIn)}
          </text>
        </g>
      ))}
      <line x1={x(0)} x2={x(0)} y1={EDGE.top} y2={EDGE.top + drawn.length * BAR} stroke={TOKENS.peat} />
    </Plot>
  );
}

function Plot({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
      className="charted w-full max-w-[460px] font-sans"
    >
      {children}
    </svg>
  );
}

const Empty = ({ children }: { children: React.ReactNode }) => (
  <p className="max-w-[320px] py-6 text-[14px] text-slate">{children}</p>
);

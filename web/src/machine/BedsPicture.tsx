import { needleAt, needlePlace, TOKENS, type Done, type Operator } from '@cordelina/core';
import { memo } from 'react';

/** Pixels from one needle to the next. */
const APART = 18;
const HIGH = 188;
/** The heads of the back needles point down, those of the front ones up, and the cloth hangs between them. */
const [BACK, FRONT] = [66, 120];
const LONG = 26;
const BESIDE = 2;

/** The two beds as they stand: needles in work and out of it, the stitches they hold, and what is done next. */
export const BedsPicture = memo(function BedsPicture({
  operator,
  next,
  last,
}: {
  operator: Operator;
  next: Done | null;
  /** What was done last: it changes with each step, as the operator does not. */
  last: Done | null;
}) {
  const { right, width, beds } = operator;
  const places = Array.from({ length: width + 2 * BESIDE }, (_, i) => right - BESIDE + i);
  const xOf = (place: number) => (right + width + BESIDE - 1 - place + 0.5) * APART;
  const [back, front] = [beds.standing('back'), beds.standing('front')];
  const action = next?.what === 'action' ? next.action : null;
  const moved = last?.what === 'action' ? last.action : null;
  const placeOf = (needle: string) => needlePlace(needle) ?? 0;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="The needle beds">
      <svg
        role="img"
        aria-label={`Back bed: stitches on ${beds.back.join(', ') || 'no needle'}. Front bed: ${beds.front.length} needles with ground.`}
        width={places.length * APART}
        height={HIGH}
        viewBox={`0 0 ${places.length * APART} ${HIGH}`}
        className="charted mx-auto block"
      >
        {action &&
          action.from.map((needle, i) => {
            const [x1, x2] = [xOf(placeOf(needle)), xOf(placeOf(action.to[i]!))];
            const isOver = action.kind === 'move' || (action.over ?? []).includes(needle);
            return (
              <path
                key={needle}
                d={`M ${x1} ${BACK - LONG - 6} C ${x1} ${isOver ? 2 : 14} ${x2} ${isOver ? 2 : 14} ${x2} ${BACK - LONG - 6}`}
                fill="none"
                stroke={isOver ? TOKENS.woad : TOKENS.slate}
                strokeWidth={isOver ? 2.5 : 1.5}
                strokeDasharray={isOver ? undefined : '3 3'}
              />
            );
          })}
        {places.map((place) => (
          <g key={place}>
            <Needle
              x={xOf(place)}
              y={BACK}
              isBack
              state={back.get(place)}
              isMoved={moved?.to.some((n) => placeOf(n) === place) ?? false}
            />
            <Needle x={xOf(place)} y={FRONT} isBack={false} state={front.get(place)} isMoved={false} />
          </g>
        ))}
        <text x={4} y={BACK + 14} fontSize={11} fill={TOKENS.slate}>
          back
        </text>
        <text x={4} y={FRONT - 6} fontSize={11} fill={TOKENS.slate}>
          front
        </text>
        {places.map((place) =>
          isNumbered(place) ? (
            <text
              key={place}
              x={xOf(place)}
              y={HIGH - 16}
              fontSize={11}
              textAnchor="middle"
              fill={TOKENS.slate}
            >
              {needleAt(place)}
            </text>
          ) : null,
        )}
        <line
          x1={xOf(-0.5)}
          x2={xOf(-0.5)}
          y1={8}
          y2={HIGH - 30}
          stroke={TOKENS.ruleHeavy}
          strokeDasharray="2 4"
        />
      </svg>
    </div>
  );
});

/** The centre and every fifth needle have their numbers. */
const isNumbered = (place: number): boolean => {
  const n = place < 0 ? -place : place + 1;
  return n === 1 || n % 5 === 0;
};

function Needle({
  x,
  y,
  isBack,
  state,
  isMoved,
}: {
  x: number;
  y: number;
  /** Those of the back bed stand above their heads. */
  isBack: boolean;
  /** Undefined out of work; else whether it holds a stitch. */
  state: boolean | undefined;
  isMoved: boolean;
}) {
  const out = state === undefined;
  const away = isBack ? -1 : 1;
  const head = y + (out ? away * 12 : 0);
  return (
    <g>
      <line
        x1={x}
        x2={x}
        y1={head}
        y2={y + away * LONG}
        stroke={out ? TOKENS.rule : TOKENS.slate}
        strokeWidth={out ? 1.5 : 2.5}
        strokeLinecap="round"
      />
      {state === true && (
        <circle
          cx={x}
          cy={head}
          r={5.5}
          fill={isBack ? TOKENS.peat : TOKENS.chalk}
          stroke={isMoved ? TOKENS.woad : TOKENS.peat}
          strokeWidth={isMoved ? 3 : 1.5}
        />
      )}
      {state === false && (
        <path
          d={`M ${x - 4} ${head - 4} L ${x + 4} ${head + 4} M ${x + 4} ${head - 4} L ${x - 4} ${head + 4}`}
          stroke={TOKENS.madder}
          strokeWidth={2}
        />
      )}
    </g>
  );
}

import { TOKENS, type HandFrame, type ShownLoop } from '@cordelina/core';
import { useFrame } from './useFrames.js';

const [WIDE, HIGH] = [268, 78];
const APART = 26;
const TIPS = WIDE / 2;
const NEEDLE = 22;

/** What the hands do, as a moving picture of the loops on both needles; where nothing is to move, its moments one below the other. */
export function HandsPicture({
  frames,
  label,
  waits = 'left',
}: {
  frames: readonly HandFrame[];
  label: string;
  /** The needle the loops wait on: a left-handed knitter's right one. */
  waits?: 'left' | 'right';
}) {
  const hasHeld = frames.some(({ held }) => held?.length);
  const at = useFrame(frames.length);
  const shown = at === null ? frames : [frames[at]!];
  return (
    <figure aria-label={label} className="grid gap-1.5" data-testid="hands-picture">
      {shown.map((frame, i) => (
        <div key={at ?? i} className="grid gap-0.5">
          <Loops frame={frame} isTurned={waits === 'right'} hasHeld={hasHeld} />
          <figcaption className="min-h-[2.6em] text-[13px] leading-snug text-slate">
            {(at ?? i) + 1}. {frame.said}
          </figcaption>
        </div>
      ))}
    </figure>
  );
}

/** Above the needles what is held behind them, below them what lies nearer. */
const LANE = 52;

function Loops({ frame, isTurned, hasHeld }: { frame: HandFrame; isTurned: boolean; hasHeld: boolean }) {
  const { left: waiting, right: worked, held = [] } = frame;
  const [left, right] = isTurned ? [worked, waiting] : [waiting, worked];
  const high = HIGH + (hasHeld ? 2 * LANE + 10 : 0);
  const cable = held.map(({ loops, hold }) => `Cable needle in ${hold}: ${named(loops)}.`).join(' ');
  return (
    <svg
      role="img"
      aria-label={`Left needle: ${named(left)}. Right needle: ${named(right)}. ${cable}`}
      viewBox={`0 0 ${WIDE} ${high}`}
      width={WIDE}
      height={high}
      className="charted block max-w-full bg-white text-[#231f1a]"
    >
      {(['back', 'front'] as const).map((hold) => (
        <Held key={hold} hold={hold} loops={held.filter((h) => h.hold === hold).flatMap((h) => h.loops)} />
      ))}
      <g transform={`translate(0 ${hasHeld ? LANE : 0})`}>
        <Needle from={4} to={TIPS - 10} />
        <Needle from={TIPS + 10} to={WIDE - 4} />
        {left.map((loop, i) => (
          <Loop key={loop.id} loop={loop} x={TIPS - 24 - i * APART} />
        ))}
        {right.map((loop, i) => (
          <Loop key={loop.id} loop={loop} x={TIPS + 24 + i * APART} />
        ))}
      </g>
    </svg>
  );
}

/** A cable needle with the loops it holds. */
function Held({ hold, loops }: { hold: 'front' | 'back'; loops: readonly ShownLoop[] }) {
  if (!loops.length) return null;
  const half = (loops.length * APART) / 2;
  return (
    <g transform={`translate(0 ${hold === 'back' ? -14 : LANE + HIGH - 8}) scale(1 0.9)`}>
      <Needle from={TIPS - half - 12} to={TIPS + half + 12} />
      {loops.map((loop, i) => (
        <Loop key={loop.id} loop={loop} x={TIPS + half - APART / 2 - i * APART} />
      ))}
      <text x={TIPS + half + 18} y={NEEDLE + 5} fontSize={12} fill={TOKENS.slate}>
        {hold === 'back' ? 'behind' : 'nearer'}
      </text>
    </g>
  );
}

const Needle = ({ from, to }: { from: number; to: number }) => (
  <line
    x1={from}
    x2={to}
    y1={NEEDLE}
    y2={NEEDLE}
    stroke={TOKENS.slate}
    strokeWidth={5}
    strokeLinecap="round"
  />
);

const named = (loops: readonly ShownLoop[]): string =>
  loops.map(({ label, face, yarn }) => label || `${face === 'knit' ? 'k' : 'p'} in ${yarn}`).join(', ') ||
  'none';

/** A loop over its needle: a knit one open to the eye, a purl one with its bump; one of yarn B is drawn double. */
function Loop({ loop: { label, face, yarn, isNew }, x }: { loop: ShownLoop; x: number }) {
  const d = `M ${x - 6} 58 C ${x - 6} 36 ${x - 9} ${NEEDLE - 12} ${x} ${NEEDLE - 12} C ${x + 9} ${NEEDLE - 12} ${x + 6} 36 ${x + 6} 58`;
  const isB = yarn === 'B';
  return (
    <g>
      <path
        d={d}
        fill="none"
        stroke={isNew ? TOKENS.woad : TOKENS.peat}
        strokeWidth={isB ? 6 : 3}
        strokeLinecap="round"
      />
      {isB && <path d={d} fill="none" stroke={TOKENS.chalk} strokeWidth={2} strokeLinecap="round" />}
      {face === 'purl' && <ellipse cx={x} cy={38} rx={9} ry={4.5} fill={isNew ? TOKENS.woad : TOKENS.peat} />}
      <text x={x} y={74} fontSize={12} textAnchor="middle" fill={TOKENS.peat}>
        {label || yarn}
      </text>
    </g>
  );
}

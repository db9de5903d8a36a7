import {
  needleAt,
  TOKENS,
  transferFrames,
  type Action,
  type Pictured,
  type TransferFrame,
} from '@cordelina/core';
import { useFrame } from '../ui/useFrames.js';

const APART = 20;
const HIGH = 64;

/** How an action is done by hand, as a moving picture of its needles; where nothing is to move, its moments one below the other. */
export function TransferNote({ action, pictured }: { action: Action; pictured: Pictured }) {
  const frames = transferFrames(action, pictured);
  const at = useFrame(frames.length);
  const shown = at === null ? frames : [frames[at]!];
  return (
    <details className="no-print border-t border-rule px-3 py-2 text-[14px]">
      <summary className="cursor-pointer text-slate hover:text-peat">How a transfer goes</summary>
      <figure className="mt-2 grid gap-1.5" aria-label="A transfer" data-testid="transfer-picture">
        {shown.map((frame, i) => (
          <div key={at ?? i}>
            <Needles frame={frame} from={pictured.from} />
            <figcaption className="min-h-[2.6em] text-[13px] leading-snug text-slate">
              {(at ?? i) + 1}. {frame.said}
            </figcaption>
          </div>
        ))}
      </figure>
    </details>
  );
}

function Needles({ frame: { stands, lifted }, from }: { frame: TransferFrame; from: number }) {
  const x = (i: number) => (i + 0.5) * APART;
  return (
    <svg
      role="img"
      aria-label={`${stands.filter((s) => s === 'stitch').length} needles hold a stitch, ${lifted.length} stitches on the tool`}
      width={stands.length * APART}
      height={HIGH + 14}
      className="charted block max-w-full bg-chalk"
    >
      {stands.map((s, i) => (
        <g key={i}>
          <line
            x1={x(i)}
            x2={x(i)}
            y1={HIGH - 4}
            y2={s === 'out' ? HIGH - 12 : HIGH - 26}
            stroke={s === 'out' ? TOKENS.ruleHeavy : TOKENS.slate}
            strokeWidth={s === 'out' ? 2 : 3}
            strokeLinecap="round"
          />
          {s === 'stitch' && <circle cx={x(i)} cy={HIGH - 26} r={6} fill={TOKENS.peat} />}
          <text x={x(i)} y={HIGH + 9} fontSize={10} textAnchor="middle" fill={TOKENS.slate}>
            {needleAt(from - i)}
          </text>
        </g>
      ))}
      {lifted.map((i, n) => (
        <g key={n}>
          <line
            x1={x(i)}
            x2={x(i)}
            y1={2}
            y2={18}
            stroke={TOKENS.weld}
            strokeWidth={3}
            strokeLinecap="round"
          />
          <circle cx={x(i)} cy={18} r={6} fill={TOKENS.peat} />
        </g>
      ))}
    </svg>
  );
}

import { needleAt, TOKENS, type Pictured, type Stands } from '@cordelina/core';

const APART = 9.5;
const ROW = 14;

/** The needles about an action, before it above and after it below: a disk is a stitch, a stroke a needle out of work. */
export function NeedlesPair({ pictured: { from, before, after } }: { pictured: Pictured }) {
  const told = (stands: readonly Stands[]) =>
    stands.flatMap((s, i) => (s === 'stitch' ? [needleAt(from - i)] : [])).join(' ') || 'none';
  return (
    <svg
      role="img"
      aria-label={`Stitches on ${told(before)}; then on ${told(after)}`}
      width={before.length * APART}
      height={2 * ROW + 4}
      className="charted block shrink-0"
    >
      {[before, after].map((stands, row) =>
        stands.map((s, i) => {
          const [x, y] = [(i + 0.5) * APART, (row + 0.5) * ROW + row * 4];
          return s === 'stitch' ? (
            <circle key={`${row} ${i}`} cx={x} cy={y} r={3.8} fill={TOKENS.peat} />
          ) : s === 'bare' ? (
            <circle
              key={`${row} ${i}`}
              cx={x}
              cy={y}
              r={3.3}
              fill="none"
              stroke={TOKENS.peat}
              strokeWidth={1.4}
            />
          ) : (
            <line
              key={`${row} ${i}`}
              x1={x}
              x2={x}
              y1={y - 3}
              y2={y + 3}
              stroke={TOKENS.ruleHeavy}
              strokeWidth={1.4}
            />
          );
        }),
      )}
    </svg>
  );
}

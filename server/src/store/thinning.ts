/** Which versions of a design are kept as time goes by: all of the last hour, then hourly, daily, weekly. */

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const WEEK = 7 * DAY;

/** The hour a moment lies in, as a number. */
export const hourOf = (at: Date): number => Math.floor(at.getTime() / HOUR);

interface Moment {
  version: number;
  savedAt: Date;
  /** Named versions are kept for good. */
  name?: string | null;
}

/** The span a moment shares with others, of which only the last is kept; null while all are. */
function spanOf(age: number, at: number): string | null {
  if (age < HOUR) return null;
  if (age < DAY) return `hour ${Math.floor(at / HOUR)}`;
  if (age < 4 * WEEK) return `day ${Math.floor(at / DAY)}`;
  return `week ${Math.floor(at / WEEK)}`;
}

/** The versions to keep among moments in any order; hours, days and weeks are those of UTC. */
export function thinned(moments: readonly Moment[], now: Date): Set<number> {
  const kept = new Set<number>();
  const spans = new Set<string>();
  for (const { version, savedAt, name } of [...moments].sort((a, b) => b.version - a.version)) {
    const span = spanOf(now.getTime() - savedAt.getTime(), savedAt.getTime());
    if (span === null || name || !spans.has(span)) kept.add(version);
    if (span !== null) spans.add(span);
  }
  return kept;
}

import { comesFromOne, type Meeting } from './trace.js';

/** A crossing that comes at another distance than the others do. */
export interface Astray {
  row: number;
  /** Rows since the one below. */
  gap: number;
  /** Rows it comes too late (negative: too early), where only it is out of place; null where those above are, too. */
  late: number | null;
}

/** How far apart the crossings of a rope come, in rows. */
export interface Rhythm {
  /** The distance most of them have; 0 where there are fewer than three. */
  usual: number;
  even: number;
  astray: readonly Astray[];
}

/**
 * The rhythm of rows that cross, from the bottom. `begins` are rows to which no rope comes from below: they are at no distance. A rest,
 * twice the usual distance or more, is a design and not astray; the others that differ are. Two that follow each other
 * and make up twice the usual are one crossing out of its place.
 */
export function rhythmOf(rows: readonly number[], begins: ReadonlySet<number> = new Set()): Rhythm {
  const gaps: { row: number; gap: number }[] = [];
  const often = new Map<number, number>();
  for (let i = 1; i < rows.length; i++) {
    const row = rows[i]!;
    if (begins.has(row)) continue;
    const gap = row - rows[i - 1]!;
    gaps.push({ row, gap });
    often.set(gap, (often.get(gap) ?? 0) + 1);
  }
  const [usual, times] = [...often].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0] ?? [0, 0];
  if (gaps.length < 3 || times < 2) return { usual: 0, even: 0, astray: [] };
  const astray: Astray[] = [];
  for (let i = 0; i < gaps.length; i++) {
    const { row, gap } = gaps[i]!;
    if (gap === usual || gap >= 2 * usual) continue;
    const isAlone = gap + (gaps[i + 1]?.gap ?? 0) === 2 * usual;
    astray.push({ row, gap, late: isAlone ? gap - usual : null });
    if (isAlone) i++;
  }
  return { usual, even: times, astray };
}

/** The rhythm of crossings that hang together, from the bottom. */
export function rhythmOfMeetings(meetings: readonly Meeting[]): Rhythm {
  const rows: number[] = [];
  const begins = new Set<number>();
  let comes = true;
  for (const meeting of meetings) {
    const { row } = meeting;
    if (rows.at(-1) !== row) {
      if (!comes) begins.add(rows.at(-1)!);
      rows.push(row);
      comes = false;
    }
    comes ||= comesFromOne(meeting);
  }
  if (!comes) begins.add(rows.at(-1)!);
  return rhythmOf(rows, begins);
}

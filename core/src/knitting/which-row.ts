import { timesOf } from '../chart/frame.js';
import { loopColumns } from '../chart/rows.js';
import { bookOf } from '../chart/schema.js';
import { unfold } from '../chart/unfold.js';
import { takesTurns, wayOf } from '../construction/index.js';
import { ofEach } from '../remember.js';
import { ropesOf } from '../ropes/ropes.js';
import type { Lean } from '../stitches/face.js';
import type { Job } from './job.js';

/**
 * Which row a knitter is on, told from her cloth: what can be counted in it is worked out for every row there is, and what she
 * counts leaves those that fit. Ropes are told by their place on the needle, from the right as the right side looks.
 */

/** What can be asked of the cloth. `rope` counts from 0 among those on the needle. */
export type Asked =
  | { what: 'side' }
  | { what: 'stitches' }
  | { what: 'ropes' }
  | { what: 'since' | 'lean' | 'crossings'; rope: number }
  | { what: 'between'; rope: number };

/** What she says: a number counted, a lean, a side; "none" where a rope has not been crossed. */
export type Answered = number | Lean | 'RS' | 'WS' | 'none';

/** A question and its answer. */
export interface Fact {
  asked: Asked;
  answer: Answered;
}

/** The cloth after a number of rows, as far as it can be counted. */
interface Look {
  /** Rows worked. */
  worked: number;
  side: 'RS' | 'WS';
  stitches: number;
  ropes: { since: number | 'none'; lean: Lean | 'none'; crossings: number }[];
  /** Stitches between a rope and the next. */
  between: number[];
}

/** Ropes that are asked after, from the right: further ones tell no more. */
const MOST_ROPES = 6;

/** The cloth of a job after each of its rows, each repeat across once. Rows of bands are left aside: they cross no rope. */
const looksOf = ofEach((job: Job): Look[] => {
  const { chart } = unfold(job.chart, 1);
  const { ropes, loops } = ropesOf(chart);
  const rows = job.rows.flatMap((row, n) => (row.band === null ? [{ ...row, n }] : []));
  const high = Math.min(rows.length, chart.rows.length);
  const crossed = ropes.map(() => ({ last: null as { row: number; lean: Lean } | null, count: 0 }));
  return Array.from({ length: high }, (_, r): Look => {
    ropes.forEach((rope, i) => {
      for (const event of rope.events)
        if (event.row === r) {
          crossed[i]!.last = { row: r, lean: event.crossing.lean };
          crossed[i]!.count++;
        }
    });
    const after = loops[r]!;
    const met: { rope: number; from: number; to: number }[] = [];
    after.forEach((rope, loop) => {
      if (rope < 0) return;
      const last = met.at(-1);
      if (last?.rope === rope && last.to === loop - 1) last.to = loop;
      else met.push({ rope, from: loop, to: loop });
    });
    const shown = met.slice(0, MOST_ROPES);
    const next = rows[r + 1];
    return {
      worked: rows[r]!.n + 1,
      side: next?.side ?? (takesTurns(wayOf(chart)) && rows[r]!.side === 'RS' ? 'WS' : 'RS'),
      stitches: loopColumns(chart.rows[r]!, bookOf(chart)).length,
      ropes: shown.map(({ rope }) => {
        const { last, count } = crossed[rope]!;
        return { since: last ? r - last.row : 'none', lean: last?.lean ?? 'none', crossings: count };
      }),
      between: shown.slice(1).map(({ from }, i) => from - shown[i]!.to - 1),
    };
  });
});

/** The answer that a cloth gives; null where it has no such rope. */
function answerOf({ side, stitches, ropes, between }: Look, asked: Asked): Answered | null {
  if (asked.what === 'side') return side;
  if (asked.what === 'stitches') return stitches;
  if (asked.what === 'ropes') return ropes.length;
  if (asked.what === 'between') return between[asked.rope] ?? null;
  return ropes[asked.rope]?.[asked.what] ?? null;
}

/** The numbers of rows worked, from 1, after which the cloth is as she says. */
export function rowsThatFit(job: Job, facts: readonly Fact[]): number[] {
  return looksOf(job)
    .filter((look) => facts.every(({ asked, answer }) => answerOf(look, asked) === answer))
    .map(({ worked }) => worked);
}

/** How many rows are looked through: of a very long piece the first. */
export const rowsLookedThrough = (job: Job): number => looksOf(job).length;

/** Whether each repeat across is told once, and its ropes counted within it. */
export const looksAtOneRepeat = ({ chart }: Job): boolean => timesOf(chart) > 1;

/** What can be asked, with the answers the rows that still fit would give, the most telling question first. */
export interface Question {
  asked: Asked;
  answers: { answer: Answered; rows: number }[];
  /** How many rows are left on average when it is answered. */
  leaves: number;
}

/** The questions that tell the rows apart that still fit: "count these next" is the first. */
export function questionsFor(job: Job, facts: readonly Fact[]): Question[] {
  const fitting = looksOf(job).filter((look) =>
    facts.every(({ asked, answer }) => answerOf(look, asked) === answer),
  );
  const ropes = Math.max(0, ...fitting.map((look) => look.ropes.length));
  const each = (what: 'since' | 'lean' | 'crossings'): Asked[] =>
    Array.from({ length: ropes }, (_, rope) => ({ what, rope }));
  const all: Asked[] = [
    { what: 'side' },
    { what: 'stitches' },
    { what: 'ropes' },
    ...each('since'),
    ...each('lean'),
    ...each('crossings'),
    ...Array.from({ length: Math.max(0, ropes - 1) }, (_, rope): Asked => ({ what: 'between', rope })),
  ];
  return all
    .flatMap((asked): Question[] => {
      const counts = new Map<Answered, number>();
      for (const look of fitting) {
        const answer = answerOf(look, asked);
        // What only some of them could answer is not asked.
        if (answer === null) return [];
        counts.set(answer, (counts.get(answer) ?? 0) + 1);
      }
      if (counts.size < 2) return [];
      const answers = [...counts].map(([answer, rows]) => ({ answer, rows }));
      const leaves = answers.reduce((sum, { rows }) => sum + rows * rows, 0) / fitting.length;
      return [{ asked, answers: sorted(answers), leaves }];
    })
    .sort((a, b) => a.leaves - b.leaves);
}

const sorted = (answers: Question['answers']): Question['answers'] =>
  answers.sort((a, b) =>
    typeof a.answer === 'number' && typeof b.answer === 'number' ? a.answer - b.answer : 0,
  );

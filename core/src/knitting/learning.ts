import { startChart } from '../chart/start.js';
import type { Chart } from '../chart/schema.js';
import type { WayId } from '../construction/index.js';
import { crossingSize, stitchesBefore, workedAfter, type Crossing } from '../stitches/crossing.js';
import { faceOf } from '../stitches/face.js';
import { jobOf, type Job } from './job.js';
import { rowInHands } from './groups.js';
import type { WordSettings } from '../words/write.js';

/** Learning by doing: a crossing as a small swatch, and charts to be read row by row. */

/** Ground at each side of the crossing, in stitches; and the rows of the swatch, the crossing in the third and the seventh. */
const BESIDE = 2;
const ROWS = 8;
const CROSSED = [2, 6];

/** A crossing as a swatch to practise on: eight rows, crossed twice where it comes out as it went in, else once. */
export function practiceChart(crossing: Crossing, construction: WayId): Chart {
  const plain = (worked: Parameters<typeof faceOf>[0]) => (faceOf(worked) === 'knit' ? 'k' : 'p');
  const ground = Array<string>(BESIDE).fill('p');
  const before = stitchesBefore(crossing).map(({ worked }) => plain(worked));
  const after = workedAfter(crossing).map(plain);
  const comesBack = before.join() === after.join();
  const columns = crossingSize(crossing) + 2 * BESIDE;
  const rows = Array.from({ length: ROWS }, (_, r) => {
    const isCrossed = comesBack ? CROSSED.includes(r) : r === CROSSED[0];
    const own = isCrossed ? [crossing] : r < CROSSED[0]! ? before : after;
    return [...ground, ...own, ...ground];
  });
  return { ...startChart({ columns, rows: ROWS, construction, ground: 'p' }), name: 'Practice', rows };
}

/** A chart row that is shown, and the groups it is to be read as. */
export interface ReadingTask {
  chart: Chart;
  row: number;
  /** The group that is asked for, from 0. */
  group: number;
  answer: string;
  /** What may be tapped, the answer among them, in a set order. */
  choices: string[];
}

/** The reading of a chart: what is asked, and what was missed and comes again. */
export interface Reading {
  tasks: readonly ReadingTask[];
  /** The task that is asked next, as an index. */
  queue: readonly number[];
  right: number;
  missed: number;
}

const MOST_TASKS = 400;
const CHOICES = 4;

/** All that can be asked of a chart read in these hands, in the order in which it is worked. */
export function readingOf(chart: Chart, settings: WordSettings): Reading {
  const job: Job = jobOf({ charts: [chart], piece: null }, { chart: chart.id }, settings);
  const rows = Array.from({ length: Math.min(job.rows.length, chart.rows.length) }, (_, n) => n).filter(
    (n) => job.rows[n]!.band === null,
  );
  const words = [...new Set(rows.flatMap((n) => rowInHands(job, n).groups.map(({ text }) => text)))];
  const tasks: ReadingTask[] = [];
  for (const n of rows) {
    const { groups } = rowInHands(job, n);
    for (let group = 0; group < groups.length && tasks.length < MOST_TASKS; group++) {
      if (!groups[group]!.stitches.length) continue;
      const answer = groups[group]!.text;
      tasks.push({
        chart,
        row: job.rows[n]!.row,
        group,
        answer,
        choices: choicesFor(answer, words, tasks.length),
      });
    }
  }
  return { tasks, queue: tasks.map((_, i) => i), right: 0, missed: 0 };
}

/** The answer and others of the chart's own words, those most like it first, turned by a number so that it does not always stand first. */
function choicesFor(answer: string, words: readonly string[], turn: number): string[] {
  const like = (word: string) =>
    [...word].filter((c) => answer.includes(c)).length - Math.abs(word.length - answer.length);
  const swapped = { k: 'p', p: 'k' } as const;
  const own = answer
    .replace(/^[kp](?=\d)/, (c) => swapped[c as 'k' | 'p'])
    .replace(/([LR])(?=P?C\b)/, (c) => (c === 'L' ? 'R' : 'L'));
  const others = [
    ...new Set([
      ...(own === answer ? [] : [own]),
      ...words.filter((w) => w !== answer).sort((a, b) => like(b) - like(a)),
    ]),
  ];
  const choices = [answer, ...others.filter((w) => w !== answer).slice(0, CHOICES - 1)];
  const by = turn % choices.length;
  return [...choices.slice(by), ...choices.slice(0, by)];
}

/** After how many others what was missed comes again. */
const COMES_AGAIN = 3;

/** What is read when she answers: what she misses comes again a little later, and again until it is right. */
export function answered(reading: Reading, answer: string): Reading {
  const [now, ...rest] = reading.queue;
  if (now === undefined) return reading;
  if (reading.tasks[now]!.answer === answer) return { ...reading, queue: rest, right: reading.right + 1 };
  const at = Math.min(COMES_AGAIN, rest.length);
  return { ...reading, queue: [...rest.slice(0, at), now, ...rest.slice(at)], missed: reading.missed + 1 };
}

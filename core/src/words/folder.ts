import { castOnOf, repeatColumns, repeatsAcross } from '../chart/frame.js';
import type { Problem } from './reader/pattern-lines.js';
import type { Question, SectionRead } from './read.js';

/**
 * What became of one text of a folder: read whole, waiting for answers or for a size to be chosen, or refused for what
 * does not add up.
 */
export type Outcome = 'read' | 'asked' | 'refused';

/** One text of a folder, as its table shows it. */
export interface FileRead {
  name: string;
  title: string;
  outcome: Outcome;
  patterns: number;
  rows: number;
  /** Stitches cast on, and columns of the repeat across, of the first pattern; null where it has none. */
  castOn: number | null;
  repeat: number | null;
  /** Names that are asked about. */
  asked: string[];
  /** What is to be told first, and how many more there are. */
  told: string | null;
  more: number;
  asides: number;
}

const isError = (p: Problem): boolean => p.level === 'error' && !p.ask;

/** What was made of a text that may hold several patterns. */
export function fileRead(name: string, sections: readonly SectionRead[]): FileRead {
  const readings = sections.map(({ reading }) => reading);
  const problems = readings.flatMap((r) => r.problems);
  const errors = problems.filter(isError);
  const asked = [...new Set(readings.flatMap((r) => r.questions.map(({ word }) => word)))];
  const told = [...errors, ...problems.filter((p) => p.level === 'caution')];
  const charts = readings.flatMap(({ chart }) => (chart ? [chart] : []));
  const [first] = charts;
  const outcome: Outcome = errors.length
    ? 'refused'
    : asked.length || charts.length < sections.length
      ? 'asked'
      : 'read';
  const { start, end } = first ? repeatColumns(first) : { start: 0, end: 0 };
  return {
    name,
    title: sections[0]?.title ?? withoutEnding(name),
    outcome,
    patterns: sections.length,
    rows: charts.reduce((sum, chart) => sum + chart.rows.length, 0),
    castOn: first ? castOnOf(first) : null,
    repeat: first && repeatsAcross(first) ? end - start : null,
    asked,
    told: told[0]?.message ?? null,
    more: Math.max(0, told.length - 1),
    asides: readings.reduce((sum, r) => sum + r.asides.length, 0),
  };
}

/** A file's name without its folder and its ending: a title where the text has none. */
export const withoutEnding = (name: string): string => name.replace(/^.*[/\\]/, '').replace(/\.[^.]+$/, '');

/** What the patterns of a text ask, each name once. */
export function questionsIn(sections: readonly SectionRead[]): Question[] {
  const asked = sections.flatMap(({ reading }) => reading.questions);
  return asked.filter((q, i) => asked.findIndex((other) => other.word === q.word) === i);
}

/** A question of a folder, and the texts that ask it. */
export interface FolderQuestion {
  question: Question;
  files: string[];
}

/** What the texts of a folder ask, each name once, the most asked first. */
export function folderQuestions(
  files: readonly { name: string; questions: readonly Question[] }[],
): FolderQuestion[] {
  const found = new Map<string, FolderQuestion>();
  for (const { name, questions } of files)
    for (const question of questions) {
      const known = found.get(question.word);
      if (!known) found.set(question.word, { question, files: [name] });
      else if (!known.files.includes(name)) known.files.push(name);
    }
  return [...found.values()].sort((a, b) => b.files.length - a.files.length);
}

/** The columns of a folder's table, as it is exported. */
export const FOLDER_COLUMNS = [
  'File',
  'Title',
  'Outcome',
  'Patterns',
  'Rows',
  'Cast on',
  'Repeat',
  'Asked',
  'Told',
  'More told',
  'Left aside',
] as const;

/** One line of a folder's table, as it is exported. */
export const folderLine = (f: FileRead): (string | number)[] => [
  f.name,
  f.title,
  f.outcome,
  f.patterns,
  f.rows,
  f.castOn ?? '',
  f.repeat ?? '',
  f.asked.join(' '),
  f.told ?? '',
  f.more,
  f.asides,
];

import type { Chart, Design, Finding } from '@cordelina/core';
import { useMemo } from 'react';
import { checksLink } from './links.js';
import { useAnswer } from './useAnswer.js';

const link = checksLink();

/** So long the hands rest before a chart is checked: the picture of what is typed comes first, and the checks take no core from it. */
const BETWEEN_KEYS = 50;
/** And before the mends of what was found are tried. Both in milliseconds. */
const QUIET = 120;

type Question = Pick<Design, 'charts' | 'piece' | 'settings'> & { id: string };

const check = ({ charts, piece, settings, id }: Question): Promise<Finding[]> =>
  link.next((worker) => worker.check(link.holding(charts), id, { piece, settings }));

const mend = () => link.ask((worker) => worker.mends());

const NONE: readonly Finding[] = [];

/** Whether a finding's place is still there in the chart. */
const isIn = (chart: Chart, { row = 1, columns }: Finding): boolean =>
  row <= chart.rows.length && (!columns || columns[1] <= chart.width);

/** What is found in a chart, as far as it is known. */
export interface Checks {
  findings: readonly Finding[];
  /** Whether they are of the chart as it is now, those of a moment ago, or cannot be had. */
  state: 'checked' | 'checking' | 'failed';
}

/**
 * The findings of a chart of a design, checked off the page's own thread: until it is checked anew those of a moment ago, as far as
 * their places are still there. They come without their mends, each of which is tried, and get them once the hands rest.
 */
export function useChecks({ charts, piece, settings }: Design, id: string): Checks {
  const question = useMemo(() => ({ charts, piece, settings, id }), [charts, piece, settings, id]);
  const { answer, last, hasFailed } = useAnswer(question, check, BETWEEN_KEYS);
  const { answer: mends } = useAnswer(answer?.length ? answer : null, mend, QUIET);
  return useMemo((): Checks => {
    if (answer)
      return {
        findings: mends ? answer.map((finding, i) => ({ ...finding, ...mends[i] })) : answer,
        state: 'checked',
      };
    const chart = charts.find((c) => c.id === id);
    const findings =
      last && chart && last.of.id === id ? last.answer.filter((finding) => isIn(chart, finding)) : NONE;
    return { findings, state: hasFailed ? 'failed' : 'checking' };
  }, [answer, mends, last, hasFailed, charts, id]);
}

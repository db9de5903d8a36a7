import type { Design } from '@cordelina/core';
import { useMemo } from 'react';
import { pieceLink } from '../workers/links.js';
import type { Fits, Survey } from '../workers/piece.worker.js';
import { useAnswer } from '../workers/useAnswer.js';

/** One worker puts pieces together and fits them. */
const link = pieceLink();

/** So long the hands rest before the piece is put together, in milliseconds. */
const QUIET = 60;

type Question = Pick<Design, 'charts' | 'piece' | 'settings'> & { size: string };

const survey = ({ charts, piece, settings, size }: Question): Promise<Survey> =>
  link.next((worker) =>
    worker.survey(link.holding(charts), piece, settings.units, size, settings.cloth.fitted),
  );

/** The piece put together in the size in hand, and what is wrong with it; the last there was until it is made anew. */
export function useSurvey(
  { charts, piece, settings }: Design,
  size: string,
): { survey: Survey | null; isCurrent: boolean } {
  const question = useMemo(() => ({ charts, piece, settings, size }), [charts, piece, settings, size]);
  const { answer, last } = useAnswer(question, survey, QUIET);
  return { survey: last?.answer ?? null, isCurrent: answer !== null };
}

const fit = ({ charts, piece, settings, size }: Question): Promise<Fits | null> =>
  link.ask(async (worker) => piece && worker.fit(link.holding(charts), piece, size, settings.cloth.fitted));

/** The ways to what a size wishes for; the last there were until they are looked for anew. */
export function useFits(
  { charts, piece, settings }: Design,
  size: string,
): { fits: Fits | null; isCurrent: boolean } {
  const question = useMemo(() => ({ charts, piece, settings, size }), [charts, piece, settings, size]);
  const { answer, last } = useAnswer(question, fit, QUIET);
  return { fits: last?.of.size === size ? last.answer : null, isCurrent: answer !== null };
}

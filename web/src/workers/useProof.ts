import type { Design, DrawsIn, WrittenDesign, WordSettings } from '@cordelina/core';
import { useMemo } from 'react';
import { wordsLink } from './links.js';
import { useAnswer } from './useAnswer.js';

const link = wordsLink();

/** So long the hands rest before the words are proved, in milliseconds. */
const QUIET = 150;

/** The proof of the design as it is now, null while it is being made, and the last words there were. */
export interface ProofState {
  proved: WrittenDesign | null;
  last: WrittenDesign | null;
}

type Question = Pick<Design, 'id' | 'charts' | 'piece'> & { by: WordSettings & DrawsIn };

// A proof under way is of an older design: it is stopped.
const prove = ({ charts, piece, by }: Question) =>
  link.run((words) => words.prove(link.holding(charts), piece, by));

/** Writes and proves the words of a design's charts and its piece whenever they or their wording change. */
export function useProof(design: Design | null): ProofState {
  const settings = design?.settings;
  const fitted = settings?.cloth.fitted ?? null;
  const by = useMemo<Question['by'] | null>(() => {
    if (!settings) return null;
    const { school, names, hand, style, twist, twistNames, cableless, bobble } = settings;
    return { school, names, hand, style, twist, twistNames, cableless, bobble, cloth: { fitted } };
  }, [settings, fitted]);
  const [id, charts, piece = null] = [design?.id, design?.charts, design?.piece];
  const question = useMemo<Question | null>(
    () => (id && charts && by ? { id, charts, piece, by } : null),
    [id, charts, piece, by],
  );
  const { answer, last } = useAnswer(question, prove, QUIET);
  return { proved: answer, last: last && last.of.id === id ? last.answer : null };
}

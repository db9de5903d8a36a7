import { useEffect, useState } from 'react';
import { Stopped } from './link.js';

/** A worker may fail for want of memory, or not come: it is tried again. */
const AGAIN = 1000;
const MOST_TRIES = 3;

/** What a worker answered last, to which question. */
export interface Answer<Q, A> {
  /** The answer to the question that is asked now; null until it is there. */
  answer: A | null;
  /** The last there was, and what was asked. */
  last: { of: Q; answer: A } | null;
  /** Whether the question of now stays unanswered: the worker failed at it each time. */
  hasFailed: boolean;
}

/**
 * Asks a worker anew whenever the question is another, once the hands have rested; until it is answered the last answer stands. A
 * question is the same as long as it is the same object.
 *
 * @param ask asks it: the same function each time
 * @param quiet how long the hands are to rest, in milliseconds
 */
export function useAnswer<Q extends object, A>(
  question: Q | null,
  ask: (question: Q) => Promise<A>,
  quiet: number,
): Answer<Q, A> {
  const [last, setLast] = useState<Answer<Q, A>['last']>(null);
  const [failed, setFailed] = useState<Q | null>(null);
  useEffect(() => {
    if (!question) return;
    let isStale = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const attempt = (tries: number) => {
      ask(question)
        .then((answer) => {
          if (!isStale) setLast({ of: question, answer });
        })
        .catch((error: unknown) => {
          if (isStale || error instanceof Stopped) return;
          console.error('A worker did not answer.', error);
          if (tries > 1) timer = setTimeout(() => attempt(tries - 1), AGAIN);
          else setFailed(question);
        });
    };
    if (quiet) timer = setTimeout(() => attempt(MOST_TRIES), quiet);
    else attempt(MOST_TRIES);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
  }, [question, ask, quiet]);
  return {
    answer: last?.of === question ? last.answer : null,
    last,
    hasFailed: failed !== null && failed === question,
  };
}

import type { ReadOptions, Row, SectionRead } from '@cordelina/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Stopped, type WorkerLink } from '../workers/link.js';
import { wordsLink } from '../workers/links.js';
import type { WordsWorker } from '../workers/words.worker.js';

/** What a text was read as. */
export interface TextRead {
  /** The patterns of the text that was read last; empty until one was. */
  sections: readonly SectionRead[];
  /** Whether the text is being read, so that `sections` are of an earlier one. */
  isReading: boolean;
  failed: boolean;
  stop: () => void;
  /** The text with a row of a chart put otherwise; null where it cannot be told in its words. */
  correct: (section: SectionRead, r: number, row: Row) => Promise<string | null>;
}

/** A pause in typing of so many milliseconds, before a text is read. */
const PAUSE = 250;

/** Reads a text as it is typed, off the page's own thread; a reading under way is given up for the next. */
export function useReading(text: string, options: ReadOptions): TextRead {
  const worker = useRef<WorkerLink<WordsWorker>>(null);
  const [read, setRead] = useState<{
    text: string;
    options: ReadOptions;
    sections: readonly SectionRead[] | null;
  }>({
    text: '',
    options,
    sections: [],
  });
  useEffect(() => () => worker.current?.close(), []);
  useEffect(() => {
    if (!text.trim()) return;
    let isStale = false;
    const timer = setTimeout(() => {
      worker.current ??= wordsLink();
      worker.current
        .run((words) => words.read(text, options))
        .then((sections) => {
          if (!isStale) setRead({ text, options, sections });
        })
        .catch((error: unknown) => {
          if (!(error instanceof Stopped) || !isStale) setRead({ text, options, sections: null });
        });
    }, PAUSE);
    return () => {
      isStale = true;
      clearTimeout(timer);
    };
  }, [text, options]);
  const stop = useCallback(() => worker.current?.stop(), []);
  const correct = useCallback(
    async ({ from, to }: SectionRead, r: number, row: Row) => {
      worker.current ??= wordsLink();
      return worker.current.run((words) => words.correct(text, options, { from, to }, r, row));
    },
    [text, options],
  );
  const isEmpty = !text.trim();
  return {
    sections: isEmpty ? [] : (read.sections ?? []),
    isReading: !isEmpty && (read.text !== text || read.options !== options),
    failed: !isEmpty && read.text === text && read.sections === null,
    stop,
    correct,
  };
}

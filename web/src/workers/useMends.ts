import type { CheckSettings, Design, Finding } from '@cordelina/core';
import { useEffect, useState } from 'react';
import { Stopped } from './link.js';
import { wordsLink } from './links.js';

const link = wordsLink();
const QUIET = 120;

type Mends = Pick<Finding, 'fix' | 'others'>;

/**
 * The findings of a chart with their mends, each of which was tried off the page's own thread; they come without, and get them a
 * moment after the hands rest.
 */
export function useMends(
  { charts, piece }: Pick<Design, 'charts' | 'piece'>,
  id: string,
  findings: readonly Finding[],
  { rules, meant }: CheckSettings,
): readonly Finding[] {
  const [tried, setTried] = useState<{ of: readonly Finding[]; all: readonly Finding[] } | null>(null);
  useEffect(() => {
    if (!findings.length) return;
    let stale = false;
    const timer = setTimeout(() => {
      link
        .run((words) => words.mends(link.holding(charts), id, piece, { rules, meant }))
        .then((mends: Mends[]) => {
          // Findings of names come after those of the chart, and have no mends.
          if (!stale) setTried({ of: findings, all: findings.map((f, i) => ({ ...f, ...mends[i] })) });
        })
        .catch((error: unknown) => {
          if (error instanceof Stopped) return;
          console.error('The mends could not be tried.', error);
        });
    }, QUIET);
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  }, [charts, piece, id, findings, rules, meant]);
  return tried?.of === findings ? tried.all : findings;
}

import {
  bedsJobOf,
  jobOf,
  JobFault,
  PieceFault,
  type Course,
  type Design,
  type Edition,
  type Knitting,
} from '@cordelina/core';
import { useMemo } from 'react';

/** The design of an edition as it is worded for the knitter's hands. */
export const inHer = (document: Design, hand: Knitting['hand']): Design =>
  hand ? { ...document, settings: { ...document.settings, hand } } : document;

/** A job, or why there is none: the sentence is for the knitter. */
export function jobIn(design: Design, of: Knitting['of']): Course | string {
  try {
    return 'machine' in of ? bedsJobOf(design, of) : jobOf(design, of, design.settings);
  } catch (error) {
    if (error instanceof JobFault || error instanceof PieceFault) return error.message;
    throw error;
  }
}

/** What is knitted of an edition, put together once. */
export function useJob(edition: Edition | undefined, knitting: Knitting | undefined): Course | string | null {
  const document = edition?.document;
  const of = knitting?.of;
  const hand = knitting?.hand ?? null;
  // A place that moves leaves what is knitted as it is.
  const key = JSON.stringify(of ?? null);
  return useMemo(
    () => (document && of ? jobIn(inHer(document, hand), of) : null),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [document, key, hand],
  );
}

import { DatabaseAway } from '../db.js';

/** What goes wrong with a PostgreSQL server, told apart by what is to be done about it. */

const codeOf = (error: unknown): string => (error as { code?: string } | null)?.code ?? '';

/** Two transactions could not be put in line, or waited for each other: the work is done again. */
const OUT_OF_LINE = new Set(['40001', '40P01']);
export const isOutOfLine = (error: unknown): boolean => OUT_OF_LINE.has(codeOf(error));

/** It is not up (yet), is going down, has no room for another connection, or took too long. */
const AWAY = new Set([
  ...['57P01', '57P02', '57P03', '57014', '53300', '55P03', '25P03', '25P04'],
  ...[
    'ECONNREFUSED',
    'ECONNRESET',
    'EPIPE',
    'ETIMEDOUT',
    'ENOTFOUND',
    'EAI_AGAIN',
    'EHOSTUNREACH',
    'ENETUNREACH',
  ],
]);
/** The driver's own words for a connection that broke off or was not had in time; they carry no code. */
const BROKEN =
  /connection terminated|connection error|timeout exceeded when trying to connect|not queryable/i;

export const isAway = (error: unknown): boolean =>
  AWAY.has(codeOf(error)) ||
  codeOf(error).startsWith('08') ||
  (error instanceof Error && !codeOf(error) && BROKEN.test(error.message));

/** The error as what lies above knows it. */
export const told = (error: unknown): unknown =>
  isAway(error) && !(error instanceof DatabaseAway)
    ? new DatabaseAway('The database does not answer.', { cause: error })
    : error;

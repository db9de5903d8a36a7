import { boundedJson, DocumentError, JsonFault, StepMisfit } from '@cordelina/core';
import { z } from 'zod';

/** An answer other than success: a sentence for the person, and where in the request the fault lies. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly path?: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

/** What is stored of a document cannot be read: the fault is ours, and the others are unharmed. */
export class DamagedDocument extends ApiError {
  constructor(of: string, why: string) {
    super(500, `What is stored of this ${of} cannot be read (${why}). No other is affected.`);
  }
}

/** Checks what came from outside. @throws ApiError 400 with the path of the first fault */
export function parsed<S extends z.ZodType>(schema: S, value: unknown): z.infer<S> {
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new ApiError(400, issue.message, issue.path.map(String).join('.'));
}

/** A request's body as JSON. @throws ApiError 400, or 413 where it holds more than is built */
export function parsedJson(bytes: Uint8Array): unknown {
  try {
    return boundedJson(bytes);
  } catch (error) {
    if (!(error instanceof JsonFault)) throw error;
    if (error.isTooMuch) throw new ApiError(413, error.message);
    throw new ApiError(400, 'The request is not valid JSON.');
  }
}

/** A fault as it crosses from a worker: classes do not. */
export interface Fault {
  status: number;
  message: string;
  path?: string;
}

export type Outcome<T> = { value: T } | { fault: Fault };

/** The same for a job that takes its time. */
export async function outcomeOf<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    return outcome(() => {
      throw error;
    });
  }
}

/** Does a worker's job; what is the caller's fault comes back as a fault, what is ours is thrown. */
export function outcome<T>(work: () => T): Outcome<T> {
  try {
    return { value: work() };
  } catch (error) {
    if (error instanceof ApiError)
      return { fault: { status: error.status, message: error.message, path: error.path } };
    if (error instanceof DocumentError)
      return { fault: { status: 400, message: error.message, path: error.path } };
    if (error instanceof StepMisfit)
      return { fault: { status: 400, message: error.message, path: 'changes' } };
    throw error;
  }
}

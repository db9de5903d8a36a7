import { ChartSchema, type Design } from '@cordelina/core';
import { z } from 'zod';
import { DocumentSchema } from './document.js';

/** The server could not be reached: edits are kept here until it can. */
export class ServerAway extends Error {}

/** The server refused; the message is for the person. */
export class Refused extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly body: unknown,
  ) {
    super(message);
  }
}

const Preview = ChartSchema.transform(({ width, rows, own, construction, firstRow, ground }) => ({
  width,
  rows,
  own,
  construction,
  firstRow,
  ground,
}));

const CardSchema = z.object({
  id: z.uuid(),
  title: z.string(),
  version: z.int(),
  savedAt: z.string(),
  summary: z.object({
    construction: z.enum(['flat', 'round']),
    columns: z.int(),
    rows: z.int(),
    castOn: z.int(),
    repeats: z.int(),
    errors: z.int(),
    cautions: z.int(),
    preview: Preview,
  }),
});
export type Card = z.infer<typeof CardSchema>;

const Saved = z.object({ version: z.int(), savedAt: z.string() });
const StoredSchema = Saved.extend({ document: DocumentSchema });
export type Stored = z.infer<typeof StoredSchema>;
const Stale = z.object({ current: StoredSchema });

const ErrorBody = z.object({ error: z.object({ message: z.string() }) });

async function ask(method: string, path: string, body?: unknown): Promise<unknown> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: body === undefined ? undefined : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body),
    });
  } catch {
    throw new ServerAway('The server is away.');
  }
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return answer;
  if (response.status >= 502 && response.status <= 504) throw new ServerAway('The server is away.');
  const parsed = ErrorBody.safeParse(answer);
  throw new Refused(
    parsed.success ? parsed.data.error.message : 'The server could not answer.',
    response.status,
    answer,
  );
}

export async function listDesigns(): Promise<Card[]> {
  return z.object({ designs: z.array(CardSchema) }).parse(await ask('GET', '/designs')).designs;
}

export async function fetchDesign(id: string): Promise<Stored> {
  return StoredSchema.parse(await ask('GET', `/designs/${id}`));
}

export async function createDesign(document: Design): Promise<z.infer<typeof Saved>> {
  return Saved.parse(await ask('POST', '/designs', { document }));
}

/** Saves over version `base`. @throws Refused with status 409 when the design has moved on; see `staleOf` */
export async function saveDesign(document: Design, base: number): Promise<z.infer<typeof Saved>> {
  return Saved.parse(await ask('PUT', `/designs/${document.id}`, { base, document }));
}

/** The newer version a refused save came with, or null when it was refused for another reason. */
export function staleOf(error: unknown): Stored | null {
  if (!(error instanceof Refused) || error.status !== 409) return null;
  const parsed = Stale.safeParse(error.body);
  return parsed.success ? parsed.data.current : null;
}

export async function deleteDesign(id: string): Promise<void> {
  await ask('DELETE', `/designs/${id}`);
}

export async function restoreDesign(id: string): Promise<void> {
  await ask('POST', `/designs/${id}/restore`);
}

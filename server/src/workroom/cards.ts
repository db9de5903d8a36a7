import { LRUCache } from 'lru-cache';
import pLimit from 'p-limit';
import type { Logger } from 'pino';
import { SUMMARY_FORM, type Summary } from '@cordelina/core';
import type { CardRow } from '../store/documents.js';
import type { Workers } from '../work/workers.js';
import type { Ready } from './ready.js';
import type { Documents } from './documents.js';

/** How long the list waits for a card to be worked out before it shows an older one. */
const CARD_PATIENCE = 800;

/** Pictures are kept up to so many bytes in all: some hundreds. A browser keeps its own. */
const PICTURE_BYTES = 24_000_000;

/** One that was worked out of an older version, or in an older form, is worked out anew. */
const isOutdated = ({ summary, summaryVersion, version }: CardRow): boolean =>
  summaryVersion !== version || summary?.form !== SUMMARY_FORM;

/** A card as it is told: its picture is had by itself. */
function told({
  summary,
  ...card
}: CardRow): Omit<CardRow, 'summary'> & { summary: Partial<Summary> | null } {
  if (!summary) return { ...card, summary: null };
  const { preview: _, ...rest } = summary;
  return { ...card, summary: rest };
}

/** The cards of all designs. The list is remembered for as long as everything that happens is heard, and nothing did. */
export class Cards {
  private readonly summaries = new Map<string, Promise<void>>();
  /** Hundreds may be outdated at once: they are worked out a few at a time. */
  private readonly few = pLimit(4);
  private listed: Ready | null = null;
  private happened = 0;
  /** By the version whose summary they are of; several who ask at once wait for the same. */
  private readonly pictures = new LRUCache<string, Uint8Array, string>({
    maxSize: PICTURE_BYTES,
    sizeCalculation: ({ byteLength }) => byteLength,
    fetchMethod: (_key, _stale, { context }) => this.workers.compute.run('picture', context),
  });

  /** `hears` says whether what other programs do is heard just now. */
  constructor(
    private readonly designs: Documents<'design'>,
    private readonly workers: Workers,
    private readonly log: Logger,
    private readonly hears: () => boolean,
  ) {
    designs.onDone(() => this.outdated());
  }

  /** Something happened, or may have: what is remembered is let go. */
  outdated(): void {
    this.happened++;
    this.listed = null;
  }

  /** Every design's card, newest first, ready to be sent. */
  async list(): Promise<Ready> {
    if (this.listed && this.hears()) return this.listed;
    const before = this.happened;
    const plain = Buffer.from(JSON.stringify({ designs: (await this.cards()).map(told) }));
    const ready: Ready = { plain };
    // Nothing may have changed meanwhile, and no card may still be waited for.
    if (before === this.happened && !this.summaries.size) this.listed = ready;
    return ready;
  }

  /** One design's card, as the list has it; null where there is no such design. */
  async card(id: string): Promise<string | null> {
    const row = await this.designs.store.row(id);
    if (!row) return null;
    if (!isOutdated(row)) return JSON.stringify(told(row));
    await this.workedOut([row]);
    return JSON.stringify(told((await this.designs.store.row(id)) ?? row));
  }

  private async cards(): Promise<CardRow[]> {
    const rows = await this.designs.store.list();
    const outdated = rows.filter(isOutdated);
    if (!outdated.length) return rows;
    await this.workedOut(outdated);
    return this.designs.store.list();
  }

  /** Has cards worked out anew, and waits a moment for them. */
  private async workedOut(rows: readonly CardRow[]): Promise<void> {
    await Promise.race([
      Promise.all(rows.map((row) => this.summarise(row))),
      new Promise((resolve) => setTimeout(resolve, CARD_PATIENCE).unref()),
    ]);
  }

  /** The picture of a design's card as an AVIF, and of which version it is; null where there is no card of it yet. */
  async picture(id: string): Promise<{ version: number; avif: Uint8Array } | null> {
    const kept = await this.designs.store.summaryOf(id);
    if (!kept) return null;
    const { version, summary } = kept;
    const avif = await this.pictures.forceFetch(`${id}/${version}`, { context: JSON.stringify(summary) });
    return { version, avif };
  }

  private summarise({ id, version }: CardRow): Promise<void> {
    const key = `${id}/${version}`;
    let running = this.summaries.get(key);
    if (!running) {
      running = this.few(async () =>
        this.workers.compute.run('summary', await this.designs.json(id, version)),
      )
        .then((summary) => this.designs.store.keepSummary(id, version, summary))
        // The card shows what there is; opening the design tells what is wrong with it.
        .catch((error: unknown) => this.log.warn({ err: error }, 'a card could not be worked out'))
        .finally(() => this.summaries.delete(key));
      this.summaries.set(key, running);
    }
    return running;
  }
}

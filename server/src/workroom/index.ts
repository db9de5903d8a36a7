import {
  DAYS_IN_BASKET,
  EMPTY_STUDIO,
  KINDS,
  type Happening,
  type KindName,
  THE_STUDIO,
} from '@cordelina/core';
import type { Logger } from 'pino';
import { type Db, type Listening } from '../store/db.js';
import { DocumentStore, everyDocument, forgetTakenOut, type Standing } from '../store/documents.js';
import { hearHappenings } from '../store/happenings.js';
import { PhotoStore } from '../store/photos.js';
import type { Workers } from '../work/workers.js';
import { Cards } from './cards.js';
import { Documents } from './documents.js';
import { Seals } from './seals.js';

const DAY = 86_400_000;
/** How often it is looked whether something lies in the basket too long. */
const EMPTYING = DAY / 4;

/** One studio's workroom on a database: its documents of every kind, the list of its designs, and what happens to them. */
export class Workroom {
  readonly designs: Documents<'design'>;
  readonly swatches: Documents<'swatch'>;
  readonly studio: Documents<'studio'>;
  readonly editions: Documents<'edition'>;
  readonly knittings: Documents<'knitting'>;
  readonly notes: Documents<'note'>;
  readonly photos: Readonly<Record<'swatch' | 'note', PhotoStore>>;
  readonly cards: Cards;
  readonly seals: Seals;
  private readonly listeners = new Set<(happening: Happening | 'missed') => void>();
  private listening: Listening | null = null;
  private emptying: NodeJS.Timeout | null = null;

  /** Opens it, and hears from then on what happens in it, here and in other programs on the same database. */
  static async open(db: Db, workers: Workers, log: Logger): Promise<Workroom> {
    const workroom = new Workroom(db, workers, log);
    await workroom.studio.ensure(THE_STUDIO, EMPTY_STUDIO);
    workroom.listening = await hearHappenings(
      db,
      THE_STUDIO,
      (happening) => workroom.tell(happening),
      () => workroom.tell('missed'),
    );
    await workroom.empty();
    workroom.emptying = setInterval(() => {
      workroom
        .empty()
        .catch((error: unknown) => log.error({ err: error }, 'the basket could not be emptied'));
    }, EMPTYING).unref();
    return workroom;
  }

  /** Lets go of what was taken out longer ago than it is kept. */
  empty(now = new Date()): Promise<void> {
    return forgetTakenOut(this.db, new Date(now.getTime() - DAYS_IN_BASKET * DAY));
  }

  private constructor(
    private readonly db: Db,
    workers: Workers,
    log: Logger,
  ) {
    const documents = <N extends KindName>(of: N) =>
      new Documents(
        of,
        new DocumentStore(db, THE_STUDIO, of, KINDS[of].most),
        workers,
        log,
        () => this.listening?.inStep === true,
      );
    this.designs = documents('design');
    this.swatches = documents('swatch');
    this.studio = documents('studio');
    this.editions = documents('edition');
    this.knittings = documents('knitting');
    this.notes = documents('note');
    this.photos = {
      swatch: new PhotoStore(db, THE_STUDIO, 'swatch'),
      note: new PhotoStore(db, THE_STUDIO, 'note'),
    };
    this.seals = new Seals(this.designs, workers);
    this.cards = new Cards(this.designs, workers, log, () => this.listening?.hears === true);
  }

  /** Listens to what happens to documents; `missed` when some may not have been heard. The answer ends it. */
  listen(listener: (happening: Happening | 'missed') => void): () => void {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  }

  private tell(happening: Happening | 'missed'): void {
    this.cards.outdated();
    if (happening !== 'missed') this.of(happening.of).heard(happening);
    for (const listener of this.listeners) listener(happening);
  }

  /** The documents of a kind. */
  of(kind: KindName): Documents {
    return {
      design: this.designs,
      swatch: this.swatches,
      studio: this.studio,
      edition: this.editions,
      knitting: this.knittings,
      note: this.notes,
    }[kind];
  }

  /** Every document there is, at one moment: its newest version, and those that were given a name. */
  everything(): Promise<Standing[]> {
    return everyDocument(this.db, THE_STUDIO);
  }

  /** Asks the database for the least there is. @throws DatabaseAway */
  async answers(): Promise<void> {
    await this.db.query('select 1');
  }

  async close(): Promise<void> {
    if (this.emptying) clearInterval(this.emptying);
    await this.listening?.stop();
  }
}

import { MOST_SWATCHES, SwatchSchema, type Swatch } from '@cordelina/core';
import { ApiError } from '../work/faults.js';
import type { Database } from './database.js';

/** What a photo may be. */
export type PhotoType = 'image/jpeg' | 'image/png' | 'image/webp';

export interface Photo {
  type: PhotoType;
  bytes: Uint8Array;
}

/** A swatch as the book tells it: when it was saved, and whether it has a photo, by when that was. */
export interface KeptSwatch {
  swatch: Swatch;
  savedAt: Date;
  photoAt: Date | null;
}

const GONE = 'There is no such swatch: it may have been taken out of the book.';

/** The swatch book. */
export class SwatchStore {
  constructor(private readonly db: Pick<Database, 'query' | 'transaction'>) {}

  /** All swatches, the newest first. */
  async list(): Promise<KeptSwatch[]> {
    const { rows } = await this.db.query<{ document: unknown; saved_at: Date; photo_at: Date | null }>(
      `select s.document, s.saved_at, p.saved_at as photo_at
       from swatches s left join swatch_photos p on p.swatch_id = s.id order by s.made_at desc, s.id`,
    );
    return rows.map(({ document, saved_at, photo_at }) => ({
      swatch: SwatchSchema.parse(document),
      savedAt: saved_at,
      photoAt: photo_at,
    }));
  }

  /** Puts a swatch into the book, or in the place of what it was. @throws ApiError 413 when the book is full */
  save(swatch: Swatch): Promise<Date> {
    return this.db.transaction(async (tx) => {
      const { rows } = await tx.query<{ saved_at: Date }>(
        `insert into swatches (id, document) values ($1, $2)
         on conflict (id) do update set document = excluded.document, saved_at = now() returning saved_at`,
        [swatch.id, JSON.stringify(swatch)],
      );
      const { rows: counted } = await tx.query<{ n: number }>('select count(*)::int as n from swatches');
      if (counted[0]!.n > MOST_SWATCHES)
        throw new ApiError(413, `A studio keeps at most ${MOST_SWATCHES} swatches.`);
      return rows[0]!.saved_at;
    });
  }

  /** Takes a swatch out, and its photo with it. @throws ApiError 404 */
  async remove(id: string): Promise<void> {
    const { rows } = await this.db.query('delete from swatches where id = $1 returning id', [id]);
    if (!rows.length) throw new ApiError(404, GONE);
  }

  /** @throws ApiError 404 when there is no such swatch, or it has no photo */
  async photo(id: string): Promise<Photo> {
    const { rows } = await this.db.query<Photo>(
      'select type, bytes from swatch_photos where swatch_id = $1',
      [id],
    );
    if (!rows[0]) throw new ApiError(404, 'This swatch has no photo.');
    return rows[0];
  }

  /** Puts a photo in the place of the one before. @throws ApiError 404 when there is no such swatch */
  async savePhoto(id: string, { type, bytes }: Photo): Promise<Date> {
    const { rows } = await this.db.query<{ saved_at: Date }>(
      `insert into swatch_photos (swatch_id, type, bytes)
       select id, $2, $3 from swatches where id = $1
       on conflict (swatch_id) do update set type = excluded.type, bytes = excluded.bytes, saved_at = now()
       returning saved_at`,
      [id, type, bytes],
    );
    if (!rows[0]) throw new ApiError(404, GONE);
    return rows[0].saved_at;
  }

  async removePhoto(id: string): Promise<void> {
    await this.db.query('delete from swatch_photos where swatch_id = $1', [id]);
  }
}

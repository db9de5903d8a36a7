import type { KindName } from '@cordelina/core';
import type { Db } from './db.js';
import { tellHappening } from './happenings.js';

/** What a photo may be. */
export type PhotoType = 'image/jpeg' | 'image/png' | 'image/webp';

export interface Photo {
  type: PhotoType;
  bytes: Uint8Array;
}

/** The photos of one kind of document: one each, kept by itself, so that a list reads none. */
export class PhotoStore {
  constructor(
    private readonly db: Db,
    private readonly studio: string,
    private readonly kind: KindName,
  ) {}

  /** When each document's photo was put there. */
  async times(): Promise<Map<string, string>> {
    const rows = await this.db.query<{ document_id: string; saved_at: Date }>(
      'select document_id, saved_at from photos where studio_id = $1 and kind = $2',
      [this.studio, this.kind],
    );
    return new Map(rows.map((row) => [row.document_id, row.saved_at.toISOString()]));
  }

  /** Null when there is no such document, or it has no photo. */
  async photo(id: string): Promise<Photo | null> {
    const [photo] = await this.db.query<Photo>(
      `select p.type, p.bytes from photos p join documents d
         on d.studio_id = p.studio_id and d.kind = p.kind and d.id = p.document_id
       where p.studio_id = $1 and p.kind = $2 and p.document_id = $3 and d.deleted_at is null`,
      [this.studio, this.kind, id],
    );
    return photo ?? null;
  }

  /** Puts a photo in the place of the one before; null when there is no such document. */
  async save(id: string, { type, bytes }: Photo): Promise<string | null> {
    const [row] = await this.db.query<{ saved_at: Date }>(
      `insert into photos (studio_id, kind, document_id, type, bytes)
       select studio_id, kind, id, $4, $5 from documents
       where studio_id = $1 and kind = $2 and id = $3 and deleted_at is null
       on conflict (studio_id, kind, document_id)
         do update set type = excluded.type, bytes = excluded.bytes, saved_at = now()
       returning saved_at`,
      [this.studio, this.kind, id, type, bytes],
    );
    if (row) await this.changed(id);
    return row?.saved_at.toISOString() ?? null;
  }

  async remove(id: string): Promise<void> {
    await this.db.query('delete from photos where studio_id = $1 and kind = $2 and document_id = $3', [
      this.studio,
      this.kind,
      id,
    ]);
    await this.changed(id);
  }

  private async changed(id: string): Promise<void> {
    await tellHappening(this.db, this.studio, { of: this.kind, id, kind: 'photographed' });
    await this.db.saved();
  }
}

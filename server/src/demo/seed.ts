import {
  KINDS,
  SWATCH,
  summarise,
  THE_STUDIO,
  type DocumentOf,
  type Kind,
  type KindName,
} from '@cordelina/core';
import { type Db } from '../store/db.js';
import { DocumentStore } from '../store/documents.js';
import { pack } from '../store/packing.js';
import { demoDesigns } from './designs.js';
import { demoKnitting } from './knitting.js';
import { demoSwatches } from './swatches.js';

/** Puts the demo designs, their swatches and what is on the needles into a new, empty workroom. */
export async function seedDemo(db: Db): Promise<void> {
  const designs = new DocumentStore(db, THE_STUDIO, 'design');
  const all = demoDesigns();
  for (const design of all) {
    await designs.create(design.id, design.title, pack(design));
    await designs.keepSummary(design.id, 1, summarise(design));
  }
  const swatches = new DocumentStore(db, THE_STUDIO, 'swatch', SWATCH.most);
  // The first of them was knitted last.
  for (const swatch of demoSwatches().reverse())
    await swatches.create(swatch.id, swatch.name, pack(swatch), JSON.stringify(swatch));
  const { editions, knittings, notes } = demoKnitting(all);
  const put = async <N extends KindName>(of: N, documents: readonly DocumentOf[N][]) => {
    const kind = KINDS[of] as unknown as Kind<DocumentOf[N]>;
    const store = new DocumentStore(db, THE_STUDIO, of, kind.most);
    for (const document of documents as readonly (DocumentOf[N] & { id: string })[])
      await store.create(
        document.id,
        kind.titleOf(document),
        pack(document),
        kind.isListedWhole ? JSON.stringify(document) : undefined,
      );
  };
  await put('edition', editions);
  await put('knitting', knittings);
  await put('note', notes);
}

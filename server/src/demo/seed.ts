import { SWATCH, summarise, THE_STUDIO } from '@cordelina/core';
import { type Db } from '../store/db.js';
import { DocumentStore } from '../store/documents.js';
import { pack } from '../store/packing.js';
import { demoDesigns } from './designs.js';
import { demoSwatches } from './swatches.js';

/** Puts the demo designs and their swatches into a new, empty workroom. */
export async function seedDemo(db: Db): Promise<void> {
  const designs = new DocumentStore(db, THE_STUDIO, 'design');
  for (const design of demoDesigns()) {
    await designs.create(design.id, design.title, pack(design));
    await designs.keepSummary(design.id, 1, summarise(design));
  }
  const swatches = new DocumentStore(db, THE_STUDIO, 'swatch', SWATCH.most);
  // The first of them was knitted last.
  for (const swatch of demoSwatches().reverse())
    await swatches.create(swatch.id, swatch.name, pack(swatch), JSON.stringify(swatch));
}

import { summarise } from '@cordelina/core';
import type { DesignStore } from '../store/designs.js';
import { pack } from '../store/packing.js';
import type { SwatchStore } from '../store/swatches.js';
import { demoDesigns } from './designs.js';
import { demoSwatches } from './swatches.js';

/** Puts the demo designs and their swatches into a new, empty workroom. */
export async function seedDemo(store: DesignStore, swatches: SwatchStore): Promise<void> {
  for (const design of demoDesigns()) {
    await store.create(design.id, design.title, pack(design));
    await store.keepSummary(design.id, 1, summarise(design));
  }
  // The first of them was knitted last.
  for (const swatch of demoSwatches().reverse()) await swatches.save(swatch);
}

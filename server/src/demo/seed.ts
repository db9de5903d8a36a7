import { summarise } from '@cordelina/core';
import type { DesignStore } from '../store/designs.js';
import { pack } from '../store/packing.js';
import { demoDesigns } from './designs.js';

/** Puts the demo designs into a new, empty workroom. */
export async function seedDemo(store: DesignStore): Promise<void> {
  for (const design of demoDesigns()) {
    await store.create(design.id, design.title, pack(design));
    await store.keepSummary(design.id, 1, summarise(design));
  }
}

import type { DesignStore } from '../store/designs.js';
import { demoDesigns } from './designs.js';

/** Puts the demo designs into a new, empty workroom. */
export async function seedDemo(store: DesignStore): Promise<void> {
  for (const design of demoDesigns()) await store.create(design);
}

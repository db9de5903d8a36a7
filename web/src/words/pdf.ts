import type { Design } from '@cordelina/core';
import { fetchPdf } from '../sync/server.js';
import { saveFile } from '../ui/save-file.js';

/** Has the server set a design's sheet as a PDF, and saves it on the person's own disk. */
export async function saveAsPdf(
  design: Design,
  corrections: readonly string[],
): Promise<{ pages: number; missing: string }> {
  const { file, pages, missing } = await fetchPdf(design, corrections);
  saveFile(file, design.title, 'pdf');
  return { pages, missing };
}

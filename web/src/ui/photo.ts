import { bitmapOf, NoPicture } from '../workers/picture-in.js';

/** Photos are kept no larger than this on their longer side: enough to see each stitch of a swatch. */
const LONGEST_SIDE = 1600;

/**
 * A photo as the book keeps it: opened as a picture, turned as it was taken, and made smaller.
 *
 * @throws NoPicture where it cannot be opened as one
 */
export async function photoOf(file: Blob): Promise<Blob> {
  const picture = await bitmapOf(file);
  const scale = Math.min(1, LONGEST_SIDE / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(picture.width * scale));
  canvas.height = Math.max(1, Math.round(picture.height * scale));
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const made = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.85));
  if (!made) throw new NoPicture('This photo could not be made small enough to keep.');
  return made;
}

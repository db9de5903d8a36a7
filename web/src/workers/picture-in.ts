import { imageSize } from 'image-size';

/** A file that is no picture, or none that can be opened here; the message is for the person. */
export class NoPicture extends Error {}

/** What has more pixels than this is not opened: a few bytes may say that they hold millions. */
const MOST_OPENED = 64_000_000;

/**
 * A file opened as a picture. How large it is is asked of its first bytes, before anything is made of it.
 *
 * @throws NoPicture
 */
export async function bitmapOf(file: Blob): Promise<ImageBitmap> {
  const head = new Uint8Array(await file.slice(0, 4 * 1024 * 1024).arrayBuffer());
  let size: { width: number; height: number };
  try {
    size = imageSize(head);
  } catch {
    throw new NoPicture('This file is no picture that the browser can open: choose a JPEG, PNG or WebP.');
  }
  if (size.width * size.height > MOST_OPENED)
    throw new NoPicture(
      `This picture has ${size.width} × ${size.height} pixels; at most ${MOST_OPENED / 1e6} million are opened.`,
    );
  try {
    return await createImageBitmap(file);
  } catch {
    throw new NoPicture('This file is no picture that the browser can open: choose a JPEG, PNG or WebP.');
  }
}

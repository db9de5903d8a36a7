/** A title as the name of a file, without its ending. */
export const fileName = (title: string): string =>
  title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'design';

/** A busy machine may begin to save only so many milliseconds later: until then the file is held. */
const HELD = 60_000;

/** Saves something on the person's own disk, under a name made of a title. */
export function saveFile(file: Blob, title: string, ending: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = `${fileName(title)}.${ending}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), HELD);
}

/** Saves something on the person's own disk, under a name made of a title. */
export function saveFile(file: Blob, title: string, ending: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = `${title.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'design'}.${ending}`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}

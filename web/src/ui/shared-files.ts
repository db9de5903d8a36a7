/** Files that another program shared with the installed page: its service worker lays them here until the page takes them. */
const SHELF = 'shared-files';

export async function takeShared(): Promise<File[]> {
  if (!('caches' in window)) return [];
  const shelf = await caches.open(SHELF);
  const files: File[] = [];
  for (const request of await shelf.keys()) {
    const answer = await shelf.match(request);
    const name = decodeURIComponent(answer?.headers.get('X-Name') ?? 'shared file');
    if (answer) files.push(new File([await answer.blob()], name));
    await shelf.delete(request);
  }
  return files;
}

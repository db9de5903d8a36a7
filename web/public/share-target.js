// Takes what another program shares with the installed page, and lays it on the shelf the workroom takes it from.
self.addEventListener('fetch', (event) => {
  const { request } = event;
  if (request.method !== 'POST' || new URL(request.url).pathname !== '/share') return;
  event.respondWith(
    (async () => {
      const given = await request.formData();
      const shelf = await caches.open('shared-files');
      const files = given.getAll('files').filter((one) => one instanceof File);
      const text = ['title', 'text', 'url']
        .map((name) => given.get(name))
        .filter((one) => typeof one === 'string' && one);
      if (!files.length && text.length)
        files.push(new File([text.join('\n\n')], 'shared text.txt', { type: 'text/plain' }));
      await Promise.all(
        files
          .slice(0, 200)
          .map((file, i) =>
            shelf.put(
              `/shared/${Date.now()}-${i}`,
              new Response(file, { headers: { 'X-Name': encodeURIComponent(file.name) } }),
            ),
          ),
      );
      return Response.redirect('/?shared', 303);
    })(),
  );
});

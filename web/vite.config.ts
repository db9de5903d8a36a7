import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig, type Plugin } from 'vite';
import { fileURLToPath } from 'node:url';
import license from 'rollup-plugin-license';
import { VitePWA } from 'vite-plugin-pwa';
import { TOKENS } from '../core/src/drawing/inks.js';

/** What else than this program is in the build, with whose it is and on what terms: `/notices.txt`. */
const notices = () =>
  license({
    thirdParty: {
      includePrivate: false,
      output: { file: fileURLToPath(new URL('dist/notices.txt', import.meta.url)), encoding: 'utf-8' },
    },
  });

/** Files that designs and patterns come in. */
const FILES = {
  'application/json': ['.json'],
  'text/csv': ['.csv'],
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': ['.xlsx'],
  'application/zip': ['.zip'],
  'text/plain': ['.txt', '.md'],
  // Charts in pictures are traced.
  'image/png': ['.png'],
  'image/jpeg': ['.jpg', '.jpeg'],
  'image/webp': ['.webp'],
  'application/pdf': ['.pdf'],
};

const THREAD = '?thread';

/**
 * `import address from './some.worker.ts?thread'`: a worker as a script of the page's own. What it shares with the page, and
 * with other workers, is fetched once; Vite's own workers each bring all of it again.
 */
function threads(): Plugin {
  let isServed = false;
  return {
    name: 'threads',
    enforce: 'pre',
    configResolved: ({ command }) => void (isServed = command === 'serve'),
    load(id) {
      if (!id.endsWith(THREAD)) return null;
      const file = id.slice(0, -THREAD.length);
      if (isServed) return `export { default } from ${JSON.stringify(`${file}?worker&url`)};`;
      return `export default import.meta.ROLLUP_FILE_URL_${this.emitFile({ type: 'chunk', id: file })};`;
    },
  };
}

export default defineConfig({
  // The core as it is written: only what the page uses of it goes into the page.
  resolve: { conditions: ['source', ...defaultClientConditions] },
  plugins: [
    threads(),
    react(),
    tailwindcss(),
    notices(),
    // The page is kept by the browser whole, and a newer one waits until it is asked for.
    VitePWA({
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Cordelina',
        short_name: 'Cordelina',
        description: 'A workroom for knitwear designers who chart cables.',
        theme_color: TOKENS.fleece,
        background_color: TOKENS.fleece,
        display: 'standalone',
        // What other programs hand to the installed page: by opening a file with it, or by sharing with it.
        file_handlers: [{ action: '/', accept: FILES }],
        share_target: {
          action: '/share',
          method: 'POST',
          enctype: 'multipart/form-data',
          params: {
            title: 'title',
            text: 'text',
            url: 'url',
            files: [
              {
                name: 'files',
                accept: Object.entries(FILES).flatMap(([type, endings]) => [type, ...endings]),
              },
            ],
          },
        },
        icons: [
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
          { src: '/icon-maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
          { src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' },
        ],
      },
      workbox: {
        importScripts: ['/share-target.js'],
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        // The first page that is opened is kept at once, not only the second.
        clientsClaim: true,
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api(?:\/|$)/],
        // A version's picture stays as it is, and is there while the server is away.
        runtimeCaching: [
          {
            urlPattern: /\/api\/designs\/[^/]+\/picture\/\d+$/,
            handler: 'CacheFirst',
            options: {
              cacheName: 'pictures',
              expiration: { maxEntries: 400 },
              cacheableResponse: { statuses: [200] },
            },
          },
        ],
        maximumFileSizeToCacheInBytes: 8_000_000,
      },
    }),
  ],
  worker: { format: 'es' },
  build: {
    target: 'es2023',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    modulePreload: {
      // Every browser of the target announces scripts by itself.
      polyfill: false,
      // What makes workbooks is asked for by a worker, which has no document to announce its scripts in.
      resolveDependencies: (file, scripts) => (file.includes('exceljs') ? [] : scripts),
    },
    rolldownOptions: {
      output: {
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            // Whoever reads words fetches the grammar, and nobody else: it is a third of all there is.
            { name: 'grammar', test: /reader[\\/]grammar\.js$/ },
            // Whoever sets a piece out knits for its width; the bench has workers for that.
            {
              name: 'set-out',
              test: /core[\\/]src[\\/](?:fabric[\\/](?!proportions|swatch-of)|piece[\\/]lay-out)/,
            },
          ],
        },
      },
    },
  },
  server: {
    port: 5311,
    proxy: { '/api': { target: `http://127.0.0.1:${process.env.PORT ?? 5310}`, changeOrigin: false } },
  },
});

import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';
import { TOKENS } from '../core/src/drawing/inks.js';

export default defineConfig({
  // The core as it is written: only what the page uses of it goes into the page.
  resolve: { conditions: ['source', ...defaultClientConditions] },
  plugins: [
    react(),
    tailwindcss(),
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
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        // The first page that is opened is kept at once, not only the second.
        clientsClaim: true,
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/api\//],
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
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: {
    port: 5311,
    proxy: { '/api': { target: `http://127.0.0.1:${process.env.PORT ?? 5310}`, changeOrigin: false } },
  },
});

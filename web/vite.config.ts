import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  worker: { format: 'es' },
  build: { target: 'es2023', assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { port: 5311, proxy: { '/api': `http://127.0.0.1:${process.env.PORT ?? 5310}` } },
});

import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [react()],
  build: {
    outDir: '../internal/server/dist',
    emptyOutDir: false, // the folder itself is kept in git; the Makefile empties it
    chunkSizeWarningLimit: 1500,
    assetsInlineLimit: 0,
  },
  // The server takes requests of its own pages alone: the name it goes by is passed on.
  server: {
    proxy: { '/api': { target: process.env.DORBIN_SERVER ?? 'http://127.0.0.1:8181', changeOrigin: true } },
  },
  test: { environment: 'node' },
});

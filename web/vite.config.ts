import react from '@vitejs/plugin-react';
import { readFileSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress } from 'node:zlib';
import type { Plugin } from 'vite';
import { defineConfig } from 'vitest/config';
import { FIRST_ROOMS } from './src/words/firstRooms.ts';

/** Gives the texts of the catalogue in two modules: what the packets' view needs, and the rest. */
function texts(): Plugin {
  const FIRST = 'virtual:texts/first';
  const OTHER = 'virtual:texts/other';
  const catalogue = join(import.meta.dirname, 'src/words/en.json');
  return {
    name: 'texts',
    resolveId: (id) => (id === FIRST || id === OTHER ? `\0${id}` : undefined),
    load(id) {
      if (id !== `\0${FIRST}` && id !== `\0${OTHER}`) return undefined;
      this.addWatchFile(catalogue);
      const all = Object.entries(JSON.parse(readFileSync(catalogue, 'utf8')) as Record<string, unknown>);
      const isFirst = (room: string) => (FIRST_ROOMS as readonly string[]).includes(room);
      const chosen = all.filter(([room]) => isFirst(room) === (id === `\0${FIRST}`));
      return `export default ${JSON.stringify(Object.fromEntries(chosen))}`;
    },
  };
}

/** Lays scripts and styles down compressed as well, for browsers that take them so. */
function brotli(): Plugin {
  const compress = promisify(brotliCompress);
  return {
    name: 'brotli',
    apply: 'build',
    async writeBundle({ dir = '' }, bundle) {
      // not before: until then scripts are changed
      for (const name of Object.keys(bundle).filter((file) => /\.(js|css)$/.test(file))) {
        await writeFile(join(dir, `${name}.br`), await compress(await readFile(join(dir, name))));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), texts(), brotli()],
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
  test: { environment: 'node', setupFiles: './src/words/loadAll.ts' },
});

import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

/** Packs each script and style beside itself once, so that the server need not at every request. */
function packed(): Plugin {
  return {
    name: 'packed',
    apply: 'build',
    writeBundle(options) {
      const folder = join(options.dir ?? 'dist', 'assets');
      for (const name of readdirSync(folder).filter((file) => /\.(js|css)$/.test(file))) {
        const file = join(folder, name);
        writeFileSync(`${file}.gz`, gzipSync(readFileSync(file), { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), packed()],
  css: {
    preprocessorOptions: { scss: { quietDeps: true, silenceDeprecations: ['import'] } },
  },
  build: { chunkSizeWarningLimit: 700 },
  server: { proxy: { '/api': 'http://127.0.0.1:8642' } },
});

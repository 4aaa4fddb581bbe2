import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

/** Decoders behind the library's one door that the page never asks for; left out of the bundle. */
const external = /^@audio\/decode-(ac3|aiff|amr|ape|avi|caf|dsd|dts|eac3|mod|mpc|qoa|tta|wavpack|webm|wma)$/;

export default defineConfig({
  plugins: [react(), tailwindcss()],
  resolve: { alias: { 'node:module': fileURLToPath(new URL('./no-node.ts', import.meta.url)) } },
  build: {
    outDir: '../build/web',
    emptyOutDir: true,
    target: 'es2023',
    // The decoders are large and loaded only when a file of their kind is opened.
    chunkSizeWarningLimit: 3000,
    rolldownOptions: {
      output: {
        // One script for what every view needs, which compresses better than several.
        codeSplitting: {
          groups: [
            {
              name: 'frame',
              test: /node_modules\/(react|react-dom|react-router|scheduler|@tanstack\/react-query|@tanstack\/query-core|hono|react-dropzone|file-selector)\//,
            },
            // What the first page chooses with, and no more of its library.
            { name: 'choice', test: /@headlessui\/react\/dist\/components\/(radio-group|label|description)\// },
          ],
        },
      },
    },
  },
  worker: { format: 'es', rolldownOptions: { external } },
});

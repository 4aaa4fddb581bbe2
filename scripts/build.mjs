// Builds everything that runs: the server with its worker threads and the command line (one file each, libraries stay
// in node_modules), and the page.
import { rm } from 'node:fs/promises';
import { build as bundle } from 'esbuild';
import { build as buildPage } from 'vite';

await rm('build/server', { recursive: true, force: true });
await bundle({
  entryPoints: {
    'server/main': 'server/main.ts',
    'server/import-worker': 'server/imports/worker.ts',
    'server/build-worker': 'server/builds/worker.ts',
    'server/speech-worker': 'server/speech/worker.ts',
    'cli/main': 'cli/main.ts',
    'cli/run': 'cli/run.ts',
  },
  outdir: 'build',
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  logLevel: 'warning',
  plugins: [
    {
      name: 'own-packages-only',
      setup({ onResolve }) {
        onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
          kind === 'entry-point' || path.startsWith('@tambur/') ? undefined : { path, external: true },
        );
      },
    },
  ],
});
await buildPage({ root: 'web', logLevel: 'warn' });

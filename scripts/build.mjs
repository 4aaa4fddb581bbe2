// Builds everything that runs: the server with its worker threads and the command line (one file each, libraries stay
// in node_modules), and the page.
import { readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
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

// The server sends these in place of the files themselves to every browser that takes them.
const compress = promisify(brotliCompress);
const pageFiles = await readdir('build/web', { recursive: true });
await Promise.all(
  pageFiles
    .filter((name) => /\.(js|css|html|svg|json)$/.test(name))
    .map(async (name) => {
      const path = join('build/web', name);
      const bytes = await readFile(path);
      // The decoders are large and the best quality is slow; what every visit loads is small.
      const quality = bytes.length < 500_000 ? constants.BROTLI_MAX_QUALITY : 5;
      await writeFile(`${path}.br`, await compress(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: quality } }));
    }),
);

// Builds everything that runs: the server with its worker threads and the command line (one file each, libraries stay
// in node_modules), and the page.
import { readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import { build as bundle } from 'esbuild';
import { build as buildPage } from 'vite';

for (const folder of ['build/server', 'build/cli']) await rm(folder, { recursive: true, force: true });

/** Small packages that the command line takes into its own files: finding each of them on the disk takes longer than using it. */
const SMALL = [
  'commander',
  'fastest-levenshtein',
  'fflate',
  'fractional-indexing',
  'jsonc-parser',
  'lru-cache',
  'p-limit',
  'valibot',
  'yocto-queue',
];

/** A large table, which few commands need: it is read when it is first asked for something. */
const TABLE = 'any-ascii';
const readLate = {
  name: 'read-late',
  setup({ onResolve, onLoad }) {
    onResolve({ filter: new RegExp(`^(\\./)?${TABLE}(\\.cjs)?$`) }, ({ path }) =>
      path === TABLE ? { path, namespace: 'late' } : { path, external: true },
    );
    onLoad({ filter: /./, namespace: 'late' }, () => ({
      contents: `let read; export default (text) => (read ??= require('./${TABLE}.cjs').default)(text);`,
    }));
  },
};

/** Bundles for Node: what is ours, and the packages that are named; others stay in node_modules. */
const forNode = (packages, plugins = []) => ({
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: true,
  logLevel: 'warning',
  plugins: [
    ...plugins,
    {
      name: 'packages-outside',
      setup({ onResolve }) {
        onResolve({ filter: /^[^./]/ }, ({ path, kind }) => {
          const isInside = path.startsWith('@tambur/') || packages.includes(path);
          return kind === 'entry-point' || isInside ? undefined : { path, external: true };
        });
      },
    },
  ],
});
await bundle({
  ...forNode([]),
  entryPoints: {
    main: 'server/main.ts',
    'import-worker': 'server/imports/worker.ts',
    'decode-thread': 'server/imports/decode-thread.ts',
    'build-worker': 'server/builds/worker.ts',
    'device-worker': 'server/wholes/device-worker.ts',
    'export-worker': 'server/exports/worker.ts',
    'speech-worker': 'server/speech/worker.ts',
  },
  outdir: 'build/server',
});
await bundle({
  ...forNode([TABLE]),
  entryPoints: [TABLE],
  outfile: `build/cli/${TABLE}.cjs`,
  format: 'cjs',
  sourcemap: false,
});
// Each command for itself, so that it loads no more of core than it needs, and in pieces, so that it reads no decoder
// before it needs one.
const commandLine = {
  ...forNode(SMALL, [readLate]),
  outdir: 'build/cli',
  splitting: true,
  minify: true,
  keepNames: true,
  mainFields: ['module', 'main'],
  // One of the packages is of the older kind, and asks for Node's own modules by this name.
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
};
await bundle({ ...commandLine, entryPoints: { main: 'cli/main.ts' } });
await bundle({ ...commandLine, entryPoints: { 'beside-thread': 'cli/beside-thread.ts' } });
await bundle({ ...commandLine, entryPoints: { 'clip-thread': 'cli/clip-thread.ts' } });
for (const file of await readdir('cli/commands')) {
  const name = file.replace('.ts', '');
  await bundle({
    ...commandLine,
    stdin: {
      contents: `import { runCommand } from './run-command.ts';
import * as command from './commands/${file}';
await runCommand('${name}', command);`,
      resolveDir: 'cli',
      sourcefile: `${name}.ts`,
      loader: 'ts',
    },
    entryNames: name,
  });
}
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

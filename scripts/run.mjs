// Bundles a script that is written in TypeScript, and runs it: node scripts/run.mjs bench/speed.ts
import { basename } from 'node:path';
import { build } from 'esbuild';

// The script sees its own arguments, and not how it was begun.
const [file] = process.argv.splice(2, 1);
const outfile = `build/${basename(file, '.ts')}.mjs`;
await build({
  entryPoints: [file],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  alias: { '@tambur/core': './core/index.ts', '@tambur/codecs': './codecs/index.ts' },
  logLevel: 'warning',
});
await import(`../${outfile}`);

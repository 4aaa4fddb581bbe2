// Bundles a benchmark that is written in TypeScript, and runs it: node bench/run.mjs speed
import { build } from 'esbuild';

const name = process.argv[2];
const outfile = `build/bench-${name}.mjs`;
await build({
  entryPoints: [`bench/${name}.ts`],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  alias: { '@tambur/core': './core/index.ts', '@tambur/codecs': './codecs/index.ts' },
  logLevel: 'warning',
});
await import(`../${outfile}`);

// Compiles the *.as.ts files to SIMD WebAssembly and writes it as a TypeScript module, so that core needs no loader and no
// file access. Run by `npm run kernel`; with --check it only says whether kernel.wasm.ts is current (exit 1 if not).
import { readFile, writeFile } from 'node:fs/promises';
import asc from 'assemblyscript/asc';

const sources = ['kernel.as.ts', 'transform.as.ts'];
const here = new URL('.', import.meta.url);
const outFile = new URL('kernel.wasm.ts', here);
let wasm;
const { error, stderr } = await asc.main(
  [...sources, '--outFile', 'kernel.wasm', '-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd'],
  {
    readFile: (name) => (sources.includes(name) ? readFile(new URL(name, here), 'utf8') : null),
    writeFile: (name, data) => {
      if (name === 'kernel.wasm') wasm = data;
    },
    listFiles: () => [],
  },
);
if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
const text = `// Made from ${sources.join(' and ')} by \`npm run kernel\`; do not edit.
export const kernelBase64 =
  '${Buffer.from(wasm).toString('base64')}';
`;
if (process.argv.includes('--check')) {
  if ((await readFile(outFile, 'utf8')) !== text) {
    console.error('core/kernel/kernel.wasm.ts is older than its sources: run `npm run kernel`');
    process.exit(1);
  }
} else {
  await writeFile(outFile, text);
  console.log(`kernel.wasm.ts: ${wasm.length} bytes of WebAssembly`);
}

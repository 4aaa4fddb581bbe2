import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { wholeOf } from '@tambur/core';
import fc from 'fast-check';
import { afterAll, describe, expect, test } from 'vitest';
import { createDiskStore, growingFile, openDiskFile } from './index.ts';

const folder = mkdtempSync(join(tmpdir(), 'store-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

let count = 0;
const fresh = () => join(folder, `file-${count++}`);

test('whatever the pieces, the file holds them one after the other, and says its size', () => {
  const sizes = fc.array(fc.oneof(fc.nat(3000), fc.constantFrom(0, 1 << 20, (1 << 20) + 1)), { maxLength: 6 });
  fc.assert(
    fc.property(sizes, (lengths) => {
      const path = fresh();
      const pieces = lengths.map((length, k) => Uint8Array.from({ length }, (_, i) => (i * 31 + k) % 256));
      const whole = Buffer.concat(pieces);
      const store = createDiskStore(path);
      for (const piece of pieces) store.write(piece);
      expect(Buffer.from(wholeOf(store.written())).equals(whole)).toBe(true);
      expect(store.size).toBe(whole.length);
      store.close();
      expect(readFileSync(path).equals(whole)).toBe(true);
    }),
    { numRuns: 15 },
  );
});

test('a file that is there is never written over, and one that is not there is not opened', () => {
  const path = fresh();
  createDiskStore(path).close();
  expect(() => createDiskStore(path)).toThrow(expect.objectContaining({ code: 'EEXIST' }));
  expect(() => openDiskFile(fresh())).toThrow(expect.objectContaining({ code: 'ENOENT' }));
  expect(() => openDiskFile(folder)).toThrow(expect.objectContaining({ code: 'EISDIR' }));
  expect(existsSync(path)).toBe(true);
});

test('bytes that are put in the place of others are there when it is read', () => {
  const path = join(folder, 'amended.bin');
  const store = createDiskStore(path);
  const large = new Uint8Array(2_500_000).fill(7);
  store.write(Uint8Array.of(1, 2, 3, 4));
  store.write(large);
  store.amend({ at: 1, bytes: Uint8Array.of(9, 8) });
  store.write(Uint8Array.of(5));
  const file = store.written();
  expect([...file.read(0, 5)]).toEqual([1, 9, 8, 4, 7]);
  expect([...file.read(file.size - 1, file.size)]).toEqual([5]);
  const bytes = readFileSync(path);
  expect(Buffer.from(wholeOf(file)).equals(bytes)).toBe(true);
  expect(bytes.length).toBe(store.size);
  store.close();
});

describe('a file that is read while it is being written', () => {
  /** Tells another thread's growth after some time: reading waits for it. */
  const later = (shared: SharedArrayBuffer, ...told: readonly [place: number, value: bigint][]) =>
    new Worker(
      `const { workerData: [shared, told] } = require('node:worker_threads');
       const counts = new BigInt64Array(shared);
       for (const [place, value] of told) { Atomics.store(counts, place, value); Atomics.notify(counts, place); }`,
      { eval: true, workerData: [shared, told] },
    );

  test('waits for its size, and for the bytes that are asked for', () => {
    const store = createDiskStore(fresh());
    const bytes = Uint8Array.from({ length: 3_000_000 }, (_, i) => (i * 7) % 251);
    store.write(bytes);
    later(store.growth.shared, [0, 3_000_000n], [1, 2_000_000n]);
    const file = growingFile(store.path, store.growth);
    expect(file.size).toBe(3_000_000);
    expect(Buffer.from(file.read(1_999_000, 2_000_000)).equals(bytes.subarray(1_999_000, 2_000_000))).toBe(true);
    store.written();
    expect(Buffer.from(file.read(0, 3_000_000)).equals(bytes)).toBe(true);
    file.close();
    store.close();
  });

  test('is what there is, where another size was expected', () => {
    const store = createDiskStore(fresh());
    store.expect?.(100);
    store.write(Uint8Array.of(1, 2, 3));
    const file = growingFile(store.path, store.growth);
    store.written();
    expect([...file.read(0, 100)]).toEqual([1, 2, 3]);
    expect(growingFile(store.path, store.growth).size).toBe(3);
    store.close();
  });
});

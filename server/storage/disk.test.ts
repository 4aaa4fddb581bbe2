import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { InputError } from '@tambur/core';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { asDiskError, diskTrouble, refuseWhatWillNotFit, writeAll, writeWhole } from './disk.ts';
import { soundWriter } from './sound-file.ts';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'tambur-disk-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** A file that takes at most `most` bytes at a time, and then no more than `room` in all. */
function slow(most: number, room = Number.POSITIVE_INFINITY) {
  const parts: Uint8Array[] = [];
  let taken = 0;
  return {
    bytes: () => Buffer.concat(parts),
    async write(bytes: Uint8Array, at = 0, length = bytes.length) {
      const bytesWritten = Math.min(most, length, room - taken);
      parts.push(bytes.slice(at, at + bytesWritten));
      taken += bytesWritten;
      return { bytesWritten, buffer: bytes };
    },
  };
}

describe('writing', () => {
  test.each([1, 3, 999, 1000, 5000])('goes on until the last byte where %d at a time are taken', async (most) => {
    const bytes = Uint8Array.from({ length: 1000 }, (_, i) => i);
    const file = slow(most);
    await writeAll(file as never, bytes);
    expect(file.bytes().equals(Buffer.from(bytes))).toBe(true);
  });

  test('that the disk takes no more of is an error, not a short file', async () => {
    await expect(writeAll(slow(100, 250) as never, new Uint8Array(1000))).rejects.toMatchObject({ code: 'ENOSPC' });
  });

  test('of decoded sound survives short writes', async () => {
    const file = slow(4097);
    const writer = soundWriter(file as never, 2);
    const channels = [0, 1].map((c) => Float32Array.from({ length: 300_000 }, (_, i) => i * (c ? -1 : 1)));
    await writer.add(channels);
    await writer.end();
    const found = new Float32Array(Uint8Array.from(file.bytes()).buffer);
    expect(found).toHaveLength(600_000);
    expect([found[599_998], found[599_999]]).toEqual([299_999, -299_999]);
  });

  test('a small file as a whole replaces the older one, or leaves it', async () => {
    const path = join(folder, 'x.json');
    await writeWhole(path, 'old');
    await writeWhole(path, 'new');
    expect(readFileSync(path, 'utf8')).toBe('new');
    const file = await open(path, 'r');
    vi.spyOn(Object.getPrototypeOf(file), 'sync').mockRejectedValueOnce(
      Object.assign(new Error('full'), { code: 'ENOSPC' }),
    );
    await file.close();
    await expect(writeWhole(path, 'newer')).rejects.toThrow('full');
    expect(readFileSync(path, 'utf8')).toBe('new');
    expect(readdirSync(folder)).toEqual(['x.json', 'x.json.part']);
    vi.restoreAllMocks();
  });
});

describe('trouble with the disk is one sentence', () => {
  test.each([
    [Object.assign(new Error('x'), { code: 'ENOSPC' }), /^the disk is full/],
    [Object.assign(new Error('x'), { code: 'EMFILE' }), /^too many files/],
    // Errors lose their code on the way between threads; their words stay.
    [new Error("EROFS: read-only file system, open '/data/x'"), /^the disk is read-only/],
    [new Error('SQLITE_FULL: database or disk is full'), /^the disk is full/],
    [new Error('SQLITE_READONLY: attempt to write a readonly database'), /^the disk is read-only/],
    [new Error('SQLITE_CANTOPEN: unable to open database file'), /is gone/],
    [new Error('SQLITE_IOERR: disk I/O error'), /reports an error/],
  ])('%s', (error, words) => {
    expect(diskTrouble(error)).toMatch(words);
    expect(asDiskError(error)).toBeInstanceOf(InputError);
  });

  test.each([
    new Error('a mistake'),
    null,
    'words',
    new InputError('damaged', 'ENOSPC is in its name'),
  ])('%s is none of the disk', (error) => {
    if (!(error instanceof InputError)) expect(diskTrouble(error)).toBeNull();
    expect(asDiskError(error)).toBe(error);
  });

  test('what will not fit is not begun', async () => {
    await expect(refuseWhatWillNotFit(folder, 1e18, 'long.wav')).rejects.toThrow(
      /^long\.wav needs 1[^ ]* \S+ on the disk, and \S+ \S+ are free; make room on it\.$/,
    );
    await refuseWhatWillNotFit(folder, 1000, 'short.wav');
    writeFileSync(join(folder, 'x'), '');
  });
});

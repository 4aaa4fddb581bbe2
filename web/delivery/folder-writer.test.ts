import { createHash } from 'node:crypto';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { NotWritten, writeFolder } from './folder-writer.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const missing = () => new DOMException('not found', 'NotFoundError');

/** A card on which nothing can be written; what was made there is removed after being asked so many times. */
function fullCard(there: Map<string, string>, refusals: number, why = 'NoModificationAllowedError') {
  let asked = 0;
  const handle = {
    createWritable: async () => ({
      write: () => Promise.reject(new Error('the card is full')),
      abort: async () => undefined,
    }),
  };
  return {
    getFileHandle: async (name: string, options?: { create: boolean }) => {
      if (!there.has(name) && !options?.create) throw missing();
      if (!there.has(name)) there.set(name, '');
      return handle;
    },
    removeEntry: async (name: string) => {
      if (!there.has(name)) throw missing();
      if (asked++ < refusals) throw new DOMException('it is in use', why);
      there.delete(name);
    },
  } as unknown as FileSystemDirectoryHandle;
}

const bytes = new Uint8Array([1, 2, 3]);
const file = {
  path: 'bell.wav',
  sha256: createHash('sha256').update(bytes).digest('hex'),
  bytes: async () => bytes,
};

/** What becomes of the card, and what is said of it. */
async function written(card: FileSystemDirectoryHandle): Promise<unknown> {
  const fault = writeFolder(card, [file], new AbortController().signal, () => undefined).catch((error) => error);
  await vi.runAllTimersAsync();
  return fault;
}

test.each([
  { refusals: 0, isLeft: false, card: [] },
  { refusals: 3, isLeft: false, card: [] },
  { refusals: Number.POSITIVE_INFINITY, isLeft: true, card: ['bell.wav'] },
  { refusals: 1, why: 'NotAllowedError', isLeft: true, card: ['bell.wav'] },
])('a file that could not be written goes again once the browser lets go of it, or that it is left is said: %j', async ({
  refusals,
  why,
  isLeft,
  card,
}) => {
  const there = new Map<string, string>();
  const fault = await written(fullCard(there, refusals, why));
  expect(fault).toBeInstanceOf(NotWritten);
  expect(fault).toMatchObject({
    path: 'bell.wav',
    isLeft,
    message: 'bell.wav could not be written (the card is full); make room or choose another folder, and write again.',
  });
  expect([...there.keys()]).toEqual(card);
});

test('a folder that has the name of a file stays, empty as it may be', async () => {
  const card = {
    getFileHandle: () => Promise.reject(new DOMException('it is a folder', 'TypeMismatchError')),
    removeEntry: () => expect.unreachable('nothing was made, so nothing is removed'),
  } as unknown as FileSystemDirectoryHandle;
  expect(await written(card)).toMatchObject({ isLeft: false, message: expect.stringContaining('it is a folder') });
});

test('what was there before stays', async () => {
  const there = new Map([['bell.wav', 'an older one']]);
  expect(await written(fullCard(there, 0))).toMatchObject({ isLeft: false });
  expect([...there]).toEqual([['bell.wav', 'an older one']]);
});

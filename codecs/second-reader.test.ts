import { automaticSettings, type Library, type SecondReading, targetOf } from '@tambur/core';
import { expect, test } from 'vitest';
import { sources } from '../core/chain/fixtures/sources.ts';
import { makeFrom } from '../core/delivery/fixtures/make.ts';
import { library } from './index.ts';

const make = (used: Library | undefined) =>
  makeFrom(sources.plain, automaticSettings('x'), targetOf('portable-player'), used ? { library: used } : {});

test.each<[string, Partial<SecondReading>]>([
  ['another encoding', { encoding: 'aac' }],
  ['another rate', { sampleRate: 48_000 }],
  ['other channels', { channels: 1 }],
  ['another length', { frames: 20_000 }],
])('a second reader that finds %s stops the file', async (_, change) => {
  const doubting: Library = {
    ...library,
    readAgain: async (file, work) => ({ ...(await library.readAgain(file, work)), ...change }),
  };
  await expect(make(doubting)).rejects.toThrow('the finished mp3 file does not read back as it was written');
});

test('a first reader that finds less stops it too; without a library nothing is made', async () => {
  const short: Library = {
    ...library,
    async read(file) {
      const stream = await library.read(file);
      return {
        ...stream,
        async *blocks() {
          for await (const block of stream.blocks()) {
            yield block.map((samples) => samples.subarray(0, 100));
            return;
          }
        },
      };
    },
  };
  await expect(make(short)).rejects.toThrow('does not read back');
  await expect(make(undefined)).rejects.toThrow('no encoder of mp3 was passed in');
  expect((await make(library)).findings.every(({ verdict }) => verdict !== 'breaks')).toBe(true);
});

import { readdirSync, readFileSync } from 'node:fs';
import { concatenated, findEncoding, inMemory, interleave, likelyReadings } from '@tambur/core';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { openSource } from './index.ts';

const folder = new URL('../demo/sounds/', import.meta.url);
const sounds = await Promise.all(
  readdirSync(folder)
    .filter((name) => /\.(flac|ogg)$/.test(name))
    .sort()
    .map(async (name) => ({ name, ...(await openSource(new Uint8Array(readFileSync(new URL(name, folder))))) })),
);

/** The samples as headerless bytes. */
function bare(encodingId: string, channels: readonly Float32Array[]): Uint8Array {
  const encoding = findEncoding(encodingId);
  if (!encoding) throw new RangeError(encodingId);
  const samples = interleave(channels, new Float32Array(channels.length * channels[0].length));
  if (encoding.kind === 'float') return encoding.encode(samples);
  const full = 2 ** (encoding.linearBits - 1);
  const whole = Int32Array.from(samples, (value) => Math.max(-full, Math.min(full - 1, Math.round(value * full))));
  if (encoding.kind === 'integer') return encoding.encode(whole);
  const encoder = encoding.encoder(encoding.layout(channels.length, 8000));
  return concatenated([encoder.push(whole), encoder.finish()]);
}

const wanted = ['pcm-u8', 'pcm-s8', 'pcm-s16le', 'pcm-s16be', 'mu-law', 'a-law'];

describe('headerless files made from the demo sounds', () => {
  const results = sounds.flatMap(({ name, pcm }) =>
    wanted.flatMap((encoding) =>
      pcm.channels.map((_, i) => {
        const channels = pcm.channels.slice(0, i + 1);
        const likely = likelyReadings(inMemory(bare(encoding, channels)));
        const { encoding: found, channels: count } = likely[0].reading;
        const isRight = found === encoding && count === channels.length;
        return { isRight, label: `${name} as ${encoding} x ${channels.length}: ${found} x ${count}`, likely };
      }),
    ),
  );

  test('the right reading stands first in at least nine of ten', () => {
    const wrong = results.filter(({ isRight }) => !isRight).map(({ label }) => label);
    expect(results.length).toBeGreaterThan(60);
    expect(wrong.length / results.length, wrong.join('\n')).toBeLessThanOrEqual(0.1);
  });

  test('every reading says in words what speaks for it', () => {
    for (const { likely } of results) {
      for (const { why, bitsPerByte } of likely) {
        expect(why).toMatch(/^(smooth|fairly smooth|rough|like noise): \d\.\d bits of information in a byte; level/);
        expect(bitsPerByte).toBeLessThanOrEqual(8);
      }
    }
  });
});

test('bare ADPCM stands first in most, and nearly always among the six that are offered', () => {
  const ranks = sounds.flatMap(({ name, pcm }) =>
    ['ima-adpcm-low', 'ima-adpcm-high', 'oki-adpcm', 'oki-adpcm-low'].map((encoding) => {
      const likely = likelyReadings(inMemory(bare(encoding, pcm.channels.slice(0, 1))));
      const rank = likely.findIndex(({ reading }) => reading.encoding === encoding && reading.channels === 1);
      return { rank, label: `${name} as ${encoding}: ${rank}` };
    }),
  );
  const share = (most: number) => ranks.filter(({ rank }) => rank <= most).length / ranks.length;
  const all = ranks.map(({ label }) => label).join('\n');
  expect(ranks.length).toBe(40);
  expect(share(0), all).toBeGreaterThanOrEqual(0.7);
  expect(share(5), all).toBeGreaterThan(0.85);
});

test.each(['pcm-s24le', 'pcm-s24be', 'float-32le', 'pcm-u16le'])('%s is found too', (encoding) => {
  const bell = sounds.find(({ name }) => name === 'platform-bell.flac');
  const [first] = likelyReadings(inMemory(bare(encoding, bell?.pcm.channels.slice(0, 1) ?? [])));
  expect(first.reading).toMatchObject({ encoding, channels: 1 });
});

test('bytes in front that belong to no sample are left out', () => {
  const bell = sounds.find(({ name }) => name === 'platform-bell.flac');
  const bytes = bare('pcm-s16le', bell?.pcm.channels.slice(0, 1) ?? []);
  const shifted = new Uint8Array(bytes.length + 57);
  shifted.set(bytes, 57);
  expect(likelyReadings(inMemory(shifted), 57)[0].reading).toMatchObject({ encoding: 'pcm-s16le', skip: 57 });
});

test('any bytes at all get a ranking, none an error', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), fc.nat(500), (bytes, skip) => {
      const likely = likelyReadings(inMemory(bytes), skip);
      expect(likely.length > 0).toBe(bytes.length > skip);
      for (const { bitsPerByte } of likely) expect(bitsPerByte).toBeGreaterThanOrEqual(0);
    }),
    { numRuns: 200 },
  );
});

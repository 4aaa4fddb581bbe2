import { bitRatesAt, compressedEncodings, concatenated } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { someOf } from '../fixtures/some.ts';
import { library, openSource } from '../index.ts';

/** Every combination of rate, channels, stereo mode and bit rate that is offered can be made, and is what was asked for. */

/** Rates tried where an encoding carries any. */
const SOME_RATES = [8000, 11_025, 22_050, 44_100, 44_101, 96_000];

const offers = compressedEncodings.flatMap((encoding) =>
  (encoding.carries?.sampleRates ?? SOME_RATES).flatMap((sampleRate) =>
    ([1, 2] as const).flatMap((channels) =>
      (encoding.id === 'mp3' && channels === 2 ? (['joint', 'stereo'] as const) : (['joint'] as const)).map(
        (stereoMode) => ({ encoding, sampleRate, channels, stereoMode }),
      ),
    ),
  ),
);

const HZ = 500;

/** A tone of half of full scale on every channel. */
const toneOf = (sampleRate: number, channels: number, frames: number) =>
  Array.from({ length: channels }, () =>
    Float32Array.from({ length: frames }, (_, i) => 0.5 * Math.sin((2 * Math.PI * HZ * i) / sampleRate)),
  );

/** How loud that tone is, in the middle of a sound. */
function amplitude(samples: Float32Array, sampleRate: number): number {
  let [re, im] = [0, 0];
  const from = Math.round(samples.length / 4);
  const count = Math.floor(samples.length / 2 / (sampleRate / HZ)) * (sampleRate / HZ);
  for (let i = from; i < from + count; i++) {
    re += samples[i] * Math.cos((2 * Math.PI * HZ * i) / sampleRate);
    im += samples[i] * Math.sin((2 * Math.PI * HZ * i) / sampleRate);
  }
  return (2 * Math.hypot(re, im)) / count;
}

describe.each(offers)('$encoding.id, $sampleRate Hz, $channels channels, $stereoMode', (offer) => {
  const { encoding, sampleRate, channels, stereoMode } = offer;

  test('bit rates, the least and the most among them', async () => {
    const all = bitRatesAt(encoding, offer) ?? [0];
    const bitRates = new Set([...all.slice(0, 1), ...someOf(all, offers.indexOf(offer), 1), ...all.slice(-1)]);
    expect(bitRates.size).toBeGreaterThan(0);
    const frames = Math.round(0.3 * sampleRate);
    for (const bitRate of bitRates) {
      const about = `${bitRate} bit/s`;
      const encoder = await library.openEncoder({
        encoding: encoding.id,
        sampleRate,
        channels,
        bitRate,
        stereoMode,
        frames,
        infoFrame: true,
        bits: 16,
        tags: [],
      });
      const parts = [(await encoder.push(toneOf(sampleRate, channels, frames))).slice()];
      parts.push((await encoder.finish()).slice());
      const { facts, pcm } = await openSource(concatenated(parts));
      expect(facts, about).toMatchObject({ encoding: encoding.id, sampleRate, channels, frames });
      if (encoding.id === 'mp3') {
        expect(facts.bitRate, about).toBe(bitRate);
        expect(facts.bitRateMode, about).toBe('constant');
        if (channels === 2) expect(facts.jointStereo, about).toBe(stereoMode === 'joint');
      }
      // The level that goes in comes out: within 0.15 dB, and 0.7 dB where bits are few (measured).
      const db = 20 * Math.log10(amplitude(pcm.channels[0], sampleRate) / 0.5);
      expect(Math.abs(db), about).toBeLessThan(bitRate > 0 && bitRate < 64_000 * channels ? 0.7 : 0.15);
    }
  });
});

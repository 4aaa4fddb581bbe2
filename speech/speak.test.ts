import { describe, expect, test } from 'vitest';
import { openSource } from '../codecs/index.ts';
import { synthesiser } from '../disk/index.ts';
import { plainLetters } from './letters.ts';
import { type Prompt, VOICES } from './manner.ts';
import { speak } from './speak.ts';

const TEXT = 'Mind the doors, please. The cabin leaves for the upper station.';
const spoken = async (prompt: Partial<Prompt> & Pick<Prompt, 'voice'>) =>
  speak({ text: TEXT, speed: 1, pitch: 1, ...prompt }, await synthesiser());
const say = async (voice: string, change: Partial<Prompt> = {}) => openSource(await spoken({ voice, ...change }));

/** Pitch in Hz: the lag of the highest autocorrelation, the median of all voiced places. */
function pitchOf(samples: Float32Array, rate: number): number {
  const found: number[] = [];
  for (let start = 0; start + 2000 < samples.length; start += 1000) {
    const energy = (from: number) => samples.subarray(from, from + 1000).reduce((sum, value) => sum + value * value, 0);
    if (energy(start) < 2) continue;
    let best = 0;
    let at = 0;
    for (let lag = Math.round(rate / 350); lag < rate / 60; lag++) {
      let sum = 0;
      for (let i = start; i < start + 1000; i++) sum += samples[i] * samples[i + lag];
      const likeness = sum / Math.sqrt(energy(start) * energy(start + lag) + 1e-9);
      if (likeness > best + 0.02) [best, at] = [likeness, lag];
    }
    if (at > 0) found.push(rate / at);
  }
  return found.sort((a, b) => a - b)[Math.floor(found.length / 2)];
}

describe.each(VOICES)('$title', ({ id }) => {
  test('speaks, as a plain WAV file; speed and pitch do what they say', async () => {
    const [plain, fast, high] = await Promise.all([say(id), say(id, { speed: 1.5 }), say(id, { pitch: 1.4 })]);
    expect(plain.facts).toMatchObject({ container: 'wav', encoding: 'pcm-s16le', channels: 1, warnings: [] });
    const seconds = plain.facts.frames / plain.facts.sampleRate;
    expect(seconds).toBeGreaterThan(2);
    expect(seconds).toBeLessThan(8);
    expect(plain.facts.frames / fast.facts.frames).toBeCloseTo(1.5, 1);
    const ratio = pitchOf(high.pcm.channels[0], 16_000) / pitchOf(plain.pcm.channels[0], 16_000);
    expect(ratio).toBeGreaterThan(1.2);
    expect(ratio).toBeLessThan(1.65);
  });

  test('the same words in the same manner are the same bytes', async () => {
    const prompt = { text: 'Upper station.', voice: id };
    expect(await spoken(prompt)).toEqual(await spoken(prompt));
  });
});

test('what cannot be spoken is refused in words', async () => {
  await expect(spoken({ voice: 'woman', text: '漢字' })).rejects.toThrow(/^There is nothing to speak in "漢字"; write/);
});

test.each([
  ['Übergänge, café', 'Ubergange, cafe'],
  ['Straße', 'Strasse'],
  ['the guard\u2019s van \u2013 9:30', "the guard's van   9:30"],
  ['漢字', ' '],
])('%j is handed on as %j', (text, plain) => expect(plainLetters(text)).toBe(plain));

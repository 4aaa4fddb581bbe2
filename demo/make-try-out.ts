// Makes the card with planted faults and the recording of a made-up handheld that Try-out offers: npm run demo:try-out.
// They are kept in web/public/try-out.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { openSource } from '@tambur/codecs';
import { containerOf, encodingOf, inMemory, insert, packFile, resample, targetOf, wavFile } from '@tambur/core';
import { zipSync } from 'fflate';

const here = process.cwd();
const out = join(here, 'web/public/try-out');

/** A part of a demo sound, one channel, as loud as it can be. */
async function sound(file: string, from: number, to: number, rate: number): Promise<Float32Array> {
  const { pcm } = await openSource(readFileSync(join(here, 'demo/sounds', file)));
  const peakOf = (samples: Float32Array) => samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  const loudest = pcm.channels.reduce((a, b) => (peakOf(b) > peakOf(a) ? b : a));
  const part = loudest.subarray(Math.round(from * pcm.sampleRate), Math.round(to * pcm.sampleRate));
  const at = resample(part, pcm.sampleRate, rate);
  const peak = peakOf(at);
  return at.map((value) => (0.89 * value) / peak);
}

const doors = await sound('doors-closing.flac', 1.9, 2.81, 8000);
const upper = await sound('upper-station.ogg', 0.4, 1.15, 16_000);
const lower = await sound('lower-station.flac', 0.3, 1.18, 8000);
const storm = await sound('storm-warning.ogg', 3, 4.95, 8000);
const bell = await sound('platform-bell.flac', 0, 1.5, 8000);
const wav = (rate: number, ...channels: Float32Array[]) => wavFile({ sampleRate: rate, channels }, 16);
/** Of mu-law, which the handheld does not play. */
const muLaw = encodingOf('mu-law');
if (muLaw.kind !== 'integer') throw new Error('no whole numbers');
const companded = packFile(
  containerOf('wav'),
  { encoding: muLaw, sampleRate: 8000, channels: 1, frames: storm.length, stem: 'storm', tags: [] },
  muLaw.encode(Int32Array.from(storm, (value) => Math.round(32_767 * value))),
);

const files = {
  'bell.wave': wav(8000, bell),
  'doors.wav': wav(
    8000,
    doors.map((value) => 0.02 * value),
  ),
  'lower-station.wav': wav(8000, lower, lower),
  'storm-warning.wav': companded,
  'upper-station.wav': wav(16_000, upper),
};
mkdirSync(out, { recursive: true });
const mtime = new Date(2026, 0, 1);
const entries = Object.fromEntries(Object.entries(files).map(([name, bytes]) => [name, [bytes, { mtime }] as const]));
writeFileSync(join(out, 'guards-card.zip'), zipSync(entries as Parameters<typeof zipSync>[0]));

let seed = 11;
const random = () => {
  seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
  return seed / 2 ** 32;
};
const { player } = targetOf('two-way-radio-prompt');
const name = 'upper-station.wav';
const handheld = await insert([{ path: name, bytes: inMemory(files[name]) }], { player, lists: [], packs: [] });
const heard: number[] = [];
for await (const [block] of (await handheld.play(name)).heard()) heard.push(...block);
// Its clock is slow by 0.4 %; a room of 300 ms; a microphone with noise 20 dB below, somebody a second late.
const RATE = 16_000;
const dry = resample(Float32Array.from(heard), Math.round(8000 * 0.996), RATE);
const recorded = new Float32Array(dry.length + 2 * RATE);
const taps = [[0, 1], ...Array.from({ length: 40 }, () => [random() * 0.3, random() - 0.5] as const)] as const;
for (const [delay, gain] of taps) {
  const at = RATE + Math.round(delay * RATE);
  for (let i = 0; i < dry.length; i++) recorded[at + i] += gain * 10 ** ((-3 * delay) / 0.3) * dry[i];
}
const level = Math.sqrt(recorded.reduce((sum, value) => sum + value * value, 0) / dry.length);
const noisy = recorded.map((value) => 0.4 * (value + 0.1 * level * (random() + random() + random() - 1.5) * 2));
writeFileSync(join(out, 'upper-station-on-a-handheld.wav'), wav(RATE, noisy));

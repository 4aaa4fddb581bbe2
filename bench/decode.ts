// How fast each kind of file is decoded, and how fast peaks and facts are made of the sound, as multiples of real time.
// Run: npm run bench:decode
import { readdirSync, readFileSync } from 'node:fs';
import { openSource, openSourceStream } from '@tambur/codecs';
import {
  containerOf,
  encodingOf,
  inMemory,
  interleave,
  PeaksBuilder,
  packFile,
  SoundMeter,
  surveyStream,
} from '@tambur/core';
import { encodeVorbis, encodeWith } from '../codecs/fixtures/encode.ts';
import { random, type Sound } from '../codecs/fixtures/sounds.ts';
import { machine, median, writeSection } from './report.mjs';

const RUNS = 5;
const SECONDS = 60;

/** A minute of stereo: the recordings of the demo, one after the other, again and again. */
async function recordings(): Promise<Sound> {
  const channels = [new Float32Array(SECONDS * 44_100), new Float32Array(SECONDS * 44_100)];
  const names = readdirSync('demo/sounds').filter((name) => /\.(flac|mp3|ogg)$/.test(name));
  for (let at = 0, next = 0; at < channels[0].length; next++) {
    const { pcm } = await openSource(readFileSync(`demo/sounds/${names[next % names.length]}`));
    channels.forEach((channel, i) => {
      channel.set((pcm.channels[i] ?? pcm.channels[0]).subarray(0, channel.length - at), at);
    });
    at += pcm.channels[0].length;
  }
  return { sampleRate: 44_100, channels };
}

const sound = await recordings();
/** What measuring finds hardest: nothing of it can be left out. */
const noise = [7, 8].map((seed) => {
  const next = random(seed);
  return Float32Array.from({ length: SECONDS * 44_100 }, () => 0.6 * next() - 0.3);
});

function plain(container: string, encodingId: string, { sampleRate, channels }: Sound): Uint8Array {
  const encoding = encodingOf(encodingId);
  const frames = channels[0].length;
  const samples = interleave(channels, new Float32Array(frames * channels.length));
  const data =
    encoding.kind === 'float'
      ? encoding.encode(samples)
      : encoding.encode(Int32Array.from(samples, (value) => Math.round(value * (2 ** (encoding.linearBits - 1) - 1))));
  const layout = { encoding, sampleRate, channels: channels.length, frames, stem: 'x' };
  return packFile(containerOf(container), layout, data);
}

/** A file of the fixtures, which is short: its figure includes the start of its decoder. */
const fixture = (name: string) => new Uint8Array(readFileSync(`codecs/fixtures/files/${name}`));

const files: readonly (readonly [string, Uint8Array])[] = [
  ['WAV, 16 bit', plain('wav', 'pcm-s16le', sound)],
  ['WAV, 24 bit', plain('wav', 'pcm-s24le', sound)],
  ['WAV, 32-bit float', plain('wav', 'float-32le', sound)],
  ['WAV, mu-law', plain('wav', 'mu-law', sound)],
  ['AIFF, 16 bit', plain('aiff', 'pcm-s16be', sound)],
  ['AU, 16 bit', plain('au', 'pcm-s16be', sound)],
  ['CAF, 16 bit', plain('caf', 'pcm-s16le', sound)],
  ['MP3', await encodeWith('mp3', sound)],
  ['AAC in MPEG-4', await encodeWith('mp4', sound)],
  ['FLAC', await encodeWith('flac', sound)],
  ['Vorbis', await encodeVorbis(sound)],
  ...(
    [
      ['Opus, 1 s', 'tone.opus'],
      ['Opus in WebM, 1 s', 'tone-opus.webm'],
      ['ALAC, 1 s', 'tone-alac.m4a'],
      ['AAC in ADTS, 1 s', 'tone.aac'],
      ['WMA, 1 s', 'tone.wma'],
      ['AMR, 1 s', 'tone.amr'],
      ['IMA ADPCM, 1 s', 'adpcm-ima.wav'],
      ['Microsoft ADPCM, 1 s', 'adpcm-ms.wav'],
      ['PCM in AVI, 1 s', 'two-tracks.avi'],
      ['Vorbis in Matroska, 1 s', 'two-tracks.mkv'],
      ['MPEG layer 2 in a program stream, 1 s', 'two-tracks.mpg'],
    ] as const
  ).map(([title, name]) => [title, fixture(name)] as const),
];

/** Multiples of real time: the median of some runs, after one that warms up. */
async function timesRealTime(run: () => Promise<number>): Promise<number> {
  const results: number[] = [];
  for (let i = 0; i <= RUNS; i++) {
    const started = performance.now();
    const seconds = await run();
    if (i > 0) results.push(seconds / ((performance.now() - started) / 1000));
  }
  return median(results);
}

async function decode(bytes: Uint8Array): Promise<number> {
  const stream = await openSourceStream(inMemory(bytes));
  let frames = 0;
  for await (const block of stream.blocks()) frames += block[0]?.length ?? 0;
  return frames / stream.stated.sampleRate;
}

async function facts(bytes: Uint8Array): Promise<number> {
  const found = await surveyStream(await openSourceStream(inMemory(bytes)), () => undefined);
  return found.frames / found.sampleRate;
}

const rows: string[] = [];
for (const [title, bytes] of files) {
  const [decoded, known] = [await timesRealTime(() => decode(bytes)), await timesRealTime(() => facts(bytes))];
  rows.push(`| ${title} | ${decoded.toFixed(0)} | ${known.toFixed(0)} |`);
}
const measured = (channels: readonly Float32Array[]) =>
  timesRealTime(async () => {
    const measuring = new SoundMeter({ sampleRate: 44_100, channels: 2, plainBits: 16 });
    for (let at = 0; at < channels[0].length; at += 65_536) {
      measuring.add(channels.map((samples) => samples.subarray(at, at + 65_536)));
    }
    measuring.result();
    return SECONDS;
  });
const [meter, hardest] = [await measured(sound.channels), await measured(noise)];
const peaks = await timesRealTime(async () => {
  const gathering = new PeaksBuilder(2);
  for (let at = 0; at < sound.channels[0].length; at += 65_536) {
    gathering.add(sound.channels.map((samples) => samples.subarray(at, at + 65_536)));
  }
  gathering.levels();
  return SECONDS;
});

writeSection(
  'decode',
  `## Reading

Made by \`npm run bench:decode\` on ${machine}, one thread: a minute of stereo at 44 100 Hz, the recordings of the demo, or a
file of about a second, whose figure is mostly the start of its decoder. Multiples of real time, medians of ${RUNS} runs. The goal for
the measuring alone is 1 500; white noise is what it finds hardest, as no part of it can be left out for true peaks.

| kind | decoded | decoded and measured (facts) |
|---|---|---|
${rows.join('\n')}
| the measuring alone | | ${meter.toFixed(0)} |
| the measuring alone, white noise | | ${hardest.toFixed(0)} |
| the peak pyramid alone | | ${peaks.toFixed(0)} |
`,
);

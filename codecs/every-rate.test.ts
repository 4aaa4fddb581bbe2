import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  automaticSettings,
  blockEncodings,
  canCarry,
  carriesRate,
  compressedEncodings,
  encodings,
  findCompressed,
  InputError,
  outContainers,
  type Pcm,
  type Target,
  targetOf,
  wholeOf,
} from '@tambur/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { makeFrom } from '../core/delivery/fixtures/make.ts';
import { random } from './fixtures/sounds.ts';
import { library } from './index.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');

/**
 * What is offered can be made: rates, lengths and sounds that are not usual, through every encoding and container. A clip that is made
 * has been read back and compared with what was to be written; of FLAC the reference decoder (Debian's `flac`) judges too.
 */
const RUNS = Number(process.env.TAMBUR_RUNS ?? 24);

const open: Target = {
  ...targetOf('portable-player'),
  player: {},
  requirements: [{ key: 'tags', kind: 'tags', rule: 'allowed' }],
};

const USUAL = [8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 64_000, 96_000, 128_000, 192_000];
const BLOCK = 4096;
const LENGTHS = [1, 2, 3, 10, BLOCK - 1, BLOCK, BLOCK + 1];
const SOUNDS: Readonly<Record<string, (i: number, noise: () => number) => number>> = {
  silence: () => 0,
  'a constant': () => 0.25,
  'full scale': (i) => (Math.floor(i / 50) % 2 ? -1 : 1),
  alternating: (i) => (i % 2 ? -1 : 1),
  noise: (_, noise) => 2 * noise() - 1,
};

const next = random(24);
const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
/** A rate from 1 000 to 192 000 Hz: a usual one, one of whole kHz, or any. */
const anyRate = () =>
  pick([() => pick(USUAL), () => 1000 * Math.ceil(192 * next()), () => 1000 + Math.floor(191_001 * next())])();

function soundOf(name: string, sampleRate: number, channels: number, frames: number): Pcm {
  const noise = random(frames + sampleRate);
  const one = () => Float32Array.from({ length: frames }, (_, i) => (SOUNDS[name] ?? (() => 0))(i, noise));
  return { sampleRate, channels: Array.from({ length: channels }, one) as [Float32Array] };
}

const written = [...encodings, ...blockEncodings, ...compressedEncodings].flatMap(({ id }) =>
  outContainers()
    .filter((container) => canCarry(container, id))
    .map((container) => ({ encoding: id, container: container.id })),
);

const make = (pcm: Pcm, wrap: { encoding: string; container: string }) =>
  makeFrom(pcm, { ...automaticSettings('x'), wrap, rate: { sampleRate: pcm.sampleRate } }, open, { library });

/** Of Opus and Vorbis the encoders' own, of AAC as many as keep their places, of FLAC as RFC 9639 says (9.1.3). */
const MOST_CHANNELS: Readonly<Record<string, number>> = { mp3: 2, aac: 7, opus: 2, vorbis: 2, flac: 8 };

describe.each(written)('$encoding in $container', ({ encoding, container }) => {
  test('any rate, length and sound is made and read back, or refused in one sentence', async () => {
    const coded = findCompressed(encoding);
    // Of hundreds of pairs each has a share; those of FLAC all.
    const count = coded?.depths ? 5 * RUNS : coded ? RUNS / 2 : RUNS / 10;
    let made = 0;
    for (let run = 0; run < count; run++) {
      const rate = pick(coded?.carries?.sampleRates ?? [anyRate()]);
      const [frames, name, channels] = [pick(LENGTHS), pick(Object.keys(SOUNDS)), pick([1, 1, 2, 2, 6, 9])];
      const what = `${rate} Hz, ${frames} frames of ${name}, ${channels} channels`;
      try {
        const { facts } = await make(soundOf(name, rate, channels, frames), { encoding, container });
        // More than there is room for come out as two.
        expect(facts.channels, what).toBe(channels <= (MOST_CHANNELS[encoding] ?? 64) ? channels : 2);
        expect(Math.round(facts.sampleRate), what).toBe(rate);
        made++;
      } catch (error) {
        if (!(error instanceof InputError)) throw new Error(`${what}: ${(error as Error).message}`, { cause: error });
        if (coded) expect(carriesRate(coded, rate) && !coded.bitRates, `${what}: ${error.message}`).toBe(false);
        expect(error.message, what).toMatch(/^[A-Z].*\.$/);
      }
    }
    expect(made).toBeGreaterThan(0);
  });
});

describe('FLAC as the reference decoder decodes it', () => {
  let folder: string;
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'flac-'));
  });
  afterAll(() => rmSync(folder, { recursive: true }));

  const rates = [12_000, 13_000, 37_000, 44_000, 64_000, 128_000, 1000, 65_537, 192_000, 384_000, 500_001, 768_000];
  test.each(rates)('%d Hz: every length and sound, sample by sample', async (rate) => {
    const sounds = LENGTHS.flatMap((frames) =>
      Object.keys(SOUNDS).map((name) => ({
        path: join(folder, `${rate}-${frames}-${name.replaceAll(' ', '-')}`),
        name,
        frames,
      })),
    );
    for (const { path, name, frames } of sounds) {
      const { file } = await make(soundOf(name, rate, 2, frames), { encoding: 'flac', container: 'flac' });
      writeFileSync(`${path}.flac`, wholeOf(file));
    }
    // It compares the checksum of the samples that the file states, and ends with an error where that is another.
    execFileSync('flac', ['--decode', '--silent', '--force', ...sounds.map(({ path }) => `${path}.flac`)]);
    for (const { path, name, frames } of sounds) {
      const wav = new WaveFile(readFileSync(`${path}.wav`));
      const samples = wav.getSamples(false, Float64Array) as unknown as Float64Array[];
      expect([(wav.fmt as { sampleRate: number }).sampleRate, samples[0]?.length]).toEqual([rate, frames]);
      soundOf(name, rate, 2, frames).channels.forEach((wanted, channel) => {
        const steps = (i: number) => Math.abs((samples[channel]?.[i] ?? Number.NaN) - 32_768 * (wanted[i] ?? 0));
        // Full scale is one step above the largest number; dither takes two at most.
        const worst = wanted.reduce((most, _, i) => Math.max(most, steps(i)), 0);
        expect(worst, `${name}, ${frames} frames`).toBeLessThanOrEqual(3);
      });
    }
  });
});

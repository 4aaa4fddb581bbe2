import type { Target } from '@tambur/core';
import { expect, test, vi } from 'vitest';
import type { CompressedEncoding } from '../core/encodings/index.ts';
import type { EncoderMaker } from './encoders/encoder.ts';
import type { LibraryFormat } from './formats/format.ts';

/**
 * What CONTRIBUTING.md promises of libraries: an encoding that one writes is its entry, its file and a line in each list; a
 * format that one decodes is its file and its line. Here each gets such lines, and nothing else is touched.
 */

vi.mock('../core/encodings/list.ts', async (original) => {
  const list = await original<typeof import('../core/encodings/list.ts')>();
  return { ...list, compressedEncodings: [...list.compressedEncodings, linnet] };
});
vi.mock('./encoders/list.ts', async (original) => {
  const list = await original<typeof import('./encoders/list.ts')>();
  return { encoders: { ...list.encoders, linnet: async () => encodeLinnet } };
});
vi.mock('./formats/list.ts', async (original) => {
  const list = await original<typeof import('./formats/list.ts')>();
  return { libraryFormats: [linnetFormat, ...list.libraryFormats] };
});

const linnet: CompressedEncoding = {
  kind: 'compressed',
  compression: 'lossless',
  id: 'linnet',
  title: 'Linnet',
  container: 'ogg',
  carries: { sampleRates: [8000, 16_000], mostChannels: 1 },
  bitRates: null,
  usualBitRate: 0,
  depths: [16],
};

const MARK = new TextEncoder().encode('LINNET\0\0');

/** A mark, the rate, and the samples as numbers of 16 bits. */
const encodeLinnet: EncoderMaker = async ({ sampleRate }) => {
  const bytes = (levels: Int16Array | Uint32Array) => new Uint8Array(levels.buffer);
  let head = core.concatenated([MARK, bytes(Uint32Array.of(sampleRate))]);
  return {
    async push([samples]) {
      const out = core.concatenated([head, bytes(Int16Array.from(samples, (value) => Math.round(value * 32_768)))]);
      head = new Uint8Array();
      return out;
    },
    finish: async () => new Uint8Array(),
    close: () => undefined,
  };
};

const linnetFormat: LibraryFormat = {
  title: 'Linnet',
  recognises: (head) => new TextDecoder().decode(head.subarray(0, 8)) === 'LINNET\0\0',
  async open(file) {
    const bytes = core.wholeOf(file).slice();
    const [sampleRate = 0] = new Uint32Array(bytes.slice(8, 12).buffer);
    const samples = Float32Array.from(new Int16Array(bytes.slice(12).buffer), (level) => level / 32_768);
    const facts = { container: 'ogg', encoding: 'linnet', sampleRate, channels: 1, bytes: file.size, bitDepth: 16 };
    return { stated: stated({ ...facts, plainBits: 16, expectedFrames: samples.length }), blocks: () => [[samples]] };
  },
};

const core = await import('@tambur/core');
const { stated } = await import('./formats/format.ts');
const { library, openSource } = await import('./index.ts');
const { factsFor } = await import('../core/chain/fixtures/sources.ts');
const { makeFrom } = await import('../core/delivery/fixtures/make.ts');

const target: Target = {
  ...core.targetOf('portable-player'),
  player: {},
  requirements: [
    { key: 'container', kind: 'container', anyOf: ['ogg'] },
    { key: 'encoding', kind: 'encoding', anyOf: ['linnet'] },
  ],
};

test('an encoding that a library writes is chosen with what it carries, written, read again, proved and checked', async () => {
  const tone = Float32Array.from({ length: 44_100 }, (_, i) => 0.5 * Math.sin(i * 0.05));
  const pcm = { sampleRate: 44_100, channels: [tone, tone] };
  const { stations } = core.settle({ facts: factsFor(pcm), settings: core.automaticSettings('x'), target });
  expect(stations.channels.why).toMatch(/^Linnet carries at most 1 channel\. /);
  const { file, facts, findings } = await makeFrom(pcm, core.automaticSettings('x'), target, { library });
  expect(facts).toMatchObject({ container: 'ogg', encoding: 'linnet', sampleRate: 16_000, channels: 1 });
  expect(findings.every(({ verdict }) => verdict === 'meets')).toBe(true);
  const opened = await openSource(core.wholeOf(file).slice());
  expect(opened.pcm.channels[0]).toHaveLength(16_000);
  expect(Math.max(...opened.pcm.channels[0])).toBeCloseTo(0.5, 2);
});

test('a source of the format is opened, and its facts have the names of it', async () => {
  const bytes = core.concatenated([MARK, Uint8Array.of(0x40, 0x1f, 0, 0), Uint8Array.of(0, 0, 0, 0x40, 0, 0xc0)]);
  const { facts, pcm } = await openSource(bytes);
  expect([...pcm.channels[0]]).toEqual([0, 0.5, -0.5]);
  expect(facts).toMatchObject({ encoding: 'linnet', sampleRate: 8000, bytes: 18 });
  expect(core.anyEncoding('linnet')?.title).toBe('Linnet');
  await expect(openSource(core.concatenated([Uint8Array.of(1), MARK]))).rejects.toThrow(core.InputError);
});

import { describe, expect, test } from 'vitest';
import { openSource } from './index.ts';

/** A packet of a program stream (ISO/IEC 13818-1, 2.4.3.6), its header without a time stamp. */
function packet(stream: number, data: readonly number[]): number[] {
  const body = [0x80, 0, 0, ...data];
  return [0, 0, 1, stream, body.length >> 8, body.length & 255, ...body];
}

/** The head of a pack of MPEG-2: 14 bytes, of which the clock does not matter here. */
const pack = [0, 0, 1, 0xba, 0x44, 0, 4, 0, 4, 1, 0, 0, 3, 0xf8];

/** Linear PCM of a disc in the private stream 1: number of the stream, counts, and the byte that says what it is. */
const lpcm = (bits: 16 | 20 | 24, channels: number, data: readonly number[]) => {
  const info = ({ 16: 0, 20: 1, 24: 2 }[bits] << 6) | (channels - 1);
  return packet(0xbd, [0xa0, 1, 0, 4, 0, info, 0x80, ...data]);
};

const streamOf = (...packets: readonly number[][]) => Uint8Array.from([...pack, ...packets.flat(), 0, 0, 1, 0xb9]);

describe('linear PCM of an unprotected disc, spelled out by hand (layout: common practice, no source)', () => {
  test('16 bits are plain big-endian, also across packets', async () => {
    const data = [0x40, 0, 0xc0, 0, 0x20, 0, 0xe0, 0];
    const { facts, pcm } = await openSource(streamOf(lpcm(16, 2, data.slice(0, 5)), lpcm(16, 2, data.slice(5))));
    expect(facts).toMatchObject({
      container: 'program-stream',
      encoding: 'lpcm',
      sampleRate: 48_000,
      channels: 2,
      bitDepth: 16,
      bitRate: 1_536_000,
    });
    expect(pcm.channels.map((samples) => [...samples])).toEqual([
      [0.5, 0.25],
      [-0.5, -0.25],
    ]);
  });

  test.each([
    // Two frames' upper 16 bits, then what is left of them: a byte each, or four bits each.
    [
      24,
      [0x40, 0, 0xc0, 0, 0x00, 0, 0x00, 0, 0, 0, 0x80, 0x40],
      [
        [0.5, 2 ** -16],
        [-0.5, 2 ** -17],
      ],
    ],
    [
      20,
      [0x40, 0, 0xc0, 0, 0x00, 0, 0x00, 0, 0x00, 0x84],
      [
        [0.5, 2 ** -16],
        [-0.5, 2 ** -17],
      ],
    ],
  ] as const)('%i bits', async (bits, data, wanted) => {
    const { facts, pcm } = await openSource(streamOf(lpcm(bits, 2, data)));
    expect(facts).toMatchObject({ bitDepth: bits, frames: 2 });
    expect(pcm.channels.map((samples) => [...samples])).toEqual(wanted);
  });

  test('a stream without sound says so', async () => {
    await expect(openSource(streamOf(packet(0xe0, [1, 2, 3])))).rejects.toThrow(/holds no sound/);
  });
});

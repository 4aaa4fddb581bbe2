import { parseBuffer } from 'music-metadata';
import { describe, expect, test } from 'vitest';
import wavefile from 'wavefile';
import { encodingOf, plainEncodingOf } from '../encodings/index.ts';
import { openPlain } from '../facts/fixtures/open-plain.ts';
import { containerOf, packFile, type Tag } from './index.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');

const tags: Tag[] = [
  { name: 'title', value: 'Bell at the hill' },
  { name: 'artist', value: 'Pinder Hill' },
  { name: 'album', value: 'Open day' },
  { name: 'comment', value: 'second take' },
];

/** Seven frames: an odd number of bytes, so that what follows them has to be moved up. */
function pack(container: string, id: string, written: readonly Tag[]): Uint8Array {
  const encoding = encodingOf(id);
  const data = Uint8Array.from({ length: 7 * encoding.bytesPerSample }, (_, i) => i);
  return packFile(
    containerOf(container),
    { encoding, sampleRate: 8000, channels: 1, frames: 7, stem: 'x', tags: written },
    data,
  );
}

describe("tags in core's own containers", () => {
  test.each([
    ['wav', 'pcm-u8', ['title', 'artist', 'album', 'comment']],
    ['wav', 'mu-law', ['title', 'artist', 'album', 'comment']],
    ['aiff', 'pcm-s8', ['title', 'artist', 'comment']],
    ['aiff-c', 'pcm-s16le', ['title', 'artist', 'comment']],
    ['au', 'mu-law', ['comment']],
    ['caf', 'pcm-s8', ['title', 'artist', 'album', 'comment']],
  ])('%s of %s has room for %j; without tags there is no byte more', (container, id, names) => {
    const { facts } = openPlain(pack(container, id, tags));
    expect(facts.tags).toEqual(tags.filter(({ name }) => names.includes(name)));
    expect(facts).toMatchObject({ frames: 7, warnings: [] });
    const plain = openPlain(pack(container, id, []));
    expect(plain.facts.tags).toEqual([]);
    expect(plain.facts.extras).toEqual([]);
  });

  test.each([
    ['wav', 'pcm-u8', 'audio/wav'],
    ['aiff', 'pcm-s8', 'audio/aiff'],
  ])('%s of %s: another reader finds them', async (container, id, mimeType) => {
    const { common, format } = await parseBuffer(pack(container, id, tags), { mimeType });
    expect(common.title).toBe(tags[0].value);
    expect(common.artist).toBe(tags[1].value);
    expect(format.numberOfSamples).toBe(7);
  });
});

describe('WAV headers, as another reader finds them', () => {
  const write = (id: string, channels: number, frames: number, data: Uint8Array) =>
    packFile(
      containerOf('wav'),
      { encoding: plainEncodingOf(id), sampleRate: 8000, channels, frames, stem: 'x' },
      data,
    );

  test.each([
    ['pcm-s16le', 2, 1, 16],
    ['pcm-s24le', 1, 1, 16],
    ['mu-law', 1, 7, 18],
    ['float-32le', 1, 3, 18],
  ])('%s, %i channels: codec number %i in the plain form of %i bytes', (id, channels, code, size) => {
    const { bytesPerSample } = encodingOf(id);
    const file = new WaveFile(write(id, channels, 4, new Uint8Array(4 * channels * bytesPerSample)));
    const { fmt } = file as unknown as { fmt: { audioFormat: number; chunkSize: number } };
    expect([fmt.audioFormat, fmt.chunkSize]).toEqual([code, size]);
  });

  // WAVEFORMATEXTENSIBLE: left, right, centre, low, back left and back right are the mask 0x3f.
  test('six channels: the extensible form with its speakers', () => {
    const bytes = write('pcm-s16le', 6, 2, new Uint8Array(24));
    const { fmt } = new WaveFile(bytes) as unknown as {
      fmt: {
        audioFormat: number;
        chunkSize: number;
        dwChannelMask: number;
        validBitsPerSample: number;
        subformat: number[];
      };
    };
    expect(fmt).toMatchObject({ audioFormat: 65_534, chunkSize: 40, dwChannelMask: 0x3f, validBitsPerSample: 16 });
    expect(fmt.subformat[0]).toBe(1);
    expect(openPlain(bytes).facts.layout).toEqual(['L', 'R', 'C', 'LFE', 'Lb', 'Rb']);
  });

  test('IMA ADPCM: block size, frames of a block and the frame count; its sound there as here', () => {
    const encoding = plainEncodingOf('ima-adpcm');
    if (encoding.kind !== 'block') throw new Error('no blocks');
    const samples = Int32Array.from({ length: 1200 }, (_, i) => Math.round(9000 * Math.sin(i * 0.1)));
    const layout = encoding.layout(1, 8000);
    const encoder = encoding.encoder(layout);
    const data = Uint8Array.from([...encoder.push(samples), ...encoder.finish()]);
    const bytes = write('ima-adpcm', 1, samples.length, data);
    const file = new WaveFile(bytes);
    const { fmt, fact } = file as unknown as {
      fmt: { audioFormat: number; blockAlign: number; validBitsPerSample: number };
      fact: { dwSampleLength: number };
    };
    expect(fmt).toMatchObject({ audioFormat: 0x11, blockAlign: 256, validBitsPerSample: 505 });
    expect(fact.dwSampleLength).toBe(1200);
    const { facts, pcm } = openPlain(bytes);
    expect(facts).toMatchObject({ encoding: 'ima-adpcm', frames: 1200, extras: [], warnings: [] });
    // The other decoder repeats the first sample of a block and leaves out the last block.
    file.fromIMAADPCM();
    const theirs = [...(file.getSamples(false, Int16Array) as unknown as Int16Array)];
    const ours = Array.from(pcm.channels[0], (value) => value * 32_768);
    expect(theirs.slice(1, 506)).toEqual(ours.slice(0, 505));
  });

  test('Microsoft ADPCM: the standard coefficients, which every file has to list', () => {
    const encoding = plainEncodingOf('ms-adpcm');
    if (encoding.kind !== 'block') throw new Error('no blocks');
    const layout = encoding.layout(2, 44_100);
    expect(layout.blockBytes).toBe(2048);
    const encoder = encoding.encoder(encoding.layout(2, 8000));
    const samples = Int32Array.from({ length: 2000 }, (_, i) => Math.round(7000 * Math.sin(i * 0.05)));
    const data = Uint8Array.from([...encoder.push(samples), ...encoder.finish()]);
    const bytes = write('ms-adpcm', 2, 1000, data);
    const view = new DataView(bytes.buffer);
    expect(view.getUint16(20, true)).toBe(2);
    // From memory: (256, 0), (512, -256), (0, 0), (192, 64), (240, 0), (460, -208), (392, -232).
    const listed = Array.from({ length: 14 }, (_, i) => view.getInt16(42 + 2 * i, true));
    expect(listed).toEqual([256, 0, 512, -256, 0, 0, 192, 64, 240, 0, 460, -208, 392, -232]);
    expect(openPlain(bytes).facts).toMatchObject({ encoding: 'ms-adpcm', frames: 1000, channels: 2, warnings: [] });
  });
});

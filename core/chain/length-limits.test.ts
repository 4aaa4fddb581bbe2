import fc from 'fast-check';
import { expect, test } from 'vitest';
import { containerOf, packFile } from '../containers/index.ts';
import { encodingOf } from '../encodings/index.ts';
import { demandsOf, type Requirement, targetOf, targets } from '../targets/index.ts';
import { bindingLimit, limitInEffect } from './length-limits.ts';

const demands = (...requirements: Requirement[]) => demandsOf({ requirements });

test.each([
  ['wav', 'pcm-s16le'],
  ['wav', 'mu-law'],
  ['aiff', 'pcm-s8'],
  ['au', 'pcm-s24be'],
  ['headerless', 'pcm-u5'],
])('%s of %s: as many frames as fit into the bytes, and not one more', (container, encoding) => {
  const sizeOf = (frames: number, channels: number) => {
    const { bytesPerSample } = encodingOf(encoding);
    const packing = {
      encoding: encodingOf(encoding),
      sampleRate: 8000,
      channels,
      frames,
      stem: 'x',
    };
    return packFile(containerOf(container), packing, new Uint8Array(frames * channels * bytesPerSample)).length;
  };
  fc.assert(
    fc.property(fc.integer({ min: 200, max: 5000 }), fc.integer({ min: 1, max: 3 }), (most, channels) => {
      const limit = bindingLimit(demands({ key: 'file-size', kind: 'file-size', most }), {
        sampleRate: 8000,
        channels,
        container,
        encoding,
      });
      const frames = limit?.frames ?? 0;
      expect(sizeOf(frames, channels)).toBeLessThanOrEqual(most);
      expect(sizeOf(frames + 1, channels)).toBeGreaterThan(most);
    }),
    { numRuns: 40 },
  );
});

test('of frames, seconds and bytes the least binds, and says what it comes to', () => {
  const kind = { sampleRate: 8000, channels: 1, container: 'wav', encoding: 'pcm-s16le' };
  const frames: Requirement = { key: 'frames', kind: 'frames', most: 30_000 };
  const seconds: Requirement = { key: 'duration', kind: 'duration', most: 4 };
  const bytes: Requirement = { key: 'file-size', kind: 'file-size', most: 56_000 };
  expect(bindingLimit(demands(), kind)).toBeNull();
  expect(bindingLimit(demands(frames, seconds), kind)).toMatchObject({
    frames: 30_000,
    text: '3.750 s, 30\u202f000 frames',
  });
  expect(bindingLimit(demands(seconds), kind)?.frames).toBe(32_000);
  expect(bindingLimit(demands(frames, seconds, bytes), kind)).toMatchObject({
    frames: 27_978,
    text: '56\u202f000 bytes, in effect 3.497 s',
  });
});

// Common practice, no source: 4 s and 56 000 bytes at 16 000 bytes a second come to 3.5 s, less the header.
test('what several limits of a sheet come to', () => {
  expect(limitInEffect(targetOf('two-way-radio-prompt'))).toMatchObject({ frames: 27_978, sampleRate: 8000 });
  expect(targets.filter((target) => limitInEffect(target)).map(({ id }) => id)).toEqual(['two-way-radio-prompt']);
});

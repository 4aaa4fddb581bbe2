import fc from 'fast-check';
import { expect, test } from 'vitest';
import { inMemory, partOf, piecesOf, wholeOf, windowed } from './byte-file.ts';

const bytes = Uint8Array.from({ length: 1000 }, (_, i) => (i * 37) % 251);
const place = fc.integer({ min: 0, max: 1100 });

test('ranges are those of the bytes, wherever they end, through a window too', () => {
  fc.assert(
    fc.property(fc.array(fc.tuple(place, place), { minLength: 1, maxLength: 20 }), (ranges) => {
      const [plain, seen] = [inMemory(bytes), windowed(inMemory(bytes))];
      for (const [a, b] of ranges) {
        const [start, end] = [Math.min(a, b), Math.max(a, b)];
        expect(plain.read(start, end)).toEqual(bytes.subarray(start, end));
        expect(seen.read(start, end)).toEqual(bytes.subarray(start, end));
      }
    }),
  );
});

test('a part is a file of its own, and a part of a part too', () => {
  fc.assert(
    fc.property(place, place, place, place, (a, b, c, d) => {
      const part = partOf(inMemory(bytes), a, b);
      const inner = partOf(part, c, d);
      expect(wholeOf(part)).toEqual(bytes.slice(Math.min(a, 1000), Math.max(Math.min(a, 1000), b)));
      expect(wholeOf(inner)).toEqual(wholeOf(part).slice(Math.min(c, part.size), Math.max(Math.min(c, part.size), d)));
      expect(inner.size).toBe(wholeOf(inner).length);
    }),
  );
});

test('bytes whose own slice copies nothing are copied all the same by who reads them', () => {
  const buffer = Buffer.from([1, 2, 3]);
  const copy = inMemory(buffer).read(0, 3).slice();
  copy[0] = 9;
  expect(buffer[0]).toBe(1);
});

test('pieces come to the whole', () => {
  const large = new Uint8Array(600_001).map((_, i) => i & 255);
  const pieces = [...piecesOf(inMemory(large))];
  expect(pieces.length).toBeGreaterThan(1);
  expect(Buffer.concat(pieces).equals(Buffer.from(large))).toBe(true);
});

import { expect, test } from 'vitest';
import { pathsOf } from './waveform-paths.ts';

const base64 = (...values: number[]) => btoa(String.fromCharCode(...values.map((value) => value & 255)));
/** The heights of a closed shape, along its top. */
const tops = (path: string) =>
  path
    .slice(1)
    .split('L')
    .map((point) => Number(point.split(' ')[1]));

test('peaks go from the top of the picture to its foot, and the ribbon is as thick as it is loud', () => {
  const { peaks, ribbon, bins } = pathsOf(`${base64(-127, 127, 0, 0)}.${base64(0, 127)}`);
  expect(bins).toBe(2);
  expect(tops(peaks).slice(0, 2)).toEqual([-0.4, 11.6]);
  const [loud = 0, silent = 0] = tops(ribbon);
  expect(loud).toBeLessThan(20);
  expect(silent).toBe(24);
});

test('what was stored without effective values has no ribbon, and nothing has no shape', () => {
  expect(pathsOf(base64(-5, 5))).toMatchObject({ bins: 1, ribbon: '' });
  expect(pathsOf('')).toEqual({ peaks: '', ribbon: '', bins: 0 });
});

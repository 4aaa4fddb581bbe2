import type { Facts } from '@tambur/core';
import type { ArtifactView } from '@tambur/server';
import { expect, test } from 'vitest';
import { sourceOf } from '../fixtures/views.ts';
import { compareDeliveries } from './comparison.ts';

const { facts } = sourceOf('one', 1);
const file = (path: string, sha256: string, bytes: number, more: Partial<Facts> = {}) =>
  ({ path, sha256, bytes, role: 'sound', parts: [{ facts: { ...facts, ...more } }] }) as unknown as ArtifactView;

test('two deliveries, file by file: what came, went, changed and stayed', () => {
  const was = [file('a.wav', '1', 100), file('b.wav', '2', 200), file('gone.wav', '3', 50)];
  const is = [file('new.wav', '4', 70), file('b.wav', '5', 260, { sampleRate: 11_025 }), file('a.wav', '1', 100)];
  const compared = compareDeliveries(is, was);
  expect(compared.map(({ path, what, bytes }) => [path, what, bytes])).toEqual([
    ['new.wav', 'added', 70],
    ['b.wav', 'changed', 60],
    ['a.wav', 'same', 0],
    ['gone.wav', 'gone', -50],
  ]);
  const [rate] = compared[1]?.facts ?? [];
  expect(rate).toMatchObject({ label: 'sample rate', is: '11\u202f025 Hz' });
  expect(compareDeliveries([], [])).toEqual([]);
});

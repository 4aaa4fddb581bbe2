import { expect, test } from 'vitest';
import { inMemory } from '../bytes/index.ts';
import { insert } from '../standin/index.ts';
import { targetOf } from '../targets/index.ts';
import { checkCard } from './index.ts';

/** A list of 20 MB whose first row names the file that is there. */
const row = (i: number) => `Bell number ${i}\tbell${i === 0 ? '' : i}.raw\n`;
const text = Array.from({ length: 600_000 }, (_, i) => row(i)).join('');
const card = [
  { path: 'bell.raw', bytes: inMemory(new Uint8Array(8000).fill(255)) },
  { path: 'ring-tones.txt', bytes: inMemory(new TextEncoder().encode(text)) },
];
const phone = targetOf('desk-phone-ring-tone');

test('of a list that is larger than any device has, the beginning is read by the device, and that is said', async () => {
  const { shown, refused } = await insert(card, phone);
  expect(shown.map(({ name }) => name)).toEqual(['Bell number 0']);
  expect(refused[0]).toMatchObject({ path: 'ring-tones.txt', word: 'too large' });
  // No row is cut in two.
  expect(refused.slice(1).map(({ path }) => path)).toEqual(refused.slice(1).map((_, i) => `bell${i + 1}.raw`));
  // What a row takes, 1 000 000 bytes of them.
  expect(refused.length).toBeGreaterThan(20_000);
  expect(refused.length).toBeLessThan(50_000);
});

test('a check says so too', async () => {
  const read = () => Promise.reject(new Error('no sound is read'));
  const [list] = (await checkCard(phone, card.slice(1), { read, isWhole: true, onRead: () => undefined })).files;
  expect(list).toMatchObject({ path: 'ring-tones.txt', role: 'list' });
  expect(list?.findings[0]?.found).toContain('larger than 1.00 MB');
});

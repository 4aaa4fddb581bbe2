import { describe, expect, test } from 'vitest';
import type { Pcm } from '../audio/index.ts';
import { factsFor } from '../chain/fixtures/sources.ts';
import { automaticSettings, settle } from '../chain/index.ts';
import { makeFrom } from '../delivery/fixtures/make.ts';
import { forOneFile, insert, noForeign, type Player, type SymptomId } from '../standin/index.ts';
import { deviceOf, targetOf, withVariant } from '../targets/index.ts';
import { causes, explainFrom, gather, unprovedOf } from './index.ts';

/** Four seconds of a tone, so that what is made of it is cut to three. */
const tone: Pcm = {
  sampleRate: 48_000,
  channels: [Float32Array.from({ length: 4 * 48_000 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 330 * i) / 48_000))],
};

/** What may be said of a file without a fault, whose device is other than its sheet says. */
async function unprovedFor(id: string, variant: string | null, symptom: SymptomId) {
  const target = withVariant(targetOf(id), variant);
  const settings = automaticSettings('bell');
  const { fileName } = settle({ facts: factsFor(tone), settings, target, stem: 'bell' });
  const { file } = await makeFrom(tone, settings, target, { stem: 'bell' });
  const card = [{ path: fileName, bytes: file }];
  const device = deviceOf(target);
  const evidence = await gather({ card, path: fileName, device, isWhole: false, openForeign: noForeign });
  expect((await explainFrom(symptom, evidence)).causes).toEqual([]);
  return { device, unproved: unprovedOf(symptom, evidence, target) };
}

describe('a healthy file that sounds wrong', () => {
  test.each<[string, string | null, SymptomId, Player, string]>([
    ['console-sound-slot', null, 'too-slow', { 'plays-at': 16_000 }, 'The device plays at 16\u202f000 Hz.'],
    ['console-sound-slot', null, 'too-fast', { 'plays-at': 44_100 }, 'The device plays at 44\u202f100 Hz.'],
    [
      'console-sound-slot',
      null,
      'garbled',
      { assumes: { encoding: 'pcm-s16be', channels: 1 } },
      'The device plays 16-bit signed PCM, big-endian.',
    ],
    ['desk-phone-ring-tone', null, 'harsh', { assumes: { encoding: 'a-law', channels: 1 } }, 'The device plays A-law.'],
    [
      'i2s-amplifier-board',
      'headerless',
      'too-slow',
      { assumes: { encoding: 'pcm-s16le', sampleRate: 44_100, channels: 1 } },
      'The device plays mono.',
    ],
    [
      'transmitter-spoken-cue',
      null,
      'refused',
      { 'plays-rates': { anyOf: [44_100] } },
      'The device plays at 44\u202f100 Hz.',
    ],
  ])('%s, %s, %s: one of the small files plays right at what the device is', async (id, variant, symptom, real, title) => {
    const { device, unproved } = await unprovedFor(id, variant, symptom);
    expect(new Set(unproved.map(({ fileName }) => fileName)).size).toBe(unproved.length);
    for (const { id: cause } of unproved) expect(causes.some((known) => known.id === cause)).toBe(true);
    const entry = unproved.find((one) => one.title === title);
    expect(entry, unproved.map((one) => one.title).join(' ')).toBeDefined();
    if (!entry) return;
    const bytes = await entry.make();
    const player = { ...device.player, ...real };
    const inserted = await insert([{ path: entry.fileName, bytes }], forOneFile({ ...device, player }));
    const playing = await inserted.play(entry.fileName);
    const heard: number[] = [];
    for await (const block of playing.blocks()) heard.push(...block[0]);
    expect(heard.length / playing.sampleRate).toBeCloseTo(3, 1);
    // As many times through zero as the tone has in three seconds.
    const crossings = heard.filter((value, i) => i > 0 && value >= 0 !== heard[i - 1] >= 0).length;
    expect(crossings / 2 / 3).toBeGreaterThan(327);
    expect(crossings / 2 / 3).toBeLessThan(333);
  });

  test('of what is no matter of how samples are read, nothing is said', async () => {
    expect((await unprovedFor('console-sound-slot', null, 'one-side')).unproved).toEqual([]);
  });
});

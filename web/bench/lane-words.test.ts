import { newClip, type Target, targetOf, withSettings, withVariant } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { sourceOf } from '../fixtures/views.ts';
import { chainOf, settleSet } from '../job/set.ts';
import { cutWords, resultWords, sourceWords, unitsOf } from './lane-words.ts';

const source = sourceOf('one', 1);

/** The chain of one second for a device. */
function chainFor(target: Target) {
  const clip = { ...withSettings(newClip('a', 'Bell', 'one'), { name: 'Bell' }), rank: 'a' };
  const set = settleSet({ clips: [clip], wishes: {}, places: {} }, new Map([['one', source]]), target);
  const settled = set.settled.get('a');
  const chain = settled && chainOf(settled);
  if (!chain) throw new Error('the sheet cannot be met');
  return chain;
}

const variantOf = (sheet: string) => withVariant(targetOf(sheet), null);
const blocks = variantOf('desk-phone-ring-tone');
const board = variantOf('microcontroller-8-bit-dac');

describe('words of the lanes', () => {
  test('a source: rate, channels, depth, encoding, length, size', () => {
    const words = sourceWords({ ...source.facts, bitDepth: 16, encoding: 'pcm-s16le', container: 'wav', channels: 2 });
    expect(words.slice(1, 5)).toEqual(['stereo', '16 bit', 'signed PCM', 'WAV']);
    // What is its own container is named once.
    expect(sourceWords({ ...source.facts, bitDepth: null, encoding: 'mp3', container: 'mp3' }).slice(2, 5)).toEqual([
      'MP3',
      null,
      null,
    ]);
  });

  test('a result in source code: what the device keeps in memory, and the length of the text', () => {
    const chain = chainFor(board);
    const facts = { ...source.facts, container: 'c-header', encoding: 'pcm-u8', soundBytes: 16_000, bytes: 70_000 };
    expect(resultWords(facts, chain, true)).toEqual(
      expect.arrayContaining(['16\u202f000 bytes in memory', '70.0 kB as text']),
    );
    expect(resultWords({ ...facts, container: 'wav' }, chain, true)).toEqual(expect.arrayContaining(['70.0 kB', null]));
    // Of a piece nothing is known but what is planned.
    expect(resultWords(facts, chain, false)).toEqual(expect.arrayContaining(['1.000 s', 'about 16.0 kB']));
  });

  test('a cut: what comes of it', () => {
    expect(cutWords({ start: 0, end: 8000 }, 8000, null)).toBe('1.000 s, 8\u202f000 frames');
    expect(cutWords({ start: 0, end: source.facts.frames }, source.facts.sampleRate, chainFor(board))).toMatch(
      /: 16\u202f000 frames, 16\.0 kB$/,
    );
  });

  test('units of the device are frames of the source', () => {
    expect(unitsOf(null, board)).toEqual({ block: null, bar: null, beats: 1 });
    expect(unitsOf(chainFor(board), board)).toEqual({ block: null, bar: null, beats: 1 });
    const bars = { key: 'bars', kind: 'bars', tempo: 120, beats: 4, most: 8 } as unknown as Target['requirements'][0];
    const looper = { ...board, requirements: [...board.requirements, bars] };
    expect(unitsOf(chainFor(board), looper)).toMatchObject({ bar: 2 * source.facts.sampleRate, beats: 4 });
    // The phone takes blocks of 240 frames at 8000 Hz.
    expect(unitsOf(chainFor(blocks), blocks).block).toBeCloseTo((240 * source.facts.sampleRate) / 8000, 9);
    expect(cutWords({ start: 0, end: 100 }, 8000, chainFor(blocks))).toMatch(/ blocks of 240, /);
  });
});

import { pcmReader } from '@tambur/core';
import { describe, expect, test } from 'vitest';
import { lostAt, pointsOf, spectrumOfCut, spectrumOfSound } from './spectrum.ts';

const RATE = 44_100;
const tone = (hz: number, seconds: number, amplitude = 0.5) =>
  Float32Array.from({ length: RATE * seconds }, (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / RATE));
const sound = (...channels: Float32Array[]) => ({ sampleRate: RATE, channels });

describe('the spectrum of the page', () => {
  test('a tone stands at its frequency with its level, before and after', async () => {
    const came = await spectrumOfSound(sound(tone(1000, 2)));
    const leaves = await spectrumOfSound({ sampleRate: 8000, channels: [tone(1000, 2).filter((_, i) => i % 5 === 0)] });
    const points = pointsOf(came, leaves);
    const highest = points.reduce((best, point) => ((point.came ?? -200) > (best.came ?? -200) ? point : best));
    expect(Math.abs(highest.hz - 1000)).toBeLessThan(50);
    expect(highest.came).toBeCloseTo(-6.02, 1);
    expect(points.every((point, i) => i === 0 || point.hz > (points[i - 1]?.hz ?? 0))).toBe(true);
    // Above half of its rate a sound has nothing to show.
    for (const { hz, leaves: level } of points) expect(level === undefined).toBe(hz > 4100);
  });

  test('what a rate loses is the energy above half of it', async () => {
    const both = tone(1000, 2).map((value, i) => value + (tone6000[i] ?? 0));
    const spectrum = await spectrumOfSound(sound(both));
    expect(lostAt(spectrum, 8000)).toBeCloseTo(-3.01, 1);
    expect(lostAt(spectrum, 16_000)).toBeLessThan(-60);
    expect(lostAt(spectrum, 44_100)).toBe(Number.NEGATIVE_INFINITY);
  });

  test('of a long cut pieces are looked at, evenly apart, inside it', async () => {
    const long = tone(500, 120);
    const reads: [number, number][] = [];
    const reader = pcmReader(sound(long));
    const spectrum = await spectrumOfCut(
      {
        ...reader,
        read: (start, count) => {
          reads.push([start, start + count]);
          return reader.read(start, count);
        },
      },
      10_000,
      long.length - 5,
    );
    expect(reads.length).toBeLessThanOrEqual(40);
    expect(reads[0]?.[0]).toBe(10_000);
    expect(reads.at(-1)?.[1]).toBe(long.length - 5);
    expect(Math.max(...spectrum.levels)).toBeCloseTo(-6.02, 1);
  });
});

const tone6000 = tone(6000, 2);

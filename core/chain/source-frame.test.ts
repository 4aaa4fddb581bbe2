import { describe, expect, test } from 'vitest';
import { pcmReader, unwatched } from '../audio/index.ts';
import { wholeOf } from '../bytes/index.ts';
import { openSoundFile, readPlain } from '../facts/index.ts';
import { targetOf } from '../targets/index.ts';
import { factsFor } from './fixtures/sources.ts';
import { formatOf, memoryStore, parseSettings, pieceOf, render, settle, sourceFrame } from './index.ts';

const FRAMES = 44_100;
/** Where the one click is, in a sound that is silent before 8 000 and after 40 000. */
const CLICK = 30_000;
const pcm = {
  sampleRate: 44_100,
  channels: [
    Float32Array.from({ length: FRAMES }, (_, i) =>
      i === CLICK ? 1 : i > 8_000 && i < 40_000 ? 0.05 * Math.sin(i / 9) : 0,
    ),
  ],
};
const chainOf = (wishes: object) =>
  settle({
    facts: factsFor(pcm),
    settings: parseSettings({ name: 'x', wrap: { container: 'wav', encoding: 'float-32le' }, ...wishes }),
    target: { ...targetOf('archive-copy'), player: {}, requirements: [] },
  });

async function clickIn(chain: ReturnType<typeof chainOf>) {
  const store = memoryStore();
  const { report } = await render(chain, pcmReader(pcm), store, unwatched);
  const file = store.written();
  const [samples] = openSoundFile(readPlain(wholeOf(file)), file.size).pcm.channels;
  return { report, frame: samples.reduce((best, value, i) => (value > samples[best] ? i : best), 0) };
}

describe('a frame of the result is where it was in the source', () => {
  test.each([
    ['as it came', {}],
    ['cut', { cut: { start: 5_000, end: 41_000 } }],
    ['at another rate', { cut: { start: 5_000, end: 41_000 }, rate: { sampleRate: 16_000 } }],
    ['trimmed', { rate: { sampleRate: 32_000 }, ends: { trim: { thresholdDb: -60 } } }],
    ['with silence in front', { ends: { front: { ms: 100 } }, rate: { sampleRate: 22_050 } }],
    ['looped', { ends: { loop: { searchMs: 60 } }, cut: { start: 9_000, end: 39_000 } }],
    ['stretched', { ends: { bars: { count: 1, beats: 4, tempo: 150, by: 'stretch' }, front: { ms: 20 } } }],
    ['a few frames, most of them silence', { ends: { frames: 40_000, front: { ms: 50 } } }],
  ])('%s', async (_, wishes) => {
    const chain = chainOf(wishes);
    const { report, frame } = await clickIn(chain);
    // A frame of the result is up to so many of the source.
    expect(Math.abs(sourceFrame(chain, report, frame) - CLICK)).toBeLessThanOrEqual(
      44_100 / formatOf(chain).sampleRate,
    );
  });

  test('in a piece too', async () => {
    const whole = chainOf({ rate: { sampleRate: 16_000 }, ends: { front: { ms: 100 }, trim: {} } });
    const { chain } = pieceOf(whole, { start: 20_000, end: 35_000 });
    const { report, frame } = await clickIn(chain);
    expect(Math.abs(sourceFrame(chain, report, frame) - CLICK)).toBeLessThanOrEqual(44_100 / 16_000);
  });

  test('where there is no room for the sound it is a number all the same', () => {
    const chain = chainOf({ ends: { bars: { count: 1, beats: 1, tempo: 300, by: 'stretch' }, front: { ms: 200 } } });
    const report = { trimmed: null, loop: null } as never;
    expect(Number.isFinite(sourceFrame(chain, report, 10))).toBe(true);
  });
});

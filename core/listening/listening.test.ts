import { expect, test } from 'vitest';
import { ALL, everySecond } from '../../codecs/fixtures/some.ts';
import { judgedRecording, recordings } from './fixtures/recordings.ts';

/** Listened to for two seconds each, of two sounds now one and now the other; both, with drums, in `npm run torture`, all sounds at both levels of noise in the bench. */
const SOUNDS = ALL ? 'chime,speech,drums' : 'chime,speech';
const made = everySecond(recordings('graded', SOUNDS, '20'));

/** What the other program calls what it did, in our words. */
const OURS: Readonly<Record<string, string>> = { 'too-fast': 'wrong-rate', 'too-slow': 'wrong-rate' };

test('recordings of made-up devices: what they did in 90 %, at which rate within 0.2 %, and nothing in what is something else', async () => {
  expect(new Set(made.map(({ hypothesis }) => hypothesis)).size).toBe(13);
  const wrong: string[] = [];
  const off: string[] = [];
  for (const recording of made) {
    const { hypothesis, sound, rate } = recording;
    const { best, runnerUp, sampleRate } = await judgedRecording(recording);
    expect(runnerUp?.hypothesis).not.toBe(best.hypothesis);
    if (best.hypothesis !== (OURS[hypothesis] ?? hypothesis)) {
      wrong.push(`${hypothesis}, ${sound}: ${best.hypothesis}`);
    } else if (sampleRate !== null && Math.abs(sampleRate / rate - 1) > 0.002) {
      off.push(`${hypothesis}, ${sound}: ${sampleRate} instead of ${rate}`);
    }
  }
  expect(off).toEqual([]);
  expect({ few: wrong.length <= 0.1 * made.length, wrong }).toMatchObject({ few: true });
});

test('rates that are nowhere listed, from a third of the right one to three times it, and starts that are missing: in 80 %', async () => {
  const wrong: string[] = [];
  // Drums have few tones that tell one rate from another.
  const more = everySecond(recordings('graded', ALL ? 'chime,speech' : 'speech', '20', 'more'));
  for (const recording of more) {
    const { hypothesis, sound, rate } = recording;
    const { best, sampleRate } = await judgedRecording(recording);
    const isFound = hypothesis.startsWith(best.hypothesis);
    const isExact = sampleRate !== null && Math.abs(sampleRate / rate - 1) < 0.003;
    if (!isFound || !isExact)
      wrong.push(`${hypothesis}, ${sound}: ${best.hypothesis} at ${sampleRate} instead of ${rate}`);
  }
  expect(more.length).toBe(ALL ? 32 : 8);
  expect({ few: wrong.length <= 0.2 * more.length, wrong }).toMatchObject({ few: true });
});

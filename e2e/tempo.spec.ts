import type { Page } from '@playwright/test';
import { tempoOf } from '../core/index.ts';
import { expect, test } from './support/server.ts';

/**
 * Loops written by hand, a line for each voice: x hits, o hits softly, - nothing. k kick, s snare, h hat, c clap, w wood, b bass,
 * p chord. Sixteen steps are a bar of four, twelve a bar of three or a shuffled bar of four. The browser's own synthesis plays them.
 */
const PATTERNS: readonly (readonly [
  name: string,
  steps: number,
  beats: number,
  voices: Readonly<Record<string, string>>,
])[] = [
  ['rock', 16, 4, { k: 'x-------x-x-----', s: '----x-------x---', h: 'x-x-x-x-x-x-x-x-' }],
  ['rock, busy', 16, 4, { k: 'x--x--x---x--x--', s: '----x--o-o--x--o', h: 'xoxoxoxoxoxoxoxo' }],
  ['four on the floor', 16, 4, { k: 'x---x---x---x---', c: '----x-------x---', h: '--x---x---x---x-' }],
  ['bossa nova', 16, 4, { k: 'x--xx--xx--xx--x', w: 'x--x--x---x--x--', h: 'xoxoxoxoxoxoxoxo' }],
  ['son clave', 16, 4, { w: 'x--x--x---x-x---', k: 'x-------x-------', h: 'o-o-o-o-o-o-o-o-' }],
  ['waltz', 12, 3, { b: 'x-----------', k: 'x-----------', s: '----o---o---', p: '----x---x---' }],
  ['shuffle', 12, 4, { k: 'x-----x-----', s: '---x-----x--', h: 'x-xx-xx-xx-x' }],
  ['slow blues', 12, 4, { b: 'x--x-xx--x-x', s: '---x-----x--', h: 'x-ox-ox-ox-o' }],
  ['reggae', 16, 4, { k: '--------x-------', s: '--------x-------', p: '--x---x---x---x-', b: 'x---x-----x-----' }],
  ['funk', 16, 4, { k: 'x-x----x--x-----', s: '----x--o-o--x---', h: 'x-xxx-xxx-xxx-xx', b: 'x-x----x--xx----' }],
  ['hip hop', 16, 4, { k: 'x------x--x-----', s: '----x-------x---', h: 'x-x-x-x-x-xxx-x-' }],
  ['disco', 16, 4, { k: 'x---x---x---x---', s: '----x-------x---', h: 'x-x-x-x-x-x-x-x-', b: 'x-x-x-x-x-x-x-x-' }],
  ['march', 16, 4, { k: 'x---x---x---x---', s: 'x-xxx-x-x-xxx-xx' }],
  ['half time', 16, 4, { k: 'x-----x---------', s: '--------x-------', h: 'x-x-x-x-x-x-x-x-' }],
  ['train', 16, 4, { k: 'x---x---x---x---', s: 'ooxoooxoooxoooxo' }],
  ['samba', 16, 4, { k: 'x--xx--xx--xx--x', s: 'x-x--x-xx-x--x-x', h: 'xoxoxoxoxoxoxoxo' }],
  ['chords', 16, 4, { p: 'x---x---x---x---', b: 'x-------x-------' }],
  ['picked', 16, 4, { p: 'x-o-x-o-x-o-x-o-', b: 'x---o---x---o---' }],
  ['claps', 16, 4, { c: '----x-------x---', k: 'x---x---x---x-x-' }],
  ['bass and hats', 16, 4, { b: 'x--x--x-x--x--x-', h: 'x---x---x---x---' }],
];

/** Each is played at two tempos, so that one lies beside the round figures. */
const LOOPS = PATTERNS.flatMap(([name, steps, beats, voices], i) =>
  [92 + ((i * 37) % 53), 84.3 + ((i * 29.7) % 61)].map((tempo, version) => ({
    name: `${name} at ${tempo.toFixed(1)}`,
    tempo,
    steps,
    beats,
    voices,
    bars: 2 + 2 * version,
    // A person is never quite in time: up to so many seconds beside it.
    loose: 0.004 * version,
    seed: 1000 * i + version,
  })),
);

/** Plays a loop in the browser and gives its samples, mono at 44 100 Hz. */
const played = (page: Page, loop: (typeof LOOPS)[number]): Promise<string> =>
  page.evaluate(async ({ tempo, steps, beats, voices, bars, loose, seed }) => {
    const rate = 44_100;
    // The same noise and the same looseness each time.
    let state = seed;
    const random = () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
      return state / 2 ** 32;
    };
    const bar = (beats * 60) / tempo;
    const context = new OfflineAudioContext(1, Math.round(bars * bar * rate), rate);
    const noise = context.createBuffer(1, rate, rate);
    const data = noise.getChannelData(0);
    for (let i = 0; i < rate; i++) data[i] = 2 * random() - 1;
    const fading = (at: number, level: number, seconds: number) => {
      const gain = new GainNode(context, { gain: 0 });
      gain.gain.setValueAtTime(level, at);
      gain.gain.exponentialRampToValueAtTime(0.0005, at + seconds);
      gain.connect(context.destination);
      return gain;
    };
    const tone = (type: OscillatorType, hz: number, at: number, level: number, seconds: number, to = hz) => {
      const oscillator = new OscillatorNode(context, { type, frequency: hz });
      oscillator.frequency.setValueAtTime(hz, at);
      oscillator.frequency.exponentialRampToValueAtTime(to, at + 0.06);
      oscillator.connect(fading(at, level, seconds));
      oscillator.start(at);
      oscillator.stop(at + seconds);
    };
    const hiss = (type: BiquadFilterType, hz: number, at: number, level: number, seconds: number) => {
      const source = new AudioBufferSourceNode(context, { buffer: noise });
      const filter = new BiquadFilterNode(context, { type, frequency: hz });
      source.connect(filter).connect(fading(at, level, seconds));
      source.start(at, random() * 0.5, seconds);
    };
    const play: Record<string, (at: number, level: number) => void> = {
      k: (at, level) => tone('sine', 150, at, 0.8 * level, 0.25, 48),
      s: (at, level) => {
        hiss('bandpass', 2200, at, 0.6 * level, 0.15);
        tone('triangle', 190, at, 0.3 * level, 0.1);
      },
      h: (at, level) => hiss('highpass', 7500, at, 0.25 * level, 0.05),
      c: (at, level) => hiss('bandpass', 1300, at, 0.7 * level, 0.12),
      w: (at, level) => tone('sine', 900, at, 0.4 * level, 0.06),
      b: (at, level) => tone('sawtooth', 65, at, 0.25 * level, 0.4),
      p: (at, level) => {
        for (const hz of [220, 277.2, 329.6]) tone('triangle', hz, at, 0.15 * level, 0.6);
      },
    };
    for (let i = 0; i < bars; i++) {
      for (const [voice, line] of Object.entries(voices)) {
        [...line].forEach((sign, step) => {
          if (sign === '-') return;
          const at = i * bar + (step / steps) * bar + loose * (2 * random() - 1);
          play[voice]?.(Math.max(0, at), sign === 'x' ? 1 : 0.45);
        });
      }
    }
    const made = (await context.startRendering()).getChannelData(0);
    const bytes = new Uint8Array(Int16Array.from(made, (value) => Math.max(-1, Math.min(1, value)) * 32_767).buffer);
    let text = '';
    for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
    return btoa(text);
  }, loop);

test('the tempo of forty loops is found within half a per cent in thirty-eight of them', async ({ page }) => {
  test.slow();
  await page.goto('/');
  const missed: string[] = [];
  for (const loop of LOOPS) {
    const bytes = Buffer.from(await played(page, loop), 'base64');
    const samples = Float32Array.from(
      new Int16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2),
      (value) => value / 32_768,
    );
    const found = tempoOf([samples], 44_100);
    const off = found ? Math.abs(found.best.tempo / loop.tempo - 1) : 1;
    if (off > 0.005)
      missed.push(`${loop.name}: ${found?.best.tempo.toFixed(2)}, then ${found?.second?.tempo.toFixed(2)}`);
  }
  expect(LOOPS).toHaveLength(40);
  expect(missed.length, missed.join('; ')).toBeLessThanOrEqual(2);
});

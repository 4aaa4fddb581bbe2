import { expect, test } from 'vitest';
import { readAssignments } from './commands/make.ts';
import { readReading } from './source.ts';

test.each([
  [['rate.sampleRate=11025'], { rate: { sampleRate: 11_025 } }],
  [['level.peakDb=-3.5'], { level: { peakDb: -3.5 } }],
  [['depth.bits=5', 'depth.dither=none'], { depth: { bits: 5, dither: 'none' } }],
  [['wrap.storageAttribute='], { wrap: { storageAttribute: '' } }],
  [['wrap.storageAttribute=a=b'], { wrap: { storageAttribute: 'a=b' } }],
  [['ends.block=pad', 'ends.block=trim'], { ends: { block: 'trim' } }],
  [
    ['ends.fadeOut.ms=20', 'ends.fadeOut.shape=linear', 'ends.frames=9'],
    { ends: { fadeOut: { ms: 20, shape: 'linear' }, frames: 9 } },
  ],
  [['ends.front=5', 'ends.front.ms=7'], { ends: { front: { ms: 7 } } }],
  [['level.removeDc=true', 'depth.blanks=false'], { level: { removeDc: true }, depth: { blanks: false } }],
  [['channels.mode=weights', 'channels.weights=0.7,-0.3'], { channels: { mode: 'weights', weights: [0.7, -0.3] } }],
  [['rate.sampleRate=16000000/1020'], { rate: { sampleRate: '16000000/1020' } }],
  [[], {}],
])('%j', (assignments, wishes) => expect(readAssignments(assignments)).toEqual(wishes));

test.each(['rate', 'rate=5', '.x=1', 'a.=1'])('%s is refused in words', (text) => {
  expect(() => readAssignments([text])).toThrow(`--set ${text} is not a setting; write it as station.key=value.`);
});

test.each([
  ['mu-law,8000,1', { encoding: 'mu-law', sampleRate: 8000, channels: 1, skip: 0 }],
  ['pcm-s16be, 44100, 2, 16', { encoding: 'pcm-s16be', sampleRate: 44_100, channels: 2, skip: 16 }],
  ['pcm-u8,15686.27', { encoding: 'pcm-u8', sampleRate: 15_686.27, channels: 1, skip: 0 }],
  ['pcm-u8,16000,1,0,5', { encoding: 'pcm-u8', sampleRate: 16_000, channels: 1, skip: 0, bits: 5 }],
])('--as %s', (text, reading) => expect(readReading(text)).toEqual({ bits: undefined, ...reading }));

test.each([
  '',
  'x,8000,1',
  'mu-law',
  'mu-law,0,1',
  'mu-law,8000,0',
  'mu-law,8000,1,-1',
  'mu-law,8000,1,0,0.5',
])('--as %s is refused in words', (text) =>
  expect(() => readReading(text)).toThrow(`--as ${text} is not a reading; write encoding,rate,channels`));

import { expect, test } from 'vitest';
import { readAssignments } from './assignments.ts';
import { frameOf, moment } from './numbers.ts';
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

test.each([
  ['83.5', 3_682_350],
  ['1:23.5', 3_682_350],
  ['01:00:00', 158_760_000],
  ['90:00', 238_140_000],
  ['.5', 22_050],
  ['0', 0],
  ['44100f', 44_100],
])('%s is frame %i at 44 100 Hz', (text, frame) => expect(frameOf(moment(text), 44_100)).toBe(frame));

test.each(['', '-1', '1:60', '1:60:00', ':5', '5:', '1e3', '44100 f', '5s', '1.5f'])('%j is no time', (text) =>
  expect(() => moment(text)).toThrow('give seconds, a time, or frames'));

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

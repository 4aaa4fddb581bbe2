import { expect, test } from 'vitest';
import { readAssignments } from './commands.ts';

test.each([
  [['rate.sampleRate=11025'], { rate: { sampleRate: 11_025 } }],
  [['level.peakDb=-3.5'], { level: { peakDb: -3.5 } }],
  [['depth.bits=5', 'depth.dither=none'], { depth: { bits: 5, dither: 'none' } }],
  [['wrap.storageAttribute='], { wrap: { storageAttribute: '' } }],
  [['wrap.storageAttribute=a=b'], { wrap: { storageAttribute: 'a=b' } }],
  [['ends.block=pad', 'ends.block=trim'], { ends: { block: 'trim' } }],
  [[], {}],
])('%j', (assignments, wishes) => expect(readAssignments(assignments)).toEqual(wishes));

test.each(['rate', 'rate=5', '.x=1', 'a.b.c=1', 'a.=1'])('%s is refused in words', (text) => {
  expect(() => readAssignments([text])).toThrow(`--set ${text} is no setting; write it as station.key=value.`);
});

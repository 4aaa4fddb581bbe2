import { USUAL_MANNER } from '@tambur/speech';
import { expect, test } from 'vitest';
import { mannerFrom } from './kept-manner.ts';

test.each([
  ['nothing', null, USUAL_MANNER],
  ['no JSON', '{voice', USUAL_MANNER],
  ['another thing', '[1]', USUAL_MANNER],
  ['all of it', '{"voice":"man","speed":1.5,"pitch":0.8}', { voice: 'man', speed: 1.5, pitch: 0.8 }],
  ['a voice that is gone', '{"voice":"choir","speed":1.5,"pitch":0.8}', { voice: 'woman', speed: 1.5, pitch: 0.8 }],
  ['figures out of range', '{"voice":"man","speed":99,"pitch":"0"}', { voice: 'man', speed: 1, pitch: 1 }],
  ['a part of it', '{"speed":2}', { voice: 'woman', speed: 2, pitch: 1 }],
])('kept: %s', (_, text, manner) => {
  expect(mannerFrom(text)).toEqual(manner);
});

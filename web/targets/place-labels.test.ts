import { expect, test } from 'vitest';
import { labelsIn } from './place-labels.ts';

test.each([
  ['4 horn\n12: door bell\n\n7=buzzer', { 4: 'horn', 7: 'buzzer', 12: 'door bell' }],
  ['', {}],
  ['  03   gong ', { 3: 'gong' }],
  ['horn', null],
  ['4', null],
  ['1234567 x', null],
])('%j', (text, wanted) => expect(labelsIn(text)).toEqual(wanted));

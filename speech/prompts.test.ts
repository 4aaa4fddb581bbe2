import { expect, test } from 'vitest';
import { nameOfPrompt, promptsOf } from './prompts.ts';

test('a prompt is a line that says something', () => {
  expect(promptsOf('  Mind the doors. \n\n \t\nUpper station.\r\n')).toEqual(['Mind the doors.', 'Upper station.']);
  expect(promptsOf(' \n ')).toEqual([]);
});

test.each([
  ['Mind the doors, please.', 'Mind the doors, please.wav'],
  ['Is it open?', 'Is it open.wav'],
  ['left/right: "both"', 'left right both.wav'],
  ['...', 'Prompt.wav'],
  [`${'word '.repeat(20)}`, `${'word '.repeat(12).trim()}.wav`],
  ['x'.repeat(100), `${'x'.repeat(60)}.wav`],
])('%j is named %j', (prompt, name) => expect(nameOfPrompt(prompt)).toBe(name));

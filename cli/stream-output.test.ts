import * as fs from 'node:fs';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { processOutput } from './stream-output.ts';

vi.mock('node:fs', { spy: true });

/** What a terminal shows in the end: lines, the last one written over as often as wanted. */
function terminal() {
  let text = '';
  const write = (more: string | Uint8Array) => {
    text += more;
    return true;
  };
  vi.spyOn(process.stdout, 'write').mockImplementation(write);
  vi.spyOn(process.stderr, 'write').mockImplementation(write);
  vi.mocked(fs.writeSync).mockImplementation((_, more) => Number(write(String(more))));
  return () => text.split('\n').map((line) => line.split('\r\x1b[K').at(-1));
}

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

test('progress is one line that is written over, and gone when there is something to say', () => {
  const shown = terminal();
  const output = processOutput(true);
  output.progress(1, 3);
  expect(shown()).toEqual(['']);
  vi.advanceTimersByTime(500);
  output.progress(1, 3);
  expect(shown()).toEqual([`[${'-'.repeat(24)}] file 1 of 3`]);
  output.words('b.wav does not exist.');
  vi.advanceTimersByTime(500);
  output.progress(2, 3);
  expect(shown()).toEqual(['b.wav does not exist.', `[${'#'.repeat(8)}${'-'.repeat(16)}] file 2 of 3`]);
  output.progress(3, 3);
  output.data('a.wav');
  expect(shown()).toEqual(['b.wav does not exist.', 'a.wav', '']);
});

test('where nobody watches, it is a plain line of a log, now and then', () => {
  const shown = terminal();
  const output = processOutput(false);
  vi.advanceTimersByTime(500);
  output.progress(1, 3);
  expect(shown()).toEqual(['']);
  vi.advanceTimersByTime(6000);
  output.progress(2, 3);
  output.progress(2, 3);
  expect(shown()).toEqual(['file 2 of 3', '']);
});

test('what a terminal would obey does not reach it; lines and tabs do', () => {
  const shown = terminal();
  const output = processOutput(false);
  output.words('\u001b]0;mine\u0007bell\u009b31m.wav: read');
  output.data('a\tb\nc');
  expect(shown()).toEqual(['\ufffd]0;mine\ufffdbell\ufffd31m.wav: read', 'a\tb', 'c', '']);
});

import { asciiBytes, latin1, wholeOf } from '../../bytes/index.ts';
import { bytesOf, encodings, findEncoding, layoutOf } from '../../encodings/index.ts';
import { InputError } from '../../words/index.ts';
import type { Container } from '../container.ts';
import { elementOf, NumberLines, numbersOf, parseNumbers } from './elements.ts';
import { HEAD_BYTES } from './form.ts';
import { safeIdentifier, USUAL_TEXT } from './options.ts';
import { soundOf } from './text-form.ts';

const HEAD =
  /^\{\s*"name": "[^"]*",\s*"encoding": "([a-z0-9-]+)",\s*"sampleRate": (\d+),\s*"channels": (\d+),\s*"frames": (\d+),\s*"samples": \[/;

const END = ']'.charCodeAt(0);

/** An object of JSON: what the sound is, then its numbers. */
export const json: Container = {
  id: 'json',
  title: 'JSON',
  extensions: ['json'],
  describesItself: true,
  textOptions: ['arrayName', 'lineWidth'],
  joint: ',\n',
  carries: encodings.map(({ id }) => id),
  carriesEvery: true,
  recognises: (bytes) => HEAD.test(latin1(bytes.subarray(0, HEAD_BYTES))),
  read(file) {
    const bytes = wholeOf(file);
    const head = HEAD.exec(latin1(bytes.subarray(0, HEAD_BYTES)));
    const encoding = head && findEncoding(head[1]);
    const [sampleRate, channels, frames] = (head ?? []).slice(2).map(Number);
    const numbers = {
      bytes,
      from: head?.[0].length ?? 0,
      closing: [END, END] as const,
      skipped: '',
    };
    const data = head && encoding && parseNumbers(numbers, elementOf(encoding));
    const layout = encoding && layoutOf(encoding, channels, sampleRate);
    const isWhole = data && data.length > 0 && channels > 0 && sampleRate > 0;
    if (!isWhole || !layout || data.length !== bytesOf(encoding, frames, layout)) {
      throw new InputError('damaged', 'The JSON file holds no array of the length that it states; write it again.');
    }
    return soundOf('json', { encoding, sampleRate, channels, frames }, data);
  },
  write({ encoding, sampleRate, channels, frames, stem, text }) {
    const { lineWidth, arrayName } = { ...USUAL_TEXT, ...text };
    const element = elementOf(encoding);
    const lines = new NumberLines({ prefix: '    ', lineEnd: ',', lineWidth, hex: false });
    const fields = [
      `"name": "${safeIdentifier(arrayName || stem)}"`,
      `"encoding": "${encoding.id}"`,
      `"sampleRate": ${sampleRate}`,
      `"channels": ${channels}`,
      `"frames": ${frames}`,
    ];
    return {
      head: asciiBytes(`{\n${fields.map((field) => `  ${field},\n`).join('')}  "samples": [\n`),
      body: (data) => lines.add(numbersOf(data, element), element),
      tail: () => asciiBytes('\n  ]\n}\n'),
    };
  },
};

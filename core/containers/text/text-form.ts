import { asciiBytes, inMemory, latin1, wholeOf } from '../../bytes/index.ts';
import { bytesOf, codecOf, encodings, findEncoding, layoutOf, type PlainEncoding } from '../../encodings/index.ts';
import { InputError } from '../../words/index.ts';
import type { Container, Packing, SoundFile } from '../container.ts';
import { elementOf, NumberLines, numbersOf, parseNumbers } from './elements.ts';
import { type ArrayContext, beginsAs, closingOf, HEAD_BYTES, type TextForm } from './form.ts';
import { BESIDE_STEMS } from './keywords.ts';
import { safeIdentifier, USUAL_TEXT } from './options.ts';
import { wholeArray } from './whole-file.ts';

const channelWords = (channels: number) => (channels === 1 ? 'mono' : `${channels} channels`);

/** The comment that begins every form, and says what the numbers are: title, id, rate, channels, frames. */
const STATEMENT = /^[^A-Za-z0-9]*([^\n]*?) \(([a-z0-9-]+)\), (\d+) Hz, (mono|(\d+) channels), (\d+) frames\b/;

/** A sound whose bytes were put together from numbers. */
export const soundOf = (
  container: string,
  stated: Pick<SoundFile, 'encoding' | 'sampleRate' | 'channels' | 'frames'>,
  data: Uint8Array,
): SoundFile => ({
  ...stated,
  container,
  codec: codecOf(stated.encoding, layoutOf(stated.encoding, stated.channels, stated.sampleRate)),
  data: inMemory(data),
  tags: [],
  extras: [],
  warnings: [],
});

/** Makes a container of a form. It carries every encoding: samples of whole bytes as numbers, all else as bytes. */
export function textContainer(form: TextForm): Container {
  const [commentStart, commentEnd] = form.comment;
  const damaged = (what: string) =>
    new InputError('damaged', `The ${form.title} ${what}; write it again from its source.`);

  return {
    id: form.id,
    title: form.title,
    extensions: form.extensions,
    describesItself: true,
    textOptions: form.options,
    joint: '\n\n',
    takesStem: (stem) => !BESIDE_STEMS.includes(stem) && (form.takesStem?.(stem) ?? true),
    ...(form.language === undefined ? {} : { symbolOf: safeIdentifier }),
    ...(form.declare
      ? {
          declare: (name: string, encoding: PlainEncoding, type: string) =>
            form.declare?.(name, elementOf(encoding), type) ?? '',
        }
      : {}),
    array: wholeArray(form),
    ...(form.language === undefined ? {} : { language: form.language }),
    carries: encodings.map(({ id }) => id),
    carriesEvery: true,
    recognises(bytes) {
      const head = latin1(bytes.subarray(0, HEAD_BYTES));
      return beginsAs(form, head) && STATEMENT.test(head) && form.opening.test(head);
    },
    read(file) {
      const bytes = wholeOf(file);
      const head = latin1(bytes.subarray(0, HEAD_BYTES));
      const [, , id = '', rate, , count = '1', stated] = STATEMENT.exec(head) ?? [];
      const encoding = findEncoding(id);
      const opening = form.opening.exec(head);
      const sampleRate = Number(rate);
      const channels = Number(count);
      const frames = Number(stated);
      if (!encoding || !opening || !(sampleRate > 0) || !(channels > 0)) {
        throw damaged('does not say in its first line what it holds');
      }
      const from = opening.index + opening[0].length;
      const element = elementOf(encoding);
      const skipped = form.line(element).prefix.trim();
      const data = parseNumbers({ bytes, from, closing: closingOf(form), skipped }, element);
      if (!data)
        throw damaged('has an array that ends too early, or that holds something other than numbers of its type');
      const layout = layoutOf(encoding, channels, sampleRate);
      if (data.length !== bytesOf(encoding, frames, layout))
        throw damaged('states a length that its array does not have');
      const isStated = (pattern: RegExp | undefined, value: number) => {
        const match = pattern?.exec(head);
        return !match || Number(match[1]) === value;
      };
      const { length, sampleRate: rateStated } = form.states;
      if (!isStated(length, data.length / element.bytes) || !isStated(rateStated, sampleRate)) {
        throw damaged('states a length or a rate other than its first line does');
      }
      if (frames === 0) throw new InputError('no-frames', `The ${form.title} holds no sound; choose another file.`);
      return soundOf(form.id, { encoding, sampleRate, channels, frames }, data);
    },
    write({ encoding, sampleRate, channels, frames, dataBytes, stem, text }: Packing) {
      const options = { ...USUAL_TEXT, ...text };
      const element = elementOf(encoding);
      const { prefix, end } = form.line(element);
      const context: ArrayContext = {
        name: safeIdentifier(options.arrayName || stem),
        element,
        length: dataBytes / element.bytes,
        sampleRate,
        channels,
        frames,
        options,
      };
      const what = `${encoding.title} (${encoding.id}), ${sampleRate} Hz, ${channelWords(channels)}, ${frames} frames.`;
      const lines = new NumberLines({
        prefix,
        lineEnd: end,
        lineWidth: options.lineWidth,
        hex: options.numbers === 'hex',
      });
      return {
        head: asciiBytes([`${commentStart}${what}${commentEnd}`, ...form.before(context), ''].join('\n')),
        body: (data) => lines.add(numbersOf(data, element), element),
        tail: () =>
          asciiBytes(
            `${form.lastEnd}\n${form
              .after(context)
              .map((line) => `${line}\n`)
              .join('')}`,
          ),
      };
    },
  };
}

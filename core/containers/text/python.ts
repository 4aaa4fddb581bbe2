import { textContainer } from './text-form.ts';

/** A bytes object of Python, with names for its rate and channels. */
export const python = textContainer({
  id: 'python',
  title: 'Python source',
  extensions: ['py'],
  onlyBytes: true,
  comment: ['# ', ''],
  before: ({ name, sampleRate, channels, options }) => {
    const prefix = name.toUpperCase();
    return [
      ...(options.constants ? [`${prefix}_SAMPLE_RATE = ${sampleRate}`, `${prefix}_CHANNELS = ${channels}`] : []),
      `${prefix} = bytes((`,
    ];
  },
  line: { prefix: '    ', end: ',' },
  lastEnd: ',',
  after: () => ['))'],
  opening: /\n\w+ = bytes\(\(\n/,
  closing: ')',
  states: { sampleRate: /_SAMPLE_RATE = (\d+)/ },
});

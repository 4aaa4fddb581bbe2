import * as v from 'valibot';
import { butterworth, FilterCascade } from '../../dsp/index.ts';
import { inForm, within } from '../../forms/index.ts';
import { formatRate } from '../../words/index.ts';
import type { Trait } from '../trait.ts';

const hz = within({ least: 1, most: 1_000_000 });

const schema = v.pipe(
  v.strictObject({
    low: inForm(hz, { label: 'From', unit: 'Hz', usual: 100 }),
    high: inForm(hz, { label: 'To', unit: 'Hz', usual: 16_000 }),
  }),
  v.check(({ low, high }) => low < high, 'a loudspeaker sounds from a lower to a higher frequency'),
);

/** What the device's loudspeaker makes, in Hz: 24 dB an octave beyond. */
export const speaker: Trait<'speaker', v.InferOutput<typeof schema>> = {
  id: 'speaker',
  title: 'Loudspeaker',
  schema,
  words: ({ low, high }) => `reproduces ${formatRate(low)} to ${formatRate(high)}`,
  steps: () => [
    {
      at: ['thin', 'dull', 'too-quiet'],
      words: 'Its loudspeaker makes only part of the sound: compare with headphones, or listen to "on the device".',
    },
  ],
  hear({ low, high }, { sampleRate, channels }) {
    const half = sampleRate / 2;
    // Above half of the rate there is no sound that could be taken away.
    const sections = [
      ...(low < half ? butterworth('high-pass', low, sampleRate) : []),
      ...(high < half ? butterworth('low-pass', high, sampleRate) : []),
    ];
    const cascades = Array.from({ length: channels }, () => new FilterCascade(sections));
    return (block) => block.map((samples, channel) => cascades[channel]?.push(samples) ?? samples);
  },
};

import * as v from 'valibot';
import { inForm, wholeWithin, within } from '../../forms/index.ts';
import { TIMER_RANGES, timerRates } from '../../numbers/index.ts';
import { formatRate } from '../../words/index.ts';
import { playedAt, type Trait } from '../trait.ts';

/** What there is to know of a timer, and the rate that is wanted of it. */
export const timerEntries = {
  /** Hz of the processor's clock. */
  clock: inForm(wholeWithin(TIMER_RANGES.clock), { label: 'Processor clock', unit: 'Hz', usual: 16_000_000 }),
  /** What the clock can be divided by before the timer counts. */
  prescalers: inForm(v.pipe(v.array(wholeWithin(TIMER_RANGES.prescaler)), v.minLength(1)), {
    label: 'Prescalers',
    usual: [1, 8, 64, 256, 1024],
  }),
  /** Bits of the timer's counter. */
  counterBits: inForm(wholeWithin(TIMER_RANGES.counterBits), { label: 'Counter width', unit: 'bits', usual: 8 }),
  /** Hz. */
  wanted: inForm(within(TIMER_RANGES.wanted), { label: 'Wanted rate', unit: 'Hz', usual: 16_000 }),
};
const schema = v.strictObject(timerEntries);

export type TimedRate = v.InferOutput<typeof schema>;

/** What the timer makes that comes nearest to what is wanted; undefined if it makes nothing like it. */
export const rateMade = (timed: TimedRate) => timerRates(timed, timed.wanted, 1)[0];

/** The timer by which the device plays, whatever a file states: only rates that its clock divides to are possible. */
export const timer: Trait<'timer', TimedRate> = {
  id: 'timer',
  title: 'Timer that sets its rate',
  schema,
  words(timed) {
    const made = rateMade(timed);
    return made
      ? `plays at ${formatRate(made.hz)}, which its timer makes of ${formatRate(timed.clock)}, whatever is stated`
      : `has a timer that cannot come near ${formatRate(timed.wanted)}`;
  },
  implies: (timed) => [{ kind: 'timer-rate', ...timed }],
  otherwise: [
    {
      kind: 'timer-rate',
      words: 'plays it at this rate all the same',
      value: ({ clock, prescalers, counterBits, wanted }) => ({ clock, prescalers, counterBits, wanted }),
    },
  ],
  take(timed, taken) {
    const made = rateMade(timed);
    return made
      ? playedAt(taken, made.hz)
      : { word: 'no sound', reason: `Its timer cannot come near ${formatRate(timed.wanted)}.` };
  },
};

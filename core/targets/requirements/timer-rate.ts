import * as v from 'valibot';
import { inForm, wholeWithin, within } from '../../forms/index.ts';
import { hertz } from '../../numbers/index.ts';
import { formatCount, formatRate } from '../../words/index.ts';
import { centsBetween, TIMER_RANGES, timerRates } from '../clock.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('timer-rate'),
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
});
type TimerRate = v.InferOutput<typeof schema>;

const cents = (value: number) => `${value < 0 ? '\u2212' : '+'}${Math.abs(value).toFixed(2)} cents`;

const nearest = (requirement: TimerRate) => timerRates(requirement, requirement.wanted)[0];

/** A rate that a timer can really make: clock / (prescaler x (top + 1)). */
export const timerRate: FileRequirementKind<TimerRate> = {
  kind: 'timer-rate',
  scope: 'file',
  station: 'rate',
  schema,
  title: 'timer rate',
  wanted(requirement) {
    const made = nearest(requirement);
    if (!made) return `${formatRate(requirement.wanted)}, which this timer cannot come near`;
    const { prescaler, top, hz } = made;
    const how = `${formatRate(requirement.clock)} / (${formatCount(prescaler)} \u00d7 ${formatCount(top + 1)})`;
    return `${formatRate(hz)}, ${how}, ${cents(centsBetween(hz, requirement.wanted))}`;
  },
  demands(requirement) {
    const made = nearest(requirement);
    return made ? { sampleRates: [made.exact] } : {};
  },
  check(requirement, { facts }) {
    const made = nearest(requirement);
    const found = formatRate(facts.sampleRate);
    if (facts.certainty === 'assumed') return notStated(found);
    if (!made) return { meets: false, found, mend: 'choose another clock, prescaler or rate' };
    const off = centsBetween(facts.sampleRate, made.hz);
    return {
      meets: Math.round(hertz(made.exact)) === facts.sampleRate,
      found: `${found}, played at ${formatRate(made.hz)}: ${cents(-off)}`,
      mend: `resample it to ${formatRate(made.hz)}`,
    };
  },
};

import * as v from 'valibot';
import { centsBetween, hertz } from '../../numbers/index.ts';
import { rateMade, timerEntries } from '../../standin/index.ts';
import { formatCount, formatRate } from '../../words/index.ts';
import { common, type FileRequirementKind, notStated } from './requirement.ts';

const schema = v.strictObject({
  ...common,
  kind: v.literal('timer-rate'),
  ...timerEntries,
});
type TimerRate = v.InferOutput<typeof schema>;

const cents = (value: number) => `${value < 0 ? '\u2212' : '+'}${Math.abs(value).toFixed(2)} cents`;

/** A rate that a timer can really make: clock / (prescaler x (top + 1)). */
export const timerRate: FileRequirementKind<TimerRate> = {
  kind: 'timer-rate',
  scope: 'file',
  station: 'rate',
  schema,
  title: 'timer rate',
  wanted(requirement) {
    const made = rateMade(requirement);
    if (!made) return `${formatRate(requirement.wanted)}, which this timer cannot come near`;
    const { prescaler, top, hz } = made;
    const how = `${formatRate(requirement.clock)} / (${formatCount(prescaler)} \u00d7 ${formatCount(top + 1)})`;
    return `${formatRate(hz)}, ${how}, ${cents(centsBetween(hz, requirement.wanted))}`;
  },
  narrow: (a, b) => (rateMade(a)?.hz === rateMade(b)?.hz ? a : null),
  demands(requirement) {
    const made = rateMade(requirement);
    return made ? { sampleRates: [made.exact] } : {};
  },
  check(requirement, { facts }) {
    const made = rateMade(requirement);
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

import * as v from 'valibot';
import { formatDb, fromDb, peakOf, toDb } from '../../audio/index.ts';
import { BY_HAND, bySheet, type Station } from '../station.ts';

const wish = v.union([
  v.strictObject({ peakDb: v.pipe(v.number(), v.minValue(-60), v.maxValue(0)) }),
  v.strictObject({ gainDb: v.pipe(v.number(), v.minValue(-60), v.maxValue(60)) }),
]);

/** A goal for the highest sample at the delivered rate (dBFS), with the most it may raise; or a fixed gain (dB). */
export type LevelPlan =
  | { readonly mode: 'peak'; readonly peakDb: number; readonly mostGainDb: number }
  | { readonly mode: 'gain'; readonly gainDb: number };

/** An automatic level raises no further: beyond, it lifts little but the noise. Common practice, no source. */
const MOST_AUTOMATIC_GAIN = 40;
const MOST_GAIN = 120;

/** How loud. Comes after Rate, so that a goal holds at the rate that is delivered. */
export const level: Station<v.InferOutput<typeof wish>, LevelPlan> = {
  title: 'Level',
  wish,
  needs: [],
  settle({ demands: { peakDb } }, wished) {
    if (wished) {
      return 'gainDb' in wished
        ? {
            plan: { mode: 'gain', gainDb: wished.gainDb },
            byHand: true,
            figure: formatDb(wished.gainDb, 'dB', true),
            why: BY_HAND,
          }
        : {
            plan: { mode: 'peak', peakDb: wished.peakDb, mostGainDb: MOST_GAIN },
            byHand: true,
            figure: `to ${formatDb(wished.peakDb, 'dBFS')}`,
            why: BY_HAND,
          };
    }
    if (!peakDb) {
      return {
        plan: { mode: 'gain', gainDb: 0 },
        byHand: false,
        figure: formatDb(0, 'dB'),
        why: 'The sheet does not ask for a level.',
      };
    }
    const goal = formatDb(peakDb.value, 'dBFS');
    return {
      plan: { mode: 'peak', peakDb: peakDb.value, mostGainDb: MOST_AUTOMATIC_GAIN },
      byHand: false,
      figure: `to ${goal}`,
      why: `${bySheet(`a peak at ${goal}`)} As loud as it goes without clipping.`,
    };
  },
  whole(plan, channels, report) {
    report.peakBefore = Math.max(...channels.map(peakOf));
    const room = -toDb(report.peakBefore);
    const silent = report.peakBefore === 0;
    const gainDb = plan.mode === 'gain' ? plan.gainDb : silent ? 0 : Math.min(room + plan.peakDb, plan.mostGainDb);
    report.gainDb = gainDb;
    report.headroomDb = silent ? null : room - gainDb;
    if (gainDb === 0) return channels;
    const factor = fromDb(gainDb);
    return channels.map((samples) => {
      const out = new Float32Array(samples.length);
      for (let i = 0; i < out.length; i++) out[i] = samples[i] * factor;
      return out;
    });
  },
};

import * as v from 'valibot';
import { peakOf, requireFinite } from '../../audio/index.ts';
import { Room } from '../../bytes/index.ts';
import { butterworth, FilterCascade, Limiter, LoudnessMeter, TruePeakMeter } from '../../dsp/index.ts';
import type { Facts } from '../../facts/index.ts';
import { GOAL_RANGE, within } from '../../forms/index.ts';
import { scale } from '../../kernel/samples.ts';
import { clamp, fromDb, steadyDigits, toDb } from '../../numbers/index.ts';
import { kindOf, type SettledDemands } from '../../targets/index.ts';
import { formatDb, formatRate, InputError } from '../../words/index.ts';
import { type Block, eachBlock, type Step } from '../passage.ts';
import { BY_HAND, bySheet, type Format, type SettledStation, station } from '../station.ts';
import { type RatePlan, rate } from './rate.ts';

/** Values that Level accepts, apart from goals. */
export const LEVEL_RANGES = {
  gainDb: { least: -60, most: 60 },
  /** Hz. */
  highPass: { least: 20, most: 1000 },
} as const;

const db = v.optional(within(GOAL_RANGE));

const GOALS = ['gainDb', 'peakDb', 'truePeakDb', 'loudness'] as const;

const wish = v.pipe(
  v.strictObject({
    /** One of these four at most: a fixed gain, or a goal in dBFS, dBTP or LUFS. */
    gainDb: v.optional(within(LEVEL_RANGES.gainDb)),
    peakDb: db,
    truePeakDb: db,
    loudness: db,
    /** With a loudness: what the true peak must not exceed, dBTP. */
    ceilingDb: db,
    /** Ceiling of the limiter in dBFS; left out, it is off. */
    limitDb: db,
    /** True takes the mean off. */
    removeDc: v.optional(v.boolean()),
    /** Corner of a high-pass in Hz: small loudspeakers make nothing of what lies below. */
    highPass: v.optional(within(LEVEL_RANGES.highPass)),
    /** True keeps 300 to 3 400 Hz. */
    telephoneBand: v.optional(v.boolean()),
  }),
  v.check(
    (value) => GOALS.filter((goal) => value[goal] !== undefined).length <= 1,
    'one goal at a time: a gain, a peak, a true peak or a loudness',
  ),
);
type Wish = v.InferOutput<typeof wish>;

/** What the gain is to reach, with the most it may raise. */
export type LevelGoal =
  | { readonly kind: 'gain'; readonly gainDb: number }
  | { readonly kind: 'peak'; readonly db: number; readonly mostGainDb: number }
  | { readonly kind: 'true-peak'; readonly db: number; readonly mostGainDb: number }
  | {
      readonly kind: 'loudness';
      readonly lufs: number;
      readonly ceilingDb: number | null;
      readonly mostGainDb: number;
    };

export interface LevelFilter {
  readonly kind: 'high-pass' | 'low-pass';
  /** Corner in Hz. */
  readonly hz: number;
}

export interface LevelPlan {
  readonly removeDc: boolean;
  readonly filters: readonly LevelFilter[];
  readonly goal: LevelGoal;
  /** dBFS; null if the limiter is off. */
  readonly limitDb: number | null;
  /** What the limiter holds the true peak to as well, dBTP; left out if nothing is said of it. */
  readonly limitTruePeakDb?: number;
}

/** An automatic level raises no further: beyond, it lifts little but the noise. Common practice, no source. */
const MOST_AUTOMATIC_GAIN = 40;
const MOST_GAIN = 120;
/** What a loudness may reach in true peak if nothing is said (EBU R 128: -1 dBTP; from memory). */
const USUAL_CEILING = -1;
/** Goals to compare, dBFS and LUFS (common practice, no source). */
const PEAKS = [-1, -3, -6];
const LOUDNESSES = [-16, -23];
/** The band of the telephone network, Hz (common practice; ITU-T G.712 measures within it). */
const TELEPHONE = { low: 300, high: 3400 };

/** What a sheet asks of the level. */
type Asked = Pick<SettledDemands, 'peakDb' | 'truePeakDb' | 'peakMost' | 'loudness'>;

/** The goal of a sheet; null if it asks for none. A peak that is only not to be exceeded raises nothing. */
function askedGoal({ peakDb, truePeakDb, peakMost, loudness }: Asked): LevelGoal | null {
  const most = peakMost?.value.db ?? Number.POSITIVE_INFINITY;
  const mostGainDb = MOST_AUTOMATIC_GAIN;
  if (loudness) {
    const ceilingDb = Math.min(most, truePeakDb?.value ?? peakDb?.value ?? Number.POSITIVE_INFINITY);
    return {
      kind: 'loudness',
      lufs: loudness.value,
      ceilingDb: Number.isFinite(ceilingDb) ? ceilingDb : USUAL_CEILING,
      mostGainDb,
    };
  }
  if (truePeakDb) return { kind: 'true-peak', db: Math.min(truePeakDb.value, most), mostGainDb };
  // The true peak is never below the highest sample.
  if (peakDb)
    return {
      kind: peakMost?.value.isTrue && most <= peakDb.value ? 'true-peak' : 'peak',
      db: Math.min(peakDb.value, most),
      mostGainDb,
    };
  if (peakMost) return { kind: peakMost.value.isTrue ? 'true-peak' : 'peak', db: most, mostGainDb: 0 };
  return null;
}

function goalOf(wished: Wish | undefined, asked: LevelGoal | null): LevelGoal {
  if (wished?.gainDb !== undefined) return { kind: 'gain', gainDb: wished.gainDb };
  if (wished?.peakDb !== undefined) return { kind: 'peak', db: wished.peakDb, mostGainDb: MOST_GAIN };
  if (wished?.truePeakDb !== undefined) return { kind: 'true-peak', db: wished.truePeakDb, mostGainDb: MOST_GAIN };
  if (wished?.loudness !== undefined) {
    // The limiter keeps what a gain would carry over full scale, so it takes the place of the ceiling.
    const ceilingDb = wished.limitDb === undefined ? (wished.ceilingDb ?? USUAL_CEILING) : null;
    return { kind: 'loudness', lufs: wished.loudness, ceilingDb, mostGainDb: MOST_GAIN };
  }
  return asked ?? { kind: 'gain', gainDb: 0 };
}

function goalWords(goal: LevelGoal): string {
  if (goal.kind === 'gain') return formatDb(goal.gainDb, 'dB', true);
  if (goal.kind === 'loudness') return `to ${formatDb(goal.lufs, 'LUFS')}`;
  const level = formatDb(goal.db, goal.kind === 'peak' ? 'dBFS' : 'dBTP');
  return goal.mostGainDb === 0 ? `at most ${level}` : `to ${level}`;
}

/** Why the level is what the sheet makes it. */
function askedWords({ loudness, peakDb, truePeakDb, peakMost }: Asked): string {
  if (loudness) return bySheet(`a loudness of ${formatDb(loudness.value, 'LUFS')}`);
  const from = (truePeakDb ?? peakDb ?? peakMost)?.from;
  if (!from) return 'The sheet does not ask for a level.';
  if (!truePeakDb && !peakDb)
    return `${bySheet(`a peak ${kindOf(from).wanted(from)}`)} It is turned down only where it is above.`;
  return `${bySheet(`a peak at ${kindOf(from).wanted(from)}`)} As loud as it can be without clipping.`;
}

function filtersOf({ highPass, telephoneBand }: Wish, { to }: RatePlan): LevelFilter[] {
  const filters: LevelFilter[] = [
    ...(highPass === undefined ? [] : [{ kind: 'high-pass' as const, hz: highPass }]),
    ...(telephoneBand
      ? [
          { kind: 'high-pass' as const, hz: TELEPHONE.low },
          // A rate that carries nothing above needs no low-pass.
          ...(TELEPHONE.high < 0.45 * to ? [{ kind: 'low-pass' as const, hz: TELEPHONE.high }] : []),
        ]
      : []),
  ];
  const outside = filters.find(({ hz }) => hz >= 0.45 * to);
  if (outside) {
    throw new InputError(
      'bad-setting',
      `Level: a corner of ${formatRate(outside.hz)} is too high for a rate of ${formatRate(to)}; choose a lower one.`,
    );
  }
  return filters;
}

/** How loud, and what of the sound. Comes after Rate, so that a goal holds at the rate that is delivered. */
export const level = station({
  id: 'level',
  title: 'Level',
  wish,
  needs: { rate },
  settle({ demands }, wished: Wish | undefined, { rate }): SettledStation<LevelPlan> {
    const goal = goalOf(wished, askedGoal(demands));
    const removeDc = wished?.removeDc ?? demands.removeDc?.value ?? false;
    const isOwn = wished !== undefined && GOALS.some((name) => wished[name] !== undefined);
    const filters = filtersOf(wished ?? {}, rate);
    const limitDb = wished?.limitDb ?? null;
    // A wish that speaks of the true peak is held by the limiter too.
    const truePeakDb = limitDb === null ? undefined : (wished?.ceilingDb ?? wished?.truePeakDb);
    const reasons = [
      isOwn ? BY_HAND : askedWords(demands),
      ...(goal.kind === 'loudness' && goal.ceilingDb !== null
        ? [`The true peak stays below ${formatDb(goal.ceilingDb, 'dBTP')}, even if the loudness is not reached.`]
        : []),
      ...(removeDc ? ['The DC offset is removed.'] : []),
      ...filters.map(({ kind, hz }) => `A ${kind} at ${formatRate(hz)}.`),
      ...(limitDb === null ? [] : [`A limiter keeps peaks at or below ${formatDb(limitDb, 'dBFS')}.`]),
      ...(truePeakDb === undefined ? [] : [`It keeps the true peak at or below ${formatDb(truePeakDb, 'dBTP')}.`]),
    ];
    return {
      plan: {
        ...{ removeDc, filters, goal, limitDb },
        ...(truePeakDb === undefined ? {} : { limitTruePeakDb: truePeakDb }),
      },
      byHand: wished !== undefined,
      figure: goal.kind === 'gain' && !isOwn ? formatDb(0, 'dB') : goalWords(goal),
      why: reasons.join(' '),
    };
  },
  steps: ({ removeDc, filters, goal, limitDb, limitTruePeakDb = null }, format) => [
    ...(removeDc ? [meanRemoval()] : []),
    ...(filters.length ? [filtering(filters, format)] : []),
    gain(goal, format),
    ...(limitDb === null ? [] : [limiting(limitDb, limitTruePeakDb, format)]),
  ],
  // Goals exclude each other.
  alternatives: () =>
    [
      ...PEAKS.map((peakDb) => ({ label: `peak ${formatDb(peakDb, 'dBFS')}`, wish: { peakDb } })),
      ...LOUDNESSES.map((loudness) => ({ label: formatDb(loudness, 'LUFS'), wish: { loudness } })),
      { label: 'as it came', wish: { gainDb: 0 } },
    ].map((candidate) => ({ ...candidate, isAlone: true })),
  inPiece: (plan, { facts }) => ({
    plan: { ...plan, goal: likelyGain(plan.goal, facts) },
    provisional: plan.goal.kind === 'gain' && !plan.removeDc ? [] : ['the level'],
  }),
  outcome: ({ gainDb, clippedFrames }) => ({ figure: formatDb(gainDb, 'dB', true), isTrouble: clippedFrames > 0 }),
});

/** The gain that a goal comes to, as far as the source's own levels tell. */
function likelyGain(goal: LevelGoal, { levels, measures }: Facts): LevelGoal {
  if (goal.kind === 'gain') return goal;
  const peakDb = toDb(Math.max(...levels.peak));
  const wanted =
    goal.kind === 'loudness'
      ? Math.min(
          goal.lufs - (measures.loudness ?? goal.lufs),
          goal.ceilingDb === null ? Number.POSITIVE_INFINITY : goal.ceilingDb - toDb(measures.truePeak),
        )
      : goal.db - (goal.kind === 'true-peak' ? toDb(measures.truePeak) : peakDb);
  return { kind: 'gain', gainDb: Number.isFinite(wanted) ? clamp(wanted, -120, goal.mostGainDb) : 0 };
}

/** Changes every sample by a gain. */
const scaled = (block: Block, factor: number, room: Room): Block =>
  factor === 1
    ? block
    : block.map((samples, channel) => {
        const out = room.samples(channel, samples.length);
        scale(samples, factor, out);
        return out;
      });

function meanRemoval(): Step {
  const sums: number[] = [];
  let frames = 0;
  return {
    survey(block) {
      block.forEach((samples, channel) => {
        let sum = 0;
        for (let i = 0; i < samples.length; i++) sum += samples[i];
        sums[channel] = (sums[channel] ?? 0) + sum;
      });
      frames += block[0].length;
    },
    start: () =>
      eachBlock((block) =>
        block.map((samples, channel) => {
          const mean = sums[channel] / frames;
          return mean === 0 ? samples : samples.map((value) => value - mean);
        }),
      ),
  };
}

const filtering = (filters: readonly LevelFilter[], { sampleRate, channels }: Format): Step => ({
  start() {
    const sections = filters.flatMap(({ kind, hz }) => butterworth(kind, hz, sampleRate));
    const cascades = Array.from({ length: channels }, () => new FilterCascade(sections));
    return eachBlock((block) => cascades.map((cascade, channel) => cascade.push(block[channel])));
  },
});

/** Looks at the whole sound as far as the goal needs it, then changes it by one gain. */
function gain(goal: LevelGoal, { sampleRate, channels }: Format): Step {
  let peak = 0;
  const truePeaks = Array.from({ length: channels }, () => new TruePeakMeter());
  const loudness = new LoudnessMeter(sampleRate, channels);
  const lookAtTruePeaks = (block: Block) => {
    truePeaks.forEach((meter, channel) => {
      meter.add(block[channel]);
    });
  };
  const surveys: Record<Exclude<LevelGoal['kind'], 'gain'>, (block: Block) => void> = {
    peak: (block) => {
      peak = Math.max(peak, ...block.map(peakOf));
    },
    'true-peak': lookAtTruePeaks,
    loudness: (block) => {
      loudness.add(block);
      lookAtTruePeaks(block);
    },
  };
  const roomTo = (ceilingDb: number, linear: number) => (linear === 0 ? null : ceilingDb - toDb(linear));
  const truePeak = () => Math.max(...truePeaks.map((meter) => meter.result()));
  const wantedGain = (): number | null => {
    if (goal.kind === 'gain') return goal.gainDb;
    if (goal.kind === 'peak') return roomTo(goal.db, peak);
    if (goal.kind === 'true-peak') return roomTo(goal.db, truePeak());
    const found = loudness.integrated();
    if (found === null) return null;
    const room = goal.ceilingDb === null ? null : roomTo(goal.ceilingDb, truePeak());
    return Math.min(goal.lufs - found, room ?? Number.POSITIVE_INFINITY);
  };
  return {
    ...(goal.kind === 'gain' ? {} : { survey: surveys[goal.kind] }),
    start() {
      // There is nothing to raise in silence.
      const most = goal.kind === 'gain' ? MOST_GAIN : goal.mostGainDb;
      const { gainDb } = requireFinite({ gainDb: Math.min(wantedGain() ?? 0, most) });
      const factor = steadyDigits(fromDb(gainDb));
      const room = new Room();
      let peakBefore = 0;
      return {
        push(block) {
          peakBefore = Math.max(peakBefore, ...block.map(peakOf));
          return [scaled(block, factor, room)];
        },
        measured: () => ({
          peakBefore,
          gainDb,
          headroomDb: peakBefore === 0 ? null : -toDb(peakBefore) - gainDb,
        }),
      };
    },
  };
}

const limiting = (limitDb: number, truePeakDb: number | null, { sampleRate }: Format): Step => ({
  start() {
    const truePeak = truePeakDb === null ? null : steadyDigits(fromDb(truePeakDb));
    const limiter = new Limiter(steadyDigits(fromDb(limitDb)), sampleRate, truePeak);
    return {
      push: (block) => [limiter.push(block)],
      finish: () => [limiter.finish()],
      measured: () => ({ limited: { frames: limiter.limitedFrames, mostDb: -toDb(limiter.lowestGain) } }),
    };
  },
});

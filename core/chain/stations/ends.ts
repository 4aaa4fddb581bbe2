import * as v from 'valibot';
import { outContainerOf } from '../../containers/index.ts';
import { FADE_SHAPES, type FadeShape } from '../../dsp/index.ts';
import { bytesOf, codecOf, layoutOf, plainEncodingOf } from '../../encodings/index.ts';
import { BAR_RANGES, wholeWithin, within } from '../../forms/index.ts';
import { barFrames, framesAt, framesAtRate, fromDb, leastCommonMultiple } from '../../numbers/index.ts';
import { kindOf, type SettledDemands } from '../../targets/index.ts';
import { formatBytes, formatCount, formatDb, formatLength, formatSeconds, InputError } from '../../words/index.ts';
import {
  centsOf,
  type EndsPlan,
  type Fade,
  type Layout,
  type LengthRule,
  layOut,
  lengthOf,
  type Silence,
} from '../ends-layout.ts';
import { endsSteps } from '../ends-steps.ts';
import { bindingLimit, type FileKind, framesInFile, type LengthLimit } from '../length-limits.ts';
import { BY_HAND, bySheet, type PlansOf, type SettledStation, station } from '../station.ts';
import { channels } from './channels.ts';
import { cut } from './cut.ts';
import { rate } from './rate.ts';
import { type WrapPlan, wrap } from './wrap.ts';

/** Values that Ends accepts. Lengths in ms, the threshold in dBFS. */
export const ENDS_RANGES = {
  thresholdDb: { least: -96, most: -10 },
  keepMs: { least: 0, most: 10_000 },
  seamMs: { least: 0, most: 2000 },
  fadeMs: { least: 0, most: 60_000 },
  silenceMs: { least: 0, most: 60_000 },
  frames: { least: 1, most: 1e9 },
} as const;

/** Threshold and shape of a trim or a fade that names none. */
export const USUAL_ENDS = { thresholdDb: -60, shape: 'smooth' } as const satisfies {
  thresholdDb: number;
  shape: FadeShape;
};

const fade = v.strictObject({ ms: within(ENDS_RANGES.fadeMs), shape: v.optional(v.picklist(FADE_SHAPES)) });
const silence = v.strictObject({
  ms: within(ENDS_RANGES.silenceMs),
  /** True: silence that is there already counts. */
  atLeast: v.optional(v.boolean()),
});

const wish = v.pipe(
  v.strictObject({
    /** Takes silence off both ends: what is below the threshold, but for so many ms. */
    trim: v.optional(
      v.strictObject({
        thresholdDb: v.optional(within(ENDS_RANGES.thresholdDb)),
        keepMs: v.optional(within(ENDS_RANGES.keepMs)),
      }),
    ),
    /** Looks for the best seam within so many ms of either end, and blends over so many. */
    loop: v.optional(
      v.strictObject({ searchMs: within(ENDS_RANGES.seamMs), crossFadeMs: v.optional(within(ENDS_RANGES.seamMs)) }),
    ),
    fadeIn: v.optional(fade),
    fadeOut: v.optional(fade),
    front: v.optional(silence),
    back: v.optional(silence),
    /** What happens to a block that is not full. */
    block: v.optional(v.picklist(['trim', 'pad', 'nearest'])),
    /** How the sound comes to the bars that the sheet asks for: cut or padded, or played at another speed. */
    fit: v.optional(v.picklist(['cut', 'stretch'])),
    /** Exactly so many frames: longer sounds are cut, shorter ones padded with silence. */
    frames: v.optional(wholeWithin(ENDS_RANGES.frames)),
    /** Exactly so many bars of so many beats, at a tempo in beats a minute. */
    bars: v.optional(
      v.strictObject({
        count: wholeWithin(BAR_RANGES.count),
        beats: wholeWithin(BAR_RANGES.beats),
        tempo: within(BAR_RANGES.tempo),
        by: v.optional(v.picklist(['cut', 'stretch'])),
      }),
    ),
  }),
  v.check((value) => !(value.frames && value.bars), 'either a number of frames or of bars, not both'),
);
type Wish = v.InferOutput<typeof wish>;

const needs = { channels, cut, rate, wrap };
type Before = PlansOf<typeof needs>;

type Bars = NonNullable<SettledDemands['bars']>['value'];

/** Of the numbers of bars that a sheet allows the one whose length is nearest. */
const nearestCount = ({ anyOf, beats, tempo }: Bars, frames: number, rate: number): number =>
  anyOf.reduce((best, count) => {
    const off = (n: number) => Math.abs(barFrames(n, beats, tempo, rate) - frames);
    return off(count) < off(best) ? count : best;
  });

/** How frames of bare bytes go into a file: so many together, in so many bytes. Null where a header, or an encoder, decides. */
function bareUnit({ compressed, container, encoding }: WrapPlan, channels: number, rate: number) {
  if (compressed || outContainerOf(container).describesItself) return null;
  const plain = plainEncodingOf(encoding);
  return codecOf(plain, layoutOf(plain, channels, Math.round(rate)));
}

type Unit = ReturnType<typeof bareUnit>;

/** Frames that only go into a file together: bare bytes do not say where in their last unit the sound ends. */
function framesTogether(unit: Unit, fileUnits: SettledDemands['fileUnits']): number {
  if (!unit) return 1;
  const { unitFrames, unitBytes } = unit;
  return (leastCommonMultiple(unitBytes, fileUnits?.value.multipleOf ?? 1) / unitBytes) * unitFrames;
}

/** Frames of which a file takes at least so many bytes; 1 where their number does not tell. */
function framesOfLeast(bytes: number, kind: FileKind): number {
  const most = bytes > 1 ? framesInFile(bytes - 1, kind) : null;
  return most === null ? 1 : most + 1;
}

/** What is taken off the ends: as is wished, or silence beyond what the sheet allows. */
function trimOf(wished: Wish['trim'], { silence }: SettledDemands, incoming: number, rate: number): EndsPlan['trim'] {
  if (wished) {
    const keep = framesAt((wished.keepMs ?? 0) / 1000, rate);
    const threshold = fromDb(wished.thresholdDb ?? USUAL_ENDS.thresholdDb);
    return { threshold, keepFront: keep, keepBack: keep, isByHand: true };
  }
  const { mostFront = null, mostBack = null } = silence?.value ?? {};
  if (mostFront === null && mostBack === null) return null;
  const keep = (most: number | null) => (most === null ? incoming : Math.floor(most * rate + 1e-6));
  const threshold = fromDb(USUAL_ENDS.thresholdDb);
  return { threshold, keepFront: keep(mostFront), keepBack: keep(mostBack), isByHand: false };
}

/** What says how long a file is to be. */
const RULES = ['frames', 'seconds', 'bars', 'fileBytes', 'fileUnits', 'setBytes', 'setSeconds'] as const;

function ruleOf(
  wished: Wish,
  { frames, seconds, bars, fileUnits }: SettledDemands,
  incoming: number,
  kind: FileKind,
  unit: Unit,
): LengthRule {
  const rate = kind.sampleRate;
  if (wished.frames) return { kind: 'exact', frames: wished.frames, by: 'cut' };
  if (wished.bars) {
    const { count, beats, tempo, by = 'cut' } = wished.bars;
    return { kind: 'exact', frames: barFrames(count, beats, tempo, rate), by };
  }
  if (bars && !wished.block) {
    const { beats, tempo } = bars.value;
    const count = nearestCount(bars.value, incoming, rate);
    return { kind: 'exact', frames: barFrames(count, beats, tempo, rate), by: wished.fit ?? 'cut' };
  }
  const least = Math.max(
    frames?.value.least ?? 1,
    Math.ceil((seconds?.value.least ?? 0) * rate - 1e-6),
    framesOfLeast(fileUnits?.value.least ?? 1, kind),
  );
  const multipleOf = leastCommonMultiple(frames?.value.multipleOf ?? 1, framesTogether(unit, fileUnits));
  return { kind: 'blocks', multipleOf, least, by: wished.block ?? 'trim' };
}

/**
 * Where the result begins and ends: silence, fades, the seam of a loop, and the length rule. Automatic trims the part of
 * a block that is left over and pads only what is shorter than the least length. A greatest length is never met in
 * silence: that is an obstacle.
 */
export const ends = station({
  id: 'ends',
  title: 'Ends',
  wish,
  needs,
  settle({ demands }, wished: Wish = {}, { channels, cut, rate, wrap }): SettledStation<EndsPlan> {
    const incoming = framesAtRate(cut.end - cut.start, rate.from, rate.exact);
    const frames = (milliseconds = 0) => framesAt(milliseconds / 1000, rate.to);
    const fadeOf = (entry: Wish['fadeIn']): Fade => ({
      frames: frames(entry?.ms),
      shape: entry?.shape ?? USUAL_ENDS.shape,
    });
    const silenceOf = (entry: Wish['front'], wantedSeconds = 0): Silence =>
      entry
        ? { frames: frames(entry.ms), atLeast: entry.atLeast ?? false }
        : { frames: Math.ceil(wantedSeconds * rate.to - 1e-6), atLeast: wantedSeconds > 0 };
    const wanted = demands.silence?.value;
    const kind = { sampleRate: rate.to, channels: channels.matrix.length, ...wrap };
    const hasRule = RULES.some((name) => demands[name]);
    const rule = ruleOf(wished, demands, incoming, kind, bareUnit(wrap, kind.channels, rate.to));
    const limit = bindingLimit(demands, kind);
    const parts = {
      trim: trimOf(wished.trim, demands, incoming, rate.to),
      loop: wished.loop ? { search: frames(wished.loop.searchMs), crossFade: frames(wished.loop.crossFadeMs) } : null,
      fadeIn: fadeOf(wished.fadeIn),
      fadeOut: fadeOf(wished.fadeOut),
      front: silenceOf(wished.front, wanted?.front),
      back: silenceOf(wished.back, wanted?.back),
      rule,
      limit,
    };
    if (parts.loop && parts.loop.search * 2 + parts.loop.crossFade >= incoming) {
      throw new InputError(
        'bad-setting',
        `Ends: the sound is ${formatSeconds(incoming / rate.to)} long, too short to look for a seam that far into both ends; search a shorter stretch.`,
      );
    }
    const layout = layOut(parts, { from: 0, to: Math.max(1, incoming), lead: 0, tail: 0 });
    const total = lengthOf(layout);
    const isOpen =
      rule.kind === 'blocks' && Boolean(parts.trim || parts.loop || parts.front.atLeast || parts.back.atLeast);
    const byHand = Object.keys(wished).length > 0;
    const { multipleOf } = rule.kind === 'blocks' ? rule : { multipleOf: 1 };
    return {
      plan: { incoming, frames: total, isOpen, ...parts },
      byHand,
      figure: figureOf(wished, total, multipleOf, hasRule, rate.to, isOpen),
      why: [
        ...(byHand ? [BY_HAND] : []),
        ...(wished.frames || wished.bars ? [] : [sheetWords(demands, limit, incoming, rate.to)]),
        ...wishWords(wished, parts, rate.to),
        ...(wanted ? [silenceRule(demands)] : []),
        ...(hasRule || byHand ? [lengthWords(layout, incoming, rate.to, isOpen)] : []),
      ].join(' '),
    };
  },
  obstacles(_, { incoming, frames, isOpen, limit }, before) {
    const full = fileTooLarge(frames, before);
    if (full) return [full];
    if (!limit || frames <= limit.frames || isOpen) return [];
    const over = formatSeconds((Math.max(incoming, frames) - limit.frames) / before.rate.to);
    return [`It is ${over} too long: the sheet allows ${limit.text}.`];
  },
  steps: endsSteps,
  cameFrom(frame, { incoming, frames, front, back, rule }, { trimmed, loop }) {
    const taken = (trimmed?.front ?? 0) + (loop?.front ?? 0);
    const isStretched = rule.kind === 'exact' && rule.by === 'stretch';
    const kept = incoming - taken - (trimmed?.back ?? 0) - (loop?.back ?? 0);
    // Of silence that was there already, nobody reports how much.
    const silence = front.atLeast ? 0 : front.frames;
    const sound = frames - front.frames - back.frames;
    return taken + (frame - silence) * (isStretched && sound > 0 ? kept / sound : 1);
  },
  inPiece(plan, { start, end }, { rate }) {
    const incoming = framesAtRate(end - start, rate.from, rate.exact);
    const { rule, trim, loop, fadeIn, fadeOut } = plan;
    const { multipleOf } = rule.kind === 'blocks' ? rule : { multipleOf: 1 };
    const none = { frames: 0, atLeast: false };
    const isStretched = rule.kind === 'exact' && rule.by === 'stretch';
    return {
      plan: {
        ...plan,
        ...{ incoming, frames: incoming, isOpen: false, trim: null, loop: null, front: none, back: none, limit: null },
        fadeIn: { ...fadeIn, frames: 0 },
        fadeOut: { ...fadeOut, frames: 0 },
        // A part of a block that is left over is filled up, so that no sound is missing at the end of a piece.
        rule: { kind: 'blocks', multipleOf, least: 1, by: 'pad' } as const,
      },
      provisional: [
        ...(trim || loop || isStretched ? ['where it begins and ends'] : []),
        ...(fadeIn.frames || fadeOut.frames ? ['fades'] : []),
      ],
    };
  },
});

/** What is wrong with a file that its container has no room for, as a sentence; null if it has. */
export function fileTooLarge(frames: number, { rate, channels, wrap }: Before): string | null {
  const { mostBytes = Number.POSITIVE_INFINITY, title } = outContainerOf(wrap.container);
  if (wrap.compressed) return null;
  const encoding = plainEncodingOf(wrap.encoding);
  const layout = layoutOf(encoding, channels.matrix.length, Math.round(rate.to));
  const bytes = bytesOf(encoding, frames, layout) + HEADERS_BYTES;
  if (bytes <= mostBytes) return null;
  return `It would take ${formatBytes(bytes)}, but ${title} holds at most ${formatBytes(mostBytes)}: cut it, or choose a lower rate or another container.`;
}

/** Room for headers and tags. */
const HEADERS_BYTES = 65_536;

function figureOf(
  { bars, frames }: Wish,
  total: number,
  multipleOf: number,
  hasRule: boolean,
  rate: number,
  isOpen: boolean,
): string {
  if (bars) return `${bars.count} ${bars.count === 1 ? 'bar' : 'bars'}`;
  if (frames) return formatCount(frames);
  const most = isOpen ? '\u2264 ' : '';
  if (multipleOf > 1) return `${most}${formatCount(total / multipleOf)} \u00d7 ${formatCount(multipleOf)}`;
  return most + (hasRule ? formatCount(total) : formatSeconds(total / rate));
}

const silenceRule = ({ silence }: SettledDemands): string =>
  silence ? bySheet(`silence: ${kindOf(silence.from).wanted(silence.from as never)}`) : '';

function sheetWords(
  { frames, bars, seconds }: SettledDemands,
  limit: LengthLimit | null,
  incoming: number,
  rate: number,
): string {
  if (bars) {
    const count = nearestCount(bars.value, incoming, rate);
    return `${bySheet(kindOf(bars.from).wanted(bars.from))} Nearest: ${count}.`;
  }
  if (frames && frames.value.multipleOf > 1) return bySheet(`blocks of ${formatCount(frames.value.multipleOf)} frames`);
  if (limit) return `The sheet allows ${limit.text}.`;
  return frames || seconds ? 'The sheet limits the length.' : 'The sheet has no rule for the length: it stays as cut.';
}

/** What was set by hand, in words. */
function wishWords(
  { trim, loop, fadeIn, fadeOut, front, back, bars }: Wish,
  { rule }: { readonly rule: LengthRule },
  rate: number,
): string[] {
  const silenceWords = (entry: Wish['front'], where: string) =>
    entry?.ms ? [`${entry.atLeast ? 'At least ' : ''}${entry.ms} ms of silence ${where}.`] : [];
  return [
    ...(trim ? [`Silence below ${formatDb(trim.thresholdDb ?? USUAL_ENDS.thresholdDb, 'dBFS')} is trimmed.`] : []),
    ...(loop ? [`The best seam within ${loop.searchMs} ms of both ends.`] : []),
    ...(fadeIn?.ms ? [`Fades in over ${fadeIn.ms} ms.`] : []),
    ...(fadeOut?.ms ? [`Fades out over ${fadeOut.ms} ms.`] : []),
    ...silenceWords(front, 'at the start'),
    ...silenceWords(back, 'at the end'),
    ...(bars && rule.kind === 'exact'
      ? [`${bars.count} \u00d7 ${bars.beats} beats at ${bars.tempo} a minute are ${formatLength(rule.frames, rate)}.`]
      : []),
  ];
}

function lengthWords(layout: Layout, incoming: number, rate: number, isOpen: boolean): string {
  if (isOpen) return 'The sound itself decides the length.';
  const kept = layout.to - layout.from;
  if (layout.stretch && layout.sound !== kept) {
    const cents = centsOf(kept, layout.sound);
    const words = `${formatSeconds(kept / rate)} become ${formatSeconds(layout.sound / rate)}`;
    return `${words}: the pitch goes ${cents > 0 ? 'up' : 'down'} by ${Math.abs(cents).toFixed(1)} cents.`;
  }
  if (kept < incoming) return `Trims ${formatLength(incoming - kept, rate)}.`;
  const added = layout.front + layout.back;
  return added > 0 ? `Pads ${formatLength(added, rate)} of silence.` : 'The length fits as it is.';
}

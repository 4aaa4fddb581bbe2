import { SILENCE, SoundFinder, WORK_FRAMES } from '../audio/index.ts';
import { bestSeam, fadeGain, Resampler, type Seam } from '../dsp/index.ts';
import { Gathered } from '../facts/index.ts';
import { InputError } from '../words/index.ts';
import { type EndsPlan, type Layout, layOut, lengthOf } from './ends-layout.ts';
import { type Block, type BlockProcess, eachBlock, type Step } from './passage.ts';
import type { LoopReport, Measurements } from './report.ts';
import type { Format } from './station.ts';

/** Frames around a seam in which the largest ordinary step is looked for. */
const NEARBY = 256;

/** The steps of Ends: a look at the sound where the plan needs one, then everything in one go. */
export function endsSteps(plan: EndsPlan, format: Format): readonly Step[] {
  const { trim, loop, front, back, incoming } = plan;
  const loud = new SoundFinder(trim?.threshold ?? SILENCE);
  // Where there is to be "at least" so much silence, what is there counts by the usual threshold.
  const audible = new SoundFinder();
  // Trimming may move the ends by any amount, so where a seam is looked for after it, the ends are only known then.
  const gathered = loop ? new Gathered() : null;
  const looks = trim || loop || front.atLeast || back.atLeast;
  const survey = (block: Block) => {
    loud.add(block);
    audible.add(block);
    gathered?.add(block);
  };

  function decide(): { layout: Layout; blend: Float32Array[] | null; measured: Measurements } {
    let measured: Measurements = {};
    let from = 0;
    let to = incoming;
    if (trim) {
      if (loud.last < 0 && trim.isByHand) {
        throw new InputError(
          'no-frames',
          'Ends: nothing is louder than the trim threshold, so nothing would be left; lower the threshold.',
        );
      }
      // Of silence a sheet can have nothing taken off.
      if (loud.last >= 0) {
        from = Math.max(0, loud.first - trim.keepFront);
        to = Math.min(incoming, loud.last + 1 + trim.keepBack);
      }
      measured = { trimmed: { front: from, back: incoming - to } };
    }
    let blend: Float32Array[] | null = null;
    if (loop && gathered) {
      const all = gathered.channels(format.channels);
      const seam = findSeam(all, from, to, loop.search, Math.min(loop.crossFade, to - from), format.sampleRate);
      const fade = Math.min(loop.crossFade, seam.start - from, seam.end - seam.start);
      // What precedes the loop's start is blended into its end.
      blend = all.map((samples) => samples.slice(seam.start - fade, seam.start));
      measured = { ...measured, loop: loopReport(all, seam, fade, { from, to }) };
      from = seam.start;
      to = seam.end;
    }
    const lead = audible.last < 0 ? to - from : Math.max(0, Math.min(audible.first, to) - from);
    const tail = audible.last < 0 ? to - from : Math.max(0, to - 1 - Math.max(audible.last, from - 1));
    const layout = layOut(plan, { from, to, lead, tail });
    return { layout, blend, measured: { ...measured, frames: lengthOf(layout) } };
  }

  return [
    {
      ...(looks ? { survey } : {}),
      start() {
        const { layout, blend, measured } = decide();
        const whole = layout.to === incoming && layout.from === 0 && !layout.stretch;
        const plain = whole && !blend && !layout.front && !layout.back && !plan.fadeIn.frames && !plan.fadeOut.frames;
        const process = plain ? eachBlock((block) => block) : layoutProcess(plan, layout, blend, format);
        return { ...process, measured: () => measured };
      },
    },
  ];
}

/** A whole sound: its channels. */
type Sound = readonly Float32Array[];

/** All channels as one, between two frames. */
function mixed(sound: Sound, from: number, to: number): Float32Array {
  const out = new Float32Array(to - from);
  for (const samples of sound) for (let i = 0; i < out.length; i++) out[i] += samples[from + i];
  return out;
}

function findSeam(all: Sound, from: number, to: number, search: number, lead: number, sampleRate: number): Seam {
  const reach = Math.min(to - from, search + lead + Math.ceil(sampleRate / 50));
  const seam = bestSeam(mixed(all, from, from + reach), mixed(all, to - reach, to), to - from, sampleRate, lead);
  return { ...seam, start: seam.start + from, end: seam.end + from };
}

/** Says how well the loop closes: the step from its last frame, blended as it will be, to its first. */
function loopReport(all: Sound, seam: Seam, fade: number, { from, to }: { from: number; to: number }): LoopReport {
  let step = 0;
  let usualStep = 0;
  for (const samples of all) {
    const share = fade > 0 ? fadeGain('smooth', fade - 1, fade) : 0;
    const last = samples[seam.end - 1] * (1 - share) + (fade > 0 ? samples[seam.start - 1] * share : 0);
    step = Math.max(step, Math.abs(samples[seam.start] - last));
    for (const place of [seam.start, seam.end - NEARBY]) {
      for (let i = Math.max(1, place); i < Math.min(place + NEARBY, to); i++) {
        usualStep = Math.max(usualStep, Math.abs(samples[i] - samples[i - 1]));
      }
    }
  }
  return { front: seam.start - from, back: to - seam.end, likeness: seam.likeness, step, usualStep };
}

/** Cuts, stretches, blends, fades and pads, block by block. */
function layoutProcess(
  plan: EndsPlan,
  layout: Layout,
  blend: readonly Float32Array[] | null,
  { channels }: Format,
): BlockProcess {
  const { from, to, sound, front, back, stretch } = layout;
  const resamplers = stretch ? Array.from({ length: channels }, () => new Resampler(to - from, sound)) : null;
  /** Frames that came, and frames of sound that left. */
  let came = 0;
  let left = 0;
  let hasFront = false;

  /** The end of a loop gradually becomes what precedes its start. */
  function blendInto(block: readonly Float32Array[], at: number): void {
    const length = blend?.[0].length ?? 0;
    if (!blend || length === 0) return;
    const begin = to - length;
    block.forEach((samples, channel) => {
      for (let i = Math.max(0, begin - at); i < samples.length; i++) {
        const place = at + i - begin;
        samples[i] += fadeGain('smooth', place, length) * (blend[channel][place] - samples[i]);
      }
    });
  }

  /** Fades what leaves. */
  function fade(block: readonly Float32Array[]): Block {
    const { fadeIn, fadeOut } = plan;
    const frames = block[0]?.length ?? 0;
    for (const samples of block) {
      for (let i = 0, n = left; i < frames && n < fadeIn.frames; i++, n++) {
        samples[i] *= fadeGain(fadeIn.shape, n, fadeIn.frames);
      }
      for (let i = Math.max(0, sound - fadeOut.frames - left); i < frames; i++) {
        samples[i] *= fadeGain(fadeOut.shape, sound - 1 - left - i, fadeOut.frames);
      }
    }
    left += frames;
    return block;
  }

  /** Silence piece by piece: there may be much of it. */
  function* silence(frames: number): Iterable<Block> {
    for (let at = 0; at < frames; at += WORK_FRAMES) {
      yield Array.from({ length: channels }, () => new Float32Array(Math.min(WORK_FRAMES, frames - at)));
    }
  }

  function* ahead(): Iterable<Block> {
    if (!hasFront) yield* silence(front);
    hasFront = true;
  }

  return {
    *push(block) {
      yield* ahead();
      const start = Math.max(0, from - came);
      const end = Math.min(block[0].length, to - came);
      const at = came + start;
      came += block[0].length;
      if (end <= start) return;
      const part = block.map((samples) => samples.slice(start, end));
      blendInto(part, at);
      yield fade(resamplers ? resamplers.map((resampler, channel) => resampler.push(part[channel])) : part);
    },
    *finish() {
      yield* ahead();
      if (resamplers) yield fade(resamplers.map((resampler) => resampler.finish()));
      yield* silence(back);
    },
  };
}

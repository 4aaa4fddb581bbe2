import { InputError, interleave, type PcmReader } from '../audio/index.ts';
import { containerOf, type Reading } from '../containers/index.ts';
import { quantise } from '../dsp/index.ts';
import { encodingOf } from '../encodings/index.ts';
import type { Chain } from './fit.ts';
import { type StationId, stationIds, stations } from './settings.ts';
import type { BlockProcess, RenderReport, Station } from './station.ts';

/** The finished file and what was measured on the way. */
export interface Rendered {
  readonly bytes: Uint8Array;
  readonly report: Readonly<RenderReport>;
  /** What the bytes are, for whoever reads them back. */
  readonly reading: Reading;
  readonly frames: number;
  /** The encoded samples as they stand in the file: the proof that a reader must find again. */
  readonly data: Uint8Array;
}

export interface RenderOptions {
  /** The file's name without its extension. */
  readonly stem: string;
  /** Asked between blocks; true ends the work with a `RenderCancelled`. */
  readonly isCancelled?: () => boolean;
  /** Told between blocks how much of the source has been read, 0..1. */
  readonly onProgress?: (done: number) => void;
}

/** Thrown where `isCancelled` ended the work. */
export class RenderCancelled extends Error {
  override readonly name = 'RenderCancelled';
}

/** Frames of the source read at a time. */
const BLOCK = 65_536;

/**
 * Sends the source's sound through the chain and gives the bytes of the finished file. Cut, Channels and Rate work
 * block by block; what is held is the sound at the delivered rate. Same chain, same sound, same bytes.
 */
export async function render(chain: Chain, source: PcmReader, options: RenderOptions): Promise<Rendered> {
  const { cut, rate, depth, wrap } = chain.stations;
  const plans = chain.stations as Readonly<Record<StationId, { readonly plan: unknown }>>;
  const line = stationIds.map((id) => ({
    station: stations[id] as Station<unknown, unknown>,
    plan: plans[id].plan,
  }));

  const processes = line.flatMap(({ station, plan }) => (station.blocks ? [station.blocks(plan)] : []));
  const collected = await collect(source, cut.plan.start, cut.plan.end, processes, options);
  const report: RenderReport = { peakBefore: 0, gainDb: 0, headroomDb: null, clippedFrames: 0 };
  const channels = line.reduce<readonly Float32Array[]>(
    (sound, { station, plan }) => station.whole?.(plan, sound, report) ?? sound,
    collected,
  );

  const encoding = encodingOf(wrap.plan.encoding);
  const frames = channels[0].length;
  const count = frames * channels.length;
  let data: Uint8Array;
  if (encoding.kind === 'float' || depth.plan.bits === null) {
    if (encoding.kind !== 'float') throw new RangeError('whole-number encodings need a depth');
    data = encoding.encode(interleave(channels, new Float32Array(count)));
  } else {
    const { bits, dither, seed } = depth.plan;
    const quantised = quantise(channels, bits, dither, seed);
    report.clippedFrames = quantised.clippedFrames;
    const samples = interleave(quantised.channels, new Int32Array(count));
    const shift = encoding.linearBits - bits;
    if (shift) for (let i = 0; i < count; i++) samples[i] <<= shift;
    data = encoding.encode(samples);
  }
  const sampleRate = rate.plan.to;
  const bytes = containerOf(wrap.plan.container).write({
    encoding,
    sampleRate,
    channels: channels.length,
    frames,
    data,
    stem: options.stem,
    storageAttribute: wrap.plan.storageAttribute,
  });
  const reading = { encoding: encoding.id, sampleRate, channels: channels.length };
  return { bytes, report, reading, frames, data };
}

/** Reads the cut block by block, sends each block through `processes`, and joins what comes out. */
async function collect(
  source: PcmReader,
  start: number,
  end: number,
  processes: readonly BlockProcess[],
  { isCancelled, onProgress }: RenderOptions,
): Promise<readonly Float32Array[]> {
  const parts: (readonly Float32Array[])[] = [];
  const pass = (block: readonly Float32Array[], from: number) => {
    const out = processes.slice(from).reduce((sound, process) => process.push(sound), block);
    if (out.length) parts.push(out);
  };
  for (let at = start; at < end; at += BLOCK) {
    if (isCancelled?.()) throw new RenderCancelled();
    pass(await source.read(at, Math.min(BLOCK, end - at)), 0);
    onProgress?.((Math.min(end, at + BLOCK) - start) / (end - start));
  }
  processes.forEach((process, index) => {
    const rest = process.finish();
    if (rest.length) pass(rest, index + 1);
  });
  const channelCount = parts[0]?.length ?? 0;
  if (channelCount === 0) throw new InputError('no-frames', 'The cut holds no sound; make it longer.');
  return Array.from({ length: channelCount }, (_, channel) => {
    const out = new Float32Array(parts.reduce((sum, part) => sum + part[channel].length, 0));
    let at = 0;
    for (const part of parts) {
      out.set(part[channel], at);
      at += part[channel].length;
    }
    return out;
  });
}

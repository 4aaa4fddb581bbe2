import { containerOf, outContainerOf } from '../../containers/index.ts';
import { bytesOf, layoutOf, plainEncodingOf } from '../../encodings/index.ts';
import { InputError } from '../../words/index.ts';
import type { Chain } from '../chain.ts';
import type { OpenEncoder } from '../library.ts';
import type { Format } from '../station.ts';
import { bitRateTrouble } from '../stations/wrap.ts';
import { ArrayMaker } from './array-maker.ts';
import { type FileMaker, quantiserOf } from './file-maker.ts';
import { LibraryMaker } from './library-maker.ts';
import { PlainMaker } from './plain-maker.ts';

export type { FileMaker } from './file-maker.ts';
export { levelsSum } from './library-maker.ts';

/**
 * The maker that a settled chain asks for.
 * @throws InputError if the encoding has no such bit rate
 */
export async function openFileMaker(
  chain: Chain,
  format: Format,
  frames: number,
  openEncoder: OpenEncoder | undefined,
): Promise<FileMaker> {
  const maker = await openOwnMaker(chain, format, frames, openEncoder);
  const { array, container, text } = chain.stations.wrap.plan;
  const form = array === null ? undefined : containerOf(array).array;
  if (!form) return maker;
  const { title } = outContainerOf(container);
  const { stem = 'clip' } = chain.order;
  const { channels } = format;
  return new ArrayMaker(maker, form, {
    container,
    title,
    stem,
    text,
    frames,
    channels,
    sampleRate: Math.round(format.sampleRate),
  });
}

/** The maker of the file itself. */
async function openOwnMaker(
  { order: { stem = 'clip' }, stations: { depth, wrap } }: Chain,
  format: Format,
  frames: number,
  openEncoder: OpenEncoder | undefined,
): Promise<FileMaker> {
  const { plan } = wrap;
  const sampleRate = Math.round(format.sampleRate);
  if (plan.compressed) {
    const trouble = bitRateTrouble(plan, sampleRate, format.channels);
    if (trouble !== null) throw new InputError('bad-setting', `Wrap: ${trouble}`);
    if (!openEncoder) throw new RangeError(`no encoder of ${plan.encoding} was passed in`);
    const bits = depth.plan.bits ?? 0;
    // First, so that no encoder stays open where it cannot be made.
    const quantiser = quantiserOf(depth.plan, format);
    const encoder = await openEncoder({
      ...plan.compressed,
      encoding: plan.encoding,
      sampleRate,
      channels: format.channels,
      frames,
      bits,
      tags: plan.tags,
    });
    return new LibraryMaker(bits, quantiser, encoder);
  }
  const encoding = plainEncodingOf(plan.encoding);
  const writer = containerOf(plan.container).write({
    encoding,
    sampleRate,
    channels: format.channels,
    frames,
    dataBytes: bytesOf(encoding, frames, layoutOf(encoding, format.channels, sampleRate)),
    stem,
    tags: plan.tags,
    text: plan.text,
  });
  return new PlainMaker(depth.plan, encoding, format, writer);
}

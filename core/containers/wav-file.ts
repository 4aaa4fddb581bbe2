import { frameCount, interleave, type Pcm } from '../audio/index.ts';
import { quantise } from '../dsp/index.ts';
import { encodingOf } from '../encodings/index.ts';
import { packFile } from './container.ts';
import { wav } from './wav.ts';

/** A sound as a plain WAV file of `bits`: what was recorded here becomes a source like any other. Rounded, no dither. */
export function wavFile(pcm: Pcm, bits: 16 | 24): Uint8Array<ArrayBuffer> {
  const { channels } = quantise(pcm.channels, { bits, dither: 'none' });
  const frames = frameCount(pcm);
  const encoding = encodingOf(`pcm-s${bits}le`);
  if (encoding.kind !== 'integer') throw new RangeError(`no whole numbers of ${bits} bits`);
  const data = encoding.encode(interleave(channels, new Int32Array(frames * channels.length)));
  const packing = {
    encoding,
    sampleRate: pcm.sampleRate,
    channels: channels.length,
    frames,
    stem: '',
  };
  const file = packFile(wav, packing, data);
  return new Uint8Array(file);
}

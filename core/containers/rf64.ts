import { asciiBytes, concatenated, latin1, viewOf } from '../bytes/index.ts';
import { aroundSamples, type Container, type FileWriter, type Packing } from './container.ts';
import { wav } from './wav.ts';

/** Stated where the size is elsewhere. */
const NO_SIZE = 0xffffffff;
/** Three sizes of 64 bits, and the length of a table that stays empty (EBU Tech 3306; from memory). */
const SIZES_BYTES = 28;

function write(packing: Packing): FileWriter {
  const plain = wav.write({ ...packing, dataBytes: 0 });
  const { dataBytes, frames, tags = [] } = packing;
  const padding = dataBytes % 2;
  // What follows the sound does not depend on its size.
  const tail = wav.write({ ...packing, dataBytes: 0, tags }).tail();
  const sizes = new Uint8Array(8 + SIZES_BYTES);
  sizes.set(asciiBytes('ds64'));
  const view = viewOf(sizes);
  view.setUint32(4, SIZES_BYTES, true);
  // The plain head begins with its mark and its size, and ends with the name and the size of the data.
  const form = plain.head.subarray(8, -8);
  const whole = sizes.length + form.length + 8 + dataBytes + padding + tail.length;
  [whole, dataBytes, frames].forEach((value, i) => {
    view.setBigUint64(8 + 8 * i, BigInt(value), true);
  });
  const size = new Uint8Array(4);
  viewOf(size).setUint32(0, NO_SIZE, true);
  // The sizes come first after the form's name.
  const head = [asciiBytes('RF64'), size, form.subarray(0, 4), sizes, form.subarray(4), asciiBytes('data'), size];
  return aroundSamples(concatenated(head), dataBytes, concatenated([new Uint8Array(padding), tail]));
}

/** WAV whose sizes have 64 bits, for what is longer than 4 GiB (also called BW64). */
export const rf64: Container = {
  ...wav,
  id: 'rf64',
  enlarges: wav.id,
  title: 'RF64',
  mostBytes: undefined,
  recognises: (bytes) =>
    ['RF64', 'BW64'].includes(latin1(bytes.subarray(0, 4))) &&
    (bytes.length < 12 || latin1(bytes.subarray(8, 12)) === 'WAVE'),
  read: (file) => ({ ...wav.read(file), container: 'rf64' }),
  write,
};

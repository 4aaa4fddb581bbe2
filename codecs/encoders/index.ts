import type { Library, OpenEncoder } from '@tambur/core';
import { openSourceStream } from '../open-source.ts';
import { encoders } from './list.ts';

const openEncoder: OpenEncoder = async (order) => {
  const load = encoders[order.encoding];
  if (!load) throw new RangeError(`no encoder of ${order.encoding}`);
  const encoder = await load();
  return encoder(order);
};

/** What libraries encode, and two ways to read it again. */
export const library: Library = {
  openEncoder,
  read: (file) => openSourceStream(file),
  readAgain: async (file, work) => (await import('./read-again.ts')).readAgain(file, work),
};

/**
 * Orders of channels in which decoders give them, by their number, as places of L, R, C, LFE, Cs or Lb, Rb, Ls, Rs: the order
 * of WAVEFORMATEXTENSIBLE, in which Tambur keeps them. Where nothing is listed, the order is that one already.
 */
export type ChannelOrder = Readonly<Record<number, readonly number[]>>;

/** C L R, C L R Cs, C L R Ls Rs, C L R Ls Rs LFE and so on (the reference decoder of ALAC; from memory). */
export const ALAC_ORDER: ChannelOrder = {
  3: [1, 2, 0],
  4: [1, 2, 0, 3],
  5: [1, 2, 0, 3, 4],
  6: [1, 2, 0, 5, 3, 4],
  7: [1, 2, 0, 6, 5, 3, 4],
  8: [3, 4, 0, 7, 5, 6, 1, 2],
};

/** L C R, L R Ls Rs, L C R Ls Rs, L C R Ls Rs LFE and so on (Vorbis I, 4.3.9; RFC 7845, 5.1.1.2). */
export const VORBIS_ORDER: ChannelOrder = {
  3: [0, 2, 1],
  5: [0, 2, 1, 3, 4],
  6: [0, 2, 1, 5, 3, 4],
  7: [0, 2, 1, 6, 5, 3, 4],
  8: [0, 2, 1, 7, 5, 6, 3, 4],
};

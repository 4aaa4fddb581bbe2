/** Frames of FLAC (RFC 9639): made from samples, found in a stream, and decoded. */
export { crc16 as flacSum } from './check-sums.ts';
export { decodeFrame as decodeFlacFrame } from './decode.ts';
export { BLOCK_FRAMES as FLAC_BLOCK_FRAMES, encodeFrame as encodeFlacFrame } from './frame.ts';
export { type FrameHeader as FlacFrameHeader, frameHeader as flacFrameHeader } from './header.ts';
export { METADATA_BLOCKS as FLAC_METADATA } from './metadata.ts';
export { type FlacFrame, splitFrames as splitFlacFrames } from './split.ts';

import { concatenated, type SoundEncoder } from '@tambur/core';
import { createOggEncoder } from 'wasm-media-encoders';
import { VENDOR, vorbisComments } from './comments.ts';
import { ascii, type EncoderMaker, noHold } from './encoder.ts';
import { headerPages, page, readPage } from './ogg.ts';

/** The encoder's quality for a bit rate of stereo at 44 100 Hz in kbit/s (table of the reference encoder; from memory). */
const QUALITIES: readonly (readonly [number, number])[] = [
  [64, 0],
  [80, 1],
  [96, 2],
  [112, 3],
  [128, 4],
  [160, 5],
  [192, 6],
  [224, 7],
  [256, 8],
];

const SERIAL = 1;

/** Takes the encoder's pages, puts our comments into its header, and hands the rest on with new numbers. */
class Remuxer {
  private readonly comments: Uint8Array;
  private waiting = new Uint8Array(0);
  private packets: Uint8Array[] = [];
  private open: Uint8Array[] = [];
  private next = 0;
  private hasHeaders = false;

  constructor(comments: Uint8Array) {
    this.comments = comments;
  }

  push(bytes: Uint8Array): Uint8Array {
    const all = concatenated([this.waiting, bytes]);
    const out: Uint8Array[] = [];
    let at = 0;
    for (let entry = readPage(all, at); entry; entry = readPage(all, at)) {
      at += entry.bytes;
      if (this.hasHeaders) {
        const { lacing, body, granule, isLast, isContinued } = entry;
        out.push(page(lacing, body, { serial: SERIAL, number: this.next++, granule, isLast, isContinued }));
        continue;
      }
      this.gather(entry.lacing, entry.body);
      if (this.packets.length >= 3) out.push(...this.headers());
    }
    this.waiting = all.slice(at);
    return concatenated(out);
  }

  /** Whole packets from the segments of a page. */
  private gather(lacing: readonly number[], body: Uint8Array): void {
    let at = 0;
    for (const size of lacing) {
      this.open.push(body.slice(at, at + size));
      at += size;
      if (size === 255) continue;
      this.packets.push(concatenated(this.open));
      this.open = [];
    }
  }

  private headers(): Uint8Array[] {
    const [identification = new Uint8Array(0), , setup = new Uint8Array(0)] = this.packets;
    this.hasHeaders = true;
    const first = page([identification.length], identification, {
      serial: SERIAL,
      number: 0,
      granule: 0n,
      isFirst: true,
    });
    const rest = headerPages([this.comments, setup], SERIAL, 1);
    this.next = 1 + rest.length;
    return [first, ...rest];
  }
}

/** Ogg Vorbis at a quality that comes near the bit rate: the sound decides how near. */
export const encodeVorbis: EncoderMaker = async ({ sampleRate, channels, bitRate, tags }): Promise<SoundEncoder> => {
  // The table is for two channels at 44 100 Hz; fewer samples take fewer bits.
  const goal = ((bitRate / 1000) * 2 * 44_100) / (channels * Math.max(sampleRate, 22_050));
  const [, quality] = QUALITIES.reduce((best, entry) =>
    Math.abs(entry[0] - goal) < Math.abs(best[0] - goal) ? entry : best,
  );
  const encoder = await createOggEncoder();
  encoder.configure({ sampleRate, channels: channels === 1 ? 1 : 2, vbrQuality: quality, oggSerialNo: SERIAL });
  const packet = concatenated([ascii('\u0003vorbis'), vorbisComments(tags, VENDOR), Uint8Array.of(1)]);
  const remuxer = new Remuxer(packet);
  return {
    push: async (block) => remuxer.push(encoder.encode(block)),
    finish: async () => remuxer.push(encoder.finalize()),
    close: noHold,
  };
};

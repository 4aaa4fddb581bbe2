import { concatenated, viewOf } from '@tambur/core';

/** Ogg pages (RFC 3533). */

/** CRC-32 with the polynomial 0x04c11db7, from the highest bit on, start and end 0 (RFC 3533, section 6). */
const CRC = Uint32Array.from({ length: 256 }, (_, byte) => {
  let value = byte << 24;
  for (let k = 0; k < 8; k++) value = value & 0x8000_0000 ? (value << 1) ^ 0x04c1_1db7 : value << 1;
  return value >>> 0;
});

function crc(bytes: Uint8Array): number {
  let value = 0;
  for (const byte of bytes) value = ((value << 8) ^ (CRC[(value >>> 24) ^ byte] ?? 0)) >>> 0;
  return value;
}

const HEADER = 27;
const MOST_SEGMENTS = 255;

export interface PageOptions {
  readonly serial: number;
  readonly number: number;
  /** Frames of sound up to the end of the last packet that ends on the page. */
  readonly granule: bigint;
  readonly isFirst?: boolean;
  readonly isLast?: boolean;
  /** True if the page goes on with a packet of the page before. */
  readonly isContinued?: boolean;
}

/** One page of whole lacing values and their bytes. */
export function page(lacing: readonly number[], body: Uint8Array, options: PageOptions): Uint8Array {
  const out = new Uint8Array(HEADER + lacing.length + body.length);
  const view = viewOf(out);
  out.set([0x4f, 0x67, 0x67, 0x53, 0]);
  out[5] = (options.isContinued ? 1 : 0) | (options.isFirst ? 2 : 0) | (options.isLast ? 4 : 0);
  view.setBigInt64(6, options.granule, true);
  view.setUint32(14, options.serial, true);
  view.setUint32(18, options.number, true);
  out[26] = lacing.length;
  out.set(lacing, HEADER);
  out.set(body, HEADER + lacing.length);
  view.setUint32(22, crc(out), true);
  return out;
}

/** A packet's length in lacing values: 255 for each full segment, then what is left. */
const lacingOf = (bytes: number): number[] => [...new Array<number>(Math.floor(bytes / 255)).fill(255), bytes % 255];

/** Packets of which no sound is heard, headers say, in as many pages as they need; the last ends a packet. */
export function headerPages(packets: readonly Uint8Array[], serial: number, firstNumber: number): Uint8Array[] {
  const lacing = packets.flatMap(({ length }) => lacingOf(length));
  const body = concatenated(packets);
  const pages: Uint8Array[] = [];
  for (let from = 0, at = 0; from < lacing.length; from += MOST_SEGMENTS) {
    const part = lacing.slice(from, from + MOST_SEGMENTS);
    const size = part.reduce((sum, value) => sum + value, 0);
    const isContinued = from > 0 && lacing[from - 1] === 255;
    // A page on which no packet ends has the granule -1.
    const granule = part.some((value) => value < 255) ? 0n : -1n;
    const number = firstNumber + pages.length;
    pages.push(page(part, body.subarray(at, at + size), { serial, number, granule, isContinued }));
    at += size;
  }
  return pages;
}

export interface ReadPage {
  readonly lacing: readonly number[];
  readonly body: Uint8Array;
  readonly granule: bigint;
  readonly isLast: boolean;
  readonly isContinued: boolean;
  /** Size with its header. */
  readonly bytes: number;
}

/** The page at `at`; null if it is not all there. */
export function readPage(bytes: Uint8Array, at: number): ReadPage | null {
  if (at + HEADER > bytes.length) return null;
  const view = viewOf(bytes);
  const count = bytes[at + 26] ?? 0;
  const bodyAt = at + HEADER + count;
  if (bodyAt > bytes.length) return null;
  const lacing = [...bytes.subarray(at + HEADER, bodyAt)];
  const size = lacing.reduce((sum, value) => sum + value, 0);
  if (bodyAt + size > bytes.length) return null;
  const flags = bytes[at + 5] ?? 0;
  return {
    lacing,
    body: bytes.subarray(bodyAt, bodyAt + size),
    granule: view.getBigInt64(at + 6, true),
    isLast: (flags & 4) !== 0,
    isContinued: (flags & 1) !== 0,
    bytes: HEADER + count + size,
  };
}

/** Packets go into pages of about a second each. */
export class OggWriter {
  private readonly serial: number;
  private readonly perPage: number;
  private number: number;
  private packets: Uint8Array[] = [];
  private granule = 0n;

  constructor(serial: number, firstNumber: number, packetsPerPage: number) {
    this.serial = serial;
    this.number = firstNumber;
    this.perPage = packetsPerPage;
  }

  /** Gives the pages that became full: never the last one, as only the end knows that it is. */
  add(packet: Uint8Array, granule: bigint): Uint8Array {
    const isFull = this.packets.length === this.perPage || this.segments() + packet.length / 255 + 1 > MOST_SEGMENTS;
    const full = isFull ? this.flush(false) : new Uint8Array(0);
    this.packets.push(packet.slice());
    this.granule = granule;
    return full;
  }

  finish(granule: bigint): Uint8Array {
    this.granule = granule;
    return this.flush(true);
  }

  private segments(): number {
    return this.packets.reduce((sum, { length }) => sum + Math.floor(length / 255) + 1, 0);
  }

  private flush(isLast: boolean): Uint8Array {
    const lacing = this.packets.flatMap(({ length }) => lacingOf(length));
    const out = page(lacing, concatenated(this.packets), {
      serial: this.serial,
      number: this.number++,
      granule: this.granule,
      isLast,
    });
    this.packets = [];
    return out;
  }
}

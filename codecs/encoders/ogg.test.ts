import { readdirSync, readFileSync } from 'node:fs';
import { concatenated } from '@tambur/core';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { headerPages, OggWriter, page, readPage } from './ogg.ts';

const short = new URL('../fixtures/short/', import.meta.url);
const oggs = readdirSync(short).filter((name) => /\.(ogg|opus|oga)$/.test(name));

/** Every page of a stream. */
function pagesOf(bytes: Uint8Array) {
  const pages = [];
  for (let at = 0; at < bytes.length; ) {
    const entry = readPage(bytes, at);
    if (!entry) throw new Error(`no page at ${at}`);
    pages.push({ ...entry, at });
    at += entry.bytes;
  }
  return pages;
}

/** Whole packets from the segments of all pages. */
function packetsOf(bytes: Uint8Array): Uint8Array[] {
  const packets: Uint8Array[] = [];
  let open: Uint8Array[] = [];
  for (const { lacing, body } of pagesOf(bytes)) {
    let at = 0;
    for (const size of lacing) {
      open.push(body.slice(at, at + size));
      at += size;
      if (size < 255) {
        packets.push(concatenated(open));
        open = [];
      }
    }
  }
  return packets;
}

/** Bytes as texts, which are compared at once instead of number by number. */
const texts = (packets: readonly Uint8Array[]) => packets.map((packet) => Buffer.from(packet).toString('latin1'));

describe('Ogg pages', () => {
  test.each(oggs)('%s, written by another program: written again, the same bytes, check sums included', (name) => {
    const bytes = new Uint8Array(readFileSync(new URL(name, short)));
    expect(pagesOf(bytes).length).toBeGreaterThan(1);
    for (const [i, { at, bytes: size, lacing, body, granule, isLast, isContinued }] of pagesOf(bytes).entries()) {
      const original = bytes.subarray(at, at + size);
      const view = new DataView(original.buffer, original.byteOffset, original.length);
      const serial = view.getUint32(14, true);
      const number = view.getUint32(18, true);
      const again = page(lacing, body, { serial, number, granule, isLast, isContinued, isFirst: i === 0 });
      expect(again).toEqual(original.slice());
    }
  });

  test('header packets of any size come back whole', () => {
    const packet = fc.integer({ min: 0, max: 70_000 }).map((size) => new Uint8Array(size).fill(size % 251));
    fc.assert(
      fc.property(fc.array(packet, { minLength: 1, maxLength: 4 }), (packets) => {
        const bytes = concatenated(headerPages(packets, 7, 1));
        expect(texts(packetsOf(bytes))).toEqual(texts(packets));
        const pages = pagesOf(bytes);
        expect(pages.every(({ lacing }) => lacing.length <= 255)).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  test('packets of sound come back whole, the last page says so, and no page is too full', () => {
    const packet = fc.integer({ min: 0, max: 4000 }).map((size) => new Uint8Array(size).fill(size % 251));
    fc.assert(
      fc.property(fc.array(packet, { minLength: 1, maxLength: 150 }), (packets) => {
        const writer = new OggWriter(7, 2, 50);
        const parts = packets.map((entry, i) => writer.add(entry, BigInt(960 * (i + 1))));
        const bytes = concatenated([...parts, writer.finish(BigInt(12_345))]);
        expect(texts(packetsOf(bytes))).toEqual(texts(packets));
        const pages = pagesOf(bytes);
        expect(pages.filter(({ isLast }) => isLast)).toHaveLength(1);
        expect(pages.at(-1)).toMatchObject({ isLast: true, granule: 12_345n });
      }),
      { numRuns: 60 },
    );
  });

  test('a page that is not all there is none', () => {
    const whole = page([5], Uint8Array.of(1, 2, 3, 4, 5), { serial: 1, number: 0, granule: 0n });
    expect(readPage(whole, 0)?.body).toEqual(Uint8Array.of(1, 2, 3, 4, 5));
    for (const length of [10, 27, 28, whole.length - 1]) expect(readPage(whole.subarray(0, length), 0)).toBeNull();
  });
});

import { type GaplessBoxes, gapless } from '@audio/decode-aac';
import {
  type ByteFile,
  concatenated,
  findEncoding,
  formatChannels,
  formatRate,
  inMemory,
  partOf,
  piecesOf,
  type SoundStream,
  type Tag,
  viewOf,
} from '@tambur/core';
import { describedPlainly, rawDecoding } from './aac.ts';
import { alacDecoding } from './alac.ts';
import { ALAC_ORDER } from './channel-order.ts';
import { decodedStream } from './decoding.ts';
import { flacFrames, flacInfo, flacStream } from './flac-stream.ts';
import { chosen, cutOff, damaged, depthOf, flacBits, type LibraryFormat, stated, text, unsupported } from './format.ts';
import {
  type Box,
  boxesOf,
  boxIn,
  fragmentRanges,
  joinedRanges,
  plainRanges,
  type Range,
  type SampleTables,
  sampleRanges,
} from './mp4-samples.ts';
import { plainSound } from './plain-sound.ts';

// Taken apart here and not by the media library: that one takes memory for every entry that a damaged table claims (over 4 GB
// for fixtures/hostile/counted-fragment.mp4), and does not know ALAC.

const LARGEST_INDEX = 256_000_000;

interface Track {
  readonly box: Box;
  /** Number that fragments name it by. */
  readonly id: number;
  readonly tables: SampleTables;
  /** What its decoder has to know: of AAC, ALAC and FLAC. */
  readonly description: Uint8Array;
  /** Of the sound, what is to be heard: edit list, times, and what else the library looks at. */
  readonly gaplessBoxes: GaplessBoxes;
  readonly encoding: string;
  readonly sampleRate: number;
  /** 0 if only the decoder can tell. */
  readonly channels: number;
  readonly bitDepth: number | null;
  readonly plainBits: number | null;
  readonly bitRate: number | null;
  readonly isConstant: boolean;
  readonly language: string | null;
}

/** What of a sample entry tells how plain samples are laid out in bytes. */
interface Layout {
  readonly bits: number;
  /** An `enda` box, or a flag, that says little-endian. */
  readonly isLittle: boolean;
  /** Flags of the second version of an entry. */
  readonly isFloat: boolean;
  readonly isSigned: boolean;
}

const whole = ({ bits, isSigned }: Pick<Layout, 'bits' | 'isSigned'>, isLittle: boolean): string =>
  `pcm-${isSigned ? 's' : 'u'}${bits}${bits === 8 ? '' : isLittle ? 'le' : 'be'}`;
const float = (bits: number, isLittle: boolean): string => `float-${bits}${isLittle ? 'le' : 'be'}`;

/** Plain samples by the name of the entry ("QuickTime File Format", sound sample descriptions; ISO/IEC 23003-5; from memory). */
const PCM: Readonly<Record<string, (layout: Layout) => string>> = {
  sowt: ({ bits }) => whole({ bits, isSigned: true }, true),
  twos: ({ bits }) => whole({ bits, isSigned: true }, false),
  'raw ': () => 'pcm-u8',
  in24: ({ isLittle }) => whole({ bits: 24, isSigned: true }, isLittle),
  in32: ({ isLittle }) => whole({ bits: 32, isSigned: true }, isLittle),
  fl32: ({ isLittle }) => float(32, isLittle),
  fl64: ({ isLittle }) => float(64, isLittle),
  lpcm: (layout) => (layout.isFloat ? float(layout.bits, layout.isLittle) : whole(layout, layout.isLittle)),
  ipcm: ({ bits, isLittle }) => whole({ bits, isSigned: true }, isLittle),
  fpcm: ({ bits, isLittle }) => float(bits, isLittle),
};

/** Channels by the audio coding mode of AC-3, the low-frequency one not counted (ETSI TS 102 366, 4.4.2.3; from memory). */
const AC3_CHANNELS = [2, 1, 2, 3, 3, 4, 4, 5];

/** What the `dac3` box states of the channels: the sample entry always says two (ETSI TS 102 366, F.4; from memory). */
const ac3Channels = ([, second = 0]: Uint8Array): number =>
  (AC3_CHANNELS[(second >> 3) & 7] ?? 2) + ((second >> 2) & 1);

/** Encodings by the name of the sample entry, and of `mp4a` by the number of its object type. */
const ENTRIES: Readonly<Record<string, string>> = {
  alac: 'alac',
  '.mp3': 'mp3',
  fLaC: 'flac',
  Opus: 'opus',
  ulaw: 'mu-law',
  alaw: 'a-law',
  samr: 'amr-nb',
  sawb: 'amr-wb',
  'ac-3': 'ac3',
};
const OBJECTS: Readonly<Record<number, string>> = {
  64: 'aac',
  102: 'aac',
  103: 'aac',
  104: 'aac',
  105: 'mp3',
  107: 'mp3',
};

/** The object type and the AAC configuration that an `esds` box states (ISO/IEC 14496-1, 7.2.6; from memory). */
function readEsds(bytes: Uint8Array): { object: number; channels: number; description: Uint8Array } {
  let object = 0;
  let description: Uint8Array = new Uint8Array(0);
  for (let at = 4; at + 2 <= bytes.length; ) {
    const tag = bytes[at++];
    // Sizes stand in four times seven bits at most.
    let size = 0;
    for (let count = 0, isLast = false; !isLast && count < 4; count++) {
      const byte = bytes[at++] ?? 0;
      size = size * 128 + (byte & 127);
      isLast = byte < 128;
    }
    if (tag === 3) at += 3;
    else if (tag === 4) {
      object = bytes[at] ?? 0;
      at += 13;
    } else {
      if (tag === 5) description = bytes.subarray(at, at + size);
      at += size;
    }
  }
  // Five bits of object type, four of rate, four of channels; mono may still become stereo in the decoder.
  const [first = 0, second = 0] = description;
  const channels = first >> 3 === 31 ? 0 : (second >> 3) & 15;
  return { object, channels: channels > 1 && channels < 7 ? channels : 0, description };
}

/** How plain samples are laid out: in the entry itself, its second version's flags, and boxes after it. */
function readLayout(entry: DataView, isSecond: boolean, enda: Uint8Array, pcmC: Uint8Array): Layout {
  if (pcmC.length >= 6) {
    return { bits: pcmC[5] ?? 0, isLittle: ((pcmC[4] ?? 0) & 1) === 1, isFloat: false, isSigned: true };
  }
  if (!isSecond) {
    return { bits: entry.getUint16(18), isLittle: enda[1] === 1, isFloat: false, isSigned: true };
  }
  const flags = entry.getUint32(52);
  return {
    bits: entry.getUint32(48),
    isLittle: enda.length >= 2 ? enda[1] === 1 : (flags & 2) === 0,
    isFloat: (flags & 1) === 1,
    isSigned: (flags & 4) === 4,
  };
}

/** Depth that ALAC's own description states: behind version and flags, a length and a version (from memory). */
const alacBits = (cookie: Uint8Array): number | null => cookie[9] || null;

/** Name of the entry that describes a track of sound, in whatever encoding; null for a track of another kind. */
function soundEntry(index: ByteFile, box: Box): string | null {
  const media = boxIn(index, box, 'mdia', 0);
  const handler = boxIn(index, media, 'hdlr', 0);
  const table = boxIn(index, boxIn(index, media, 'minf', 0), 'stbl', 0);
  const descriptions = boxIn(index, table, 'stsd', 0);
  if (!handler || !descriptions || text(index.read(handler.body, handler.end), 8, 4) !== 'soun') return null;
  return text(index.read(descriptions.body, descriptions.end), 12, 4).replace(/[^ -~]/g, '?');
}

/** One sound of the file, or null for a track of another kind. `index` is the whole `moov` box. */
function readTrack(index: ByteFile, box: Box): Track | null {
  const inside = (parent: Box | undefined, type: string, skip = 0) => boxIn(index, parent, type, skip);
  const bytesOf = (entry: Box | undefined) => (entry ? index.read(entry.body, entry.end) : new Uint8Array(0));
  const media = inside(box, 'mdia');
  const handler = bytesOf(inside(media, 'hdlr'));
  const header = bytesOf(inside(media, 'mdhd'));
  const table = inside(inside(media, 'minf'), 'stbl');
  const descriptions = inside(table, 'stsd');
  if (text(handler, 8, 4) !== 'soun' || !descriptions || header.length < 24) return null;
  const entry = boxesOf(index, descriptions.body + 8, descriptions.end)[0];
  const fields = bytesOf(entry);
  if (!entry || fields.length < 28) return null;
  const view = viewOf(fields);
  const version = view.getUint16(8);
  const second = version === 2 && fields.length >= 64;
  const extra = version === 1 ? 16 : second ? 36 : 0;
  const within = (type: string) =>
    bytesOf(inside(entry, type, 28 + extra) ?? inside(inside(entry, 'wave', 28 + extra), type));
  const { object, channels, description } = readEsds(within('esds'));
  const rate = second ? view.getFloat64(32) : view.getUint32(24) / 65_536;
  const encoding =
    entry.type === 'mp4a'
      ? OBJECTS[object]
      : (ENTRIES[entry.type] ?? PCM[entry.type]?.(readLayout(view, second, within('enda'), within('pcmC'))));
  if (!encoding) return null;
  const isPlain = findEncoding(encoding) !== undefined;
  if (entry.type in PCM && !isPlain) return null;
  const cookie = within('alac');
  const bits = encoding === 'flac' ? flacBits(within('dfLa')) : encoding === 'alac' ? alacBits(cookie) : null;
  const trackHeader = bytesOf(inside(box, 'tkhd'));
  const edits = inside(box, 'edts');
  const stated = second ? view.getUint32(40) : view.getUint16(16);
  const times = viewOf(header);
  const isLong = header[0] === 1 && header.length >= 36;
  const timescale = times.getUint32(isLong ? 20 : 12);
  const seconds = (isLong ? Number(times.getBigUint64(24)) : times.getUint32(16)) / timescale;
  const code = times.getUint16(isLong ? 32 : 20);
  const letters = [10, 5, 0].map((shift) => String.fromCharCode(((code >> shift) & 31) + 0x60)).join('');
  const tables = {
    sizes: bytesOf(inside(table, 'stsz')),
    chunks: bytesOf(inside(table, 'stco')),
    longChunks: bytesOf(inside(table, 'co64')),
    perChunk: bytesOf(inside(table, 'stsc')),
  };
  const sizes = readSizes(tables.sizes);
  return {
    box,
    id: trackHeader.length >= 24 ? viewOf(trackHeader).getUint32(trackHeader[0] === 1 ? 20 : 12) : 0,
    tables,
    description: encoding === 'flac' ? within('dfLa') : encoding === 'alac' ? cookie : description,
    gaplessBoxes: { elst: bytesOf(inside(edits, 'elst')), mdhd: header, stts: bytesOf(inside(table, 'stts')) },
    encoding,
    sampleRate: Math.round(rate) || timescale,
    channels: encoding === 'aac' ? channels : encoding === 'ac3' ? ac3Channels(within('dac3')) : stated,
    ...(isPlain ? depthOf(encoding) : { bitDepth: bits, plainBits: bits }),
    bitRate: seconds > 0 && sizes.total > 0 ? Math.round((sizes.total * 8) / seconds) : null,
    isConstant: sizes.isConstant,
    language: /^[a-z]{3}$/.test(letters) && letters !== 'und' ? letters : null,
  };
}

/** Sizes of all samples (ISO/IEC 14496-12, 8.7.3): constant where none differs much from the others, as in AAC and MP3. */
function readSizes(bytes: Uint8Array): { total: number; isConstant: boolean } {
  if (bytes.length < 12) return { total: 0, isConstant: false };
  const view = viewOf(bytes);
  const fixed = view.getUint32(4);
  const count = view.getUint32(8);
  if (fixed > 0) return { total: fixed * count, isConstant: true };
  let total = 0;
  let least = Number.POSITIVE_INFINITY;
  let most = 0;
  for (let at = 12; at + 4 <= Math.min(bytes.length, 12 + 4 * count); at += 4) {
    const size = view.getUint32(at);
    total += size;
    least = Math.min(least, size);
    most = Math.max(most, size);
  }
  return { total, isConstant: most - least <= 1 };
}

/** Tables whose entries decoders count on: where after its name a table's count is, and how long an entry is. */
const TABLES = [
  { name: 'stco', count: 8, entry: 4 },
  { name: 'co64', count: 8, entry: 8 },
  { name: 'stsc', count: 8, entry: 12 },
  { name: 'stts', count: 8, entry: 8 },
  { name: 'ctts', count: 8, entry: 8 },
  { name: 'elst', count: 8, entry: 12 },
  { name: 'stsz', count: 12, entry: 4 },
] as const;

/**
 * Holds the counts of tables at what can be: decoders make lists as long as a damaged file says, until no memory is
 * left. Wherever a table's name stands, as decoders do not look for them in the same places.
 */
function boundTables(index: Uint8Array, fileSize: number): void {
  const view = viewOf(index);
  for (let at = 0; at + 16 <= index.length; at++) {
    // All names begin with one of three letters.
    const first = index[at];
    if (first !== 0x73 && first !== 0x63 && first !== 0x65) continue;
    const name = text(index, at, 4);
    const table = TABLES.find((entry) => entry.name === name);
    if (!table) continue;
    // Sizes that are all alike are not listed: so many samples as fit into the file.
    const size = name === 'stsz' ? view.getUint32(at + 8) : 0;
    const most = size > 0 ? fileSize / size : (index.length - at - table.count - 4) / table.entry;
    if (view.getUint32(at + table.count) > most) view.setUint32(at + table.count, Math.floor(most));
  }
}

/**
 * The file as its decoder wants it: with one track, the others made invisible, and with the index in front of the sound,
 * so that it can be decoded piece by piece. Places of the sound that move are corrected in the index.
 */
function* rearranged(file: ByteFile, boxes: readonly Box[], moov: Box, kept: Box): Generator<Uint8Array> {
  const index = file.read(moov.start, moov.end).slice();
  const view = viewOf(index);
  boundTables(index, file.size);
  const local = inMemory(index);
  const moved = index.length;
  for (const trak of boxesOf(local, moov.body - moov.start, index.length)) {
    if (trak.type !== 'trak') continue;
    if (trak.start !== kept.start) {
      index.set([0x66, 0x72, 0x65, 0x65], trak.start + 4);
      continue;
    }
    const find = (parent: Box | undefined, type: string) =>
      parent && boxesOf(local, parent.body, parent.end).find((box) => box.type === type);
    const table = find(find(find(trak, 'mdia'), 'minf'), 'stbl');
    const short = find(table, 'stco');
    const long = find(table, 'co64');
    if (short) {
      for (let at = short.body + 8; at + 4 <= short.end; at += 4) {
        const place = view.getUint32(at);
        if (place < moov.start) view.setUint32(at, place + moved);
      }
    }
    if (long) {
      for (let at = long.body + 8; at + 8 <= long.end; at += 8) {
        const place = view.getBigUint64(at);
        if (place < moov.start) view.setBigUint64(at, place + BigInt(moved));
      }
    }
  }
  const first = boxes[0]?.type === 'ftyp' ? Math.min(boxes[0].end, LONGEST_START) : 0;
  // In one piece: the decoder looks at all of it again whenever it gets more.
  yield concatenated([file.read(0, first), index]);
  for (const box of boxes) {
    if (box.start < first || box.start === moov.start) continue;
    const { start } = box;
    const end = Math.min(box.end, file.size);
    if (box.type !== 'moof') yield* piecesOf(partOf(file, start, end), PIECE);
    else if (end - start > LARGEST_FRAGMENT) return;
    else yield boundedFragment(file.read(start, end), file.size);
  }
}

/** Bytes that are decoded at a time. */
const PIECE = 1 << 14;

/** No list of brands is longer. */
const LONGEST_START = 4096;

/** No index of a fragment is larger: it holds some numbers for each sample of a few seconds. */
const LARGEST_FRAGMENT = 1 << 22;

/** A fragment whose runs count no more samples than it, or the file, has room for. */
function boundedFragment(fragment: Uint8Array, fileSize: number): Uint8Array {
  const out = fragment.slice();
  const view = viewOf(out);
  for (let at = 4; at + 12 <= out.length; at++) {
    if (text(out, at, 4) !== 'trun') continue;
    // Any of four numbers for each sample; if there is none, all are alike, and at least a byte long.
    const listed = view.getUint32(at + 4) & 0xf00;
    const most = listed ? (out.length - at) / 4 : Math.min(fileSize, MOST_ALIKE);
    if (view.getUint32(at + 8) > most) view.setUint32(at + 8, Math.floor(most));
  }
  return out;
}

/** Samples of one run that are all alike. */
const MOST_ALIKE = 100_000;

const trackTitle = ({ encoding, channels, sampleRate, language }: Track, i: number) =>
  [
    `${i + 1}: ${encoding}`,
    ...(channels ? [formatChannels(channels)] : []),
    formatRate(sampleRate),
    ...(language ? [language] : []),
  ].join(', ');

async function open(file: ByteFile, track: number): Promise<SoundStream> {
  const boxes = boxesOf(file, 0, file.size);
  const moov = boxes.find(({ type }) => type === 'moov');
  const last = boxes[boxes.length - 1];
  if (!moov || moov.end > file.size || moov.end - moov.start > LARGEST_INDEX) throw damaged('MPEG-4');
  const index = file.read(moov.start, moov.end).slice();
  boundTables(index, file.size);
  const local = inMemory(index);
  const traks = boxesOf(local, moov.body - moov.start, index.length).filter(({ type }) => type === 'trak');
  const tracks = traks.flatMap((box) => readTrack(local, box) ?? []);
  if (tracks.length === 0 && traks.length > 0) {
    const [name] = traks.flatMap((box) => soundEntry(local, box) ?? []);
    const isDts = name !== undefined && /^dts/.test(name);
    throw unsupported('MPEG-4', name ? `sound in ${isDts ? 'DTS' : 'an encoding'} (${name})` : 'no sound');
  }
  const found = chosen('MPEG-4', tracks, track);
  const brand = boxes[0]?.type === 'ftyp' ? text(file.read(8, 12), 0, 4) : 'qt  ';
  const facts = stated({
    container: brand === 'qt  ' ? 'mov' : 'mp4',
    encoding: found.encoding,
    sampleRate: found.sampleRate,
    channels: found.channels,
    bitDepth: found.bitDepth,
    plainBits: found.plainBits,
    bytes: file.size,
    bitRate: found.bitRate,
    bitRateMode: found.isConstant ? 'constant' : 'variable',
    tracks: tracks.length > 1 ? tracks.map((entry, i) => ({ title: trackTitle(entry, i) })) : [],
    track,
    tags: readTags(local, moov.body - moov.start),
    extras: boxes
      .filter(({ type }) => ['free', 'skip', 'uuid'].includes(type))
      .map(({ type, start, end }) => ({ name: type, bytes: Math.min(end, file.size) - start })),
    warnings: last && last.end > file.size ? [cutOff('its sound ends before its index says.')] : [],
  });
  const ranges = (): Iterable<Range> =>
    boxes.some(({ type }) => type === 'moof')
      ? fragmented(file, boxes, { id: found.id, usualSize: usualSizeOf(local, moov, found.id) })
      : sampleRanges(found.tables, file.size);
  const gap = () => {
    const user = boxIn(local, { ...moov, body: moov.body - moov.start, end: index.length }, 'mvhd');
    const mvhd = user ? local.read(user.body, user.end) : new Uint8Array(0);
    return gapless({ ...found.gaplessBoxes, mvhd, ilst: tagListOf(local, moov.body - moov.start) });
  };
  function* samples(): Generator<Uint8Array> {
    for (const { start, end } of ranges()) yield file.read(start, end).slice();
  }
  const { encoding, description } = found;
  if (encoding === 'aac' && description.length > 0) {
    const asc = describedPlainly(description);
    const window = gap();
    const open = rawDecoding({ asc, ...(window ? { gapless: window } : {}) });
    return decodedStream('MPEG-4', open, samples, facts, { isWhole: true });
  }
  if (encoding === 'alac' && description.length > 0) {
    const open = alacDecoding('MPEG-4', description, gap());
    return decodedStream('MPEG-4', open, samples, facts, { isWhole: true, order: ALAC_ORDER });
  }
  if (encoding === 'flac') {
    // Version and flags, and the head of the block that describes the stream.
    return flacStream(flacInfo(description.subarray(8)), facts, () => flacFrames(samples()));
  }
  const plain = findEncoding(encoding);
  if (plain && plain.kind !== 'block' && found.channels > 0) {
    const frameBytes = plain.bytesPerSample * found.channels;
    return plainSound(facts, plain, joinedRanges(file, plainRanges(found.tables, frameBytes, file.size)));
  }
  const pieces = () => rearranged(file, boxes, moov, found.box);
  return decodedStream('MPEG-4', 'm4a', pieces, facts, { isWhole: true });
}

function* fragmented(
  file: ByteFile,
  boxes: readonly Box[],
  track: { readonly id: number; readonly usualSize: number },
): Generator<Range> {
  for (const box of boxes) {
    if (box.type !== 'moof' || box.end - box.start > LARGEST_FRAGMENT) continue;
    yield* fragmentRanges(inMemory(file.read(box.start, box.end).slice()), box.start, file.size, track);
  }
}

/** Size of a sample where its fragment states none (`trex`; ISO/IEC 14496-12, 8.8.3). */
function usualSizeOf(index: ByteFile, moov: Box, id: number): number {
  const extension = boxesOf(index, moov.body - moov.start, index.size).find(({ type }) => type === 'mvex');
  const usual = extension ? boxesOf(index, extension.body, extension.end).filter(({ type }) => type === 'trex') : [];
  for (const { body, end } of usual) {
    const bytes = index.read(body, end);
    if (bytes.length >= 24 && viewOf(bytes).getUint32(4) === id) return viewOf(bytes).getUint32(16);
  }
  return 0;
}

/** Names of the entries of a tag list that are tags in the common sense (common practice, no source). */
const TAG_NAMES: Readonly<Record<string, string>> = {
  '\u00a9nam': 'title',
  '\u00a9ART': 'artist',
  aART: 'album artist',
  '\u00a9alb': 'album',
  '\u00a9cmt': 'comment',
  '\u00a9gen': 'genre',
  '\u00a9day': 'date',
  '\u00a9wrt': 'composer',
  '\u00a9too': 'software',
};

/** The type of a text's data. */
const TEXT = 1;
/** Before a text come its type and its language. */
const DATA_HEADER = 8;

/** The list of tags in an index, inside `meta`, which has four bytes of its own in front of its boxes. */
function tagBox(index: ByteFile, start: number): Box | undefined {
  const user = boxesOf(index, start, index.size).find(({ type }) => type === 'udta');
  const meta = boxIn(index, user, 'meta');
  return boxIn(index, meta, 'ilst', 4) ?? boxIn(index, meta, 'ilst');
}

function tagListOf(index: ByteFile, start: number): Uint8Array {
  const list = tagBox(index, start);
  return list ? index.read(list.body, list.end) : new Uint8Array(0);
}

function readTags(index: ByteFile, start: number): Tag[] {
  const list = tagBox(index, start);
  if (!list) return [];
  return boxesOf(index, list.body, list.end).flatMap((entry) => {
    const data = boxIn(index, entry, 'data');
    const name = TAG_NAMES[entry.type];
    const bytes = data ? index.read(data.body, data.end) : new Uint8Array(0);
    if (!name || bytes.length <= DATA_HEADER || viewOf(bytes).getUint32(0) !== TEXT) return [];
    return [{ name, value: new TextDecoder().decode(bytes.subarray(DATA_HEADER)) }];
  });
}

const FIRST_BOXES = ['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip', 'pnot'];

/** MPEG-4, whatever its extension, and QuickTime. */
export const mp4: LibraryFormat = {
  title: 'MPEG-4',
  recognises: (head) => FIRST_BOXES.includes(text(head, 4, 4)),
  open,
};

import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import alawmulaw from 'alawmulaw';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { deinterleave } from '../../audio/index.ts';
import { wholeOf } from '../../bytes/index.ts';
import { containerOf, packFile } from '../../containers/index.ts';
import { stemsOf } from '../../delivery/index.ts';
import type { DeliveryRecord } from '../../documents/index.ts';
import { bytesOf, codecOf, layoutOf, plainEncodingOf } from '../../encodings/index.ts';
import { readPlain } from '../../facts/index.ts';
import { type Target, targetOf } from '../../targets/index.ts';
import { C_PLAYER, cPlayer } from './c.ts';
import { type PlayedCase, recordFor } from './fixtures/record.ts';
import { PYTHON_PLAYER, pythonPlayer } from './python.ts';
import { RUST_PLAYER, rustPlayer } from './rust.ts';

const RATE = 8000;
const FRAMES = 603;

/** Every encoding that the players decode, mono and stereo; PCM of many depths and layouts. */
const CASES: readonly (readonly [encoding: string, channels: number])[] = [
  ...['mu-law', 'a-law', 'pcm-u8', 'pcm-s8', 'pcm-s16le', 'pcm-u16le', 'pcm-s16be', 'pcm-s24le', 'pcm-u24be'],
  ...['pcm-s32le', 'pcm-u32le', 'pcm-s32be', 'pcm-u5', 'pcm-u4', 'pcm-s12le', 'pcm-s12le-left', 'pcm-u12be-left'],
  ...['pcm-u10le', 'pcm-s20le-left', 'pcm-s3-left', 'pcm-u1-packed', 'pcm-u5-packed', 'pcm-s12-packed-low'],
  ...['pcm-s13-packed', 'pcm-u31-packed-low', 'ima-adpcm', 'ima-adpcm-low', 'ima-adpcm-high', 'oki-adpcm'],
  ...['oki-adpcm-low'],
].flatMap((encoding) => [
  [encoding, 1] as const,
  ...(encoding.includes('13') || encoding.includes('31') ? [] : [[encoding, 2] as const]),
]);

interface Case extends PlayedCase {
  readonly data: Uint8Array;
  /** What our decoder finds, as 16 bits. */
  readonly wanted: readonly number[];
}

let state = 77;
const next = () => {
  state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
  return state >>> 24;
};

/** Samples that have more bits than ours keep: read as one long number. */
function exactly(encoding: string, data: Uint8Array, samples: number): number[] | null {
  const match = /^pcm-([su])(31|32)(le|be|-packed-low)$/.exec(encoding);
  if (!match) return null;
  const bits = BigInt(match[2] ?? 0);
  const bytes = match[3] === 'be' ? data.toReversed() : data;
  let whole = BigInt(`0x${Buffer.from(bytes.toReversed()).toString('hex')}`);
  const values: number[] = [];
  for (; values.length < samples; whole >>= bits) {
    const value = BigInt.asUintN(Number(bits), whole);
    const centred = match[1] === 's' ? BigInt.asIntN(Number(bits), value) : value - (1n << (bits - 1n));
    values.push(Number(centred >> (bits - 16n)));
  }
  return match[3] === 'be' ? values.toReversed() : values;
}

/** Bytes of chance: every code comes, and every sample. In blocks the first bytes are what an encoder writes. */
function caseOf([encoding, channels]: readonly [string, number], i: number): Case {
  const plain = plainEncodingOf(encoding);
  const layout = layoutOf(plain, channels, RATE);
  const data = Uint8Array.from({ length: bytesOf(plain, FRAMES, layout) }, next);
  if (encoding === 'ima-adpcm') {
    for (let block = 0; block < data.length; block += layout.blockBytes) {
      for (let channel = 0; channel < channels; channel++) {
        data[block + 4 * channel + 2] %= 89;
        data[block + 4 * channel + 3] = 0;
      }
    }
  }
  const stem = `s${i}_${encoding.replaceAll('-', '_')}_${channels}`;
  const codec = codecOf(plain, layout);
  const decoded = codec.decode(data);
  const frames = FRAMES;
  const ours = Array.from(decoded.subarray(0, frames * channels), (value) => Math.floor(value * 32_768));
  const wanted = exactly(encoding, data, frames * channels) ?? ours;
  return { encoding, channels, stem, frames, data, wanted };
}
const cases = CASES.map(caseOf);

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'players-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

const at = (name: string) => join(folder, name);

function writeArrays(of: readonly Case[], container: string, extension: string): void {
  for (const { stem, encoding, channels, frames, data } of of) {
    const packing = { encoding: plainEncodingOf(encoding), sampleRate: RATE, channels, frames, stem };
    const file = packFile(containerOf(container), packing, data);
    expect([...wholeOf(readPlain(file).data)]).toEqual([...data]);
    writeFileSync(at(`${stem}.${extension}`), file);
  }
}

/** The samples that a program wrote, sound by sound. */
function samplesOf(output: Buffer, of: readonly Case[]): number[][] {
  let from = 0;
  return of.map(({ wanted }) => {
    const samples = Array.from({ length: wanted.length }, (_, i) => output.readInt16LE(2 * (from + i)));
    from += wanted.length;
    return samples;
  });
}

const compare = (output: Buffer) => {
  expect(output.length).toBe(2 * cases.reduce((sum, { wanted }) => sum + wanted.length, 0));
  for (const [i, samples] of samplesOf(output, cases).entries()) {
    expect([cases[i]?.stem, samples]).toEqual([cases[i]?.stem, cases[i]?.wanted]);
  }
};

const C99 = ['-std=c99', '-Wall', '-Wextra', '-Werror', '-pedantic', '-O1'];

describe('the player in C', () => {
  test('compiled as C99 without a warning, every encoding comes out bit for bit', () => {
    writeArrays(cases, 'c-header', 'h');
    writeFileSync(at('sound_player.h'), cPlayer(recordFor(cases, 'c-header', 'h')));
    writeFileSync(
      at('main.c'),
      `#include <stdio.h>
#include "sound_player.h"
int main(void) {
  int i;
  for (i = 0; i < SOUND_COUNT; i++) {
    struct sound_cursor cursor;
    sound_start(&cursor, &sounds[i]);
    while (!sound_ended(&cursor)) {
      const int16_t sample = sound_next(&cursor);
      putchar(sample & 255);
      putchar((sample >> 8) & 255);
    }
    if (sound_next(&cursor) != 0) return 1;
  }
  return 0;
}
`,
    );
    execFileSync('cc', [...C99, '-o', at('main'), at('main.c')]);
    compare(execFileSync(at('main'), { maxBuffer: 1e8 }));
  });

  test('a sequence with repeats and pauses, by the interrupt; figures of the timer', () => {
    const two = cases.filter(({ stem }) => /pcm_u8_1|mu_law_1/.test(stem));
    writeArrays(two, 'c-header', 'h');
    writeFileSync(at('sound_player.h'), cPlayer(recordFor(two, 'c-header', 'h')));
    writeFileSync(
      at('seq.c'),
      `#include <stdio.h>
#include <stdint.h>
static void out(int16_t sample) { putchar(sample & 255); putchar((sample >> 8) & 255); }
#define SOUND_WRITE(sample) out(sample)
#include "sound_player.h"
int main(void) {
  const struct sound_entry entries[] = { { &sounds[0], 2, 10 }, { &sounds[1], 1, 0 } };
  struct sound_sequence sequence;
  sound_sequence_start(&sequence, entries, 2);
  while (!sound_sequence_ended(&sequence)) sound_tick(&sequence);
  fprintf(stderr, "%lu %u %u %lu", SOUND_CLOCK, SOUND_PRESCALER, SOUND_TOP, (unsigned long)SOUND_TIMER_TOP(16000000UL, 8u, 16000u));
  return 0;
}
`,
    );
    execFileSync('cc', [...C99, '-o', at('seq'), at('seq.c')]);
    const output = execFileSync(at('seq'), { stdio: ['ignore', 'pipe', 'pipe'] });
    const pause = Array.from({ length: 80 }, () => 0);
    const [first, second] = two.map(({ wanted }) => wanted);
    const samples = Array.from({ length: output.length / 2 }, (_, i) => output.readInt16LE(2 * i));
    expect(samples).toEqual([...(first ?? []), ...pause, ...(first ?? []), ...pause, ...(second ?? [])]);
  });

  test('the timer of a sheet: 16 MHz, by 1, to 999', () => {
    // 16 000 000 / (1 x (999 + 1)) = 16 000; the counter of 8 bits cannot, so its prescaler is 8: 16 000 000 / (8 x 125).
    const text = cPlayer(recordFor(cases.slice(0, 1), 'c-header', 'h'));
    expect(text).toContain('#define SOUND_CLOCK 16000000UL\n#define SOUND_PRESCALER 8u\n#define SOUND_TOP 124u\n');
    // Nothing in a title ends its comment.
    expect(text).toContain('/* A player for the sounds of Panel * / of the cabin.');
  });

  // A library that shares nothing with us; of IMA ADPCM one is compared with our decoder in encodings/adpcm.test.ts.
  test.each<[string, (data: Uint8Array) => ArrayLike<number>]>([
    ['mu-law', (data) => alawmulaw.mulaw.decode(data)],
    ['a-law', (data) => alawmulaw.alaw.decode(data)],
  ])('%s: an independent decoder finds the same samples', (encoding, decode) => {
    const found = cases.find((entry) => entry.encoding === encoding && entry.channels === 1);
    expect(Array.from(decode(found?.data ?? new Uint8Array(0))).slice(0, found?.frames)).toEqual(found?.wanted);
  });
});

test('the player in Python: every encoding comes out bit for bit', () => {
  writeArrays(cases, 'python', 'py');
  writeFileSync(at('sound_player.py'), pythonPlayer(recordFor(cases, 'python', 'py')));
  const script = `import struct, sys
sys.path.insert(0, sys.argv[1])
from sound_player import SOUNDS, sequence
for sound in SOUNDS.values():
    sys.stdout.buffer.write(b''.join(struct.pack('<h', sample) for sample in sound.samples()))
name = next(iter(SOUNDS))
assert len(list(sequence([(name, 2, 10)]))) == 2 * (${cases[0]?.wanted.length} + 80)
`;
  compare(execFileSync('python3', ['-c', script, folder], { maxBuffer: 1e8 }));
});

const hasRust = (() => {
  try {
    execFileSync('rustc', ['--version'], { stdio: 'ignore' });
    return true;
  } catch {
    return false;
  }
})();

test.skipIf(!hasRust)('the player in Rust, where there is a compiler: every encoding comes out bit for bit', () => {
  writeArrays(cases, 'rust', 'rs');
  writeFileSync(
    at('sound_player.rs'),
    rustPlayer(recordFor(cases, 'rust', 'rs')).replace('#![allow(dead_code, clippy::all)]', ''),
  );
  writeFileSync(
    at('main.rs'),
    `#![allow(dead_code)]
mod player { include!("sound_player.rs"); }
use std::io::Write;
fn main() {
    let mut out = std::io::BufWriter::new(std::io::stdout());
    for sound in player::Sound::ALL {
        let mut cursor = player::Cursor::new(sound);
        while !cursor.ended() { out.write_all(&cursor.next().to_le_bytes()).unwrap(); }
    }
    let entries = [player::Entry { sound: player::Sound::ALL[0], times: 2, pause_ms: 10 }];
    let mut sequence = player::Sequence::new(&entries);
    let mut count = 0;
    while !sequence.ended() { sequence.next(); count += 1; }
    assert_eq!(count, 2 * (${cases[0]?.wanted.length} + 80));
}
`,
  );
  execFileSync('rustc', ['--edition', '2021', '-D', 'warnings', '-o', at('rusty'), at('main.rs')]);
  compare(execFileSync(at('rusty'), { maxBuffer: 1e8 }));
});

describe('sounds whose names a language, a program or the player has too', () => {
  const NAMES = [
    '9 lives',
    'class',
    'import',
    'array',
    'sound player',
    'SOUNDS',
    'sound next',
    'self',
    'main',
    'exit',
    'log',
    'a-b',
    // What the first ones come to.
    'clip class',
    'clip 9 lives',
  ];

  /** The files of a set with these names as its sheet calls them, and the player beside them, in a folder of their own. */
  function written(container: string, extension: string, player: (record: DeliveryRecord) => string, name: string) {
    const sheet = {
      ...targetOf('microcontroller-8-bit-dac'),
      requirements: [{ key: 'c', kind: 'container', anyOf: [container] }],
    };
    const stems = stemsOf(NAMES, sheet as Target);
    const [first] = cases;
    const of = stems.map((stem) => ({ ...first, stem }) as Case);
    const inside = mkdtempSync(join(folder, 'names-'));
    for (const { stem, encoding, channels, frames, data } of of) {
      const packing = { encoding: plainEncodingOf(encoding), sampleRate: RATE, channels, frames, stem };
      writeFileSync(join(inside, `${stem}.${extension}`), packFile(containerOf(container), packing, data));
    }
    const taken = new Set(stems.map((stem) => `${stem}.${extension}`));
    expect(taken.size).toBe(NAMES.length);
    expect(taken).not.toContain(name);
    writeFileSync(join(inside, name), player(recordFor(of, container, extension)));
    return { inside, stems };
  }
  const main = `#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include "sound_player.h"
int main(void) { return SOUND_COUNT - ${NAMES.length}; }
`;

  test('C headers', () => {
    const { inside } = written('c-header', 'h', cPlayer, C_PLAYER);
    writeFileSync(join(inside, 'program.c'), main);
    execFileSync('cc', [...C99, '-o', 'program', 'program.c'], { cwd: inside });
    execFileSync(join(inside, 'program'));
  });

  test('C sources, each compiled on its own beside the player', () => {
    const { inside, stems } = written('c-source', 'c', cPlayer, C_PLAYER);
    writeFileSync(join(inside, 'program.c'), main);
    execFileSync('cc', [...C99, '-o', 'program', 'program.c', ...stems.map((stem) => `${stem}.c`)], { cwd: inside });
    execFileSync(join(inside, 'program'));
  });

  test('Python', () => {
    const { inside } = written('python', 'py', pythonPlayer, PYTHON_PLAYER);
    const script =
      'from sound_player import SOUNDS; print([sum(1 for _ in sound.samples()) for sound in SOUNDS.values()])';
    const output = execFileSync('python3', ['-c', script], { cwd: inside, encoding: 'utf8' });
    expect(JSON.parse(output)).toEqual(NAMES.map(() => cases[0]?.wanted.length));
  });

  test.skipIf(!hasRust)('Rust', () => {
    const { inside } = written('rust', 'rs', rustPlayer, RUST_PLAYER);
    writeFileSync(
      join(inside, 'main.rs'),
      `mod sound_player;\nfn main() { assert_eq!(sound_player::Sound::ALL.len(), ${NAMES.length}); }\n`,
    );
    execFileSync('rustc', ['--edition', '2021', '-A', 'dead_code', '-D', 'warnings', '-o', 'program', 'main.rs'], {
      cwd: inside,
    });
    execFileSync(join(inside, 'program'));
  });

  test("what GNU's assembler makes of the numbers are the bytes", () => {
    const [first] = cases;
    const { encoding, channels, frames, data } = first as Case;
    const packing = { encoding: plainEncodingOf(encoding), sampleRate: RATE, channels, frames, stem: 'bell' };
    writeFileSync(at('bell.s'), packFile(containerOf('assembler'), packing, data));
    execFileSync('as', ['--fatal-warnings', '-o', at('bell.o'), at('bell.s')]);
    execFileSync('objcopy', ['-O', 'binary', '-j', '.text', at('bell.o'), at('bell.bin')]);
    // The section is filled up to a whole number of words.
    expect([...readFileSync(at('bell.bin')).subarray(0, data.length)]).toEqual([...data]);
  });

  test('what an earlier version wrote for an assembler is still read', () => {
    const older =
      '; PCM 8-bit unsigned (pcm-u8), 8000 Hz, mono, 3 frames.\nbell:\n  .byte 1, 2,\n  .byte 255\n; end\nbell_end:\n'.replace(
        '2,\n',
        '2\n',
      );
    expect([...wholeOf(readPlain(new TextEncoder().encode(older)).data)]).toEqual([1, 2, 255]);
  });
});

test('channels of a stereo sound are heard in turn', () => {
  const stereo = cases.find(({ encoding, channels }) => encoding === 'pcm-s16le' && channels === 2);
  const [left] = deinterleave(Float32Array.from(stereo?.wanted ?? []), 2);
  expect(left[1]).toBe(stereo?.wanted[2]);
});

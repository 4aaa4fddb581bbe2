import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import wavefile from 'wavefile';
import { encodeVorbis, encodeWith } from '../../codecs/fixtures/encode.ts';
import { testSound } from '../../codecs/fixtures/sounds.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');

export const scratch = (): string => mkdtempSync(join(tmpdir(), 'tambur-files-'));

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** A 16-bit WAV file made by a reference package. */
export function wavBytes(seconds: number, channels = 2, sampleRate = 44_100, gain = 1): Buffer {
  const sound = testSound(sampleRate, Math.round(seconds * sampleRate), channels);
  const file = new WaveFile();
  const samples = sound.channels.map((values) => Array.from(values, (value) => Math.round(gain * value * 32_767)));
  file.fromScratch(channels, sampleRate, '16', channels === 1 ? samples[0] : samples);
  return Buffer.from(file.toBuffer());
}

export const soundFiles = {
  mp3: async (seconds: number) => Buffer.from(await encodeWith('mp3', testSound(44_100, seconds * 44_100, 2))),
  flac: async (seconds: number) => Buffer.from(await encodeWith('flac', testSound(48_000, seconds * 48_000, 2))),
  m4a: async (seconds: number) => Buffer.from(await encodeWith('mp4', testSound(44_100, seconds * 44_100, 2))),
  ogg: async (seconds: number) => Buffer.from(await encodeVorbis(testSound(44_100, seconds * 44_100, 2))),
  wav: async (seconds: number) => wavBytes(seconds),
};

/** Files that cannot be used, and what the refusal says. */
export function badFiles(): { name: string; bytes: Buffer; code: string; words: RegExp }[] {
  const whole = wavBytes(0.5);
  const unsupported = Buffer.from(whole);
  unsupported.writeUInt16LE(0x0055, 20);
  const noFrames = Buffer.from(whole.subarray(0, 44));
  noFrames.writeUInt32LE(0, 40);
  return [
    { name: 'empty.mp3', bytes: Buffer.alloc(0), code: 'empty-file', words: /The file is empty/ },
    {
      name: 'text.wav',
      bytes: Buffer.from('Trains run every ten minutes.'),
      code: 'not-audio',
      words: /of no known kind/,
    },
    {
      name: 'cut-in-header.wav',
      bytes: whole.subarray(0, 30),
      code: 'header-cut-off',
      words: /ends inside its header/,
    },
    { name: 'no-frames.wav', bytes: noFrames, code: 'no-frames', words: /it has 0 frames/ },
    { name: 'codec.wav', bytes: unsupported, code: 'unsupported-codec', words: /MPEG layer 3/ },
    {
      name: 'damaged.mp3',
      bytes: Buffer.from('ID3\u0003\u0000\u0000\u0000\u0000\u0000\u0000'),
      code: 'damaged',
      words: /damaged or cut off/,
    },
  ];
}

/** Runs the command line; never throws for its exit code. */
export function tambur(...args: string[]): { code: number | null; stdout: string; stderr: string } {
  const { status, stdout, stderr } = spawnSync('./tambur', args, { encoding: 'utf8', maxBuffer: 1 << 28 });
  return { code: status, stdout, stderr };
}

export function writeFiles(folder: string, files: Record<string, Buffer>): string[] {
  return Object.entries(files).map(([name, bytes]) => {
    const path = join(folder, name);
    writeFileSync(path, bytes);
    return path;
  });
}

/** Entries of a ZIP file, by Debian's own unzip where it is there, otherwise by Python. */
export const zipEntries = (path: string): string[] =>
  execFileSync(
    'python3',
    [
      '-c',
      'import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None; print("\\n".join(z.namelist()))',
      path,
    ],
    { encoding: 'utf8' },
  )
    .trim()
    .split('\n');

import { spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import wavefile from 'wavefile';
import { badFiles, scratch, soundFiles, tambur, wavBytes, writeFiles } from './support/files.ts';

const { WaveFile } = wavefile as unknown as typeof import('wavefile');
const phone = ['--target', 'desk-phone-ring-tone'];
const board = ['--target', 'microcontroller-8-bit-dac'];

test('targets: every sheet, as words and as data', () => {
  const words = tambur('targets');
  expect(words.code).toBe(0);
  expect(words.stdout).toContain('desk-phone-ring-tone\n  Desk phone ring tone\n    container: headerless');
  const data = JSON.parse(tambur('targets', '--json').stdout);
  expect(data.map(({ id }: { id: string }) => id)).toEqual([
    'desk-phone-ring-tone',
    'telephone-system-message',
    'two-way-radio-prompt',
    'mobile-ring-tone',
    'percussion-pad-sample',
    'show-controller-track',
    'numbered-sound-module',
    'transmitter-spoken-cue',
    'microcontroller-8-bit-dac',
    'microcontroller-5-bit-ladder',
    'microcontroller-pwm-timer',
    'i2s-amplifier-board',
    'voice-chip-4-bit',
    'console-sound-slot',
    'loop-player',
    'portable-player',
    'archive-copy',
  ]);
  expect(words.stdout).toContain('    --variant older-firmware: bit rate: 128 kbit/s, constant');
});

test('what is read and written, and the version', () => {
  expect(tambur('--version').stdout).toMatch(/^\d+\.\d+\.\d+\n$/);
  const words = tambur('formats').stdout;
  expect(words).toMatch(/^reads\n {2}WAV\n/);
  expect(words).toContain('writes\n  WAV, wav (.wav)\n    pcm-u8, ');
  const { reads, writes } = JSON.parse(tambur('formats', '--json').stdout);
  expect(reads).toEqual(expect.arrayContaining(['WAV', 'MP3', 'Matroska', 'headerless']));
  expect(writes).toContainEqual({ id: 'mp3', title: 'MP3', extensions: ['mp3'], carries: ['mp3'] });
});

test('who reads the words may stop reading them', () => {
  const script = 'set -o pipefail; for k in 1 2 3; do ./tambur targets --json | head -c 10; done';
  const { status, stderr } = spawnSync('bash', ['-c', script], { encoding: 'utf8' });
  expect([status, stderr]).toEqual([0, '']);
});

test('facts of every format, as words and as data', async () => {
  const folder = scratch();
  const made = await Promise.all(
    Object.entries(soundFiles).map(async ([kind, make]) => [`sound.${kind}`, await make(1)] as const),
  );
  const paths = writeFiles(folder, Object.fromEntries(made));
  const { code, stdout, stderr } = tambur('facts', ...paths, '--json');
  expect([code, stderr]).toEqual([0, '']);
  const facts = JSON.parse(stdout);
  expect(facts).toHaveLength(5);
  for (const entry of facts) {
    for (const key of [
      'file',
      'container',
      'encoding',
      'sampleRate',
      'bitDepth',
      'channels',
      'frames',
      'bytes',
      'bitRate',
    ]) {
      expect(entry).toHaveProperty(key);
    }
  }
  const wav = facts.find(({ container }: { container: string }) => container === 'wav');
  // Common practice, no source: 44 100 Hz x 16 bit x 2 is 1 411.2 kbit/s.
  expect(wav).toMatchObject({
    encoding: 'pcm-s16le',
    sampleRate: 44_100,
    bitDepth: 16,
    channels: 2,
    frames: 44_100,
    bitRate: 1_411_200,
  });
  expect(tambur('facts', paths[4]).stdout).toMatch(/data rate +1\u202f411\.2 kbit\/s, constant/);
});

test('make and check: a cut for the desk phone, from a time to a frame', async () => {
  const folder = scratch();
  const [source] = writeFiles(folder, { 'Platform bell.mp3': await soundFiles.mp3(8) });
  const out = join(folder, 'out', 'deeper');
  const made = tambur('make', ...phone, source, '--out', out, '--start', '0:01.5', '--end', '132300f');
  expect([made.code, made.stderr]).toEqual([0, '']);
  expect(made.stdout.trim().split('\n')).toEqual([join(out, 'platform-bell.raw'), join(out, 'ring-tones.txt')]);
  // 1.5 s at 8 000 Hz are 12 000 frames = 50 blocks of 240.
  expect(readFileSync(join(out, 'platform-bell.raw'))).toHaveLength(12_000);
  expect(readFileSync(join(out, 'ring-tones.txt'), 'utf8')).toBe('Platform bell\tplatform-bell.raw\n');

  const checked = tambur('check', ...phone, join(out, 'platform-bell.raw'), '--json');
  expect(checked.code).toBe(0);
  const [{ file, findings }] = JSON.parse(checked.stdout);
  expect(file).toBe(join(out, 'platform-bell.raw'));
  for (const finding of findings) {
    expect(Object.keys(finding)).toEqual(expect.arrayContaining(['requirement', 'verdict', 'wanted', 'found', 'mend']));
    expect(finding.verdict).not.toBe('breaks');
  }
});

test('make: what breaks the sheet is written, said, and exits with 1', async () => {
  const folder = scratch();
  const [source] = writeFiles(folder, { 'long.wav': wavBytes(5) });
  const { code, stderr } = tambur('make', ...phone, '--variant', 'older-sets', source, '--out', join(folder, 'out'));
  expect(code).toBe(1);
  expect(stderr).toContain(
    'It is 2.990 s too long: the sheet allows 2.010 s, 16\u202f080 frames.\n  Cut 2.990 s off the end: --set cut.start=0 --set cut.end=88641\n',
  );
  expect(stderr).toContain('breaks   length: wanted 240 to 16\u202f080 frames, in blocks of 240, found 4.980 s');
});

test('make: stations set by hand; the result is read by a reference package', async () => {
  const folder = scratch();
  const [source] = writeFiles(folder, { 'a.wav': wavBytes(1) });
  const set = [
    'rate.sampleRate=11025',
    'wrap.container=wav',
    'wrap.encoding=pcm-s16le',
    'wrap.extension=wav',
    'channels.mode=right',
    'level.gainDb=-6',
  ];
  const { code, stdout } = tambur('make', ...board, source, '--out', folder, ...set.flatMap((text) => ['--set', text]));
  expect(code).toBe(1);
  const file = new WaveFile(readFileSync(stdout.trim()));
  expect(file.fmt).toMatchObject({ sampleRate: 11_025, numChannels: 1, bitsPerSample: 16 });
  expect((file.getSamples() as unknown as number[]).length).toBe(11_025);
});

/** A long WAV file of 8 000 Hz: both channels alike for so many seconds, and opposite to each other from then on. */
function turningOver(seconds: number, alike: number): Buffer {
  const file = new WaveFile();
  const left = Int16Array.from({ length: seconds * 8000 }, (_, i) => 12_000 * Math.sin(i * 0.2));
  const right = left.map((value, i) => (i < alike * 8000 ? value : -value));
  file.fromScratch(2, 8000, '16', [left, right]);
  return Buffer.from(file.toBuffer());
}

/** Highest magnitude of a mu-law file's second half; 0 is silence. By its codes: the loudest have the smallest low bits. */
const loudness = (bytes: Buffer) =>
  bytes.subarray(bytes.length / 2).reduce((most, byte) => Math.max(most, 0x7f - (byte & 0x7f)), 0);

test('a long sound is made while it is measured, and is what it would be if it was measured before', () => {
  const folder = scratch();
  const [steady, turning] = writeFiles(folder, {
    'steady.wav': turningOver(150, 150),
    'turning.wav': turningOver(150, 20),
  });
  const { code, stdout } = tambur('make', ...phone, steady, turning, '--out', join(folder, 'out'), '--json');
  expect(code).toBe(0);
  const [first, second] = JSON.parse(stdout);
  // As its channels would cancel each other out, one of them is taken: nothing at its beginning says so.
  for (const { file, facts } of [first, second]) {
    expect(facts.frames).toBe(1_200_000);
    expect(loudness(readFileSync(file))).toBeGreaterThan(0x40);
  }
  expect(readdirSync(join(folder, 'out')).sort()).toEqual(['ring-tones.txt', 'steady.raw', 'turning.raw']);
});

test('of a long sound that is damaged far from its beginning what can be read is used, and that is said', async () => {
  const folder = scratch();
  const bytes = await soundFiles.flac(130);
  bytes.fill(0x55, Math.floor(bytes.length * 0.8));
  const [path] = writeFiles(folder, { 'long.flac': bytes });
  const { code, stderr } = tambur('make', ...phone, path, '--out', join(folder, 'out'));
  expect([code, stderr]).toEqual([
    0,
    expect.stringMatching(/long\.flac: The file is cut off: .* What is there is used\./),
  ]);
  // 80 of 100 bytes are of about as much of the sound.
  const { length } = readFileSync(join(folder, 'out', 'long.raw'));
  expect(length).toBeGreaterThan(90 * 8000);
  expect(length).toBeLessThan(115 * 8000);
});

test('a card of more files than a process may open is checked as a whole', () => {
  const folder = scratch();
  const bytes = wavBytes(0.01, 1, 16_000);
  writeFiles(folder, Object.fromEntries(Array.from({ length: 80 }, (_, i) => [`${1000 + i}.wav`, bytes])));
  const limited = spawnSync('bash', ['-c', `ulimit -n 64; ./tambur check ${board.join(' ')} --json "$0"`, folder], {
    encoding: 'utf8',
  });
  expect(limited.stderr).toBe('');
  expect(JSON.parse(limited.stdout)).toHaveLength(80);
});

test('several files: names stay apart, the set is judged as a whole', async () => {
  const folder = scratch();
  mkdirSync(join(folder, 'other'));
  const paths = [
    ...writeFiles(folder, { 'bell.wav': wavBytes(3) }),
    ...writeFiles(join(folder, 'other'), { 'bell.wav': wavBytes(2) }),
  ];
  const { code, stdout, stderr } = tambur('make', ...board, ...paths, '--out', join(folder, 'out'), '--json');
  const files = JSON.parse(stdout);
  expect(files.map(({ file }: { file: string }) => file.split('/').pop())).toEqual(['bell.h', 'bell_2.h']);
  // 5 s at 16 000 bytes a second are more than 65 536 bytes.
  expect(code).toBe(1);
  expect(stderr).toContain(
    'breaks   set size: wanted at most 65\u202f536 bytes, found 80\u202f000 bytes; mend: save 14\u202f464 bytes',
  );
});

test.describe('bad input: one sentence on stderr, exit 2, nothing left behind', () => {
  for (const { name, bytes, words } of badFiles()) {
    test(name, () => {
      const folder = scratch();
      const [path] = writeFiles(folder, { [name]: bytes });
      for (const args of [
        ['facts', path],
        ['check', ...phone, path],
        ['make', ...phone, path, '--out', join(folder, 'out')],
      ]) {
        // Text is a legitimate headerless file to a device that reads bare samples.
        if (name === 'text.wav' && args[0] === 'check') continue;
        const { code, stdout, stderr } = tambur(...args);
        expect(code).toBe(2);
        expect(stderr).toMatch(words);
        expect(stderr.trim().split('\n')).toHaveLength(1);
        expect(stdout).toBe('');
      }
      expect(readdirSync(folder)).toEqual([name]);
    });
  }

  test('wrong words', () => {
    const folder = scratch();
    const [path] = writeFiles(folder, { 'a.wav': wavBytes(0.5) });
    const out = ['--out', join(folder, 'out')];
    const cases: [string[], RegExp][] = [
      [['make', ...phone, path, ...out, '--start', '2'], /The cut starts at 2\.000 s, outside the source/],
      [
        ['make', ...phone, path, ...out, '--start', '0.4', '--end', '0.2'],
        /The cut ends at 0\.200 s, not after its start at 0\.400 s/,
      ],
      [['make', ...phone, path, ...out, '--set', 'rate'], /write it as station\.key=value/],
      [['make', ...phone, path, ...out, '--set', 'rat.sampleRate=1'], /there is no such station/],
      [['make', ...phone, path, ...out, '--set', 'rate.sampleRate=fast'], /Setting rate\.sampleRate/],
      [['make', '--target', 'toaster', path, ...out], /There is no target "toaster"/],
      [['make', ...phone, path], /--out/],
      [['facts', join(folder, 'nowhere.wav')], /nowhere\.wav does not exist/],
      [['facts', folder], /is a folder/],
      [['dance'], /dance/],
    ];
    for (const [args, words] of cases) {
      const { code, stdout, stderr } = tambur(...args);
      expect([args.join(' '), code]).toEqual([args.join(' '), 2]);
      expect(stderr).toMatch(words);
      expect(stdout).toBe('');
    }
    expect(readdirSync(folder)).toEqual(['a.wav']);
  });

  test('a folder that cannot be written', () => {
    const folder = scratch();
    const [path] = writeFiles(folder, { 'a.wav': wavBytes(0.5) });
    const blocked = join(folder, 'a-file');
    writeFileSync(blocked, '');
    const { code, stderr } = tambur('make', ...phone, path, '--out', join(blocked, 'out'));
    expect(code).toBe(2);
    expect(stderr).toMatch(/cannot be written \(ENOTDIR\); choose another folder with --out/);
  });

  test('one bad file does not stop the others', () => {
    const folder = scratch();
    const paths = writeFiles(folder, { 'bad.wav': Buffer.from('x'), 'good.wav': wavBytes(1) });
    const { code, stdout } = tambur('make', ...phone, ...paths, '--out', join(folder, 'out'));
    expect(code).toBe(2);
    expect(stdout).toContain('good.raw');
  });

  test('a file cut off in its data is used, with a warning', () => {
    const folder = scratch();
    const [path] = writeFiles(folder, { 'a.wav': wavBytes(2).subarray(0, 200_000) });
    const { code, stderr } = tambur('make', ...phone, path, '--out', join(folder, 'out'));
    expect(code).toBe(0);
    expect(stderr).toContain(
      'The file is cut off: its header promises 352.8 kB of sound, but only 200.0 kB are there; those are used.',
    );
  });
});

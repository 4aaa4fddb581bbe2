// Makes the demo sounds of the Pinder Hill Funicular and demo.json. Run by hand when they change:
//   apt-get install espeak-ng flac vorbis-tools lame gstreamer1.0-tools gstreamer1.0-plugins-good && npm run demo:sounds
// None of these programs is needed to run Tambur: the sounds are kept in demo/sounds. They have the faults that real ones
// have.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openSource } from '@tambur/codecs';
import { containerOf, encodings, packFile, resample, wavFile } from '@tambur/core';

/** The project's folder is where the command runs. */
const here = join(process.cwd(), 'demo');
const scratch = mkdtempSync(join(tmpdir(), 'demo-'));

let seed = 7;
const random = () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};
const noise = () => 2 * random() - 1;
const make = (rate: number, seconds: number, at: (t: number) => number) =>
  Float32Array.from({ length: Math.round(rate * seconds) }, (_, i) => at(i / rate));
const scale = (samples: Float32Array, factor: number) => samples.map((value) => value * factor);
const silence = (rate: number, seconds: number) => new Float32Array(Math.round(rate * seconds));
const inOrder = (...parts: Float32Array[]) => {
  const out = new Float32Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
};
const mix = (a: Float32Array, b: Float32Array) =>
  Float32Array.from({ length: Math.max(a.length, b.length) }, (_, i) => (a[i] ?? 0) + (b[i] ?? 0));
const peakTo = (samples: Float32Array, peak: number) =>
  scale(samples, peak / samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0));

/** A struck bell: partials of a small church bell, each dying away faster than the one below. */
const bell = (rate: number, pitch: number, seconds: number) =>
  peakTo(
    make(
      rate,
      seconds,
      (t) =>
        [0.5, 1, 1.2, 1.5, 2, 2.66, 3.9, 5.2].reduce(
          (sum, ratio, k) =>
            sum + (Math.sin(2 * Math.PI * pitch * ratio * t) * Math.exp((-t * (1.2 + 0.9 * k)) / 0.9)) / (1 + 0.4 * k),
          0,
        ) * Math.min(1, t * 400),
    ),
    0.8,
  );

const pluck = (rate: number, pitch: number, seconds: number) =>
  make(rate, seconds, (t) => {
    const decay = Math.exp(-4 * t) * Math.min(1, 200 * t);
    return (
      decay *
      (Math.sin(2 * Math.PI * pitch * t) +
        0.4 * Math.sin(4 * Math.PI * pitch * t) +
        0.15 * Math.sin(6 * Math.PI * pitch * t))
    );
  });

const wind = (rate: number, seconds: number) => {
  let slow = 0;
  return make(rate, seconds, (t) => {
    slow += 0.02 * (noise() - slow);
    return 3 * slow * (0.5 + 0.5 * Math.sin(2 * Math.PI * 0.23 * t) ** 2);
  });
};

const winch = (rate: number, seconds: number) => {
  let phase = 0;
  return make(rate, seconds, (t) => {
    const turn = Math.min(1, t / 2.2);
    phase += (2 * Math.PI * (38 + 70 * turn)) / rate;
    const gear = Math.sin(phase) + 0.6 * Math.sin(2.01 * phase) + 0.35 * Math.sin(7 * phase) + 0.2 * noise() * turn;
    return 0.35 * gear * Math.min(1, t * 5) * Math.min(1, (seconds - t) * 4);
  });
};

const brake = (rate: number, seconds: number) =>
  make(rate, seconds, (t) => {
    const squeal = Math.sin(2 * Math.PI * (2350 - 320 * t) * t) * Math.exp(-1.4 * t);
    return (0.4 * squeal + 0.25 * noise() * Math.exp(-2.2 * t)) * Math.min(1, t * 30);
  });

/** Spoken words at `rate`, made by the speech synthesiser. */
const speak = async (text: string, rate: number, { voice = 'en-gb', speed = 165, pitch = 45 } = {}) => {
  const file = join(scratch, 'speech.wav');
  execFileSync('espeak-ng', ['-v', voice, '-s', String(speed), '-p', String(pitch), '-w', file, text]);
  const { pcm } = await openSource(readFileSync(file));
  return peakTo(resample(pcm.channels[0] ?? new Float32Array(1), pcm.sampleRate, rate), 0.7);
};

/** Writes one sound as FLAC of 16 or 24 bits, or as Ogg Vorbis with a title. */
const save = (name: string, sampleRate: number, channels: Float32Array[], { bits = 16, title = '' } = {}) => {
  const frames = channels[0]?.length ?? 0;
  const id = bits === 24 ? 'pcm-s24le' : 'pcm-s16le';
  const encoding = encodings.find((entry) => entry.id === id);
  if (encoding?.kind !== 'integer') throw new Error(`no encoding ${id}`);
  const samples = new Int32Array(frames * channels.length);
  channels.forEach((values, channel) => {
    values.forEach((value, i) => {
      samples[i * channels.length + channel] = Math.round(value * (2 ** (bits - 1) - 1));
    });
  });
  const data = encoding.encode(samples);
  const packed = { encoding, sampleRate, channels: channels.length, frames, stem: 'x' };
  const wav = join(scratch, 'sound.wav');
  writeFileSync(wav, packFile(containerOf('wav'), packed, data));
  const file = join(here, 'sounds', name);
  const artist = 'Pinder Hill Funicular volunteers';
  if (name.endsWith('.flac')) execFileSync('flac', ['--silent', '--force', '--best', '-o', file, wav]);
  else execFileSync('oggenc', ['-Q', '-q', '4', '-s', '1', '-t', title, '-a', artist, '-o', file, wav]);
  console.log(name, `${(frames / sampleRate).toFixed(3)} s`, `${statSync(file).size} bytes`);
};

// Recorded on one side only, with a long wait at the start.
const doors = inOrder(silence(44100, 1.9), await speak('Doors closing.', 44100), silence(44100, 0.6));
save('doors-closing.flac', 44100, [doors, silence(44100, doors.length / 44100)], { bits: 24 });

// Far too quiet.
const upper = inOrder(silence(48000, 0.4), scale(await speak('Upper station.', 48000), 0.04), silence(48000, 0.5));
save('upper-station.ogg', 48000, [upper, upper], { title: 'Upper station' });

// The two sides in opposite phase: a wrongly wired cable.
const lower = inOrder(silence(44100, 0.3), await speak('Lower station.', 44100), silence(44100, 0.4));
save('lower-station.flac', 44100, [lower, scale(lower, -1)]);

const step = inOrder(silence(22050, 0.1), await speak('Mind the step.', 22050, { voice: 'en-gb-scotland', pitch: 60 }));
save('mind-the-step.flac', 22050, [step]);

const chime = mix(bell(44100, 880, 2.4), inOrder(silence(44100, 0.28), bell(44100, 659.26, 2.1)));
const later = inOrder(silence(44100, 0.004), chime);
save('departure-chime.flac', 44100, [peakTo(chime, 0.6), peakTo(later, 0.5).subarray(0, chime.length)]);

// Words in the wind.
const words = inOrder(
  silence(48000, 3),
  await speak('Storm on the hill. The railway is closed.', 48000, { speed: 150 }),
);
const gale = mix(scale(wind(48000, 9), 0.6), scale(words, 0.7));
save('storm-warning.ogg', 48000, [peakTo(gale, 0.5), peakTo(gale, 0.45)], { title: 'Storm warning' });

save('winch-start.flac', 48000, [winch(48000, 4)]);
save('brake-test.flac', 44100, [brake(44100, 1.6)]);

const strikes = [0, 0.9, 1.8, 2.7].reduce(
  (sound, t) => mix(sound, inOrder(silence(44100, t), bell(44100, 523.25, 2.5))),
  silence(44100, 5.2),
);
save('platform-bell.flac', 44100, [peakTo(strikes, 0.9)]);

// A tune of our own: twelve notes up the hill and down again.
const notes = [392, 440, 493.88, 587.33, 659.26, 783.99, 739.99, 659.26, 587.33, 493.88, 440, 392];
const tune = notes.reduce(
  (sound, pitch, k) => mix(sound, inOrder(silence(48000, 0.32 * k), pluck(48000, pitch, 1.2))),
  silence(48000, 5.4),
);
const echo = inOrder(silence(48000, 0.012), tune);
save('summit-tune.ogg', 48000, [peakTo(tune, 0.7), peakTo(echo, 0.6).subarray(0, tune.length)], {
  title: 'Summit tune',
});

const asWav = (sampleRate: number, channels: Float32Array[]): string => {
  const path = join(scratch, 'sound.wav');
  writeFileSync(path, wavFile({ sampleRate, channels }, 16));
  return path;
};
const sound = (name: string) => join(here, 'sounds', name);

// Five announcements in one recording, as somebody read them out: find the parts.
const announcements = inOrder(
  silence(32000, 1.2),
  ...(
    await Promise.all(
      [
        'The next cabin leaves in five minutes.',
        'Please hold the rail.',
        'Upper station. The view is on the left.',
        'The last cabin down leaves at six o clock.',
        'The railway is closed because of the wind.',
      ].map((text) => speak(text, 32000, { speed: 155 })),
    )
  ).flatMap((words) => [words, silence(32000, 0.9)]),
);
const hall = inOrder(silence(32000, 0.011), announcements).subarray(0, announcements.length);
execFileSync('lame', [
  ...['--quiet', '-b', '64', '-m', 'j', '--tt', 'Guard, announcements', '--ta', 'Pinder Hill Funicular volunteers'],
  asWav(32000, [announcements, mix(scale(announcements, 0.8), scale(hall, 0.2))]),
  sound('guard-announcements.mp3'),
]);

// The sound of a film of the open day, and a second one with somebody speaking.
const day = mix(scale(wind(48000, 6), 0.3), inOrder(silence(48000, 1), bell(48000, 523.25, 3)));
const story = inOrder(silence(48000, 0.5), await speak('Every cabin has a brass bell of its own.', 48000));
const [dayWav, storyWav] = ['day.wav', 'story.wav'].map((name) => join(scratch, name));
renameSync(asWav(48000, [peakTo(day, 0.5), peakTo(day, 0.4)]), dayWav);
renameSync(asWav(48000, [story]), storyWav);
const opus = (path: string, bits: number) =>
  `filesrc location=${path} ! wavparse ! audioconvert ! opusenc bitrate=${bits} ! m.`.split(' ');
execFileSync('gst-launch-1.0', [
  '-q',
  ...`matroskamux name=m ! filesink location=${sound('open-day-film.mkv')}`.split(' '),
  ...opus(dayWav, 48000),
  ...opus(storyWav, 24000),
  ...'videotestsrc num-buffers=60 pattern=gradient ! video/x-raw,width=64,height=36,framerate=10/1 ! vp8enc target-bitrate=8000 ! m.'.split(
    ' ',
  ),
]);

// Hold music that somebody gave the wrong extension.
const hold = resample(scale(tune, 0.6), 48000, 8000);
writeFileSync(sound('enquiry-line.mp3'), readFileSync(asWav(8000, [peakTo(hold, 0.5)])));

// A buzzer out of an old device's memory: bare samples.
const buzzer = make(
  8000,
  1.2,
  (t) => 0.5 * Math.sign(Math.sin(2 * Math.PI * 110 * t)) * Math.exp(-t) * Math.min(1, t * 80),
);
const muLaw = encodings.find(({ id }) => id === 'mu-law');
if (muLaw?.kind !== 'integer') throw new Error('no mu-law');
writeFileSync(sound('gate-buzzer.raw'), muLaw.encode(Int32Array.from(buzzer, (value) => Math.round(value * 32767))));

/** A cut in seconds as frames of a source at `rate`. */
const cut = (rate: number, start: number, end: number) => ({
  cut: { start: Math.round(start * rate), end: Math.round(end * rate) },
});
const demo = {
  shelf: [
    { file: 'guard-announcements.mp3' },
    { file: 'open-day-film.mkv' },
    { file: 'enquiry-line.mp3' },
    { file: 'gate-buzzer.raw', reading: { encoding: 'mu-law', sampleRate: 8000, channels: 1 } },
  ],
  jobs: [
    {
      title: 'Cabin panel',
      targetId: 'microcontroller-8-bit-dac',
      clips: [
        { file: 'doors-closing.flac', name: 'Doors closing', ...cut(44100, 1.9, 2.81) },
        { file: 'departure-chime.flac', name: 'Departure chime', ...cut(44100, 0, 0.6) },
        { file: 'upper-station.ogg', name: 'Upper station', ...cut(48000, 0.4, 1.15) },
        { file: 'lower-station.flac', name: 'Lower station', ...cut(44100, 0.3, 1.18) },
        { file: 'mind-the-step.flac', name: 'Mind the step', ...cut(22050, 0.08, 1) },
      ],
    },
    {
      title: 'Station desk phones',
      targetId: 'desk-phone-ring-tone',
      clips: [
        { file: 'platform-bell.flac', name: 'Platform bell', ...cut(44100, 0, 1.8) },
        { file: 'summit-tune.ogg', name: 'Summit tune' },
        { file: 'winch-start.flac', name: 'Winch', ...cut(48000, 0.6, 2.4) },
        { file: 'brake-test.flac', name: 'Brake test' },
        { file: 'storm-warning.ogg', name: 'Storm warning', ...cut(48000, 3.0, 4.95) },
      ],
    },
    {
      title: 'Ticket hut',
      targetId: 'numbered-sound-module',
      clips: [
        { file: 'departure-chime.flac', name: 'Chime' },
        { file: 'platform-bell.flac', name: 'Bell', ...cut(44100, 0, 2) },
        { file: 'mind-the-step.flac', name: 'Mind the step', ...cut(22050, 0.08, 1) },
        { file: 'winch-start.flac', name: 'Winch', ...cut(48000, 0.6, 2.4) },
      ],
    },
    {
      title: "Guards' handhelds",
      targetId: 'two-way-radio-prompt',
      clips: [
        { file: 'doors-closing.flac', name: 'Doors closing', ...cut(44100, 1.9, 2.81) },
        { file: 'upper-station.ogg', name: 'Upper station', ...cut(48000, 0.4, 1.15) },
        { file: 'lower-station.flac', name: 'Lower station', ...cut(44100, 0.3, 1.18) },
        { file: 'storm-warning.ogg', name: 'Storm warning', ...cut(48000, 3.0, 4.95) },
      ],
    },
  ],
};
writeFileSync(join(here, 'demo.json'), `${JSON.stringify(demo, null, 2)}\n`);
rmSync(scratch, { recursive: true });

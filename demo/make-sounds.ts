// Makes the demo sounds of the Pinder Hill Funicular and demo.json. Run by hand when they change:
//   apt-get install espeak-ng flac vorbis-tools && npm run demo:sounds
// None of these programs is needed to run Tambur: the sounds are kept in demo/sounds. They have the faults that real ones
// have.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openSource } from '@tambur/codecs';
import { containerOf, encodings, resample } from '@tambur/core';

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
  const packed = { encoding, sampleRate, channels: channels.length, frames, data, stem: 'x', storageAttribute: '' };
  const wav = join(scratch, 'sound.wav');
  writeFileSync(wav, containerOf('wav').write(packed));
  const file = join(here, 'sounds', name);
  const artist = 'Pinder Hill Funicular volunteers';
  if (name.endsWith('.flac')) execFileSync('flac', ['--silent', '--force', '--best', '-o', file, wav]);
  else execFileSync('oggenc', ['-Q', '-q', '4', '-s', '1', '-t', title, '-a', artist, '-o', file, wav]);
  console.log(name, `${(frames / sampleRate).toFixed(3)} s`, `${statSync(file).size} bytes`);
};

// Recorded on one side only, with a long wait in front.
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

/** A cut in seconds as frames of a source at `rate`. */
const cut = (rate: number, start: number, end: number) => ({
  cut: { start: Math.round(start * rate), end: Math.round(end * rate) },
});
const demo = {
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
  ],
};
writeFileSync(join(here, 'demo.json'), `${JSON.stringify(demo, null, 2)}\n`);
rmSync(scratch, { recursive: true });

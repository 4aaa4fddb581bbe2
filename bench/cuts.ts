// How surely a wrong rate is told where the source of a file is at hand, of which people always cut. Run: npm run bench:cuts -- [cases]
import { type Device, explainFrom, gather, heardFrom, InputError, inMemory, type Pcm } from '../core/index.ts';
import { writeSection } from './report.mjs';

/** Listening takes longer than all else: it is done with each so many cases. */
const LISTENED_EVERY = 5;

const CASES = Number(process.argv[2] ?? 200);

/** Numbers that are the same each time (Park and Miller, 1988). */
function randomOf(seed: number) {
  let state = (seed * 7919 + 17) % 2_147_483_647;
  return () => {
    state = (state * 48_271) % 2_147_483_647;
    return state / 2_147_483_647;
  };
}

type Random = ReturnType<typeof randomOf>;

/** Something that sounds for a while: a sum of tones that die away, each with its place in time. */
interface Sounding {
  readonly start: number;
  readonly length: number;
  readonly decay: number;
  readonly tones: readonly { readonly hz: number; readonly gain: number; readonly phase: number }[];
}

/** Kinds of sound as sums of tones: they can be had at any rate without a resampler. */
const KINDS: Readonly<Record<string, (random: Random, start: number) => Sounding>> = {
  tune: (random, start) => {
    const hz = 200 * 2 ** (2.5 * random());
    const tones = [1, 2, 3, 4].map((k) => ({ hz: hz * k, gain: random() / k, phase: 0 }));
    return { start, length: 1, decay: 3 + 6 * random(), tones };
  },
  bells: (random, start) => {
    const hz = 300 * 2 ** (1.5 * random());
    const tones = [0.5, 1, 1.19, 1.5, 2, 2.74].map((k) => ({ hz: hz * k, gain: random(), phase: 6 * random() }));
    return { start, length: 2, decay: 1.5 + 2 * random(), tones };
  },
  // Harmonics of a low voice, the strongest near two formants.
  voice: (random, start) => {
    const pitch = 90 + 120 * random();
    const formants = [300 + 500 * random(), 900 + 1400 * random()];
    const tones = Array.from({ length: 30 }, (_, k) => {
      const hz = pitch * (k + 1);
      const gain = formants.reduce((sum, at) => sum + 1 / (1 + ((hz - at) / 120) ** 2), 0);
      return { hz, gain, phase: 6 * random() };
    });
    return { start, length: 0.1 + 0.25 * random(), decay: 2, tones };
  },
  // Noise as many tones that have nothing to do with each other.
  drums: (random, start) => {
    const [low, width] = [150 + 800 * random(), 300 + 2500 * random()];
    const tones = Array.from({ length: 40 }, () => ({ hz: low + width * random(), gain: 0.3, phase: 6 * random() }));
    return { start, length: 0.5, decay: 8 + 12 * random(), tones };
  },
};

function eventsOf(kind: string, random: Random, seconds: number): readonly Sounding[] {
  const events: Sounding[] = [];
  const make = KINDS[kind];
  if (!make) throw new RangeError(kind);
  for (let at = 0; at < seconds; at += 0.06 + 0.45 * random()) events.push(make(random, at));
  return events;
}

/** A part of such a sound at a rate. @param band Hz outside of which nothing is left */
function rendered(
  events: readonly Sounding[],
  from: number,
  seconds: number,
  sampleRate: number,
  band: readonly [number, number] = [0, Number.POSITIVE_INFINITY],
): Float32Array {
  const out = new Float32Array(Math.round(seconds * sampleRate));
  for (const { start, length, decay, tones } of events) {
    const first = Math.max(0, Math.ceil((start - from) * sampleRate));
    const last = Math.min(out.length, Math.floor((start - from + length) * sampleRate));
    if (first >= last) continue;
    for (const { hz, gain, phase } of tones) {
      if (hz >= 0.45 * sampleRate || hz < band[0] || hz > band[1]) continue;
      for (let i = first; i < last; i++) {
        const age = from + i / sampleRate - start;
        const level = 0.12 * gain * Math.exp(-decay * age) * Math.min(1, 200 * age, 100 * (length - age));
        out[i] += level * Math.sin(2 * Math.PI * hz * age + phase);
      }
    }
  }
  const peak = out.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
  return out.map((value) => (0.7 * value) / Math.max(peak, 0.01));
}

/** Step sizes of the IMA's recommended practices of 1992. */
const STEPS = [
  ...[7, 8, 9, 10, 11, 12, 13, 14, 16, 17, 19, 21, 23, 25, 28, 31, 34, 37, 41, 45, 50, 55, 60, 66, 73, 80, 88, 97],
  ...[107, 118, 130, 143, 157, 173, 190, 209, 230, 253, 279, 307, 337, 371, 408, 449, 494, 544, 598, 658, 724, 796],
  ...[876, 963, 1060, 1166, 1282, 1411, 1552, 1707, 1878, 2066, 2272, 2499, 2749, 3024, 3327, 3660, 4026, 4428, 4871],
  ...[5358, 5894, 6484, 7132, 7845, 8630, 9493, 10_442, 11_487, 12_635, 13_899, 15_289, 16_818, 18_500, 20_350],
  ...[22_385, 24_623, 27_086, 29_794, 32_767],
];
const INDEX = [-1, -1, -1, -1, 2, 4, 6, 8];

/** Encoders of a few lines, which share nothing with those that are tried. */
const ENCODERS: Readonly<Record<string, (sound: Float32Array) => Uint8Array>> = {
  'pcm-u8': (sound) => Uint8Array.from(sound, (value) => Math.round(127 * value) + 128),
  'pcm-s16le': (sound) => new Uint8Array(Int16Array.from(sound, (value) => Math.round(32_767 * value)).buffer),
  // ITU-T G.711, mu-law, of 14 bits.
  'mu-law': (sound) =>
    Uint8Array.from(sound, (value) => {
      const magnitude = Math.min(8158, Math.abs(Math.round(8191 * value))) + 33;
      const segment = Math.floor(Math.log2(magnitude)) - 5;
      const code = (segment << 4) | ((magnitude >> (segment + 1)) & 15);
      return ~(code | (value < 0 ? 128 : 0)) & 255;
    }),
  'ima-adpcm-low': (sound) => {
    const out = new Uint8Array(Math.ceil(sound.length / 2));
    let [guess, index] = [0, 0];
    sound.forEach((value, i) => {
      const step = STEPS[index] ?? 7;
      const off = Math.round(32_767 * value) - guess;
      const size = Math.min(7, Math.floor((4 * Math.abs(off)) / step));
      const moved = (step >> 3) + (size & 4 ? step : 0) + (size & 2 ? step >> 1 : 0) + (size & 1 ? step >> 2 : 0);
      guess = Math.max(-32_768, Math.min(32_767, guess + (off < 0 ? -moved : moved)));
      index = Math.max(0, Math.min(STEPS.length - 1, index + (INDEX[size] ?? 0)));
      out[i >> 1] |= (size | (off < 0 ? 8 : 0)) << (4 * (i % 2));
    });
    return out;
  },
};

const RATES = [6000, 8000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000];
/** Seconds of a source, the shorter ones more often. */
const LENGTHS = [10, 10, 10, 30, 30, 30, 60, 60, 180, 600];

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;

interface Case {
  readonly words: string;
  readonly source: Pcm;
  readonly file: Uint8Array;
  readonly sound: Float32Array;
  readonly made: number;
  readonly encoding: string;
}

function caseOf(seed: number): Case {
  const random = randomOf(seed);
  const kind = pick(random, Object.keys(KINDS));
  const length = pick(random, LENGTHS);
  const seconds = Math.min(length, 1 + 14 * random());
  const from = (length - seconds) * random();
  const made = pick(random, RATES);
  const encoding = pick(random, Object.keys(ENCODERS));
  const events = eventsOf(kind, random, length);
  const sourceRate = pick(random, [22_050, 44_100]);
  const source = { sampleRate: sourceRate, channels: [rendered(events, 0, length, sourceRate)] };
  const isFiltered = random() < 0.3;
  const gain = random() < 0.4 ? 0.15 + 0.6 * random() : 1;
  const fade = random() < 0.3 ? 0.3 : 0;
  const part = rendered(events, from, seconds, made, isFiltered ? [300, 3400] : undefined);
  const sound = part.map((value, i) => {
    const edge = Math.min(i, part.length - 1 - i) / made;
    return gain * value * (fade ? Math.min(1, edge / fade) : 1);
  });
  const encode = ENCODERS[encoding];
  if (!encode) throw new RangeError(encoding);
  const words = `${kind}, ${seconds.toFixed(1)} s of ${length} s, ${encoding} for ${made} Hz${isFiltered ? ', 300 to 3 400 Hz' : ''}${gain < 1 ? `, by ${gain.toFixed(2)}` : ''}${fade ? ', faded' : ''}`;
  return { words, source, file: encode(sound), sound, made, encoding };
}

/** A device that takes bare samples, and nothing is known of it but how. */
const deviceOf = (encoding: string, rate: number): Device => ({
  player: { reads: 'bare', assumes: { encoding, channels: 1 }, 'plays-at': rate },
  lists: [],
  packs: [],
});

const evidenceOf = ({ file, source, encoding }: Case, rate: number) =>
  gather({
    card: [{ path: 'bell.raw', bytes: inMemory(file) }],
    path: 'bell.raw',
    device: deviceOf(encoding, rate),
    isWhole: false,
    openForeign: () => {
      throw new InputError('not-audio', 'It is of no known kind.');
    },
    source,
  });

interface Grade {
  asked: number;
  right: number;
  readonly wrong: string[];
}

const grades = {
  first: { asked: 0, right: 0, wrong: [] },
  healthy: { asked: 0, right: 0, wrong: [] },
  neverRight: { asked: 0, right: 0, wrong: [] },
} satisfies Record<string, Grade>;

function count(grade: Grade, isRight: boolean, words: string): void {
  grade.asked++;
  if (isRight) grade.right++;
  else grade.wrong.push(words);
}

/** What a microphone hears of a device that plays the file at another rate, with some noise. */
function recordedAt(sound: Float32Array, rate: number, random: Random): Pcm {
  const length = Math.round((sound.length / rate) * 48_000);
  const heard = Float32Array.from({ length }, (_, i) => {
    const at = (i * rate) / 48_000;
    const before = Math.floor(at);
    const value = (sound[before] ?? 0) + (at - before) * ((sound[before + 1] ?? 0) - (sound[before] ?? 0));
    return 0.5 * value + 0.003 * (random() - 0.5);
  });
  return { sampleRate: 48_000, channels: [heard] };
}

for (let i = 0; i < CASES; i++) {
  const one = caseOf(1000 + i);
  const random = randomOf(i);
  const rate = pick(
    random,
    RATES.filter((other) => Math.abs(Math.log2(other / one.made)) > 0.1),
  );
  const played = `${one.words}, played at ${rate} Hz`;
  const evidence = await evidenceOf(one, rate);
  const { causes, answer } = await explainFrom(rate < one.made ? 'too-slow' : 'too-fast', evidence);
  const [first] = causes;
  const isTold =
    first?.cause.id === 'wrong-rate' &&
    first.seen.includes(`at ${one.made.toLocaleString('en').replace(',', '\u202f')} Hz`);
  count(grades.first, isTold, `${played}: ${causes.map(({ cause }) => cause.id).join(', ') || answer}`);
  if (i % LISTENED_EVERY === 0) {
    const { best } = await heardFrom(evidence, recordedAt(one.sound, rate, random));
    count(grades.neverRight, best.hypothesis !== 'right', `${played}: ${best.hypothesis}`);
  }
  const well = await evidenceOf(one, one.made);
  for (const symptom of ['too-slow', 'too-fast'] as const) {
    const said = (await explainFrom(symptom, well)).causes;
    count(
      grades.healthy,
      said.length === 0,
      `${one.words}, ${symptom}: ${said.map(({ cause }) => cause.id).join(', ')}`,
    );
  }
  console.log(
    `${i + 1} of ${CASES}: ${Object.values(grades)
      .map(({ asked, right }) => `${right}/${asked}`)
      .join('  ')}  ${played}`,
  );
}

const row = (what: string, { asked, right }: Grade) =>
  `| ${what} | ${asked} | ${((100 * right) / asked).toFixed(1)} % |`;
const missed = Object.values(grades).flatMap(({ wrong }) => wrong.map((line) => `- ${line}`));
writeSection(
  'cuts',
  `## Cuts of a source\n\nMade by \`npm run bench:cuts\`: parts of 1 to 15 s out of sources of 10 s to 10 min, made for one of eight rates and played at another, some with another level, a telephone's band, fades or ADPCM between.\n\n| asked about | questions | answered so |\n|---|---|---|\n${[
    row('a wrong rate, the source at hand: it is the first cause, and the right rate is named', grades.first),
    row('a recording of the same: it is never called right', grades.neverRight),
    row('the same file at its own rate, called too slow or too fast: no cause is offered', grades.healthy),
  ].join('\n')}\n\nWhat was said where not:\n\n${missed.join('\n') || 'Nothing.'}`,
  'docs/tryout.md',
);

import { type Pcm, pcmReader, unwatched } from '../audio/index.ts';
import type { ByteFile } from '../bytes/index.ts';
import { automaticSettings, type ClipSettings, settle } from '../chain/index.ts';
import { makeClip, plannedFiles } from '../delivery/index.ts';
import { SMALL_ENCODINGS } from '../encodings/index.ts';
import { encodingTitle, type Facts } from '../facts/index.ts';
import { USUAL_RATES } from '../numbers/index.ts';
import { fixedRate, type Remedy, type SymptomId } from '../standin/index.ts';
import { filledIn, type Target } from '../targets/index.ts';
import { formatChannels, formatRate, InputError } from '../words/index.ts';
import type { Evidence } from './evidence.ts';
import { mistakeBetween } from './mistakes.ts';

/** What would sound so and leaves no trace in the bytes: the device is not what its sheet says. */
export interface Unproved {
  /** Id of the cause that it would be. */
  readonly id: string;
  readonly title: string;
  readonly tellApart: string;
  readonly mend: Remedy;
  /** What the small file is called that settles it; no two have the same name. */
  readonly fileName: string;
  /** The sound of the file as it is made for such a device. */
  make(): Promise<ByteFile>;
}

/** One thing that the device may be otherwise, and how a file is made for it. */
interface Possibility {
  readonly id: string;
  /** "plays at 22 050 Hz". */
  readonly does: string;
  readonly settings: Partial<ClipSettings>;
}

/** How a file is read by a device that is as its sheet says. */
type Own = Pick<Facts, 'sampleRate' | 'channels' | 'encoding'>;

/** Seconds of the sound that a small file has. */
const SECONDS = 3;
/** Rates that are offered; more would be a search. */
const MOST_RATES = 2;

const ofRate = (hz: number): Possibility => ({
  id: 'wrong-rate',
  does: `plays at ${formatRate(hz)}`,
  settings: { rate: { sampleRate: hz } },
});

const ofChannels = (channels: 1 | 2): Possibility => ({
  id: 'wrong-channels',
  does: `plays ${formatChannels(channels)}`,
  settings: { channels: { mode: channels === 1 ? 'mix' : 'stereo' } },
});

const MISTAKES = { order: 'wrong-byte-order', sign: 'wrong-sign', law: 'wrong-law', other: 'wrong-encoding' } as const;

function ofEncoding(own: string, encoding: string): readonly Possibility[] {
  const mistake = mistakeBetween(own, encoding);
  const does = `plays ${encodingTitle(encoding)}`;
  return mistake ? [{ id: MISTAKES[mistake], does, settings: { wrap: { encoding } } }] : [];
}

/** Plain encodings of small devices: what nearly all play, then what samples are taken for, in the order of practice. */
const [PLAIN, COARSE, ...OTHERS] = SMALL_ENCODINGS;

const slower = ({ sampleRate, channels }: Own): readonly Possibility[] => [
  ...USUAL_RATES.filter((rate) => rate < sampleRate)
    .toReversed()
    .slice(0, MOST_RATES)
    .map(ofRate),
  ...(channels > 1 ? [ofChannels(1)] : []),
];

const faster = ({ sampleRate, channels }: Own): readonly Possibility[] => [
  ...USUAL_RATES.filter((rate) => rate > sampleRate)
    .slice(0, MOST_RATES)
    .map(ofRate),
  ...(channels === 1 ? [ofChannels(2)] : []),
];

const otherSamples = ({ encoding }: Own): readonly Possibility[] =>
  [COARSE, PLAIN, ...OTHERS].flatMap((id) => ofEncoding(encoding, id));

const plainer = (own: Own): readonly Possibility[] => [
  ...(own.channels > 1 ? [ofChannels(1)] : []),
  ...ofEncoding(own.encoding, PLAIN),
  ...USUAL_RATES.filter((rate) => rate !== own.sampleRate)
    .toReversed()
    .slice(0, MOST_RATES)
    .map(ofRate),
  ...ofEncoding(own.encoding, COARSE),
];

/** By symptom, each in the order of practice (common practice, no source). A symptom more: its line here. */
const POSSIBLE: Readonly<Partial<Record<SymptomId, (own: Own) => readonly Possibility[]>>> = {
  'too-slow': slower,
  'too-fast': faster,
  garbled: otherSamples,
  'garbled-in-rhythm': otherSamples,
  harsh: otherSamples,
  refused: plainer,
  silence: plainer,
};

/** Ways in which the device may differ from its sheet so that a symptom follows, in the order of practice, each with a small file. */
export function unprovedOf(
  symptom: SymptomId,
  { facts, sound, taken, player }: Evidence,
  sheet: Target,
): readonly Unproved[] {
  if (!facts || !sound) return [];
  const target = filledIn(sheet, 'clip', {});
  const [first] = sound.channels;
  const frames = Math.min(first?.length ?? 0, Math.round(SECONDS * sound.sampleRate));
  const short: Pcm = { ...sound, channels: sound.channels.map((samples) => samples.subarray(0, frames)) };
  const stated = { ...facts, frames, channels: sound.channels.length, sampleRate: sound.sampleRate };
  // What the sheet says that the device does is no other thing than it says.
  const own = { ...facts, ...taken, sampleRate: fixedRate(player) ?? taken?.sampleRate ?? facts.sampleRate };
  const possible = (POSSIBLE[symptom]?.(own) ?? []).flatMap(({ settings, ...words }) => {
    const chain = settledOrNull({ ...automaticSettings('try'), ...settings }, stated, target);
    return chain ? [{ ...words, chain }] : [];
  });
  const names = plannedFiles(
    possible.map((_, i) => ({ id: String(i), name: `try ${i + 1}` })),
    {},
    target,
  );
  return possible.map(({ id, does, chain }, i) => {
    const stem = names[i]?.stem ?? `try-${i + 1}`;
    return {
      id,
      title: `The device ${does}.`,
      fileName: `${stem}.${chain.stations.wrap.plan.extension}`,
      tellApart: 'It is right if this file sounds as it should at the device, and none of the others does.',
      mend: { words: `say in the sheet that it ${does}, and build again`, where: 'sheet' },
      make: async () => {
        const order = { ...chain.order, stem };
        return (await makeClip(settle(order), pcmReader(short), unwatched)).file;
      },
    };
  });
}

/** The chain of a small file; null if there can be no such one, or only a library could make it. */
function settledOrNull(settings: ClipSettings, facts: Facts, target: Target) {
  try {
    const chain = settle({ facts, settings, target, stem: 'try' });
    return chain.stations.wrap.plan.compressed || chain.obstacles.length > 0 ? null : chain;
  } catch (error) {
    if (error instanceof InputError) return null;
    throw error;
  }
}

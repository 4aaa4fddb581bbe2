import { findOutContainer, safeIdentifier } from '../../containers/index.ts';
import { plannedFiles } from '../../delivery/index.ts';
import { type DeliveryRecord, settingsOf } from '../../documents/index.ts';
import { type Decoding, findEncoding, plainEncodingOf } from '../../encodings/index.ts';
import { nameIn, rateMade } from '../../standin/index.ts';
import { askedBy, type Target } from '../../targets/index.ts';
import { InputError, shortened } from '../../words/index.ts';
import { soundsOf } from '../files.ts';

/** A sound that a player plays. */
export interface PlayedSound {
  /** What its array is called in the source code. */
  readonly array: string;
  /** For people. */
  readonly title: string;
  /** The file that holds the array. */
  readonly file: string;
  /** Declares the array where its file is compiled on its own; null where that is included. */
  readonly declaration: string | null;
  readonly frames: number;
  readonly channels: number;
  readonly sampleRate: number;
  readonly encoding: string;
  readonly decoding: Decoding;
}

/** What a player is made of. */
export interface PlayerParts {
  readonly title: string;
  readonly sounds: readonly PlayedSound[];
  /** Files that it includes, each once. */
  readonly files: readonly string[];
  /** What stands in an array that it cannot decode: names of files, and why. */
  readonly left: readonly string[];
  /** Exactly what the timer of the sheet makes. */
  readonly timer: { readonly clock: number; readonly prescaler: number; readonly top: number } | null;
}

/** The rules of ADPCM by which sounds go, each once: their tables stand in the player. */
export const rulesOf = (sounds: readonly PlayedSound[]) => [
  ...new Set(sounds.flatMap(({ decoding }) => ('rule' in decoding ? [decoding.rule] : []))),
];

function timerOf(sheet: Target): PlayerParts['timer'] {
  for (const requirement of askedBy(sheet)) {
    if (requirement.kind !== 'timer-rate') continue;
    const rate = rateMade(requirement);
    if (rate) return { clock: requirement.clock, prescaler: rate.prescaler, top: rate.top };
  }
  return null;
}

/**
 * The sounds of a delivery that stand in source code of a language.
 * @throws InputError with code `bad-setting` where a player could play none of them
 */
export function playerParts(record: DeliveryRecord, language: string): PlayerParts {
  const stems = new Map(
    plannedFiles(record.job.clips, record.job.places, record.sheet).map(({ clip, stem }) => [clip, stem]),
  );
  const sounds: PlayedSound[] = [];
  const left: string[] = [];
  for (const { clip, artifact, part } of soundsOf(record)) {
    const { facts } = part;
    const form = facts.array ?? facts.container;
    const file = nameIn(artifact.path);
    if (findOutContainer(form)?.language !== language) continue;
    const decoding =
      facts.array === undefined
        ? findEncoding(facts.encoding)?.decoding?.(facts.channels, facts.sampleRate)
        : undefined;
    if (!decoding || (decoding.kind === 'code' && !decoding.lines[language])) {
      const what =
        facts.array === undefined ? facts.encoding : `a whole ${findOutContainer(facts.container)?.title} file`;
      left.push(`${file}: ${what}`);
      continue;
    }
    const { wrap } = settingsOf(clip, record.job);
    const own = wrap === 'automatic' ? '' : (wrap.arrayName ?? '');
    // What stands in a pack is named after the clip's own file.
    const stem = artifact.role === 'pack' ? (stems.get(clip.id) ?? 'clip') : file.replace(/\.[^.]*$/, '');
    const array = safeIdentifier(own || stem);
    const type = wrap === 'automatic' ? '' : (wrap.elementType ?? '');
    sounds.push({
      array,
      declaration: findOutContainer(form)?.declare?.(array, plainEncodingOf(facts.encoding), type) ?? null,
      title: clip.name,
      file,
      frames: facts.frames,
      channels: facts.channels,
      sampleRate: facts.sampleRate,
      encoding: facts.encoding,
      decoding,
    });
  }
  if (sounds.length === 0) {
    throw new InputError(
      'bad-setting',
      `No array of this set can be played with whole numbers alone (${shortened(left.join('; '), 200)}); choose PCM, mu-law, A-law, or IMA or OKI ADPCM.`,
    );
  }
  const files = [...new Set(sounds.filter(({ declaration }) => declaration === null).map(({ file }) => file))];
  return { title: record.job.title, sounds, files, left, timer: timerOf(record.sheet) };
}

import {
  formatBitRate,
  formatBytes,
  formatChannels,
  formatCount,
  formatDb,
  formatLength,
  formatLevel,
  formatRate,
  formatSeconds,
} from '../words/index.ts';
import { containerTitle, containerWords, encodingTitle, type Facts } from './facts.ts';
import { remarksOn } from './remarks.ts';

/** One fact in words. */
export interface FactLine {
  readonly label: string;
  readonly value: string;
}

const line = (label: string, value: string | null | false): FactLine[] => (value ? [{ label, value }] : []);

/** One gating block: a shorter sound is measured as a whole, without gates. */
const GATING_BLOCK = 0.4;

const loudnessWords = ({ measures: { loudness }, frames, sampleRate }: Facts): string =>
  loudness === null
    ? 'silence'
    : formatDb(loudness, 'LUFS') + (frames / sampleRate < GATING_BLOCK ? ', as a whole: shorter than 0.4 s' : '');

/** "24-bit signed PCM in WAV", "MP3", "mu-law, headerless": what a file is, as short as it goes. */
export function kindWords({ container, encoding, certainty }: Facts): string {
  const [inside, outside] = [encodingTitle(encoding), containerTitle(container)];
  if (certainty === 'assumed') return `${inside}, headerless`;
  return inside === outside ? inside : `${inside} in ${outside}`;
}

const jointWords = (joint: boolean | null): string =>
  joint === null ? '' : joint ? ', joint stereo' : ', no joint stereo';

/** Facts in words, the same on every screen and on the command line. `name` is the file's; null if nobody knows it. */
export function describeFacts(facts: Facts, name: string | null): FactLine[] {
  const { levels, measures, sampleRate, bitDepth, layout, bitRateMode, tracks, track } = facts;
  const offset = Math.max(...levels.dcOffset.map(Math.abs));
  const silence = (frames: number) => frames > 0 && formatSeconds(frames / sampleRate);
  const used = measures.usedBits;
  return [
    ...line('container', containerWords(facts)),
    ...line('encoding', encodingTitle(facts.encoding)),
    ...line('sample rate', formatRate(sampleRate)),
    ...line(
      'bit depth',
      bitDepth !== null && `${bitDepth} bit${used !== null && used < bitDepth ? `, ${used} used` : ''}`,
    ),
    ...line(
      'channels',
      formatChannels(facts.channels) + (layout ? ` (${layout.join(' ')})` : '') + jointWords(facts.jointStereo),
    ),
    ...line('length', formatLength(facts.frames, sampleRate)),
    ...line('size', formatBytes(facts.bytes)),
    ...line('data rate', formatBitRate(facts.bitRate) + (bitRateMode === 'unknown' ? '' : `, ${bitRateMode}`)),
    ...line('track', tracks[track]?.title ?? null),
    ...line('peak', formatLevel(Math.max(...levels.peak))),
    ...line('true peak', formatDb(20 * Math.log10(measures.truePeak), 'dBTP')),
    ...line('loudness', loudnessWords(facts)),
    ...line('loudest 3 s', measures.loudestTerm !== null && formatDb(measures.loudestTerm, 'LUFS')),
    ...line('loudness range', measures.loudnessRange !== null && formatDb(measures.loudnessRange, 'LU')),
    ...line('DC offset', offset >= 1e-4 && formatLevel(offset)),
    ...line('at full scale', levels.fullScaleFrames > 0 && `${formatCount(levels.fullScaleFrames)} frames`),
    ...line('silence at the start', silence(measures.leadingSilence)),
    ...line('silence at the end', silence(measures.trailingSilence)),
    ...line('correlation', levels.correlation === null ? null : levels.correlation.toFixed(2).replace('-', '\u2212')),
    ...line('sound up to', measures.bandwidth === null ? null : formatRate(Math.round(measures.bandwidth))),
    ...facts.tags.flatMap(({ name: tag, value }) => line(`tag ${tag}`, value)),
    ...facts.extras.flatMap(({ name: extra, bytes }) => line('beside the sound', `${extra}, ${formatBytes(bytes)}`)),
    ...remarksOn(facts, name).flatMap((remark) => line('remark', remark)),
  ];
}

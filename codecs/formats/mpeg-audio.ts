import { type Extra, formatBytes, piecesOf } from '@tambur/core';
import { decodedStream } from './decoding.ts';
import { cutOff, damaged, type LibraryFormat, startsWith, stated, text } from './format.ts';
import { id3Size, mpegFrame, surveyFrames } from './mpeg-frames.ts';
import { tagsOf } from './tags.ts';

const isId3 = startsWith('ID3');

/** Which layer of MPEG audio `head` begins with, a tag left out. */
function layerOf(head: Uint8Array): number | null {
  const at = id3Size(head);
  // A tag longer than the head hides what follows: nearly always MP3.
  if (isId3(head) && at >= head.length) return 3;
  for (let from = at; from < Math.min(head.length, at + 4096); from++) {
    const frame = mpegFrame(head.subarray(from, from + 4));
    if (!frame) continue;
    const follower = mpegFrame(head.subarray(from + frame.bytes, from + frame.bytes + 4));
    if (follower?.layer === frame.layer || (from === at && from + frame.bytes >= head.length)) return frame.layer;
    if (from === at && !isId3(head)) return null;
  }
  return isId3(head) ? 3 : null;
}

const TRAILER = 128;

/** MP3, and MPEG audio of layers 1 and 2. */
export const mpegAudio: LibraryFormat = {
  title: 'MP3',
  recognises: (head) => layerOf(head) !== null,
  isDoubtful(head) {
    const first = mpegFrame(head);
    return first !== null && first.bytes >= head.length;
  },
  async open(file) {
    const survey = surveyFrames(file);
    if (!survey) throw damaged('MP3');
    const { first, start, end, count, bitRates, strayBytes, promisedBytes } = survey;
    const isMp3 = first.layer === 3;
    const trailing = file.size - end;
    const extras: Extra[] = [
      ...(start > 0 ? [{ name: 'ID3v2 tag', bytes: start }] : []),
      ...(strayBytes > 0 ? [{ name: 'bytes between frames', bytes: strayBytes }] : []),
      ...(trailing > 0
        ? [
            {
              name:
                text(file.read(file.size - TRAILER, file.size), 0, 3) === 'TAG' ? 'ID3v1 tag' : 'bytes after the end',
              bytes: trailing,
            },
          ]
        : []),
    ];
    const sounding = count - (survey.hasInformation ? 1 : 0);
    const isConstant = bitRates.size <= 1;
    const average = ((end - start - strayBytes) * 8 * first.sampleRate) / Math.max(1, sounding * first.frames);
    const promised = promisedBytes !== null && promisedBytes > file.size - start;
    const facts = stated({
      container: isMp3 ? 'mp3' : 'mpeg-audio',
      encoding: isMp3 ? 'mp3' : `mp${first.layer}`,
      sampleRate: first.sampleRate,
      channels: first.channels,
      bytes: file.size,
      bitRate: isConstant ? first.bitRate : Math.round(average),
      bitRateMode: isConstant ? 'constant' : 'variable',
      jointStereo: first.channels === 2 ? survey.isJoint : null,
      tags: isMp3 || isId3(file.read(0, 3)) ? await tagsOf(file) : [],
      extras,
      warnings: promised
        ? [cutOff(`it promises ${formatBytes(promisedBytes)}, ${formatBytes(file.size)} are there.`)]
        : [],
    });
    const bitRate = bitRates.size === 1 ? ([...bitRates][0] ?? first.bitRate) : facts.bitRate;
    return decodedStream('MP3', 'mp3', () => piecesOf(file), { ...facts, bitRate });
  },
};

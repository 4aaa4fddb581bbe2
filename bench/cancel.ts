// How long a cancelled work goes on at most: the longest time between two looks at whether it is still wanted, for each
// encoding that is written and each kind of file that is read. Run: npm run bench:cancel
import { library, openSourceStream } from '@tambur/codecs';
import { automaticSettings, makeClip, parseSettings, pcmReader, settle, surveyStream, type Work } from '@tambur/core';
import { BUSY, free, kinds } from '../codecs/fixtures/renders.ts';
import { testSound } from '../codecs/fixtures/sounds.ts';
import { factsFor } from '../core/chain/fixtures/sources.ts';
import { machine, writeSection } from './report.mjs';

const GOAL_MS = 100;
const SECONDS = 120;
const sound = testSound(44_100, SECONDS * 44_100, 2);

const measured: typeof kinds = [
  ...kinds,
  ['WAV, 44 100 to 8 000 Hz', { wrap: { container: 'wav', encoding: 'mu-law' }, rate: { sampleRate: 8000 } }],
  ['C header', { wrap: { container: 'c-header', encoding: 'pcm-u8' } }],
];

/** Longest time between two checks, ms. */
function stopwatch() {
  let last = performance.now();
  let longest = 0;
  const look = () => {
    const now = performance.now();
    longest = Math.max(longest, now - last);
    last = now;
  };
  return { look, longest: () => longest };
}

const facts = factsFor(sound);

const rows: string[] = [];
for (const [name, settings] of measured) {
  const order = { facts, settings: parseSettings({ ...automaticSettings('x'), ...settings, ...BUSY }) };
  const chain = settle({ ...order, target: free, stem: 'x' });
  const write = async () => {
    const watch = stopwatch();
    const work: Work = { check: watch.look, progress: () => undefined };
    const { file } = await makeClip(chain, pcmReader(sound), work, { library });
    watch.look();
    return { ms: watch.longest(), file };
  };
  // The first time a library is compiled; a cancelled page has paid for that before.
  await write();
  const made = await write();
  const reading = stopwatch();
  await surveyStream(await openSourceStream(made.file), reading.look);
  reading.look();
  rows.push(`| ${name} | ${made.ms.toFixed(0)} | ${reading.longest().toFixed(0)} |`);
  console.error(rows.at(-1));
}

writeSection(
  'cancel',
  `## How soon a cancelled work ends

Made by \`npm run bench:cancel\` on ${machine}: ${SECONDS} s of stereo at 44 100 Hz through all stations, with everything
that looks at the whole sound; the longest time between two looks at whether the work is still wanted, ms (goal: ${GOAL_MS}).

| kind | written, and read back | read as a source |
|---|---|---|
${rows.join('\n')}`,
);

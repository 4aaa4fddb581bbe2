// An hour of sound from disk to disk, time and memory of the command line; beside it what a loop over the bytes alone takes,
// and ten minutes to MP3 beside the encoder alone.
// Run after a build: npm run bench:chain
import { spawn } from 'node:child_process';
import { closeSync, mkdtempSync, openSync, readFileSync, readSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createMp3Encoder } from 'wasm-media-encoders';
import { machine, median, writeSection } from './report.mjs';
import { minute, RATE, writeWav } from './sounds.mjs';

const RUNS = 5;
const MU_LAW = 'desk-phone-ring-tone';
/** 320 kbit/s, stereo. */
const MP3 = 'show-controller-track';
const folder = mkdtempSync(join(tmpdir(), 'hour-'));

/** Runs the command line; seconds, and the largest resident memory in MB. */
async function make(path, target) {
  const started = performance.now();
  const child = spawn('node', ['build/cli/main.js', 'make', path, '--target', target, '--out', folder], {
    stdio: 'ignore',
  });
  let memory = 0;
  const watch = setInterval(() => {
    const status = readFileSync(`/proc/${child.pid}/status`, 'utf8');
    memory = Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1000 || memory;
  }, 50);
  const code = await new Promise((resolve) => child.once('exit', resolve));
  clearInterval(watch);
  if (code !== 0) throw new Error(`make ended with ${code}`);
  return { seconds: seconds(started), memory };
}

const seconds = (started) => (performance.now() - started) / 1000;

/** Reads a file and adds up its samples, and nothing more. */
function loop(path) {
  const started = performance.now();
  const file = openSync(path, 'r');
  const samples = new Int16Array(1 << 17);
  let sum = 0;
  for (let count = 1; count > 0; ) {
    count = readSync(file, samples);
    for (let i = 0; i < count / 2; i++) sum += samples[i];
  }
  closeSync(file);
  if (!Number.isFinite(sum)) throw new Error('no sum');
  return seconds(started);
}

/** The MP3 encoder alone, on so many minutes. */
async function encode(minute, minutes) {
  const encoder = await createMp3Encoder();
  const channels = [0, 1].map((channel) =>
    Float32Array.from({ length: minute.length / 2 }, (_, i) => minute[2 * i + channel] / 32_768),
  );
  const started = performance.now();
  encoder.configure({ channels: 2, sampleRate: RATE, bitrate: 320 });
  for (let k = 0; k < minutes; k++) {
    for (let at = 0; at < channels[0].length; at += 4096) {
      encoder.encode(channels.map((samples) => samples.subarray(at, at + 4096)));
    }
  }
  return seconds(started);
}

function rowOf(minutes, to, runs, extension) {
  const time = median(runs.map((run) => run.seconds));
  const memory = Math.max(...runs.map((run) => run.memory)).toFixed(0);
  const bytes = statSync(join(folder, `sound-${minutes}.${extension}`)).size;
  return `| ${minutes} | ${to} | ${time.toFixed(1)} s | ${((minutes * 60) / time).toFixed(0)} | ${memory} MB | ${bytes} |`;
}

const rows = [];
let looped;
let alone;
try {
  const samples = minute();
  for (const minutes of [1, 10, 60]) {
    const path = join(folder, `sound-${minutes}.wav`);
    await writeWav(path, samples, minutes);
    const runs = [];
    for (let run = 0; run < RUNS; run++) runs.push(await make(path, MU_LAW));
    rows.push(rowOf(minutes, 'mu-law', runs, 'raw'));
    if (minutes === 10) {
      rows.push(rowOf(minutes, 'MP3', [await make(path, MP3)], 'mp3'));
      alone = await encode(samples, minutes);
    }
    if (minutes === 60) looped = median(Array.from({ length: RUNS }, () => loop(path)));
    rmSync(path);
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}

writeSection(
  'chain',
  `## The whole chain, from disk to disk

Made by \`npm run bench:chain\` on ${machine}: \`./tambur make\` on stereo WAV files of 44 100 Hz and 16 bit, to 8 000 Hz
mono mu-law: the start of the program, the levels of the source, the chain, and the finished file read again, with all its facts.
Medians of ${RUNS} runs; goals for the hour: 3.5 s, below 300 MB. Ten minutes also to MP3 of 320 kbit/s, once.

| minutes | to | time | times real time | memory at most | bytes made |
|---|---|---|---|---|---|
${rows.join('\n')}

Reading the hour's bytes and adding up its samples in a plain loop takes ${looped.toFixed(1)} s. The MP3 encoder alone takes ${alone.toFixed(1)} s for
the ten minutes: that is what limits it. It works in one thread, and parts that two encoders made would not be one stream, as frames
borrow room from those before them; a build of it with SIMD would help. The finished MP3 is read again when it is whole.
`,
);

// An hour of sound from disk to disk: time and memory of the command line, and of a build with a source on the shelf.
// Run after a build: npm run bench:chain
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { machine, median, writeSection } from './report.mjs';
import { minute, writeWav } from './sounds.mjs';

const RUNS = 5;
const TARGET = 'desk-phone-ring-tone';
const folder = mkdtempSync(join(tmpdir(), 'hour-'));

/** Runs the command line; seconds, and the largest resident memory in MB. */
async function make(path) {
  const started = performance.now();
  const child = spawn('node', ['build/cli/main.js', 'make', path, '--target', TARGET, '--out', folder], {
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
  return { seconds: (performance.now() - started) / 1000, memory };
}

const rows = [];
try {
  const samples = minute();
  for (const minutes of [1, 10, 60]) {
    const path = join(folder, `sound-${minutes}.wav`);
    await writeWav(path, samples, minutes);
    const runs = [];
    for (let run = 0; run < RUNS; run++) runs.push(await make(path));
    const seconds = median(runs.map((run) => run.seconds));
    const bytes = statSync(join(folder, `sound-${minutes}.raw`)).size;
    rows.push(
      `| ${minutes} | ${seconds.toFixed(1)} s | ${((minutes * 60) / seconds).toFixed(0)} | ${Math.max(...runs.map((run) => run.memory)).toFixed(0)} MB | ${bytes} |`,
    );
    rmSync(path);
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}

writeSection(
  'chain',
  `## The whole chain, from disk to disk

Made by \`npm run bench:chain\` on ${machine}: \`./tambur make\` on stereo WAV files of 44 100 Hz and 16 bit, to 8 000 Hz
mono mu-law: the start of the program, all facts of the source, the chain, and the finished file read again. Medians of
${RUNS} runs; goals for the hour: 150 times real time and more, below 400 MB.

| minutes | time | times real time | memory at most | bytes made |
|---|---|---|---|---|
${rows.join('\n')}
`,
);

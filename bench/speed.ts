// How fast the rate is changed, beside a reference in the same run on the same signal. Run: npm run bench:speed
import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import { hertz } from '@tambur/core';
import { machine, median, writeSection } from './report.mjs';
import { contenders, OWN, RATIOS } from './resampling.ts';

const RUNS = 5;
const SECONDS = 60;

function noise(frames: number): Float32Array {
  let seed = 1;
  return Float32Array.from({ length: frames }, () => {
    seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0;
    return 0.5 * (seed / 2 ** 31 - 1);
  });
}

/** Multiples of real time, of one channel. */
async function speedOf(
  make: (typeof contenders)[number]['make'],
  from: number,
  to: number,
  seconds: number = SECONDS,
): Promise<number> {
  const sound = noise(Math.round(seconds * from));
  const { convert, end } = await make(from, to);
  const results: number[] = [];
  for (let run = 0; run <= RUNS; run++) {
    const started = performance.now();
    convert(sound);
    // The first run warms up.
    if (run > 0) results.push(seconds / ((performance.now() - started) / 1000));
  }
  end();
  return median(results);
}

/** Multiples of real time that so many threads reach together, each with work of its own. */
async function together(threads: number): Promise<number> {
  const runs = 20;
  const workers = Array.from(
    { length: threads },
    () => new Worker(new URL(import.meta.url), { workerData: { from: 44_100, to: 8_000, runs } }),
  );
  const next = (worker: Worker) => new Promise((resolve) => worker.once('message', resolve));
  await Promise.all(workers.map(next));
  const started = performance.now();
  for (const worker of workers) worker.postMessage('go');
  await Promise.all(workers.map(next));
  const seconds = (performance.now() - started) / 1000;
  await Promise.all(workers.map((worker) => worker.terminate()));
  return (threads * runs * SECONDS) / seconds;
}

if (!isMainThread) {
  // Half of the work, on the other core.
  const { from, to, runs } = workerData as { from: number; to: number; runs: number };
  const { convert } = await contenders[0].make(from, to);
  const sound = noise(SECONDS * from);
  convert(sound);
  parentPort?.postMessage('warm');
  parentPort?.once('message', () => {
    for (let run = 0; run < runs; run++) convert(sound);
    parentPort?.postMessage('done');
  });
} else {
  const rows: string[] = [];
  for (const [from, to] of RATIOS) {
    const speeds: number[] = [];
    for (const { make } of contenders) speeds.push(await speedOf(make, from, to));
    const [mine = 0, short = 0, best = 1, medium = 1] = speeds;
    rows.push(
      `| ${from} to ${to} Hz | ${mine.toFixed(0)} | ${short.toFixed(0)} | ${best.toFixed(1)} | ${medium.toFixed(1)} | ${(mine / best).toFixed(1)} | ${(mine / medium).toFixed(1)} |`,
    );
  }
  const ownRows: string[] = [];
  for (const { title, from, to, convert } of OWN) {
    const speed = await speedOf(async () => ({ convert, end: () => undefined }), hertz(from), hertz(to), 10);
    ownRows.push(
      `| ${String(from).replace('/', ' / ')} to ${String(to).replace('/', ' / ')} Hz | ${title} | ${speed.toFixed(0)} |`,
    );
  }
  const lengthRows: string[] = [];
  for (const seconds of [1, 10, 60, 600]) {
    const speed = await speedOf(contenders[0].make, 44_100, 8_000, seconds);
    lengthRows.push(`| ${seconds} s | ${((seconds / speed) * 1000).toFixed(1)} ms | ${speed.toFixed(0)} |`);
  }
  const [one, two] = [await together(1), await together(2)];

  writeSection(
    'resampling',
    `## Resampling

Made by \`npm run bench:speed\` on ${machine}, one thread, one channel of ${SECONDS} s. Multiples of real time, medians of
${RUNS} runs, and how many times as fast as the reference (libsamplerate as WebAssembly). Its quality stands beside ours in
[quality.md](quality.md). The goals are 30 times its best converter and 8 times its medium one, and 400 times real time
from 44 100 to 8 000 Hz.

| rates | Tambur, standard | Tambur, short sounds | reference, best | reference, medium | times best | times medium |
|---|---|---|---|---|---|---|
${rows.join('\n')}

Far ratios, a timer's exact rate, and the draft, multiples of real time:

| rates | converter | times real time |
|---|---|---|
${ownRows.join('\n')}

The time grows with the length (44 100 to 8 000 Hz), and two cores share the work: ${one.toFixed(0)} times real time in one
thread, ${two.toFixed(0)} in two.

| length | time | times real time |
|---|---|---|
${lengthRows.join('\n')}
`,
  );
}

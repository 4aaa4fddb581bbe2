// How fast the rate is changed, beside a native library at the same specification, in turn, on one thread. Needs gcc and
// libsoxr-dev of Debian. Run: npm run bench:native
import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { machine, median, writeSection } from './report.mjs';
import { ours, RATIOS } from './resampling.ts';

const SECONDS = 60;
const RUNS = 5;
const TURNS = 3;

const program = 'build/native/soxr';
mkdirSync('build/native', { recursive: true });
execFileSync('gcc', ['-O2', 'bench/native/soxr.c', '-o', program, '-lsoxr', '-lm'], { stdio: 'inherit' });

/** Multiples of real time, the best of the runs of one turn. */
function native(from: number, to: number, channels: number): number {
  const words = execFileSync(program, [from, to, channels, SECONDS, RUNS].map(String), { encoding: 'utf8' });
  return SECONDS / Math.min(...words.trim().split('\n').map(Number));
}

function own(from: number, to: number, channels: number): number {
  const sounds = Array.from({ length: channels }, (_, channel) =>
    Float32Array.from(
      { length: SECONDS * from },
      (_, i) => 0.5 * Math.sin((0.02 + channel) * i) + 0.1 * Math.sin(i * i),
    ),
  );
  let best = 0;
  for (let run = 0; run < RUNS; run++) {
    const started = performance.now();
    for (const sound of sounds) ours(from, to, 'standard')(sound);
    best = Math.max(best, (1000 * SECONDS) / (performance.now() - started));
  }
  return best;
}

const rows: string[] = [];
const ratios: number[] = [];
for (const [from, to] of RATIOS) {
  for (const channels of [1, 2]) {
    const pairs = Array.from({ length: TURNS }, () => [own(from, to, channels), native(from, to, channels)]);
    const [mine, theirs] = [0, 1].map((i) => median(pairs.map((pair) => pair[i])));
    ratios.push(mine / theirs);
    rows.push(
      `| ${from} to ${to} Hz | ${channels === 1 ? 'mono' : 'stereo'} | ${mine.toFixed(0)} | ${theirs.toFixed(0)} | ${(mine / theirs).toFixed(2)} |`,
    );
  }
}
const mean = Math.exp(ratios.reduce((sum, ratio) => sum + Math.log(ratio), 0) / ratios.length);

writeSection(
  'native',
  `## Resampling beside native code

Made by \`npm run bench:native\` on ${machine}, one thread, ${SECONDS} s: multiples of real time beside libsoxr at its setting HQ, which
promises what our standard quality promises. In turn, ${TURNS} times; the best of ${RUNS} runs of each turn, the median of the turns. The goal is a
ratio of 1.0 in each. Their geometric mean is ${mean.toFixed(2)}.

| rates | | Tambur | native | ratio |
|---|---|---|---|---|
${rows.join('\n')}
`,
);

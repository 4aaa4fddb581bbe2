// How soon the command line answers, beside an empty start of Node in the same run.
// Run after a build: npm run bench:start
import { spawnSync } from 'node:child_process';
import { machine, median, writeSection } from './report.mjs';

const RUNS = 15;
const SHORT = 'demo/sounds/gate-buzzer.raw';

/** [words, command, arguments, goal as a multiple of an empty start]. */
const calls = [
  ['an empty start of Node', 'node', ['-e', '0'], null],
  ['`./tambur targets`', './tambur', ['targets'], 2],
  ['`./tambur --help`', './tambur', ['--help'], 2],
  ['`./tambur sheet --target loop-player`', './tambur', ['sheet', '--target', 'loop-player'], 2],
  ['`./tambur facts` on a second of bare samples', './tambur', ['facts', '--as', 'mu-law,8000,1', SHORT], 3],
  ['`./tambur facts` on a second of Vorbis', './tambur', ['facts', 'demo/sounds/upper-station.ogg'], null],
];

/** ms from the call to its end. */
function timeOf(command, args) {
  const start = performance.now();
  const { status, stderr } = spawnSync(command, args);
  if (status !== 0) throw new Error(`${command} ${args.join(' ')}: ${stderr}`);
  return performance.now() - start;
}

// In turn, so that whatever else the machine does falls on all of them alike.
for (const [, command, args] of calls) timeOf(command, args);
const times = calls.map(() => []);
for (let run = 0; run < RUNS; run++) {
  for (const [i, [, command, args]] of calls.entries()) times[i].push(timeOf(command, args));
}
const empty = median(times[0]);

writeSection(
  'start',
  `## The start of the command line

Made by \`npm run bench:start\` on ${machine}: ms from the call to its end, medians of ${RUNS} runs in turn, and how often an empty start
of Node that is.

| call | ms | multiple | goal |
|---|---|---|---|
${calls
  .map(([words, , , goal], i) => {
    const ms = median(times[i]);
    return `| ${words} | ${Math.round(ms)} | ${(ms / empty).toFixed(2)} | ${goal === null ? '' : `below ${goal}`} |`;
  })
  .join('\n')}`,
);

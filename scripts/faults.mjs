// Plants faults in core, codecs and server, one at a time, and says which of them the tests find: npm run faults -- [seed] [count].
// It works in a copy of the last commit in build/faults. The tests that have to do with the file are run, those about it first and eight files at most, up to one that fails.
import { fork, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { parseAst } from 'vite';

const [seed = 1, count = 60] = process.argv.slice(2).map(Number);
/** Minutes: what is not tried by then is said. */
const MOST = 45;
/** Of one fault: so many test files are run, those about it first, and for so many seconds. */
const [MOST_TESTS, MOST_SECONDS] = [8, 60];
const folder = resolve('build/faults');

/** Pseudo-random numbers below 1 (mulberry32; Tommy Ettinger, public domain; from memory). */
function randomFrom(state) {
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

const OTHER = {
  ...{ '+': '-', '-': '+', '*': '/', '/': '*', '<<': '>>', '>>': '<<', '&': '|', '|': '&' },
  ...{ '<': '<=', '<=': '<', '>': '>=', '>=': '>', '===': '!==', '!==': '===', '&&': '||', '||': '&&' },
};

/** Every fault that a piece of code could have: what stands in the place of which characters. */
function* faultsIn(node, text) {
  if (node === null || typeof node !== 'object') return;
  if (Array.isArray(node)) {
    for (const entry of node) yield* faultsIn(entry, text);
    return;
  }
  // Types are nothing that runs.
  if (typeof node.type === 'string' && node.type.startsWith('TS') && !/^TS(AsExpression|NonNull)/.test(node.type))
    return;
  const { type, start, end, operator, left, right } = node;
  if ((type === 'BinaryExpression' || type === 'LogicalExpression') && OTHER[operator]) {
    const at = text.indexOf(operator, left.end);
    if (at >= 0 && at < right.start) yield { start: at, end: at + operator.length, becomes: OTHER[operator] };
  }
  if (type === 'Literal' && Number.isInteger(node.value)) yield { start, end, becomes: String(node.value + 1) };
  if (type === 'CallExpression' && node.arguments.length >= 2) {
    const [one, two] = node.arguments.map((argument) => text.slice(argument.start, argument.end));
    const isPlain = node.arguments.slice(0, 2).every((argument) => /Identifier|MemberExpression/.test(argument.type));
    if (isPlain && one !== two) {
      yield { start: node.arguments[0].start, end: node.arguments[1].end, becomes: `${two}, ${one}` };
    }
  }
  for (const [key, inner] of Object.entries(node)) if (key !== 'typeAnnotation') yield* faultsIn(inner, text);
}

/** A copy of the last commit that finds its packages where this one has them, and its own rooms in itself. */
function copied() {
  spawnSync('git', ['worktree', 'remove', '--force', folder]);
  rmSync(folder, { recursive: true, force: true });
  const { status } = spawnSync('git', ['worktree', 'add', '--quiet', '--detach', folder, 'HEAD'], { stdio: 'inherit' });
  if (status !== 0) process.exit(1);
  mkdirSync(join(folder, 'node_modules/@tambur'), { recursive: true });
  for (const name of readdirSync('node_modules').filter((entry) => entry !== '@tambur')) {
    symlinkSync(resolve('node_modules', name), join(folder, 'node_modules', name));
  }
  for (const name of readdirSync('node_modules/@tambur')) {
    symlinkSync(join('../..', name), join(folder, 'node_modules/@tambur', name));
  }
}

let runner;

/** What runs tests in the copy; another one if the last had to be ended. */
async function runnerReady() {
  if (runner) return runner;
  runner = fork(resolve('scripts/fault-tests.mjs'), {
    cwd: folder,
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    detached: true,
  });
  await once(runner, 'message');
  return runner;
}

function endRunner() {
  // One that has ended by itself has no processes left.
  if (runner && runner.exitCode === null && runner.signalCode === null) process.kill(-runner.pid, 'SIGKILL');
  runner = undefined;
}
process.on('exit', endRunner);
process.on('SIGINT', () => process.exit(1));

/** Runs tests in the copy, one file of which has changed; gives the files of those that failed, and null if they did not end. */
async function failures(files, changed) {
  const child = await runnerReady();
  return new Promise((done) => {
    const timer = setTimeout(() => {
      endRunner();
      done(null);
    }, 1000 * MOST_SECONDS);
    child.once('message', (failed) => {
      clearTimeout(timer);
      done(failed);
    });
    child.send({ files, changed });
  });
}

/** Files by those that they import, all of a room by the names of its doors too. */
function importersIn(files) {
  const doors = new Map();
  for (const room of ['core', 'codecs', 'disk', 'speech', 'server', 'web', 'cli']) {
    const { name, exports = {} } = JSON.parse(readFileSync(join(folder, room, 'package.json'), 'utf8'));
    const paths = typeof exports === 'string' ? { '.': exports } : exports;
    for (const [door, path] of Object.entries(paths)) doors.set(join(name, door), join(room, path));
  }
  const importers = new Map();
  for (const file of files) {
    for (const [, from] of readFileSync(join(folder, file), 'utf8').matchAll(/(?:from|import)[\s(]*'([^']+)'/g)) {
      const target = from.startsWith('.') ? join(dirname(file), from) : doors.get(from);
      if (target) importers.set(target, [...(importers.get(target) ?? []), file]);
    }
  }
  return importers;
}

const wordsOf = (path) => new Set(path.split(/[^a-z0-9]+/).slice(1, -1));

/**
 * Tests that import a file, or what imports it, and so on. First those that have most words of their paths in common with it, as
 * they are about it; among these the nearest.
 */
function testsOf(file, importers) {
  const known = new Set([file]);
  for (const each of known) for (const importer of importers.get(each) ?? []) known.add(importer);
  const words = wordsOf(file);
  const shared = (test) => [...wordsOf(test)].filter((word) => words.has(word)).length;
  return [...known].filter((each) => each.endsWith('.test.ts')).sort((a, b) => shared(b) - shared(a));
}

/** What the tests say of a fault. What fails, or does not end, with it has to pass without it. */
async function verdictOn({ file, text, start, end, becomes }, tests) {
  const path = join(folder, file);
  writeFileSync(path, text.slice(0, start) + becomes + text.slice(end));
  const failed = await failures(tests, file);
  writeFileSync(path, text);
  if (failed?.length === 0) return 'missed';
  const without = await failures(failed ?? tests, file);
  return without?.length === 0 ? 'found' : 'undecided';
}

copied();
const listed = spawnSync('git', ['ls-files', 'core/*.ts', 'codecs/*.ts', 'server/*.ts'], {
  cwd: folder,
  encoding: 'utf8',
}).stdout;
const isProduct = (file) => !/\.(test|as|d)\.ts$|\/fixtures\/|index\.ts$|migrations\/|\/kernel\//.test(file);
const all = listed
  .trim()
  .split('\n')
  .filter(isProduct)
  .flatMap((file) => {
    const text = readFileSync(join(folder, file), 'utf8');
    return [...faultsIn(parseAst(text, { lang: 'ts' }).body, text)].map((fault) => ({ file, text, ...fault }));
  });
const tracked = spawnSync('git', ['ls-files', '*.ts', '*.tsx'], { cwd: folder, encoding: 'utf8' })
  .stdout.trim()
  .split('\n');
const importers = importersIn(tracked);
const next = randomFrom(seed);
const chosen = Array.from({ length: count }, () => all[Math.floor(next() * all.length)]);
const started = Date.now();
const counts = { found: 0, missed: 0, undecided: 0 };
for (const fault of chosen) {
  if (Date.now() - started > 60_000 * MOST) break;
  const verdict = await verdictOn(fault, testsOf(fault.file, importers).slice(0, MOST_TESTS));
  counts[verdict]++;
  const { file, text, start, end, becomes } = fault;
  const line = text.slice(0, start).split('\n').length;
  console.log(`${verdict.padEnd(9)}  ${file}:${line}  ${text.slice(start, end)}  →  ${becomes}`);
}
endRunner();
spawnSync('git', ['worktree', 'remove', '--force', folder]);
const tried = counts.found + counts.missed + counts.undecided;
console.log(
  `\n${counts.found} of ${tried} found, ${counts.missed} missed, ${counts.undecided} undecided (seed ${seed})`,
);
if (tried < count) console.log(`${count - tried} were not tried within ${MOST} minutes.`);

// Reads damaged files for as long as you like: npm run fuzz -- [seconds (60)] [seed (the time)]. A file that makes trouble
// is made as small as it goes and kept in codecs/fixtures/hostile, where the tests read it from then on. Exit code 1 then.
// A run that is killed leaves the file it was at in build/fuzz-input.
import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { openSourceStream } from '@tambur/codecs';
import { InputError, inMemory, surveyStream } from '@tambur/core';
import fc from 'fast-check';
import { damage, damaged } from '../codecs/fixtures/damage.ts';

const MOST_MS = 2000;
const RUNS_AT_ONCE = 200;

const [seconds = 60, firstSeed = Date.now() % 2 ** 31] = process.argv.slice(2).map(Number);
const kept = 'codecs/fixtures/hostile';
mkdirSync(kept, { recursive: true });

const seeds = ['short', 'deep'].flatMap((folder) =>
  readdirSync(join('codecs/fixtures', folder)).map((name) => ({
    name,
    bytes: new Uint8Array(readFileSync(join('codecs/fixtures', folder, name))),
  })),
);

// Decoders complain of broken frames on their own.
console.error = () => undefined;

let inputs = 0;
let refused = 0;
async function read(bytes: Uint8Array): Promise<void> {
  writeFileSync('build/fuzz-input', bytes);
  // Time of the processor, not of the clock: a busy machine is no trouble of the file's.
  const started = process.cpuUsage();
  inputs++;
  try {
    await surveyStream(await openSourceStream(inMemory(bytes)), () => undefined);
  } catch (error) {
    if (!(error instanceof InputError)) throw error;
    refused++;
  }
  const { user, system } = process.cpuUsage(started);
  const ms = (user + system) / 1000;
  if (ms > MOST_MS) throw new Error(`${Math.round(ms)} ms`);
}

const end = Date.now() + seconds * 1000;
const troubles: string[] = [];
for (let round = 0; Date.now() < end; round++) {
  const { name, bytes } = seeds[round % seeds.length] ?? { name: '', bytes: new Uint8Array(0) };
  const seed = (firstSeed + round) % 2 ** 31;
  const result = await fc.check(
    fc.asyncProperty(damage, async (how) => read(damaged(bytes, how))),
    { seed, numRuns: RUNS_AT_ONCE, interruptAfterTimeLimit: Math.max(1, end - Date.now()) },
  );
  if (!result.failed || !result.counterexample) continue;
  const small = damaged(bytes, result.counterexample[0]);
  const file = `${createHash('sha256').update(small).digest('hex').slice(0, 12)}-${name}`;
  writeFileSync(join(kept, file), small);
  troubles.push(
    `${file}: ${result.errorInstance instanceof Error ? result.errorInstance.message : result.errorInstance}`,
  );
}
process.stdout.write(`${inputs} inputs, ${refused} refused, ${troubles.length} made trouble (seed ${firstSeed})\n`);
for (const trouble of troubles) process.stdout.write(`${trouble}\n`);
process.exit(troubles.length ? 1 : 0);

// Reads damaged files and documents for as long as you like: npm run fuzz -- [seconds (60)] [seed (the time)]. A file that makes trouble
// is made as small as it goes and kept in codecs/fixtures/hostile, where the tests read it from then on. Exit code 1 then.
// A run that is killed leaves the file it was at in build/fuzz-input.
import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { openSourceStream } from '@tambur/codecs';
import { InputError, inMemory, parseDocument, readChange, sheetText, surveyStream, targets } from '@tambur/core';
import fc from 'fast-check';
import { damage, damaged } from '../codecs/fixtures/damage.ts';
import { mergeList, parseCsv } from '../core/lists/index.ts';

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

/** Documents that ship, as texts, and what reads each. */
const documents = targets.map((target) => sheetText(target));
const readAny = (text: string): void => {
  for (const kind of ['sheet', 'job', 'delivery', 'manifest'] as const) {
    try {
      parseDocument(kind, text, 'file.json');
    } catch (error) {
      if (!(error instanceof InputError)) throw error;
    }
  }
  const bytes = new TextEncoder().encode(text);
  const tries: (() => unknown)[] = [
    () => mergeList(bytes, { path: 'list.txt' }, [ROW], false),
    () => parseCsv(text),
    () => readChange(JSON.parse(text)),
  ];
  for (const attempt of tries) {
    try {
      attempt();
    } catch (error) {
      // What is no JSON at all never reaches a change.
      if (!(error instanceof InputError) && !(error instanceof SyntaxError)) throw error;
    }
  }
};
const ROW = {
  ...{ displayName: 'Bell', fileName: 'bell.raw', slot: 2, stem: 'bell', identifier: 'bell', frames: 1, bytes: 1 },
  ...{ soundBytes: 1, sampleRate: 8000, seconds: '0.000' },
};

/** A text with some of it cut, doubled, or put in place of other parts. */
const bend = fc.array(
  fc.record({ at: fc.nat(1000), length: fc.nat(200), what: fc.constantFrom('cut', 'double', 'put', 'nest') }),
  { minLength: 1, maxLength: 6 },
);
const pieces = fc.array(
  fc.oneof(fc.string(), fc.constantFrom('"__proto__":', '[', '{', '-1e999', '\ufeff', '\r\n', '<![CDATA[', '<!--')),
  {
    maxLength: 6,
  },
);
function bent(
  text: string,
  how: readonly { at: number; length: number; what: string }[],
  more: readonly string[],
): string {
  return how.reduce((out, { at, length, what }, i) => {
    const from = Math.floor((at / 1000) * out.length);
    const part = out.slice(from, from + length);
    const put = { cut: '', double: part + part, put: more[i % (more.length || 1)] ?? '', nest: '['.repeat(length) };
    return out.slice(0, from) + put[what as keyof typeof put] + out.slice(from + length);
  }, text);
}

async function readDocuments(seed: number): Promise<string | null> {
  const result = await fc.check(
    fc.asyncProperty(fc.constantFrom(...documents), bend, pieces, async (text, how, more) => {
      const started = process.cpuUsage();
      inputs++;
      readAny(bent(text, how, more));
      const { user, system } = process.cpuUsage(started);
      if ((user + system) / 1000 > MOST_MS) throw new Error('a document takes too long');
    }),
    { seed, numRuns: RUNS_AT_ONCE },
  );
  if (!result.failed || !result.counterexample) return null;
  const text = bent(...result.counterexample);
  const file = `${createHash('sha256').update(text).digest('hex').slice(0, 12)}-document.json`;
  writeFileSync(join(kept, file), text);
  return `${file}: ${result.errorInstance instanceof Error ? result.errorInstance.message : result.errorInstance}`;
}

const end = Date.now() + seconds * 1000;
const troubles: string[] = [];
for (let round = 0; Date.now() < end; round++) {
  const trouble = await readDocuments((firstSeed + round) % 2 ** 31);
  if (trouble) troubles.push(trouble);
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

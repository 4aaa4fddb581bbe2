// What Try-out recognises: planted faults and recordings of made-up devices, both by programs of their own. Run: npm run bench:tryout

import { judgedRecording, recordings } from '../core/listening/fixtures/recordings.ts';
import { explainedFault, plantedFaults } from '../core/symptoms/fixtures/planted.ts';
import { writeSection } from './report.mjs';

const SEED = 'measured';
const percent = (part: number, all: number) => `${((100 * part) / Math.max(1, all)).toFixed(1)} %`;

async function faults(): Promise<void> {
  let [all, first, second] = [0, 0, 0];
  for (const fault of plantedFaults(SEED).filter(({ cause }) => cause !== null && cause !== 'cannot tell')) {
    for (const { causes } of await explainedFault(fault)) {
      const place = causes.indexOf(fault.cause ?? '');
      all++;
      if (place === 0) first++;
      if (place === 0 || place === 1) second++;
    }
  }
  writeSection(
    'faults',
    `## Planted faults\n\nMade by \`npm run bench:tryout\`. ${all} questions about planted faults: the right cause is first in ${percent(first, all)}, among the first two in ${percent(second, all)}.`,
    'docs/tryout.md',
  );
}

async function listening(): Promise<void> {
  const counts = new Map<string, Map<string, number>>();
  let worst = 0;
  for (const recording of recordings(SEED)) {
    const { best, sampleRate } = await judgedRecording(recording);
    const row = `${recording.hypothesis}, ${recording.snr} dB`;
    const cells = counts.get(row) ?? new Map<string, number>();
    cells.set(best.hypothesis, (cells.get(best.hypothesis) ?? 0) + 1);
    counts.set(row, cells);
    if (sampleRate !== null && recording.hypothesis !== 'no-match') {
      worst = Math.max(worst, Math.abs(sampleRate / recording.rate - 1));
    }
  }
  const lines = [...counts].map(
    ([row, cells]) =>
      `| ${row} | ${[...cells]
        .sort((a, b) => b[1] - a[1])
        .map(([name, count]) => `${name} ${count}`)
        .join(', ')} |`,
  );
  writeSection(
    'listening',
    `## Recordings\n\nMade by \`npm run bench:tryout\`. What was done, and what was found, of eight sounds each; the real rate is at most ${(100 * worst).toFixed(2)} % off where something was found.\n\n| device and noise | found |\n|---|---|\n${lines.join('\n')}`,
    'docs/tryout.md',
  );
}

await faults();
await listening();

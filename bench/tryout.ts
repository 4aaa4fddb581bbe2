// What Try-out recognises: planted faults and recordings of made-up devices, both by programs of their own. Run: npm run bench:tryout

import { judgedRecording, recordings } from '../core/listening/fixtures/recordings.ts';
import { type Grade, gradedFaults, plantedFaults } from '../core/symptoms/fixtures/planted.ts';
import { writeSection } from './report.mjs';

const SEED = 'measured';

async function faults(): Promise<void> {
  const { first, amongTwo, withSource, withoutSource, healthy } = await gradedFaults(plantedFaults(SEED));
  const row = (what: string, { asked, right }: Grade) =>
    `| ${what} | ${asked} | ${((100 * right) / asked).toFixed(1)} % |`;
  const rows = [
    row('a fault that the bytes tell: its cause is first', first),
    row('its cause is among the first two', amongTwo),
    row('bare samples at another rate, the source at hand: its cause is first', withSource),
    row('the same without the source: "cannot be told from the file: record the device"', withoutSource),
    row('a file without a fault, asked with each symptom: no cause is offered', healthy),
  ];
  const missed = first.wrong.map((line) => `- ${line}`);
  writeSection(
    'faults',
    `## Planted faults\n\nMade by \`npm run bench:tryout\`.\n\n| asked about | questions | answered so |\n|---|---|---|\n${rows.join('\n')}\n\nWhere the right cause was not first, and what was said:\n\n${missed.join('\n')}`,
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

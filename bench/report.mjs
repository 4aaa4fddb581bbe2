// Puts measured figures into docs/performance.md or docs/quality.md: each benchmark has a section of its own there.
import { readFileSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';

export const machine = `${cpus().length} cores (${cpus()[0].model.trim()}), Node ${process.versions.node}`;

export const median = (values) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];

/** Median (least to most), whole numbers. */
export const spread = (values) =>
  `${Math.round(median(values))} (${Math.round(Math.min(...values))} to ${Math.round(Math.max(...values))})`;

/** Replaces the section between its two marks, or adds it. */
export function writeSection(name, text, file = 'docs/performance.md') {
  const [open, close] = [`<!-- ${name} -->`, `<!-- end of ${name} -->`];
  const before = readFileSync(file, 'utf8');
  const section = `${open}\n${text.trim()}\n${close}`;
  const start = before.indexOf(open);
  const after =
    start < 0
      ? `${before.trimEnd()}\n\n${section}\n`
      : before.slice(0, start) + section + before.slice(before.indexOf(close) + close.length);
  writeFileSync(file, after);
  console.log(text);
}

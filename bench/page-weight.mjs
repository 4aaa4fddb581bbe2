// Weighs the scripts that the first page loads, compressed as the server sends them: npm run bench:page, after a build.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

const folder = 'build/web/assets';
const files = readdirSync(folder).filter((name) => name.endsWith('.js'));
const named = (start) => files.find((name) => name.startsWith(start));

/** A script and everything that it imports at once. */
function closure(name, seen = new Set()) {
  if (!name || seen.has(name)) return seen;
  seen.add(name);
  const text = readFileSync(join(folder, name), 'utf8');
  for (const [, other] of text.matchAll(/(?:from|import)"\.\/([^"]+\.js)"/g)) closure(other, seen);
  return seen;
}

const loaded = closure(named('index'));
let sum = 0;
for (const name of loaded) {
  const bytes = statSync(join(folder, `${name}.br`)).size;
  sum += bytes;
  process.stdout.write(`${(bytes / 1000).toFixed(1).padStart(7)} kB  ${name}\n`);
}
process.stdout.write(`${(sum / 1000).toFixed(1).padStart(7)} kB  in all\n`);

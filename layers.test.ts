import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { describe, expect, test } from 'vitest';

/**
 * The packages and their rooms: each imports only from those before it. A room is a folder; "." is what lies in the package's own
 * folder. `docs/architecture.md` says what is in them, in the same order.
 */
const PACKAGES: Readonly<Record<string, { readonly imports: readonly string[]; readonly rooms: readonly string[] }>> = {
  core: {
    imports: [],
    rooms: [
      ...['kernel', 'numbers', 'words', 'bytes', 'forms', 'audio', 'dsp', 'encodings', 'containers', 'facts', 'fields'],
      ...[
        'lists',
        'standin',
        'targets',
        'chain',
        'findings',
        'delivery',
        'documents',
        'symptoms',
        'listening',
        'notes',
      ],
      '.',
    ],
  },
  codecs: { imports: ['core'], rooms: ['formats', '.', 'encoders'] },
  speech: { imports: ['core'], rooms: ['.'] },
  disk: { imports: ['core'], rooms: ['.'] },
  server: {
    imports: ['core', 'codecs', 'speech', 'disk'],
    rooms: [
      ...[
        'answers',
        'models',
        'migrations',
        'storage',
        'work',
        'shelf',
        'jobs',
        'imports',
        'builds',
        'wholes',
        'speech',
      ],
      ...['exports', 'routes', 'start', '.'],
    ],
  },
  web: {
    imports: ['core', 'codecs', 'speech', 'server'],
    rooms: [
      ...[
        'ui',
        'api',
        'sound',
        'job',
        'headerless',
        'imports',
        'parts',
        'speech',
        'record',
        'targets',
        'jobs',
        'shelf',
      ],
      ...['check', 'set', 'bench', 'tryout', 'delivery', '.'],
    ],
  },
  cli: { imports: ['core', 'codecs', 'speech', 'disk'], rooms: ['.', 'commands'] },
};

/** Who may know of what is not ours. */
const OUTSIDE: readonly [RegExp, readonly string[]][] = [
  [/^node:/, ['disk', 'server', 'cli']],
  [/^react/, ['web']],
  [/^hono(\/|$)/, ['server', 'web']],
];

/** Rooms of core that have no door: compiled loops, each for itself. What is large is behind a door of its own, so that it is loaded late. */
const OWN_DOORS = /^core\/(kernel\/|version\.ts$|encodings\/(alac\.ts|flac\/index\.ts)$)/;

function* codeIn(folder: string): Iterable<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (!['node_modules', 'fixtures', 'public', 'migrations'].includes(entry.name) || path === 'server/migrations')
        yield* codeIn(path);
    } else if (/\.tsx?$/.test(entry.name) && !/\.(as|test|spec|d)\.tsx?$|vite\.config/.test(entry.name)) yield path;
  }
}

interface Import {
  readonly from: string;
  /** A path from the top for our own files, otherwise as it stands. */
  readonly to: string;
  readonly isType: boolean;
}

const IMPORT = /(?:^|\n)\s*(?:import|export)(\s+type)?\b[^'"`;]*?from\s*'([^']+)'|import\s*\(?\s*'([^']+)'/g;

/** What a file imports. */
function importsOf(path: string): readonly Import[] {
  return [...readFileSync(path, 'utf8').matchAll(IMPORT)].map(([, type, from, other]) => {
    const name = from ?? other ?? '';
    return { from: path, to: name.startsWith('.') ? join(dirname(path), name) : name, isType: type !== undefined };
  });
}

const packageOf = (path: string): string => path.split('/')[0] ?? '';
/** The room of a file: its folder below the package. The door of a package is above all of its rooms. */
const roomOf = (path: string): string => {
  const [, room = '', ...inner] = path.split('/');
  return inner.length ? room : '.';
};
const isDoor = (path: string): boolean => path === `${packageOf(path)}/index.ts`;

const files = Object.keys(PACKAGES).flatMap((name) => [...codeIn(name)]);
const imports = files.flatMap(importsOf);
const own = imports.filter(({ to }) => packageOf(to) in PACKAGES && to.includes('.ts'));
const words = ({ from, to }: Import) => `${from} imports ${to}`;

test('there is what to look at', () => {
  expect(files.length).toBeGreaterThan(700);
  expect(own.length).toBeGreaterThan(2500);
});

describe('imports point one way', () => {
  test('from package to package', () => {
    const wrong = imports.filter(({ from, to, isType }) => {
      const [, name] = /^@tambur\/(\w+)/.exec(to) ?? [];
      const { imports: allowed = [] } = PACKAGES[packageOf(from)] ?? {};
      // The page asks the server over HTTP; it knows the types of its answers.
      return name !== undefined && (!allowed.includes(name) || (name === 'server' && !isType));
    });
    expect(wrong.map(words)).toEqual([]);
  });

  test('within a package by the order of its rooms, each of which is in the list', () => {
    const placeOf = (path: string) =>
      isDoor(path) ? Number.POSITIVE_INFINITY : PACKAGES[packageOf(path)].rooms.indexOf(roomOf(path));
    expect(files.filter((path) => placeOf(path) < 0)).toEqual([]);
    const wrong = own.filter(({ from, to }) => packageOf(from) !== packageOf(to) || placeOf(from) < placeOf(to));
    expect(wrong.map(words)).toEqual([]);
  });

  test('into a room of core through its door', () => {
    const wrong = own.filter(
      ({ from, to }) =>
        packageOf(to) === 'core' && roomOf(from) !== roomOf(to) && !to.endsWith('/index.ts') && !OWN_DOORS.test(to),
    );
    expect(wrong.map(words)).toEqual([]);
  });

  test.each(OUTSIDE)('%s is known to those who may know it', (what, allowed) => {
    const wrong = imports.filter(({ from, to }) => what.test(to) && !allowed.includes(packageOf(from)));
    expect(wrong.map(words)).toEqual([]);
  });

  test('core has no other package in it but its few small ones', () => {
    const known = Object.keys(JSON.parse(readFileSync('core/package.json', 'utf8')).dependencies);
    const outside = imports.filter(({ from, to }) => packageOf(from) === 'core' && !to.includes('/'));
    expect([...new Set(outside.map(({ to }) => to))].filter((name) => !known.includes(name))).toEqual([]);
  });

  test('from file to file, types too, in no circle', () => {
    const left = new Map(files.map((path) => [path, new Set<string>()]));
    for (const { from, to } of own) left.get(from)?.add(to);
    // What imports nothing that is left is in no circle.
    for (let before = 0; before !== left.size; ) {
      before = left.size;
      for (const [path, needs] of left) if (![...needs].some((need) => left.has(need))) left.delete(path);
    }
    expect([...left.keys()]).toEqual([]);
  });
});

test('core hands out what somebody outside asks for', () => {
  const surface = [...readFileSync('core/index.ts', 'utf8').matchAll(/export \{([^}]*)\}/g)]
    .flatMap(([, names]) => names.split(','))
    .map((name) => name.replace('type ', '').trim())
    .filter((name) => name !== '');
  expect(surface.length).toBeGreaterThan(300);
  const outside = ['codecs', 'speech', 'disk', 'server', 'web', 'cli', 'e2e', 'bench', 'demo', 'scripts']
    .flatMap((folder) => readdirSync(folder, { recursive: true, encoding: 'utf8' }).map((name) => join(folder, name)))
    .filter((path) => /\.(tsx?|mjs)$/.test(path) && !path.includes('node_modules'));
  const asked = new Set(
    outside.flatMap((path) =>
      [...readFileSync(path, 'utf8').matchAll(/\{([^}]*)\}\s*(?:from|= await import\()\s*'@tambur\/core'/g)].flatMap(
        ([, names]) => names.split(',').map((name) => name.replace('type ', '').trim().split(' as ')[0]),
      ),
    ),
  );
  // Types that others have to be able to name, as the compiler writes them down for what it infers.
  const INFERRED = ['LoopReport', 'Wishes'];
  expect(surface.filter((name) => !asked.has(name) && !INFERRED.includes(name))).toEqual([]);
});

test('docs/architecture.md lists the rooms in their order', () => {
  const [, list = ''] = /```\n(core\/[\s\S]*?)```/.exec(readFileSync('docs/architecture.md', 'utf8')) ?? [];
  const lines = list.split('\n').map((line) => /^( *)([\w-]+)\/ /.exec(line));
  const found: Record<string, string[]> = {};
  let current = '';
  for (const line of lines) {
    if (!line) continue;
    const [, indent, name] = line;
    if (indent === '') {
      current = name;
      found[name] = [];
    } else found[current].push(name);
  }
  const listed = Object.fromEntries(
    Object.entries(PACKAGES).map(([name, { rooms }]) => [name, rooms.filter((room) => room !== '.')]),
  );
  expect(found).toMatchObject(listed);
});

/** Nothing above is found because nothing is looked at. */
test('an import is seen, whichever way it is written', () => {
  const [path] = files.filter((name) => relative('core', name) === 'chain/index.ts');
  expect(importsOf(path).map(({ to }) => to)).toContain('core/chain/settle.ts');
  const found = (text: string) => [...text.matchAll(IMPORT)].map(([, , from, other]) => from ?? other);
  expect(found("import a, { type B } from './x.ts';\nimport type C from '../y.ts';\nexport * from './z.ts';")).toEqual([
    './x.ts',
    '../y.ts',
    './z.ts',
  ]);
  expect(found("import './a.css';\nawait import('./b.ts');\nimport {\n  c,\n} from 'node:fs';")).toEqual([
    './a.css',
    './b.ts',
    'node:fs',
  ]);
});

import { Hono } from 'hono';
import { describe, expect, test } from 'vitest';
import { onlyLocal, safeHeaders } from './security.ts';

const PORT = 4180;
const app = new Hono()
  .use(
    safeHeaders,
    onlyLocal(() => PORT),
  )
  .get('/', (c) => c.text('the page'))
  .get('/api/backup', (c) => c.text('a backup'));

const ask = (headers: Record<string, string>) => app.request('/', { headers });

describe('only a page of this server is answered', () => {
  test.each([
    ['127.0.0.1:4180', undefined],
    ['localhost:4180', undefined],
    ['[::1]:4180', undefined],
    ['127.0.0.1:4180', 'http://127.0.0.1:4180'],
    ['localhost:4180', 'http://localhost:4180'],
  ])('host %s, origin %s', async (host, origin) => {
    const answer = await ask({ host, ...(origin ? { origin } : {}) });
    expect(answer.status).toBe(200);
    expect(await answer.text()).toBe('the page');
  });

  test.each([
    ['a name that was pointed here', 'tambur.example:4180', undefined],
    ['another port', '127.0.0.1:4181', undefined],
    ['no port', '127.0.0.1', undefined],
    ['a name that only begins like ours', 'localhost.example:4180', undefined],
    ['another page', '127.0.0.1:4180', 'http://pages.example'],
    ['our page under another of its names', '127.0.0.1:4180', 'http://localhost:4180'],
    ['a page of another port', '127.0.0.1:4180', 'http://127.0.0.1:3000'],
    ['a page over another protocol', '127.0.0.1:4180', 'https://127.0.0.1:4180'],
    ['a page without an address', '127.0.0.1:4180', 'null'],
  ])('not %s', async (_, host, origin) => {
    const answer = await ask({ host, ...(origin ? { origin } : {}) });
    expect(answer.status).toBe(403);
    const { error } = (await answer.json()) as { error: { code: string; message: string } };
    expect(error.code).toBe('foreign-host');
    expect(error.message).toMatch(/^This address .*[.]$/);
    expect(JSON.stringify(error)).not.toContain('example');
  });
});

describe('what browsers say of where a request comes from counts where there is no origin', () => {
  test.each([
    [403, '/api/backup', 'cross-site', 'no-cors'],
    [403, '/api/backup', 'same-site', 'no-cors'],
    [403, '/api/backup', 'cross-site', 'navigate'],
    [403, '/', 'cross-site', 'no-cors'],
    [200, '/', 'cross-site', 'navigate'],
    [200, '/api/backup', 'same-origin', 'cors'],
    [200, '/api/backup', 'none', 'navigate'],
  ])('%d: %s, %s, %s', async (status, path, site, mode) => {
    const headers = { host: `127.0.0.1:${PORT}`, 'sec-fetch-site': site, 'sec-fetch-mode': mode };
    expect((await app.request(path, { headers })).status).toBe(status);
  });
});

test.each([
  ['answered', { host: `127.0.0.1:${PORT}` }],
  ['refused', { host: 'tambur.example' }],
])('what is %s carries the headers that keep it to this page', async (_, headers) => {
  const answer = await ask(headers);
  expect(answer.headers.get('X-Content-Type-Options')).toBe('nosniff');
  expect(answer.headers.get('Referrer-Policy')).toBe('no-referrer');
  expect(answer.headers.get('Cross-Origin-Resource-Policy')).toBe('same-origin');
  expect(answer.headers.get('Cross-Origin-Opener-Policy')).toBe('same-origin');
  const policy = new Map(
    (answer.headers.get('Content-Security-Policy') ?? '').split(';').map((part) => {
      const [name = '', ...sources] = part.trim().split(' ');
      return [name, sources];
    }),
  );
  for (const name of ['object-src', 'frame-ancestors', 'base-uri']) expect(policy.get(name)).toEqual(["'none'"]);
  expect(policy.get('default-src')).toEqual(["'self'"]);
  expect(policy.get('script-src')).not.toContain("'unsafe-inline'");
  // Nothing but this server, and what the page itself makes.
  const others = [...policy.values()].flat().filter((source) => !/^'|^data:$|^blob:$/.test(source));
  expect(others).toEqual([]);
});

import type { Context, MiddlewareHandler } from 'hono';

/** Names under which this machine reaches itself. */
const LOCAL_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

/** True for the page itself, opened by a link from elsewhere: it does nothing by itself. */
const isVisit = (c: Context) =>
  c.req.method === 'GET' && c.req.header('sec-fetch-mode') === 'navigate' && !c.req.path.startsWith('/api/');

/**
 * Refuses requests that did not come from a page of this very server: a foreign Host (a name that was pointed at this
 * machine), and what another page in the same browser sends: it has a foreign Origin, or is said to come from another site.
 */
export const onlyLocal = (port: () => number): MiddlewareHandler => {
  return async (c, next) => {
    const hosts = LOCAL_NAMES.map((name) => `${name}:${port()}`);
    const host = c.req.header('host') ?? '';
    const origin = c.req.header('origin');
    // Requests for pictures and links have no Origin; browsers say of them whether they came from this page.
    const site = c.req.header('sec-fetch-site');
    const isForeign = site === 'cross-site' || site === 'same-site';
    if (!hosts.includes(host) || (origin !== undefined && origin !== `http://${host}`) || (isForeign && !isVisit(c))) {
      const message = 'This address is not served to other hosts; open the address that the start command printed.';
      return c.json({ error: { code: 'foreign-host', message } }, 403);
    }
    await next();
  };
};

/** Headers for everything that is served: nothing is loaded from elsewhere, nobody else loads it, and nobody frames the page. */
export const safeHeaders: MiddlewareHandler = async (c, next) => {
  await next();
  c.header('X-Content-Type-Options', 'nosniff');
  c.header('Referrer-Policy', 'no-referrer');
  c.header('Cross-Origin-Resource-Policy', 'same-origin');
  c.header('Cross-Origin-Opener-Policy', 'same-origin');
  c.header(
    'Content-Security-Policy',
    "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; " +
      "media-src 'self' blob:; worker-src 'self' blob:; connect-src 'self' data:; object-src 'none'; frame-ancestors 'none'; base-uri 'none'",
  );
};

import type { IncomingHttpHeaders } from 'node:http';
import { Problem } from '../http/problem';
import type { Sessions } from './sessions';
import { hostOf, isLoopback, type Settings } from './settings';

/** What decides whether a request is let in. */
export interface Asked {
  method: string;
  /** As it was sent: path and query. */
  url: string;
  headers: IncomingHttpHeaders;
  /** Address it came from. */
  from: string;
}

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE'];
/** Read without signing in: the sign-in itself and what it is made of, and whether the server answers. */
const OPEN = ['/sign-in', '/api/session', '/api/health', '/icon.svg'];

/** Path of a request, decoded; null where it is not written as a URL writes it. */
export function pathOf(url: string): string | null {
  try {
    return decodeURIComponent(url.split('?', 1)[0]);
  } catch {
    return null;
  }
}

/**
 * Every request passes here before anything is read of it: whom it was sent to, from which page, and by whom.
 * @param sessions null where nobody is asked who they are
 * @throws Problem saying why it is refused
 */
export function admit(
  asked: Asked,
  { names }: Pick<Settings, 'names'>,
  sessions: Sessions | null,
  nowMs: number,
): void {
  const { method, url, headers, from } = asked;
  const path = pathOf(url);
  if (path === null || !path.startsWith('/') || path.includes('\0'))
    throw new Problem(400, 'A value is not right', 'The path is not written as a URL writes it.', { field: 'path' });
  if (!METHODS.includes(method)) throw new Problem(405, 'Not this way', `${method} is not answered here.`);
  checkHost(headers.host, names);
  checkOrigin(method, path, headers);
  if (!sessions) return;
  const wait = sessions.waits(from, nowMs);
  const given = wait ? 'no' : sessions.admits(headers, nowMs);
  if (given === 'wrong') sessions.failed(from, nowMs);
  if (given === 'yes' || OPEN.includes(path) || path.startsWith('/_next/static/')) return;
  if (wait && headers.authorization !== undefined) throw tooOften(wait);
  throw new Problem(401, 'Sign in first', 'This server asks who you are: sign in, or send the token along.');
}

export const tooOften = (seconds: number) =>
  new Problem(429, 'Too many tries', `Too many wrong tries from here; wait ${Math.ceil(seconds / 60)} min.`, {
    retryAfter: seconds,
  });

/** A name that any web page's owner can point at this machine must not be answered. */
function checkHost(header: string | undefined, names: readonly string[]): void {
  const name = header === undefined ? null : hostOf(header);
  if (name !== null && (isLoopback(name) || names.includes(name))) return;
  throw new Problem(
    421,
    'Not this server',
    `This server does not answer to ${header === undefined ? 'a request without Host' : `“${header.slice(0, 99)}”`}; ` +
      'JUTE_GRID_HOSTS names what it answers to.',
    { field: 'Host' },
  );
}

/**
 * What another site's page sends is refused; it may only link here. A program that is no browser says neither where
 * it comes from nor to which site that belongs.
 */
function checkOrigin(method: string, path: string, headers: IncomingHttpHeaders): void {
  const refuse = (field: string, value: string) =>
    new Problem(
      403,
      'Not from there',
      `${field} is “${value.slice(0, 100)}”: only this server's own pages may ask it.`,
      {
        field,
      },
    );
  const { origin, host } = headers;
  const [site, mode] = [headers['sec-fetch-site'], headers['sec-fetch-mode']].map((v) => v && String(v));
  if (site && !['same-origin', 'none'].includes(site)) {
    const followed = method === 'GET' && mode === 'navigate' && headers['sec-fetch-dest'] === 'document';
    if (!followed || path.startsWith('/api/')) throw refuse('Sec-Fetch-Site', site);
  }
  if (origin === undefined) return;
  let own: string | null = null;
  try {
    own = new URL(origin).host.toLowerCase();
  } catch {
    // “null” is no site of ours
  }
  // 80 and 443 stand in neither of the two
  if (own !== host?.toLowerCase().replace(/:(80|443)$/, '')) throw refuse('Origin', origin);
}

import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Credentials } from './settings';

export const COOKIE = 'jute-grid-session';
/** A session ends when it was not used for so long, ms. */
const IDLE_MS = 12 * 3600 * 1000;
/** Wrong tries from one address before it has to wait, and for how long, ms. */
const MOST_TRIES = 10;
const WAIT_MS = 10 * 60 * 1000;
/** Addresses and sessions remembered; the oldest go first. */
const MOST_KEPT = 10_000;

const digest = (text: string) => createHash('sha256').update(text).digest();
/** Takes as long whatever differs, and wherever. */
const same = (a: string, b: string) => timingSafeEqual(digest(a), digest(b));

/** Signing in: by name and password or a token, with sessions that live as long as the server. */
export class Sessions {
  /** When each was used last, by the digest of its secret: what is kept is no key. */
  private readonly open = new Map<string, number>();
  private readonly tries = new Map<string, { count: number; until: number }>();

  constructor(private readonly credentials: Credentials) {}

  /** A name and a password are asked for, not a token. */
  get byName(): boolean {
    return 'user' in this.credentials;
  }

  /** What a browser must send along from now on; null when the secret is wrong. */
  signIn(given: { user?: string; password?: string; token?: string }, nowMs: number): string | null {
    if (!this.fits(given)) return null;
    const secret = randomBytes(32).toString('base64url');
    limit(this.open);
    this.open.set(digest(secret).toString('hex'), nowMs);
    return secret;
  }

  signOut(secret: string): void {
    this.open.delete(digest(secret).toString('hex'));
  }

  private fits(given: { user?: string; password?: string; token?: string }): boolean {
    const wanted = this.credentials;
    if ('token' in wanted) return same(given.token ?? given.password ?? '', wanted.token);
    // both are always compared
    const [user, password] = [same(given.user ?? '', wanted.user), same(given.password ?? '', wanted.password)];
    return user && password;
  }

  /** Whether a request's Cookie or Authorization header lets it in; “wrong” where it says something untrue. */
  admits(headers: { cookie?: string; authorization?: string }, nowMs: number): 'yes' | 'no' | 'wrong' {
    const { cookie, authorization } = headers;
    if (authorization !== undefined) return this.fits(readAuthorization(authorization)) ? 'yes' : 'wrong';
    const secret = cookie && secretIn(cookie);
    if (!secret) return 'no';
    const key = digest(secret).toString('hex');
    const used = this.open.get(key);
    if (used === undefined) return 'no';
    if (nowMs - used > IDLE_MS) {
      this.open.delete(key);
      return 'no';
    }
    this.open.set(key, nowMs);
    return 'yes';
  }

  /** Seconds an address has to wait before it may try again; 0 where it need not. */
  waits(from: string, nowMs: number): number {
    const known = this.tries.get(from);
    if (!known || known.until <= nowMs) return 0;
    return known.count >= MOST_TRIES ? Math.ceil((known.until - nowMs) / 1000) : 0;
  }

  /** Notes a wrong try. */
  failed(from: string, nowMs: number): void {
    const known = this.tries.get(from);
    const count = known && known.until > nowMs ? known.count + 1 : 1;
    this.tries.delete(from);
    limit(this.tries);
    this.tries.set(from, { count, until: nowMs + WAIT_MS });
  }
}

function limit(map: Map<string, unknown>): void {
  while (map.size >= MOST_KEPT) map.delete(map.keys().next().value!);
}

/** The session's secret among a Cookie header's pairs. */
export function secretIn(cookie: string): string | null {
  for (const pair of cookie.split(';')) {
    const [name, value] = pair.trim().split('=');
    if (name === COOKIE && value) return value;
  }
  return null;
}

function readAuthorization(header: string): { user?: string; password?: string; token?: string } {
  const [scheme, value = ''] = header.split(' ');
  if (scheme.toLowerCase() === 'bearer') return { token: value };
  if (scheme.toLowerCase() !== 'basic') return {};
  const text = Buffer.from(value, 'base64').toString('utf8');
  const at = text.indexOf(':');
  return at < 0 ? {} : { user: text.slice(0, at), password: text.slice(at + 1) };
}

/** @param secure the browser speaks HTTPS, to a proxy before */
export const cookieOf = (secret: string | null, secure: boolean): string =>
  `${COOKIE}=${secret ?? ''}; Path=/; HttpOnly; SameSite=Strict${secure ? '; Secure' : ''}` +
  (secret ? '' : '; Max-Age=0');

const holder = globalThis as typeof globalThis & { juteGridSessions?: { sessions: Sessions; secure: boolean } };

/** Of the server that runs; null where nobody is asked. The application's bundle sees what the front has set. */
export const sessions = (): { sessions: Sessions; secure: boolean } | null => holder.juteGridSessions ?? null;
export const setSessions = (value: { sessions: Sessions; secure: boolean } | null): void => {
  holder.juteGridSessions = value ?? undefined;
};

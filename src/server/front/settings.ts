import { isIP } from 'node:net';

/** Who may come in, by name and password or by one token; tokens are for programs and for a house of one. */
export type Credentials = { user: string; password: string } | { token: string };

/** How the server is reached, read from its environment once, at the start. */
export interface Settings {
  /** Address it is bound to. */
  host: string;
  port: number;
  /** Names it answers to, besides those of this machine itself. */
  names: readonly string[];
  credentials: Credentials | null;
  /** A proxy stands before it, which speaks HTTPS and says who asks. */
  behindProxy: boolean;
}

/** Too short to stand against being tried. */
const LEAST_SECRET = 12;

/** A setting that cannot be followed: said on the console, and the server does not start. */
export class SettingsError extends Error {}

/**
 * JUTE_GRID_HOST and PORT say where it listens, JUTE_GRID_HOSTS (with commas) by which names it may be called,
 * JUTE_GRID_USER and JUTE_GRID_PASSWORD, or JUTE_GRID_TOKEN, who may come in, JUTE_GRID_PROXY=1 that HTTPS ends before.
 * @throws SettingsError naming the variable, what is wrong and what would be right
 */
export function readSettings(env: Record<string, string | undefined>): Settings {
  const host = env.JUTE_GRID_HOST ?? '127.0.0.1';
  if (!isIP(host) && host !== 'localhost')
    throw new SettingsError(`JUTE_GRID_HOST is “${host}”; it must be an address such as 127.0.0.1 or 0.0.0.0.`);
  const port = Number(env.PORT ?? 4310);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new SettingsError(`PORT is “${env.PORT}”; it must be a whole number from 1 to 65535.`);
  const names = (env.JUTE_GRID_HOSTS ?? '')
    .split(',')
    .map((name) => name.trim().toLowerCase())
    .filter(Boolean);
  for (const name of names)
    if (!/^[a-z0-9.:-]+$/.test(name) || hostOf(name) !== name)
      throw new SettingsError(`JUTE_GRID_HOSTS names “${name}”; names stand without http:// and without a port.`);
  const credentials = readCredentials(env);
  if (!isLoopback(host) && !credentials)
    throw new SettingsError(
      `JUTE_GRID_HOST is ${host}, which others can reach, and nobody is asked who they are: set JUTE_GRID_USER and ` +
        'JUTE_GRID_PASSWORD, or JUTE_GRID_TOKEN; or leave JUTE_GRID_HOST at 127.0.0.1.',
    );
  const own = isIP(host) && !isLoopback(host) && !['0.0.0.0', '::'].includes(host) ? [host] : [];
  return { host, port, names: [...names, ...own], credentials, behindProxy: env.JUTE_GRID_PROXY === '1' };
}

function readCredentials(env: Record<string, string | undefined>): Credentials | null {
  const { JUTE_GRID_USER: user, JUTE_GRID_PASSWORD: password, JUTE_GRID_TOKEN: token } = env;
  const long = (name: string, secret: string) => {
    if (secret.length < LEAST_SECRET)
      throw new SettingsError(`${name} has ${secret.length} characters; it needs at least ${LEAST_SECRET}.`);
  };
  if (token && (user || password))
    throw new SettingsError('JUTE_GRID_TOKEN is set beside JUTE_GRID_USER or JUTE_GRID_PASSWORD; one of the two ways.');
  if (token) {
    long('JUTE_GRID_TOKEN', token);
    return { token };
  }
  if (!user && !password) return null;
  if (!user || !password) throw new SettingsError('JUTE_GRID_USER and JUTE_GRID_PASSWORD only go together.');
  long('JUTE_GRID_PASSWORD', password);
  return { user, password };
}

/** The name in a Host header, without its port and brackets; null where it is none. */
export function hostOf(header: string): string | null {
  const match = /^(?:\[([0-9a-fA-F:.]+)\]|([^\s:/@?#\\]+))(?::\d{1,5})?$/.exec(header);
  if (match) return (match[1] ?? match[2]).toLowerCase().replace(/\.$/, '');
  return isIP(header) === 6 ? header.toLowerCase() : null;
}

/** Names that always mean this machine. */
export const isLoopback = (name: string): boolean =>
  name === 'localhost' || name === '::1' || (isIP(name) === 4 && name.startsWith('127.'));

/** What is said at the start about who can reach it. */
export function describeReach({ host, credentials, behindProxy }: Settings): string | null {
  if (isLoopback(host)) return credentials ? 'Whoever comes is asked to sign in.' : null;
  return behindProxy
    ? 'Reached through a proxy that speaks HTTPS; whoever comes is asked to sign in.'
    : 'Whoever comes is asked to sign in. This is plain HTTP: passwords and projects can be read on the way. Put a ' +
        'proxy that speaks HTTPS before it, and set JUTE_GRID_PROXY=1.';
}

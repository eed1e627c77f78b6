import { tooOften } from '../front/admit';
import { FROM } from '../front/names';
import { cookieOf, secretIn, sessions } from '../front/sessions';
import { Problem } from './problem';

function asked() {
  const found = sessions();
  if (!found) throw new Problem(404, 'Not found', 'Nobody is asked to sign in on this server.');
  return found;
}

const withCookie = (cookie: string) => new Response(null, { status: 204, headers: { 'set-cookie': cookie } });

/** @throws Problem 401 when it does not fit, 429 after too many wrong tries from one address */
export function signIn(given: { user?: string; password?: string; token?: string }, { headers }: Request): Response {
  const { sessions: open, secure } = asked();
  const from = headers.get(FROM) ?? '';
  const wait = open.waits(from, Date.now());
  if (wait) throw tooOften(wait);
  const secret = open.signIn(given, Date.now());
  if (secret === null) {
    open.failed(from, Date.now());
    throw new Problem(401, 'That does not fit', 'The name or the password is not right.', { field: 'password' });
  }
  return withCookie(cookieOf(secret, secure));
}

export function signOut({ headers }: Request): Response {
  const { sessions: open, secure } = asked();
  const secret = secretIn(headers.get('cookie') ?? '');
  if (secret) open.signOut(secret);
  return withCookie(cookieOf(null, secure));
}

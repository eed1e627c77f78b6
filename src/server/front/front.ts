import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { MOST_DISCARDED } from '../http/body';
import { asProblem, type Problem } from '../http/problem';
import { admit, pathOf } from './admit';
import { FROM, NONCE } from './names';
import { setHeaders } from './headers';
import { plainPage } from './plainPage';
import type { Sessions } from './sessions';
import type { Settings } from './settings';

/** What is behind the front: the application, or whatever a test puts there. */
export type Behind = (request: IncomingMessage, response: ServerResponse) => unknown;

export interface Front {
  settings: Pick<Settings, 'names' | 'behindProxy'>;
  /** Null where nobody is asked who they are. */
  sessions: Sessions | null;
  behind: Behind;
  /** Asked at each request: what keeps the application from working at all. */
  trouble?: () => Problem | null;
  development?: boolean;
}

/**
 * How long a connection with nothing under way is kept open, ms: longer than callers and proxies keep theirs (mostly a
 * minute), or a call may meet one that is just being let go of.
 */
const KEPT_OPEN = 65_000;

/** The one door: no page, file or call is reached but through it. */
export function createFront({ settings, sessions, behind, trouble, development }: Front): Server {
  return createServer({ keepAliveTimeout: KEPT_OPEN }, (request, response) => {
    const { method = 'GET', url = '/', headers } = request;
    const nonce = randomBytes(16).toString('base64');
    setHeaders(response, pathOf(url) ?? '/api/', nonce, development);
    const from = addressOf(request, settings.behindProxy);
    try {
      admit({ method, url, headers, from }, settings, sessions, Date.now());
      const found = trouble?.();
      if (found) throw found;
    } catch (error) {
      const problem = asProblem(error);
      return letRunAway(request, () => refuse(request, response, problem, nonce));
    }
    if (!settings.behindProxy)
      for (const name of Object.keys(headers)) if (/^(x-)?forwarded/.test(name)) delete headers[name];
    headers[FROM] = from;
    headers[NONCE] = nonce;
    // where the application looks for the nonce of its own scripts
    headers['content-security-policy'] = String(response.getHeader('content-security-policy'));
    void behind(request, response);
  });
}

function addressOf({ socket, headers }: IncomingMessage, behindProxy: boolean): string {
  const forwarded = behindProxy ? headers['x-forwarded-for'] : undefined;
  // the last is the one the proxy itself has seen
  return (forwarded && String(forwarded).split(',').at(-1)!.trim()) || (socket.remoteAddress ?? '');
}

/** A refused body is let run away no longer than this, ms. */
const MOST_WAITED = 5000;

function letRunAway(request: IncomingMessage, then: () => void): void {
  let bytes = 0;
  const timer = setTimeout(() => done(), MOST_WAITED);
  const done = () => {
    clearTimeout(timer);
    request.removeAllListeners('data').removeListener('end', done).removeListener('close', done);
    then();
  };
  request.on('data', (chunk: Buffer) => {
    bytes += chunk.length;
    if (bytes > MOST_DISCARDED) done();
  });
  request.once('end', done).once('close', done);
}

function refuse(request: IncomingMessage, response: ServerResponse, problem: Problem, nonce: string): void {
  const { status, title, detail, extra } = problem;
  const { accept = '' } = request.headers;
  const { url = '/' } = request;
  if (!request.complete) response.setHeader('connection', 'close');
  if (typeof extra.retryAfter === 'number') response.setHeader('retry-after', extra.retryAfter);
  const page = accept.includes('text/html') && !url.startsWith('/api/');
  if (page && status === 401) {
    const to = url === '/' ? '' : `?to=${encodeURIComponent(url)}`;
    response.writeHead(303, { location: `/sign-in${to}` }).end();
  } else if (page) {
    response.writeHead(status, { 'content-type': 'text/html; charset=utf-8' });
    response.end(plainPage(title, detail, nonce));
  } else {
    response.writeHead(status, { 'content-type': 'application/problem+json' });
    response.end(JSON.stringify({ type: 'about:blank', status, title, detail, ...extra }));
  }
}

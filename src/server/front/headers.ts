import type { ServerResponse } from 'node:http';

/** Where scripts, pictures and everything else of a page may come from. */
export function pagePolicy(nonce: string, development = false): string {
  const allowed: Record<string, string[]> = {
    'default-src': ["'none'"],
    // decoders of compressed meshes are WebAssembly
    'script-src': ["'self'", `'nonce-${nonce}'`, "'wasm-unsafe-eval'", ...(development ? ["'unsafe-eval'"] : [])],
    'worker-src': ["'self'", 'blob:'],
    'style-src-elem': ["'self'", `'nonce-${nonce}'`, ...(development ? ["'unsafe-inline'"] : [])],
    'style-src-attr': ["'unsafe-inline'"],
    'img-src': ["'self'", 'blob:', 'data:'],
    'font-src': ["'self'"],
    'connect-src': ["'self'", 'blob:', ...(development ? ['ws:'] : [])],
    'manifest-src': ["'self'"],
    'form-action': ["'self'"],
    'base-uri': ["'none'"],
    'frame-ancestors': ["'none'"],
  };
  return Object.entries(allowed)
    .map(([what, from]) => `${what} ${from.join(' ')}`)
    .join('; ');
}

/** What the API answers is data: whatever is in it, nothing of it runs. */
const DATA_POLICY = "default-src 'none'; frame-ancestors 'none'; sandbox";

/** On every answer: pages, pictures, files, refusals. */
export function setHeaders(response: ServerResponse, path: string, nonce: string, development = false): void {
  const data = path.startsWith('/api/');
  const headers: Record<string, string> = {
    'content-security-policy': data ? DATA_POLICY : pagePolicy(nonce, development),
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'no-referrer',
    'cross-origin-resource-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'permissions-policy': 'camera=(), microphone=(), geolocation=()',
  };
  for (const [name, value] of Object.entries(headers)) response.setHeader(name, value);
}

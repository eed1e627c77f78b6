/** A problem the server answered with: a sentence people can act on, and the field it is about. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly body: Record<string, unknown>,
  ) {
    super(detail);
  }
}

async function answer<T>(response: Response): Promise<T> {
  if (response.status === 204) return undefined as T;
  const body = (await response.json().catch(() => ({}))) as Record<string, unknown>;
  if (response.ok) return body as T;
  throw new ApiProblem(
    response.status,
    String(body.title ?? 'Something went wrong'),
    String(body.detail ?? `The server answered ${response.status}.`),
    body,
  );
}

async function send<T>(method: string, url: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  try {
    const response = await fetch(url, {
      method,
      signal,
      ...(body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
    return await answer<T>(response);
  } catch (error) {
    if (error instanceof ApiProblem || (error as Error).name === 'AbortError') throw error;
    throw new ApiProblem(0, 'No answer', 'The server does not answer. Nothing is lost; try again in a moment.', {});
  }
}

export const api = {
  get: <T>(url: string, signal?: AbortSignal) => send<T>('GET', url, undefined, signal),
  post: <T>(url: string, body?: unknown) => send<T>('POST', url, body ?? {}),
  patch: <T>(url: string, body: unknown) => send<T>('PATCH', url, body),
  delete: (url: string) => send<void>('DELETE', url),
};

/** Sends files with progress; XMLHttpRequest, because fetch does not tell how much has gone. */
export function sendFiles<T>(
  url: string,
  files: File[],
  fields: Record<string, string>,
  progress: (share: number) => void,
  signal?: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const form = new FormData();
    for (const [name, value] of Object.entries(fields)) form.append(name, value);
    for (const file of files) form.append('files', file, pathOf(file));
    const request = new XMLHttpRequest();
    request.open('POST', url);
    request.upload.onprogress = (e) => progress(e.lengthComputable ? e.loaded / e.total : 0);
    request.onload = () => {
      const headers = { 'content-type': 'application/json' };
      answer<T>(new Response(request.responseText, { status: request.status, headers })).then(resolve, reject);
    };
    request.onerror = () =>
      reject(new ApiProblem(0, 'No answer', 'The connection broke off while sending. Try again.', {}));
    request.onabort = () => reject(new DOMException('Cancelled', 'AbortError'));
    signal?.addEventListener('abort', () => request.abort());
    request.send(form);
  });
}

/** A dropped folder's inner path where there is one. */
function pathOf(file: File): string {
  const path = (file as File & { path?: string }).path ?? file.webkitRelativePath;
  return (path || file.name).replace(/^\.?\//, '');
}

export const imageUrl = (hash: string, size?: number): string => `/api/images/${hash}${size ? `?size=${size}` : ''}`;

/** Word for word what a person should read of any error. */
export const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

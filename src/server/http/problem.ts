import { CommandError } from '@/core/history/commandError';
import { ImportError } from '@/core/mesh/types';

/** An error a client can act on, answered as application/problem+json. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly extra: Record<string, unknown> = {},
  ) {
    super(detail);
    this.name = 'Problem';
  }
}

export const notFound = (what: string, id: string) => new Problem(404, 'Not found', `There is no ${what} “${id}”.`);
export const badField = (field: string, detail: string) => new Problem(400, 'A value is not right', detail, { field });

/** Turns whatever was thrown into an answer; what nobody foresaw is logged and answered without its insides. */
export function problemResponse(error: unknown): Response {
  const problem = asProblem(error);
  return Response.json(
    { type: 'about:blank', status: problem.status, title: problem.title, detail: problem.detail, ...problem.extra },
    {
      status: problem.status,
      headers: {
        'content-type': 'application/problem+json',
        ...(typeof problem.extra.retryAfter === 'number' ? { 'retry-after': String(problem.extra.retryAfter) } : {}),
      },
    },
  );
}

export function asProblem(error: unknown): Problem {
  if (error instanceof Problem) return error;
  if (error instanceof CommandError)
    return new Problem(422, 'The change does not fit', error.message, { field: error.field });
  if (error instanceof ImportError) {
    return new Problem(422, 'The file cannot come in', error.message, {
      file: error.file,
      reason: error.reason,
      field: 'files',
    });
  }
  const code = (error as NodeJS.ErrnoException | null)?.code;
  if (code === 'EROFS' || code === 'SQLITE_READONLY') {
    return new Problem(503, 'It cannot be stored', 'The data folder cannot be written to; nothing was changed.');
  }
  if (code === 'ENOSPC' || code === 'EDQUOT' || code === 'SQLITE_FULL') {
    return new Problem(507, 'The disk is full', 'There is no room left in the data folder; nothing was changed.');
  }
  console.error(error);
  return new Problem(500, 'Something went wrong', 'The server met an error it did not foresee; nothing was changed.');
}

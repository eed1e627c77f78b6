import { baseRevisionOf } from '@/server/baseRevision';
import { route } from '@/server/problem';
import { undoProject } from '@/server/projects';

type Context = { params: Promise<{ id: string }> };

export const POST = route<Context>(async (request, { params }) =>
  Response.json(await undoProject((await params).id, await baseRevisionOf(request))),
);

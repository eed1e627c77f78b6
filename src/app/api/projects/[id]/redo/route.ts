import { baseRevisionOf } from '@/server/http/baseRevision';
import { route } from '@/server/http/problem';
import { redoProject } from '@/server/store/projects';

type Context = { params: Promise<{ id: string }> };

export const POST = route<Context>(async (request, { params }) =>
  Response.json(await redoProject((await params).id, await baseRevisionOf(request))),
);

import { cancelJob, readJob } from '@/server/jobs/jobs';
import { route } from '@/server/http/problem';

type Context = { params: Promise<{ id: string }> };

export const GET = route<Context>(async (_request, { params }) => Response.json(await readJob((await params).id)));

export const DELETE = route<Context>(async (_request, { params }) => {
  await cancelJob((await params).id);
  return new Response(null, { status: 204 });
});

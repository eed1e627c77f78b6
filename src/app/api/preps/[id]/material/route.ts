import { startPrep } from '@/server/jobs/jobs';
import { route } from '@/server/http/problem';

type Context = { params: Promise<{ id: string }> };

/** Does all steps at full size and puts the material into the library. */
export const POST = route<Context>(async (_request, { params }) =>
  Response.json(await startPrep((await params).id), { status: 202 }),
);

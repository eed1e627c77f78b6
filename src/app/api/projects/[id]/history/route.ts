import { Type } from '@sinclair/typebox';
import { route } from '@/server/http/problem';
import { goTo, listHistory } from '@/server/store/projects';
import { check, readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };
const Body = Type.Object(
  { baseRevision: Type.Integer({ minimum: 0 }), entry: Type.Union([Type.String(), Type.Null()]) },
  { additionalProperties: false },
);

export const GET = route<Context>(async (_request, { params }) => Response.json(await listHistory((await params).id)));

/** Goes to an entry; null is the start. */
export const POST = route<Context>(async (request, { params }) => {
  const { baseRevision, entry } = check(Body, await readJson(request));
  return Response.json(await goTo((await params).id, baseRevision, entry));
});

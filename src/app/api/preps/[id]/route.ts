import { Type } from '@sinclair/typebox';
import { PrepChange } from '@/core/prep/schema';
import { deletePrep, editPrep, readPrep } from '@/server/prep/preps';
import { route } from '@/server/http/problem';
import { check, readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };
const Body = Type.Object(
  { baseRevision: Type.Integer({ minimum: 0 }), ...PrepChange.properties },
  { additionalProperties: false },
);

export const GET = route<Context>(async (_request, { params }) => Response.json(await readPrep((await params).id)));

export const PATCH = route<Context>(async (request, { params }) => {
  const { baseRevision, ...change } = check(Body, await readJson(request));
  return Response.json(await editPrep((await params).id, baseRevision, change));
});

export const DELETE = route<Context>(async (_request, { params }) => {
  await deletePrep((await params).id);
  return new Response(null, { status: 204 });
});
